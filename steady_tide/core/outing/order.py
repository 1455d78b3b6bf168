"""The order of the day: a feasible one that gives up least, with a proof or the gap stated."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from math import inf
from threading import Event, Thread
from typing import Any, Literal

from pydantic import Field

from steady_tide.core.outing.day_task import FINE, DayTask, ShotTask, given_up_stops, light_at
from steady_tide.core.outing.order_guess import guess, keeps_all
from steady_tide.core.outing.order_model import Must, hint, model_of
from steady_tide.core.quantities.frozen import Frozen

LONGEST_S = 10.0
GUESS_SHARE = 0.15  # of the time, for a first order by trying moves
SHORT_TRY_S, LONG_TRY_S = 2.0, 8.0
WORKERS = 2
LOOKS_EVERY_S = 0.05


class Placed(Frozen):
    """One shot in its place."""

    key: str
    title: str
    starts_at: datetime
    ends_at: datetime
    moved_min: int | None  # against where it stood; None where it stood nowhere
    on_the_way_min: int  # from the shot before
    change_min: int  # glass or housing of its own camera
    missed_window: bool
    missed_light: bool = False  # the day has no such light then; only of one whose time is fixed
    light_stops: float | None


class Progress(Frozen):
    """How far the search has come."""

    elapsed_s: float
    given_up_stops: float | None
    at_least_stops: float | None
    solutions: int


class Clash(Frozen):
    """A wish that cannot be had beside the others. code: which sentence; title: of its shot; facts: times, lengths."""

    code: Literal[
        "begins",
        "window",
        "light",
        "no_such_light",
        "light_too_short",
        "window_too_short",
        "day_too_short",
        "shots_too_long",
    ]
    title: str = ""
    facts: dict[str, Any] = Field(default_factory=dict)


class DayOrder(Frozen):
    """An order of the day, or why there is none."""

    feasible: bool
    proven: bool
    given_up_stops: float | None
    at_least_stops: float | None  # no order gives up less
    shots: tuple[Placed, ...]
    clash: tuple[Clash, ...]  # wishes that cannot all be had
    left_out: tuple[Clash, ...] = ()  # shots whose light the day does not have; the others are ordered without them
    unseen: tuple[str, ...] = ()  # titles of those whose light hangs on the hour, where nobody knows the place
    seconds: float
    cancelled: bool = False


Report = Callable[[Progress], None]


class Stopping:
    """Ends a search from another thread; looked at before and within each of its steps."""

    def __init__(self) -> None:
        self._asked = False

    @property
    def asked(self) -> bool:
        """Whether it is to end."""
        return self._asked

    def stop(self) -> None:
        """End it with what it has."""
        self._asked = True

    def solved(self, solver: Any, model: Any, watch: Any = None) -> Any:
        """Let a solver work until it is done or stopped. Returns its status."""
        if self._asked:
            solver.parameters.max_time_in_seconds = 0.0
        done = Event()

        def look() -> None:
            # Again and again: a solver that has not quite begun does not hear it.
            while not done.wait(LOOKS_EVERY_S):
                if self._asked:
                    solver.stop_search()

        Thread(target=look, name="order-stop", daemon=True).start()
        try:
            return solver.solve(model, watch)
        finally:
            done.set()


def order_of(
    task: DayTask,
    clock: Callable[[], float],
    longest_s: float = LONGEST_S,
    report: Report | None = None,
    stopping: Stopping | None = None,
    workers: int = WORKERS,
) -> DayOrder:
    """Find the order that gives up least.

    task: the day; clock: tells seconds; longest_s: time allowed; report: hears of every better order; stopping: ends
    the search early with what it has; workers: threads of the solver. Returns the order, without shots whose light the
    day does not have; where the day cannot be had, a smallest set of musts that exclude each other.
    """
    lost = {shot.key: clash for shot in task.shots if (clash := _without_light(shot)) is not None}
    rest = replace(task, shots=tuple(shot for shot in task.shots if shot.key not in lost))
    found = _ordered(rest, clock, longest_s, report, stopping or Stopping(), workers)
    return found.model_copy(update={"left_out": tuple(lost.values()), "unseen": task.unseen})


def _ordered(
    task: DayTask,
    clock: Callable[[], float],
    longest_s: float,
    report: Report | None,
    stopping: Stopping,
    workers: int,
) -> DayOrder:
    """The order of shots that the day can have one by one."""
    alone = _impossible_alone(task)
    if alone:
        return DayOrder(
            feasible=False, proven=True, given_up_stops=None, at_least_stops=None, shots=(), clash=alone, seconds=0.0
        )
    # A library's constraint solver; it takes a second to load, so it is loaded when there is a day to order.
    from ortools.sat.python import cp_model

    began = clock()
    built = model_of(task, cp_model)
    guessed = guess(task, lambda: inf if stopping.asked else clock(), began + GUESS_SHARE * longest_s)
    hint(built, task, guessed)
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = max(0.1, longest_s - (clock() - began))
    solver.parameters.num_workers = workers

    class Watch(cp_model.CpSolverSolutionCallback):
        """Hears of every better order."""

        found = 0

        def on_solution_callback(self) -> None:
            self.found += 1
            if report is not None:
                report(
                    Progress(
                        elapsed_s=clock() - began,
                        given_up_stops=self.objective_value / FINE,
                        at_least_stops=max(0.0, self.best_objective_bound / FINE),
                        solutions=self.found,
                    )
                )

    status = stopping.solved(solver, built.model, Watch())
    unsolved = status == cp_model.UNKNOWN and not stopping.asked
    if status == cp_model.INFEASIBLE or (unsolved and _excluded(task, cp_model, None, stopping)):
        return DayOrder(
            feasible=False,
            proven=True,
            given_up_stops=None,
            at_least_stops=None,
            shots=(),
            clash=_smallest_clash(task, cp_model, stopping),
            seconds=clock() - began,
        )
    found = status in (cp_model.OPTIMAL, cp_model.FEASIBLE)
    if not found and not keeps_all(task, guessed):
        return DayOrder(
            feasible=False,
            proven=False,
            given_up_stops=None,
            at_least_stops=None,
            shots=(),
            clash=(),
            seconds=clock() - began,
            cancelled=stopping.asked,
        )
    starts = {shot.key: int(solver.value(built.starts[shot.key])) for shot in task.shots} if found else guessed
    given_up = given_up_stops(task, starts)
    return DayOrder(
        feasible=True,
        proven=status == cp_model.OPTIMAL,
        given_up_stops=given_up,
        at_least_stops=given_up
        if status == cp_model.OPTIMAL
        else max(0.0, min(given_up, solver.best_objective_bound / FINE)),
        shots=_placed(task, starts),
        clash=(),
        seconds=clock() - began,
        cancelled=stopping.asked,
    )


def _without_light(shot: ShotTask) -> Clash | None:
    """What a day lacks whose sky never has a shot's light, or not for as long as it takes."""
    if shot.hours is None or shot.fixed:
        return None
    longest = max((span.end - span.start for span in shot.hours), default=0)
    if longest >= shot.length_min:
        return None
    facts = {"light": shot.light_name, "takes_min": shot.length_min, "there_min": longest}
    return Clash(code="light_too_short" if longest > 0 else "no_such_light", title=shot.title, facts=facts)


def _impossible_alone(task: DayTask) -> tuple[Clash, ...]:
    """Shots that nothing else keeps from their place."""
    for shot in task.shots:
        if shot.must and shot.windows and all(w.end - w.start < shot.length_min for w in shot.windows):
            longest = max(w.end - w.start for w in shot.windows)
            facts = {"takes_min": shot.length_min, "there_min": max(0, longest), "windows": _windows(task, shot)}
            return (Clash(code="window_too_short", title=shot.title, facts=facts),)
        if shot.setup_min + shot.length_min > task.length_min:
            facts = {"takes_min": shot.length_min, "there_min": task.length_min}
            return (Clash(code="day_too_short", title=shot.title, facts=facts),)
    return ()


def _windows(task: DayTask, shot: ShotTask) -> list[dict[str, Any]]:
    """Its windows with their clock times at the place; one that the day does not offer has none."""
    return [
        {
            "name": window.name,
            "typed": window.typed,
            "from": task.clock(window.start) if window.start >= 0 else None,
            "to": task.clock(window.end) if window.start >= 0 else None,
        }
        for window in shot.windows
    ]


def _smallest_clash(task: DayTask, cp: Any, stopping: Stopping) -> tuple[Clash, ...]:
    """Musts that exclude each other, none of which can be left out; some more where it was stopped."""
    musts: dict[Must, Any] = {}
    model_of(task, cp, musts, with_price=False)
    needed = list(musts)
    # Among fewer musts more is proven in the same time, so what was kept for want of it is tried once more; and what is
    # left in the end gets more time, which only a busy machine needs.
    for try_s in (SHORT_TRY_S, LONG_TRY_S):
        before = -1
        while len(needed) != before:
            before = len(needed)
            for must in list(needed):
                trial = [other for other in needed if other != must]
                if not stopping.asked and _excluded(task, cp, trial, stopping, try_s):
                    needed = trial
    if not needed:
        total = sum(shot.setup_min + (shot.length_min if shot.attended else 0) for shot in task.shots)
        return (Clash(code="shots_too_long", facts={"takes_min": total, "there_min": task.length_min}),)
    by_key = {shot.key: shot for shot in task.shots}
    return tuple(_clash(task, must, by_key[must[1]]) for must in needed)


def _clash(task: DayTask, must: Must, shot: ShotTask) -> Clash:
    if must[0] == "begins":
        return Clash(code="begins", title=shot.title, facts={"at": task.clock(shot.wished_min or 0)})
    if must[0] == "light":
        hours = [{"from": task.clock(span.start), "to": task.clock(span.end)} for span in shot.hours or ()]
        return Clash(code="light", title=shot.title, facts={"light": shot.light_name, "hours": hours})
    return Clash(code="window", title=shot.title, facts={"windows": _windows(task, shot)})


def _excluded(
    task: DayTask, cp: Any, names: Sequence[Must] | None, stopping: Stopping, try_s: float = SHORT_TRY_S
) -> bool:
    """Whether these musts, or all, exclude each other, as far as can be told in a short time without prices."""
    musts: dict[Must, Any] = {}
    built = model_of(task, cp, musts, with_price=False)
    built.model.clear_assumptions()
    for name, literal in musts.items():
        built.model.add(literal == (names is None or name in names))
    solver = cp.CpSolver()
    solver.parameters.max_time_in_seconds = try_s
    solver.parameters.num_workers = WORKERS
    return bool(stopping.solved(solver, built.model) == cp.INFEASIBLE)


def _placed(task: DayTask, starts: dict[str, int]) -> tuple[Placed, ...]:
    in_order = sorted(task.shots, key=lambda shot: starts[shot.key])
    before: ShotTask | None = None
    last_of: dict[str, ShotTask] = {}
    found = []
    for shot in in_order:
        at = starts[shot.key]
        found.append(
            Placed(
                key=shot.key,
                title=shot.title,
                starts_at=(task.begin + timedelta(minutes=at)).astimezone(UTC),
                ends_at=(task.begin + timedelta(minutes=at + shot.length_min)).astimezone(UTC),
                moved_min=None if shot.wished_min is None else at - shot.wished_min,
                on_the_way_min=0 if before is None else task.between_min(before, shot),
                change_min=task.change_min(last_of[shot.camera], shot) if shot.camera in last_of else 0,
                missed_window=not shot.lies_well(at),
                missed_light=not shot.has_its_light(at),
                light_stops=light_at(shot, at),
            )
        )
        before = last_of[shot.camera] = shot
    return tuple(found)
