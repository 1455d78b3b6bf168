"""From light to codes and back: the curve of a profile, and the contrast of a finished picture.

Light is told as times mid grey: 1 is mid grey. Codes are shares of the largest, 0 to 1.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.gear.sheet import Profile
from steady_tide.core.measuring.transfer import to_code
from steady_tide.core.physics.noise import GREY_REFLECTANCE
from steady_tide.core.quantities.limits import Limits

Floats = NDArray[np.float64]
KNEE = 0.5  # of white: below it a finished picture is straight
LOG_STEEPNESS = 7.0
PEDESTAL = 0.05  # the code of black in a logarithm
TABLE = 4096
TOE = 0.12  # times mid grey: below it shadows are lifted


@dataclass(frozen=True)
class Curve:
    """A profile's curve.

    headroom_stops: from mid grey to the largest code; shadow_stops: from mid grey down to the darkest usable tone;
    lift_stops: how far the darkest tones are raised; log_share: 0 for a finished picture, 1 for a logarithm.
    """

    headroom_stops: float
    shadow_stops: float
    lift_stops: float = 0.0
    log_share: float = 0.0

    @property
    def white(self) -> float:
        """Where it clips, times mid grey."""
        return float(2.0**self.headroom_stops)

    @property
    def black(self) -> float:
        """The darkest usable tone, times mid grey."""
        return float(2.0**-self.shadow_stops)

    def record(self, light: Floats) -> Floats:
        """Codes of light. light: times mid grey, any shape. Returns codes, 0 to 1."""
        held = np.clip(light, 0.0, self.white)
        lifted = held * np.exp2(self.lift_stops / (1.0 + held / TOE))
        lifted = np.minimum(lifted, self.white)
        shown = finished(lifted, self.headroom_stops)
        if self.log_share == 0.0:
            return shown
        logged = np.log2(1.0 + LOG_STEEPNESS * lifted) / np.log2(1.0 + LOG_STEEPNESS * self.white)
        logged = PEDESTAL + (1.0 - PEDESTAL) * logged
        return np.asarray((1.0 - self.log_share) * shown + self.log_share * logged)

    @cached_property
    def _table(self) -> tuple[Floats, Floats]:
        light = np.concatenate([[0.0], np.geomspace(1e-5, self.white, TABLE)])
        return self.record(light), light

    def undo(self, codes: Floats) -> Floats:
        """Light of codes, the other way. Returns times mid grey."""
        found, light = self._table
        return np.asarray(np.interp(codes, found, light))

    def graded(self, codes: Floats) -> Floats:
        """Codes as a finished picture has them: the profile is undone, and given the reference contrast.

        Highlights that the profile held are rolled off below white. Returns codes for a display.
        """
        found, light = self._table
        return np.asarray(np.interp(codes, found, finished(light, self.headroom_stops)))


def typical_curve(profile: Profile, limits: Limits) -> Curve:
    """A curve for a profile of which none is known. profile: of a sheet; limits: numbers of judgement. Returns it."""
    headroom = limits.look_headroom_share * profile.range_stops
    return Curve(
        headroom_stops=headroom,
        shadow_stops=profile.range_stops - headroom,
        lift_stops=profile.shadow_lift_stops,
        log_share=min(1.0, profile.needs_grading_stops / limits.look_log_stops),
    )


def finished(light: Floats, headroom_stops: float) -> Floats:
    """The contrast of a finished picture: as light up to a knee, then rolled off, so that the headroom ends at white.

    light: times mid grey; headroom_stops: from mid grey to white. Returns codes for a display, 0 to 1. Source: iec61966-2-1.
    """
    of_white = GREY_REFLECTANCE * light
    most = (GREY_REFLECTANCE * 2.0**headroom_stops - KNEE) / (1.0 - KNEE)
    above = np.maximum(of_white - KNEE, 0.0) / (1.0 - KNEE)
    rolled = above * (1.0 + above / most**2) / (1.0 + above)
    return to_code(np.where(of_white < KNEE, of_white, KNEE + (1.0 - KNEE) * np.minimum(rolled, 1.0)), "srgb")
