"""Stills of one's own that stand as scenes: found by the name that a request gives."""

from __future__ import annotations

from uuid import UUID

from sqlalchemy.orm import Session

from steady_tide.services.look_frames import OwnStill
from steady_tide.store.database import Database
from steady_tide.store.look_stills import get_still

LEAST_ID = 32  # characters of the id of a still


def own_still(session: Session, scene: str | None) -> OwnStill | None:
    """A still of one's own that a scene's name stands for. Returns None where it is one of ours. Raises NotFound."""
    try:
        still_id = UUID(scene or "")
    except ValueError:
        return None
    found = get_still(session, still_id)
    return OwnStill(str(found.id), found.name, found.picture, found.distance_m)


def own_still_in(database: Database, scene: str | None) -> OwnStill | None:
    """The same without a session at hand; most scenes need none, and are drawn while the database is away."""
    if scene is None or len(scene) < LEAST_ID:
        return None
    with database.session() as session:
        return own_still(session, scene)
