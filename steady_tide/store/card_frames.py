"""Frames that stand on the cards of shots."""

from __future__ import annotations

from collections.abc import Sequence
from uuid import UUID

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from steady_tide.core.quantities.errors import NotFound
from steady_tide.store.tables import CardFrame


def frames_of(session: Session, shots: Sequence[UUID]) -> dict[UUID, list[CardFrame]]:
    """Frames on the cards of some shots, in their order."""
    found: dict[UUID, list[CardFrame]] = {shot: [] for shot in shots}
    wanted = select(CardFrame).where(CardFrame.shot_id.in_(shots)).order_by(CardFrame.shot_id, CardFrame.position)
    for frame in session.scalars(wanted):
        found[frame.shot_id].append(frame)
    return found


def get_frame(session: Session, shot_id: UUID, position: int) -> CardFrame:
    """One of them. Raises NotFound."""
    found = session.get(CardFrame, (shot_id, position))
    if found is None:
        raise NotFound("There is no such frame on this card any more.")
    return found


def put_frames(session: Session, shot_id: UUID, frames: Sequence[tuple[str, str, bytes]]) -> None:
    """Put frames on a card in place of those that are there. frames: name, what it says, and picture of each."""
    session.execute(delete(CardFrame).where(CardFrame.shot_id == shot_id))
    for position, (name, says, picture) in enumerate(frames):
        session.add(CardFrame(shot_id=shot_id, position=position, name=name, says=says, picture=picture))
    session.flush()
