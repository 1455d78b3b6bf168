"""Routes of the Card station."""

from __future__ import annotations

import re
from typing import Annotated
from uuid import UUID
from zoneinfo import ZoneInfo

from fastapi import APIRouter, Query
from fastapi.responses import HTMLResponse
from sqlalchemy.orm import Session

from steady_tide import library
from steady_tide.api.guard import CARD_POLICY
from steady_tide.api.planned import made_again
from steady_tide.api.shared import SessionOf
from steady_tide.core.brief import Brief
from steady_tide.core.card import Card, card_of
from steady_tide.core.errors import NoLegalPlan, NotFound
from steady_tide.core.planning.plan import Plan
from steady_tide.formats.card_html import Ground, write_card
from steady_tide.store import shots as store
from steady_tide.store.shoots import crew_school
from steady_tide.store.tables import Shot

router = APIRouter(prefix="/shots/{shot_id}", tags=["card"])


def _card(session: Session, shot: Shot) -> Card:
    made_again(shot, crew_school(session))
    if shot.plan is None:
        raise NoLegalPlan(str(shot.summary.get("problem", "This shot has no plan.")), ())
    plan = Plan.model_validate(shot.plan)
    sheet = next((camera for camera in library.demo_kit().cameras if camera.id == plan.camera.id), None)
    if sheet is None:
        raise NotFound(f"The camera '{plan.camera.name}' is no longer in the kit. Plan the shot again.")
    made = card_of(Brief.model_validate(shot.brief), plan, sheet, library.knowledge())
    return made.model_copy(update={"when": _when(session, shot)})


def _when(session: Session, shot: Shot) -> str:
    if shot.starts_at is None:
        return ""
    local = shot.starts_at.astimezone(ZoneInfo(shot.shoot.zone))
    return f"{local:%A} {local.day} {local:%B}, {local:%H:%M}"


@router.get("/card")
def card(session: SessionOf, shot_id: UUID) -> Card:
    """A shot's plan in the camera's menu order."""
    return _card(session, store.get_shot(session, shot_id))


@router.get("/card.html", response_class=HTMLResponse)
def card_file(
    session: SessionOf,
    shot_id: UUID,
    ground: Annotated[Ground, Query()] = "day",
    download: Annotated[bool, Query()] = False,
) -> HTMLResponse:
    """The card as one self-contained file that works without a network."""
    shot = store.get_shot(session, shot_id)
    made = _card(session, shot)
    headers = {"Content-Security-Policy": CARD_POLICY}
    if download:
        name = re.sub(r"[^a-z0-9]+", "-", made.title.lower()).strip("-") or "card"
        headers["Content-Disposition"] = f'attachment; filename="{name}.html"'
    return HTMLResponse(write_card(made, key=str(shot_id), ground=ground), headers=headers)
