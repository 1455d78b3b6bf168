"""What own numbers change of a plan: it is made again without each of them."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.brief.own_numbers import OwnNumber, OwnUsed
from steady_tide.core.own.applying import with_own_numbers
from steady_tide.core.own.own_kind import Applied
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan
from steady_tide.core.quantities.errors import BadBrief, NoLegalPlan
from steady_tide.core.quantities.frozen import Frozen


class OwnDial(Frozen):
    """A dial that an own number decides: its value with it, and without."""

    dial: str
    now: Any
    without: Any


class OwnChange(Frozen):
    """What one own number changes. without_stops: what the plan gives up without it; None where there is no plan then."""

    used: OwnUsed
    dials: tuple[OwnDial, ...]
    without_stops: float | None


def own_changes(
    brief: Brief, made: Plan, crew: School | None, bare: Applied, numbers: Sequence[OwnNumber]
) -> tuple[OwnChange, ...]:
    """Make a plan again without each own number that it was made with, on the same camera.

    brief, crew: of the plan; made: it; bare: kit and knowledge without own numbers; numbers: all that are switched on. Returns
    what changes, number by number, those that decide a dial first.
    """
    found = []
    for used in made.own:
        kit, knowledge = with_own_numbers(*bare, [number for number in numbers if number.key != used.key])
        try:
            other: Plan | None = plan(brief, kit, knowledge, crew=crew, schools=False, only=made.camera.id)
        except (NoLegalPlan, BadBrief):
            other = None
        dials = () if other is None else _dials(made, other)
        found.append(OwnChange(used=used, dials=dials, without_stops=None if other is None else other.given_up_stops))
    return tuple(sorted(found, key=lambda one: -len(one.dials)))


def _dials(made: Plan, other: Plan) -> tuple[OwnDial, ...]:
    return tuple(
        OwnDial(dial=dial, now=now, without=other.chosen[dial])
        for dial, now in made.chosen.items()
        if dial in other.chosen and other.chosen[dial] != now
    )
