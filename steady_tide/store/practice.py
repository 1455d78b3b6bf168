"""What practice remembers, kept."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, datetime
from typing import Any
from uuid import UUID

from sqlalchemy import delete, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from steady_tide.store.tables import PracticeKept


def remembered(session: Session) -> Sequence[PracticeKept]:
    """Everything that is remembered, by topic."""
    return session.scalars(select(PracticeKept).order_by(PracticeKept.topic)).all()


def held_topic(session: Session, topic: str) -> PracticeKept:
    """What is remembered of a topic, held until the end of the unit of work; new, with nothing in it, where nothing was."""
    session.execute(insert(PracticeKept).values(topic=topic, entry={}, times=0).on_conflict_do_nothing())
    row = session.scalar(select(PracticeKept).where(PracticeKept.topic == topic).with_for_update())
    assert row is not None
    return row


def keep_entry(session: Session, row: PracticeKept, entry: dict[str, Any], answer: UUID) -> None:
    """Keep how a topic went. row: held; entry: as practice remembers it; answer: id of the answer."""
    row.entry, row.answer, row.times, row.answered_at = entry, answer, row.times + 1, datetime.now(UTC)
    session.flush()


def forget_all(session: Session) -> None:
    """Begin practice anew."""
    session.execute(delete(PracticeKept))
