"""Reasons, made from the numbers that decided.

For each dial the value of the runner-up is found, the cheapest plan with another value. The plan is then held against
its nearest rival: the one with that value that differs in as little else as can be. The item whose price rises most is
what decided. Where the cheapest one turns other dials, too, they are named.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from steady_tide.core.planning.camera_problem import CameraProblem
from steady_tide.core.planning.comparison import Comparison
from steady_tide.core.planning.nearest import turned_besides
from steady_tide.core.planning.pinning import Dial
from steady_tide.core.planning.plan import Cited, Lead, Reason
from steady_tide.core.planning.priced_choice import Choice, Priced
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.solution import Solution
from steady_tide.core.planning.space import Floats


@dataclass(frozen=True)
class Contest:
    """A dial's values with their least prices, and the combination that holds the second place."""

    dial: Dial
    prices: Floats
    own: int
    second: int | None
    rival: Choice | None


def contest(dial: Dial, solution: Solution, own: int) -> Contest:
    """Find the runner-up of a dial.

    dial: one dial; solution: with that dial free; own: place of the chosen value. Returns the contest.
    """
    prices = np.full(len(dial.values), np.inf)
    np.minimum.at(prices, dial.of_candidate, solution.minima[dial.block])
    others = prices.copy()
    others[own] = np.inf
    second = int(np.argmin(others))
    if not np.isfinite(others[second]):
        return Contest(dial, prices, own, None, None)
    return Contest(dial, prices, own, second, solution.best(dial.block, np.flatnonzero(dial.of_candidate == second)))


@dataclass(frozen=True)
class Rivals:
    """The cheapest plan with another value, and the one that differs in this dial and as little else as can be; None
    where turning it makes other dials illegal."""

    cheapest: Priced
    near: Priced | None


def decider(at: Situation, dial: Dial, ours: Priced, theirs: Priced, any_item: bool = False) -> str | None:
    """The item whose price rises most in the rival plan: of the dial's own, or of all.

    at: gives the weights; dial: which; ours, theirs: two plans; any_item: whether items of other dials count, as they
    do where nothing else was turned. Returns the item, None where nothing rises enough to be told.
    """
    own = at.judgement.decides[dial.id]
    seen = at.limits.seen_stops
    rises = {
        item: at.weights[item] * (theirs.stops[item] - ours.stops[item])
        for item in (theirs.stops if any_item else own)
        if theirs.stops[item] - ours.stops[item] >= seen
    }
    item = max(rises, key=lambda name: rises[name], default=None)
    return item if item is not None and rises[item] > at.limits.alike_stops else None


def explain(
    problem: CameraProblem, held: Contest, ours: Priced, given_up_stops: float, rivals: Rivals | None
) -> Reason:
    """Say why a dial has its value.

    problem: of the camera; held: the contest; ours, rivals: the plan and its runner-ups, priced; given_up_stops: of the plan
    in all. Returns the reason.
    """
    at, space = problem.at, problem.space
    dial, prices, own, second = held.dial, held.prices, held.own, held.second
    chosen = dial.values[own]
    if second is None or rivals is None:
        wet = at.light.deepest_m is not None
        if len(dial.values) == 1:
            return Reason(kind="only", chosen=chosen, wet=wet)
        if dial.id == "interval_s" and not at.lapse:
            return Reason(kind="at_speed", chosen=chosen)
        return Reason(kind="pins" if at.brief.pins else "mode", chosen=chosen)
    rival = dial.values[second]
    more, alike, seen = float(prices[second] - prices[own]), at.limits.alike_stops, at.limits.seen_stops
    said = {"chosen": chosen, "rival": rival, "more_stops": more}
    if more < -alike:
        item = decider(at, dial, rivals.cheapest, ours)
        turned = Comparison(at, space, dial.id, rival, chosen, rivals.cheapest, ours)
        return Reason(kind="pinned", cited=_cited(turned, item) if item else None, **said)
    near = rivals.near
    if near is None:  # the rival goes only with other dials turned
        also = turned_besides(problem, ours.choice, rivals.cheapest.choice, dial.id)
        item = decider(at, dial, ours, rivals.cheapest) if more > alike else None
        told = Comparison(at, space, dial.id, chosen, rival, ours, rivals.cheapest)
        return Reason(kind="others", also=also, cited=_cited(told, item) if item else None, **said)
    near_more = near.given_up(at.weights) - given_up_stops
    said["near_stops"] = near_more
    if near_more - more > seen:
        said["also"] = turned_besides(problem, ours.choice, rivals.cheapest.choice, dial.id)
    item = decider(at, dial, ours, near) or decider(at, dial, ours, near, any_item=True)
    if near_more <= alike:
        return _tie(problem, dial, item, ours, near, said)
    if item is None:
        return _close(problem, dial, ours, near, said)
    told = Comparison(at, space, dial.id, chosen, rival, ours, near)
    lead = dial.kind.lead(told, item) if dial.kind.lead else None
    return Reason(
        kind="decided",
        lead=Lead(case=lead[0], facts=lead[1]) if lead else None,
        cited=_cited(told, item),
        **said,
    )


def _cited(told: Comparison, item: str) -> Cited:
    facts = dict(told.at.judgement.items[item].facts(told))
    case = facts.pop("case", None)
    theirs, ours = told.theirs.stops[item], told.ours.stops[item]
    return Cited(item=item, case=case, facts=facts, theirs=theirs, ours=ours)


def _close(problem: CameraProblem, dial: Dial, ours: Priced, theirs: Priced, said: dict[str, Any]) -> Reason:
    """Two values that are less apart than is worth a word, with the quantities that the dial is judged by."""
    if not dial.kind.tied_item:
        return Reason(kind="close", **said)
    told = Comparison(problem.at, problem.space, dial.id, said["chosen"], said["rival"], ours, theirs)
    return Reason(kind="close", cited=_cited(told, dial.kind.tied_item), **said)


def _tie(
    problem: CameraProblem, dial: Dial, lost: str | None, ours: Priced, theirs: Priced, said: dict[str, Any]
) -> Reason:
    """Two values at the same price: what the other one loses, and what it gains for that."""
    at = problem.at
    gained = decider(at, dial, theirs, ours) or decider(at, dial, theirs, ours, any_item=True)
    if lost is None or gained is None:
        return _close(problem, dial, ours, theirs, said)
    worse = at.weights[lost] * (theirs.stops[lost] - ours.stops[lost])
    better = at.weights[gained] * (ours.stops[gained] - theirs.stops[gained])
    if min(worse, better) < at.limits.seen_stops:
        return _close(problem, dial, ours, theirs, said)
    return Reason(kind="tie", lost=(lost, worse), gained=(gained, better), **said)
