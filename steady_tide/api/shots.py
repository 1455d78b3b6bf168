"""Routes of shots: their briefs, and the plans made from them."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any
from uuid import UUID

from fastapi import BackgroundTasks, Query
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.orm import Session

from steady_tide.api.shared import CrewKitOf, CrewWay, KeeperOf, PlansOf, SessionOf
from steady_tide.api.station import station
from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.brief.start_time import brief_at, one_time
from steady_tide.core.light.sources import has_sky
from steady_tide.core.planning.plan import Plan
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadInput, NoLegalPlan, NotFound
from steady_tide.core.quantities.moments import Moment
from steady_tide.services.changes import Change
from steady_tide.services.crew_kit import CrewKit
from steady_tide.services.kept_plans import (
    held_gear,
    is_as_it_was,
    planned_fields,
    saved_fields,
    standing_of,
    summary_of,
)
from steady_tide.services.plans import Plans
from steady_tide.services.shot_changes import changed_shot
from steady_tide.store import shots as store
from steady_tide.store.merging import revision_of
from steady_tide.store.tables import Shot
from steady_tide.words.dial_values import dial_word, value_words
from steady_tide.words.own import own_title, own_value
from steady_tide.words.plans import PlanText, plan_text
from steady_tide.words.refusals import refusal_words
from steady_tide.words.summaries import SummaryText, summary_text

router = station("shots")
LONGEST_COPIED = 190  # of a title, so that what is added fits


class ShotFields(BaseModel):
    """What a person enters for a shot."""

    model_config = ConfigDict(extra="forbid")

    brief: Brief
    starts_at: Moment | None = None


class ShotChange(Change):
    """A change of a shot: fields of its brief, and `starts_at`. A field of a part is named after it, such as
    `subject.distance_m`; a pin is a list of its value, such as `pins.nd`: ["nd8"], and null takes it out."""

    latest_sheet: Annotated[
        bool,
        Field(description="plan with the latest edition of the camera's sheet, not with the one that the plan keeps"),
    ] = False


class OlderOwn(BaseModel):
    """An own number that a plan keeps as it was, and what it comes to in the latest edition."""

    key: str
    title: str
    keeps: str
    latest: str


class SheetOfPlan(BaseModel):
    """Which edition of its camera's sheet a plan keeps, and which is the latest; None where the camera was put away. own: own
    numbers that it keeps in another edition than the latest; held: names all editions that it keeps, None where they are the
    latest."""

    camera: str
    name: str
    edition: int
    latest: int | None
    own: tuple[OlderOwn, ...] = ()
    held: str | None = None


class DialChanged(BaseModel):
    """A dial that another edition sets otherwise."""

    dial: str
    word: str
    before: str
    after: str


class Replanned(BaseModel):
    """What a plan would become with the latest edition of its camera's sheet. Nothing is kept."""

    sheet: SheetOfPlan
    camera_after: str | None
    changes: list[DialChanged]
    given_up_before: float
    given_up_after: float | None
    problem: str | None


class MovedShot(BaseModel):
    """What a shot would be at another time. Nothing is kept."""

    starts_at: datetime
    follows_light: Annotated[bool, Field(description="whether its light changes with the hour")]
    plan: PlanText | None


class ShotLine(BaseModel):
    """A shot in a list."""

    id: UUID
    shoot_id: UUID
    starts_at: datetime | None
    revision: int
    summary: SummaryText
    as_it_was: Annotated[bool, Field(description="false while what it was made from has changed: old figures")]


class ShotOut(ShotLine):
    """A whole shot. The plan is absent where the pins exclude each other; the summary says why. Just saved, it may also
    be absent because it is still being made: as_it_was is false then."""

    brief: Brief
    plan: PlanText | None
    sheet: SheetOfPlan | None
    updated_at: datetime


class ShotList(BaseModel):
    """The shots of a shoot, by time."""

    items: list[ShotLine]
    total: int


def _line(session: Session, shot: Shot, crew: School, gear: CrewKit) -> dict[str, Any]:
    return {
        "id": shot.id,
        "shoot_id": shot.shoot_id,
        "starts_at": shot.starts_at,
        "revision": revision_of(shot.stamps),
        "summary": summary_text(shot.summary),
        "as_it_was": is_as_it_was(session, shot, crew, gear),
    }


def _sheet_of(plan: Plan | None, gear: CrewKit) -> SheetOfPlan | None:
    if plan is None:
        return None
    camera = plan.camera
    latest = gear.camera(camera.id).edition if gear.has(camera.id) else None
    now = {number.key: number for number in gear.own}
    older = [used for used in plan.own if used.key in now and now[used.key].edition != used.edition]
    held = ",".join((f"{camera.id}:{camera.edition}", *(f"{used.key}:{used.edition}" for used in older)))
    return SheetOfPlan(
        camera=camera.id,
        name=camera.name,
        edition=camera.edition,
        latest=latest,
        own=tuple(
            OlderOwn(
                key=used.key,
                title=own_title(used.kind, used.names),
                keeps=own_value(used.kind, used.value),
                latest=own_value(used.kind, now[used.key].value),
            )
            for used in older
        ),
        held=held if older or latest != camera.edition else None,
    )


def _out(session: Session, shot: Shot, crew: School, gear: CrewKit, plans: Plans) -> ShotOut:
    """A shot as it stands: its plan as it was, or made anew where what it was made from has changed."""
    now = standing_of(session, shot, crew, gear, plans)
    summary = summary_of(now.brief, now.plan, now.refusal) if now.anew else shot.summary
    return ShotOut.model_construct(
        id=shot.id,
        shoot_id=shot.shoot_id,
        starts_at=shot.starts_at,
        revision=revision_of(shot.stamps),
        summary=summary_text(summary),
        as_it_was=True,
        brief=now.brief,
        plan=None if now.plan is None else plan_text(now.plan, plans.judgement),
        sheet=_sheet_of(now.plan, gear),
        updated_at=shot.updated_at,
    )


@router.get("/shoots/{shoot_id}/shots")
def list_of(
    session: SessionOf,
    crew: CrewWay,
    gear: CrewKitOf,
    shoot_id: UUID,
    offset: Annotated[int, Query(ge=0, le=1_000_000, description="how many to pass over")] = 0,
    limit: Annotated[int, Query(ge=1, le=sizes.SHOTS, description="how many at most")] = sizes.SHOTS,
) -> ShotList:
    """The shots of a shoot by time, all or a page of them."""
    rows, total = store.page_of(session, shoot_id, offset, limit)
    return ShotList(items=[ShotLine(**_line(session, shot, crew, gear)) for shot in rows], total=total)


@router.post("/shoots/{shoot_id}/shots", status_code=201)
def add(
    session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, shoot_id: UUID, fields: ShotFields
) -> ShotOut:
    """Plan and keep a new shot."""
    brief, starts_at = one_time(fields.brief, fields.starts_at)
    planned = planned_fields(brief, crew, gear, plans)
    kept = store.add_shot(session, shoot_id, {"starts_at": starts_at, **planned})
    return _out(session, kept, crew, gear, plans)


@router.get("/shots/{shot_id}")
def get(session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, shot_id: UUID) -> ShotOut:
    """One shot with its plan, which keeps the edition of its camera's sheet that it was made with."""
    return _out(session, store.get_shot(session, shot_id), crew, gear, plans)


@router.patch("/shots/{shot_id}")
def change(
    session: SessionOf,
    crew: CrewWay,
    gear: CrewKitOf,
    plans: PlansOf,
    keeper: KeeperOf,
    after: BackgroundTasks,
    shot_id: UUID,
    fields: ShotChange,
) -> ShotOut:
    """Change a shot and plan it again; where the sky lights it, its light begins when it does. It is planned with the sheet that its plan keeps, unless the latest is asked for. It is kept at
    once; where its plan has still to be made, that follows, and whoever asks gets it."""
    kept = store.locked_shot(session, shot_id)
    brief, starts_at = changed_shot(kept, fields.revision, fields.change)
    if fields.latest_sheet:
        planned = planned_fields(brief, crew, gear, plans)
    else:
        planned = saved_fields(kept, brief, crew, held_gear(session, kept, gear), plans)
    shot = store.put_shot(session, kept, {"starts_at": starts_at, **planned})
    session.refresh(shot, ["updated_at"])
    if shot.made_from is None:
        if keeper is not None:
            after.add_task(keeper.look_after, shot_id)  # once it is kept
        return _saved(shot, brief)
    return _out(session, shot, crew, gear, plans)


def _saved(shot: Shot, brief: Brief) -> ShotOut:
    """A shot that is kept, while its plan is still being made."""
    return ShotOut(
        id=shot.id,
        shoot_id=shot.shoot_id,
        starts_at=shot.starts_at,
        revision=revision_of(shot.stamps),
        summary=summary_text(shot.summary),
        as_it_was=False,
        brief=brief,
        plan=None,
        sheet=None,
        updated_at=shot.updated_at,
    )


@router.get("/shots/{shot_id}/replanned")
def replanned(session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, shot_id: UUID) -> Replanned:
    """What a shot's plan would become with the latest edition of its camera's sheet."""
    now = standing_of(session, store.get_shot(session, shot_id), crew, gear, plans)
    kept, sheet = now.plan, _sheet_of(now.plan, gear)
    if kept is None or sheet is None:
        raise NotFound("This shot has no plan that could be compared.")
    try:
        made = plans.plan(now.brief, crew, gear)
    except (NoLegalPlan, BadInput) as error:
        return Replanned(
            sheet=sheet,
            camera_after=None,
            changes=[],
            given_up_before=kept.given_up_stops,
            given_up_after=None,
            problem=refusal_words(error, plans.judgement) if isinstance(error, NoLegalPlan) else str(error),
        )
    return Replanned(
        sheet=sheet,
        camera_after=made.camera.name,
        changes=[
            DialChanged(
                dial=dial,
                word=dial_word(dial, plans.judgement),
                before=_said(kept, dial, plans),
                after=_said(made, dial, plans),
            )
            for dial in dict.fromkeys((*kept.chosen, *made.chosen))
            if kept.chosen.get(dial) != made.chosen.get(dial)
        ],
        given_up_before=kept.given_up_stops,
        given_up_after=made.given_up_stops,
        problem=None,
    )


def _said(plan: Plan, dial: str, plans: Plans) -> str:
    names = {**plan.names, plan.camera.id: plan.camera.name}
    return value_words(dial, plan.chosen[dial], names, plans.judgement) if dial in plan.chosen else ""


@router.get("/shots/{shot_id}/moved")
def moved(
    session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, shot_id: UUID, starts_at: Moment
) -> MovedShot:
    """What a shot's camera would do at another time, under the sky of then."""
    shot = store.get_shot(session, shot_id)
    brief = Brief.model_validate(shot.brief)
    follows = has_sky(brief.light)
    brief = brief_at(brief, starts_at)
    kept = (shot.plan or {}).get("camera", {}).get("id")
    theirs = held_gear(session, shot, gear)
    plan = plans.plan(brief, crew, theirs, only=kept, schools=False) if follows else None
    return MovedShot(
        starts_at=starts_at, follows_light=follows, plan=None if plan is None else plan_text(plan, plans.judgement)
    )


@router.post("/shots/{shot_id}/duplicate", status_code=201)
def duplicate(session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, shot_id: UUID) -> ShotOut:
    """Put a copy of a shot at the end of its shoot: brief, start, wishes and recipes; what was noted outside stays."""
    shot = store.get_shot(session, shot_id)
    brief = Brief.model_validate(shot.brief)
    title = f"{brief.title[:LONGEST_COPIED]} (copy)"
    fields = planned_fields(brief.model_copy(update={"title": title}), crew, held_gear(session, shot, gear), plans)
    fields |= {"starts_at": shot.starts_at, "wishes": dict(shot.wishes), "recipes": list(shot.recipes)}
    return _out(session, store.add_shot(session, shot.shoot_id, fields), crew, gear, plans)


@router.delete("/shots/{shot_id}", status_code=204)
def remove(session: SessionOf, shot_id: UUID) -> None:
    """Remove a shot; it can be brought back."""
    store.remove_shot(session, shot_id)


@router.post("/shots/{shot_id}/restore")
def restore(session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, shot_id: UUID) -> ShotOut:
    """Bring a removed shot back."""
    return _out(session, store.restore_shot(session, shot_id), crew, gear, plans)
