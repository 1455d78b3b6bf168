"""A brief that turns into another kind of shot gets a light that fits it, and keeps the rest where it can."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any

import pytest

from steady_tide import library
from steady_tide.core.brief.brief import Brief
from steady_tide.core.brief.scenarios import SkyHere, turned
from steady_tide.core.planning.planner import plan
from steady_tide.core.quantities.errors import BadBrief
from tests.briefs import ALL_KINDS, NOON, brief

KNOWN, KIT = library.knowledge(), library.demo_kit()
HERE = SkyHere(52.06, 1.31, datetime(2026, 10, 11, 15, 30, tzinfo=UTC))


def turn(what: Brief, kind: str, here: SkyHere | None = None) -> Brief:
    return turned(what, kind, KIT, KNOWN.scenarios, KNOWN.places, here)


def lit(place: str) -> Brief:
    return brief(light={"kind": "place", "place": place})


@pytest.mark.parametrize("place", ["full_sun", "sunset", "open_shade"])
def test_low_light_does_not_keep_the_day(place: str) -> None:
    assert turn(lit(place), "low_light").light.place == "lamp_lit_road"  # type: ignore[union-attr]
    assert turn(brief(light=NOON), "low_light").light.kind == "place"


@pytest.mark.parametrize("place", ["stage", "starlight", "room_in_the_evening", "pool_hall"])
def test_a_light_that_fits_stays(place: str) -> None:
    assert turn(lit(place), "low_light").light == lit(place).light


def test_water_lies_under_the_sky_or_in_a_pool_hall_and_a_table_is_lit_by_lamps() -> None:
    for place, above in (("stage", "full_sun"), ("starlight", "starlight"), ("pool_hall", "pool_hall")):
        assert turn(lit(place), "underwater").light.surface.place == above  # type: ignore[union-attr]
    assert turn(lit("full_sun"), "product").light.kind == "lamps"


def test_a_long_film_is_lit_by_the_sky_as_it_goes_where_that_is_known() -> None:
    film = turn(lit("full_sun"), "lapse", HERE)
    assert film.light.kind == "sky"
    assert film.light.start == HERE.starts_at
    assert film.light.end - film.light.start == timedelta(seconds=film.take.length_s)
    assert turn(lit("full_sun"), "lapse").light == lit("sunset").light, "where nobody knows the place"
    assert turn(lit("starlight"), "lapse", HERE).light == lit("starlight").light


@pytest.mark.parametrize("kind", KNOWN.scenarios)
@pytest.mark.parametrize("name", ALL_KINDS)
def test_whatever_turns_into_whatever_can_be_planned(name: str, kind: str) -> None:
    before: dict[str, Any] = ALL_KINDS[name]
    after = turn(brief(**before), kind, HERE)
    assert after.scenario == kind
    assert after.title == "test"
    assert plan(after, KIT, KNOWN, schools=False).settings


def test_a_kind_that_is_not_there_is_told() -> None:
    with pytest.raises(BadBrief, match="no scenario 'opera'"):
        turn(lit("full_sun"), "opera")
