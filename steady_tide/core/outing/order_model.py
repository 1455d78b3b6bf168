"""The order of a day as constraints for a solver."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import combinations, pairwise
from math import inf
from typing import Any

from steady_tide.core.outing.day_task import FINE, DayTask, ShotTask, Span

Must = tuple[str, str]  # what must be, `begins`, `window` or `light`, and the shot that asks for it


@dataclass
class DayModel:
    """The constraints, with what is asked of them."""

    model: Any
    starts: dict[str, Any]
    changes: dict[str, Any]
    chains: list[tuple[list[ShotTask], dict[tuple[str, str], Any]]]  # shots, arcs between keys; "" is nobody


def model_of(task: DayTask, cp: Any, musts: dict[Must, Any] | None = None, with_price: bool = True) -> DayModel:
    """The day as constraints. musts: filled with one literal for each must that may be dropped, where wanted."""
    model = cp.CpModel()
    shots = task.shots
    ready, starts, over, changes = {}, {}, {}, {}
    price: list[Any] = []

    def must(name: Must) -> Any:
        if musts is None:
            return None
        if name not in musts:
            musts[name] = model.new_bool_var(" ".join(name))
        return musts[name]

    def hold(constraint: Any, literals: Sequence[Any]) -> None:
        held = [literal for literal in literals if literal is not None]
        if held:
            constraint.only_enforce_if(held)

    for shot in shots:
        most = max((task.change_min(other, shot) for other in shots if other.camera == shot.camera), default=0)
        latest = task.length_min - shot.busy_min
        starts[shot.key] = model.new_int_var(shot.setup_min, max(shot.setup_min, latest), f"start {shot.key}")
        changes[shot.key] = model.new_int_var(0, most, f"change {shot.key}")
        ready[shot.key] = starts[shot.key] - shot.setup_min - changes[shot.key]
        model.add(ready[shot.key] >= 0)
        over[shot.key] = starts[shot.key] + shot.busy_min
        if shot.fixed and shot.wished_min is not None:
            hold(
                model.add(starts[shot.key] == shot.wished_min),
                [must(("begins", shot.key))],
            )
        elif shot.wished_min is not None and with_price:
            moved = model.new_int_var(0, task.length_min, f"moved {shot.key}")
            model.add_abs_equality(moved, starts[shot.key] - shot.wished_min)
            price.append(round(task.prices.moved_per_h * FINE / 60.0) * moved)
        if shot.hours is not None and not shot.fixed:
            hold(
                model.add_bool_or(_inside(model, shot, starts[shot.key], shot.hours, "light")),
                [must(("light", shot.key))],
            )
        if shot.windows:
            inside = _inside(model, shot, starts[shot.key], shot.windows, "window")
            if shot.must:
                hold(model.add_bool_or(inside), [must(("window", shot.key))])
            else:
                missed = model.new_bool_var(f"missed {shot.key}")
                model.add_bool_or([*inside, missed])
                price.append(round(shot.wish_stops * FINE) * missed)
        if shot.light_stops and with_price:
            price.append(_light_price(model, shot, starts[shot.key], task.length_min))

    chains = []
    on_the_way, arcs_of_all = _circuit(
        model,
        shots,
        lambda before, after, arc: model.add(
            ready[after.key] >= over[before.key] + task.between_min(before, after)
        ).only_enforce_if(arc),
    )
    chains.append((list(shots), arcs_of_all))
    _apart(model, task, starts, arcs_of_all)
    _no_overlap(model, task, shots, starts, lambda shot: shot.busy_min)
    price += [
        round(task.prices.on_the_way_per_h * FINE / 60.0) * task.between_min(before, after) * arc
        for before, after, arc in on_the_way
    ]
    for camera in dict.fromkeys(shot.camera for shot in shots):
        mine = [shot for shot in shots if shot.camera == camera]

        def follow(before: ShotTask, after: ShotTask, arc: Any) -> None:
            model.add(ready[after.key] >= starts[before.key] + before.length_min).only_enforce_if(arc)
            model.add(changes[after.key] == task.change_min(before, after)).only_enforce_if(arc)

        pairs, arcs = _circuit(model, mine, follow)
        chains.append((mine, arcs))
        _no_overlap(model, task, mine, starts, lambda shot: shot.length_min)
        for before, after, arc in pairs:
            minutes = round(task.prices.on_the_way_per_h * FINE / 60.0) * task.change_min(before, after)
            opened = round(task.prices.opened_housing * FINE) * (before.housing != after.housing)
            if minutes + opened:
                price.append((minutes + opened) * arc)
    if shots and with_price:
        end = model.new_int_var(0, task.length_min + max(shot.length_min for shot in shots), "end")
        for shot in shots:
            model.add(end >= starts[shot.key] + shot.length_min)
        first = model.new_int_var(0, task.length_min, "first")
        for shot in shots:
            model.add(first <= starts[shot.key] - shot.setup_min)
        price.append(round(task.prices.later_per_h * FINE / 60.0) * end)
        price.append(round(task.prices.longer_per_h * FINE / 60.0) * (end - first))
    if with_price and price:
        model.minimize(sum(price))
    if musts:
        model.add_assumptions(list(musts.values()))
    return DayModel(model, starts, changes, chains)


def _inside(model: Any, shot: ShotTask, start: Any, spans: Sequence[Span], what: str) -> list[Any]:
    """One truth for each span that a shot may lie in, which holds it there."""
    found = []
    for n, span in enumerate(spans):
        lies = model.new_bool_var(f"{what} {shot.key} {n}")
        model.add(start >= span.start).only_enforce_if(lies)
        model.add(start + shot.length_min <= span.end).only_enforce_if(lies)
        found.append(lies)
    return found


def _light_price(model: Any, shot: ShotTask, start: Any, length_min: int) -> Any:
    edges = [*[begins for begins, _ in shot.light_stops][1:], length_min + 1]
    begin, terms, slots = 0, [], []
    for n, (edge, (_, stops)) in enumerate(zip(edges, shot.light_stops, strict=True)):
        slot = model.new_bool_var(f"light {shot.key} {n}")
        model.add(start >= begin).only_enforce_if(slot)
        model.add(start < edge).only_enforce_if(slot)
        slots.append(slot)
        terms.append(round(stops * FINE) * slot)
        begin = edge
    model.add_exactly_one(slots)
    return sum(terms)


def _circuit(
    model: Any, shots: Sequence[ShotTask], tie: Callable[[ShotTask, ShotTask, Any], Any]
) -> tuple[list[tuple[ShotTask, ShotTask, Any]], dict[tuple[str, str], Any]]:
    """One after the other, beginning and ending at nobody. tie: what a pair in a row demands.

    Returns the pairs, and all arcs by their two keys, "" for nobody.
    """
    arcs: dict[tuple[str, str], Any] = {}
    places = {"": 0, **{shot.key: n for n, shot in enumerate(shots, start=1)}}
    pairs = []
    for shot in shots:
        arcs["", shot.key] = model.new_bool_var(f"first {shot.key}")
        arcs[shot.key, ""] = model.new_bool_var(f"last {shot.key}")
        for other in shots:
            if other is not shot:
                arc = arcs[shot.key, other.key] = model.new_bool_var(f"{shot.key} then {other.key}")
                tie(shot, other, arc)
                pairs.append((shot, other, arc))
    if shots:
        model.add_circuit([(places[a], places[b], arc) for (a, b), arc in arcs.items()])
    return pairs, arcs


def _apart(model: Any, task: DayTask, starts: dict[str, Any], arcs: dict[tuple[str, str], Any]) -> None:
    """Said of every pair, near or far in the row: whoever comes first leaves the other at least this much time.

    What is filmed between two shots only adds to the way and the changes between them, so the shortest way through
    others bounds both from below. The chain says all this too, but a solver sees it one link at a time.
    """
    shots = task.shots
    way = _shortest([[float(task.between_min(a, b)) for b in shots] for a in shots])
    change = _shortest([[float(task.change_min(a, b)) if a.camera == b.camera else inf for b in shots] for a in shots])
    for (i, first), (j, second) in combinations(enumerate(shots), 2):
        forth = model.new_bool_var(f"{first.key} before {second.key}")
        for before, after, x, y, holds in ((first, second, i, j, forth), (second, first, j, i, forth.negated())):
            changed = int(change[x][y]) if before.camera == after.camera else 0
            least = before.busy_min + int(way[x][y]) + changed + after.setup_min
            if before.camera == after.camera:
                least = max(least, before.length_min + changed + after.setup_min)
            model.add(starts[after.key] >= starts[before.key] + least).only_enforce_if(holds)
            model.add_implication(arcs[before.key, after.key], holds)


def _shortest(costs: list[list[float]]) -> list[list[float]]:
    """Shortest ways between all pairs (Floyd and Warshall). Returns them."""
    found = [list(row) for row in costs]
    for k in range(len(found)):
        for row in found:
            for j, through in enumerate(found[k]):
                row[j] = min(row[j], row[k] + through)
    return found


def _no_overlap(
    model: Any, task: DayTask, shots: Sequence[ShotTask], starts: dict[str, Any], lasts: Callable[[ShotTask], int]
) -> None:
    """Said twice, since a solver sees through one thing at a time better than through a chain."""
    model.add_no_overlap(
        [
            model.new_fixed_size_interval_var(
                starts[shot.key] - shot.setup_min, shot.setup_min + lasts(shot), f"bound {shot.key}"
            )
            for shot in shots
        ]
    )


def hint(day: DayModel, task: DayTask, starts: dict[str, int]) -> None:
    """Tell a solver an order to begin from. day: the model; task: the day; starts: minute of each shot."""
    for key, minute in starts.items():
        day.model.add_hint(day.starts[key], minute)
    for n, (shots, arcs) in enumerate(day.chains):
        row = sorted(shots, key=lambda shot: starts[shot.key])
        keys = ["", *(shot.key for shot in row), ""]
        used = set(pairwise(keys))
        for pair, arc in arcs.items():
            day.model.add_hint(arc, pair in used)
        if n:  # a camera's own row says what is changed on it
            for before, after in zip([None, *row], row, strict=False):
                change = task.change_min(before, after) if before else 0
                day.model.add_hint(day.changes[after.key], change)
