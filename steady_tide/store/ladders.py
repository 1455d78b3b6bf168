"""Ladders, what was said of their frames, and one's own numbers, kept."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from datetime import UTC, datetime
from typing import Any
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadInput, Fault, NotFound
from steady_tide.store import kit
from steady_tide.store.tables import LadderAnswer, LadderKept, OwnEdition, OwnNumberKept


def list_ladders(session: Session, shot_id: UUID | None = None) -> Sequence[LadderKept]:
    """Ladders that are not removed, the newest first. shot_id: of this shot only."""
    query = select(LadderKept).where(LadderKept.deleted_at.is_(None))
    if shot_id is not None:
        query = query.where(LadderKept.shot_id == shot_id)
    return session.scalars(query.order_by(LadderKept.made_at.desc(), LadderKept.id)).all()


def get_ladder(session: Session, ladder_id: UUID) -> LadderKept:
    """One ladder. Raises NotFound."""
    ladder = session.get(LadderKept, ladder_id)
    if ladder is None or ladder.deleted_at is not None:
        raise NotFound("There is no such ladder any more. It may have been removed.")
    return ladder


def add_ladder(session: Session, shot_id: UUID, title: str, ladder: dict[str, Any]) -> LadderKept:
    """Keep a new ladder. Returns it. Raises BadInput where there are too many."""
    made = LadderKept(shot_id=shot_id, title=title, ladder=ladder)
    session.add(made)
    check_ladders(session)
    return made


def check_ladders(session: Session) -> None:
    """Raise BadInput where there are more ladders than can be sent out and read again. Asked after whatever adds some."""
    session.flush()
    if len(list_ladders(session)) > sizes.LADDERS:
        raise BadInput(Fault("ladders", f"are {sizes.LADDERS} at most", "Remove those that are settled."))


def remove_ladder(session: Session, ladder_id: UUID) -> None:
    """Remove a ladder, so that it can be brought back. Raises NotFound."""
    get_ladder(session, ladder_id).deleted_at = datetime.now(UTC)


def restore_ladder(session: Session, ladder_id: UUID) -> LadderKept:
    """Bring a removed ladder back. Raises NotFound, and BadInput where there are too many by now."""
    ladder = session.get(LadderKept, ladder_id)
    if ladder is None:
        raise NotFound("There is no such ladder.")
    ladder.deleted_at = None
    check_ladders(session)
    return ladder


def answers_of(session: Session, ladder_ids: Collection[UUID]) -> dict[UUID, list[LadderAnswer]]:
    """What was said of some ladders, by ladder, the oldest first."""
    found: dict[UUID, list[LadderAnswer]] = {ladder_id: [] for ladder_id in ladder_ids}
    query = select(LadderAnswer).where(LadderAnswer.ladder_id.in_(ladder_ids))
    for answer in session.scalars(query.order_by(LadderAnswer.at, LadderAnswer.id)):
        found[answer.ladder_id].append(answer)
    return found


def put_answer(session: Session, ladder_id: UUID, answer_id: UUID, at: datetime, answer: dict[str, Any]) -> None:
    """Keep what somebody said under the id that it was said with: said twice, it counts once. Raises BadInput where there
    are too many."""
    if len(answers_of(session, [ladder_id])[ladder_id]) >= sizes.ANSWERS:
        raise BadInput(
            Fault("answers", f"are {sizes.ANSWERS} at most on one ladder", "Take some back, or film another ladder.")
        )
    putting = insert(LadderAnswer).values(id=answer_id, ladder_id=ladder_id, at=at, answer=answer)
    session.execute(putting.on_conflict_do_nothing())


def take_answer_back(session: Session, ladder_id: UUID, answer_id: UUID) -> None:
    """Forget what somebody said. Raises NotFound."""
    answer = session.get(LadderAnswer, answer_id)
    if answer is None or answer.ladder_id != ladder_id:
        raise NotFound("That was not said of this ladder, or was taken back.")
    session.delete(answer)
    session.flush()


def list_own(session: Session) -> dict[str, OwnNumberKept]:
    """Own numbers that were switched on once, by their keys."""
    return {row.key: row for row in session.scalars(select(OwnNumberKept))}


def switched_on(session: Session) -> list[dict[str, Any]]:
    """The own numbers that are switched on, in the editions that count, with those."""
    rows = session.execute(
        select(OwnEdition.number, OwnEdition.edition)
        .join(OwnNumberKept, OwnNumberKept.key == OwnEdition.key)
        .where(OwnNumberKept.switched_on, OwnNumberKept.edition == OwnEdition.edition)
        .order_by(OwnNumberKept.key)
    )
    return [{**number, "edition": edition} for number, edition in rows]


def own_edition(session: Session, key: str, edition: int) -> dict[str, Any] | None:
    """An own number in one edition. Returns None where it was never kept."""
    row = session.get(OwnEdition, (key, edition))
    return None if row is None else {**row.number, "edition": row.edition}


def list_own_editions(session: Session) -> dict[str, list[OwnEdition]]:
    """All editions of all own numbers, by key, the first one first."""
    found: dict[str, list[OwnEdition]] = {}
    for row in session.scalars(select(OwnEdition).order_by(OwnEdition.key, OwnEdition.edition)):
        found.setdefault(row.key, []).append(row)
    return found


def switch(session: Session, key: str, on: bool, number: dict[str, Any] | None) -> OwnNumberKept:
    """Switch an own number on or off. number: to be taken over, as a new edition where it differs from the one that counts; None
    keeps that. Returns it. Raises NotFound where there is nothing to switch."""
    row = session.get(OwnNumberKept, key, with_for_update=True)
    if row is None:
        if number is None:
            raise NotFound(f"There is no own number {key}. It needs three readings first.")
        session.execute(insert(OwnNumberKept).values(key=key, switched_on=on, edition=0).on_conflict_do_nothing())
        row = session.get(OwnNumberKept, key, with_for_update=True, populate_existing=True)
        assert row is not None
    if number is not None:
        counts = session.get(OwnEdition, (key, row.edition))
        if counts is None or counts.number != number:
            row.edition += 1
            session.add(OwnEdition(key=key, edition=row.edition, number=number))
    row.switched_on = on
    session.flush()
    kit.changed(session)  # plans are made of it
    return row
