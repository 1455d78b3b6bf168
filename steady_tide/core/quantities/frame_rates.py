"""Frame rates as they really are: 29.97 is 30000/1001, and the 30 of a menu often is, too."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.quantities.stops import Number

# Rates that are recorded a thousandth slower for a timeline of that kind; source: smpte-rates.
NOMINAL_FPS = np.array([24.0, 30.0, 48.0, 60.0, 120.0, 240.0])
SLOWER_FPS = NOMINAL_FPS * 1000.0 / 1001.0
WRITTEN_WITHIN = 0.01  # 23.98 and 23.976 are the same rate


def _near(fps: Number, rates: NDArray[np.float64]) -> tuple[NDArray[np.int_], NDArray[np.bool_]]:
    """Which of some rates is nearest to each, and whether it is the same as people write them."""
    apart = np.abs(np.asarray(fps, dtype=float)[..., None] - rates)
    return apart.argmin(axis=-1), apart.min(axis=-1) <= WRITTEN_WITHIN


def exact_rate(fps: float) -> float:
    """The rate that a rounded one stands for. fps: frames per second, such as 29.97. Returns 30000/1001 for it; a rate
    that is not such a one comes back as it is. Source: smpte-rates."""
    place, slower = _near(fps, SLOWER_FPS)
    return float(SLOWER_FPS[place]) if slower else fps


def written_rate(fps: float) -> float:
    """A rate as it is written, to a thousandth: 23.98 is 23.976. fps: frames per second. Returns frames per second."""
    return round(exact_rate(fps), 3) if _near(fps, SLOWER_FPS)[1] else fps


def recorded_rate(fps: Number, timeline_fps: float) -> Number:
    """The rate at which frames are really taken.

    fps: of the camera, any shape; timeline_fps: of the timeline. Returns frames per second: on a timeline of 29.97 what
    a menu calls 24, 30, 60 or 120 is a thousandth slower.
    """
    rates = np.asarray(fps, dtype=float)
    place, slower = _near(rates, SLOWER_FPS)
    if _near(timeline_fps, SLOWER_FPS)[1]:
        slower |= np.isin(rates, NOMINAL_FPS)
        place = np.where(np.isin(rates, NOMINAL_FPS), _near(rates, NOMINAL_FPS)[0], place)
    return np.where(slower, SLOWER_FPS[place], rates)
