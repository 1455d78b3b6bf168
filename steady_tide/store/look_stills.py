"""Stills of one's own, kept small, to stand as scenes."""

from __future__ import annotations

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import func, select
from sqlalchemy.orm import Session, defer

from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadFile, Fault, NotFound
from steady_tide.store.tables import LookStill


def list_stills(session: Session) -> Sequence[LookStill]:
    """All stills, the newest first, without their pictures."""
    return session.scalars(select(LookStill).options(defer(LookStill.picture)).order_by(LookStill.made_at.desc())).all()


def get_still(session: Session, still_id: UUID) -> LookStill:
    """One of them. Raises NotFound."""
    found = session.get(LookStill, still_id)
    if found is None:
        raise NotFound("There is no such still any more. Choose another scene, or hand it over again.")
    return found


def add_still(session: Session, name: str, distance_m: float, picture: bytes) -> LookStill:
    """Keep a still. Raises BadFile where it is too large even made smaller, or there are too many."""
    if len(picture) > sizes.STILL_KEPT:
        raise BadFile(Fault(name, "is too large even made smaller", "Take one with less noise."))
    if (session.scalar(select(func.count()).select_from(LookStill)) or 0) >= sizes.STILLS:
        raise BadFile(Fault(name, f"would be one more than {sizes.STILLS} stills", "Take another one off first."))
    made = LookStill(name=name, distance_m=distance_m, picture=picture)
    session.add(made)
    session.flush()
    return made


def delete_still(session: Session, still_id: UUID) -> None:
    """Take a still off. Raises NotFound."""
    session.delete(get_still(session, still_id))
