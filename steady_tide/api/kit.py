"""Routes of the Kit: what the crew owns, in what state and where; the words that a brief may use; the crew's way."""

from __future__ import annotations

from typing import Annotated, Any, Generic, Literal, TypeVar

from fastapi import Path, Query, Response
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from steady_tide import library
from steady_tide.api.shared import CrewKitOf, PlansOf, SessionOf
from steady_tide.api.station import station
from steady_tide.core.brief.brief import USUAL_SCHOOL, School
from steady_tide.core.brief.options import BriefOptions
from steady_tide.core.brief.scenarios import Scenario
from steady_tide.core.cameras.sheet_reading import naming_dials, sheet_json_schema
from steady_tide.core.gear.forms import GearForm
from steady_tide.core.gear.items import (
    GETS_READY,
    KINDS,
    Attachment,
    Cell,
    CellKind,
    Filter,
    Housing,
    Keeping,
    KitLamp,
    Medium,
    Microphone,
    Mount,
    Thing,
    ready_fits,
)
from steady_tide.core.gear.kit_file import KitFile
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.light.sources import Place
from steady_tide.core.quantities.errors import BadInput, Clash, Fault, NotFound
from steady_tide.core.quantities.frozen import faults_of
from steady_tide.formats.kit_file import Spelling, write_kit_file
from steady_tide.services.all_files import kit_file_of
from steady_tide.services.changes import Change, Revision, changed
from steady_tide.store import kit as store
from steady_tide.store.merging import revision_of
from steady_tide.store.shoots import crew_school, first_crew, locked_crew
from steady_tide.store.tables import KeptThing
from steady_tide.words.dial_values import CAMERA, dial_word
from steady_tide.words.gear import gear_line
from steady_tide.words.rows import SheetRow, sheet_rows

router = station("kit")

T = TypeVar("T")
ThingKind = Literal[
    "filters", "attachments", "housings", "microphones", "lamps", "batteries", "media", "mounts", "chemistries"
]
OfKind = Annotated[ThingKind, Path()]
OfId = Annotated[str, Path(max_length=60)]
# Briefs and cells name these, so the library's own stay; their numbers can be changed.
NAMED_BY_BRIEFS = {"mounts", "chemistries"}


class Cameras(BaseModel):
    """The crew's cameras."""

    items: list[CameraSheet]
    total: int


class Named(BaseModel):
    """Something with an id and a name."""

    id: str
    name: str


class CameraName(Named):
    """A camera without its sheet."""

    kind: str


class Vocabulary(BaseModel):
    """What a brief can name, and the crew's way of working; what the crew leaves open follows the usual way."""

    scenarios: list[Scenario]
    places: list[Place]
    mounts: list[Mount]
    waters: list[Named]
    cameras: list[CameraName]
    filters: list[Filter]
    attachments: list[Attachment]
    housings: list[Housing]
    microphones: list[Microphone]
    lamps: list[KitLamp]
    batteries: list[Cell]
    media: list[Medium]
    people: list[str]  # of the crew
    school: School
    way_revision: int  # of the crew's own way
    rows: list[SheetRow]
    dials: dict[str, str]  # what each is called
    options: BriefOptions


class KeptCamera(BaseModel):
    """A camera of the crew, in few words."""

    id: str
    name: str
    kind: str
    edition: int
    modes: int
    estimates: int
    count: int
    example: bool
    keeping: Keeping
    revision: int


class Kept(BaseModel, Generic[T]):
    """A thing with its state and place. line: what it is, in words."""

    thing: T
    line: str
    example: bool
    keeping: Keeping
    revision: int


class GearForms(BaseModel):
    """The form of each kind of gear but cameras."""

    items: list[GearForm]
    total: int


class KitView(BaseModel):
    """Everything that the crew owns."""

    cameras: list[KeptCamera]
    filters: list[Kept[Filter]]
    attachments: list[Kept[Attachment]]
    housings: list[Kept[Housing]]
    microphones: list[Kept[Microphone]]
    lamps: list[Kept[KitLamp]]
    batteries: list[Kept[Cell]]
    media: list[Kept[Medium]]
    mounts: list[Kept[Mount]]
    chemistries: list[Kept[CellKind]]
    gets_ready: dict[str, str]
    examples: int
    away: list[Named]


class CameraKept(Keeping):
    """Count of a camera, its state and place."""

    count: Annotated[int, Field(ge=1, le=100)] = 1


class KeepingKept(BaseModel):
    """The same as it is kept."""

    count: int
    keeping: Keeping
    revision: int


class ThingChange(BaseModel):
    """What changed of a thing, or of its state and place, and nothing else."""

    model_config = ConfigDict(extra="forbid")

    revision: Revision
    thing: Annotated[dict[str, Any], Field(max_length=60)] = {}
    keeping: Annotated[dict[str, Any], Field(max_length=10)] = {}


class WayOfCrew(BaseModel):
    """The crew's way of working as it is kept."""

    school: School
    revision: int


class ThingIn(BaseModel):
    """A thing as a person enters it, in the form of its kind, and its state and place."""

    thing: dict[str, Any]
    keeping: Keeping = Keeping()


class ThingOut(BaseModel):
    """A thing as it is kept."""

    kind: ThingKind
    thing: Thing
    keeping: Keeping
    revision: int


class Moved(BaseModel):
    """How many things were put away, or brought back."""

    count: int


@router.get("/cameras")
def cameras(gear: CrewKitOf) -> Cameras:
    """All cameras with their latest sheets."""
    sheets = list(gear.kit.cameras)
    return Cameras(items=sheets, total=len(sheets))


@router.get("/cameras/{camera_id}")
def camera(
    session: SessionOf,
    gear: CrewKitOf,
    camera_id: str,
    edition: Annotated[int | None, Query(ge=1, le=1_000_000, description="left out: the latest")] = None,
) -> CameraSheet:
    """One camera's sheet."""
    if edition is None:
        return gear.camera(camera_id)
    return CameraSheet.model_validate(store.get_edition(session, camera_id, edition))


@router.get("/camera-sheet.schema.json")
def sheet_schema() -> dict[str, Any]:
    """JSON Schema of the open camera sheet format."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **sheet_json_schema()}


@router.get("/kit.schema.json")
def kit_schema() -> dict[str, Any]:
    """JSON Schema of the open kit format."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **naming_dials(KitFile.model_json_schema())}


@router.get("/crew/school")
def school(session: SessionOf) -> WayOfCrew:
    """The crew's way of working, which a brief follows where it says nothing."""
    crew = first_crew(session)
    return WayOfCrew(school=crew_school(session), revision=revision_of(crew.stamps if crew else {}))


@router.patch("/crew/school")
def change_school(session: SessionOf, said: Change) -> WayOfCrew:
    """Change the crew's way of working, axis by axis."""
    crew = locked_crew(session)
    whole, crew.stamps = changed(School, crew.school, crew.stamps or {}, said.revision, said.change)
    crew.school = whole.model_dump(exclude_none=True)
    return WayOfCrew(school=whole, revision=revision_of(crew.stamps))


@router.get("/vocabulary")
def vocabulary(session: SessionOf, gear: CrewKitOf, plans: PlansOf) -> Vocabulary:
    """Everything that a brief can name, and the crew's way."""
    known, kit, crew = gear.knowledge, gear.kit, first_crew(session)
    return Vocabulary(
        scenarios=list(known.scenarios.values()),
        places=list(known.places.values()),
        mounts=list(known.mounts.values()),
        waters=[Named(id=water.id, name=water.name) for water in known.waters.types.values()],
        cameras=[CameraName(id=sheet.id, name=sheet.name, kind=sheet.kind) for sheet in kit.cameras],
        filters=list(kit.filters),
        attachments=list(kit.attachments),
        housings=list(kit.housings),
        microphones=list(kit.microphones),
        lamps=list(kit.lamps),
        batteries=list(kit.batteries),
        media=list(kit.media),
        people=[] if crew is None else list(crew.people),
        school=crew_school(session).over(USUAL_SCHOOL),
        way_revision=revision_of(crew.stamps if crew else {}),
        rows=list(sheet_rows(plans.judgement)),
        options=library.brief_options(),
        dials={CAMERA: CAMERA, **{dial: dial_word(dial, plans.judgement) for dial in plans.judgement.listed}},
    )


@router.get("/kit/forms")
def forms() -> GearForms:
    """The fields of every kind of gear but cameras, with what each means."""
    items = list(library.gear_forms())
    return GearForms(items=items, total=len(items))


@router.get("/kit")
def kit(session: SessionOf, gear: CrewKitOf) -> KitView:
    """What the crew owns, by kind, with counts, state and place."""
    sheets = {sheet.id: sheet for sheet in gear.kit.cameras}
    rows = store.list_cameras(session)
    kept: dict[str, list[dict[str, Any]]] = {kind: [] for kind in KINDS}
    things = store.list_things(session)
    for row in things:
        thing = KINDS[row.kind].model_validate(row.thing)
        kept[row.kind].append(
            {
                "thing": thing,
                "line": gear_line(row.kind, thing, gear.kit.names),
                "example": row.example,
                "keeping": row.keeping,
                "revision": revision_of(row.stamps),
            }
        )
    return KitView.model_validate(
        {
            **kept,
            "cameras": [
                KeptCamera(
                    id=row.id,
                    name=sheets[row.id].name,
                    kind=sheets[row.id].kind,
                    edition=row.edition,
                    modes=sheets[row.id].mode_count,
                    estimates=len(sheets[row.id].estimates),
                    count=row.count,
                    example=row.example,
                    keeping=Keeping.model_validate(row.keeping),
                    revision=revision_of(row.stamps),
                )
                for row, _ in rows
                if row.id in sheets
            ],
            "gets_ready": GETS_READY,
            "examples": sum(row.example for row, _ in rows)
            + sum(thing.example and thing.kind not in NAMED_BY_BRIEFS for thing in things),
            "away": [Named(id=row.id, name=sheet["name"]) for row, sheet in store.list_cameras(session, away=True)],
        }
    )


@router.patch("/kit/cameras/{camera_id}/keeping")
def keep_camera(session: SessionOf, camera_id: OfId, said: Change) -> KeepingKept:
    """Say how many of a camera there are, how many are charged, and where they lie; only what changed."""
    camera = store.locked_camera(session, camera_id)
    now = {"count": camera.count, **Keeping.model_validate(camera.keeping).model_dump(mode="json")}
    whole, stamps = changed(CameraKept, now, camera.stamps, said.revision, said.change)
    kept = Keeping.model_validate(whole.model_dump(exclude={"count"}))
    ready_fits(kept, whole.count)
    camera.count, camera.keeping, camera.stamps = whole.count, kept.model_dump(mode="json"), stamps
    store.changed(session)
    return KeepingKept(count=whole.count, keeping=kept, revision=revision_of(stamps))


@router.delete("/kit/cameras/{camera_id}", status_code=204)
def put_camera_away(session: SessionOf, camera_id: OfId) -> None:
    """Put a camera away: plans made with it keep it, new ones do not see it. It can be brought back."""
    store.put_camera_away(session, camera_id, True)


@router.post("/kit/cameras/{camera_id}/back")
def bring_camera_back(session: SessionOf, camera_id: OfId) -> Named:
    """Bring a camera back."""
    found = store.put_camera_away(session, camera_id, False)
    store.check_room(session)
    return Named(id=found.id, name=str(store.get_edition(session, found.id, found.edition)["name"]))


@router.post("/kit/examples/away")
def examples_away(session: SessionOf) -> Moved:
    """Put all that came with the product away, so that only one's own gear is left."""
    return Moved(count=store.put_examples_away(session, NAMED_BY_BRIEFS, True))


@router.post("/kit/examples/back")
def examples_back(session: SessionOf) -> Moved:
    """Bring the examples back."""
    moved = Moved(count=store.put_examples_away(session, NAMED_BY_BRIEFS, False))
    store.check_room(session)
    return moved


@router.put("/kit/things/{kind}/{thing_id}", status_code=201)
def add_thing(session: SessionOf, kind: OfKind, thing_id: OfId, said: ThingIn) -> ThingOut:
    """Keep a new thing under its id. Refused where the id is taken."""
    thing = _thing_of(kind, {**said.thing, "id": thing_id})
    ready_fits(said.keeping, getattr(thing, "count", 1))
    before = store.locked_thing(session, kind, thing.id)
    if before is not None and before.deleted_at is None:
        raise Clash(Fault(f"{kind}.{thing.id}", "is here already", "Give it another short name, or change that one."))
    kept = store.put_thing(session, kind, thing.model_dump(mode="json"), said.keeping.model_dump(mode="json"))
    store.check_room(session)
    return _thing_out(kept)


@router.patch("/kit/things/{kind}/{thing_id}")
def change_thing(session: SessionOf, kind: OfKind, thing_id: OfId, said: ThingChange) -> ThingOut:
    """Change fields of a thing, or its state and place; only what changed."""
    found = store.locked_thing(session, kind, thing_id)
    if found is None or found.deleted_at is not None:
        raise NotFound(f"There is no '{thing_id}' among the {kind}.")
    asked = {name: value for name, value in said.thing.items() if name != "id"}
    thing, stamps = changed(KINDS[kind], found.thing, found.stamps, said.revision, asked, "thing.")
    keeping, stamps = changed(Keeping, found.keeping, stamps, said.revision, said.keeping, "keeping.")
    ready_fits(keeping, getattr(thing, "count", 1))
    found.thing, found.keeping, found.stamps = thing.model_dump(mode="json"), keeping.model_dump(mode="json"), stamps
    store.changed(session)
    store.check_room(session)
    return _thing_out(found)


def _thing_of(kind: str, fields: dict[str, Any]) -> Thing:
    try:
        return KINDS[kind].model_validate(fields)
    except ValidationError as error:
        raise BadInput(*faults_of(error, ("thing",))) from None


@router.delete("/kit/things/{kind}/{thing_id}", status_code=204)
def put_thing_away(session: SessionOf, kind: OfKind, thing_id: OfId) -> None:
    """Put a thing away; it can be brought back."""
    if kind in NAMED_BY_BRIEFS and store.get_thing(session, kind, thing_id).example:
        raise BadInput(
            Fault(f"{kind}.{thing_id}", "is a word that briefs use, so it stays", "Change its numbers instead.")
        )
    store.put_thing_away(session, kind, thing_id, True)


@router.post("/kit/things/{kind}/{thing_id}/back")
def bring_thing_back(session: SessionOf, kind: OfKind, thing_id: OfId) -> ThingOut:
    """Bring a thing back."""
    found = store.put_thing_away(session, kind, thing_id, False)
    store.check_room(session)
    return _thing_out(found)


def _thing_out(row: KeptThing) -> ThingOut:
    return ThingOut.model_validate(
        {
            "kind": row.kind,
            "thing": KINDS[row.kind].model_validate(row.thing),
            "keeping": row.keeping,
            "revision": revision_of(row.stamps),
        }
    )


@router.get("/kit/file", response_class=Response)
def kit_file(gear: CrewKitOf, session: SessionOf, spelling: Annotated[Spelling, Query()] = "json") -> Response:
    """The whole kit as one file: cameras with their latest sheets, and everything else."""
    return sent(write_kit_file(kit_file_of(session, gear), spelling), "kit", spelling)


def sent(content: str, name: str, spelling: Spelling) -> Response:
    """A file to be saved. content: of it; name: without its ending; spelling: json or yaml."""
    kind = "application/json" if spelling == "json" else "application/yaml"
    return Response(
        content, media_type=kind, headers={"Content-Disposition": f'attachment; filename="{name}.{spelling}"'}
    )
