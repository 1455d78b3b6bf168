"""Presets and quick buttons that leave the fewest taps between one shot and the next."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations
from math import comb, inf
from typing import Any

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.outing.planned import Outing, PlannedShot
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.shoot.shoot_file import PresetName

LONGEST_S = 10.0
Floats = NDArray[np.float64]
Ints = NDArray[Any]


class StoredPreset(Frozen):
    """What is stored under one number: the settings of a shot."""

    number: int
    name: str  # the shot's, or what a person calls it
    shot: str  # whose settings it holds
    values: dict[str, Any]
    used_by: tuple[str, ...]  # keys of the shots that begin from it


class Change(Frozen):
    """One dial to turn by hand."""

    dial: str
    value: Any
    quick: bool
    taps: int


class Step(Frozen):
    """How the camera is brought from the shot before to this one."""

    key: str
    title: str
    preset: int | None  # None goes on from the settings as they are
    changes: tuple[Change, ...]
    taps: int


class PresetPlan(Frozen):
    """Presets and quick buttons of one camera for a day."""

    camera: str
    name: str
    presets: tuple[StoredPreset, ...]
    quick: tuple[str, ...]  # dials on a button
    labels: dict[str, str]  # the menu's own words for its dials
    steps: tuple[Step, ...]
    taps: int
    taps_by_menu: int  # with neither presets nor quick buttons
    proven: bool


def named(plans: Sequence[PresetPlan], names: Sequence[PresetName]) -> tuple[PresetPlan, ...]:
    """The same presets as a person calls them. plans: of a day's cameras; names: kept with the day. Returns them."""
    said = {(entry.camera, entry.shot): entry.name for entry in names}
    return tuple(
        plan.model_copy(
            update={
                "presets": tuple(
                    preset.model_copy(update={"name": said.get((plan.camera, preset.shot), preset.shot)})
                    for preset in plan.presets
                )
            }
        )
        for plan in plans
    )


@dataclass(frozen=True)
class Task:
    """Settings to go through, and what turning costs; all that the search needs to know."""

    wanted: tuple[tuple[int, ...], ...]  # value of each dial, shot by shot
    menu_taps: tuple[int, ...]  # of each dial
    quick_taps: int
    preset_taps: int
    preset_count: int
    quick_count: int

    @property
    def distinct(self) -> list[tuple[int, ...]]:
        """Settings that differ, in the order in which they come."""
        return list(dict.fromkeys(self.wanted))

    def differ(self, have: tuple[int, ...] | None, want: tuple[int, ...]) -> list[int]:
        """Dials to turn. have: None for a camera of which nothing is known."""
        return [d for d in range(len(want)) if have is None or have[d] != want[d]]

    def taps_of(self, dial: int, quick: frozenset[int]) -> int:
        """What turning one dial takes."""
        return min(self.menu_taps[dial], self.quick_taps) if dial in quick else self.menu_taps[dial]


@dataclass(frozen=True)
class Answer:
    """Which settings are stored (as places in `distinct`), and which dials lie on a button."""

    stored: frozenset[int]
    quick: frozenset[int]
    proven: bool
    least: float | None = None  # taps that no choice gets below, where it is not proven


def cheapest_step(task: Task, shot: int, stored: frozenset[int], quick: frozenset[int]) -> tuple[int, int | None]:
    """The fewest taps to one shot. Returns them and the stored settings it begins from, None for going on."""
    distinct = task.distinct
    before = task.wanted[shot - 1] if shot else None

    def turning(have: tuple[int, ...] | None) -> int:
        return sum(task.taps_of(dial, quick) for dial in task.differ(have, task.wanted[shot]))

    going_on: tuple[int, int | None] = (turning(before), None)
    calling = [(task.preset_taps + turning(distinct[p]), p) for p in sorted(stored)]
    return min([going_on, *calling], key=lambda way: way[0])


def taps_in_all(task: Task, stored: frozenset[int], quick: frozenset[int]) -> int:
    """Taps of a whole day with these presets and buttons."""
    return sum(cheapest_step(task, shot, stored, quick)[0] for shot in range(len(task.wanted)))


@dataclass
class _Best:
    """The best choice so far, and what it comes to."""

    cost: float
    stored: frozenset[int]
    quick: frozenset[int]


# Taps count first, then presets, then buttons: whole numbers far enough apart for what a camera holds.
TAP, PRESET, BUTTON = 100_000, 100, 1
FEW_SETS = 600


Priced = Callable[[Floats], tuple[Floats, Floats]]


def day_priced(task: Task) -> Priced:
    """What the ways of a day cost, each gone once. task: what to go through. Returns, for what turning each dial takes, the taps of going on, shape
    (shots,), and of each stored preset, shape (presets, shots)."""
    wanted, distinct = np.array(task.wanted), np.array(task.distinct)
    before = np.vstack([np.full(wanted.shape[1], -1), wanted[:-1]])
    going = before != wanted  # shot, dial; of a camera of which nothing is known everything has to be turned
    calling = distinct[:, None, :] != wanted[None, :, :]  # preset, shot, dial
    return lambda cost: (going @ cost, task.preset_taps + calling @ cost)


def fewest_taps(
    task: Task, clock: Callable[[], float] | None = None, longest_s: float = LONGEST_S, priced: Priced | None = None
) -> Answer:
    """Choose presets and buttons, exactly.

    task: what to go through; clock: tells seconds, to stop in time, None never stops; longest_s: time allowed; priced: what the ways cost,
    those of a day unless given. Returns the choice with the fewest taps, then the fewest presets, then the fewest buttons; `proven` is False
    only where the time was up. A preset holds the settings of one of the shots, as people store them.

    For a set of buttons, taps saved by presets have falling returns: one more preset never saves more beside
    others than it does alone. So what is left after storing some, less the best single savings of the rest, is a
    lower bound, and whole families of sets fall away. Sets of buttons are tried in the order of that bound.
    """
    of_ways = priced or day_priced(task)
    wanted, distinct = np.array(task.wanted), task.distinct
    menu = np.array(task.menu_taps, dtype=float)
    saves = menu - np.minimum(menu, task.quick_taps)
    until = None if clock is None else clock() + longest_s
    best = _Best(inf, frozenset(), frozenset())
    few = _few_sets(len(distinct), task.preset_count)
    families = []
    for quick in _button_sets(task, wanted, saves):
        start, ways = _priced(of_ways, menu, saves, quick)
        base = float(start.sum()) + BUTTON * len(quick)
        bound = base - _most_saved(start, ways, task.preset_count)
        # Where few are to be tried the bound leads; else what a first guess comes to, so that a good choice is soon at hand.
        families.append(
            (bound if few is not None else base - _guessed(start, ways, task.preset_count), bound, quick, base)
        )
    families.sort(key=lambda family: family[0])
    prices: Floats | None = None
    for place, (_, bound, quick, base) in enumerate(families):
        if bound >= best.cost:
            if few is not None:
                break
            continue
        if until is not None and clock is not None and clock() > until:
            least = min(best.cost, *(left for _, left, _, _ in families[place:]))
            return Answer(best.stored, best.quick, proven=False, least=max(0.0, least / TAP))
        start, ways = _priced(of_ways, menu, saves, quick)
        if few is not None:
            _try_all(best, frozenset(quick), start, ways, base, few)
            continue
        shown, prices = _relaxed(start, ways, task.preset_count, best.cost - base + float(start.sum()), prices)
        if shown + base - float(start.sum()) < best.cost:
            _store(best, frozenset(quick), start, ways, base, task.preset_count)
    return Answer(best.stored, best.quick, proven=True)


ROUNDS = 40  # of the relaxation
FIRST_STEP, SHORTER = 1.0, 0.93


def _guessed(start: Floats, ways: Floats, count: int) -> float:
    """What presets save that are taken one after the other, each the best beside those before. Returns it."""
    now, saved = start, 0.0
    for _ in range(count):
        savings = _savings(now, ways)
        place = int(np.argmax(savings))
        if savings[place] <= 0.0:
            break
        saved += float(savings[place])
        now = np.minimum(now, ways[place])
    return saved


def _relaxed(start: Floats, ways: Floats, count: int, reached: float, prices: Floats | None) -> tuple[float, Floats]:
    """A bound that no choice of presets gets below: each way pays a price, and the presets that would pay for themselves most are had, each
    whole (Lagrange's relaxation of the median problem, source: cornuejols1977).

    start, ways: costs; count: of presets; reached: what is to be proven; prices: to begin with, those of the set before. Returns the bound and the
    prices.
    """
    now = start / 2.0 if prices is None else np.minimum(prices, start)
    best, step = -inf, FIRST_STEP
    found = now
    for _ in range(ROUNDS):
        under = np.minimum(0.0, ways - now)
        worth = under.sum(axis=1) + PRESET
        chosen = np.argsort(worth)[:count]
        chosen = chosen[worth[chosen] < 0.0]
        bound = float(now.sum() + worth[chosen].sum())
        if bound > best:
            best, found = bound, now
        if best >= reached:
            break
        slope = 1.0 - (under[chosen] < 0.0).sum(axis=0)
        slope = np.where((now >= start) & (slope > 0.0), 0.0, slope)
        steep = float(slope @ slope)
        if steep == 0.0:
            break
        gap = max(reached - bound, abs(bound) * 1e-4) if reached < inf else abs(bound) * 0.1 + 1.0
        now = np.minimum(start, now + step * gap / steep * slope)
        step *= SHORTER
    return best, found


def _priced(of_ways: Priced, menu: Floats, saves: Floats, quick: tuple[int, ...]) -> tuple[Floats, Floats]:
    """What the ways cost with some buttons, in parts of a tap."""
    cost = menu.copy()
    cost[list(quick)] -= saves[list(quick)]
    start, ways = of_ways(cost)
    return TAP * start, TAP * ways


def _button_sets(task: Task, wanted: Ints, saves: Floats) -> Iterator[tuple[int, ...]]:
    """Sets of dials worth a button. One that never changes is worth it for the first shot only, and then no more
    than any that does; so the few best of those are enough."""
    changing = (wanted != wanted[0]).any(axis=0)
    worth = [d for d in range(len(saves)) if saves[d] > 0]
    still = sorted((d for d in worth if not changing[d]), key=lambda d: -saves[d])[: task.quick_count]
    dials = sorted([*(d for d in worth if changing[d]), *still])
    for size in range(min(task.quick_count, len(dials)) + 1):
        yield from combinations(dials, size)


def _savings(start: Floats, ways: Floats) -> Floats:
    return np.asarray(np.maximum(0.0, start[None, :] - ways).sum(axis=1) - PRESET)


def _most_saved(start: Floats, ways: Floats, count: int) -> float:
    savings = np.sort(_savings(start, ways))[::-1][:count]
    return float(np.maximum(0.0, savings).sum())


def _few_sets(count: int, most: int) -> Ints | None:
    """Every set of presets as a row of places, padded with `count`, where they are few enough to try them all."""
    sizes = range(min(most, count) + 1)
    if sum(comb(count, size) for size in sizes) > FEW_SETS:
        return None
    rows = [[*places, *[count] * (most - size)] for size in sizes for places in combinations(range(count), size)]
    return np.array(rows, dtype=int).reshape(len(rows), most)


def _try_all(best: _Best, quick: frozenset[int], start: Floats, ways: Floats, base: float, sets: Ints) -> None:
    """Every set at once for one set of buttons; improves `best`."""
    reached = np.vstack([ways, start])
    cheapest = np.minimum(start, reached[sets].min(axis=1)) if sets.shape[1] else start[None, :]
    stored = (sets < len(ways)).sum(axis=1)
    costs = base - float(start.sum()) + cheapest.sum(axis=1) + PRESET * stored
    place = int(np.argmin(costs))
    if costs[place] < best.cost:
        best.cost, best.quick = float(costs[place]), quick
        best.stored = frozenset(int(n) for n in sets[place] if n < len(ways))


def _store(best: _Best, quick: frozenset[int], start: Floats, ways: Floats, base: float, count: int) -> None:
    """Branch and bound over the presets for one set of buttons; improves `best`."""
    waiting: list[tuple[Floats, float, list[int], frozenset[int]]] = [
        (start, base, list(range(len(ways))), frozenset())
    ]
    while waiting:
        now, cost, open_, stored = waiting.pop()
        if cost < best.cost:
            best.cost, best.stored, best.quick = cost, stored, quick
        left = count - len(stored)
        if not left or not open_:
            continue
        savings = _savings(now, ways[open_])
        order = np.argsort(-savings, kind="stable")
        if cost - float(np.maximum(0.0, savings[order[:left]]).sum()) >= best.cost:
            continue
        # Those that save nothing now will save nothing later.
        useful = [open_[n] for n in order if savings[n] > 0]
        if not useful:
            continue
        first, rest = useful[0], useful[1:]
        waiting.append((now, cost, rest, stored))
        after = np.minimum(now, ways[first])
        waiting.append((after, cost - float(savings[order[0]]), rest, stored | {first}))


def menu_taps(sheet: CameraSheet) -> dict[str, int]:
    """What changing a dial takes through the menu, from the waiting camera and back. Returns taps by dial."""
    taps = sheet.taps
    return {
        entry.dial: taps.menu + taps.page * place + taps.entry + taps.value
        for place, page in enumerate(sheet.menu)
        for entry in page.dials
        if not USUAL.dials[entry.dial].by_hand
    }


def presets_of(
    shots: Sequence[PlannedShot], clock: Callable[[], float] | None = None, longest_s: float = LONGEST_S
) -> PresetPlan:
    """Presets for the shots that one camera films.

    shots: of one camera, in the order in which they are filmed, one at least; clock, longest_s: as in
    `fewest_taps`.
    Returns the presets, the quick buttons, and how each shot is reached.
    """
    sheet = shots[0].sheet
    by_menu = menu_taps(sheet)
    dials = [dial for dial in by_menu if all(dial in shot.plan.chosen for shot in shots)]
    rows = [tuple(shot.plan.chosen[dial] for dial in dials) for shot in shots]
    numbers = [{value: n for n, value in enumerate(dict.fromkeys(column))} for column in zip(*rows, strict=True)]
    task = Task(
        wanted=tuple(tuple(numbers[d][value] for d, value in enumerate(row)) for row in rows),
        menu_taps=tuple(by_menu[dial] for dial in dials),
        quick_taps=sheet.taps.quick,
        preset_taps=sheet.taps.preset,
        preset_count=sheet.preset_count,
        quick_count=sheet.quick_buttons,
    )
    found = fewest_taps(task, clock, longest_s)
    return _preset_plan(shots, dials, task, found)


def _preset_plan(shots: Sequence[PlannedShot], dials: Sequence[str], task: Task, found: Answer) -> PresetPlan:
    sheet = shots[0].sheet
    reached = [cheapest_step(task, n, found.stored, found.quick) for n in range(len(shots))]
    uses = {place: [n for n, (_, begun) in enumerate(reached) if begun == place] for place in found.stored}
    # Those called most come first; among equals, those needed first.
    ordered = sorted((p for p in uses if uses[p]), key=lambda p: (-len(uses[p]), uses[p][0]))
    number = {place: n for n, place in enumerate(ordered, start=1)}
    first = {place: task.wanted.index(task.distinct[place]) for place in ordered}
    steps = []
    for n, (taps, begun) in enumerate(reached):
        have = task.distinct[begun] if begun is not None else task.wanted[n - 1] if n else None
        changes = tuple(
            Change(
                dial=dials[d],
                value=shots[n].plan.chosen[dials[d]],
                quick=d in found.quick,
                taps=task.taps_of(d, found.quick),
            )
            for d in task.differ(have, task.wanted[n])
        )
        steps.append(
            Step(
                key=shots[n].key,
                title=shots[n].brief.title,
                preset=None if begun is None else number[begun],
                changes=changes,
                taps=taps,
            )
        )
    nothing: frozenset[int] = frozenset()
    return PresetPlan(
        camera=sheet.id,
        name=sheet.name,
        presets=tuple(
            StoredPreset(
                number=number[place],
                name=shots[first[place]].brief.title,
                shot=shots[first[place]].brief.title,
                values={dial: shots[first[place]].plan.chosen[dial] for dial in dials},
                used_by=tuple(shots[n].key for n in uses[place]),
            )
            for place in ordered
        ),
        quick=tuple(dials[d] for d in sorted(found.quick)),
        labels={dial: sheet.labels()[dial].label for dial in dials},
        steps=tuple(steps),
        taps=sum(taps for taps, _ in reached),
        taps_by_menu=taps_in_all(task, nothing, nothing),
        proven=found.proven,
    )


def presets_of_day(outing: Outing, clock: Callable[[], float] | None = None) -> tuple[PresetPlan, ...]:
    """Presets of every camera that is used. outing: the planned day; clock: as in `fewest_taps`."""
    cameras = dict.fromkeys(shot.sheet.id for shot in outing.shots)
    return tuple(presets_of([shot for shot in outing.shots if shot.sheet.id == name], clock) for name in cameras)
