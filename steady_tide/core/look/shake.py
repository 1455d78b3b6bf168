"""How the camera wanders: a seeded path with the mount's own speed and settling time."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
WAVES = 7
SPREAD = 3.0  # from the slowest to the fastest wave
LOOKED_S, LOOKS = 20.0, 800


@dataclass(frozen=True)
class Shake:
    """A path of the view, degrees right and up: waves of one size each, (2, WAVES)."""

    size_deg: Floats
    rad_s: Floats
    phase: Floats

    def at(self, time_s: Floats) -> Floats:
        """Where the view points. time_s: any shape. Returns shape + (2,), degrees."""
        angle = time_s[..., None, None] * self.rad_s + self.phase
        return np.asarray((self.size_deg * np.sin(angle)).sum(axis=-1))

    def speed(self, time_s: Floats) -> Floats:
        """How fast it turns. Returns shape + (2,), degrees a second."""
        angle = time_s[..., None, None] * self.rad_s + self.phase
        return np.asarray((self.size_deg * self.rad_s * np.cos(angle)).sum(axis=-1))

    def usual_moment_s(self, rms_deg_s: float) -> float:
        """A moment at which it turns as fast as it does on the whole; 0 where it stands. Returns seconds."""
        if rms_deg_s == 0.0:
            return 0.0
        times = np.linspace(0.0, LOOKED_S, LOOKS)
        speed = np.hypot(*self.speed(times).T)
        return float(times[int(np.argmin(np.abs(speed - rms_deg_s)))])


def shake_of(rms_deg_s: float, settle_s: float, seed: int) -> Shake:
    """A path with a mount's shake.

    rms_deg_s: its angular speed, RMS over both directions, degrees a second; settle_s: time until a wander turns back, so
    that the path's excursion is their product; seed: which path. Returns it.
    """
    rng = np.random.default_rng(seed)
    ratio = SPREAD ** (np.linspace(-0.5, 0.5, WAVES) + rng.uniform(-0.05, 0.05, (2, WAVES)))
    rad_s = ratio / np.sqrt((ratio**2).mean()) / settle_s
    each = rms_deg_s * settle_s / np.sqrt(2.0) * np.sqrt(2.0 / WAVES)
    return Shake(np.full((2, WAVES), each), rad_s, rng.uniform(0.0, 2.0 * np.pi, (2, WAVES)))
