"""Routes of Story: films, their beats and framings, the sun against them."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any
from uuid import UUID
from zoneinfo import ZoneInfo

from fastapi import BackgroundTasks, Query
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.orm import Session

from steady_tide import library
from steady_tide.api.shared import CrewKitOf, CrewWay, KeeperOf, PlansOf, SessionOf
from steady_tide.api.station import station
from steady_tide.core.brief.brief import Brief
from steady_tide.core.light.day import local_day
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadInput, Fault
from steady_tide.core.quantities.moments import Moment
from steady_tide.core.shoot.film import Film, Framing
from steady_tide.core.story.coverage import Proposal, proposals
from steady_tide.core.story.sun_day import sun_of_day
from steady_tide.core.story.telling import WHO_FILMS_M, view_of
from steady_tide.services.changes import Change, Revision
from steady_tide.services.stories import (
    add_framings,
    change_film,
    change_framing,
    film_kept,
    here_of,
    place_framings,
    put_framing,
    story_shots,
    usual_light,
)
from steady_tide.store import films as store
from steady_tide.store.merging import revision_of
from steady_tide.store.shoots import get_shoot
from steady_tide.store.shots import get_shot, list_shots, locked_shot
from steady_tide.store.tables import FilmKept, Shoot
from steady_tide.words.story import STORY_WORDS, FilmText, SunText, film_text, sun_text

router = station("story")
MOST_AT_ONCE = 40  # framings that are added in one go


class FilmOut(BaseModel):
    """A film with all that follows. framing_revisions: by shot."""

    id: UUID
    revision: int
    film: FilmText
    framing_revisions: dict[str, int]


class OtherShot(BaseModel):
    """A shot of the shoot that is in no film."""

    id: UUID
    title: str


class KindOut(BaseModel):
    """A kind of framing."""

    id: str
    name: str
    says: str
    prompt: bool


class StoryOut(BaseModel):
    """The films of a shoot; kinds: of framings; words: of choices, by what is chosen; others: shots that are in no film."""

    items: list[FilmOut]
    total: int
    kinds: list[KindOut]
    words: dict[str, dict[str, str]]
    others: list[OtherShot]
    where_known: bool


class ProposalList(BaseModel):
    """Framings that are proposed."""

    items: list[Proposal]
    total: int


class FramingAsked(BaseModel):
    """A framing to be added, with the brief of its shot."""

    model_config = ConfigDict(extra="forbid")

    framing: Framing
    brief: Brief


class FramingsAsked(BaseModel):
    """Framings to be added at once. starts_at: of each whose light does not follow the sky."""

    model_config = ConfigDict(extra="forbid")

    items: Annotated[list[FramingAsked], Field(min_length=1, max_length=MOST_AT_ONCE)]
    starts_at: Moment | None = None


class FramingsAdded(BaseModel):
    """The shots that were made."""

    items: list[UUID]
    total: int


class FramingChange(Change):
    """A change of a framing. brief: fields of its shot's brief by part; title and scenario under ""."""

    brief: Annotated[dict[str, dict[str, Any]], Field(max_length=6)] = Field(default_factory=dict)


class FramingOut(BaseModel):
    """A framing as it is kept now."""

    revision: Revision
    framing: Framing


class Places(BaseModel):
    """Framings by beat, in their order."""

    model_config = ConfigDict(extra="forbid")

    beats: Annotated[dict[str, Annotated[list[UUID], Field(max_length=sizes.SHOTS)]], Field(max_length=sizes.BEATS)]


def _out(session: Session, row: FilmKept, crew: CrewWay, gear: CrewKitOf, plans: PlansOf) -> FilmOut:
    told = film_kept(session, row, crew, gear, plans)
    stamps = {str(shot.id): revision_of(shot.stamps) for shot in store.framings_of(session, row.id)}
    return FilmOut(
        id=row.id,
        revision=revision_of(row.stamps),
        film=film_text(told, library.framings()),
        framing_revisions=stamps,
    )


@router.get("/shoots/{shoot_id}/story")
def story(session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, shoot_id: UUID) -> StoryOut:
    """The films of a shoot with their strips, framings to scale, and what is missing before they cut."""
    shoot = get_shoot(session, shoot_id)
    items = [_out(session, row, crew, gear, plans) for row in store.list_films(session, shoot_id)]
    films = {str(item.id) for item in items}
    return StoryOut(
        items=items,
        total=len(items),
        kinds=[
            KindOut(id=kind.id, name=kind.name, says=kind.says, prompt=kind.prompt)
            for kind in library.framings().values()
        ],
        words=STORY_WORDS,
        others=[
            OtherShot(id=shot.id, title=shot.brief["title"])
            for shot in list_shots(session, shoot_id)
            if (shot.framing or {}).get("film") not in films
        ],
        where_known=here_of(shoot) is not None and shoot.day is not None,
    )


@router.post("/shoots/{shoot_id}/films", status_code=201)
def add(session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, shoot_id: UUID, film: Film) -> FilmOut:
    """Begin a film of a shoot."""
    return _out(session, store.add_film(session, shoot_id, film.model_dump(mode="json")), crew, gear, plans)


@router.patch("/films/{film_id}")
def change(
    session: SessionOf,
    crew: CrewWay,
    gear: CrewKitOf,
    plans: PlansOf,
    keeper: KeeperOf,
    after: BackgroundTasks,
    film_id: UUID,
    said: Change,
) -> FilmOut:
    """Change a film. Its shots follow in what they have from it; a beat that is left out while framings hang on it is struck, not lost."""
    row, moved = change_film(session, film_id, said.revision, said.change, crew, gear, plans)
    if keeper is not None:
        for shot_id in moved:
            after.add_task(keeper.look_after, shot_id)
    return _out(session, row, crew, gear, plans)


@router.delete("/films/{film_id}", status_code=204)
def remove(session: SessionOf, film_id: UUID) -> None:
    """Remove a film; its shots stay in the day, and it can be brought back."""
    store.remove_film(session, film_id)


@router.post("/films/{film_id}/restore")
def restore(session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, film_id: UUID) -> FilmOut:
    """Bring a removed film back, with its framings."""
    return _out(session, store.restore_film(session, film_id), crew, gear, plans)


@router.get("/films/{film_id}/beats/{beat_id}/proposals")
def proposed(
    session: SessionOf,
    crew: CrewWay,
    gear: CrewKitOf,
    plans: PlansOf,
    film_id: UUID,
    beat_id: str,
    starts_at: Moment | None = None,
    prompts: Annotated[bool, Query(description="ideas, too: reflections, frames within the frame")] = False,
) -> ProposalList:
    """Framings that would make a beat cut, each with the brief of its shot. Nothing is kept."""
    row = store.get_film(session, film_id)
    film, shoot = Film.model_validate(row.film), get_shoot(session, row.shoot_id)
    beat = film.beat(beat_id)
    if beat is None:
        raise BadInput(Fault("beat", f"the film has no beat '{beat_id[:60]}'", "Read the film again."))
    shots = story_shots(session, store.framings_of(session, film_id), crew, gear, plans)
    there = [shot.framed for shot in shots if shot.framing.beat == beat_id]
    begins = starts_at or _usual_start(shoot, [shot.starts_at for shot in shots if shot.starts_at is not None])
    light = usual_light(shoot, begins, film.hold_s * film.tries)
    items = proposals(film, str(film_id), beat, there, library.framings(), light, prompts, gear.knowledge.limits)
    return ProposalList(items=list(items), total=len(items))


def _usual_start(shoot: Shoot, others: list[datetime]) -> datetime | None:
    """When a framing begins that says nothing: as the last one of its film, else at ten of the shoot's day."""
    if others:
        return max(others)
    if shoot.day is None:
        return None
    return datetime(shoot.day.year, shoot.day.month, shoot.day.day, 10, tzinfo=ZoneInfo(shoot.zone))


@router.post("/films/{film_id}/framings", status_code=201)
def add_all(
    session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, film_id: UUID, asked: FramingsAsked
) -> FramingsAdded:
    """Add framings: each is a new shot of the shoot, planned like any other."""
    rows = add_framings(
        session, film_id, [(one.framing, one.brief) for one in asked.items], asked.starts_at, crew, gear, plans
    )
    return FramingsAdded(items=[row.id for row in rows], total=len(rows))


@router.put("/films/{film_id}/places")
def place(session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, film_id: UUID, said: Places) -> FilmOut:
    """Lay framings in another order, or into other beats."""
    place_framings(session, film_id, said.beats)
    return _out(session, store.get_film(session, film_id), crew, gear, plans)


@router.put("/shots/{shot_id}/framing")
def frame(session: SessionOf, shot_id: UUID, framing: Framing) -> FramingOut:
    """Make a shot that is there a framing of a film of its shoot."""
    shot = put_framing(session, shot_id, framing)
    return FramingOut(revision=revision_of(shot.stamps), framing=framing)


@router.patch("/shots/{shot_id}/framing")
def change_one(
    session: SessionOf,
    crew: CrewWay,
    gear: CrewKitOf,
    plans: PlansOf,
    keeper: KeeperOf,
    after: BackgroundTasks,
    shot_id: UUID,
    said: FramingChange,
) -> FramingOut:
    """Change a framing, and what of it stands in its shot's brief: distance, size, how the camera is held, when."""
    shot, moved = change_framing(session, shot_id, said.revision, said.change, said.brief, crew, gear, plans)
    if moved and keeper is not None:
        after.add_task(keeper.look_after, shot_id)
    return FramingOut(revision=revision_of(shot.stamps), framing=Framing.model_validate(shot.framing))


@router.delete("/shots/{shot_id}/framing", status_code=204)
def unframe(session: SessionOf, shot_id: UUID) -> None:
    """Take a shot out of its film; it stays in the day."""
    store.keep_framing(session, locked_shot(session, shot_id), None)


@router.get("/shots/{shot_id}/sun")
def sun(session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, shot_id: UUID) -> SunText:
    """The sun against a framing through its day: from where it lights, when the wish holds, when one's own shadow is in the frame."""
    row = get_shot(session, shot_id)
    shoot = get_shoot(session, row.shoot_id)
    here, heading = here_of(shoot), (row.framing or {}).get("heading_deg")
    day = shoot.day if row.starts_at is None else row.starts_at.astimezone(ZoneInfo(shoot.zone)).date()
    if here is None or day is None or heading is None:
        raise BadInput(
            Fault(
                "the framing",
                "has no heading, or its shoot no place or day",
                "Give the heading; place and day stand under The day.",
            )
        )
    (shot,) = story_shots(session, [row], crew, gear, plans)
    seen = view_of(shot, library.framings(), gear.knowledge)
    pitch, fields = (0.0, (60.0, 36.0)) if seen is None else (seen[0].pitch_deg, seen[1])
    zone = ZoneInfo(shoot.zone)
    found = sun_of_day(
        here.latitude,
        here.longitude,
        local_day(day, zone),
        heading,
        WHO_FILMS_M,
        fields,
        pitch,
        row.starts_at,
        shot.framing.light,
        gear.knowledge.limits,
    )
    return sun_text(found, shot.framing.light, zone)
