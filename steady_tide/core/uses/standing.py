"""Presets that stay on a camera: the fewest taps that are expected over a year, not over one day."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import inf
from typing import Any, Protocol

import numpy as np

from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.outing.presets import LONGEST_S, Answer, Floats, Task, fewest_taps, menu_taps
from steady_tide.core.planning.plan import Plan
from steady_tide.core.quantities.frozen import Frozen


@dataclass(frozen=True)
class PlannedUse:
    """A use with its plan on one camera. per_year: how often it is filmed."""

    id: str
    name: str
    per_year: float
    plan: Plan


class StandingPreset(Frozen):
    """What is stored under one number. use: whose settings it holds; serves: uses that begin from it, with the dials that are turned
    after it."""

    number: int
    use: str
    name: str
    values: dict[str, Any]
    serves: dict[str, tuple[str, ...]]


class StandingUse(Frozen):
    """How a use is reached. preset: its number, None where one goes on from whatever was filmed before; turned: dials after it; taps: expected,
    each time."""

    id: str
    name: str
    per_year: float
    preset: int | None
    turned: tuple[str, ...]
    taps: float


class Standing(Frozen):
    """Presets and quick buttons of one camera for a year. taps: expected in a year; by_menu: without presets and buttons; least: that no choice
    gets below; labels: the menu's own words."""

    camera: str
    name: str
    preset_count: int
    presets: tuple[StandingPreset, ...]
    quick: tuple[str, ...]
    labels: dict[str, str]
    uses: tuple[StandingUse, ...]
    taps: float
    by_menu: float
    proven: bool
    least: float


class Priced(Protocol):
    """What ways cost, for what turning each dial takes."""

    def __call__(self, cost: Floats, preset_taps: float = 0.0) -> tuple[Floats, Floats]: ...


def year_priced(wanted: Sequence[tuple[int, ...]], per_year: Sequence[float]) -> Priced:
    """What the ways of a year cost: before each use any of them was filmed, as often as it is.

    wanted: value of each dial, use by use; per_year: how often each is filmed. Returns, for what turning each dial takes, the expected taps of a year
    without presets, shape (uses,), and with one alone, shape (presets, uses). A preset costs the same from wherever one comes, so that of several the
    cheapest counts, whatever came before.
    """
    rows = np.array(wanted)
    distinct = np.array(list(dict.fromkeys(wanted)))
    often = np.array(per_year, dtype=float)
    share = chance_of(per_year)
    apart = rows[:, None, :] != rows[None, :, :]  # before, after, dial
    called = distinct[:, None, :] != rows[None, :, :]  # preset, after, dial

    def priced(cost: Floats, preset_taps: float = 0.0) -> tuple[Floats, Floats]:
        going, calling = apart @ cost, preset_taps + called @ cost
        reached = np.minimum(going[None, :, :], calling[:, None, :])  # preset, before, after
        return often * (share @ going), often * np.einsum("b,pba->pa", share, reached)

    return priced


def chance_of(per_year: Sequence[float]) -> Floats:
    """With which chance each use was filmed last. Returns shares."""
    often = np.array(per_year, dtype=float)
    total = float(often.sum())
    return np.asarray(often / total if total > 0.0 else np.full(len(often), 1.0 / len(often)))


def expected_taps(task: Task, per_year: Sequence[float], stored: frozenset[int], quick: frozenset[int]) -> float:
    """Taps that are expected in a year with some presets (places in the task's distinct settings) and buttons, added up use by use. Returns them."""
    share, distinct = chance_of(per_year), task.distinct

    def turning(have: tuple[int, ...], want: tuple[int, ...]) -> int:
        return sum(task.taps_of(dial, quick) for dial in task.differ(have, want))

    total = 0.0
    for after, often in zip(task.wanted, per_year, strict=True):
        calling = min((task.preset_taps + turning(distinct[place], after) for place in stored), default=inf)
        total += often * sum(
            chance * min(turning(before, after), calling) for chance, before in zip(share, task.wanted, strict=True)
        )
    return total


def standing_of(
    sheet: CameraSheet,
    uses: Sequence[PlannedUse],
    clock: Callable[[], float] | None = None,
    longest_s: float = LONGEST_S,
) -> Standing:
    """Choose a camera's standing presets.

    sheet: of the camera; uses: planned on it, one at least; clock, longest_s: as for `fewest_taps`. What was filmed before is any of the uses, as
    often as it is filmed. Returns the choice with the fewest expected taps; `least` is a bound where the time was up.
    """
    by_menu = menu_taps(sheet)
    dials = [dial for dial in by_menu if all(dial in use.plan.chosen for use in uses)]
    rows = [tuple(use.plan.chosen[dial] for dial in dials) for use in uses]
    numbers = [
        {_key(value): n for n, value in enumerate(dict.fromkeys(map(_key, column)))}
        for column in zip(*rows, strict=True)
    ]
    wanted = [tuple(numbers[d][_key(value)] for d, value in enumerate(row)) for row in rows]
    per_year = [use.per_year for use in uses]
    task = Task(
        wanted=tuple(wanted),
        menu_taps=tuple(by_menu[dial] for dial in dials),
        quick_taps=sheet.taps.quick,
        preset_taps=sheet.taps.preset,
        preset_count=sheet.preset_count,
        quick_count=sheet.quick_buttons,
    )
    of_year = year_priced(task.wanted, per_year)
    found = fewest_taps(task, clock, longest_s, lambda cost: of_year(cost, task.preset_taps))
    return _standing_presets(sheet, uses, dials, task, found)


def _key(value: Any) -> Any:
    return tuple(value) if isinstance(value, list) else value


def _standing_presets(
    sheet: CameraSheet, uses: Sequence[PlannedUse], dials: Sequence[str], task: Task, found: Answer
) -> Standing:
    cost = np.array([task.taps_of(dial, found.quick) for dial in range(len(dials))], dtype=float)
    distinct = task.distinct
    per_year = [use.per_year for use in uses]
    often, share = np.array(per_year), chance_of(per_year)
    reached = []
    for after, _ in enumerate(uses):
        going = np.array(
            [sum(cost[d] for d in task.differ(task.wanted[before], task.wanted[after])) for before in range(len(uses))]
        )
        called = {
            place: task.preset_taps + sum(cost[d] for d in task.differ(distinct[place], task.wanted[after]))
            for place in found.stored
        }
        place = min(called, key=lambda one: (called[one], one), default=None)
        taps = float(share @ (going if place is None else np.minimum(going, called[place])))
        # It begins from a preset unless going on is the better way from most.
        mostly = place is not None and float(share @ (called[place] <= going)) >= 0.5
        reached.append((place if mostly else None, taps))
    serves: dict[int, list[int]] = {}
    for n, (place, _) in enumerate(reached):
        if place is not None:
            serves.setdefault(place, []).append(n)
    for place in found.stored:
        serves.setdefault(place, [])
    ordered = sorted(serves, key=lambda place: (-sum(often[n] for n in serves[place]), place))
    number = {place: n for n, place in enumerate(ordered, start=1)}
    whose = {place: task.wanted.index(distinct[place]) for place in ordered}
    turned = [
        () if place is None else tuple(dials[d] for d in task.differ(distinct[place], task.wanted[n]))
        for n, (place, _) in enumerate(reached)
    ]
    labels = sheet.labels()
    nothing: frozenset[int] = frozenset()
    taps = expected_taps(task, per_year, found.stored, found.quick)
    return Standing(
        camera=sheet.id,
        name=sheet.name,
        preset_count=sheet.preset_count,
        presets=tuple(
            StandingPreset(
                number=number[place],
                use=uses[whose[place]].id,
                name=uses[whose[place]].name,
                values={dial: uses[whose[place]].plan.chosen[dial] for dial in dials},
                serves={uses[n].id: turned[n] for n in serves[place]},
            )
            for place in ordered
        ),
        quick=tuple(dials[d] for d in sorted(found.quick)),
        labels={dial: labels[dial].label for dial in dials},
        uses=tuple(
            StandingUse(
                id=use.id,
                name=use.name,
                per_year=use.per_year,
                preset=None if place is None else number[place],
                turned=turned[n],
                taps=each,
            )
            for n, (use, (place, each)) in enumerate(zip(uses, reached, strict=True))
        ),
        taps=taps,
        by_menu=expected_taps(task, per_year, nothing, nothing),
        proven=found.proven,
        least=taps if found.least is None else min(taps, found.least),
    )
