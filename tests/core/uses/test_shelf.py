"""The shelf, and habits: every use is judged, every advice has its reason."""

from __future__ import annotations

from datetime import UTC, datetime

import pytest

from steady_tide import library
from steady_tide.core.brief.brief import Brief
from steady_tide.core.light.sources import PlaceLight, WaterLight
from steady_tide.core.uses.habits import HabitKind, habits_of
from steady_tide.core.uses.use import brief_for, light_here
from tests.checks import at_least_one

SHELF, HABITS, KIT = library.uses(), library.habits(), library.demo_kit()


def test_every_use_stands_in_the_panel_and_asks_for_places_that_there_are() -> None:
    judged = {entry.id.removeprefix("uses/") for entry in library.panel() if entry.id.startswith("uses/")}
    assert judged == set(SHELF)
    assert len(SHELF) >= 24
    places = library.knowledge().places
    for use in SHELF.values():
        assert use.says.endswith(".")
        assert set(use.asks) <= set(places)
        assert use.asks
        assert use.per_year > 0


def test_a_shot_takes_the_light_of_its_place_and_keeps_water_and_lamps() -> None:
    dusk = light_here("sunset", None, None, None, 60.0)
    walk = brief_for(SHELF["everyday_walk"], "Along the quay", dusk, 60)
    assert (walk.title, walk.light, walk.mains_hz) == ("Along the quay", PlaceLight(kind="place", place="sunset"), 60)
    dive = brief_for(SHELF["dive_lamps"], "Wreck", dusk, 50)
    assert isinstance(dive.light, WaterLight)
    assert dive.light.surface == dusk
    assert dive.light.lamps
    assert brief_for(SHELF["table_still"], "Jar", dusk, 50).light == SHELF["table_still"].brief.light
    assert brief_for(SHELF["night_sky"], "Stars", None, 50).light == SHELF["night_sky"].brief.light
    at = datetime(2026, 10, 18, 9, tzinfo=UTC)
    sky = light_here(None, 52.06, 1.31, at, 30.0)
    assert sky is not None
    assert sky.kind == "sky"
    assert light_here(None, 52.06, None, at, 30.0) is None


def briefs(*names: str) -> list[tuple[Brief, float]]:
    return [(SHELF[name].brief, SHELF[name].per_year) for name in names]


def advised(camera: str, *names: str) -> dict[str, tuple[str | None, bool, str]]:
    sheet = KIT.camera(camera)
    assert sheet is not None
    return {one.id: (one.value, one.known, one.words) for one in habits_of(HABITS, sheet, briefs(*names), 60)}


def test_habits_follow_what_is_filmed() -> None:
    still, ride = advised("limpet-7", "everyday_walk"), advised("limpet-7", "pov_ride", "handlebar_ride")
    assert still["quick_start"][0] == "off"
    assert ride["quick_start"][0] == "on"
    assert still["mains"][0] == "60", "it follows the mains where one films"
    assert advised("yawl-12", "night_sky")["sleep"][0] == "never"
    assert "format" not in still
    assert advised("yawl-12", "clouds")["format"] == ("stills", True, "as stills"), "in the camera's own words"


def test_what_a_sheet_does_not_tell_is_unknown_and_what_it_does_not_offer_is_said() -> None:
    assert not advised("turnstone", "freestyle_drone")["beeps"][1]
    assert advised("limpet-7", "everyday_walk")["exposure_aid"][1] is False
    never = advised("cockle-3", "clouds")["sleep"]
    assert never == (None, True, "not on this camera")


def test_habits_of_a_sheet_are_habits_that_there_are() -> None:
    for habit in at_least_one(habit for sheet in KIT.cameras for habit in sheet.habits):
        assert habit.id in HABITS, habit.id
        assert set(habit.values) <= set(HABITS[habit.id].options), habit.id


def test_advice_that_is_no_option_is_refused() -> None:
    with pytest.raises(ValueError, match="has no option 'loud'"):
        HabitKind(id="beeps", name="beeps", options={"off": "off"}, usual="loud", why="")


@pytest.mark.parametrize("kind", HABITS)
def test_every_advice_says_why(kind: str) -> None:
    found = HABITS[kind]
    for why in (found.why, *(case.why for case in found.cases)):
        assert why.endswith(".")
