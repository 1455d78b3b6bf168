"""Clips of the whole batch find their shots, as far as no person has said otherwise."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

from sqlalchemy.orm import Session

from steady_tide.core.brief.brief import Take
from steady_tide.core.rushes.matching import ClipSeen, ShotAhead, match
from steady_tide.services.crew_kit import CrewKit, read_crew_kit
from steady_tide.services.rush_plans import hold_against, plan_of
from steady_tide.services.take_linking import link_takes
from steady_tide.store import rushes as store
from steady_tide.store.database import Database
from steady_tide.store.shots import get_shot, planned_between
from steady_tide.store.tables import Clip, Shot

NEAR = timedelta(days=2)  # of any clip: shots of other days are not looked at
MOST_SHOTS = 400
BY_BATCH, BY_PERSON = "batch", "person"


def match_all(database: Database) -> None:
    """Find the shots of all clips that no person has put to one. Clips whose curve is another one now are measured anew."""
    with database.session() as session:
        store.one_at_a_time(session)
        clips = store.with_facts(session)
        free = [clip for clip in clips if clip.matched_by != BY_PERSON]
        times = [clip.recorded_at for clip in clips if clip.recorded_at is not None]
        matches, clocks = match([_seen(clip) for clip in free], _shots_near(session, times))
        store.keep_clocks(session, [clock.model_dump() for clock in clocks])
        gear = read_crew_kit(session)
        for clip, found in zip(free, matches, strict=True):
            shot_id, other = (None if key is None else UUID(key) for key in (found.shot, found.next_best))
            changed = clip.shot_id != shot_id
            if changed or clip.matched_by is None or clip.other_shot_id != other or _moved(clip, found.share):
                clip.matched_by, clip.match_share, clip.other_shot_id = BY_BATCH, found.share, other
            if changed:
                put_to(session, clip, None if shot_id is None else get_shot(session, shot_id), gear)
        session.flush()
        link_takes(session)


def _moved(clip: Clip, share: float) -> bool:
    return clip.match_share is None or abs(clip.match_share - share) > 0.02


def put_to(session: Session, clip: Clip, shot: Shot | None, gear: CrewKit) -> None:
    """Hold a clip against a shot's plan from now on. shot: None for none."""
    clip.shot_id = None if shot is None else shot.id
    hold_against(session, clip, None if shot is None else plan_of(session, shot, gear))


def _shots_near(session: Session, times: Sequence[datetime]) -> list[ShotAhead]:
    """Planned shots about the days of some clips; where a clock is wholly wrong, those of the last shoots."""
    found: list[ShotAhead] = []
    if times:
        found = [_ahead(*row) for row in planned_between(session, min(times) - NEAR, max(times) + NEAR, MOST_SHOTS)]
    return found or [_ahead(*row) for row in planned_between(session, None, None, MOST_SHOTS // 4)]


def _seen(clip: Clip) -> ClipSeen:
    facts: dict[str, Any] = clip.facts or {}
    return ClipSeen(
        key=str(clip.id),
        at_s=None if clip.recorded_at is None else clip.recorded_at.timestamp(),
        camera=facts.get("name") or None,
        width=facts["width"],
        height=facts["height"],
        rate=facts.get("rate"),
    )


def _ahead(shot_id: UUID, starts_at: datetime | None, take: Any, camera: Any, settings: Any) -> ShotAhead:
    take = Take.model_validate(take or {})
    return ShotAhead(
        key=str(shot_id),
        starts_s=None if starts_at is None else starts_at.timestamp(),
        lasts_s=take.length_s * (take.count or 1) + 60.0 * take.standby_min,
        camera_id=camera["id"],
        camera=camera["name"],
        width=settings["width"],
        height=settings["height"],
        rate=settings["frame_rate"],
    )


def of_person(session: Session, clip_id: UUID, shot_id: UUID | None) -> Clip:
    """Put a clip to a shot because a person says so. shot_id: None for none. Returns the clip. Raises NotFound."""
    clip = store.locked_clip(session, clip_id)
    shot = None if shot_id is None else get_shot(session, shot_id)
    clip.matched_by, clip.match_share, clip.other_shot_id = BY_PERSON, 1.0, None
    put_to(session, clip, shot, read_crew_kit(session))
    session.flush()
    link_takes(session)
    return clip
