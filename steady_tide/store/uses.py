"""Uses of one's own, what is chosen of the shelf, and what was set up on cameras; kept."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, datetime
from typing import Any

from sqlalchemy import func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadInput, Fault, NotFound
from steady_tide.store.tables import SetUp, UseKept


def list_uses(session: Session) -> Sequence[UseKept]:
    """Everything that is kept about uses, the oldest first."""
    query = select(UseKept).where(UseKept.deleted_at.is_(None)).order_by(UseKept.made_at, UseKept.id)
    return session.scalars(query).all()


def get_own(session: Session, use_id: str) -> UseKept:
    """A use of one's own. Raises NotFound."""
    row = session.get(UseKept, use_id)
    if row is None or row.use is None or row.deleted_at is not None:
        raise NotFound(f"There is no use '{use_id[:60]}' of your own. It may have been removed.")
    return row


def add_own(session: Session, use_id: str, use: dict[str, Any], per_year: float) -> UseKept:
    """Keep a use of one's own. Returns it. Raises BadInput where there are too many."""
    row = UseKept(id=use_id, use=use, chosen=True, per_year=per_year, stamps={})
    session.add(row)
    check_uses(session)
    return row


def check_uses(session: Session) -> None:
    """Raise BadInput where there are more uses of one's own than can be sent out and read again."""
    session.flush()
    here = session.scalar(select(func.count()).where(UseKept.use.is_not(None), UseKept.deleted_at.is_(None))) or 0
    if here > sizes.USES:
        fault = f"there would be {here} of your own, and there may be {sizes.USES}"
        raise BadInput(Fault("uses", fault, "Remove one first."))


def said_of(session: Session, use_id: str) -> UseKept:
    """What is said of a use, held until the end of the unit of work; made where nothing was said of it yet."""
    session.execute(insert(UseKept).values(id=use_id, use=None, chosen=False).on_conflict_do_nothing())
    row = session.scalar(select(UseKept).where(UseKept.id == use_id).with_for_update())
    assert row is not None
    return row


def remove_own(session: Session, use_id: str) -> None:
    """Remove a use of one's own, so that it can be brought back. Raises NotFound."""
    get_own(session, use_id).deleted_at = datetime.now(UTC)


def restore_own(session: Session, use_id: str) -> UseKept:
    """Bring a removed use back. Raises NotFound, and BadInput where there are too many by now."""
    row = session.get(UseKept, use_id)
    if row is None or row.use is None:
        raise NotFound(f"There is no use '{use_id[:60]}' of your own.")
    row.deleted_at = None
    check_uses(session)
    return row


def was_removed(session: Session, use_id: str) -> bool:
    """Whether a use of one's own was removed, and can be brought back."""
    row = session.get(UseKept, use_id)
    return row is not None and row.use is not None and row.deleted_at is not None


def set_up_of(session: Session, camera: str) -> SetUp | None:
    """What was ticked and named on a camera. Returns None where nothing was."""
    return session.get(SetUp, camera)


def list_set_ups(session: Session) -> Sequence[SetUp]:
    """What was ticked and named on all cameras, by camera."""
    return session.scalars(select(SetUp).order_by(SetUp.camera_id)).all()


def note_set_up(
    session: Session, camera: str, ticks: dict[str, bool], names: dict[str, str | None], checked: bool
) -> SetUp:
    """Add ticks and names of presets to what is known of a camera's set-up; the last word on each counts. checked: whether it was gone through
    today. Returns it. Raises BadInput where there are too many."""
    session.execute(insert(SetUp).values(camera_id=camera).on_conflict_do_nothing())
    row = session.scalar(select(SetUp).where(SetUp.camera_id == camera).with_for_update())
    assert row is not None
    row.ticks = {name: on for name, on in {**row.ticks, **ticks}.items() if on}
    row.names = {use: said for use, said in {**row.names, **names}.items() if said}
    for what, kept in (("ticks", row.ticks), ("names", row.names)):
        if len(kept) > sizes.TICKS * 3:
            raise BadInput(Fault(what, f"would be more than {sizes.TICKS * 3}", "Take some back first."))
    if checked:
        row.checked_at = datetime.now(UTC)
    session.flush()
    return row
