"""Quantities of a shot that items price, warnings tell and the plan states: energy, recorded size, noise."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from steady_tide.core.physics.endurance import gigabytes
from steady_tide.core.physics.noise import averaging_gain
from steady_tide.core.planning.interval_film import frames_of, screen_s
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.space import Floats, Habit, Pictures, Space


def draw_w(space: Space, pictures: Pictures, habits: Sequence[Habit]) -> Floats:
    """Power while recording. pictures: P of them; habits: H of them. Returns watts, (P, H)."""
    power = space.sheet.power
    extras = np.array(
        [
            power.screen_w.get(habit.screen, 0.0)
            + (power.positioning_w if habit.positioning == "on" else 0.0)
            + (power.pre_record_w if habit.pre_record_s else 0.0)
            for habit in habits
        ]
    )
    return np.asarray(pictures.power_w[:, None] + extras)


def needed_wh(at: Situation, space: Space, habits: Sequence[Habit], power_w: Floats) -> Floats:
    """Energy that a shot takes: running at full power, and waiting in standby or, to start early, awake.

    habits: H of them; power_w: while recording, (P, H). Returns watt-hours, (P, H).
    """
    early = np.array([habit.pre_record_s > 0 for habit in habits])
    waiting = np.where(early, power_w, space.supplies.standby_w)
    return np.asarray(power_w * at.brief.running_s / 3600.0 + waiting * at.brief.take.standby_min / 60.0)


def recorded_gb(at: Situation, bit_rate_mb_s: Floats, pictures: Pictures) -> Floats:
    """Size of all takes. bit_rate_mb_s: (L,); pictures: P of them. Returns gigabytes, (P, L)."""
    seconds = np.full(len(pictures), at.brief.running_s)
    at_intervals = ~np.isnan(pictures.interval_s)
    if at_intervals.any():
        frames = frames_of(at.brief.running_s, np.where(at_intervals, pictures.interval_s, 1.0))
        seconds = np.where(at_intervals, screen_s(frames, pictures.rate), seconds)
    size = np.asarray(gigabytes(bit_rate_mb_s, seconds[:, None]))
    stills = ~np.isnan(pictures.still_mb)
    if stills.any():
        kept_gb = frames_of(at.brief.running_s, pictures.interval_s[stills]) * pictures.still_mb[stills] / 1000.0
        size[stills] = kept_gb[:, None]
    return size


def bits_a_pixel(bit_rate_mb_s: Floats, pictures: Pictures) -> Floats:
    """Bits that a pixel of a frame gets. bit_rate_mb_s: (L,); pictures: P of them. Returns bits, (P, L)."""
    pixels = (pictures.width_px * pictures.height_px)[:, None]
    filmed = bit_rate_mb_s * 1e6 / (pixels * pictures.rate[:, None])
    kept = pictures.still_mb[:, None] * 8e6 / pixels
    return np.asarray(np.where(np.isnan(kept), filmed, kept))


def noise_shortfall(at: Situation, photosites: Floats, in_camera_gain: Floats) -> Floats:
    """What a picture adds to the noise item, beside that of the ISO in use; stops, shape (P,)."""
    return np.asarray(np.log2(at.noise_limit_snr / (averaging_gain(photosites, at.delivered_px) * in_camera_gain)))
