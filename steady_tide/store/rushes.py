"""Folders of rushes, clips, their small frames, and clocks, kept."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID, uuid4

from sqlalchemy import delete, func, or_, select, text, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session, defer

from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadInput, Fault, NotFound
from steady_tide.store.tables import Clip, ClipFrame, RushClock, RushFolder

SILENT_S = 20  # whoever measures tells that he is at it more often than this
_MATCHING = 6_120_713
_SWEEPING = 6_120_714
HEAVY = (Clip.measures, Clip.timeline, Clip.planned)


def list_folders(session: Session) -> Sequence[RushFolder]:
    """All folders, the oldest first."""
    return session.scalars(select(RushFolder).order_by(RushFolder.made_at, RushFolder.path)).all()


def get_folder(session: Session, folder_id: UUID) -> RushFolder:
    """One of them. Raises NotFound."""
    found = session.get(RushFolder, folder_id)
    if found is None:
        raise NotFound("There is no such folder any more. Name it again.")
    return found


def locked_folder(session: Session, folder_id: UUID) -> RushFolder:
    """One folder, held until the end of the unit of work, so that one at a time looks into it. Raises NotFound."""
    query = select(RushFolder).where(RushFolder.id == folder_id).with_for_update()
    found = session.scalar(query.execution_options(populate_existing=True))
    if found is None:
        raise NotFound("There is no such folder any more. Name it again.")
    return found


def add_folder(session: Session, path: str, kind: str) -> RushFolder:
    """Keep a folder, or find it; held until the end of the unit of work.

    path: real and whole; kind: start, named or drops. Returns it. Raises BadInput where there are too many.
    """
    making = (
        insert(RushFolder).values(id=uuid4(), path=path, kind=kind).on_conflict_do_nothing().returning(RushFolder.id)
    )
    made = session.scalar(making)
    if made is not None and (session.scalar(select(func.count()).select_from(RushFolder)) or 0) > sizes.FOLDERS:
        raise BadInput(Fault("path", f"would be more than {sizes.FOLDERS} folders", "Take one off first."))
    found = locked_folder(session, made or session.scalars(select(RushFolder.id).where(RushFolder.path == path)).one())
    if kind != "named":
        found.kind = kind
    return found


def delete_folder(session: Session, folder_id: UUID) -> None:
    """Take a folder off, with all that was measured in it; nothing of the folder itself. Raises NotFound."""
    session.delete(get_folder(session, folder_id))


def clip_counts(session: Session) -> dict[UUID, int]:
    """How many clips each folder has that has any."""
    rows = session.execute(select(Clip.folder_id, func.count()).group_by(Clip.folder_id))
    return {folder_id: count for folder_id, count in rows}


def clips_of(session: Session, folder_id: UUID) -> Sequence[Clip]:
    """All clips of a folder, without what is heavy."""
    query = select(Clip).options(*(defer(column) for column in HEAVY)).where(Clip.folder_id == folder_id)
    return session.scalars(query.order_by(Clip.name)).all()


def page_of_clips(
    session: Session, folder_id: UUID | None, shoot_shots: Sequence[UUID] | None, offset: int, limit: int
) -> tuple[Sequence[Clip], int]:
    """Some clips by the time of recording, with all that is kept of them, and how many there are."""
    where = []
    if folder_id is not None:
        where.append(Clip.folder_id == folder_id)
    if shoot_shots is not None:
        where.append(Clip.shot_id.in_(shoot_shots))
    total = session.scalar(select(func.count()).select_from(Clip).where(*where)) or 0
    query = select(Clip).where(*where).order_by(Clip.recorded_at.asc().nulls_last(), Clip.name, Clip.id)
    return session.scalars(query.offset(offset).limit(limit)).all(), total


def clips_of_shot(session: Session, shot_id: UUID) -> Sequence[Clip]:
    """Measured clips of a shot, by the time of recording."""
    query = select(Clip).where(Clip.shot_id == shot_id, Clip.measures.is_not(None))
    return session.scalars(query.order_by(Clip.recorded_at.asc().nulls_last(), Clip.name)).all()


# Of a clip: a person says of which shot it is, or its crew did, as of the demo's.
CONFIRMED = or_(Clip.matched_by == "person", Clip.folder_id.in_(select(RushFolder.id).where(RushFolder.demo)))


def confirmed_clips(session: Session, clip_ids: Collection[UUID] | None = None) -> set[UUID]:
    """Clips of which it is not only guessed of which shot they are. clip_ids: of these only."""
    query = select(Clip.id).where(CONFIRMED)
    return set(session.scalars(query if clip_ids is None else query.where(Clip.id.in_(clip_ids))))


def confirm_shot(session: Session, shot_id: UUID) -> int:
    """Let the clips that were put to a shot be of it because a person says so. Returns how many were only guessed."""
    confirming = (
        update(Clip)
        .where(Clip.shot_id == shot_id, Clip.matched_by.is_distinct_from("person"))
        .values(matched_by="person", match_share=1.0, other_shot_id=None, updated_at=func.clock_timestamp())
        .returning(Clip.id)
    )
    return len(session.execute(confirming).all())


def measured_with(session: Session, camera: str, most: int) -> Sequence[Clip]:
    """The latest measured clips of a camera whose shots are confirmed. most: how many."""
    query = select(Clip).where(Clip.measures.is_not(None), Clip.planned["camera"].astext == camera, CONFIRMED)
    return session.scalars(query.order_by(Clip.recorded_at.desc().nulls_last(), Clip.name).limit(most)).all()


def with_facts(session: Session) -> Sequence[Clip]:
    """Every clip of which the file's facts are known, without what is heavy, held until the end of the unit of work."""
    query = select(Clip).options(*(defer(column) for column in HEAVY)).where(Clip.facts.is_not(None))
    return session.scalars(query.order_by(Clip.id).with_for_update()).all()


def get_clip(session: Session, clip_id: UUID) -> Clip:
    """One clip. Raises NotFound."""
    found = session.get(Clip, clip_id)
    if found is None:
        raise NotFound("There is no such clip any more. Its folder was taken off.")
    return found


def locked_clip(session: Session, clip_id: UUID) -> Clip:
    """One clip as it is now, held until the end of the unit of work. Raises NotFound."""
    query = select(Clip).where(Clip.id == clip_id).with_for_update()
    found = session.scalar(query.execution_options(populate_existing=True))
    if found is None:
        raise NotFound("There is no such clip any more. Its folder was taken off.")
    return found


def claim(session: Session, clip_id: UUID, asked: int) -> bool:
    """Take a clip for measuring. asked: which request. Returns False where another has it, or nobody wants it any more."""
    silent = datetime.now(UTC) - timedelta(seconds=SILENT_S)
    taken = session.execute(
        update(Clip)
        .where(
            Clip.id == clip_id,
            Clip.asked == asked,
            or_(Clip.state == "waiting", (Clip.state == "measuring") & (Clip.updated_at < silent)),
        )
        .values(state="measuring", share=0.0, problem=None, updated_at=func.clock_timestamp())
        .returning(Clip.id)
    )
    return taken.first() is not None


def at_it(session: Session, clip_id: UUID, asked: int, share: float) -> bool:
    """Tell that a clip is being measured, and how far it is. Returns False where it is not wanted any more."""
    told = session.execute(
        update(Clip)
        .where(Clip.id == clip_id, Clip.asked == asked, Clip.state == "measuring")
        .values(share=share, updated_at=func.clock_timestamp())
        .returning(Clip.id)
    )
    return told.first() is not None


def put_back(session: Session, clip_id: UUID, asked: int) -> None:
    """Let a clip wait again that was begun."""
    session.execute(
        update(Clip)
        .where(Clip.id == clip_id, Clip.asked == asked, Clip.state == "measuring")
        .values(state="waiting", share=0.0, updated_at=func.clock_timestamp())
    )


def keep_frames(session: Session, clip_id: UUID, frames: Sequence[tuple[float, bytes, bytes]]) -> None:
    """Keep a clip's small frames in place of those there were. frames: time, plain and marked picture of each."""
    session.execute(delete(ClipFrame).where(ClipFrame.clip_id == clip_id))
    session.add_all(
        ClipFrame(clip_id=clip_id, position=position, at_s=at_s, plain=plain, marked=marked)
        for position, (at_s, plain, marked) in enumerate(frames)
    )


def frames_at(session: Session, clip_ids: Sequence[UUID]) -> dict[UUID, list[float]]:
    """When the small frames of some clips are."""
    rows = session.execute(
        select(ClipFrame.clip_id, ClipFrame.at_s)
        .where(ClipFrame.clip_id.in_(clip_ids))
        .order_by(ClipFrame.clip_id, ClipFrame.position)
    )
    found: dict[UUID, list[float]] = {}
    for clip_id, at_s in rows:
        found.setdefault(clip_id, []).append(at_s)
    return found


def get_frame(session: Session, clip_id: UUID, position: int) -> ClipFrame:
    """A small frame. Raises NotFound."""
    found = session.get(ClipFrame, (clip_id, position))
    if found is None:
        raise NotFound("There is no such frame.")
    return found


def one_at_a_time(session: Session) -> None:
    """Let nobody else match clips until the end of the unit of work."""
    session.execute(text("select pg_advisory_xact_lock(:key)"), {"key": _MATCHING})


def may_sweep(session: Session) -> bool:
    """Whether nobody else sweeps just now; held until the end of the unit of work."""
    return bool(session.scalar(text("select pg_try_advisory_xact_lock(:key)"), {"key": _SWEEPING}))


def job_key(clip: Clip) -> str:
    """The key of the job that measures a clip: one for each request."""
    return f"measure/{clip.id}/{clip.asked}"


def left_lying(session: Session) -> Sequence[Clip]:
    """Clips that wait without a job, or whose measuring fell silent."""
    silent = datetime.now(UTC) - timedelta(seconds=SILENT_S)
    session.execute(
        update(Clip)
        .where(Clip.state == "measuring", Clip.updated_at < silent)
        .values(state="waiting", share=0.0, updated_at=func.clock_timestamp())
    )
    query = (
        select(Clip)
        .options(*(defer(column) for column in HEAVY))
        .where(
            Clip.state == "waiting",
            Clip.gone_at.is_(None),
            text(
                "not exists (select 1 from procrastinate_jobs j where j.status = 'todo' "
                "and j.queueing_lock = 'measure/' || clips.id || '/' || clips.asked)"
            ),
        )
    )
    return session.scalars(query).all()


def keep_clocks(session: Session, clocks: Sequence[dict[str, Any]]) -> None:
    """Keep the errors of clocks in place of those there were. clocks: camera, ahead_s, clips of each."""
    session.execute(delete(RushClock))
    session.add_all(RushClock(**clock) for clock in clocks)


def list_clocks(session: Session) -> Sequence[RushClock]:
    """The errors of clocks."""
    return session.scalars(select(RushClock).order_by(RushClock.camera)).all()


def states(session: Session) -> dict[str, int]:
    """How many clips are in each state."""
    rows = session.execute(select(Clip.state, func.count()).group_by(Clip.state))
    return {state: count for state, count in rows}


def changed_since(session: Session, moment: datetime | None) -> list[tuple[UUID, str, float, datetime]]:
    """Id, state, share and last change of the clips that changed at a moment or after it; of all where it is left out."""
    query = select(Clip.id, Clip.state, Clip.share, Clip.updated_at).order_by(Clip.updated_at)
    if moment is not None:
        query = query.where(Clip.updated_at >= moment)
    return [(clip_id, state, share, updated_at) for clip_id, state, share, updated_at in session.execute(query)]


def cancel(session: Session, clip_id: UUID | None) -> int:
    """Let clips wait no more, nor be measured on. clip_id: all where left out. Returns how many."""
    stopping = update(Clip).where(Clip.state.in_(("waiting", "measuring")))
    if clip_id is not None:
        stopping = stopping.where(Clip.id == clip_id)
    stopped = stopping.values(state="cancelled", share=0.0, updated_at=func.clock_timestamp()).returning(Clip.id)
    return len(session.execute(stopped).all())


def cancelled(session: Session) -> Sequence[Clip]:
    """Clips whose measuring was cancelled, held until the end of the unit of work, without what is heavy."""
    query = select(Clip).options(*(defer(column) for column in HEAVY)).where(Clip.state == "cancelled")
    return session.scalars(query.order_by(Clip.id).with_for_update()).all()
