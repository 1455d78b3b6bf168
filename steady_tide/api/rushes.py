"""Routes of Rushes: folders, clips and what was measured of them, takes, next time, the day's report."""

from __future__ import annotations

import asyncio
import json
from collections.abc import AsyncIterator, Sequence
from contextlib import suppress
from datetime import datetime, timedelta
from pathlib import Path
from typing import Annotated, Any, Literal
from uuid import UUID, uuid4

from fastapi import Query, Request, Response
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import StreamingResponse
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.orm import Session

from steady_tide import library
from steady_tide.api.services import services_at
from steady_tide.api.shared import CrewKitOf, CrewWay, SessionOf
from steady_tide.api.station import station
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadFile, Fault, StoreUnavailable
from steady_tide.core.rushes.matching import SURE
from steady_tide.core.rushes.measures import ClipMeasures
from steady_tide.core.rushes.timeline import Timeline, coarser
from steady_tide.services import rushes as service
from steady_tide.services.rush_folders import ENDINGS, look_into
from steady_tide.services.rush_matching import of_person
from steady_tide.services.rushes import Judged
from steady_tide.store import rushes as store
from steady_tide.store import shots as store_shots
from steady_tide.store.database import Database
from steady_tide.store.tables import Clip, RushFolder
from steady_tide.store.takes import ratings_of
from steady_tide.words.verdicts import (
    Moment,
    NextTimeText,
    PlannedRow,
    ReportText,
    VerdictText,
    moments_of,
    next_time_text,
    planned_rows,
    report_text,
    take_words,
    verdict_text,
)

router = station("rushes", "/rushes")
ROW_STEPS = 48  # of a timeline in a list
LOOKS_EVERY_S, LOOKS_BACK = 0.5, timedelta(seconds=30)
QUIET_S = 15.0  # after which a line without news shows that it is alive
JPEG: dict[int | str, dict[str, object]] = {200: {"content": {"image/jpeg": {}}, "description": "The picture."}}
EVENTS: dict[int | str, dict[str, object]] = {
    200: {"content": {"text/event-stream": {}}, "description": "What changes, as it changes."}
}
Rating = Literal["keep", "maybe", "no"]
State = Literal["waiting", "measuring", "done", "failed", "cancelled"]


class FolderOut(BaseModel):
    """A folder whose clips are measured. kind: start, named or drops."""

    id: UUID
    path: str
    kind: str
    problem: str | None
    clips: int


class Folders(BaseModel):
    """All folders."""

    items: list[FolderOut]
    total: int


class FolderNamed(BaseModel):
    """A folder of this machine."""

    model_config = ConfigDict(extra="forbid")
    path: Annotated[str, Field(min_length=1, max_length=4000, pattern=r"^[^\x00]*$")]


class ShotNamed(BaseModel):
    """A shot that a clip is of."""

    id: UUID
    title: str
    shoot: str
    shoot_id: UUID


class TakePlace(BaseModel):
    """Where a clip stands among the takes of its shot, from 1, and why."""

    place: int
    of: int
    why: str


class ClipRow(BaseModel):
    """A clip in the list."""

    id: UUID
    name: str
    folder_id: UUID
    state: State
    share: float
    problem: str | None
    quick: bool
    gone: bool
    recorded_at: datetime | None
    seconds: float | None
    width: int | None
    height: int | None
    rate: float | None
    rating: Rating | None
    shot: ShotNamed | None
    other_shot: ShotNamed | None
    asked_of_person: bool
    confirmed: bool
    verdict: VerdictText | None
    take: TakePlace | None
    line: Timeline | None
    frames: list[float]


class ClipWhole(ClipRow):
    """A clip with all that was measured of it. moments: worth looking at; expected_stops: how far above
    mid grey its frames were to be; blown_from: the share of white that is noticed; camera: of its plan."""

    measures: ClipMeasures | None
    rows: list[PlannedRow]
    whole_line: Timeline | None
    moments: list[Moment]
    expected_stops: float | None
    blown_from: float
    camera: str | None


class ClockOut(BaseModel):
    """How far a camera's clock runs ahead, seconds, and how many clips say so."""

    camera: str
    ahead_s: float
    clips: int


class Counts(BaseModel):
    """How many clips are in each state."""

    waiting: int = 0
    measuring: int = 0
    done: int = 0
    failed: int = 0
    cancelled: int = 0


class Clips(BaseModel):
    """Some clips, how many there are, how far all are, and the cameras' clocks."""

    items: list[ClipRow]
    total: int
    counts: Counts
    clocks: list[ClockOut]


class ClipChange(BaseModel):
    """What a person says of a clip. shot_id: of which shot it is, null for none; rating: null for none."""

    model_config = ConfigDict(extra="forbid")
    shot_id: UUID | None = None
    rating: Rating | None = None


class HowMany(BaseModel):
    """How many clips a request changed."""

    clips: int


@router.get("/folders")
def folders(session: SessionOf) -> Folders:
    """Folders whose clips are measured."""
    counts = store.clip_counts(session)
    items = [_folder(folder, counts) for folder in store.list_folders(session)]
    return Folders(items=items, total=len(items))


def _folder(folder: RushFolder, counts: dict[UUID, int]) -> FolderOut:
    many = counts.get(folder.id, 0)
    return FolderOut(id=folder.id, path=folder.path, kind=folder.kind, problem=folder.problem, clips=many)


@router.post("/folders", status_code=201)
def name_folder(session: SessionOf, named: FolderNamed) -> FolderOut:
    """Name a folder of this machine: its clips appear at once, and are measured one after the other."""
    return _folder(service.name_folder(session, named.path), store.clip_counts(session))


@router.post("/folders/{folder_id}/look")
def look_again(session: SessionOf, folder_id: UUID) -> FolderOut:
    """See what lies in a folder now."""
    folder = store.locked_folder(session, folder_id)
    look_into(session, folder)
    return _folder(folder, store.clip_counts(session))


@router.delete("/folders/{folder_id}", status_code=204)
def forget_folder(session: SessionOf, folder_id: UUID) -> None:
    """Take a folder off, with what was measured in it. Its files stay as they are."""
    store.delete_folder(session, folder_id)


@router.post("/drops", status_code=201)
async def drop(
    request: Request,
    name: Annotated[str, Query(min_length=1, max_length=200, pattern=r"^[^\x00]*$")],
) -> FolderOut:
    """Hand a clip over, as it is. It is measured, and then thrown away."""
    ending = Path(name).suffix.lower()
    if ending not in ENDINGS:
        raise BadFile(Fault(name, "is no clip by its name", f"Hand over one of {', '.join(sorted(ENDINGS))}."))
    into: Path = services_at(request).drops
    shown = "".join(letter for letter in Path(name).name if letter.isprintable() and letter not in "/\\")[-120:]
    part = into / f"{uuid4().hex}.part"
    size = 0
    try:
        with part.open("wb") as file:
            async for chunk in request.stream():
                size += len(chunk)
                await run_in_threadpool(file.write, chunk)
        if size == 0:
            raise BadFile(Fault(name, "is empty", "Copy it again from the card."))
        part.replace(into / f"{uuid4().hex[:6]} {shown}")
    except OSError as error:
        raise BadFile(Fault(name, f"cannot be kept while it is measured ({error.strerror})", "Make room.")) from None
    finally:
        part.unlink(missing_ok=True)
    return await run_in_threadpool(_dropped, services_at(request).database, into)


def _dropped(database: Database, into: Path) -> FolderOut:
    with database.session() as session:
        folder = store.add_folder(session, str(into.resolve()), "drops")
        look_into(session, folder)
        return _folder(folder, store.clip_counts(session))


@router.get("/clips")
def clips(
    session: SessionOf,
    folder: UUID | None = None,
    shoot: UUID | None = None,
    offset: Annotated[int, Query(ge=0, le=1_000_000)] = 0,
    limit: Annotated[int, Query(ge=1, le=sizes.CLIP_PAGE)] = sizes.CLIP_PAGE,
) -> Clips:
    """Clips by the time of recording, each with its verdict, its place among the takes, and what it was like over time."""
    of_shoot = None if shoot is None else [shot.id for shot in store_shots.list_shots(session, shoot)]
    found, total = store.page_of_clips(session, folder, of_shoot, offset, limit)
    clocks = [ClockOut(camera=one.camera, ahead_s=one.ahead_s, clips=one.clips) for one in store.list_clocks(session)]
    return Clips(items=_rows(session, found), total=total, counts=Counts(**store.states(session)), clocks=clocks)


def _rows(session: Session, found: Sequence[Clip]) -> list[ClipRow]:
    said = service.judged(session, service.whole_shots(session, found))
    names = _shots_of(session, found)
    frames = store.frames_at(session, [clip.id for clip in found])
    confirmed = store.confirmed_clips(session, [clip.id for clip in found])
    places: dict[UUID, TakePlace] = {}
    for shot_id in {clip.shot_id for clip in found if clip.shot_id is not None}:
        takes = service.ranked_takes([one for one in said.values() if one.clip.shot_id == shot_id])
        for place, take in enumerate(takes):
            why = take_words(take, place, len(takes))
            places[UUID(take.clip)] = TakePlace(place=place + 1, of=len(takes), why=why)
    ratings = ratings_of(session, [clip.id for clip in found])
    return [
        _row(
            clip,
            said.get(clip.id),
            names,
            frames.get(clip.id, []),
            places.get(clip.id),
            ratings.get(clip.id),
            clip.id in confirmed,
        )
        for clip in found
    ]


def _row(
    clip: Clip,
    said: Judged | None,
    names: dict[UUID, ShotNamed],
    frames: list[float],
    take: TakePlace | None,
    rating: str | None,
    confirmed: bool,
) -> ClipRow:
    facts: dict[str, Any] = clip.facts or {}
    unsure = clip.matched_by is not None and not confirmed and (clip.match_share or 0.0) < SURE
    return ClipRow(
        id=clip.id,
        name=clip.name,
        folder_id=clip.folder_id,
        state=clip.state,
        share=clip.share,
        problem=clip.problem,
        quick=clip.quick,
        gone=clip.gone_at is not None,
        recorded_at=clip.recorded_at,
        seconds=facts.get("seconds"),
        width=facts.get("width"),
        height=facts.get("height"),
        rate=facts.get("rate"),
        rating=rating,
        shot=None if clip.shot_id is None else names.get(clip.shot_id),
        other_shot=None if clip.other_shot_id is None else names.get(clip.other_shot_id),
        asked_of_person=unsure,
        confirmed=confirmed,
        verdict=None if said is None else verdict_text(said.verdict, said.plan is not None),
        take=take,
        line=None if said is None else coarser(said.timeline, ROW_STEPS),
        frames=frames,
    )


def _shots_of(session: Session, found: Sequence[Clip]) -> dict[UUID, ShotNamed]:
    """The shots of some clips by id, those of shoots that were removed among them."""
    wanted = {shot_id for clip in found for shot_id in (clip.shot_id, clip.other_shot_id) if shot_id is not None}
    return {
        shot_id: ShotNamed(id=shot_id, title=title, shoot=shoot, shoot_id=shoot_id)
        for shot_id, title, shoot, shoot_id in store_shots.names_of(session, wanted)
    }


@router.get("/clips/{clip_id}")
def clip(session: SessionOf, clip_id: UUID) -> ClipWhole:
    """A clip with all that was measured of it, as planned beside as filmed."""
    return _whole(session, store.get_clip(session, clip_id))


def _whole(session: Session, found: Clip) -> ClipWhole:
    said = service.judged(session, service.whole_shots(session, [found])).get(found.id)
    rows = [] if said is None else planned_rows(said.measures, said.plan, said.light, said.expected_stops, said.verdict)
    row = _rows(session, [found])[0]
    return ClipWhole(
        **row.model_dump(),
        measures=None if said is None else said.measures,
        rows=rows,
        whole_line=None if said is None else said.timeline,
        moments=[] if said is None else moments_of(said.measures, said.timeline, said.verdict),
        expected_stops=None if said is None else said.expected_stops,
        blown_from=library.knowledge().limits.rushes_blown_noticed,
        camera=None if said is None or said.plan is None else said.plan.camera_name,
    )


@router.get("/clips/{clip_id}/frames/{position}", response_class=Response, responses=JPEG)
def frame(
    session: SessionOf,
    clip_id: UUID,
    position: Annotated[int, Field(ge=0, le=100)],
    marked: Annotated[bool, Query(description="with what is blown and drowned marked by pattern")] = False,
) -> Response:
    """A small frame of a clip."""
    found = store.get_frame(session, clip_id, position)
    headers = {"Cache-Control": "private, max-age=60"}
    return Response(found.marked if marked else found.plain, media_type="image/jpeg", headers=headers)


@router.patch("/clips/{clip_id}")
def change(session: SessionOf, clip_id: UUID, said: ClipChange) -> ClipWhole:
    """Say of which shot a clip is, or what is thought of it."""
    if "shot_id" in said.model_fields_set:
        of_person(session, clip_id, said.shot_id)
    if "rating" in said.model_fields_set:
        service.rate(session, clip_id, said.rating)
    session.flush()
    return _whole(session, store.get_clip(session, clip_id))


@router.post("/clips/{clip_id}/measure", status_code=202)
def measure(
    session: SessionOf,
    clip_id: UUID,
    quick: Annotated[bool, Query(description="look at bursts of frames instead of all")] = False,
) -> ClipRow:
    """Measure a clip again."""
    found = service.anew(session, clip_id, quick)
    session.flush()
    session.refresh(found)
    return _rows(session, [found])[0]


@router.post("/cancel")
def cancel(session: SessionOf, clip: UUID | None = None) -> HowMany:
    """Stop measuring one clip, or all. What is measured already stays."""
    return HowMany(clips=store.cancel(session, clip))


@router.post("/resume")
def resume(session: SessionOf) -> HowMany:
    """Go on with what was cancelled."""
    return HowMany(clips=service.resume(session))


@router.post("/shots/{shot_id}/confirm")
def confirm(session: SessionOf, shot_id: UUID) -> HowMany:
    """Say that the clips that were put to a shot are of it. From then on they count for its light, its next plan, the Log
    and one's own numbers."""
    store_shots.get_shot(session, shot_id)
    return HowMany(clips=store.confirm_shot(session, shot_id))


@router.get("/shots/{shot_id}/next")
def next_time(session: SessionOf, shot_id: UUID, crew: CrewWay, kit: CrewKitOf) -> NextTimeText:
    """A shot planned again with what its clips tell of light, hand and meter."""
    return next_time_text(service.next_time_of(session, shot_id, crew, kit))


@router.get("/report")
def report(session: SessionOf, kit: CrewKitOf, shoot: UUID | None = None, folder: UUID | None = None) -> ReportText:
    """What went well, what went wrong most, what to change on the camera first."""
    of_shoot = None if shoot is None else [shot.id for shot in store_shots.list_shots(session, shoot)]
    found, _ = store.page_of_clips(session, folder, of_shoot, 0, sizes.CLIPS)
    said = service.judged(session, found)
    return report_text(service.report_of(list(said.values())), {sheet.id: sheet.name for sheet in kit.kit.cameras})


@router.get("/events", response_class=StreamingResponse, responses=EVENTS)
async def events(request: Request) -> StreamingResponse:
    """What becomes of clips, as it changes: their states and shares."""
    return StreamingResponse(_changes(request), media_type="text/event-stream", headers={"Cache-Control": "no-store"})


async def _changes(request: Request) -> AsyncIterator[str]:
    database: Database = services_at(request).database
    seen: dict[UUID, datetime] = {}
    since: datetime | None = None
    changed: list[tuple[UUID, str, float, datetime]] = []
    count, quiet = -1, 0.0
    yield "retry: 2000\n\n"
    while not services_at(request).is_ending() and not await request.is_disconnected():
        changed, now = [], count
        with suppress(StoreUnavailable):
            changed, now = await run_in_threadpool(_news, database, since)
        fresh = [one for one in changed if seen.get(one[0]) != one[3]]
        quiet += LOOKS_EVERY_S
        if fresh or now < count:
            clips = [{"id": str(clip_id), "state": state, "share": share} for clip_id, state, share, _ in fresh]
            yield f"data: {json.dumps({'clips': clips, 'gone': now < count})}\n\n"
            quiet = 0.0
        elif quiet >= QUIET_S:
            yield ": here\n\n"
            quiet = 0.0
        count = now
        if changed:
            # A change that took long comes in with the moment at which it was made: some time is looked at twice.
            since = changed[-1][3] - LOOKS_BACK
            seen = {clip_id: at for clip_id, _, _, at in changed}
        await asyncio.sleep(LOOKS_EVERY_S)


def _news(database: Database, since: datetime | None) -> tuple[list[tuple[UUID, str, float, datetime]], int]:
    """Clips that changed since a moment, and how many there are in all."""
    with database.session() as session:
        return store.changed_since(session, since), sum(store.states(session).values())
