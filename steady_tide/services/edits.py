"""What the edit is handed, from what is kept."""

from __future__ import annotations

from uuid import UUID

from sqlalchemy.orm import Session

from steady_tide import library
from steady_tide.core.brief.brief import School
from steady_tide.core.edit.display import LookStyle
from steady_tide.core.edit.gathering import Edit
from steady_tide.core.edit.notes import EditShot, EditTake
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.log.take import TakeFields
from steady_tide.core.quantities.errors import BadInput, Fault
from steady_tide.core.rushes.clip_plan import ClipPlan, clip_plan
from steady_tide.core.rushes.measures import ClipMeasures
from steady_tide.core.rushes.timeline import Timeline
from steady_tide.core.shoot.film import Film, Framing
from steady_tide.core.story.telling import StoryShot, film_facts
from steady_tide.services.crew_kit import CrewKit
from steady_tide.services.kept_plans import held_gear, standing_of
from steady_tide.services.plans import Plans
from steady_tide.services.stories import here_of
from steady_tide.store import films as store_films
from steady_tide.store import rushes as store_rushes
from steady_tide.store import takes as store_takes
from steady_tide.store.shoots import get_shoot
from steady_tide.store.shots import list_planned


def look_named(look: str | None) -> LookStyle | None:
    """A look of ours. look: its id, None for none. Returns it. Raises BadInput where there is none of that name."""
    if look is None:
        return None
    looks = library.looks()
    if look not in looks:
        raise BadInput(Fault("look", f"there is no look '{look[:60]}'", f"Use one of {', '.join(looks)}, or none."))
    return looks[look]


def edit_kept(
    session: Session, shoot_id: UUID, crew: School, gear: CrewKit, plans: Plans, look: str | None = None
) -> Edit:
    """The edit of a kept shoot. crew, gear: now; look: id of a look. Returns it. Raises NotFound, and BadInput where there is no such look."""
    shoot = get_shoot(session, shoot_id)
    rows = list_planned(session, shoot_id)
    films = {str(row.id): Film.model_validate(row.film) for row in store_films.list_films(session, shoot_id)}
    takes = _takes(session, [row.id for row in rows])
    sheets: dict[str, CameraSheet] = {}
    shots, told = [], []
    for number, row in enumerate(rows, start=1):
        now = standing_of(session, row, crew, gear, plans)
        sheet = None if now.plan is None else gear.sheet(session, now.plan.camera.id, now.plan.camera.edition)
        framing = Framing.model_validate(row.framing) if (row.framing or {}).get("film") in films else None
        plan: ClipPlan | None = None
        if now.plan is not None and sheet is not None:
            sheets[sheet.id] = sheet
            plan = clip_plan(now.brief, now.plan, sheet, held_gear(session, row, gear).knowledge)
        if framing is not None:
            told.append(StoryShot(str(row.id), now.brief, framing, now.plan if sheet else None, sheet, row.starts_at))
        shots.append(
            EditShot(str(row.id), number, now.brief.title, now.brief, plan, framing, (), takes.get(row.id, ()))
        )
    crops = {}
    for key, film in films.items():
        mine = [shot for shot in told if shot.framing.film == key]
        for one in film_facts(key, film, mine, here_of(shoot), library.framings(), gear.knowledge).framings:
            crops[one.key] = one.sketch.crops if one.sketch else ()
    whole = [
        EditShot(
            shot.key, shot.number, shot.title, shot.brief, shot.plan, shot.framing, crops.get(shot.key, ()), shot.takes
        )
        for shot in shots
    ]
    return Edit(shoot.title, tuple(whole), films, sheets, gear.knowledge, look_named(look))


def _takes(session: Session, shot_ids: list[UUID]) -> dict[UUID, tuple[EditTake, ...]]:
    """Takes by shot, those of ladders left out, the oldest first, with what was measured."""
    rows = [row for row in reversed(store_takes.list_takes(session, shot_ids)) if row.ladder_id is None]
    measured = store_takes.measured_of(session, [row.id for row in rows])
    clips = {clip.id: clip for shot_id in shot_ids for clip in store_rushes.clips_of_shot(session, shot_id)}
    found: dict[UUID, list[EditTake]] = {}
    for row in rows:
        assert row.shot_id is not None
        mine = found.setdefault(row.shot_id, [])
        measures, planned = measured.get(row.id, (None, None))
        clip = clips.get(row.clip_id) if row.clip_id else None
        mine.append(
            EditTake(
                key=str(row.id),
                number=len(mine) + 1,
                said=TakeFields.model_validate(row.said),
                plan=None if planned is None else ClipPlan.model_validate(planned),
                measures=None if measures is None else ClipMeasures.model_validate(measures),
                timeline=None if clip is None or clip.timeline is None else Timeline.model_validate(clip.timeline),
                file=None if clip is None else clip.name,
            )
        )
    return {shot_id: tuple(mine) for shot_id, mine in found.items()}
