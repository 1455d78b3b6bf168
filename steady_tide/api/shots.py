"""Routes of shots: their briefs, and the plans made from them."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any
from uuid import UUID

from fastapi import APIRouter
from pydantic import AwareDatetime, BaseModel, ConfigDict, Field

from steady_tide.api.planned import made_again, planned_fields
from steady_tide.api.shared import SessionOf
from steady_tide.core.brief import Brief
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


def _out(shot: Shot) -> ShotOut:
    return ShotOut.model_validate(
        {**_line(shot), "brief": shot.brief, "plan": shot.plan, "updated_at": shot.updated_at}
    )


@router.get("/shoots/{shoot_id}/shots")
def list_of(session: SessionOf, shoot_id: UUID) -> ShotList:
    """The shots of a shoot."""
    items = [ShotLine(**_line(shot)) for shot in store.list_shots(session, shoot_id)]
    return ShotList(items=items, total=len(items))


@router.post("/shoots/{shoot_id}/shots", status_code=201)
def add(session: SessionOf, shoot_id: UUID, fields: ShotFields) -> ShotOut:
    """Plan and keep a new shot."""
    return _out(
        store.add_shot(
            session, shoot_id, {"starts_at": fields.starts_at, **planned_fields(fields.brief, crew_school(session))}
        )
    )


@router.get("/shots/{shot_id}")
def get(session: SessionOf, shot_id: UUID) -> ShotOut:
    """One shot with its plan."""
    return _out(made_again(store.get_shot(session, shot_id), crew_school(session)))


@router.put("/shots/{shot_id}")
def change(session: SessionOf, shot_id: UUID, fields: ShotChange) -> ShotOut:
    """Change a shot and plan it again."""
    planned = planned_fields(fields.brief, crew_school(session))
    shot = store.change_shot(session, shot_id, fields.revision, {"starts_at": fields.starts_at, **planned})
    session.refresh(shot, ["updated_at"])
    return _out(shot)


@router.delete("/shots/{shot_id}", status_code=204)
def remove(session: SessionOf, shot_id: UUID) -> None:
    """Remove a shot; it can be brought back."""
    store.remove_shot(session, shot_id)


@router.post("/shots/{shot_id}/restore")
def restore(session: SessionOf, shot_id: UUID) -> ShotOut:
    """Bring a removed shot back."""
    return _out(made_again(store.restore_shot(session, shot_id), crew_school(session)))
