"""Filming oneself: where to stand, how far one may walk, and whether there is time to get there."""

from __future__ import annotations

from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.limits import Limits
from steady_tide.core.story.shadow import SHOULDERS_M
from steady_tide.core.story.sketch import View, _box, sideways_m


class Oneself(Frozen):
    """For who films oneself. mark_m: where to stand; focus_m: the distance to lock; walk_m: nearest and farthest at which one is whole
    and sharp, the far end None where it has none; aside_m: to either side; there_s: to get there from the camera; timer_s: set;
    late_s: that it is too short; seen: whether the screen is seen from the front."""

    mark_m: float
    focus_m: float | None
    walk_m: tuple[float, float | None]
    aside_m: float
    there_s: float
    timer_s: float | None
    late_s: float
    seen: bool | None


def oneself(
    view: View,
    mark_m: float,
    height_m: float,
    focus_m: float | None,
    sharp_m: tuple[float, float | None],
    timer_s: float | None,
    seen: bool | None,
    limits: Limits,
) -> Oneself:
    """Work out where one may stand.

    view: of the camera; mark_m: distance of the mark; height_m: of who films; focus_m: that is locked, None for one that cannot be
    turned; sharp_m: near and far end of what is sharp; timer_s: delay that is set; seen: whether the camera's screen is seen from the
    front, None where it is not known; limits: numbers of judgement. Returns metres and seconds.
    """
    nearest = _nearest_whole_m(view, height_m, mark_m)
    there = mark_m / limits.walk_m_s + limits.turn_round_s
    return Oneself(
        mark_m=mark_m,
        focus_m=focus_m,
        walk_m=(max(sharp_m[0], nearest), sharp_m[1]),
        aside_m=sideways_m(view, mark_m, SHOULDERS_M),
        there_s=there,
        timer_s=timer_s,
        late_s=0.0 if timer_s is None else max(0.0, there - timer_s),
        seen=seen,
    )


def _nearest_whole_m(view: View, height_m: float, mark_m: float) -> float:
    """How near the head stays in the frame as one comes closer. Returns metres, at most the mark."""
    low, high = 0.0, mark_m
    if _box(view, 0.0, SHOULDERS_M, height_m, mark_m)[1] < 0.0:
        return mark_m
    for _ in range(40):
        middle = (low + high) / 2.0
        box = _box(view, 0.0, SHOULDERS_M, height_m, max(middle, 1e-6))
        low, high = (middle, high) if box[1] < 0.0 else (low, middle)
    return high
