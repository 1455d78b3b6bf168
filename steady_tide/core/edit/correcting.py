"""Corrections of a picture as separate steps: balance, exposure, contrast, saturation; from measures where there are any, else from the plan."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache
from statistics import median
from typing import Annotated, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from steady_tide.core.light.balance import blackbody_bands, mired
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.limits import Limits
from steady_tide.core.rushes.clip_plan import ClipPlan
from steady_tide.core.rushes.light import BANDS_NM
from steady_tide.core.rushes.measures import ClipMeasures

Floats = NDArray[np.float64]
NEUTRAL_K = 5500.0
LUMINANCE = np.array([0.2126, 0.7152, 0.0722])  # source: bt709
KELVINS = (1800.0, 25_000.0)


class Correction(Frozen):
    """What is done to a picture, step by step. mired: shift of the balance, warmer upwards; tint_stops: of green, more upwards;
    exposure_stops: brighter upwards; veil: light that lies over everything, times mid grey, taken off; black, white: codes that become
    black and white; saturation: times; of: what it was worked out from."""

    mired: Annotated[float, Field(ge=-500, le=500)] = 0.0
    tint_stops: Annotated[float, Field(ge=-3, le=3)] = 0.0
    exposure_stops: Annotated[float, Field(ge=-6, le=6)] = 0.0
    veil: Annotated[float, Field(ge=0, lt=0.9)] = 0.0
    black: Annotated[float, Field(ge=0, lt=0.5)] = 0.0
    white: Annotated[float, Field(gt=0.5, le=1)] = 1.0
    saturation: Annotated[float, Field(ge=0, le=3)] = 1.0
    of: Literal["plan", "measures"] = "plan"


def gains_of(shift_mired: float, tint_stops: float) -> Floats:
    """What a shift of the balance makes of red, green and blue. shift_mired: warmer upwards; tint_stops: of green. Returns factors that
    leave the luminance of grey as it is."""
    seen = 1e6 / (mired(NEUTRAL_K) - shift_mired) if shift_mired < mired(NEUTRAL_K) - 1.0 else 1e6
    of_light = np.array(blackbody_bands(seen, BANDS_NM)) / np.array(blackbody_bands(NEUTRAL_K, BANDS_NM))
    gains = 1.0 / of_light
    gains = gains / gains[1]
    gains[1] *= 2.0**tint_stops
    return np.asarray(gains / float(gains @ LUMINANCE))


@cache
def _apart() -> tuple[Floats, Floats]:
    """How far red leads blue under black bodies that are taken for a neutral light; stops, falling, with their kelvins."""
    kelvins = np.geomspace(*KELVINS, 400)
    bands = np.array([blackbody_bands(float(kelvin), BANDS_NM) for kelvin in kelvins])
    neutral = np.array(blackbody_bands(NEUTRAL_K, BANDS_NM))
    stops = np.log2(bands / neutral)
    return stops[:, 0] - stops[:, 2], kelvins


def balance_shift(red_stops: float, blue_stops: float) -> tuple[float, float]:
    """What makes a cast neutral.

    red_stops, blue_stops: of what should be grey, against green. Returns the shift in mired, warmer upwards, and the tint of green in stops.
    Valid for casts between those of 1800 and 25,000 K; what lies beyond is mended as far.
    """
    apart, kelvins = _apart()
    seen = float(np.interp(-(red_stops - blue_stops), -apart, kelvins))
    shift = mired(NEUTRAL_K) - mired(seen)
    of_light = np.log2(np.array(blackbody_bands(seen, BANDS_NM)) / np.array(blackbody_bands(NEUTRAL_K, BANDS_NM)))
    of_light = of_light - of_light[1]
    left = (red_stops - of_light[0] + blue_stops - of_light[2]) / 2.0
    return shift, float(left)


def corrected(measures: ClipMeasures | None, plan: ClipPlan, limits: Limits) -> Correction:
    """Work out a correction.

    measures: of a clip, None where there are none; plan: that it was filmed by; limits: numbers of judgement. The exposure that the meter was
    told to miss grey by is given back; what a clip shows beside that counts as far as content does not explain it: both are spread as
    bells. Returns it.
    """
    aimed = plan.target_stops
    exposure, of = -aimed, "plan"
    shift = tint = veil = 0.0
    if measures is not None:
        of = "measures"
        seen = measures.exposure.median_stops
        if seen is not None and not plan.own_contrast and not measures.doubted("exposure"):
            meter, content = limits.rushes_met_stops**2, limits.rushes_content_stops**2
            exposure = -(aimed + meter / (meter + content) * (seen - aimed))
        colour = measures.colour
        if colour.red_stops is not None and colour.blue_stops is not None and not measures.doubted("colour"):
            shift, tint = balance_shift(colour.red_stops, colour.blue_stops)
        if measures.haze.share is not None and measures.haze.share >= limits.rushes_haze_noticed:
            veil = min(limits.edit_most_veil, measures.haze.share)
    return Correction(
        mired=_kept(shift, limits.edit_least_mired),
        tint_stops=_kept(tint, limits.edit_least_stops),
        exposure_stops=_kept(float(np.clip(exposure, -6.0, 6.0)), limits.edit_least_stops),
        veil=veil,
        of=of,
    )


def _kept(value: float, least: float) -> float:
    """A step that nobody would see is none."""
    return 0.0 if abs(value) < least else value


def together(corrections: Sequence[Correction]) -> Correction:
    """One correction for clips that share their settings: the middle of each step. Returns it."""

    def middle(name: str) -> float:
        return float(median(getattr(one, name) for one in corrections))

    return Correction(
        mired=middle("mired"),
        tint_stops=middle("tint_stops"),
        exposure_stops=middle("exposure_stops"),
        veil=middle("veil"),
        black=middle("black"),
        white=middle("white"),
        saturation=middle("saturation"),
        of="measures" if any(one.of == "measures" for one in corrections) else "plan",
    )
