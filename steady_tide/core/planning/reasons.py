"""Reasons, made from the numbers that decided.

For each dial the plan is held against the cheapest plan with another value of that dial. The item whose price rises
most is what decided; the reason holds that item's numbers and the runner-up.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from steady_tide.core.planning.comparison import Comparison
from steady_tide.core.planning.pinning import Dial
from steady_tide.core.planning.plan import Cited, Lead, Reason
from steady_tide.core.planning.priced import Choice, Priced
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.solution import Solution
from steady_tide.core.planning.space import Floats, Space


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


def decider(at: Situation, dial: Dial, ours: Priced, theirs: Priced) -> str | None:
    """The item of a dial's own whose price rises most in the rival plan.

    at: gives the weights; dial: which; ours, theirs: two plans. Returns the item, None where
    nothing of its own rises.
    """
    own = at.judgement.decides[dial.id]
    rises = {item: at.weights[item] * (theirs.stops[item] - ours.stops[item]) for item in own}
    item = max(rises, key=lambda name: rises[name], default=None)
    return item if item is not None and rises[item] > at.limits["alike_stops"] else None


def explain(at: Situation, space: Space, held: Contest, ours: Priced, theirs: Priced | None) -> Reason:
    """Say why a dial has its value.

    at, space: of the plan; held: the contest; ours, theirs: the plan and the runner-up, priced. Returns the reason.
    """
    dial, prices, own, second = held.dial, held.prices, held.own, held.second
    chosen = dial.values[own]
    if second is None or theirs is None:
        wet = at.light.deepest_m is not None
        if len(dial.values) == 1:
            return Reason(kind="only", chosen=chosen, wet=wet)
        if dial.id == "interval_s" and not at.lapse:
            return Reason(kind="at_speed", chosen=chosen)
        return Reason(kind="pins" if at.brief.pins else "mode", chosen=chosen)
    rival = dial.values[second]
    more, alike = float(prices[second] - prices[own]), at.limits["alike_stops"]
    said = {"chosen": chosen, "rival": rival, "more_stops": more}
    if more < -alike:
        item = decider(at, dial, theirs, ours)
        turned = Comparison(at, space, dial.id, rival, chosen, theirs, ours)
        return Reason(kind="pinned", cited=_cited(turned, item) if item else None, **said)
    item = decider(at, dial, ours, theirs)
    if more <= alike:
        return _tie(at, dial, item, ours, theirs, said)
    if item is None:
        return Reason(kind="others", **said)
    told = Comparison(at, space, dial.id, chosen, rival, ours, theirs)
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


def _tie(at: Situation, dial: Dial, lost: str | None, ours: Priced, theirs: Priced, said: dict[str, object]) -> Reason:
    """Two values that come to the same: what the other one loses, and what it gains for that."""
    gained = decider(at, dial, theirs, ours)
    if lost is None or gained is None:
        return Reason(kind="as_good", **said)
    worse = at.weights[lost] * (theirs.stops[lost] - ours.stops[lost])
    better = at.weights[gained] * (ours.stops[gained] - theirs.stops[gained])
    return Reason(kind="tie", lost=(lost, worse), gained=(gained, better), **said)
