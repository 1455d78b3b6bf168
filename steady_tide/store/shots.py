"""Shots, kept with brief and plan."""

from __future__ import annotations

import json
from collections.abc import Collection, Mapping, Sequence
from datetime import UTC, datetime
from typing import Any
from uuid import UUID

from sqlalchemy import func, select, type_coerce
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Session, defer

from steady_tide.core.brief.fields import flat_fields
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadInput, Fault, NotFound
from steady_tide.store.merging import stamped
from steady_tide.store.shoots import get_shoot
from steady_tide.store.tables import Shoot, Shot


def list_shots(session: Session, shoot_id: UUID) -> Sequence[Shot]:
    """The shots of a shoot in their order, without their whole plans. Raises NotFound."""
    get_shoot(session, shoot_id)
    query = select(Shot).options(defer(Shot.plan)).where(Shot.shoot_id == shoot_id, Shot.deleted_at.is_(None))
    return session.scalars(query.order_by(Shot.starts_at.asc().nulls_last(), Shot.position)).all()


def page_of(session: Session, shoot_id: UUID, offset: int, limit: int) -> tuple[Sequence[Shot], int]:
    """Some of the shots of a shoot in their order, without briefs and plans, and how many there are. Raises NotFound."""
    get_shoot(session, shoot_id)
    there = (Shot.shoot_id == shoot_id, Shot.deleted_at.is_(None))
    total = session.scalar(select(func.count()).select_from(Shot).where(*there)) or 0
    query = select(Shot).options(defer(Shot.plan), defer(Shot.brief)).where(*there)
    query = query.order_by(Shot.starts_at.asc().nulls_last(), Shot.position).offset(offset).limit(limit)
    return session.scalars(query).all(), total


def list_planned(session: Session, shoot_id: UUID) -> Sequence[Shot]:
    """The shots of a shoot in their order, with their plans. Raises NotFound."""
    get_shoot(session, shoot_id)
    query = select(Shot).where(Shot.shoot_id == shoot_id, Shot.deleted_at.is_(None))
    return session.scalars(query.order_by(Shot.starts_at.asc().nulls_last(), Shot.position)).all()


def list_all(session: Session) -> Sequence[Shot]:
    """Every shot that is not removed, without its brief and its plan."""
    query = select(Shot).options(defer(Shot.plan), defer(Shot.brief)).where(Shot.deleted_at.is_(None))
    return session.scalars(query.order_by(Shot.shoot_id, Shot.position)).all()


def planned_between(session: Session, start: datetime | None, end: datetime | None, most: int) -> list[Any]:
    """What matching needs of planned shots that begin in a span; of the latest ones where it is left out.

    most: how many. Returns id, start, take, camera and settings of each: a whole plan is a hundred times as large.
    """
    brief, plan = type_coerce(Shot.brief, JSONB), type_coerce(Shot.plan, JSONB)
    query = (
        select(Shot.id, Shot.starts_at, brief["take"], plan["camera"], plan["settings"])
        .join(Shoot, Shoot.id == Shot.shoot_id)
        # A shot that no camera can film keeps no plan, which is a null within JSON.
        .where(Shot.deleted_at.is_(None), Shoot.deleted_at.is_(None), func.jsonb_typeof(Shot.plan) == "object")
    )
    if start is not None and end is not None:
        query = query.where(Shot.starts_at.between(start, end))
    return [tuple(row) for row in session.execute(query.order_by(Shot.starts_at.desc().nulls_last()).limit(most))]


def names_of(session: Session, shot_ids: Collection[UUID]) -> list[tuple[UUID, str, str, UUID]]:
    """Titles of some shots with the titles and ids of their shoots, removed ones among them."""
    rows = session.execute(
        select(Shot.id, Shot.brief["title"].astext, Shoot.title, Shoot.id)
        .join(Shoot, Shoot.id == Shot.shoot_id)
        .where(Shot.id.in_(shot_ids))
    )
    return [(shot_id, title or "", shoot, shoot_id) for shot_id, title, shoot, shoot_id in rows]


def find(session: Session, shot_id: UUID) -> Shot | None:
    """One shot as it is now. Returns None where it is gone."""
    return session.scalar(select(Shot).where(Shot.id == shot_id, Shot.deleted_at.is_(None)))


def find_locked(session: Session, shot_id: UUID) -> Shot | None:
    """One shot, held until the end of the unit of work. Returns None where it is gone."""
    query = select(Shot).where(Shot.id == shot_id, Shot.deleted_at.is_(None)).with_for_update(skip_locked=True)
    return session.scalar(query)


def get_shot(session: Session, shot_id: UUID) -> Shot:
    """One shot with its plan. Raises NotFound."""
    shot = session.get(Shot, shot_id)
    if shot is None or shot.deleted_at is not None:
        raise NotFound(f"There is no shot {shot_id}. It may have been removed.")
    return shot


def add_shot(session: Session, shoot_id: UUID, fields: dict[str, Any]) -> Shot:
    """Keep a new shot at the end of a shoot. fields, raises: as in add_shots. Returns it."""
    return add_shots(session, shoot_id, [fields])[0]


def add_shots(session: Session, shoot_id: UUID, all_fields: Sequence[dict[str, Any]]) -> Sequence[Shot]:
    """Keep new shots at the end of a shoot.

    all_fields: columns by name, of each. Returns them. Raises NotFound, and BadInput where the shoot or a shot would
    be too large to be sent out and read again.
    """
    get_shoot(session, shoot_id)
    _has_room(session, shoot_id, len(all_fields))
    last = session.scalar(select(func.max(Shot.position)).where(Shot.shoot_id == shoot_id)) or 0
    made = [
        Shot(shoot_id=shoot_id, position=last + number, **fields) for number, fields in enumerate(all_fields, start=1)
    ]
    for shot in made:
        _fits(shot)
    session.add_all(made)
    session.flush()
    return made


def _has_room(session: Session, shoot_id: UUID, more: int) -> None:
    here = session.scalar(
        select(func.count()).select_from(Shot).where(Shot.shoot_id == shoot_id, Shot.deleted_at.is_(None))
    )
    if (here or 0) + more > sizes.SHOTS:
        raise BadInput(
            Fault(
                "the shoot",
                f"holds {here} shots, and takes {sizes.SHOTS} at most",
                "Make another shoot for the rest.",
            )
        )


def _fits(shot: Shot) -> None:
    """Raise BadInput where a shot is larger than a shoot's file takes it back."""
    said = [shot.brief, shot.wishes or {}, shot.ticks or {}, shot.really_set or {}, shot.recipes or []]
    size = len(json.dumps(said, ensure_ascii=False).encode())
    if size > sizes.SHOT:
        raise BadInput(
            Fault(
                "the shot",
                f"takes {size / sizes.KB:.0f} kB, and a shot may take {sizes.SHOT // sizes.KB}",
                "Shorten its pins, lamps, lists or words.",
            )
        )
    for name, most in (("ticks", sizes.TICKS), ("really_set", sizes.REALLY_SET)):
        if len(getattr(shot, name) or {}) > most:
            raise BadInput(Fault(name, f"would be more than {most}", "Take some back before you add others."))


def locked_shot(session: Session, shot_id: UUID) -> Shot:
    """One shot, held until the end of the unit of work, as it is now. Raises NotFound."""
    query = select(Shot).where(Shot.id == shot_id, Shot.deleted_at.is_(None)).with_for_update()
    shot = session.scalar(query.execution_options(populate_existing=True))
    if shot is None:
        raise NotFound(f"There is no shot {shot_id}. It may have been removed.")
    return shot


def put_shot(session: Session, shot: Shot, fields: dict[str, Any]) -> Shot:
    """Keep a shot as it was changed; what moved of its brief and its start is stamped.

    shot: held; fields: columns by name. Returns it. Raises BadInput where it would be too large.
    """
    before = shot_fields(shot.brief, shot.starts_at)
    for name, value in fields.items():
        setattr(shot, name, value)
    shot.stamps = stamped(before, shot_fields(shot.brief, shot.starts_at), shot.stamps or {})
    _fits(shot)
    session.flush()
    return shot


def shot_fields(brief: Mapping[str, Any], starts_at: datetime | None) -> dict[str, Any]:
    """The fields of a shot by which changes are merged. brief: as kept; starts_at: its start. Returns them, flat."""
    return {"starts_at": None if starts_at is None else starts_at.astimezone(UTC).isoformat(), **flat_fields(brief)}


def keep_wishes(session: Session, shot: Shot, wishes: dict[str, Any], stamps: dict[str, Any]) -> Shot:
    """Keep what a shot asks of the order of the day. shot: held. Returns it."""
    shot.wishes, shot.stamps = wishes, stamps
    _fits(shot)
    session.flush()
    return shot


def keep_recipes(session: Session, shot: Shot, recipes: list[dict[str, Any]]) -> Shot:
    """Keep the other ways to film a shot. shot: held. Returns it."""
    shot.recipes = recipes
    _fits(shot)
    session.flush()
    return shot


def note_outside(session: Session, shot_id: UUID, ticks: dict[str, bool], really_set: dict[str, str | None]) -> Shot:
    """Add what was ticked and set outside to what is known; the last word on each counts.

    ticks: by check; really_set: by dial, None takes a word back. Returns the shot. Raises NotFound.
    """
    shot = locked_shot(session, shot_id)
    shot.ticks = {name: on for name, on in {**shot.ticks, **ticks}.items() if on}
    shot.really_set = {dial: said for dial, said in {**shot.really_set, **really_set}.items() if said}
    _fits(shot)
    session.flush()
    return shot


def remove_shot(session: Session, shot_id: UUID) -> None:
    """Remove a shot, so that it can be brought back. Raises NotFound."""
    get_shot(session, shot_id).deleted_at = datetime.now(UTC)


def restore_shot(session: Session, shot_id: UUID) -> Shot:
    """Bring a removed shot back. Raises NotFound."""
    shot = session.get(Shot, shot_id)
    if shot is None:
        raise NotFound(f"There is no shot {shot_id}.")
    if shot.deleted_at is not None:
        _has_room(session, shot.shoot_id, 1)
    shot.deleted_at = None
    session.flush()
    return shot
