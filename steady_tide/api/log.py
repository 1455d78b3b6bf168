"""Routes of the Log: takes, what recurs, notes of gear; and all of it as files."""

from __future__ import annotations

from dataclasses import asdict
from typing import Annotated, Any
from uuid import UUID
from zoneinfo import ZoneInfo

from fastapi import Body, Query, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import AfterValidator, BaseModel, ConfigDict, Field
from sqlalchemy.orm import Session

from steady_tide import library
from steady_tide.api.services import services_at
from steady_tide.api.shared import CrewKitOf, SessionOf
from steady_tide.api.station import station
from steady_tide.core.log.notes import Note
from steady_tide.core.log.recurring import recurring
from steady_tide.core.log.take import FaultCode, TakeFields
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.moments import known_zone
from steady_tide.formats.log_json import write_log_json
from steady_tide.formats.takes_csv import RowDoubt
from steady_tide.services import log_files
from steady_tide.services.changes import Change, changed
from steady_tide.services.crew_kit import CrewKit
from steady_tide.services.own_numbers import NOTE
from steady_tide.services.takes import (
    FOUND_BY,
    TakeFacts,
    counts_of,
    found_takes,
    keep_take,
    move_take,
    take_facts,
    takes_of_shot,
    that_count,
)
from steady_tide.store import takes as store
from steady_tide.store.database import Database
from steady_tide.store.merging import revision_of
from steady_tide.store.shoots import first_crew
from steady_tide.store.shots import get_shot
from steady_tide.store.tables import GearNote, TakeKept
from steady_tide.words.log import (
    FAULT_WORDS,
    NOTE_TITLES,
    TakeRow,
    note_words,
    recurring_line,
    recurring_more,
    take_rows,
)
from steady_tide.words.quantities import capital
from steady_tide.words.verdicts import verdict_text

router = station("log", "/log")
Found = Annotated[str | None, Field(max_length=200)]


class TakeShot(BaseModel):
    """The shot that a take is of."""

    id: UUID
    title: str
    shoot: str
    shoot_id: UUID
    zone: str


class TakeOut(BaseModel):
    """A take. number: which of its shot it is, by time, from 1; early_days: by how many days it comes before its shoot;
    camera, mount: their names; faults: said and measured; measured: those that were measured; line: the verdict on its
    clip."""

    id: UUID
    number: int
    early_days: int | None
    revision: int
    shot: TakeShot | None
    said: TakeFields
    camera: str | None
    mount: str | None
    faults: tuple[FaultCode, ...]
    measured: tuple[FaultCode, ...]
    line: str | None
    snr: float | None
    clip_id: UUID | None
    ladder_id: UUID | None
    rung: int | None
    made_by: str


class RecurringOut(BaseModel):
    """What recurs. by, of: which takes; fault: that they have."""

    fault: FaultCode
    by: str
    of: str
    says: str
    more: str


class Choice(BaseModel):
    """A value that takes are found by, what it is called, and how many have it."""

    value: str
    says: str
    takes: int


class Takes(BaseModel):
    """Some takes, how many were found, how many there are; what they are found by; what recurs among those that were found;
    faults: what each is called."""

    items: list[TakeOut]
    total: int
    all: int
    choices: dict[str, list[Choice]]
    recurring: list[RecurringOut]
    people: list[str]
    faults: dict[str, str]


class TakeWhole(TakeOut):
    """A take beside its plan: rows of dials, as planned and as set."""

    rows: list[TakeRow]


class TakeLogged(BaseModel):
    """A take as it is logged. Its id is made where it is logged: said twice, it counts once."""

    model_config = ConfigDict(extra="forbid")

    shot_id: UUID | None = None
    said: TakeFields
    ladder_id: UUID | None = None
    rung: Annotated[int | None, Field(ge=0, le=5)] = None


class TakeChange(Change):
    """A change of what is said of a take; shot_id: of which shot it is, left out where that stays."""

    shot_id: UUID | None = None


def _out(take: TakeFacts, names: dict[str, str]) -> TakeOut:
    said, seen = take.seen.said, take.seen
    clip = seen.measures
    return TakeOut(
        id=take.row.id,
        number=take.number,
        early_days=take.early_days,
        revision=revision_of(take.row.stamps),
        shot=None if take.shot is None else TakeShot(**asdict(take.shot)),
        said=said,
        camera=None if said.camera is None else names.get(said.camera, said.camera),
        mount=None if said.mount is None else names.get(said.mount, said.mount),
        faults=seen.faults,
        measured=tuple(fault for fault in seen.faults if fault not in said.faults),
        line=None if seen.verdict is None else verdict_text(seen.verdict, seen.plan is not None).line,
        snr=None if clip is None or clip.doubted("noise.snr_grey") else clip.noise.snr_grey,
        clip_id=take.row.clip_id,
        ladder_id=take.row.ladder_id,
        rung=take.row.rung,
        made_by=take.row.made_by,
    )


CHOICE_WORDS = {**FAULT_WORDS, "keep": "keep", "maybe": "maybe", "no": "no"}


class TakesAsked(BaseModel):
    """What takes are looked for. words: all of them stand in its texts."""

    words: Annotated[str, Field(max_length=200)] = ""
    shot: UUID | None = None
    shoot: Found = None
    camera: Found = None
    scenario: Found = None
    place: Found = None
    mount: Found = None
    hands: Found = None
    fault: Found = None
    rating: Found = None


class TakesPage(TakesAsked):
    """The same, and which of them."""

    offset: Annotated[int, Field(ge=0, le=1_000_000)] = 0
    limit: Annotated[int, Field(ge=1, le=sizes.TAKE_PAGE)] = sizes.TAKE_PAGE


@router.get("/takes")
def takes(session: SessionOf, gear: CrewKitOf, asked: Annotated[TakesPage, Query()]) -> Takes:
    """Takes, the newest first, and what recurs among them."""
    told, found = _found(session, asked)
    names = gear.names
    crew = first_crew(session)
    choices = {
        by: [
            Choice(value=value, says=CHOICE_WORDS.get(value, names.get(value, value)), takes=count)
            for value, count in of.items()
        ]
        for by, of in counts_of(told).items()
    }
    return Takes(
        items=[_out(take, names) for take in found[asked.offset : asked.offset + asked.limit]],
        total=len(found),
        all=len(told),
        choices=choices,
        recurring=[
            RecurringOut(
                fault=one.fault,
                by=one.by,
                of=one.of,
                says=capital(recurring_line(one, names)),
                more=recurring_more(one),
            )
            for one in recurring(that_count(session, found), library.knowledge().limits)
        ],
        people=[] if crew is None else list(crew.people),
        faults=FAULT_WORDS,
    )


def _found(session: Session, asked: TakesAsked) -> tuple[list[TakeFacts], list[TakeFacts]]:
    """All takes, or all of a shot, and those of them that are asked for."""
    wanted = {by: value for by in FOUND_BY if (value := getattr(asked, by))}
    told = take_facts(session) if asked.shot is None else takes_of_shot(session, asked.shot)
    return told, found_takes(told, wanted, asked.words)


def _one(session: Session, row: TakeKept, gear: CrewKit) -> TakeOut:
    return _out(_take_in_words(session, row), gear.names)


def _take_in_words(session: Session, row: TakeKept) -> TakeFacts:
    rows = store.list_takes(session, [row.shot_id]) if row.shot_id is not None else [row]
    rows = rows if any(other.id == row.id for other in rows) else [*rows, row]
    return next(take for take in take_facts(session, rows) if take.row.id == row.id)


@router.put("/takes/{take_id}")
def log_take(session: SessionOf, gear: CrewKitOf, take_id: UUID, logged: TakeLogged) -> TakeOut:
    """Log a take under an id that is made where it is logged. Said again, it stays as it is."""
    kept = keep_take(session, take_id, logged.shot_id, logged.said, logged.ladder_id, logged.rung)
    return _one(session, kept, gear)


@router.get("/takes/{take_id}")
def take(session: SessionOf, gear: CrewKitOf, take_id: UUID) -> TakeWhole:
    """A take beside its plan."""
    told = _take_in_words(session, store.get_take(session, take_id))
    chosen: dict[str, Any] = {}
    names = gear.names
    if told.seen.plan is not None:
        chosen = told.seen.plan.chosen
    elif told.row.shot_id is not None:
        chosen = (get_shot(session, told.row.shot_id).plan or {}).get("chosen", {})
    rows = take_rows(chosen, told.seen.said.settings, names)
    return TakeWhole(**_out(told, names).model_dump(), rows=rows)


@router.patch("/takes/{take_id}")
def change_take(session: SessionOf, gear: CrewKitOf, take_id: UUID, said: TakeChange) -> TakeOut:
    """Change what is said of a take. Others may have changed other parts meanwhile; of the same one is asked."""
    kept = store.locked_take(session, take_id)
    whole, kept.stamps = changed(TakeFields, kept.said, kept.stamps, said.revision, said.change)
    kept.said, kept.at = whole.model_dump(mode="json"), whole.at
    session.flush()
    if "shot_id" in said.model_fields_set:
        move_take(session, kept, said.shot_id)
    return _one(session, kept, gear)


@router.delete("/takes/{take_id}", status_code=204)
def remove_take(session: SessionOf, take_id: UUID) -> None:
    """Remove a take; it can be brought back."""
    store.remove_take(session, take_id)


@router.post("/takes/{take_id}/restore")
def restore_take(session: SessionOf, gear: CrewKitOf, take_id: UUID) -> TakeOut:
    """Bring a removed take back."""
    return _one(session, store.restore_take(session, take_id), gear)


class NoteOut(BaseModel):
    """A note of gear, and its line."""

    id: UUID
    title: str
    says: str
    note: Note


class Notes(BaseModel):
    """All notes of gear, the newest first."""

    items: list[NoteOut]
    total: int


def _note(row: GearNote, names: dict[str, str]) -> NoteOut:
    note = NOTE.validate_python(row.note)
    return NoteOut(id=row.id, title=NOTE_TITLES[note.kind], says=note_words(note, names), note=note)


@router.get("/notes")
def notes(session: SessionOf, gear: CrewKitOf) -> Notes:
    """Notes of gear: charges, heat stops, readout, glass, cards, stabilisation."""
    items = [_note(row, gear.names) for row in store.list_notes(session)]
    return Notes(items=items, total=len(items))


@router.put("/notes/{note_id}")
def note(session: SessionOf, gear: CrewKitOf, note_id: UUID, said: Annotated[Note, Body()]) -> NoteOut:
    """Keep a note under an id that is made where it is written. Said again, it stays as it is."""
    row, _ = store.put_note(session, note_id, said.at, said.model_dump(mode="json"))
    return _note(row, gear.names)


@router.delete("/notes/{note_id}", status_code=204)
def remove_note(session: SessionOf, note_id: UUID) -> None:
    """Remove a note; it can be brought back."""
    store.remove_note(session, note_id)


@router.post("/notes/{note_id}/restore")
def restore_note(session: SessionOf, gear: CrewKitOf, note_id: UUID) -> NoteOut:
    """Bring a removed note back."""
    return _note(store.restore_note(session, note_id), gear.names)


@router.get("/log.json", response_class=Response)
def log_json(session: SessionOf) -> Response:
    """All of the log as its file: takes, ladders with what was said, notes, own numbers."""
    return _file(write_log_json(log_files.log_file_of(session)), "application/json", "log.json")


@router.get("/takes.csv", response_class=Response)
def takes_csv(session: SessionOf, asked: Annotated[TakesAsked, Query()]) -> Response:
    """Takes as CSV, all or those that are asked for."""
    _, found = _found(session, asked)
    return _file(log_files.takes_csv_of(session, found), "text/csv", "takes.csv")


def _file(text: str, kind: str, name: str) -> Response:
    return Response(text, media_type=kind, headers={"Content-Disposition": f'attachment; filename="{name}"'})


class LogReadOut(BaseModel):
    """What a file brings, or brought. fresh, known: takes that were not here, and that were."""

    fresh: int
    known: int
    ladders: int
    notes: int
    doubts: list[RowDoubt]
    passed_over: list[str]
    applied: bool


@router.post("/import")
async def take_in(
    request: Request,
    name: Annotated[str, Query(min_length=1, max_length=200, pattern=r"^[^\x00]*$")] = "the file",
    zone: Annotated[
        str, Query(max_length=64, description="for times that name none"), AfterValidator(known_zone)
    ] = "UTC",
    apply: Annotated[bool, Query(description="keep it, instead of looking only")] = False,
) -> LogReadOut:
    """Take in a log as JSON, or takes as CSV; by default only tell what it would bring."""
    data = await request.body()
    database: Database = services_at(request).database

    def read() -> LogReadOut:
        with database.session() as session:
            found = log_files.read_in(session, data, name, ZoneInfo(zone), apply)
        return LogReadOut(
            fresh=found.fresh,
            known=found.known,
            ladders=found.ladders,
            notes=found.notes,
            doubts=list(found.doubts),
            passed_over=list(found.passed_over),
            applied=apply,
        )

    return await run_in_threadpool(read)
