"""Slow motion: what a capture rate does on a timeline."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from math import log2

from steady_tide.core.quantities.frozen import Frozen

LONGEST_PATTERN = 24


class Cadence(Frozen):
    """How captured frames fall on a timeline: steps from one shown frame to the next, over one period.

    A step of 1 shows the next frame, 0 shows the same again, 2 leaves one out.
    """

    steps: tuple[int, ...]
    even: bool
    ratio: tuple[int, int]  # captured frames that pass for shown ones


class SlowRate(Frozen):
    """One capture rate for an event on a timeline."""

    capture_fps: float
    factor: float
    event_on_screen_s: float | None
    cadence: Cadence
    light_lost_stops: float


def cadence(capture_fps: float, timeline_fps: float, slow_factor: float = 1.0) -> Cadence:
    """How evenly captured frames are shown when they are slowed by a factor.

    capture_fps, timeline_fps: frames per second; slow_factor: how much slower than life it is shown.
    Returns the steps of one period. Rates such as 29.97 are taken to a thousandth; a period longer than
    two dozen frames is cut there.
    """
    ratio = Fraction(round(capture_fps * 1000), round(timeline_fps * slow_factor * 1000)).limit_denominator(1001)
    shown = min(ratio.denominator, LONGEST_PATTERN)
    steps = tuple((ratio * (n + 1)).__floor__() - (ratio * n).__floor__() for n in range(shown))
    even = ratio.denominator == 1 and ratio >= 1
    return Cadence(steps=steps, even=even, ratio=(ratio.numerator, ratio.denominator))


def slow_rates(
    rates_fps: Sequence[float], timeline_fps: float, event_s: float | None, base_fps: float | None = None
) -> tuple[SlowRate, ...]:
    """What each capture rate gives.

    rates_fps: offered; timeline_fps: shown, frames per second; event_s: how long the thing lasts, seconds, or
    None; base_fps: rate against which lost light is counted, the timeline's unless given.
    Returns one entry a rate at or above the timeline's, slowest first: the factor when every frame is shown,
    the event on the screen, the cadence at normal speed, and the light lost where the shutter follows the rate.
    """
    base = base_fps or timeline_fps
    return tuple(
        SlowRate(
            capture_fps=rate,
            factor=rate / timeline_fps,
            event_on_screen_s=None if event_s is None else event_s * rate / timeline_fps,
            cadence=cadence(rate, timeline_fps),
            light_lost_stops=log2(rate / base),
        )
        for rate in sorted(set(rates_fps))
        if rate >= timeline_fps * 0.999
    )
