"""Plan a shot: the one door to everything in this folder."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Any

import numpy as np

from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.kit import Kit
from steady_tide.core.light.day import DayOfLight
from steady_tide.core.planning import advice
from steady_tide.core.planning.brief_cache import cached_brief
from steady_tide.core.planning.camera_problem import CameraProblem, excluded_by, timed
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.glass_times import GlassSpan, glass_times
from steady_tide.core.planning.judgement import Judgement
from steady_tide.core.planning.ledger import price_all
from steady_tide.core.planning.nearest import nearest
from steady_tide.core.planning.outcome import endurance_of, exposure_of, ledger_of, settings_of
from steady_tide.core.planning.own_used import own_used
from steady_tide.core.planning.pinning import Dial
from steady_tide.core.planning.plan import CameraName, DialValue, Plan, RankedCamera, Reason, WhyNot
from steady_tide.core.planning.prepared import Prepared
from steady_tide.core.planning.priced_choice import Choice, Priced
from steady_tide.core.planning.ranking import Standing, chosen_values, entries_of, rank, ranked
from steady_tide.core.planning.reasons import Contest, Rivals, contest, explain
from steady_tide.core.planning.rivals import rivals_of
from steady_tide.core.planning.search import solve
from steady_tide.core.planning.situation import situation
from steady_tide.core.planning.solution import Solution
from steady_tide.core.planning.space import Bools
from steady_tide.core.planning.unpinned import unpinned_solutions


def plan(
    brief: Brief,
    kit: Kit,
    knowledge: Knowledge,
    *,
    crew: School | None = None,
    schools: bool = True,
    only: str | None = None,
    judgement: Judgement = USUAL,
) -> Plan:
    """Find the legal combination that gives up least.

    brief: what will be filmed; kit: cameras, glass, housings, cells and cards to choose from; knowledge:
    places, skies, waters, mounts, weights; crew: its way of working where the brief leaves it open;
    schools: whether to say, too, what other ways of working would change; only: id of a camera, to plan
    on it without ranking the others; judgement: the dials and the items of the ledger.
    Returns the plan of the best camera. Raises BadBrief where the brief names what does not exist,
    NoLegalPlan where the pins exclude each other or no camera can do it.
    """
    known = cached_brief(brief.in_school(crew or School()), kit, knowledge, judgement)
    standings = rank(known, entries_of(known.at, kit, knowledge, only))
    return _plan_of(standings[0], ranked(known.at, standings), knowledge, schools)


def through_day(
    brief: Brief,
    kit: Kit,
    knowledge: Knowledge,
    day: DayOfLight,
    *,
    crew: School | None = None,
    only: str | None = None,
    own: tuple[datetime, datetime] | None = None,
) -> tuple[GlassSpan, ...]:
    """When glass is changed if a shot is held through a day.

    brief, kit, knowledge, crew, only: as in `plan`, which decides all but the density; day: the light; own: as for
    `glass_times`.
    Returns spans with the density that serves. Raises as `plan` does.
    """
    known = cached_brief(brief.in_school(crew or School()), kit, knowledge, USUAL)
    best = rank(known, entries_of(known.at, kit, knowledge, only), best_only=True)[0]
    assert best.entry.problem is not None
    assert best.choice is not None
    return glass_times(known.at, best.entry.problem.space, best.choice, day, own)


def check(brief: Brief, kit: Kit, knowledge: Knowledge, crew: School | None = None) -> None:
    """Look whether a brief can be planned at all, without planning it.

    brief, kit, knowledge, crew: as in `plan`. Raises BadBrief where the brief names what does not exist.
    """
    at = situation(brief.in_school(crew or School()), knowledge, USUAL)
    entries_of(at, kit, knowledge)


@dataclass(frozen=True)
class _Contests:
    """Every dial that is shown, held against its runner-up; and the plan and the rivals, priced."""

    held: list[Contest]
    ours: Priced
    of_rival: dict[Choice, Priced]
    near: dict[str, Choice | None]  # nearest rival of each dial


def _contests(problem: CameraProblem, prepared: Prepared, solution: Solution, choice: Choice) -> _Contests:
    at, space = problem.at, problem.space
    without = unpinned_solutions(problem, prepared)
    held = [
        contest(dial, without.get(name, solution), int(dial.of_candidate[choice[dial.block]]))
        for name, dial in problem.dials.items()
        if dial.listed
    ]
    beside: dict[str, Bools] = {}
    near = {
        # A dial that stands alone turns no other with it.
        entry.dial.id: entry.rival
        if entry.dial.kind.alone
        else nearest(problem, choice, entry.dial, entry.second, beside)
        for entry in held
        if entry.second is not None
    }
    rivals = list(dict.fromkeys(found for found in (*(entry.rival for entry in held), *near.values()) if found))
    ours, *priced = price_all(at, space, [choice, *rivals], prepared.precomputed)
    return _Contests(held, ours, dict(zip(rivals, priced, strict=True)), near)


def _plan_of(best: Standing, others: list[RankedCamera], knowledge: Knowledge, schools: bool) -> Plan:
    problem = best.entry.problem
    assert problem is not None
    at, space = problem.at, problem.space
    assert best.prepared is not None
    solution = best.solution or solve(best.prepared)
    choice = solution.best()
    contests = _contests(problem, best.prepared, solution, choice)
    ours = contests.ours
    lasts = endurance_of(problem, ours)
    housing = space.glasses[choice["glasses"]].housing
    told = advice.PlanFacts(
        at,
        space,
        ours,
        lasts,
        knowledge.chemistries,
        None if housing is None else problem.names[housing],
        problem.housings,
        problem.lamps,
    )
    pinned_camera = {"camera": at.brief.pins["camera"]} if "camera" in at.brief.pins else {}
    limits = at.limits
    made = Plan(
        title=at.brief.title,
        camera=CameraName(id=space.sheet.id, name=space.sheet.name, edition=space.sheet.edition),
        settings=settings_of(problem, choice),
        chosen={"camera": space.sheet.id, **chosen_values(problem, choice)},
        names=problem.names,
        exposure=exposure_of(problem, ours),
        endurance=lasts,
        light_source=at.light.source,
        ledger=ledger_of(at, ours),
        given_up_stops=ours.given_up(at.weights),
        reasons=_reasons(problem, contests),
        runner_up_stops=_runner_ups(others, contests, space.sheet.id),
        profiles=_profiles(problem, others, contests),
        settled=_settled(problem),
        pins={**pinned_camera, **problem.pins},
        warnings=tuple(advice.warnings(told)),
        cautions=tuple(
            advice.cautions(
                at.brief,
                at.mount,
                at.dark,
                at.light.night_dive,
                at.light.indoors,
                limits.screen_unsafe_m_s,
                limits.frost_c,
            )
        ),
        schools=tuple(rivals_of(problem, best.prepared, ours, knowledge)) if schools else (),
        cameras=tuple(others),
        combinations=space.combinations,
        graded=at.graded,
        dark=at.dark,
        light_kind=at.light_kind,
    )
    return made.model_copy(update={"own": own_used(knowledge.own, at.brief, made)})


def _reasons(problem: CameraProblem, contests: _Contests) -> dict[str, Reason]:
    total = contests.ours.given_up(problem.at.weights)
    return {
        entry.dial.id: explain(problem, entry, contests.ours, total, _rivals(contests, entry))
        for entry in contests.held
    }


def _rivals(contests: _Contests, entry: Contest) -> Rivals | None:
    if entry.rival is None:
        return None
    near = contests.near[entry.dial.id]
    return Rivals(contests.of_rival[entry.rival], contests.of_rival[near] if near else None)


def _runner_ups(others: list[RankedCamera], contests: _Contests, camera: str) -> dict[str, float | None]:
    return {
        "camera": next((ranked.given_up_stops for ranked in others if ranked.id != camera), None),
        **{
            entry.dial.id: None if entry.second is None else float(entry.prices[entry.second])
            for entry in contests.held
        },
    }


def _profiles(
    problem: CameraProblem, others: list[RankedCamera], contests: _Contests
) -> dict[str, tuple[DialValue, ...]]:
    cameras = tuple(
        DialValue(
            value=entry.id,
            legal=entry.given_up_stops is not None,
            given_up_stops=entry.given_up_stops,
            why_not=WhyNot(code="camera") if entry.given_up_stops is None else None,
        )
        for entry in others
    )
    return {
        "camera": cameras,
        **{
            entry.dial.id: tuple(
                _dial_value(problem, entry.dial, value, stops)
                for value, stops in zip(entry.dial.values, entry.prices.tolist(), strict=True)
            )
            for entry in contests.held
        },
    }


def _settled(problem: CameraProblem) -> tuple[str, ...]:
    """Dials without a choice: of one value, or decided by another dial or by the brief."""
    return tuple(
        name
        for name, dial in problem.dials.items()
        if dial.listed
        and name not in problem.pins
        and (len(dial.values) == 1 or (dial.kind.settled is not None and dial.kind.settled(problem.at, problem.space)))
    )


def _dial_value(problem: CameraProblem, dial: Dial, value: Any, stops: float) -> DialValue:
    legal = stops < float("inf")
    return DialValue(
        value=value,
        legal=legal,
        given_up_stops=stops if legal else None,
        why_not=None if legal else _why_not(problem, dial, value),
    )


def _why_not(problem: CameraProblem, dial: Dial, value: Any) -> WhyNot:
    """Name the smallest set of other pins with which a value is not offered, or what else excludes it."""
    if problem.demands_against(dial, value):
        if (timed(problem.at, problem.space) & dial.mask(value)).any():
            return WhyNot(code="too_near")
        return WhyNot(code="at_speed_only" if problem.at.lapse else "interval_films_only")
    names = excluded_by(problem, dial, value)
    return WhyNot(code="pins", pins=names) if names else WhyNot(code=_never(problem, dial, value))


def _never(problem: CameraProblem, dial: Dial, value: Any) -> str:
    """Why no plan for this shot has a value, whatever else is turned."""
    space = problem.space
    if dial.id == "shutter_s":
        return "longer_than_pause" if problem.at.lapse else "longer_than_frame"
    if dial.block == "looks":
        looks = dial.mask(value)
        fit = problem.demands.masks["pictures"]
        if space.offer.look_offered[fit][:, looks].any():
            codecs = {space.looks[n].codec.id for n in np.flatnonzero(looks)}
            drive = any(codecs & set(mode.drive_codecs) for mode in space.sheet.modes)
            return "needs_drive" if drive else "needs_faster_card"
    return "no_mode"
