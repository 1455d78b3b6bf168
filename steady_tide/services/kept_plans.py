"""Plans as the service keeps them, with what each was made from.

One rule says what a kept plan is worth (`standing_of`): it is as it was, or it is made anew at once. Only where its
camera's sheet has a newer edition the person is asked; until then the plan keeps the edition that it was made with.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError
from sqlalchemy.orm import Session

from steady_tide.core.brief.brief import USUAL_SCHOOL, Brief, School
from steady_tide.core.light.sources import has_sky, lit_by_day, sky_of
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import check
from steady_tide.core.quantities.errors import NoLegalPlan
from steady_tide.services.crew_kit import CrewKit
from steady_tide.services.digests import digest_of, planner_digest
from steady_tide.services.planning_pool import Turn
from steady_tide.services.plans import Plans
from steady_tide.store.tables import Shot

# Dials that a list of shots names.
LISTED = (
    "frame",
    "frame_rate",
    "interval_s",
    "shutter_s",
    "nd",
    "colour_filter",
    "housing",
    "iso_floor",
    "iso_ceiling",
)


def basis_of(brief: Mapping[str, Any], crew: School, gear: CrewKit) -> dict[str, str]:
    """All that a plan is made from, a digest each.

    brief: as JSON; crew: its way of working; gear: what it owns, with the editions of sheets that count. Returns
    digests of the brief, the way, the kit with its counts and sheets, what is known, and the planner.
    """
    return {"brief": digest_of(brief), **_around(crew, gear)}


def _around(crew: School, gear: CrewKit) -> dict[str, str]:
    return {
        "way": digest_of(crew.over(USUAL_SCHOOL).model_dump(mode="json")),
        "kit": gear.kit_digest,
        "known": gear.knowledge_digest,
        "planner": planner_digest(),
    }


def as_one(basis: Mapping[str, str]) -> str:
    """One digest for a whole basis."""
    return digest_of(dict(basis))


def held_gear(session: Session, shot: Shot, gear: CrewKit) -> CrewKit:
    """The kit that a kept shot is planned with: its plan's own editions of its camera's sheet and of one's own numbers."""
    camera = shot.made_on or {}
    return gear.holding(session, camera.get("camera"), camera.get("edition", 1), camera.get("own"))


def is_as_it_was(session: Session, shot: Shot, crew: School, gear: CrewKit) -> bool:
    """Whether a kept plan was made from what there is now; the brief and its plan are always kept together."""
    kept = dict(shot.made_from or {})
    kept.pop("brief", None)
    return kept == _around(crew, held_gear(session, shot, gear))


@dataclass(frozen=True)
class Standing:
    """A shot's plan as it stands: kept or made anew, or why there is none. digest: of all it is made from."""

    brief: Brief
    plan: Plan | None
    refusal: NoLegalPlan | None
    anew: bool
    digest: str
    basis: dict[str, str]


def standing_of(
    session: Session, shot: Shot, crew: School, gear: CrewKit, plans: Plans, turn: Turn = Turn.SAVING
) -> Standing:
    """What a kept plan is worth: as it was where all it was made from is as it was, else made anew. Nothing is kept.

    shot: with its plan; crew, gear: now; turn: who goes first at the desk. Returns the plan, or why there is none.
    """
    brief, theirs = Brief.model_validate(shot.brief), held_gear(session, shot, gear)
    basis = basis_of(shot.brief, crew, theirs)
    if (shot.made_from or {}) == basis:
        kept = _read(shot)
        if kept is not None:
            return Standing(brief, *kept, anew=False, digest=as_one(basis), basis=basis)
    plan, refusal = _made(brief, crew, theirs, plans, turn)
    return Standing(brief, plan, refusal, anew=True, digest=as_one(basis), basis=basis)


def _read(shot: Shot) -> tuple[Plan | None, NoLegalPlan | None] | None:
    """The plan that is kept, or the refusal; None where neither can be read."""
    refused = shot.summary.get("refusal")
    if shot.plan is None:
        return (None, NoLegalPlan(refused["code"], refused["facts"], tuple(refused["pins"]))) if refused else None
    try:
        return Plan.model_validate(shot.plan), None
    except ValidationError:
        return None


def _made(
    brief: Brief, crew: School, gear: CrewKit, plans: Plans, turn: Turn = Turn.SAVING
) -> tuple[Plan | None, NoLegalPlan | None]:
    try:
        return plans.plan(brief, crew, gear, turn=turn), None
    except NoLegalPlan as error:
        return None, error


def planned_fields(brief: Brief, crew: School, gear: CrewKit, plans: Plans) -> dict[str, Any]:
    """Columns of a shot made from its brief: the brief, its plan, the summary of both and what they were made from.

    A brief whose pins exclude each other is kept all the same, with the reason instead of a plan.
    Raises BadBrief where the brief names what does not exist.
    """
    said = brief.model_dump(mode="json")
    return fields_of(brief, *_made(brief, crew, gear, plans), basis_of(said, crew, gear))


def saved_fields(shot: Shot, brief: Brief, crew: School, gear: CrewKit, plans: Plans) -> dict[str, Any]:
    """Columns of a shot whose brief was changed, without waiting for a plan: with one where it is at hand, else with the
    old one marked as old, which whoever keeps plans fresh makes anew.

    Raises BadBrief where the brief names what does not exist.
    """
    made = plans.at_hand(brief, crew, gear)
    if made is not None:
        plan, refusal = (None, made) if isinstance(made, NoLegalPlan) else (made, None)
        return fields_of(brief, plan, refusal, basis_of(brief.model_dump(mode="json"), crew, gear))
    check(brief, gear.kit, gear.knowledge, crew)
    return {
        "brief": brief.model_dump(mode="json"),
        "summary": {**shot.summary, **_of_brief(brief)},
        "made_from": None,
    }


def anew_fields(standing: Standing) -> dict[str, Any]:
    """The same for a shot whose plan was made anew."""
    return fields_of(standing.brief, standing.plan, standing.refusal, standing.basis)


def fields_of(brief: Brief, plan: Plan | None, refusal: NoLegalPlan | None, basis: dict[str, str]) -> dict[str, Any]:
    """Columns of a shot from its brief and its plan, or the refusal."""
    return {
        "brief": brief.model_dump(mode="json"),
        "plan": None if plan is None else plan.model_dump(mode="json"),
        "summary": summary_of(brief, plan, refusal),
        "made_from": basis,
        "made_on": None if plan is None else made_on(plan),
    }


def made_on(plan: Plan) -> dict[str, Any]:
    """What a plan keeps the editions of: its camera's sheet, and one's own numbers. Returns plain values."""
    own = {number.key: number.edition for number in plan.own}
    return {"camera": plan.camera.id, "edition": plan.camera.edition, **({"own": own} if own else {})}


def _of_brief(brief: Brief) -> dict[str, Any]:
    """What a list of shots shows of a brief alone."""
    return {
        "title": brief.title,
        "daylight": lit_by_day(brief.light),
        "sky": has_sky(brief.light),
        "zone": None if (sky := sky_of(brief.light)) is None else sky.zone,
        "lasts_s": brief.lasts_s,
    }


def summary_of(brief: Brief, plan: Plan | None, refusal: NoLegalPlan | None) -> dict[str, Any]:
    """What a list of shots shows of a plan, in values. Returns plain ones."""
    if plan is None:
        assert refusal is not None
        return {
            **_of_brief(brief),
            "refusal": {"code": refusal.code, "facts": refusal.facts, "pins": list(refusal.pins)},
        }
    chosen = {dial: plan.chosen[dial] for dial in LISTED if dial in plan.chosen}
    worn = {*str(chosen.get("nd", "")).split("+"), chosen.get("colour_filter"), chosen.get("housing")}
    return {
        **_of_brief(brief),
        "camera": plan.camera.name,
        "ev100": list(plan.exposure.ev100),
        "chosen": chosen,
        "names": {piece: name for piece, name in plan.names.items() if piece in worn},
        "given_up_stops": plan.given_up_stops,
        "pins": len(plan.pins),
        "warnings": sum(warning.severity != "note" for warning in plan.warnings),
    }
