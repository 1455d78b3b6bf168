"""A first order of a day, by moving one shot at a time as long as that helps."""

from __future__ import annotations

from collections.abc import Callable

from steady_tide.core.outing.day_task import DayTask, ShotTask, given_up_stops

MISSED_MUST_STOPS = 1000.0  # so that a first order with every must is found before a cheap one


def guess(task: DayTask, clock: Callable[[], float], until: float) -> dict[str, int]:
    """Find an order to begin from.

    task: the day; clock: tells seconds; until: when to stop trying. Returns the minute of each shot; musts may be
    missed where they are hard to meet.
    """
    order = sorted(task.shots, key=_wished)
    starts = lay_out(task, order)
    best = _price(task, starts)
    improved = True
    while improved and clock() < until:
        improved = False
        for shot in list(order):
            rest = [other for other in order if other is not shot]
            for place in range(len(order)):
                if clock() >= until:
                    return starts
                tried = [*rest[:place], shot, *rest[place:]]
                laid = lay_out(task, tried)
                price = _price(task, laid)
                if price < best - 1e-9:
                    best, order, starts, improved = price, tried, laid, True
    return starts


def _wished(shot: ShotTask) -> float:
    if shot.wished_min is not None:
        return shot.wished_min
    return min((window.start for window in shot.windows), default=720)


def lay_out(task: DayTask, order: list[ShotTask]) -> dict[str, int]:
    """Give the shots of a sequence their times, each as near to its wish as what came before lets it.

    task: the day; order: the shots, one after the other. Returns minutes; late ones may run past the day's end.
    """
    starts: dict[str, int] = {}
    free = 0
    before: ShotTask | None = None
    camera_free: dict[str, int] = {}
    last_of: dict[str, ShotTask] = {}
    for shot in order:
        change = task.change_min(last_of[shot.camera], shot) if shot.camera in last_of else 0
        way = task.between_min(before, shot) if before else 0
        ready = max(free + way, camera_free.get(shot.camera, 0)) + change + shot.setup_min
        at = max(ready, shot.wished_min or 0)
        if not shot.lies_well(at):
            fits = [max(ready, w.start) for w in shot.windows if max(ready, w.start) + shot.length_min <= w.end]
            nearer = [min(max(ready, w.end - shot.length_min), at) for w in shot.windows]
            at = min([*fits, *(m for m in nearer if shot.lies_well(m))], key=lambda m: abs(m - at), default=at)
        starts[shot.key] = at
        free = at + shot.busy_min
        camera_free[shot.camera] = at + shot.length_min
        before = last_of[shot.camera] = shot
    return starts


def _price(task: DayTask, starts: dict[str, int]) -> float:
    missed = 0.0
    for shot in task.shots:
        at = starts[shot.key]
        if shot.must and not shot.lies_well(at):
            missed += 1.0
        if shot.fixed and at != shot.wished_min:
            missed += 1.0
        missed += max(0, at + shot.busy_min - task.length_min) / 60.0
    return MISSED_MUST_STOPS * missed + given_up_stops(task, starts)
