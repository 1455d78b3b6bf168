"""Lamps by what they are there for: which light is exposed for, and how bright each should be."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from steady_tide import library
from steady_tide.core.light.pictures import lamps_picture
from steady_tide.core.light.resolving import resolve
from steady_tide.core.light.roles import key_of, on_subject, ratios
from steady_tide.core.light.sources import Lamp, LampLight
from tests.briefs import TABLE_LAMP, decided

KNOWN = library.knowledge()


def lamp(distance_m: float, role: str | None = None, kelvin: int = 5500) -> dict[str, Any]:
    return {"lux_at_1m": 1000, "distance_m": distance_m, "role": role, "kelvin": kelvin}


def lit(*lamps: dict[str, Any]) -> LampLight:
    return LampLight.model_validate({"kind": "lamps", "lamps": lamps})


def test_the_key_is_what_is_said_or_the_strongest_that_lights_the_subject() -> None:
    unsaid = lit(lamp(2), lamp(1)).lamps
    assert key_of(unsaid) is unsaid[1]
    said = lit(lamp(2, "key"), lamp(1, "fill")).lamps
    assert key_of(said) is said[0]
    edge = lit(lamp(2), lamp(1, "separation")).lamps
    assert key_of(edge) is edge[0]
    assert on_subject(lit(lamp(1, "background")).lamps), "a lone lamp lights what is there"


def test_edge_and_ground_do_not_light_what_is_exposed_for() -> None:
    alone = resolve(lit(lamp(1, "key")), KNOWN.world)
    more = resolve(lit(lamp(1, "key"), lamp(0.5, "separation"), lamp(1, "background", 12_000)), KNOWN.world)
    assert more.ev100 == alone.ev100
    assert more.mixed_mireds == 0.0, "a coloured ground is meant"
    assert resolve(lit(lamp(1, "key"), lamp(1, "fill", 3200)), KNOWN.world).mixed_mireds > 100


@pytest.mark.parametrize("away", [1.0, 1.4, 2.0, 3.0])
def test_the_dark_side_gets_the_fill(away: float) -> None:
    light = lit(lamp(1, "key"), lamp(away, "fill"))
    low, high = resolve(light, KNOWN.world).ev100
    fill = 1000 / away**2
    assert high - low == pytest.approx(np.log2((1000 + fill) / fill))
    picture = lamps_picture(light, KNOWN.world, None)
    assert picture.key_to_fill_stops == pytest.approx(high - low)


def test_each_lamp_is_held_against_the_key_and_told_where_it_should_stand() -> None:
    found = ratios(lit(lamp(1, "key"), lamp(1, "fill"), lamp(4, "background")).lamps, KNOWN.limits)
    assert [(ratio.role, round(ratio.stops, 2)) for ratio in found] == [("fill", 0.0), ("background", -4.0)]
    assert found[0].off_stops == pytest.approx(0.8)
    assert found[1].off_stops == pytest.approx(-1.0)
    table = {"scenario": "product", "camera_move": {"mount": "tripod"}, "subject": {"distance_m": [0.9, 1.1]}}
    made = decided(**table, light={"kind": "lamps", "lamps": [lamp(1, "key"), lamp(1, "fill")]})
    warned = next(warning for warning in made.warnings if warning.code == "lamp_ratio")
    moved = Lamp.model_validate(lamp(warned.facts["to_m"], "fill"))
    assert np.log2(moved.lux / 1000) == pytest.approx(KNOWN.limits.fill_to_stops, abs=1e-6), "and it is right there"
    well = decided(**table, light={"kind": "lamps", "lamps": [lamp(1, "key"), lamp(1.6, "fill")]})
    assert "lamp_ratio" not in {warning.code for warning in well.warnings}


def warned(**fields: Any) -> dict[str, dict[str, Any]]:
    return {warning.code: warning.facts for warning in decided(**fields).warnings}


HOUSE = {"lux_at_1m": 60, "distance_m": 2.0, "kelvin": 2700, "ripple": 0.2}  # no lamp of the demo kit


def test_lamps_of_a_house_are_nobodys_to_move() -> None:
    room = {"scenario": "low_light", "camera_move": {"mount": "two_hands"}, "subject": {"distance_m": [2, 4]}}
    house = warned(**room, light={"kind": "lamps", "lamps": [HOUSE]})
    assert not {"light_missing", "light_at_base", "lamp_ratio"} & set(house)
    said = warned(**room, light={"kind": "lamps", "lamps": [{**HOUSE, "ours": True}]})
    assert "light_missing" in said, "who may move it is told how near"
    table = {"scenario": "product", "camera_move": {"mount": "tripod"}, "subject": {"distance_m": [0.5, 0.7]}}
    own = warned(**table, light={"kind": "lamps", "lamps": [HOUSE]})
    assert "light_missing" in own or "light_at_base" in own, "at a table one owns the light"
    fixed = warned(**table, light={"kind": "lamps", "lamps": [{**HOUSE, "ours": False}]})
    assert not {"light_missing", "light_at_base"} & set(fixed)


def test_only_the_lamps_that_may_be_moved_are_moved() -> None:
    """A strong lamp that stays gives most of the light; what is missing has to come from the other one."""
    table = {
        "scenario": "product",
        "camera_move": {"mount": "tripod"},
        "subject": {"distance_m": [0.5, 0.7], "motion_look": "frozen", "speed_m_s": 1},
    }
    ours, house = (
        {**TABLE_LAMP, "lux_at_1m": 300, "distance_m": 1.4},
        {**TABLE_LAMP, "lux_at_1m": 600, "distance_m": 0.9, "ours": False},
    )
    facts = warned(**table, light={"kind": "lamps", "lamps": [ours, house]})
    lacks = facts.get("light_missing") or facts["light_at_base"]
    assert lacks["from_m"] == 1.4
    lit = 300 / 1.4**2 + 600 / 0.9**2
    after = 300 / lacks["to_m"] ** 2 + 600 / 0.9**2
    assert np.log2(after / lit) == pytest.approx(lacks["missing_stops"], abs=0.01)


def test_where_nothing_is_short_no_lamp_is_advised() -> None:
    table = {
        "scenario": "product",
        "camera_move": {"mount": "tripod"},
        "subject": {"distance_m": [0.9, 1.1], "size_m": 0.25},
    }
    for stops in np.arange(-4, 5):
        lamp = {**TABLE_LAMP, "lux_at_1m": float(905 * 2.0**stops)}
        made = decided(**table, light={"kind": "lamps", "lamps": [lamp]})
        codes = {warning.code for warning in made.warnings}
        short = {item.item for item in made.ledger if item.stops >= 0.3} & {"under", "noise", "motion_look", "smear"}
        assert ("light_at_base" not in codes and "light_missing" not in codes) or short, stops
