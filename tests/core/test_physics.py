"""Optics, motion, noise and flicker against worked values, limits and brute force."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from steady_tide.core.light import flicker
from steady_tide.core.physics import motion, noise, optics


@pytest.mark.parametrize(
    ("shutter_s", "mains_hz", "left"),
    [(1 / 48, 60, 0.127), (1 / 60, 50, 0.165), (1 / 240, 50, 0.738), (1 / 50, 50, 0.0), (1 / 120, 60, 0.0)],
)
def test_ripple_that_an_exposure_leaves(shutter_s: float, mains_hz: float, left: float) -> None:
    assert flicker.ripple_left(1.0, shutter_s, mains_hz) == pytest.approx(left, abs=0.001)


@given(shutter_s=st.floats(1 / 8000, 1 / 24), mains_hz=st.sampled_from([50.0, 60.0]), phase=st.floats(0, 2 * np.pi))
def test_ripple_is_the_time_integral(shutter_s: float, mains_hz: float, phase: float) -> None:
    # The largest average of a sine over any window of that length, by integrating the sine.
    omega = 2 * np.pi * 2 * mains_hz

    def average(at: float) -> float:
        return float((np.cos(at) - np.cos(at + omega * shutter_s)) / (omega * shutter_s))

    largest = max(abs(average(at)) for at in (np.pi / 2 - omega * shutter_s / 2, -np.pi / 2 - omega * shutter_s / 2))
    assert flicker.ripple_left(1.0, shutter_s, mains_hz) == pytest.approx(largest, abs=1e-9)
    assert abs(average(phase)) <= largest + 1e-9


@pytest.mark.parametrize(
    ("rate", "mains_hz", "beat"), [(24, 60, 0), (30, 50, 10), (25, 50, 0), (25, 60, 5), (240, 50, 140)]
)
def test_beat_of_rate_and_mains(rate: float, mains_hz: float, beat: float) -> None:
    assert flicker.beat_hz(rate, mains_hz) == pytest.approx(beat)


def test_ripple_in_stops() -> None:
    assert flicker.ripple_stops(0.0) == 0
    assert flicker.ripple_stops(1 / 3) == pytest.approx(1.0)


def test_straight_field_crops_by_its_tangent_and_bent_field_by_its_angle() -> None:
    assert optics.cropped_field_deg(90, 0.5, "linear") == pytest.approx(2 * np.degrees(np.arctan(0.5)))
    assert optics.cropped_field_deg(120, 0.5, "equidistant") == pytest.approx(60)
    assert optics.cropped_field_deg(77.0, 1.0, "linear") == pytest.approx(77.0)


def test_pixels_per_degree_agree_for_small_fields() -> None:
    assert optics.pixels_per_degree(100, 1.0, "linear") == pytest.approx(
        optics.pixels_per_degree(100, 1.0, "equidistant"), rel=1e-4
    )
    assert optics.pixels_per_degree(3840, 90, "linear") == pytest.approx(1920 * np.pi / 180)


def test_detail_counts_only_what_is_short() -> None:
    assert optics.linear_shortfall_stops(3840, 1920) == pytest.approx(1)
    assert optics.linear_shortfall_stops(1920, 3840) == 0
    assert optics.fitted_width_px(3840, 2880, 16, 9) == 3840
    assert optics.fitted_width_px(3840, 2880, 9, 16) == 1620


def test_blur_and_wander() -> None:
    assert motion.subject_speed_deg_s(2.0, 10.0) == pytest.approx(11.459, abs=1e-3)
    assert motion.blur_px(12.0, 1 / 50, 40.0) == pytest.approx(9.6)
    assert motion.left_over_deg(2.0, 5.0, 0.1) == pytest.approx(0.2)
    assert motion.left_over_deg(8.0, 5.0, 0.0) == pytest.approx(3.0)


@pytest.mark.parametrize(
    ("rate", "shown", "uneven"),
    [(120, 24, False), (120, 30, False), (100, 25, False), (30, 25, True), (24, 25, True), (25, 50, False)],
)
def test_cadence(rate: float, shown: float, uneven: bool) -> None:
    assert motion.repeats_unevenly(rate, shown) is uneven


def test_grey_electrons_by_hand() -> None:
    # 4,090 photons x 0.6 x 4 um2 x 0.18 x 250 / (4 x 100) with a perfect lens
    assert noise.grey_electrons(100, 2.0, 0.6, 1.0) == pytest.approx(4090 * 0.6 * 4 * 0.18 * 250 / 400)


@given(iso=st.floats(50, 12_800), read=st.floats(0, 10))
def test_noise_only_grows_with_gain(iso: float, read: float) -> None:
    quiet = noise.signal_to_noise(noise.grey_electrons(iso, 1.6, 0.6, 0.9), read)
    loud = noise.signal_to_noise(noise.grey_electrons(2 * iso, 1.6, 0.6, 0.9), read)
    assert loud < quiet
    # A stop costs half a stop of ratio where photons rule, a whole one where reading does.
    assert 0.5 - 1e-9 <= np.log2(quiet / loud) <= 1.0 + 1e-9


def test_averaging_four_pixels_doubles_the_ratio() -> None:
    assert noise.averaging_gain(4_000_000, 1_000_000) == pytest.approx(2)
