"""Interval films: frames, time on the screen, and the stars that move meanwhile."""

from __future__ import annotations

import numpy as np

from steady_tide.core.stops import Number

SIDEREAL_ARCSEC_S = 15.041


def frames_of(duration_s: Number, interval_s: Number) -> Number:
    """Frames of an interval film. duration_s, interval_s: seconds. Returns a count, the first frame included."""
    return np.floor(np.asarray(duration_s) / interval_s + 1e-9) + 1.0


def screen_s(frames: Number, timeline_fps: Number) -> Number:
    """Time that frames last on a timeline. frames: count; timeline_fps: frames per second. Returns seconds."""
    return np.asarray(frames) / timeline_fps


def star_drift_px(shutter_s: Number, px_per_deg: Number, declination_deg: Number = 0.0) -> Number:
    """How far a star moves in one exposure.

    shutter_s: exposure, seconds; px_per_deg: delivered pixels per degree; declination_deg: of the star,
    degrees; 0, the fastest, unless said otherwise. Returns delivered pixels.
    """
    return SIDEREAL_ARCSEC_S / 3600.0 * np.cos(np.radians(declination_deg)) * np.asarray(shutter_s) * px_per_deg
