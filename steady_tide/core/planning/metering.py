"""What the camera does with the light on its own: exposure times and the ISO it asks for.

All functions take arrays that broadcast with each other. NaN as an exposure stands for automatic:
then the shutter lets the lowest ISO serve as long as it can, down to its fastest and up to a whole
frame interval.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.planning.space import Bools, Floats, Ints


@dataclass(frozen=True)
class Exposures:
    """Exposure times at the dim and the bright end of the light, seconds, and which are automatic."""

    dim_s: Floats
    bright_s: Floats
    automatic: Bools

    def take(self, rows: Ints) -> Exposures:
        """Those of some rows. rows: places along the first axis. Returns fewer."""
        return Exposures(self.dim_s[rows], self.bright_s[rows], self.automatic[rows])


@dataclass(frozen=True)
class CachedBrief:
    """What the camera comes to at both ends of the light.

    camera_ev_*: log2(N^2 / t), stops, as exposed and with the fastest automatic exposure; iso_*: log2 of the ISO asked
    for, before floor and ceiling.
    """

    camera_ev_dim: Floats
    camera_ev_bright: Floats
    iso_dim: Floats
    iso_bright: Floats
    camera_ev_fastest: Floats

    def for_pairs(self) -> CachedBrief:
        """The same with an axis for ISO pairs at the end."""
        return CachedBrief(
            *(
                values[..., None]
                for values in (
                    self.camera_ev_dim,
                    self.camera_ev_bright,
                    self.iso_dim,
                    self.iso_bright,
                    self.camera_ev_fastest,
                )
            )
        )


Band = tuple[float, float] | tuple[Floats, Floats]


def meter(
    ev100: Band,
    sheet: CameraSheet,
    f_number: Floats,
    fixed_s: Floats,
    nd_stops: Floats,
    compensation: Floats,
    longest_s: Floats,
    bias_stops: float | None = None,
) -> CachedBrief:
    """What the camera asks for at the dimmest and the brightest moment.

    ev100: light at both, EV at ISO 100, numbers or arrays that broadcast with the rest; f_number: f-number; fixed_s: exposure, seconds, NaN for automatic; nd_stops: glass, stops;
    compensation: stops; longest_s: longest exposure, seconds, used where automatic; bias_stops: how far the meter exposes
    too much, the camera's habit where left out. Returns what it comes to.
    """
    wanted = compensation + (sheet.metering_bias_stops if bias_stops is None else bias_stops)
    base = np.log2(min(sheet.iso.floors) / 100.0)
    f_stops = 2.0 * np.log2(f_number)
    automatic = np.isnan(fixed_s)
    held = f_stops - np.log2(np.where(automatic, 1.0, fixed_s))
    longest = f_stops - np.log2(np.where(np.isnan(longest_s), 1.0, longest_s))
    fastest = f_stops - np.log2(sheet.shutter.auto_fastest_s)

    def at_light(light: float | Floats) -> tuple[Floats, Floats]:
        programme = np.clip(light + base - nd_stops - wanted, longest, fastest)
        camera = np.where(automatic, programme, held + np.zeros_like(programme))
        return camera, camera - light + nd_stops + wanted + np.log2(100.0)

    (ev_dim, iso_dim), (ev_bright, iso_bright) = (at_light(end) for end in ev100)
    return CachedBrief(ev_dim, ev_bright, iso_dim, iso_bright, np.asarray(fastest))


def exposure_times(
    ev100: Band, sheet: CameraSheet, f_number: Floats, fixed_s: Floats, nd_stops: Floats, longest_s: Floats
) -> Exposures:
    """Exposure times by which motion and smear are judged; parameters as in `meter`.

    Returns seconds at both ends. On automatic: as metered once the meter's habit is corrected.
    """
    automatic = np.isnan(fixed_s)
    base = np.log2(min(sheet.iso.floors) / 100.0)

    def at_light(light: float | Floats) -> Floats:
        programme = np.clip(
            f_number**2 / np.exp2(light + base - nd_stops),
            sheet.shutter.auto_fastest_s,
            np.where(np.isnan(longest_s), 1.0, longest_s),
        )
        return np.asarray(np.where(automatic, programme, fixed_s + np.zeros_like(programme)))

    low, high = ev100
    return Exposures(dim_s=at_light(low), bright_s=at_light(high), automatic=automatic)
