"""What values cost beyond a plan: each by itself, and several together."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from steady_tide.core.brief.brief import Brief
from steady_tide.core.planning.plan import Plan
from steady_tide.core.quantities.errors import BadBrief, NoLegalPlan


def costs_of(plan: Plan, dial: str) -> list[tuple[Any, float]]:
    """Legal values of a dial with what each costs by itself. plan: made; dial: id. Returns values with stops beyond the plan, in the dial's order."""
    return [
        (one.value, max(0.0, one.given_up_stops - plan.given_up_stops))
        for one in plan.profiles.get(dial, ())
        if one.legal and one.given_up_stops is not None
    ]


def fixed_cost(plan: Plan, dial: str, value: Any) -> float | None:
    """What a value costs where it alone is fixed. plan: made; dial, value: which. Returns stops beyond the plan, None where it cannot be had."""
    return next((cost for one, cost in costs_of(plan, dial) if one == value), None)


def price_of(brief: Brief, plan: Plan, values: Mapping[str, Any], planned: Callable[[Brief], Plan]) -> float | None:
    """What values cost together.

    brief: that the plan was made of; values: by dial; planned: plans a brief as that one was. Returns stops beyond the plan, None where they are not legal together, or
    not offered there.
    """
    if not values:
        return 0.0
    try:
        made = planned(brief.model_copy(update={"pins": {**brief.pins, **values}}))
    except (NoLegalPlan, BadBrief):
        return None
    return max(0.0, made.given_up_stops - plan.given_up_stops)
