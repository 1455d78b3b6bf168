"""Corrections: casts made neutral, exposures given back, groups alike."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from steady_tide import library
from steady_tide.core.edit.correcting import LUMINANCE, Correction, balance_shift, corrected, gains_of, together
from steady_tide.core.light.balance import blackbody_bands, mired
from steady_tide.core.rushes.light import BANDS_NM
from steady_tide.core.rushes.measures import ClipMeasures
from tests.edits import clip_measures, edit_shot

LIMITS = library.knowledge().limits


@given(st.floats(2000.0, 20_000.0), st.floats(-0.6, 0.6))
def test_a_cast_is_made_neutral(kelvin: float, tint: float) -> None:
    seen = np.array(blackbody_bands(kelvin, BANDS_NM)) / np.array(blackbody_bands(5500.0, BANDS_NM))
    seen = seen / seen[1] * np.array([2.0**tint, 1.0, 2.0**tint])
    red, _, blue = np.log2(seen)
    shift, green = balance_shift(float(red), float(blue))
    after = np.log2(seen * gains_of(shift, green))
    assert np.ptp(after) < 0.01, "no band is left ahead"
    assert shift == pytest.approx(mired(5500.0) - mired(kelvin), abs=0.5)
    assert green == pytest.approx(tint, abs=0.01)


@given(st.floats(-200.0, 150.0), st.floats(-1.0, 1.0))
def test_grey_keeps_its_brightness(shift: float, tint: float) -> None:
    assert float(gains_of(shift, tint) @ LUMINANCE) == pytest.approx(1.0)


def test_warmer_is_warmer() -> None:
    assert gains_of(50.0, 0.0)[0] > 1.0 > gains_of(50.0, 0.0)[2]
    assert gains_of(0.0, 0.5)[1] > gains_of(0.0, 0.0)[1]
    assert np.allclose(gains_of(0.0, 0.0), 1.0)


def test_without_measures_what_the_meter_was_told_is_given_back() -> None:
    plan = edit_shot().plan
    assert plan is not None
    found = corrected(None, plan, LIMITS)
    assert found.of == "plan"
    assert found.exposure_stops == pytest.approx(-plan.target_stops)


def of_exposure(median: float, **fields: Any) -> Correction:
    plan = edit_shot().plan
    assert plan is not None
    return corrected(clip_measures(exposure={"median_stops": median}), plan.model_copy(update=fields), LIMITS)


def test_what_a_clip_shows_counts_as_far_as_content_does_not_explain_it() -> None:
    plan = edit_shot().plan
    assert plan is not None
    share = LIMITS.rushes_met_stops**2 / (LIMITS.rushes_met_stops**2 + LIMITS.rushes_content_stops**2)
    found = of_exposure(plan.target_stops + 1.0)
    assert found.of == "measures"
    assert found.exposure_stops == pytest.approx(-plan.target_stops - share)
    dark = of_exposure(-3.0, own_contrast=True)
    assert dark.exposure_stops == pytest.approx(-plan.target_stops), "a dark scene is meant to be dark"


def test_steps_that_nobody_sees_are_none_and_doubts_count_nothing() -> None:
    plan = edit_shot().plan
    assert plan is not None
    faint = clip_measures(colour={"red_stops": 0.01, "blue_stops": -0.01})
    assert corrected(faint, plan, LIMITS).mired == 0.0
    cast: ClipMeasures = clip_measures(colour={"red_stops": 0.4, "blue_stops": -0.4})
    assert corrected(cast, plan, LIMITS).mired < -20.0, "too warm, so cooler"
    doubted = ClipMeasures.model_validate({**cast.model_dump(), "doubts": [{"field": "colour", "why": "one colour"}]})
    assert corrected(doubted, plan, LIMITS).mired == 0.0


def test_a_group_has_the_middle_of_its_clips() -> None:
    found = together([Correction(mired=one, of="measures") for one in (0.0, 10.0, 90.0)])
    assert (found.mired, found.of) == (10.0, "measures")
