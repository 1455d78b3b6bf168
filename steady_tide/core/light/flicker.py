"""Lamps that pulse, seen through an exposure."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from steady_tide.core.quantities.stops import Number


def ripple_left(depth: Number, shutter_s: Number, mains_hz: float) -> Number:
    """Share of a mains lamp's ripple that an exposure leaves.

    depth: ripple of the lamp, 0 to 1; shutter_s: exposure, seconds; mains_hz: mains frequency, hertz.
    Returns 0 to 1. Lamps pulse at twice the mains frequency; whole periods average out.
    """
    return np.asarray(depth) * np.abs(np.sinc(2.0 * mains_hz * np.asarray(shutter_s)))


def worst_ripple_stops(depth: float, times_s: Sequence[Number], mains_hz: float) -> Number:
    """Swing that is left of a lamp's ripple at the worst of some exposures, as at both ends of an automatic one.

    depth, mains_hz: as for `ripple_left`; times_s: exposures, seconds, all of one shape. Returns stops.
    """
    return ripple_stops(np.max([ripple_left(depth, seconds, mains_hz) for seconds in times_s], axis=0))


def beat_hz(frame_rate: Number, mains_hz: float) -> Number:
    """Rate at which the ripple drifts from frame to frame.

    frame_rate: frames per second; mains_hz: mains frequency, hertz. Returns hertz; 0 stands still.
    """
    rate = np.asarray(frame_rate, dtype=float)
    nearest = np.maximum(1.0, np.round(2.0 * mains_hz / rate))
    return np.abs(2.0 * mains_hz - nearest * rate)


def pulse_ripple_left(duty: Number, shutter_s: Number, pulse_hz: Number) -> Number:
    """Share of ripple that an exposure leaves of a lamp dimmed by pulses: full on for a part of each period.

    duty: share of the period that it is on, above 0 to 1; shutter_s: exposure, seconds; pulse_hz: hertz.
    Returns (most - least) / (most + least) of the light that frames get, 0 to 1.
    """
    periods = np.asarray(shutter_s) * pulse_hz
    whole = np.floor(periods + 1e-12)
    rest = np.maximum(periods - whole, 0.0)
    least = whole * duty + np.maximum(0.0, rest - (1.0 - np.asarray(duty)))
    most = whole * duty + np.minimum(rest, duty)
    return np.where(most > 0.0, (most - least) / np.maximum(most + least, 1e-12), 0.0)


def is_clean(shutter_s: Number, mains_hz: float) -> Number:
    """Whether an exposure holds whole pulses of the mains, within a half of one per cent. Returns truths."""
    pulses = 2.0 * mains_hz * np.asarray(shutter_s)
    nearest = np.round(pulses)
    return (nearest >= 1) & (np.abs(pulses - nearest) <= 0.005 * nearest)


def rows_per_band(readout_s: float, height_px: float, pulse_hz: float) -> float:
    """Height of one band that pulsing light leaves on a rolling shutter.

    readout_s: time to read the whole height, seconds; height_px: of the frame, pixels; pulse_hz: of the
    light, hertz. Returns pixels; more than the height means less than one band.
    """
    return height_px / (readout_s * pulse_hz)


def ripple_stops(share: Number) -> Number:
    """Swing from the darkest to the brightest part. share: ripple left, 0 to below 1. Returns stops."""
    share = np.minimum(np.asarray(share), 0.98)
    return np.log2((1.0 + share) / (1.0 - share))
