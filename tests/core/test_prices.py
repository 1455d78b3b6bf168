"""Single prices and facts of a plan against what they are defined by."""

from __future__ import annotations

import json
from math import log2
from typing import Any

import numpy as np
import pytest

from steady_tide import library
from steady_tide.core.light.pictures import SHALLOWEST_PICTURE_M, water_picture
from steady_tide.core.light.sources import WaterLight
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.items.framing import pan_allowed_deg_s
from steady_tide.core.planning.settings_code import settings_code
from steady_tide.core.planning.situation import situation
from steady_tide.core.planning.slow_motion import slow_rates
from steady_tide.core.quantities.palette import contrast_ratio
from tests.briefs import DIVE_LAMP, NOON, SUN, brief, decided, decided_on_limpet

KNOWN = library.knowledge()


@pytest.mark.parametrize(
    ("delivery", "speed", "fastest"),
    [
        ({"fps": 24}, 0.0, 10.0),
        ({"fps": 48}, 0.0, 20.0),
        ({"fps": 24, "slow_factor": 4}, 0.0, 40.0),
        ({"fps": 24}, 1.0, 20.0),
    ],
)
def test_what_stands_takes_seven_seconds_to_cross_the_frame(
    delivery: dict[str, Any], speed: float, fastest: float
) -> None:
    """At a cinema's rate; twice as fast behind a subject that is followed, and as much faster as it is slowed later."""
    at = situation(brief(delivery=delivery, subject={"speed_m_s": speed}), KNOWN, USUAL)
    assert pan_allowed_deg_s(at, np.array([70.0])) == pytest.approx(fastest)


def test_lamps_that_are_strong_near_and_weak_far_are_told_by_the_square_law() -> None:
    made = decided(
        scenario="underwater",
        light={
            "kind": "water", "surface": {"kind": "place", "place": "starlight"}, "depth_m": [10, 12], "water_type": "1C",
            "lamps": [{**DIVE_LAMP, "far_m": 2.0}],
        },
        subject={"distance_m": [0.5, 2.0]},
        camera_move={"mount": "tray"},
    )  # fmt: skip
    (note,) = [warning for warning in made.warnings if warning.code == "lamps_dim_near"]
    assert note.facts["apart_stops"] == pytest.approx(2.0 * log2(2.0 / 0.8), abs=0.02)


@pytest.mark.parametrize(("frame", "shape"), [("3840x2160", "9:16"), ("3840x2160", "1:1")])
def test_another_shape_that_is_cut_from_a_take_keeps_too_little_of_it(frame: str, shape: str) -> None:
    """Of a frame 16 by 9 an upright cut keeps 9/16 of 9/16, a square one 9/16; less than the share asked for costs its stops."""
    wide, high = (int(part) for part in shape.split(":"))
    across, up = (int(part) for part in frame.split("x"))
    share = up * min(1.0, wide / high) / across
    made = decided_on_limpet(light=SUN, delivery={"reframe": [shape]}, pins={"frame": frame})
    wanted = max(0.0, log2(KNOWN.limits.reframe_share / share))
    narrow = max(0.0, log2(KNOWN.limits.upright_long_side_px / up)) if high >= wide else 0.0
    given_up = {entry.item: entry.stops for entry in made.ledger}
    assert given_up.get("reframe", 0.0) == pytest.approx(max(wanted, narrow), abs=1e-6)


def test_a_rate_slows_by_as_much_as_it_has_frames() -> None:
    found = slow_rates((25.0, 50.0, 100.0, 120.0), 25.0, None)
    assert [entry.factor for entry in found] == pytest.approx([1.0, 2.0, 4.0, 4.8])


def test_a_light_that_is_shorter_than_its_film_is_told_in_hours() -> None:
    sky = {**NOON, "start": "2026-10-11T16:30:00Z", "end": "2026-10-11T16:40:00Z"}
    take = {"length_s": 3 * 3600, "count": 1}
    made = decided_on_limpet(scenario="lapse", camera_move={"mount": "tripod"}, take=take, light=sky)
    (warned,) = [warning for warning in made.warnings if warning.code == "light_span"]
    assert warned.facts["given_h"] == pytest.approx(1.0 / 6.0)
    assert warned.facts["film_h"] == pytest.approx(3.0)


def test_a_settings_code_keeps_letters_and_rounds_what_no_camera_tells_apart() -> None:
    what = brief(title="Möwe am Priel", pins={"shutter_s": 1 / 96, "camera": "limpet-7"})
    code = settings_code(what, decided(title="Möwe am Priel", pins={"shutter_s": 1 / 96, "camera": "limpet-7"}))
    assert '"Möwe am Priel"' in code
    assert json.loads(code)["settings"]["shutter_s"] == 0.0104167


@pytest.mark.parametrize(
    ("one", "other", "ratio"),
    [("#000000", "#ffffff", 21.0), ("#767676", "#ffffff", 4.54), ("#0000ff", "#ffffff", 8.59)],
)
def test_contrast_is_that_of_the_guidelines(one: str, other: str, ratio: float) -> None:
    assert contrast_ratio(one, other) == pytest.approx(ratio, abs=0.01)


@pytest.mark.parametrize(("deepest_m", "shown_m"), [(20.0, 28.0), (0.5, SHALLOWEST_PICTURE_M)])
def test_the_picture_of_a_water_goes_some_way_below_the_shot(deepest_m: float, shown_m: float) -> None:
    light = WaterLight.model_validate(
        {"kind": "water", "surface": SUN, "depth_m": [0.0, deepest_m], "water_type": "1C", "lamps": []}
    )
    drawn = water_picture(light, KNOWN.world, (1.0, 1.0), ())
    assert (drawn.depth_m[0], drawn.depth_m[-1]) == (0.0, pytest.approx(shown_m))
