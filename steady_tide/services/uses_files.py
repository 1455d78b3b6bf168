"""Usual uses out to a file, and in from one: what is said here already stays."""

from __future__ import annotations

from pydantic import BaseModel
from sqlalchemy.orm import Session

from steady_tide import library
from steady_tide.core.uses.uses_file import SetUpEntry, UseEntry, UsesFile
from steady_tide.store import uses as store


class UsesTaken(BaseModel):
    """What was taken in. own: uses of one's own; said: of the shelf, chosen or with how often; set_ups: cameras; here: uses that were here already."""

    own: int
    said: int
    set_ups: int
    here: int


def uses_file_of(session: Session) -> UsesFile:
    """Usual uses and set-ups, as they are kept."""
    return UsesFile(
        format="steady-tide/uses",
        version=1,
        uses=tuple(
            UseEntry(id=row.id, use=row.use, chosen=row.chosen, per_year=row.per_year)
            for row in store.list_uses(session)
        ),
        set_ups=tuple(
            SetUpEntry(camera=row.camera_id, ticks=row.ticks, names=row.names, checked_at=row.checked_at)
            for row in store.list_set_ups(session)
        ),
    )


def take_in_uses(session: Session, uses: UsesFile) -> UsesTaken:
    """Take uses in. uses: of a file. Returns what was new: a use of one's own that is here, or was removed here and comes back, keeps its own words. Raises BadInput where there are too many."""
    shelf, there = library.uses(), {row.id: row for row in store.list_uses(session)}
    own = said = here = 0
    for entry in uses.uses:
        row, use = there.get(entry.id), entry.read()
        if use is not None and entry.id not in shelf:
            if row is not None and row.use is not None:
                here += 1
            elif store.was_removed(session, entry.id):
                store.restore_own(session, entry.id)
                own += 1
            else:
                made = store.add_own(
                    session, entry.id, use.model_dump(mode="json", exclude={"id", "per_year"}), use.per_year
                )
                made.chosen = entry.chosen
                own += 1
        elif entry.id in shelf and (entry.chosen or entry.per_year is not None):
            if row is not None and (row.chosen or row.per_year is not None):
                here += 1
            else:
                kept = store.said_of(session, entry.id)
                kept.chosen, kept.per_year = entry.chosen, entry.per_year
                said += 1
    set_ups = 0
    for one in uses.set_ups:
        before = store.set_up_of(session, one.camera)
        ticks: dict[str, bool] = {
            name: on for name, on in one.ticks.items() if on and (before is None or name not in before.ticks)
        }
        names: dict[str, str | None] = {
            use_id: name for use_id, name in one.names.items() if before is None or use_id not in before.names
        }
        if ticks or names:
            kept_up = store.note_set_up(session, one.camera, ticks, names, checked=False)
            kept_up.checked_at = kept_up.checked_at or one.checked_at
            set_ups += 1
    session.flush()
    return UsesTaken(own=own, said=said, set_ups=set_ups, here=here)
