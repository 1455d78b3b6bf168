"""Exposure arithmetic against published and worked values."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from steady_tide.core.quantities import stops


@pytest.mark.parametrize(("lux", "ev100"), [(81_920, 15), (2.5, 0), (2.5 * 2**8, 8), (0.25, -3.3219)])
def test_illuminance_and_ev_are_the_same_scale(lux: float, ev100: float) -> None:
    assert stops.ev100_from_lux(lux) == pytest.approx(ev100, abs=1e-4)
    assert stops.lux_from_ev100(ev100) == pytest.approx(lux, rel=1e-4)


@pytest.mark.parametrize(
    ("f_number", "shutter_s", "iso", "nd_stops", "expected"),
    [(2.8, 1 / 48, 100, 0, 8.556), (16, 1 / 100, 100, 0, 14.64), (2.8, 1 / 240, 100, 3, 13.88)],
)
def test_scene_light_from_settings(
    f_number: float, shutter_s: float, iso: float, nd_stops: float, expected: float
) -> None:
    assert stops.scene_ev100(f_number, shutter_s, iso, nd_stops) == pytest.approx(expected, abs=0.005)


@pytest.mark.parametrize(
    ("f_number", "shutter_s", "iso", "expected"),
    [(2.8, 1 / 48, 100, 6.44), (2.8, 1 / 100, 100, 5.39), (2.8, 1 / 50, 100, 6.39), (1.8, 1 / 50, 50, 6.66)],
)
def test_glass_that_full_sun_asks_for(f_number: float, shutter_s: float, iso: float, expected: float) -> None:
    assert stops.nd_asked(15, f_number, shutter_s, iso) == pytest.approx(expected, abs=0.005)


@pytest.mark.parametrize(
    ("factor", "density", "expected"), [(8, 0.9, 3), (32, 1.505, 5), (64, 1.806, 6), (1000, 3.0, 9.966)]
)
def test_filter_densities(factor: float, density: float, expected: float) -> None:
    assert stops.nd_stops_from_factor(factor) == pytest.approx(expected, abs=1e-3)
    assert stops.nd_stops_from_density(density) == pytest.approx(expected, abs=0.011)


def test_negative_compensation_darkens_in_both_directions() -> None:
    assert stops.iso_asked(10, 2.8, 1 / 50, compensation_stops=-0.5) == pytest.approx(
        stops.iso_asked(10, 2.8, 1 / 50) / 2**0.5
    )
    assert stops.shutter_asked(10, 2.8, 100, compensation_stops=-0.5) == pytest.approx(
        stops.shutter_asked(10, 2.8, 100) / 2**0.5
    )


@given(ev=st.floats(-8, 18), f=st.floats(1, 22), t=st.floats(1 / 8000, 30), nd=st.floats(0, 10), comp=st.floats(-2, 2))
def test_asked_iso_and_shutter_expose_the_scene_they_were_asked_for(
    ev: float, f: float, t: float, nd: float, comp: float
) -> None:
    iso = stops.iso_asked(ev, f, t, nd, comp)
    assert stops.scene_ev100(f, t, iso, nd, comp) == pytest.approx(ev, abs=1e-9)
    assert stops.shutter_asked(ev, f, iso, nd, comp) == pytest.approx(t, rel=1e-9)


def test_half_turn_is_half_the_frame_interval() -> None:
    assert stops.shutter_angle_deg(1 / 50, 25) == pytest.approx(180)
    assert stops.half_turn_s(25) == pytest.approx(1 / 50)


def test_arrays_keep_their_shape_and_nan_stays_nan() -> None:
    light = np.array([[0.0, 5.0, 10.0], [12.0, 15.0, np.nan]])
    asked = stops.iso_asked(light, 2.8, 1 / 50)
    assert asked.shape == (2, 3)
    assert np.isnan(asked[1, 2])
    assert np.all(np.diff(asked[0]) < 0)


@pytest.mark.parametrize(
    ("text", "value"), [("1/50", 0.02), ("1/48 s", 1 / 48), ("0.02", 0.02), ("2", 2.0), (0.5, 0.5)]
)
def test_exposures_are_read_as_people_write_them(text: object, value: float) -> None:
    assert stops.read_seconds(text) == pytest.approx(value)


@pytest.mark.parametrize("text", ["1/0", "fast", "", "1/2/3", None])
def test_what_is_no_exposure_comes_back_unchanged(text: object) -> None:
    assert stops.read_seconds(text) == text
