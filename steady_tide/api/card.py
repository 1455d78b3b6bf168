"""Routes of the Card station: one shot, one camera's day, the whole shoot; on the screen, as a file, on paper."""

from __future__ import annotations

import re
from base64 import b64encode
from typing import Annotated, TypedDict
from uuid import UUID

from fastapi import Path, Query
from fastapi.responses import HTMLResponse, Response
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from steady_tide import library
from steady_tide.api.guard import CARD_POLICY
from steady_tide.api.shared import AsideDesk, CrewKitOf, CrewWay, HeldKit, LooksOf, PlansOf, PresetsOf, SessionOf
from steady_tide.api.station import station
from steady_tide.core.brief.brief import School
from steady_tide.core.outing.presets import PresetPlan, named
from steady_tide.core.planning.settings_code import settings_code
from steady_tide.core.quantities.errors import NoLegalPlan, NotFound
from steady_tide.formats.card_html import Ground, write_cards
from steady_tide.formats.card_pdf import Paper
from steady_tide.formats.settings_code import code_svg
from steady_tide.services.crew_kit import CrewKit
from steady_tide.services.days import NO_PLAN, PresetShelf, kit_for, outing_of_rows, rules_of, where_is
from steady_tide.services.kept_plans import standing_of
from steady_tide.services.look_frames import LookAsked
from steady_tide.services.look_scenes import own_still
from steady_tide.services.planning_pool import Desk, Turn
from steady_tide.services.planning_tasks import paper_of
from steady_tide.services.plans import Plans
from steady_tide.services.stories import film_kept
from steady_tide.store import shots as store
from steady_tide.store.card_frames import frames_of, get_frame, put_frames
from steady_tide.store.films import list_films
from steady_tide.store.shoots import get_shoot
from steady_tide.store.tables import Shoot
from steady_tide.words.cards import Card, FrameOnCard
from steady_tide.words.day_cards import DayCards, with_films
from steady_tide.words.days import whole_day
from steady_tide.words.looks import look_text, made_with
from steady_tide.words.story import film_text

router = station("card")
MOST_FRAMES, FRAME_PX = 2, 480
CARD_WAITS_S = 0.4  # for the presets; a hand is waiting
OnPaper = Annotated[Paper, Query()]
OnGround = Annotated[Ground, Query()]
Download = Annotated[bool, Query()]
OfCamera = Annotated[str | None, Query(max_length=60, description="id, for one camera's day")]


class FrameAsked(BaseModel):
    """A frame to be drawn for a card."""

    name: Annotated[str, Field(min_length=1, max_length=120)]
    look: LookAsked


class FramesAsked(BaseModel):
    """Frames to stand on a card."""

    frames: Annotated[tuple[FrameAsked, ...], Field(max_length=MOST_FRAMES)]


class FramesPut(BaseModel):
    """How many frames stand on a card now."""

    total: int


class Outside(TypedDict):
    """What was ticked and noted, by shot."""

    ticks: dict[str, dict[str, bool]]
    noted: dict[str, dict[str, str]]


def _cards(
    session: Session,
    plans: Plans,
    presets: PresetShelf,
    crew: School,
    gear: CrewKit,
    shoot: Shoot,
    camera: str | None = None,
    only: UUID | None = None,
    wait_s: float | None = None,
) -> tuple[DayCards, Outside]:
    """Cards of a day. wait_s: how long to wait for what has to be turned, where the card may be shown without it."""
    rows = store.list_planned(session, shoot.id)
    outing = outing_of_rows(session, rows, crew, gear, plans)
    if only is not None and (lacking := next((u for u in outing.unplanned if u.key == str(only)), None)):
        raise NoLegalPlan(lacking.code, lacking.facts)
    if camera is not None and camera not in {shot.sheet.id for shot in outing.shots}:
        raise NotFound(f"The camera '{camera}' films nothing in this shoot.")
    # One shot's card waits for the presets of its own camera alone.
    mine = None if only is None else next((s.sheet.id for s in outing.shots if s.key == str(only)), None)
    stored: tuple[PresetPlan, ...]
    if wait_s is None or mine is None:
        stored = presets.of_day(outing, camera or mine)
    else:
        there = presets.at_hand(outing, mine, wait_s)
        stored = () if there is None else (there,)
    made = whole_day(
        outing,
        where_is(shoot),
        kit_for(outing, gear),
        gear.knowledge,
        crew,
        named(stored, rules_of(shoot).preset_names),
        camera,
        None if only is None else str(only),
    )
    films = (
        []
        if only is not None and all(row.framing is None for row in rows if row.id == only)
        else list_films(session, shoot.id)
    )
    kinds = library.framings()
    told = [film_text(film_kept(session, film, crew, gear, plans), kinds) for film in films]
    made = with_films(made, told) if told else made
    ticks = {str(row.id): row.ticks for row in rows}
    return made, {"ticks": ticks, "noted": {str(row.id): row.really_set for row in rows}}


@router.get("/shots/{shot_id}/card")
def card(session: SessionOf, plans: PlansOf, presets: PresetsOf, crew: CrewWay, gear: CrewKitOf, shot_id: UUID) -> Card:
    """A shot's plan in the camera's menu order, with the day around it; what has to be turned may still be counted."""
    shoot = get_shoot(session, store.get_shot(session, shot_id).shoot_id)
    made, _ = _cards(session, plans, presets, crew, gear, shoot, only=shot_id, wait_s=CARD_WAITS_S)
    found = made.cards[0].card
    frames = tuple(
        FrameOnCard(
            name=frame.name, says=frame.says,
            src=f"/api/shots/{shot_id}/frames/{frame.position}?at={frame.made_at.timestamp():.0f}",
        )
        for frame in frames_of(session, [shot_id])[shot_id]
    )  # fmt: skip
    return found.model_copy(update={"counting": found.begin is None, "frames": frames})


def _within(session: Session, made: DayCards) -> dict[str, list[FrameOnCard]]:
    """Frames of a day's cards with their pictures in their addresses, for a file that needs no network."""
    found = frames_of(session, [UUID(entry.key) for entry in made.cards])
    return {
        str(shot): [
            # Ours, and longer than what is read may be.
            FrameOnCard.model_construct(
                name=frame.name, says=frame.says, src=f"data:image/webp;base64,{b64encode(frame.picture).decode()}"
            )
            for frame in frames
        ]
        for shot, frames in found.items()
    }


@router.get("/shots/{shot_id}/frames/{position}", response_class=Response)
def card_frame(session: SessionOf, shot_id: UUID, position: Annotated[int, Path(ge=0, le=MOST_FRAMES)]) -> Response:
    """A drawn frame on a card."""
    picture = get_frame(session, shot_id, position).picture
    return Response(picture, media_type="image/webp", headers={"Cache-Control": "private, max-age=86400"})


@router.put("/shots/{shot_id}/frames")
def put_frames_on_card(
    shelf: LooksOf, session: SessionOf, crew: CrewWay, kit: HeldKit, shot_id: UUID, asked: FramesAsked
) -> FramesPut:
    """Put drawn frames on a card in place of those that are there; none takes them off."""
    store.get_shot(session, shot_id)
    drawn = []
    for one in asked.frames:
        small = one.look.model_copy(update={"size": FRAME_PX, "loupe": None, "form": "webp", "marked": False})
        found = shelf.ask(small, crew, kit, own_still(session, small.scene), None).result()
        drawn.append((one.name, f"{made_with(found.numbers)}. {look_text(found.numbers).text}", found.picture))
    put_frames(session, shot_id, drawn)
    return FramesPut(total=len(drawn))


@router.get("/shoots/{shoot_id}/cards")
def cards(
    session: SessionOf,
    plans: PlansOf,
    presets: PresetsOf,
    crew: CrewWay,
    gear: CrewKitOf,
    shoot_id: UUID,
    camera: OfCamera = None,
) -> DayCards:
    """The cards of a day, or of one camera's day."""
    return _cards(session, plans, presets, crew, gear, get_shoot(session, shoot_id), camera)[0]


@router.get("/shots/{shot_id}/card.html", response_class=HTMLResponse)
def card_file(
    session: SessionOf,
    plans: PlansOf,
    presets: PresetsOf,
    crew: CrewWay,
    gear: CrewKitOf,
    shot_id: UUID,
    ground: OnGround = "day",
    download: Download = False,
) -> HTMLResponse:
    """The card as one self-contained file that works without a network."""
    shoot = get_shoot(session, store.get_shot(session, shot_id).shoot_id)
    made, outside = _cards(session, plans, presets, crew, gear, shoot, only=shot_id)
    return _page(
        write_cards(made, str(shot_id), ground, **outside, frames=_within(session, made)), made.title, download
    )


@router.get("/shoots/{shoot_id}/cards.html", response_class=HTMLResponse)
def cards_file(
    session: SessionOf,
    plans: PlansOf,
    presets: PresetsOf,
    crew: CrewWay,
    gear: CrewKitOf,
    shoot_id: UUID,
    ground: OnGround = "day",
    camera: OfCamera = None,
    download: Download = False,
) -> HTMLResponse:
    """The cards of a day as one self-contained file."""
    made, outside = _cards(session, plans, presets, crew, gear, get_shoot(session, shoot_id), camera)
    return _page(
        write_cards(made, f"{shoot_id}{camera or ''}", ground, **outside, frames=_within(session, made)),
        made.title,
        download,
    )


@router.get("/shots/{shot_id}/card.pdf", response_class=Response)
def card_paper(
    session: SessionOf,
    plans: PlansOf,
    presets: PresetsOf,
    crew: CrewWay,
    gear: CrewKitOf,
    desk: AsideDesk,
    shot_id: UUID,
    paper: OnPaper = "a6",
) -> Response:
    """The card on one page."""
    shoot = get_shoot(session, store.get_shot(session, shot_id).shoot_id)
    made, _ = _cards(session, plans, presets, crew, gear, shoot, only=shot_id)
    return _pdf(desk, made, paper)


@router.get("/shots/{shot_id}/code.svg", response_class=Response)
def code(session: SessionOf, plans: PlansOf, crew: CrewWay, gear: CrewKitOf, shot_id: UUID) -> Response:
    """The settings as a code to be photographed."""
    now = standing_of(session, store.get_shot(session, shot_id), crew, gear, plans)
    if now.plan is None:
        raise now.refusal or NoLegalPlan(NO_PLAN, {})
    return Response(code_svg(settings_code(now.brief, now.plan)), media_type="image/svg+xml")


@router.get("/shoots/{shoot_id}/cards.pdf", response_class=Response)
def cards_paper(
    session: SessionOf,
    plans: PlansOf,
    presets: PresetsOf,
    crew: CrewWay,
    gear: CrewKitOf,
    desk: AsideDesk,
    shoot_id: UUID,
    paper: OnPaper = "a6",
    camera: OfCamera = None,
) -> Response:
    """The cards of a day, one page a shot."""
    made, _ = _cards(session, plans, presets, crew, gear, get_shoot(session, shoot_id), camera)
    return _pdf(desk, made, paper)


def _plain(title: str) -> str:
    return re.sub(r"[^a-z0-9]+", "-", title.lower()).strip("-") or "card"


def _page(text: str, title: str, download: bool) -> HTMLResponse:
    headers = {"Content-Security-Policy": CARD_POLICY}
    if download:
        headers["Content-Disposition"] = f'attachment; filename="{_plain(title)}.html"'
    return HTMLResponse(text, headers=headers)


def _pdf(desk: Desk, made: DayCards, paper: Paper) -> Response:
    if not made.cards:
        raise NotFound("No shot has a plan yet, so there is nothing to print.")
    headers = {"Content-Disposition": f'attachment; filename="{_plain(made.title)}-{paper}.pdf"'}
    content = desk.ask(paper_of, (made, paper), Turn.HAND).result()
    return Response(content, media_type="application/pdf", headers=headers)
