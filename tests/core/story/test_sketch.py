"""Framings to scale: against projection formulas, by hand and by rotation matrices."""

from __future__ import annotations

from math import atan, degrees, hypot, radians, sin, tan

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from steady_tide.core.physics.optics import width_at_m
from steady_tide.core.story.shadow import SunAt, own_shadow, upright_field_deg
from steady_tide.core.story.sketch import View, aimed, crop_of, sideways_m, sketch_of

WIDE = View(78.0, "linear", 16 / 9)


def test_a_person_at_its_distance_is_as_high_as_the_formula_says() -> None:
    sketch = sketch_of(WIDE, 10.0, (0.5, 1.7), 0.0, (), (0.5, None))
    high = 2.0 * 10.0 * tan(radians(78.0) / 2.0) / (16 / 9)
    assert sketch.fills == pytest.approx(1.7 / high)
    assert sketch.subject[2] == pytest.approx(0.5 / float(width_at_m(10.0, 78.0)))
    # The camera at 1.6 m looks level: the horizon is in the middle, the feet 1.6 m below it.
    assert sketch.horizon[len(sketch.horizon) // 2][1] == pytest.approx(0.5, abs=1e-4)
    assert sketch.subject[1] + sketch.subject[3] == pytest.approx(0.5 + 1.6 / high)


def test_the_subject_stands_where_it_was_put() -> None:
    for projection in ("linear", "equidistant"):
        view = View(90.0, projection, 16 / 9)  # type: ignore[arg-type]
        for across in (-0.66, 0.0, 0.33, 0.9):
            box = sketch_of(view, 8.0, (0.01, 0.01), across, (), (0.5, None), stands_m=1.6).subject
            assert box[0] + box[2] / 2.0 == pytest.approx(0.5 + across / 2.0, abs=2e-3)


@given(
    st.floats(20.0, 140.0),
    st.sampled_from(["linear", "equidistant"]),
    st.floats(-60.0, 60.0),
    st.floats(-5.0, 5.0),
    st.floats(-3.0, 3.0),
    st.floats(0.5, 50.0),
)
def test_points_land_where_a_rotated_camera_sees_them(
    field: float, projection: str, pitch: float, right: float, up: float, ahead: float
) -> None:
    view = View(field, projection, 1.5, pitch_deg=pitch)  # type: ignore[arg-type]
    tilt = radians(pitch)
    turned = np.array([[1, 0, 0], [0, np.cos(tilt), -np.sin(tilt)], [0, np.sin(tilt), np.cos(tilt)]]) @ [
        right,
        up,
        ahead,
    ]
    found = view.point(right, up, ahead)
    if projection == "linear" and turned[2] <= 1e-9:
        assert found is None
        return
    assert found is not None
    off = hypot(turned[0], turned[1])
    angle = degrees(np.arctan2(off, turned[2]))
    reach = tan(radians(field / 2)) if projection == "linear" else field / 2
    radius = (off / turned[2] if projection == "linear" else angle) / reach
    x, y = (0.0, 0.0) if off == 0 else (radius * turned[0] / off, radius * turned[1] / off)
    assert found[0] == pytest.approx(0.5 + x / 2, abs=1e-6)
    assert found[1] == pytest.approx(0.5 - y * 1.5 / 2, abs=1e-6)


def test_a_thing_is_aimed_at() -> None:
    view = aimed(WIDE, 2.0, 0.2, 0.9)
    box = sketch_of(view, 2.0, (0.3, 0.2), 0.0, (), (0.1, None), stands_m=0.9).subject
    assert box[1] + box[3] / 2.0 == pytest.approx(0.5, abs=2e-3)
    assert view.pitch_deg == pytest.approx(degrees(atan((0.9 + 0.1 - 1.6) / 2.0)))


def test_the_upright_cut_follows_the_subject_and_says_when_it_loses_it() -> None:
    crop = crop_of(16 / 9, "9:16", (0.6, 0.2, 0.1, 0.5))
    assert crop.box[2] == pytest.approx((9 / 16) / (16 / 9))
    assert crop.box[0] + crop.box[2] / 2.0 == pytest.approx(0.65)
    assert crop.whole
    assert not crop_of(16 / 9, "9:16", (0.2, 0.2, 0.6, 0.5)).whole
    at_edge = crop_of(16 / 9, "9:16", (0.95, 0.2, 0.2, 0.5))
    assert at_edge.box[0] + at_edge.box[2] == pytest.approx(1.0)
    assert at_edge.whole, "what the frame itself cuts off is not the cut's doing"
    assert crop_of(9 / 16, "16:9", (0.4, 0.4, 0.1, 0.1)).box[3] == pytest.approx((9 / 16) / (16 / 9))


def test_where_the_frame_cuts_the_subject_is_told() -> None:
    near = sketch_of(WIDE, 0.8, (0.5, 1.7), 0.0, (), (0.3, None))
    assert near.cut == ("bottom",)
    assert sketch_of(WIDE, 10.0, (0.5, 1.7), -1.0, (), (0.5, None)).cut == ("left",)


def test_out_of_focus_is_told() -> None:
    sketch = sketch_of(WIDE, 10.0, (0.5, 1.7), 0.0, (), (1.0, 6.0), foreground_m=0.5)
    assert (sketch.subject_sharp, sketch.foreground_sharp) == (False, False)
    assert sketch_of(WIDE, 10.0, (0.5, 1.7), 0.0, (), (1.0, None), foreground_m=2.0).foreground_sharp


def test_ones_own_shadow_is_drawn_where_it_is_in_the_frame() -> None:
    fields = (78.0, upright_field_deg(78.0, 16 / 9))
    sun = SunAt(altitude_deg=15.0, azimuth_deg=200.0)
    shadow = own_shadow(sun, 20.0, 1.75, fields)
    assert shadow.in_frame
    view = View(78.0, "linear", 16 / 9, camera_m=0.93 * 1.75)
    sketch = sketch_of(view, 10.0, (0.5, 1.7), 0.0, (), (0.5, None), shadow=(shadow, 20.0))
    assert len(sketch.shadow) > 10
    middle = [x for x, _ in sketch.shadow]
    assert min(middle) < 0.5 < max(middle), "the sun is straight behind"
    tip = min(y for _, y in sketch.shadow)
    # Its tip lies `length` ahead, the camera's height below.
    high = 2.0 * float(shadow.length_m or 0) * tan(radians(78.0) / 2.0) / (16 / 9)
    assert tip == pytest.approx(0.5 + 0.93 * 1.75 / high, abs=0.01)
    away = own_shadow(sun, 200.0, 1.75, fields)
    assert not sketch_of(view, 10.0, (0.5, 1.7), 0.0, (), (0.5, None), shadow=(away, 200.0)).shadow


def test_how_far_one_may_step_aside() -> None:
    assert sideways_m(WIDE, 3.0, 0.46) == pytest.approx(3.0 * tan(radians(39.0)) - 0.23)
    bent = View(120.0, "equidistant", 16 / 9)
    assert sideways_m(bent, 3.0, 0.0) == pytest.approx(3.0 * sin(radians(60)) / 0.5, rel=1e-6)
