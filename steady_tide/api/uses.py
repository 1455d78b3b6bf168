"""Routes of usual uses: the shelf, one's own, a shot that begins with one, standing presets, the set-up pass."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated
from uuid import UUID

from fastapi import Depends, Query, Request, Response
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.orm import Session

from steady_tide import library
from steady_tide.api.files import FILE_BODY
from steady_tide.api.services import services_at
from steady_tide.api.shared import CrewKitOf, CrewWay, PlansOf, SessionOf
from steady_tide.api.station import station
from steady_tide.core.brief.brief import Brief
from steady_tide.core.brief.start_time import one_time
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadInput, Fault, NoLegalPlan
from steady_tide.core.quantities.moments import Moment
from steady_tide.core.uses.standing import Standing
from steady_tide.core.uses.use import Name, PerYear, brief_for, light_here
from steady_tide.formats.set_up_pdf import write_set_up_pdf
from steady_tide.formats.uses_file import read_uses_file, write_uses_file
from steady_tide.services.changes import Change
from steady_tide.services.kept_plans import planned_fields
from steady_tide.services.uses import (
    CameraUses,
    StandingAsked,
    StandingShelf,
    beside_here,
    camera_uses,
    change_use,
    habits_here,
    keep_as_use,
    sharing_here,
    standing_asked,
    use_named,
    uses_here,
)
from steady_tide.services.uses_files import UsesTaken, take_in_uses, uses_file_of
from steady_tide.store import uses as store
from steady_tide.store.database import Database
from steady_tide.store.merging import revision_of
from steady_tide.store.shoots import get_shoot
from steady_tide.store.shots import add_shot, get_shot
from steady_tide.words.refusals import refusal_words
from steady_tide.words.uses import (
    BesideText,
    SetUpCard,
    SharedText,
    StandingText,
    beside_text,
    set_up_card,
    shared_text,
    standing_text,
)

router = station("uses")
WAITS_S = 1.5  # for presets that are being counted


class Term(BaseModel):
    """A word of the product's own."""

    id: str
    term: str
    says: str


class Glossary(BaseModel):
    """Words of the product's own."""

    items: list[Term]
    total: int


class PlaceOffered(BaseModel):
    """A place whose light a shot may begin with. ev100: its light; lit: 0 in the dark to 1 in full sun, for its picture."""

    id: str
    name: str
    ev100: tuple[float, float]
    lit: float


class UseOut(BaseModel):
    """A use. asks: places that are offered; brief: whole."""

    id: str
    name: str
    says: str
    scenario: str
    per_year: float
    own: bool
    chosen: bool
    asks: list[PlaceOffered]
    brief: Brief
    revision: int


class UseList(BaseModel):
    """The shelf, then one's own."""

    items: list[UseOut]
    total: int


class UseAdded(BaseModel):
    """A shot that is kept as a use."""

    model_config = ConfigDict(extra="forbid")

    shot_id: UUID
    name: Name
    says: Annotated[str, Field(max_length=200, pattern=r"^[^\x00]*$")] = ""
    per_year: PerYear = 10.0


class ShotFromUse(BaseModel):
    """A shot that begins with a use. place: whose light it has; left out: the sky over the shoot, else the use's own."""

    model_config = ConfigDict(extra="forbid")

    use: Annotated[str, Field(max_length=60)]
    place: Annotated[str, Field(max_length=80)] | None = None
    starts_at: Moment | None = None
    camera: (
        Annotated[str, Field(max_length=60, description="what one films with; left out: the best of the kit")] | None
    ) = None


class ShotMade(BaseModel):
    """The shot that was made."""

    id: UUID
    title: str


class WithoutUse(BaseModel):
    """A use that a camera cannot film, and why."""

    id: str
    name: str
    why: str


class StandingOut(BaseModel):
    """A camera's standing presets. standing: None while they are being counted, or where no use is chosen that it films."""

    standing: StandingText | None
    counting: bool
    without: list[WithoutUse]
    chosen: int


class SharingOut(BaseModel):
    """Uses with presets of others, cheapest first. counting: the presets are not counted yet; ask again."""

    items: list[SharedText]
    total: int
    counting: bool


class SetUpOut(BaseModel):
    """A camera's set-up card, with what is ticked. checked_at: when it was gone through last."""

    card: SetUpCard
    counting: bool
    ticks: dict[str, bool]
    checked_at: datetime | None


class SetUpNoted(BaseModel):
    """What was ticked, and names of presets by use; null takes a name back. checked: it was gone through."""

    model_config = ConfigDict(extra="forbid")

    ticks: Annotated[dict[Annotated[str, Field(max_length=80)], bool], Field(max_length=sizes.TICKS * 3)] = Field(
        default_factory=dict
    )
    names: Annotated[
        dict[Annotated[str, Field(max_length=60)], Annotated[str, Field(min_length=1, max_length=24)] | None],
        Field(max_length=60),
    ] = Field(default_factory=dict)
    checked: bool = False


def _places(gear: CrewKitOf, asks: tuple[str, ...]) -> list[PlaceOffered]:
    there = gear.knowledge.places
    return [
        PlaceOffered(
            id=place.id,
            name=place.name,
            ev100=place.ev100,
            lit=min(1.0, max(0.0, (sum(place.ev100) / 2.0 + 2.0) / 17.0)),
        )
        for place in (there[one] for one in asks if one in there)
    ]


def _out(session: Session, gear: CrewKitOf) -> UseList:
    items = [
        UseOut(
            id=here.use.id,
            name=here.use.name,
            says=here.use.says,
            scenario=here.use.brief.scenario,
            per_year=here.use.per_year,
            own=here.own,
            chosen=here.chosen,
            asks=_places(gear, here.use.asks),
            brief=here.use.brief,
            revision=revision_of(here.stamps),
        )
        for here in uses_here(session)
    ]
    return UseList(items=items, total=len(items))


@router.get("/glossary")
def glossary() -> Glossary:
    """The product's own words, each in a sentence or two."""
    items = [Term(id=key, **said) for key, said in library.glossary().items()]
    return Glossary(items=items, total=len(items))


@router.get("/uses")
def shelf(session: SessionOf, gear: CrewKitOf) -> UseList:
    """What people usually film: the shelf, then one's own."""
    return _out(session, gear)


@router.get("/uses/uses.json", response_class=Response)
def as_file(session: SessionOf) -> Response:
    """Usual uses and set-ups, as a file."""
    headers = {"Content-Disposition": 'attachment; filename="uses.json"'}
    return Response(write_uses_file(uses_file_of(session)), media_type="application/json", headers=headers)


@router.post("/uses/import", openapi_extra=FILE_BODY)
async def take_in(session: SessionOf, request: Request) -> UsesTaken:
    """Take usual uses in from their file; what is said here already stays."""
    data = await request.body()
    return await run_in_threadpool(lambda: take_in_uses(session, read_uses_file(data, "the file")))


@router.post("/uses", status_code=201)
def keep(session: SessionOf, gear: CrewKitOf, said: UseAdded) -> UseList:
    """Keep a shot as a use of one's own."""
    brief = Brief.model_validate(get_shot(session, said.shot_id).brief)
    keep_as_use(session, said.name, said.says, said.per_year, brief)
    return _out(session, gear)


@router.patch("/uses/{use_id}")
def change(session: SessionOf, gear: CrewKitOf, use_id: str, said: Change) -> UseList:
    """Choose a use for presets, say how often it is filmed, or name one of one's own."""
    change_use(session, use_id, said.revision, said.change)
    return _out(session, gear)


@router.delete("/uses/{use_id}", status_code=204)
def remove(session: SessionOf, use_id: str) -> None:
    """Remove a use of one's own; it can be brought back."""
    store.remove_own(session, use_id)


@router.post("/uses/{use_id}/restore")
def restore(session: SessionOf, gear: CrewKitOf, use_id: str) -> UseList:
    """Bring a removed use back."""
    store.restore_own(session, use_id)
    return _out(session, gear)


@router.post("/shoots/{shoot_id}/shots/from-use", status_code=201)
def begin(
    session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, shoot_id: UUID, said: ShotFromUse
) -> ShotMade:
    """Make a shot that begins with a use, in the light of where it is filmed."""
    shoot, here = get_shoot(session, shoot_id), use_named(uses_here(session), said.use)
    if said.place is not None and said.place not in gear.knowledge.places:
        raise BadInput(Fault("place", f"there is no place '{said.place}'", "Use one of those that are offered."))
    light = light_here(said.place, shoot.latitude, shoot.longitude, said.starts_at, here.use.brief.lasts_s)
    brief, starts_at = one_time(brief_for(here.use, here.use.name, light, shoot.mains_hz), said.starts_at)
    if said.camera is not None:
        if not gear.has(said.camera):
            raise BadInput(Fault("camera", f"there is no camera '{said.camera}'", "Choose one of the kit."))
        brief = brief.model_copy(update={"pins": {**brief.pins, "camera": said.camera}})
    row = add_shot(session, shoot_id, {"starts_at": starts_at, **planned_fields(brief, crew, gear, plans)})
    return ShotMade(id=row.id, title=brief.title)


def _read(request: Request, camera: str) -> CameraUses:
    # In a unit of work of its own: what follows takes seconds, and nobody waits for its connection.
    database: Database = services_at(request).database
    with database.session() as session:
        return camera_uses(session, camera)


CameraUsesOf = Annotated[CameraUses, Depends(_read)]


def _found(request: Request, asked: StandingAsked, wait_s: float = WAITS_S) -> Standing | None:
    """Presets for what is asked. Returns None where there are none, or where they are still being counted."""
    shelf_of: StandingShelf = services_at(request).standing
    return shelf_of.at_hand(asked, wait_s) if asked.planned else None


@router.get("/uses/standing/{camera}")
def standing(
    request: Request, said: CameraUsesOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, camera: str
) -> StandingOut:
    """Presets that stay on a camera for the chosen uses: the fewest taps that are expected over a year."""
    asked = standing_asked(camera, said.chosen, crew, gear, plans)
    found = _found(request, asked)
    return StandingOut(
        standing=None if found is None else standing_text(found, said.names),
        counting=bool(asked.planned) and found is None,
        without=[
            WithoutUse(id=one.id, name=one.name, why=refusal_words(NoLegalPlan(one.code, one.facts), plans.judgement))
            for one in asked.without
        ],
        chosen=len(said.chosen),
    )


@router.get("/uses/sharing/{camera}")
def sharing_of(
    request: Request, said: CameraUsesOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, camera: str
) -> SharingOut:
    """What each chosen use costs with the preset of another one, as it is stored: fewer presets for a price in stops."""
    asked = standing_asked(camera, said.chosen, crew, gear, plans)
    found = _found(request, asked)
    if found is None:
        return SharingOut(items=[], total=0, counting=bool(asked.planned))
    items = [shared_text(one, said.names) for one in sharing_here(found, asked, crew, gear, plans)]
    return SharingOut(items=items, total=len(items), counting=False)


@router.get("/uses/beside/{camera}")
def side_by_side(
    said: CameraUsesOf,
    crew: CrewWay,
    gear: CrewKitOf,
    plans: PlansOf,
    camera: str,
    first: Annotated[str, Query(max_length=60)],
    second: Annotated[str, Query(max_length=60)],
) -> BesideText:
    """Two uses on a camera: where they differ, and what each costs in the other's light."""
    two = use_named(said.uses, first).use, use_named(said.uses, second).use
    return beside_text(beside_here(camera, two, crew, gear, plans), gear.names)


def _set_up(
    request: Request,
    said: CameraUses,
    crew: CrewWay,
    gear: CrewKitOf,
    plans: PlansOf,
    camera: str,
    wait_s: float = WAITS_S,
) -> SetUpOut:
    asked = standing_asked(camera, said.chosen, crew, gear, plans)
    found = _found(request, asked, wait_s)
    return SetUpOut(
        card=set_up_card(asked.sheet, found, habits_here(asked.sheet, said), said.names, gear.names),
        counting=bool(asked.planned) and found is None,
        ticks=said.ticks,
        checked_at=said.checked_at,
    )


@router.get("/uses/set-up/{camera}")
def set_up(
    request: Request, said: CameraUsesOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, camera: str
) -> SetUpOut:
    """Everything that is set on a camera once, in its own menu's order and words."""
    return _set_up(request, said, crew, gear, plans, camera)


@router.post("/uses/set-up/{camera}")
def note(request: Request, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, camera: str, said: SetUpNoted) -> SetUpOut:
    """Keep what was ticked and named; the last word on each counts."""
    gear.camera(camera)
    database: Database = services_at(request).database
    with database.session() as session:
        store.note_set_up(session, camera, said.ticks, said.names, said.checked)
        kept = camera_uses(session, camera)
    return _set_up(request, kept, crew, gear, plans, camera)


@router.get("/uses/set-up/{camera}/card.pdf", response_class=Response)
def on_paper(
    request: Request,
    said: CameraUsesOf,
    crew: CrewWay,
    gear: CrewKitOf,
    plans: PlansOf,
    camera: str,
    wait_s: Annotated[float, Query(ge=0, le=30, description="for presets that are still being counted")] = 15.0,
) -> Response:
    """The set-up card on paper."""
    out = _set_up(request, said, crew, gear, plans, camera, wait_s)
    name = f'attachment; filename="set-up-{out.card.camera}.pdf"'
    return Response(
        write_set_up_pdf(out.card, out.ticks), media_type="application/pdf", headers={"Content-Disposition": name}
    )
