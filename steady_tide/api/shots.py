"""Routes of shots: their briefs, and the plans made from them."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any
from uuid import UUID

from fastapi import APIRouter
from pydantic import AwareDatetime, BaseModel, ConfigDict, Field

from steady_tide.api.crew_kit import CrewKit, CrewKitOf
from steady_tide.api.planned import made_again, plan_brief, planned_fields
from steady_tide.api.shared import SessionOf
from steady_tide.core.brief import Brief
from steady_tide.core.errors import BadInput, NoLegalPlan, NotFound
from steady_tide.core.planning.plan import Plan
from steady_tide.store import shots as store
from steady_tide.store.shoots import crew_school
from steady_tide.store.tables import Shot

router = APIRouter(tags=["shots"])


class ShotFields(BaseModel):
    """What a person enters for a shot."""

    model_config = ConfigDict(extra="forbid")

    brief: Brief
    starts_at: AwareDatetime | None = None


class ShotChange(ShotFields):
    """A change, and the revision that it was made on."""

    revision: Annotated[int, Field(ge=1, le=2_000_000_000)]
    latest_sheet: Annotated[
        bool,
        Field(description="plan with the latest edition of the camera's sheet, not with the one that the plan keeps"),
    ] = False


class SheetOfPlan(BaseModel):
    """Which edition of its camera's sheet a plan keeps, and which is the latest; None where the camera was put away."""

    camera: str
    name: str
    edition: int
    latest: int | None


class DialChanged(BaseModel):
    """A dial that another edition sets otherwise."""

    dial: str
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


class ShotLine(BaseModel):
    """A shot in a list."""

    id: UUID
    shoot_id: UUID
    starts_at: datetime | None
    revision: int
    summary: dict[str, Any]


class ShotOut(ShotLine):
    """A whole shot. The plan is absent where the pins exclude each other; the summary says why."""

    brief: Brief
    plan: Plan | None
    sheet: SheetOfPlan | None
    updated_at: datetime


class ShotList(BaseModel):
    """The shots of a shoot, by time."""

    items: list[ShotLine]
    total: int


def _line(shot: Shot) -> dict[str, Any]:
    return {
        "id": shot.id,
        "shoot_id": shot.shoot_id,
        "starts_at": shot.starts_at,
        "revision": shot.revision,
        "summary": shot.summary,
    }


def _sheet_of(shot: Shot, gear: CrewKit) -> SheetOfPlan | None:
    if shot.plan is None:
        return None
    camera = shot.plan["camera"]
    latest = gear.camera(camera["id"]).edition if gear.has(camera["id"]) else None
    return SheetOfPlan(camera=camera["id"], name=camera["name"], edition=camera.get("edition", 1), latest=latest)


def _out(shot: Shot, gear: CrewKit) -> ShotOut:
    return ShotOut.model_validate(
        {
            **_line(shot),
            "brief": shot.brief,
            "plan": shot.plan,
            "sheet": _sheet_of(shot, gear),
            "updated_at": shot.updated_at,
        }
    )


@router.get("/shoots/{shoot_id}/shots")
def list_of(session: SessionOf, shoot_id: UUID) -> ShotList:
    """The shots of a shoot."""
    items = [ShotLine(**_line(shot)) for shot in store.list_shots(session, shoot_id)]
    return ShotList(items=items, total=len(items))


@router.post("/shoots/{shoot_id}/shots", status_code=201)
def add(session: SessionOf, gear: CrewKitOf, shoot_id: UUID, fields: ShotFields) -> ShotOut:
    """Plan and keep a new shot."""
    planned = planned_fields(fields.brief, crew_school(session), gear)
    return _out(store.add_shot(session, shoot_id, {"starts_at": fields.starts_at, **planned}), gear)


@router.get("/shots/{shot_id}")
def get(session: SessionOf, gear: CrewKitOf, shot_id: UUID) -> ShotOut:
    """One shot with its plan, which keeps the edition of its camera's sheet that it was made with."""
    return _out(made_again(store.get_shot(session, shot_id), crew_school(session), gear), gear)


@router.put("/shots/{shot_id}")
def change(session: SessionOf, gear: CrewKitOf, shot_id: UUID, fields: ShotChange) -> ShotOut:
    """Change a shot and plan it again: with the sheet that its plan keeps, unless the latest is asked for."""
    theirs = gear if fields.latest_sheet else gear.for_shot(session, store.get_shot(session, shot_id))
    planned = planned_fields(fields.brief, crew_school(session), theirs)
    shot = store.change_shot(session, shot_id, fields.revision, {"starts_at": fields.starts_at, **planned})
    session.refresh(shot, ["updated_at"])
    return _out(shot, gear)


@router.get("/shots/{shot_id}/replanned")
def replanned(session: SessionOf, gear: CrewKitOf, shot_id: UUID) -> Replanned:
    """What a shot's plan would become with the latest edition of its camera's sheet."""
    shot = store.get_shot(session, shot_id)
    sheet = _sheet_of(shot, gear)
    if shot.plan is None or sheet is None:
        raise NotFound("This shot has no plan that could be compared.")
    kept = Plan.model_validate(made_again(shot, crew_school(session), gear).plan)
    try:
        made = plan_brief(Brief.model_validate(shot.brief), crew_school(session), gear)
    except (NoLegalPlan, BadInput) as error:
        return Replanned(
            sheet=sheet,
            camera_after=None,
            changes=[],
            given_up_before=kept.given_up_stops,
            given_up_after=None,
            problem=str(error),
        )
    changes = [
        DialChanged(dial=dial, before=kept.values.get(dial, ""), after=made.values.get(dial, ""))
        for dial in dict.fromkeys((*kept.values, *made.values))
        if kept.values.get(dial) != made.values.get(dial)
    ]
    return Replanned(
        sheet=sheet,
        camera_after=made.camera.name,
        changes=changes,
        given_up_before=kept.given_up_stops,
        given_up_after=made.given_up_stops,
        problem=None,
    )


@router.delete("/shots/{shot_id}", status_code=204)
def remove(session: SessionOf, shot_id: UUID) -> None:
    """Remove a shot; it can be brought back."""
    store.remove_shot(session, shot_id)


@router.post("/shots/{shot_id}/restore")
def restore(session: SessionOf, gear: CrewKitOf, shot_id: UUID) -> ShotOut:
    """Bring a removed shot back."""
    return _out(made_again(store.restore_shot(session, shot_id), crew_school(session), gear), gear)
