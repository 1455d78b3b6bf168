"""From a profile's codes to a finished picture: the profile undone, a correction in light, a look on top."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Annotated

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from steady_tide.core.edit.correcting import Correction, gains_of
from steady_tide.core.gear.sheet import Profile
from steady_tide.core.look.tones import finished, typical_curve
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.limits import Limits

Floats = NDArray[np.float64]
LUMA = np.array([0.2126, 0.7152, 0.0722])  # source: bt709
FINE = 8193  # points of a profile's curve
DARKEST_STOPS = 14.0  # below grey: darker light is black


class LookStyle(Frozen):
    """A look of ours, as data. contrast: how steep mid tones get, 0 as they are; shadows, highlights: what is added to red, green and blue
    there, shares of white; saturation: times."""

    id: str
    name: str
    says: str
    contrast: Annotated[float, Field(ge=-0.5, le=1)] = 0.0
    shadows: tuple[float, float, float] = (0.0, 0.0, 0.0)
    highlights: tuple[float, float, float] = (0.0, 0.0, 0.0)
    saturation: Annotated[float, Field(ge=0, le=2)] = 1.0


@dataclass(frozen=True)
class Developing:
    """How codes of a profile become a finished picture. codes, stops: the profile's curve, stops against mid grey, both rising;
    headroom_stops: from mid grey to clipping; own: whether the curve is the sheet's; correction, look: on the way."""

    codes: Floats
    stops: Floats
    headroom_stops: float
    own: bool
    correction: Correction | None = None
    look: LookStyle | None = None

    def light(self, codes: Floats) -> Floats:
        """Light of codes, times mid grey, any shape. Codes below the darkest are black."""
        found = np.exp2(np.interp(codes, self.codes, self.stops))
        return np.asarray(np.where(codes <= self.codes[0], 0.0, found))

    def recorded(self, light: Floats) -> Floats:
        """Codes of light, the other way round. light: times mid grey."""
        stops = np.log2(np.maximum(light, 2.0 ** self.stops[0]))
        return np.asarray(np.interp(stops, self.stops, self.codes))

    def developed(self, rgb: Floats) -> Floats:
        """A finished picture. rgb: codes, shape (..., 3), shares of the largest. Returns codes for a display, sRGB's curve."""
        return np.asarray(np.clip(self.unbounded(rgb), 0.0, 1.0))

    def unbounded(self, rgb: Floats) -> Floats:
        """The same before it is held to what a display has: what a table keeps, so that it is right up to where it ends."""
        light = self.light(rgb)
        headroom = self.headroom_stops
        done = self.correction
        if done is not None:
            light = (light - done.veil) / (1.0 - done.veil)
            light = np.maximum(light, 0.0) * gains_of(done.mired, done.tint_stops) * 2.0**done.exposure_stops
            headroom = max(0.5, headroom + done.exposure_stops)  # what was held stays held
        shown = finished(light, headroom)
        if done is not None:
            shown = (shown - done.black) / (done.white - done.black)
            shown = _saturated(shown, done.saturation)
        if self.look is not None:
            shown = _styled(shown, self.look)
        return np.asarray(shown)

    @cached_property
    def is_plain(self) -> bool:
        """Whether each band stands for itself, so that a curve is enough."""
        return self.correction is None and self.look is None


def developing(
    profile: Profile, limits: Limits, correction: Correction | None = None, look: LookStyle | None = None
) -> Developing:
    """How a profile is developed.

    profile: of a sheet, with its own curve where it has one, as measured or as its maker tells, else with a typical one; limits: numbers of
    judgement; correction, look: on the way. Returns it.
    """
    if profile.curve is not None:
        codes, stops = np.array(profile.curve, dtype=float).T
        return Developing(codes, stops, float(stops[-1]), True, correction, look)
    curve = typical_curve(profile, limits)
    headroom = curve.headroom_stops
    stops = np.linspace(-DARKEST_STOPS, headroom, FINE)
    codes = curve.record(np.exp2(stops))
    rising = np.concatenate([[True], np.diff(codes) > 0.0])
    codes, stops = codes[rising], stops[rising]
    stops[-1] = headroom  # lifted tones reach the largest code before light does; it is what clips
    return Developing(codes, stops, headroom, False, correction, look)


def _saturated(shown: Floats, by: float) -> Floats:
    if by == 1.0:
        return shown
    grey = (shown @ LUMA)[..., None]
    return np.asarray(grey + by * (shown - grey))


def _styled(shown: Floats, look: LookStyle) -> Floats:
    """A look on a finished picture: contrast about the middle, a tint of dark and of bright parts, saturation."""
    held = np.clip(shown, 0.0, 1.0)
    steep = shown + look.contrast * (held * held * (3.0 - 2.0 * held) - held)
    dark = (1.0 - held) ** 2 * held * 4.0  # nothing at black and at white, so that both stay clean
    bright = held**2 * (1.0 - held) * 4.0
    tinted = steep + dark * np.array(look.shadows) + bright * np.array(look.highlights)
    return _saturated(tinted, look.saturation)


def lut_points(size: int) -> Floats:
    """The points of a table of colours, red first. size: along each edge. Returns shape (size^3, 3)."""
    edge = np.linspace(0.0, 1.0, size)
    blue, green, red = np.meshgrid(edge, edge, edge, indexing="ij")
    return np.stack([red.ravel(), green.ravel(), blue.ravel()], axis=1)
