"""Interval films: frames, time on the screen, the exposure through a night, and the stars that move meanwhile."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from steady_tide.core.quantities.errors import BadInput, Fault
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.stops import Number, iso_asked, shutter_asked

SIDEREAL_ARCSEC_S = 15.041


class IntervalFilm(Frozen):
    """How long it is filmed, how often, and how long that lasts on the screen."""

    duration_s: float
    interval_s: float
    screen_s: float
    frames: int


class CoursePoint(Frozen):
    """The exposure at one moment of an interval film."""

    seconds: float  # since its begin
    ev100: float
    shutter_s: float
    iso: int
    over_stops: float
    under_stops: float


def frames_of(duration_s: Number, interval_s: Number) -> Number:
    """Frames of an interval film. duration_s, interval_s: seconds. Returns a count, the first frame included."""
    return np.floor(np.asarray(duration_s) / interval_s + 1e-9) + 1.0


def screen_s(frames: Number, timeline_fps: Number) -> Number:
    """Time that frames last on a timeline. frames: count; timeline_fps: frames per second. Returns seconds."""
    return np.asarray(frames) / timeline_fps


def third_of_film(
    timeline_fps: float,
    duration_s: float | None = None,
    interval_s: float | None = None,
    screen_time_s: float | None = None,
) -> IntervalFilm:
    """Give two, get the third.

    timeline_fps: frames per second; duration_s, interval_s, screen_time_s: seconds, exactly one of them None.
    Returns all three. Raises BadInput where not two are given, or the screen is to show fewer than two frames.
    """
    if [duration_s, interval_s, screen_time_s].count(None) != 1:
        raise BadInput(
            Fault("interval film", "needs two of duration, interval and time on the screen", "Leave out exactly one.")
        )
    if interval_s is not None and duration_s is not None:
        frames = int(frames_of(duration_s, interval_s))
        return IntervalFilm(duration_s=duration_s, interval_s=interval_s, screen_s=frames / timeline_fps, frames=frames)
    assert screen_time_s is not None
    frames = round(screen_time_s * timeline_fps)
    if frames < 2:
        raise BadInput(Fault("screen", "shows fewer than two frames", "Ask for a longer film."))
    if duration_s is not None:
        return IntervalFilm(
            duration_s=duration_s,
            interval_s=duration_s / (frames - 1),
            screen_s=frames / timeline_fps,
            frames=frames,
        )
    assert interval_s is not None
    return IntervalFilm(
        duration_s=(frames - 1) * interval_s, interval_s=interval_s, screen_s=frames / timeline_fps, frames=frames
    )


def course_of(
    seconds: Sequence[float],
    ev100: Sequence[float],
    *,
    f_number: float,
    nd_stops: float,
    compensation_stops: float,
    shortest_s: float,
    longest_s: float,
    iso: tuple[int, int],
) -> tuple[CoursePoint, ...]:
    """How an automatic exposure follows the light of an interval film.

    seconds, ev100: the light over time, (n,); f_number, nd_stops, compensation_stops: as set;
    shortest_s, longest_s: exposures between which it moves, seconds; iso: floor and ceiling.
    Returns one point each: at the floor the exposure lengthens as long as the pause between frames lets it,
    then gain rises to the ceiling; what is left is under, and over where the shortest exposure is too long.
    """
    floor, ceiling = iso
    light = np.asarray(ev100, dtype=float)
    shutter = np.clip(shutter_asked(light, f_number, floor, nd_stops, compensation_stops), shortest_s, longest_s)
    asked = iso_asked(light, f_number, shutter, nd_stops, compensation_stops)
    gain = np.clip(asked, floor, ceiling)
    error = np.log2(gain / asked)
    return tuple(
        CoursePoint(
            seconds=float(second),
            ev100=float(ev),
            shutter_s=float(exposure),
            iso=round(float(speed)),
            over_stops=max(0.0, float(wrong)),
            under_stops=max(0.0, -float(wrong)),
        )
        for second, ev, exposure, speed, wrong in zip(seconds, light, shutter, gain, error, strict=True)
    )


def star_drift_px(shutter_s: Number, px_per_deg: Number, declination_deg: Number = 0.0) -> Number:
    """How far a star moves in one exposure.

    shutter_s: exposure, seconds; px_per_deg: delivered pixels per degree; declination_deg: of the star,
    degrees; 0, the fastest, unless said otherwise. Returns delivered pixels.
    """
    return SIDEREAL_ARCSEC_S / 3600.0 * np.cos(np.radians(declination_deg)) * np.asarray(shutter_s) * px_per_deg
