"""Routes of camera sheets: the mode map, editions, drafts, pasted tables, and clips that a draft begins from."""

from __future__ import annotations

import json
from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from fastapi import Query, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.orm import Session

from steady_tide import library
from steady_tide.api.files import FILE_BODY
from steady_tide.api.kit import sent
from steady_tide.api.shared import CrewKitOf, SessionOf
from steady_tide.api.station import station
from steady_tide.core.cameras.clips import ClipsDraft, FileFacts, draft_of
from steady_tide.core.cameras.completing import Completed, RoughSheet, complete, rough_of
from steady_tide.core.cameras.fields import FieldGroup
from steady_tide.core.cameras.joining import joined, with_modes
from steady_tide.core.cameras.known import Known
from steady_tide.core.cameras.mode_map import mode_map
from steady_tide.core.cameras.mode_table import LARGEST_TEXT, TableRead, read_mode_table, rough_modes
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadFile, BadSheet, Fault
from steady_tide.formats.kit_file import Spelling, write_sheet_file
from steady_tide.formats.media_in import Part, facts_of_part, refuse_by_size
from steady_tide.services.changes import Revision
from steady_tide.store import kit as store
from steady_tide.store.merging import revision_of
from steady_tide.store.tables import SheetDraft
from steady_tide.words.maps import MapText, map_text

router = station("sheets")


class Edition(BaseModel):
    """One edition of a sheet."""

    edition: int
    name: str
    modes: int
    estimates: int
    created_at: datetime
    latest: bool


class PlanWith(BaseModel):
    """A saved plan that uses a camera, and the edition that it keeps."""

    shot_id: UUID
    shoot_id: UUID
    title: str
    edition: int


CLIP_BYTES = {"whole": sizes.CLIP, "head": sizes.CLIP_HEAD, "tail": sizes.CLIP_TAIL}


class Editions(BaseModel):
    """All editions of a camera's sheet, and the saved plans that use one."""

    items: list[Edition]
    total: int
    plans: list[PlanWith]


class SheetIn(BaseModel):
    """A sheet to be kept: as a new camera, or as the next edition of one."""

    model_config = ConfigDict(extra="forbid")

    rough: RoughSheet
    made_on: Annotated[
        int | None, Field(ge=1, le=1_000_000, description="edition that it was changed from; left out: a new camera")
    ] = None


class TableIn(BaseModel):
    """A table as it was pasted."""

    text: Annotated[str, Field(max_length=LARGEST_TEXT)]


class TableOut(BaseModel):
    """What a pasted table came to, and its modes as a rough sheet takes them."""

    read: TableRead
    modes: list[dict[str, Any]]
    mode_count: int


class JoinIn(BaseModel):
    """A sheet as typed, and what a table or files told."""

    model_config = ConfigDict(extra="forbid")

    rough: RoughSheet
    modes: Annotated[list[dict[str, Any]] | None, Field(max_length=2000, description="of a table")] = None
    instead: Annotated[bool, Field(description="whether these modes take the place of those that are there")] = False
    draft: Annotated[RoughSheet | None, Field(description="of clips and stills")] = None


class FactsIn(BaseModel):
    """What files say of themselves."""

    facts: Annotated[list[FileFacts], Field(min_length=1, max_length=200)]


Rough = dict[Literal["sheet", "known"], dict[str, Any]]


class DraftIn(BaseModel):
    """A sheet that is begun: whatever was typed."""

    camera_id: Annotated[str | None, Field(max_length=60)] = None
    edition: Annotated[int | None, Field(ge=1, le=1_000_000)] = None
    rough: Rough


DraftField = Annotated[str, Field(pattern=r"^(sheet|known)\.[^\x00]{1,60}$")]


class DraftChange(BaseModel):
    """A change of a sheet that is begun: fields by name, such as `sheet.name`; null takes one out."""

    model_config = ConfigDict(extra="forbid")

    revision: Revision
    change: Annotated[dict[DraftField, Any], Field(max_length=200)]


class DraftOut(DraftIn):
    """The same as kept."""

    id: UUID
    revision: int
    name: str
    updated_at: datetime


class Drafts(BaseModel):
    """Sheets that are begun, the latest first."""

    items: list[DraftOut]
    total: int


class Fields(BaseModel):
    """Every field of a sheet, in groups, and the widths of sensor types."""

    items: list[FieldGroup]
    total: int
    inch_types: dict[str, float]
    clip_bytes: dict[str, int]  # how large a clip may be, and how much of its head and tail is read


@router.get("/cameras/{camera_id}/map")
def modes_of(
    session: SessionOf,
    gear: CrewKitOf,
    camera_id: str,
    edition: Annotated[int | None, Query(ge=1, le=1_000_000)] = None,
) -> MapText:
    """A camera's modes as one picture, and what each value of a dial costs in others."""
    if edition is None:
        return map_text(mode_map(gear.camera(camera_id)))
    return map_text(mode_map(CameraSheet.model_validate(store.get_edition(session, camera_id, edition))))


@router.post("/sheets/map")
def modes_of_rough(rough: RoughSheet) -> MapText:
    """The same of a sheet that is still being written. Stores nothing."""
    return map_text(mode_map(_whole(rough)))


@router.get("/cameras/{camera_id}/sheet", response_class=Response)
def sheet_file(
    session: SessionOf,
    gear: CrewKitOf,
    camera_id: str,
    spelling: Annotated[Spelling, Query()] = "json",
    edition: Annotated[int | None, Query(ge=1, le=1_000_000)] = None,
) -> Response:
    """A camera's sheet as a file."""
    sheet = gear.camera(camera_id)
    if edition is not None:
        sheet = CameraSheet.model_validate(store.get_edition(session, camera_id, edition))
    return sent(write_sheet_file(sheet, spelling), sheet.id, spelling)


@router.get("/cameras/{camera_id}/editions")
def editions(session: SessionOf, camera_id: str) -> Editions:
    """All editions of a camera's sheet, and which saved plans keep which."""
    camera = store.get_camera(session, camera_id)
    items = [
        Edition(
            edition=row.edition,
            name=row.sheet["name"],
            modes=sum(len(mode["rates"]) for mode in row.sheet["modes"]),
            estimates=len(row.sheet.get("estimates", ())),
            created_at=row.created_at,
            latest=row.edition == camera.edition,
        )
        for row in store.list_editions(session, camera_id)
    ]
    plans = [
        PlanWith(
            shot_id=shot.id,
            shoot_id=shot.shoot_id,
            title=str(shot.brief.get("title", "")),
            edition=(shot.made_on or {}).get("edition", 1),
        )
        for shot in store.shots_with(session, camera_id)
    ]
    return Editions(items=items, total=len(items), plans=plans)


@router.post("/cameras/{camera_id}/editions/{edition}/again")
def edition_again(session: SessionOf, camera_id: str, edition: int) -> CameraSheet:
    """Make an older edition the latest again, as a new one; nothing is lost."""
    camera = store.get_camera(session, camera_id)
    sheet = store.get_edition(session, camera_id, edition)
    number = store.next_edition(session, camera_id, camera.edition)
    kept = CameraSheet.model_validate({**sheet, "edition": number})
    store.add_edition(session, kept.model_dump(mode="json"), None)
    store.check_room(session)
    return kept


class Measured(BaseModel):
    """Numbers of a sensor that were measured."""

    model_config = ConfigDict(extra="forbid")

    made_on: Annotated[int, Field(ge=1, le=1_000_000)]
    lens: Annotated[str, Field(max_length=60)]
    read_noise_e: Annotated[float, Field(ge=0, le=100)]
    full_well_e: Annotated[float, Field(gt=0, le=1_000_000)]


@router.post("/cameras/{camera_id}/measured")
def put_measured(session: SessionOf, camera_id: str, said: Measured) -> CameraSheet:
    """Put measured noise into a sheet, as its next edition; these numbers are estimates no more."""
    camera = store.get_camera(session, camera_id)
    number = store.next_edition(session, camera_id, said.made_on)
    sheet = CameraSheet.model_validate(store.get_edition(session, camera_id, camera.edition))
    place = next((index for index, lens in enumerate(sheet.lenses) if lens.id == said.lens), None)
    if place is None:
        raise BadSheet(
            Fault(
                "lens", f"there is no lens '{said.lens}'", f"Use one of {', '.join(lens.id for lens in sheet.lenses)}."
            )
        )
    lens = sheet.lenses[place]
    numbers = {"read_noise_e": _digits(said.read_noise_e), "full_well_e": _digits(said.full_well_e)}
    sensor = lens.sensor.model_copy(update=numbers)
    lenses = list(sheet.lenses)
    lenses[place] = lens.model_copy(update={"sensor": sensor})
    known = {f"lenses[{place}].sensor.{name}" for name in numbers}
    kept = sheet.model_copy(
        update={
            "edition": number,
            "lenses": tuple(lenses),
            "estimates": tuple(entry for entry in sheet.estimates if entry.field not in known),
        }
    )
    store.add_edition(session, kept.model_dump(mode="json"), camera.known)
    store.check_room(session)
    return kept


def _digits(value: float) -> float:
    return float(f"{value:.3g}")


@router.get("/sheets/fields")
def fields() -> Fields:
    """What each field of a sheet is, and where to find it."""
    groups = list(library.sheet_fields())
    return Fields(items=groups, total=len(groups), inch_types=library.typical().inch_types, clip_bytes=CLIP_BYTES)


@router.post("/sheets/complete")
def complete_sheet(rough: RoughSheet) -> Completed:
    """Fill a rough sheet up with estimates, or say what is missing. Stores nothing."""
    return complete(rough, library.typical())


@router.post("/sheets/table")
def read_table(table: TableIn) -> TableOut:
    """Read a mode table that was pasted. Stores nothing."""
    read = read_mode_table(table.text)
    return TableOut(read=read, modes=rough_modes(read.modes), mode_count=read.mode_count)


@router.post("/sheets/joined")
def join(said: JoinIn) -> RoughSheet:
    """Join what a table or files told to a sheet that is begun; what was typed stays. Stores nothing."""
    whole = said.rough if said.draft is None else joined(said.rough, said.draft.sheet, said.draft.known)
    return whole if said.modes is None else with_modes(whole, said.modes, said.instead)


@router.post("/sheets/clips", openapi_extra=FILE_BODY)
async def clip_facts(
    request: Request,
    name: Annotated[str, Query(min_length=1, max_length=200)],
    size: Annotated[int, Query(ge=0, le=1_000_000_000_000, description="bytes of the whole file")],
    head: Annotated[
        int, Query(ge=0, le=sizes.CLIP_HEAD, description="bytes of its beginning in the body; the rest is its end")
    ],
) -> FileFacts:
    """Say what a clip or a still tells of itself, from its beginning and its end. Nothing of it is kept."""
    refuse_by_size(name, size)
    data = await request.body()
    tail = data[head:]
    if len(tail) > sizes.CLIP_TAIL:
        raise BadFile(
            Fault(name, "its end is longer than it may be", f"Send {sizes.in_mb(sizes.CLIP_TAIL)} MB at most.")
        )
    part = Part(name=name, size=size, head=data[:head], tail=tail, tail_at=size - len(tail))
    return await run_in_threadpool(facts_of_part, part)


@router.post("/sheets/draft-of-clips")
def draft_of_clips(said: FactsIn) -> ClipsDraft:
    """Begin a sheet from what files say. Stores nothing."""
    return draft_of(said.facts)


@router.post("/cameras", status_code=201)
def add_camera(session: SessionOf, said: SheetIn) -> CameraSheet:
    """Keep a new camera, its sheet filled up with estimates where nothing is known."""
    sheet = _whole(said.rough).model_copy(update={"edition": 1})
    store.add_camera(session, sheet.model_dump(mode="json"), said.rough.known.model_dump(mode="json"))
    store.check_room(session)
    return sheet


@router.put("/cameras/{camera_id}")
def change_camera(session: SessionOf, camera_id: str, said: SheetIn) -> CameraSheet:
    """Keep the next edition of a sheet. Plans keep the edition that they were made with."""
    sheet = _whole(said.rough)
    if sheet.id != camera_id:
        raise BadSheet(
            Fault(
                "id",
                f"is '{sheet.id}', but this is '{camera_id}'",
                "A camera keeps its short name; save it as a new one.",
            )
        )
    number = store.next_edition(session, camera_id, said.made_on or 1)
    kept = sheet.model_copy(update={"edition": number})
    store.add_edition(session, kept.model_dump(mode="json"), said.rough.known.model_dump(mode="json"))
    store.check_room(session)
    return kept


def _whole(rough: RoughSheet) -> CameraSheet:
    done = complete(rough, library.typical())
    if done.sheet is None:
        raise BadSheet(*(Fault(where, what, mend) for where, what, mend in done.faults))
    return done.sheet


@router.get("/cameras/{camera_id}/rough")
def rough(session: SessionOf, gear: CrewKitOf, camera_id: str) -> DraftIn:
    """A camera's sheet as the editor takes it: estimates that the editor made are taken out again."""
    sheet, known = gear.camera(camera_id), store.get_camera(session, camera_id).known
    doc = rough_of(sheet, Known.model_validate(known or {}), library.typical())
    return DraftIn(
        camera_id=camera_id,
        edition=sheet.edition,
        rough={"sheet": doc, "known": known or Known().model_dump(mode="json")},
    )


def _draft_out(row: SheetDraft) -> DraftOut:
    rough = row.rough
    return DraftOut(
        id=row.id,
        camera_id=row.camera_id,
        edition=row.edition,
        revision=revision_of(row.stamps),
        rough=rough,
        name=str(rough["sheet"].get("name") or ""),
        updated_at=row.updated_at,
    )


@router.get("/sheets/drafts")
def drafts(session: SessionOf) -> Drafts:
    """Sheets that are begun."""
    items = [_draft_out(row) for row in store.list_drafts(session)]
    return Drafts(items=items, total=len(items))


@router.get("/sheets/drafts/{draft_id}")
def draft(session: SessionOf, draft_id: UUID) -> DraftOut:
    """One of them."""
    return _draft_out(store.get_draft(session, draft_id))


@router.put("/sheets/drafts/{draft_id}")
def put_draft(session: SessionOf, draft_id: UUID, said: DraftIn) -> DraftOut:
    """Begin a sheet: keep what was typed, right or wrong."""
    row = store.add_draft(
        session,
        draft_id,
        said.camera_id,
        said.edition,
        {"sheet": said.rough.get("sheet", {}), "known": said.rough.get("known", {})},
    )
    return _fitting(session, row)


@router.patch("/sheets/drafts/{draft_id}")
def change_draft(session: SessionOf, draft_id: UUID, said: DraftChange) -> DraftOut:
    """Change fields of a sheet that is begun, such as `sheet.name`; null takes one out."""
    return _fitting(session, store.change_draft(session, draft_id, said.revision, said.change))


def _fitting(session: Session, row: SheetDraft) -> DraftOut:
    if len(json.dumps(row.rough)) > sizes.DRAFT:
        raise BadFile(Fault("the draft", "is larger than a sheet can be", "Leave out modes that nobody would use."))
    session.refresh(row)
    return _draft_out(row)


@router.delete("/sheets/drafts/{draft_id}", status_code=204)
def drop_draft(session: SessionOf, draft_id: UUID) -> None:
    """Let go of a draft."""
    store.drop_draft(session, draft_id)
