"""What the main rival ways of working would change of a plan."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import Any

from steady_tide.core.brief.brief import School
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.planning.camera_problem import CameraProblem
from steady_tide.core.planning.ledger import price, price_all
from steady_tide.core.planning.plan import Rival
from steady_tide.core.planning.prepared import Prepared, prepare
from steady_tide.core.planning.priced_choice import Choice, Priced
from steady_tide.core.planning.ranking import chosen_values
from steady_tide.core.planning.search import least
from steady_tide.core.planning.situation import situation

# In the order in which they are looked at.
RIVAL_SCHOOLS: tuple[tuple[str, Any], ...] = (
    ("shutter", "free"),
    ("shutter", "half_turn"),
    ("noise", "quiet"),
    ("noise", "get_it"),
    ("dark_stabilisation", "drop"),
    ("dark_stabilisation", "keep"),
    ("dark_profile", "flat"),
    ("dark_view", "whole_sensor"),
    ("glass_gain", "follows"),
    ("glass_gain", "locked"),
    ("view", "widest"),
    ("resolution", "most"),
)
SHOWN_RIVALS = 3
_DARK_AXES = {"noise", "dark_stabilisation", "dark_profile", "dark_view"}  # where schools part only in the dark


def _may_follow(problem: CameraProblem, ours: Priced) -> bool:
    """Whether gain behind glass is a question: glass is on, and the light changes more than one exposure holds."""
    worn = problem.space.glasses[ours.choice["glasses"]].ids
    return bool(worn) and problem.at.band_stops > problem.at.limits.gain_locked_to_stops


def rivals_of(problem: CameraProblem, prepared: Prepared, ours: Priced, knowledge: Knowledge) -> Iterator[Rival]:
    """Plan in other schools, on the same camera.

    problem, prepared, ours: the plan; knowledge: weights. Yields those that set something otherwise, at this plan's
    prices.
    """
    at, brief = problem.at, problem.at.brief
    found: dict[Choice, tuple[str, str]] = {}
    for axis, school in RIVAL_SCHOOLS:
        if len(found) == SHOWN_RIVALS:
            break
        if getattr(brief.school, axis) == school or (axis in _DARK_AXES and not at.dark):
            continue
        if axis == "glass_gain" and not _may_follow(problem, ours):
            continue
        other = brief.model_copy(update={"school": School.model_validate({**brief.school.model_dump(), axis: school})})
        their_at = situation(other, knowledge, at.judgement)
        only_weights = replace(their_at, brief=brief, weights=at.weights, weight_reasons=at.weight_reasons) == at
        ours_for_them = ours if only_weights else price(their_at, problem.space, ours.choice)
        at_most = ours_for_them.given_up(their_at.weights)
        theirs = least(prepare(their_at, problem.space, problem.free_but(), prepared), at_most)
        choice = None if theirs is None else theirs.best()
        if choice is not None and choice != ours.choice and choice not in found:
            found[choice] = (axis, school)
    mine = chosen_values(problem, ours.choice)
    priced_found = price_all(at, problem.space, list(found), prepared.precomputed)
    for priced, (axis, school) in zip(priced_found, found.values(), strict=True):
        chosen = chosen_values(problem, priced.choice)
        yield Rival(
            axis=axis,
            school=school,
            changes={dial: value for dial, value in chosen.items() if value != mine[dial]},
            given_up_stops=priced.given_up(at.weights),
        )
