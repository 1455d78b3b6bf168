"""Lamps that pulse, seen through an exposure."""

from __future__ import annotations

import numpy as np

from steady_tide.core.stops import Number


def ripple_left(depth: Number, shutter_s: Number, mains_hz: float) -> Number:
    """Share of a mains lamp's ripple that an exposure leaves.

    depth: ripple of the lamp, 0 to 1; shutter_s: exposure, seconds; mains_hz: mains frequency, hertz.
    Returns 0 to 1. Lamps pulse at twice the mains frequency; whole periods average out.
    """
    return np.asarray(depth) * np.abs(np.sinc(2.0 * mains_hz * np.asarray(shutter_s)))


def beat_hz(frame_rate: Number, mains_hz: float) -> Number:
    """Rate at which the ripple drifts from frame to frame.

    frame_rate: frames per second; mains_hz: mains frequency, hertz. Returns hertz; 0 stands still.
    """
    rate = np.asarray(frame_rate, dtype=float)
    nearest = np.maximum(1.0, np.round(2.0 * mains_hz / rate))
    return np.abs(2.0 * mains_hz - nearest * rate)


def ripple_stops(share: Number) -> Number:
    """Swing from the darkest to the brightest part. share: ripple left, 0 to below 1. Returns stops."""
    share = np.minimum(np.asarray(share), 0.98)
    return np.log2((1.0 + share) / (1.0 - share))
