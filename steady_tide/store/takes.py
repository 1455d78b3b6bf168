"""Takes and notes of gear, kept."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from datetime import UTC, datetime
from typing import Any
from uuid import UUID

from sqlalchemy import func, or_, select, type_coerce
from sqlalchemy.dialects.postgresql import JSONB, insert
from sqlalchemy.orm import Session, defer

from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadInput, Fault, NotFound
from steady_tide.store.merging import stamped
from steady_tide.store.tables import Clip, GearNote, Shoot, Shot, TakeKept

_LINKING = 6_120_715
LIGHT = (defer(TakeKept.measures), defer(TakeKept.planned))  # a take without what is heavy


def list_takes(session: Session, shot_ids: Collection[UUID] | None = None) -> Sequence[TakeKept]:
    """Takes that are not removed, the newest first, without what was measured. shot_ids: of these shots only."""
    query = select(TakeKept).options(*LIGHT).where(TakeKept.deleted_at.is_(None))
    if shot_ids is not None:
        query = query.where(TakeKept.shot_id.in_(shot_ids))
    return session.scalars(query.order_by(TakeKept.at.desc(), TakeKept.id)).all()


def measured_of(session: Session, take_ids: Collection[UUID]) -> dict[UUID, tuple[Any, Any]]:
    """What was measured of some takes, and what they are held against, by take."""
    rows = session.execute(select(TakeKept.id, TakeKept.measures, TakeKept.planned).where(TakeKept.id.in_(take_ids)))
    return {take_id: (measures, planned) for take_id, measures, planned in rows}


def takes_on_ladders(session: Session, ladder_ids: Collection[UUID]) -> Sequence[TakeKept]:
    """The takes of some ladders, the oldest first, without what was measured."""
    query = select(TakeKept).options(*LIGHT).where(TakeKept.ladder_id.in_(ladder_ids), TakeKept.deleted_at.is_(None))
    return session.scalars(query.order_by(TakeKept.at, TakeKept.id)).all()


def shots_of_takes(session: Session) -> dict[UUID, dict[str, Any]]:
    """What the log tells of each shot: title, scenario, light, place, shoot with its day; gone: whether
    it was removed."""
    brief, plan = type_coerce(Shot.brief, JSONB), type_coerce(Shot.plan, JSONB)
    rows = session.execute(
        select(
            Shot.id, brief["title"].astext, brief["scenario"].astext, brief["camera_move"], Shot.starts_at,
            plan["light_kind"].astext, plan["camera"], Shoot.id, Shoot.title, Shoot.place, Shoot.zone, Shoot.day,
            or_(Shot.deleted_at.is_not(None), Shoot.deleted_at.is_not(None)),
        ).join(Shoot, Shoot.id == Shot.shoot_id)
    )  # fmt: skip
    return {
        row[0]: {
            "title": row[1] or "", "scenario": row[2] or "everyday", "move": row[3] or {}, "starts_at": row[4],
            "light": row[5] or None, "camera": row[6] if isinstance(row[6], dict) else None, "shoot_id": row[7],
            "shoot": row[8], "place": row[9], "zone": row[10], "day": row[11], "gone": row[12],
        }
        for row in rows
    }  # fmt: skip


def get_take(session: Session, take_id: UUID, removed: bool = False) -> TakeKept:
    """One take. removed: also where it was removed. Raises NotFound."""
    take = session.get(TakeKept, take_id)
    if take is None or (take.deleted_at is not None and not removed):
        raise NotFound("There is no such take any more. It may have been removed; bring it back in the Log.")
    return take


def locked_take(session: Session, take_id: UUID) -> TakeKept:
    """One take, held until the end of the unit of work. Raises NotFound."""
    query = select(TakeKept).where(TakeKept.id == take_id, TakeKept.deleted_at.is_(None)).with_for_update()
    take = session.scalar(query.execution_options(populate_existing=True))
    if take is None:
        raise NotFound("There is no such take any more. It may have been removed; bring it back in the Log.")
    return take


def put_take(session: Session, take_id: UUID, fields: dict[str, Any]) -> tuple[TakeKept, bool]:
    """Keep a take under the id that it was logged with. fields: columns by name. Returns it, and whether it is new: said
    twice, it is kept once. Raises BadInput where there are too many."""
    putting = insert(TakeKept).values(id=take_id, **fields).on_conflict_do_nothing().returning(TakeKept.id)
    made = session.scalar(putting) is not None
    if made:
        check_takes(session)
    return get_take(session, take_id, removed=True), made


def check_takes(session: Session) -> None:
    """Raise BadInput where there are more takes than can be sent out and read again. Asked after whatever adds some."""
    session.flush()
    if count_takes(session) > sizes.TAKES:
        raise BadInput(Fault("the log", f"holds {sizes.TAKES} takes at most", "Export the oldest, and remove them."))


def check_notes(session: Session) -> None:
    """Raise BadInput where there are more notes than can be sent out and read again."""
    session.flush()
    if len(list_notes(session)) > sizes.NOTES:
        raise BadInput(Fault("the notes", f"are {sizes.NOTES} at most", "Remove the oldest."))


def count_takes(session: Session) -> int:
    """How many takes there are."""
    return session.scalar(select(func.count()).select_from(TakeKept).where(TakeKept.deleted_at.is_(None))) or 0


def remove_take(session: Session, take_id: UUID) -> None:
    """Remove a take, so that it can be brought back. Raises NotFound."""
    locked_take(session, take_id).deleted_at = datetime.now(UTC)


def restore_take(session: Session, take_id: UUID) -> TakeKept:
    """Bring a removed take back. Raises NotFound, and BadInput where there are too many by now."""
    take = get_take(session, take_id, removed=True)
    take.deleted_at = None
    check_takes(session)
    return take


def keep_said(take: TakeKept, said: dict[str, Any], at: datetime) -> None:
    """Keep what is said of a take beside a change that no person made on a revision. take: held."""
    take.stamps = stamped(take.said, said, take.stamps)
    take.said, take.at = said, at


def ratings_of(session: Session, clip_ids: Collection[UUID]) -> dict[UUID, str]:
    """What is thought of some clips, by their takes."""
    query = select(TakeKept.clip_id, TakeKept.said["rating"].astext).where(
        TakeKept.clip_id.in_(clip_ids), TakeKept.deleted_at.is_(None)
    )
    return {clip_id: rating for clip_id, rating in session.execute(query) if clip_id is not None and rating}


def take_of_clip(session: Session, clip_id: UUID) -> TakeKept | None:
    """The take of a clip, held; also where it was removed. Returns None where it has none."""
    return session.scalar(select(TakeKept).where(TakeKept.clip_id == clip_id).with_for_update())


def one_links(session: Session) -> None:
    """Let others that put clips to takes wait until this unit of work is done."""
    session.execute(select(func.pg_advisory_xact_lock(_LINKING)))


def clips_without_take(session: Session) -> Sequence[Clip]:
    """Clips of some shot that belong to no take yet, by the time of recording."""
    taken = select(TakeKept.id).where(TakeKept.clip_id == Clip.id).exists()
    query = select(Clip).where(Clip.shot_id.is_not(None), ~taken)
    return session.scalars(query.order_by(Clip.recorded_at.asc().nulls_last(), Clip.name)).all()


def takes_unlike_clips(session: Session) -> Sequence[tuple[TakeKept, Clip]]:
    """Takes that know something else of their clips than these do, with them."""
    unlike = [
        getattr(TakeKept, name).is_distinct_from(getattr(Clip, name)) for name in ("shot_id", "measures", "planned")
    ]
    rows = session.execute(select(TakeKept, Clip).join(Clip, Clip.id == TakeKept.clip_id).where(or_(*unlike)))
    return [(take, clip) for take, clip in rows]


def free_takes(session: Session, shot_id: UUID) -> Sequence[TakeKept]:
    """Takes of a shot that have no clip yet, the oldest first."""
    query = select(TakeKept).where(
        TakeKept.shot_id == shot_id, TakeKept.clip_id.is_(None), TakeKept.deleted_at.is_(None),
        TakeKept.measures.is_(None),
    )  # fmt: skip
    return session.scalars(query.order_by(TakeKept.at, TakeKept.id)).all()


def list_notes(session: Session) -> Sequence[GearNote]:
    """Notes of gear that are not removed, the newest first."""
    query = select(GearNote).where(GearNote.deleted_at.is_(None)).order_by(GearNote.at.desc(), GearNote.id)
    return session.scalars(query).all()


def put_note(session: Session, note_id: UUID, at: datetime, note: dict[str, Any]) -> tuple[GearNote, bool]:
    """Keep a note under the id that it was made with. Returns it, and whether it is new. Raises BadInput where there are too
    many."""
    putting = insert(GearNote).values(id=note_id, at=at, note=note).on_conflict_do_nothing().returning(GearNote.id)
    made = session.scalar(putting) is not None
    if made:
        check_notes(session)
    found = session.get(GearNote, note_id)
    assert found is not None
    return found, made


def remove_note(session: Session, note_id: UUID) -> None:
    """Remove a note, so that it can be brought back. Raises NotFound."""
    note = session.get(GearNote, note_id)
    if note is None:
        raise NotFound("There is no such note.")
    note.deleted_at = datetime.now(UTC)


def restore_note(session: Session, note_id: UUID) -> GearNote:
    """Bring a removed note back. Raises NotFound, and BadInput where there are too many by now."""
    note = session.get(GearNote, note_id)
    if note is None:
        raise NotFound("There is no such note.")
    note.deleted_at = None
    check_notes(session)
    return note
