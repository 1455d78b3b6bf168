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
    return min((span.start for span in shot.may_lie or ()), default=720)


def lay_out(task: DayTask, order: list[ShotTask]) -> dict[str, int]:
    """Give the shots of a sequence their times, each as near to its wish as the others let it.

    task: the day; order: the shots, one after the other. Returns minutes; late ones may run past the day's end.
    """
    changes, ways = _gaps(task, order)
    latest = _latest(task, order, changes, ways)
    starts: dict[str, int] = {}
    free = 0
    camera_free: dict[str, int] = {}
    for n, shot in enumerate(order):
        ready = max(free + ways[n], camera_free.get(shot.camera, 0)) + changes[n] + shot.setup_min
        at = max(ready, min(shot.wished_min or 0, latest[n]))
        allowed = shot.windows if shot.fixed else shot.may_lie
        if allowed and not (shot.lies_well(at) and (shot.fixed or shot.has_its_light(at))):
            spans = [(max(ready, w.start), min(w.end - shot.length_min, max(latest[n], ready))) for w in allowed]
            near = [min(max(at, first), last) for first, last in spans if first <= last]
            at = min((m for m in near if shot.lies_well(m)), key=lambda m: abs(m - at), default=at)
        starts[shot.key] = at
        free = at + shot.busy_min
        camera_free[shot.camera] = at + shot.length_min
    return starts


def _gaps(task: DayTask, order: list[ShotTask]) -> tuple[list[int], list[int]]:
    """Minutes of change and of way before each shot of a sequence."""
    last_of: dict[str, ShotTask] = {}
    changes, ways = [], []
    before: ShotTask | None = None
    for shot in order:
        changes.append(task.change_min(last_of[shot.camera], shot) if shot.camera in last_of else 0)
        ways.append(task.between_min(before, shot) if before else 0)
        before = last_of[shot.camera] = shot
    return changes, ways


def _latest(task: DayTask, order: list[ShotTask], changes: list[int], ways: list[int]) -> list[int]:
    """The latest start of each shot with which those after it still meet their musts."""
    found = [0] * len(order)
    crew = task.length_min
    cameras: dict[str, int] = {}
    for n in range(len(order) - 1, -1, -1):
        shot = order[n]
        own = task.length_min - shot.busy_min
        if shot.must and shot.windows:
            own = min(own, max(w.end for w in shot.windows) - shot.length_min)
        if shot.hours and not shot.fixed:
            own = min(own, max(w.end for w in shot.hours) - shot.length_min)
        if shot.fixed and shot.wished_min is not None:
            own = min(own, shot.wished_min)
        found[n] = min(own, crew - shot.busy_min, cameras.get(shot.camera, 2 * task.length_min) - shot.length_min)
        ready = found[n] - shot.setup_min - changes[n]
        crew, cameras[shot.camera] = ready - ways[n], ready
    return found


def keeps_all(task: DayTask, starts: dict[str, int]) -> bool:
    """Whether every must of a day is met. task: the day; starts: minute of each shot, as `lay_out` gives them."""
    return _missed(task, starts) == 0.0


def _missed(task: DayTask, starts: dict[str, int]) -> float:
    missed = 0.0
    for shot in task.shots:
        at = starts[shot.key]
        if shot.must and not shot.lies_well(at):
            missed += 1.0
        if not shot.fixed and not shot.has_its_light(at):
            missed += 1.0
        if shot.fixed and at != shot.wished_min:
            missed += 1.0
        missed += max(0, at + shot.busy_min - task.length_min) / 60.0
    return missed


def _price(task: DayTask, starts: dict[str, int]) -> float:
    return MISSED_MUST_STOPS * _missed(task, starts) + given_up_stops(task, starts)
