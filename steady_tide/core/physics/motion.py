"""What moves during an exposure and between frames."""

from __future__ import annotations

import numpy as np

from steady_tide.core.quantities.stops import Number


def subject_speed_deg_s(speed_m_s: Number, distance_m: Number) -> Number:
    """Angular speed of a subject that crosses the view.

    speed_m_s: metres per second; distance_m: distance to it, metres. Returns degrees per second.
    """
    return np.degrees(np.asarray(speed_m_s) / distance_m)


def blur_px(speed_deg_s: Number, shutter_s: Number, px_per_deg: Number) -> Number:
    """Length of the smear that one exposure leaves.

    speed_deg_s: angular speed, degrees per second; shutter_s: exposure, seconds;
    px_per_deg: delivered pixels per degree. Returns delivered pixels. Stabilisation does not lessen it.
    """
    return np.asarray(speed_deg_s) * shutter_s * px_per_deg


def excursion_deg(shake_deg_s: Number, settle_s: float) -> Number:
    """How far the view wanders before the hand brings it back.

    shake_deg_s: RMS angular speed, degrees per second; settle_s: time until it turns back, seconds.
    Returns degrees.
    """
    return np.asarray(shake_deg_s) * settle_s


def left_over_deg(wander_deg: Number, margin_deg: Number, leak: Number) -> Number:
    """What stabilisation leaves of a wander: what exceeds its margin, and the share that leaks through.

    wander_deg: excursion, degrees; margin_deg: what the crop can shift, degrees; leak: share that
    passes even inside the margin, 0 to 1. Returns degrees.
    """
    wander = np.asarray(wander_deg)
    return np.hypot(np.maximum(0.0, wander - margin_deg), np.minimum(wander, margin_deg) * leak)


# A rate of 24 plays on 23.976 a thousandth slower, and nobody sees it; 24 on 25 is four hundredths off.
EVEN_WITHIN = 0.002


def repeats_unevenly(frame_rate: float, shown_rate: float) -> bool:
    """Whether frames fall unevenly on the timeline.

    frame_rate: frames captured per second; shown_rate: timeline rate times slow factor, frames per
    second. Returns True where neither divides the other, so that the picture judders.
    """
    high, low = max(frame_rate, shown_rate), min(frame_rate, shown_rate)
    ratio = high / low
    return abs(ratio - round(ratio)) > EVEN_WITHIN * ratio


def lean_deg(turn_deg_s: float, readout_s: float, height_deg: float) -> float:
    """By how much an upright line leans while the frame turns, since its rows are read one after the other.

    turn_deg_s: of the camera, degrees per second; readout_s: from the first row of the picture to its last, seconds;
    height_deg: of the picture, degrees. Returns degrees from upright.
    """
    return float(np.degrees(np.arctan2(turn_deg_s * readout_s, height_deg)))
