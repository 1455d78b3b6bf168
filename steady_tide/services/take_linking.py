"""Clips and takes come together: a clip of a shot belongs to the take that was logged about when it was recorded."""

from __future__ import annotations

from collections import defaultdict
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID, uuid4

from sqlalchemy.orm import Session

from steady_tide.core.log.take import TakeFields, as_of
from steady_tide.core.quantities import sizes
from steady_tide.core.rushes.clip_plan import ClipPlan
from steady_tide.services.rush_plans import hold_against
from steady_tide.store import rushes as store_rushes
from steady_tide.store import takes as store
from steady_tide.store.tables import Clip, TakeKept

NEAR = timedelta(minutes=10)  # from the logging of a take to the time of its clip
BY_CLIP = "clip"


def link_takes(session: Session) -> None:
    """Put clips to the takes that were logged, and log those that nobody logged."""
    store.one_links(session)
    _follow(session)
    ahead = {clock.camera: timedelta(seconds=clock.ahead_s) for clock in store_rushes.list_clocks(session)}
    room = sizes.TAKES - store.count_takes(session)
    of_shot: dict[UUID, list[Clip]] = defaultdict(list)
    for clip in store.clips_without_take(session):
        if clip.shot_id is not None:
            of_shot[clip.shot_id].append(clip)
    for shot_id, clips in of_shot.items():
        free = list(store.free_takes(session, shot_id))
        near = sorted(
            (
                (abs(take.at - began), take, clip)
                for clip in clips
                for take in free
                if (began := began_at(clip, ahead)) is not None and abs(take.at - began) <= NEAR
            ),
            key=lambda one: one[0],
        )
        taken: set[UUID] = set()
        for _, take, clip in near:
            if take.id not in taken and clip.id not in taken:
                taken |= {take.id, clip.id}
                _give(session, take, clip)
        for clip in clips:
            if clip.id not in taken and room > 0:  # a full log takes no more; the clips stay where they are
                room -= 1
                session.add(_logged(clip, began_at(clip, ahead)))
    session.flush()


def began_at(clip: Clip, ahead: dict[str, timedelta]) -> datetime | None:
    """When a clip was recorded, its camera's clock set right. ahead: by how much each runs ahead."""
    name = (clip.facts or {}).get("name") or ""
    return None if clip.recorded_at is None else clip.recorded_at - ahead.get(name, timedelta(0))


def _give(session: Session, take: TakeKept, clip: Clip) -> None:
    """A take knows what was measured of its clip. Both are held against the same: on a ladder its rung, else the shot's plan."""
    if take.ladder_id is None:
        take.planned = clip.planned
    elif take.planned is not None and clip.planned != take.planned:
        hold_against(session, clip, ClipPlan.model_validate(take.planned))
    take.clip_id, take.measures = clip.id, clip.measures


def _part(take: TakeKept) -> None:
    take.clip_id = take.measures = None
    if take.ladder_id is None:
        take.planned = None


def _logged(clip: Clip, at: datetime | None) -> TakeKept:
    planned: dict[str, Any] = clip.planned or {}
    at = at or clip.modified_at
    said = TakeFields(
        at=at.astimezone(UTC),
        camera=planned.get("camera"),
        mount=planned.get("mount"),
        hands=planned.get("hands"),
        seconds=(clip.facts or {}).get("seconds"),
    )
    return TakeKept(
        id=uuid4(), shot_id=clip.shot_id, at=at, said=said.model_dump(mode="json"), made_by=BY_CLIP, clip_id=clip.id,
        measures=clip.measures, planned=clip.planned,
    )  # fmt: skip


def _follow(session: Session) -> None:
    """Takes follow their clips: to another shot where the clip made them, else they part."""
    for take, clip in store.takes_unlike_clips(session):
        if take.shot_id == clip.shot_id:
            _give(session, take, clip)
        elif take.made_by == BY_CLIP:
            said = as_of(take.said, take.planned or {}, clip.planned or {})
            if said != take.said:
                store.keep_said(take, said, take.at)
            take.shot_id = clip.shot_id
            _give(session, take, clip)
        else:
            _part(take)
    session.flush()


def measured(session: Session, clip: Clip) -> None:
    """A clip was measured: its take knows it, too."""
    take = store.take_of_clip(session, clip.id)
    if take is not None:
        _give(session, take, clip)


def rate_clip(session: Session, clip: Clip, rating: str | None) -> None:
    """Keep what a person thinks of a clip, with its take; one is logged where there was none. clip: held."""
    take = store.take_of_clip(session, clip.id)
    if take is None:
        take = _logged(clip, clip.recorded_at)
        session.add(take)
    take.deleted_at = None
    store.keep_said(take, {**take.said, "rating": rating}, take.at)
    store.check_takes(session)
