"""The sensor: light to electrons, with the noise of photons and of reading, and full photosites."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from steady_tide.core.light.flicker import ripple_left
from steady_tide.core.light.water import LUMINANCE

Array = NDArray[np.float32]

SITE_SHARE = np.array([0.25, 0.5, 0.25])  # photosites behind red, green and blue filters; source: bayer1976
# The luminance of grey has the noise that one photosite of all has; each band has that of its fewer.
OF_LUMINANCE = float((LUMINANCE**2 / SITE_SHARE).sum())
BAND_NOISE = 1.0 / np.sqrt(SITE_SHARE * OF_LUMINANCE)


def sensed(
    light: Array,
    grey_e: float,
    read_noise_e: float,
    full_well_e: float,
    sites: float,
    noise_gain: float,
    seed: int,
) -> Array:
    """What a sensor makes of light.

    light: times mid grey, (rows, columns, 3); grey_e: electrons that mid grey leaves in a photosite; read_noise_e: of
    one; full_well_e: that one holds; sites: photosites behind each pixel; noise_gain: by how much reduction betters the
    ratio; seed: of the noise. Returns times mid grey, with noise. Valid from some electrons a pixel on, where the number
    of photons is spread as a bell. Source: iso12232.
    """
    signal = np.minimum(light * np.float32(grey_e), np.float32(full_well_e))
    noise = np.empty(light.shape, dtype=np.float32)
    cv2.setRNGSeed(seed)  # of this thread alone
    cv2.randn(noise.reshape(light.shape[0], -1), (0.0,), (1.0,))  # type: ignore[call-overload]
    width = np.sqrt(np.maximum(signal, 0.0) + np.float32(read_noise_e**2))
    scale = (BAND_NOISE / (np.sqrt(sites) * noise_gain)).astype(np.float32)
    noise *= width
    noise *= scale
    noise += signal
    return np.asarray(np.minimum(noise, np.float32(full_well_e)) / np.float32(grey_e))


def flicker_gain(
    depth: float, shutter_s: float, mains_hz: float, row_times_s: NDArray[np.float64]
) -> NDArray[np.float64]:
    """What pulsing lamps make of the light of each row.

    depth: ripple of the light, 0 to 1; shutter_s: exposure; row_times_s: middle of each row's exposure. Returns factors
    about 1; whole periods average out.
    """
    left = float(ripple_left(depth, shutter_s, mains_hz))
    return np.asarray(1.0 + left * np.cos(2.0 * np.pi * 2.0 * mains_hz * row_times_s))
