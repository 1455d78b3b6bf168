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
from tests.briefs import decided

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
    assert np.log2(moved.lux / 1000) == pytest.approx(KNOWN.limits["fill_to_stops"], abs=1e-6), "and it is right there"
    well = decided(**table, light={"kind": "lamps", "lamps": [lamp(1, "key"), lamp(1.6, "fill")]})
    assert "lamp_ratio" not in {warning.code for warning in well.warnings}
