"""Which captured frame stands when on the timeline."""

from __future__ import annotations

from math import floor

from steady_tide.core.look.exposure_of_plan import Taking

ROUNDING = 1e-6


def frame_times(taking: Taking, seconds: float) -> list[tuple[int, float]]:
    """Frames of a timeline.

    taking: of the plan; seconds: on the screen. Returns for each frame of the timeline which captured one it shows, and
    when that was taken, seconds of the event from the middle of the film. A rate too low for the slow motion shows frames
    again, one that does not divide shows them unevenly.
    """
    delivery = taking.at.brief.delivery
    count = max(1, round(seconds * delivery.fps))
    interval_s = taking.interval_s
    # A timeline's second holds so many of the captured frames.
    per_frame = taking.rate / (delivery.fps if interval_s is not None else taking.at.shown_fps)
    numbers = [floor(number * per_frame + ROUNDING) for number in range(count)]
    apart_s = 1.0 / taking.rate if interval_s is None else interval_s
    middle = numbers[-1] / 2.0
    return [(number, (number - middle) * apart_s) for number in numbers]
