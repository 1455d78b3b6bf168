"""Photons, electrons and the signal-to-noise ratio of mid grey."""

from __future__ import annotations

import numpy as np

from steady_tide.core.quantities.stops import CALIBRATION_C, Number

# Photons that one lux second brings to one square micrometre at 555 nm; source: iso12232.
PHOTONS_PER_LUX_S_UM2 = 4090.0
GREY_REFLECTANCE = 0.18


def grey_electrons(iso: Number, pixel_pitch_um: Number, quantum_efficiency: Number, transmission: Number) -> Number:
    """Electrons that mid grey leaves in one pixel when it is exposed as this ISO asks.

    iso: ISO speed; pixel_pitch_um: side of a pixel, micrometres; quantum_efficiency: 0 to 1;
    transmission: of the lens, 0 to 1. Returns electrons. Source: iso12232.
    The scene light, the aperture and the exposure drop out: at correct exposure E t / N^2 is 250 / ISO.
    """
    lux_s = GREY_REFLECTANCE * CALIBRATION_C * np.asarray(transmission) / (4.0 * np.asarray(iso))
    return PHOTONS_PER_LUX_S_UM2 * quantum_efficiency * np.asarray(pixel_pitch_um) ** 2 * lux_s


def signal_to_noise(electrons: Number, read_noise_e: Number) -> Number:
    """Signal-to-noise ratio of one pixel.

    electrons: signal, electrons; read_noise_e: noise of reading, electrons RMS. Returns a ratio.
    Source: iso12232.
    """
    signal = np.asarray(electrons)
    return signal / np.sqrt(signal + np.asarray(read_noise_e) ** 2)


def averaging_gain(captured_px: Number, delivered_px: float) -> Number:
    """How much the signal-to-noise ratio gains when many pixels become one.

    captured_px: photosites read for the frame, count; delivered_px: pixels of the delivery, count.
    Returns a ratio, below 1 where the frame has to be enlarged.
    """
    return np.sqrt(np.asarray(captured_px) / delivered_px)
