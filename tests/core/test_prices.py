"""Single prices and facts of a plan against what they are defined by."""

from __future__ import annotations

from math import log2
from typing import Any

import numpy as np
import pytest

from steady_tide import library
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.items.framing import pan_allowed_deg_s
from steady_tide.core.planning.situation import situation
from tests.briefs import DIVE_LAMP, SUN, brief, decided, decided_on_limpet

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
