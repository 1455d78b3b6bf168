"""Shoots and their crews, kept."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, datetime
from typing import Any
from uuid import UUID

from sqlalchemy import func, select, text
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from steady_tide.core.brief.brief import School
from steady_tide.core.quantities.errors import NotFound
from steady_tide.store.tables import Crew, Mark, Shoot, Shot

# Held while the crew's way changes, so that two first changes do not make two crews.
_CREW_LOCK = 6_120_707


def list_shoots(session: Session) -> Sequence[tuple[Shoot, int]]:
    """All shoots by day, the undated last, each with the count of its shots."""
    count = (
        select(func.count())
        .where(Shot.shoot_id == Shoot.id, Shot.deleted_at.is_(None))
        .correlate(Shoot)
        .scalar_subquery()
    )
    rows = session.execute(
        select(Shoot, count).where(Shoot.deleted_at.is_(None)).order_by(Shoot.day.asc().nulls_last(), Shoot.created_at)
    )
    return [(shoot, shots) for shoot, shots in rows]


def get_shoot(session: Session, shoot_id: UUID) -> Shoot:
    """One shoot. Raises NotFound."""
    shoot = session.get(Shoot, shoot_id)
    if shoot is None or shoot.deleted_at is not None:
        raise NotFound(f"There is no shoot {shoot_id}. It may have been removed.")
    return shoot


def add_shoot(session: Session, fields: dict[str, Any]) -> Shoot:
    """Keep a new shoot. fields: columns by name. Returns it."""
    shoot = Shoot(**fields)
    session.add(shoot)
    session.flush()
    return shoot


def locked_shoot(session: Session, shoot_id: UUID) -> Shoot:
    """One shoot, held until the end of the unit of work, as it is now. Raises NotFound."""
    query = select(Shoot).where(Shoot.id == shoot_id, Shoot.deleted_at.is_(None)).with_for_update()
    shoot = session.scalar(query.execution_options(populate_existing=True))
    if shoot is None:
        raise NotFound(f"There is no shoot {shoot_id}. It may have been removed.")
    return shoot


def remove_shoot(session: Session, shoot_id: UUID) -> None:
    """Remove a shoot, so that it can be brought back. Raises NotFound."""
    get_shoot(session, shoot_id).deleted_at = datetime.now(UTC)


def restore_shoot(session: Session, shoot_id: UUID) -> Shoot:
    """Bring a removed shoot back. Raises NotFound."""
    shoot = session.get(Shoot, shoot_id)
    if shoot is None:
        raise NotFound(f"There is no shoot {shoot_id}.")
    shoot.deleted_at = None
    session.flush()
    return shoot


def add_crew(session: Session, name: str, people: list[str], school: dict[str, Any]) -> Crew:
    """Keep a new crew. Returns it."""
    crew = Crew(name=name, people=people, school=school)
    session.add(crew)
    session.flush()
    return crew


def crew_of(session: Session, shoot: Shoot) -> Crew | None:
    """The crew of a shoot, if it has one."""
    return None if shoot.crew_id is None else session.get(Crew, shoot.crew_id)


def crew_named(session: Session, name: str) -> Crew | None:
    """The crew of a name, if there is one."""
    return session.scalar(select(Crew).where(Crew.name == name).order_by(Crew.id).limit(1))


def first_crew(session: Session) -> Crew | None:
    """The crew that works here. Returns None where none is known yet."""
    return session.scalar(select(Crew).order_by(Crew.name, Crew.id).limit(1))


def crew_school(session: Session) -> School:
    """The crew's way of working; nothing of it is said where there is no crew."""
    crew = first_crew(session)
    return School() if crew is None else School.model_validate(crew.school)


def locked_crew(session: Session) -> Crew:
    """The crew that works here, held until the end of the unit of work; a new one where there was none."""
    session.execute(text("select pg_advisory_xact_lock(:key)"), {"key": _CREW_LOCK})
    crew = first_crew(session)
    if crew is None:
        return add_crew(session, "The crew", [], {})
    session.refresh(crew, with_for_update=True)
    return crew


def mark_once(session: Session, key: str, value: str) -> bool:
    """Set a mark. Returns False where it was set already; of two services that set it at once one waits for the other."""
    setting = insert(Mark).values(key=key, value=value).on_conflict_do_nothing().returning(Mark.key)
    return session.scalar(setting) is not None
