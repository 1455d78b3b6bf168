"""Films of a shoot, kept; and which shots are their framings."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from datetime import UTC, datetime
from typing import Any
from uuid import UUID

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadInput, Fault, NotFound
from steady_tide.store.merging import stamped
from steady_tide.store.shoots import get_shoot
from steady_tide.store.tables import FilmKept, Shot, TakeKept


def list_films(session: Session, shoot_id: UUID) -> Sequence[FilmKept]:
    """The films of a shoot, the oldest first. Raises NotFound."""
    get_shoot(session, shoot_id)
    query = select(FilmKept).where(FilmKept.shoot_id == shoot_id, FilmKept.deleted_at.is_(None))
    return session.scalars(query.order_by(FilmKept.made_at, FilmKept.id)).all()


def get_film(session: Session, film_id: UUID) -> FilmKept:
    """One film. Raises NotFound."""
    film = session.get(FilmKept, film_id)
    if film is None or film.deleted_at is not None:
        raise NotFound(f"There is no film {film_id}. It may have been removed.")
    return film


def locked_film(session: Session, film_id: UUID) -> FilmKept:
    """One film, held until the end of the unit of work, as it is now. Raises NotFound."""
    query = select(FilmKept).where(FilmKept.id == film_id, FilmKept.deleted_at.is_(None)).with_for_update()
    film = session.scalar(query.execution_options(populate_existing=True))
    if film is None:
        raise NotFound(f"There is no film {film_id}. It may have been removed.")
    return film


def add_film(session: Session, shoot_id: UUID, film: dict[str, Any]) -> FilmKept:
    """Keep a new film of a shoot. film: as JSON. Returns it. Raises NotFound, and BadInput where there are too many."""
    _has_room(session, shoot_id)
    kept = FilmKept(shoot_id=shoot_id, film=film, stamps={})
    session.add(kept)
    session.flush()
    return kept


def _has_room(session: Session, shoot_id: UUID) -> None:
    here = len(list_films(session, shoot_id))
    if here >= sizes.FILMS:
        raise BadInput(
            Fault(
                "the shoot",
                f"holds {here} films, and takes {sizes.FILMS} at most",
                "Remove one before you add another, or bring one back.",
            )
        )


def remove_film(session: Session, film_id: UUID) -> None:
    """Remove a film, so that it can be brought back; its shots stay in the day. Raises NotFound."""
    get_film(session, film_id).deleted_at = datetime.now(UTC)


def restore_film(session: Session, film_id: UUID) -> FilmKept:
    """Bring a removed film back. Raises NotFound, and BadInput where there are too many by now."""
    film = session.get(FilmKept, film_id)
    if film is None:
        raise NotFound(f"There is no film {film_id}.")
    if film.deleted_at is not None:
        _has_room(session, film.shoot_id)
    film.deleted_at = None
    session.flush()
    return film


def framings_of(session: Session, film_id: UUID) -> Sequence[Shot]:
    """The shots that are framings of a film, with their plans."""
    query = select(Shot).where(Shot.framing["film"].astext == str(film_id), Shot.deleted_at.is_(None))
    return session.scalars(query.order_by(Shot.position)).all()


def keep_framing(session: Session, shot: Shot, framing: dict[str, Any] | None) -> Shot:
    """Keep what a shot is in a film; what moved is stamped. shot: held; framing: None where it is in none. Returns it."""
    before, after = (
        {f"framing.{name}": value for name, value in (one or {}).items()} for one in (shot.framing, framing)
    )
    shot.framing, shot.stamps = framing, stamped(before, after, shot.stamps or {})
    session.flush()
    return shot


def counted_takes(session: Session, shot_ids: Collection[UUID]) -> dict[UUID, dict[str, int]]:
    """How many takes of each shot there are, by rating; unrated ones under "unrated". Takes of ladders count, too."""
    rating = func.coalesce(TakeKept.said["rating"].astext, "unrated")
    query = (
        select(TakeKept.shot_id, rating, func.count())
        .where(TakeKept.shot_id.in_(shot_ids), TakeKept.deleted_at.is_(None))
        .group_by(TakeKept.shot_id, rating)
    )
    found: dict[UUID, dict[str, int]] = {}
    for shot_id, rated, number in session.execute(query):
        found.setdefault(shot_id, {})[rated] = number
    return found
