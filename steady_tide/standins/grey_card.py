"""A simulated camera before a grey card: frames whose noise and glass are known, for trying the measurements."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.measuring.transfer import Named, to_code

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class SimulatedSensor:
    """A sensor as it truly is: read noise and full well in electrons at the lowest ISO; unevenness as a share."""

    read_noise_e: float
    full_well_e: float
    base_iso: int = 100
    unevenness: float = 0.0


def grey_frame(
    sensor: SimulatedSensor,
    iso: int,
    rng: np.random.Generator,
    level: float = 0.18,
    shape: tuple[int, int] = (400, 600),
    transfer: Named = "linear",
    codes: int = 65_536,
    tilt: float = 0.0,
    bands: tuple[float, float, float] = (1.0, 1.0, 1.0),
) -> Floats:
    """Film a grey card.

    sensor: the truth; iso: set; rng: where the noise comes from; level: of the card, share of white; shape: rows
    and columns; transfer, codes: of the file; tilt: how much brighter one side is, share; bands: of the light, red, green, blue.
    Returns shares of the largest code, (rows, columns, 3).
    """
    gain = iso / sensor.base_iso
    well = sensor.full_well_e / gain
    slope = 1.0 + tilt * np.linspace(-0.5, 0.5, shape[1])[None, :, None]
    signal = np.broadcast_to(level * well * slope * np.array(bands), (*shape, 3))
    if sensor.unevenness:
        alike = np.random.default_rng(7).normal(1.0, sensor.unevenness, (*shape, 3))  # the same in every frame
        signal = signal * alike
    electrons = rng.poisson(np.maximum(signal, 0.0)) + rng.normal(0.0, sensor.read_noise_e, (*shape, 3))
    light = np.clip(electrons / well, 0.0, 1.0)
    return np.asarray(np.round(to_code(light, transfer) * (codes - 1)) / (codes - 1))
