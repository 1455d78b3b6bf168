"""Films of a shoot as the core works with them, from what is kept; changes that go both ways between a film and its shots."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

from sqlalchemy.orm import Session

from steady_tide import library
from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.brief.fields import PARTS
from steady_tide.core.brief.start_time import one_time
from steady_tide.core.light.sky import LONGEST
from steady_tide.core.light.sources import LightSource, PlaceLight, SkyLight
from steady_tide.core.quantities.errors import BadInput, Fault
from steady_tide.core.shoot.film import Film, Framing
from steady_tide.core.shoot.shoot_file import ShotWishes
from steady_tide.core.story.coverage import following, framing_brief
from steady_tide.core.story.telling import FilmFacts, Here, StoryShot, TakeCount, film_facts
from steady_tide.services.changes import changed
from steady_tide.services.crew_kit import CrewKit
from steady_tide.services.kept_plans import held_gear, planned_fields, saved_fields, standing_of
from steady_tide.services.plans import Plans
from steady_tide.services.shot_changes import changed_shot
from steady_tide.store import films as store
from steady_tide.store import shots as store_shots
from steady_tide.store.shoots import get_shoot
from steady_tide.store.tables import FilmKept, Shoot, Shot

LEAST_SKY_S = 600.0  # so long the light of a framing is followed at least
UNKNOWN_LIGHT = "full_sun"  # where the shoot has no place or no day


def here_of(shoot: Shoot) -> Here | None:
    """Where a shoot is. Returns None where that is not known."""
    known = shoot.latitude is not None and shoot.longitude is not None
    return Here(shoot.latitude, shoot.longitude) if known else None  # type: ignore[arg-type]


def story_shots(
    session: Session, rows: Sequence[Shot], crew: School, gear: CrewKit, plans: Plans
) -> tuple[StoryShot, ...]:
    """Shots of a film with their plans as they stand and their takes. rows: framings; crew, gear: now."""
    takes = store.counted_takes(session, [row.id for row in rows])
    found = []
    for row in rows:
        now = standing_of(session, row, crew, gear, plans)
        sheet = None if now.plan is None else gear.sheet(session, now.plan.camera.id, now.plan.camera.edition)
        found.append(
            StoryShot(
                key=str(row.id),
                brief=now.brief,
                framing=Framing.model_validate(row.framing),
                plan=None if sheet is None else now.plan,
                sheet=sheet,
                starts_at=row.starts_at,
                setup_min=ShotWishes.model_validate(row.wishes).setup_min,
                takes=TakeCount.model_validate(takes.get(row.id, {})),
            )
        )
    return tuple(found)


def film_kept(session: Session, row: FilmKept, crew: School, gear: CrewKit, plans: Plans) -> FilmFacts:
    """A kept film with all that follows from it and its shots."""
    shots = story_shots(session, store.framings_of(session, row.id), crew, gear, plans)
    here = here_of(get_shoot(session, row.shoot_id))
    return film_facts(str(row.id), Film.model_validate(row.film), shots, here, library.framings(), gear.knowledge)


def usual_light(shoot: Shoot, at: datetime | None, lasts_s: float) -> LightSource:
    """The light that a framing begins with: the sky over the shoot at its time, else a place's.

    shoot: whose; at: when, aware, None where it is not known; lasts_s: how long. Returns a light.
    """
    if at is None or shoot.latitude is None or shoot.longitude is None:
        return PlaceLight(kind="place", place=UNKNOWN_LIGHT)
    end = at + min(LONGEST, timedelta(seconds=max(lasts_s, LEAST_SKY_S)))
    return SkyLight(
        kind="sky",
        latitude=shoot.latitude,
        longitude=shoot.longitude,
        start=at,
        end=end,
        cloud=shoot.cloud or "clear",
    )


def change_film(
    session: Session,
    film_id: UUID,
    made_on: int,
    change: Mapping[str, Any],
    crew: School,
    gear: CrewKit,
    plans: Plans,
) -> tuple[FilmKept, list[UUID]]:
    """Change a film; its shots follow in what they have from it and was not set otherwise.

    made_on: revision that the change was made on; change: fields of the film. A beat that is left out while framings hang on it is
    struck, not lost. Returns the film, and the shots whose plans are made anew. Raises NotFound, BadInput, Conflict.
    """
    row = store.locked_film(session, film_id)
    before = Film.model_validate(row.film)
    rows = store.framings_of(session, film_id)
    said = dict(change)
    if isinstance(said.get("beats"), list | tuple):
        said["beats"] = _struck(before, said["beats"], {(shot.framing or {}).get("beat") for shot in rows})
    after, row.stamps = changed(Film, row.film, row.stamps, made_on, said)
    row.film = after.model_dump(mode="json")
    session.flush()
    moved = []
    for shot in rows:
        framing, brief = Framing.model_validate(shot.framing), Brief.model_validate(shot.brief)
        then = following((before, framing), (after, framing), brief)
        if then != brief:
            _keep_brief(session, shot, then, crew, gear, plans)
            moved.append(shot.id)
    return row, moved


def _struck(before: Film, beats: Sequence[Any], hung_on: set[Any]) -> list[Any]:
    """The beats that are said, with those struck that are not, but on which framings hang; each after the one it followed."""
    named = {beat.get("id") for beat in beats if isinstance(beat, Mapping)}
    kept = list(beats)
    for place, beat in enumerate(before.beats):
        if beat.id not in named and beat.id in hung_on:
            kept.insert(min(place, len(kept)), {**beat.model_dump(mode="json"), "removed": True})
    return kept


def _keep_brief(session: Session, shot: Shot, brief: Brief, crew: School, gear: CrewKit, plans: Plans) -> None:
    brief, starts_at = one_time(brief, shot.starts_at)
    fields = saved_fields(shot, brief, crew, held_gear(session, shot, gear), plans)
    store_shots.put_shot(session, shot, {"starts_at": starts_at, **fields})


def add_framings(
    session: Session,
    film_id: UUID,
    asked: Sequence[tuple[Framing, Brief]],
    starts_at: datetime | None,
    crew: School,
    gear: CrewKit,
    plans: Plans,
) -> Sequence[Shot]:
    """Add framings to a film: each is a new shot of its shoot.

    asked: framings with briefs, of which what the film says is filled in; starts_at: of each, unless its sky says. Returns the shots.
    Raises NotFound, and BadBrief where a brief names what does not exist.
    """
    row = store.get_film(session, film_id)
    film = Film.model_validate(row.film)
    fields = []
    for framing, given in asked:
        mine = framing.model_copy(update={"film": str(film_id)})
        _has_beat(film, mine)
        brief, at = one_time(framing_brief(film, mine, given), starts_at)
        fields.append(
            {"starts_at": at, "framing": mine.model_dump(mode="json"), **planned_fields(brief, crew, gear, plans)}
        )
    return store_shots.add_shots(session, row.shoot_id, fields)


def _has_beat(film: Film, framing: Framing) -> None:
    if film.beat(framing.beat) is None:
        there = ", ".join(beat.id for beat in film.beats) or "none yet: add one"
        raise BadInput(Fault("framing.beat", f"the film has no beat '{framing.beat}'", f"Use one of {there}."))


def put_framing(session: Session, shot_id: UUID, framing: Framing) -> Shot:
    """Make a shot that is there a framing of a film of its shoot. Its brief stays as it is. Returns it."""
    shot = store_shots.locked_shot(session, shot_id)
    film = store.get_film(session, _film_id(framing))
    if film.shoot_id != shot.shoot_id:
        raise BadInput(Fault("framing.film", "is a film of another shoot", "Choose a film of the shot's own shoot."))
    _has_beat(Film.model_validate(film.film), framing)
    return store.keep_framing(session, shot, framing.model_dump(mode="json"))


def _film_id(framing: Framing) -> UUID:
    try:
        return UUID(framing.film)
    except ValueError:
        raise BadInput(
            Fault("framing.film", f"'{framing.film}' names no film", "Give the id of a film of the shoot.")
        ) from None


def change_framing(
    session: Session,
    shot_id: UUID,
    made_on: int,
    change: Mapping[str, Any],
    parts: Mapping[str, Mapping[str, Any]],
    crew: School,
    gear: CrewKit,
    plans: Plans,
) -> tuple[Shot, bool]:
    """Change a framing, and what of it stands in its shot's brief.

    made_on: revision of the framing that the change was made on; change: its fields; parts: fields of the brief by part, such as
    {"subject": {"distance_m": [2, 3]}}, title under "". What the brief has from the movement and the lengths follows. Returns the shot,
    and whether its plan is made anew. Raises NotFound, BadInput, Conflict.
    """
    shot = store_shots.locked_shot(session, shot_id)
    if shot.framing is None:
        raise BadInput(Fault("the shot", "is no framing of a film", "Put it into a film first."))
    before = Framing.model_validate(shot.framing)
    after, _ = changed(Framing, shot.framing, shot.stamps, made_on, change, "framing.")
    film = Film.model_validate(store.get_film(session, _film_id(after)).film)
    _has_beat(film, after)
    brief = Brief.model_validate(shot.brief)
    mine, _ = changed_shot(shot, made_on, _of_parts(parts)) if parts else (brief, None)
    store.keep_framing(session, shot, after.model_dump(mode="json"))
    then = following((film, before), (film, after), mine)
    if then == brief:
        return shot, False
    _keep_brief(session, shot, then, crew, gear, plans)
    return shot, True


def _of_parts(parts: Mapping[str, Mapping[str, Any]]) -> dict[str, Any]:
    """A change of a brief, field by field, from fields by part."""
    found: dict[str, Any] = {}
    for name, fields in parts.items():
        if name and name not in PARTS:
            raise BadInput(Fault(f"brief.{name}", "is no part of a brief that a framing changes", "Leave it out."))
        found |= {f"{name}.{field}" if name else field: value for field, value in fields.items()}
    return found


def place_framings(session: Session, film_id: UUID, places: Mapping[str, Sequence[UUID]]) -> None:
    """Lay a film's framings in another order. places: shots by beat, in their order. Others stay. Raises NotFound, BadInput."""
    row = store.locked_film(session, film_id)
    film = Film.model_validate(row.film)
    mine = {shot.id: shot for shot in store.framings_of(session, film_id)}
    for beat, shot_ids in places.items():
        for place, shot_id in enumerate(shot_ids):
            shot = mine.get(shot_id)
            if shot is None:
                raise BadInput(Fault(f"places.{beat}", f"{shot_id} is no framing of this film", "Read the film again."))
            framing = Framing.model_validate(shot.framing).model_copy(update={"beat": beat, "place": place})
            _has_beat(film, framing)
            store.keep_framing(session, shot, framing.model_dump(mode="json"))
