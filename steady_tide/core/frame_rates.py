"""Frame rates as they really are: 29.97 is 30000/1001, and the 30 of a menu often is, too."""

from __future__ import annotations

import numpy as np

from steady_tide.core.stops import Number

# Rates that are recorded a thousandth slower for a timeline of that kind; source: smpte-rates.
NOMINAL_FPS = (24.0, 30.0, 48.0, 60.0, 120.0, 240.0)
SLOWER = 1000.0 / 1001.0
WRITTEN_WITHIN = 0.01  # 23.98 and 23.976 are the same rate


def exact_rate(fps: float) -> float:
    """The rate that a rounded one stands for. fps: frames per second, such as 29.97. Returns 30000/1001 for it; a rate
    that is not such a one comes back as it is. Source: smpte-rates."""
    return next((n * SLOWER for n in NOMINAL_FPS if abs(fps - n * SLOWER) <= WRITTEN_WITHIN), fps)


def written_rate(fps: float) -> float:
    """A rate as it is written, to a thousandth: 23.98 is 23.976. fps: frames per second. Returns frames per second."""
    return round(exact_rate(fps), 3) if _runs_slower(fps) else fps


def recorded_rate(fps: Number, timeline_fps: float) -> Number:
    """The rate at which frames are really taken.

    fps: of the camera, any shape; timeline_fps: of the timeline. Returns frames per second: on a timeline of 29.97 what
    a menu calls 24, 30, 60 or 120 is a thousandth slower.
    """
    rates = np.asarray(fps, dtype=float)
    slowed = np.isin(rates, NOMINAL_FPS) & _runs_slower(timeline_fps)
    exact = rates.copy()
    for nominal in NOMINAL_FPS:
        exact = np.where(np.abs(rates - nominal * SLOWER) <= WRITTEN_WITHIN, nominal * SLOWER, exact)
    return np.where(slowed, rates * SLOWER, exact)


def _runs_slower(fps: float) -> bool:
    return any(abs(fps - nominal * SLOWER) <= WRITTEN_WITHIN for nominal in NOMINAL_FPS)
