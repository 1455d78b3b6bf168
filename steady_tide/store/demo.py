"""What came with the program, put away together and brought back."""

from __future__ import annotations

import json
from datetime import UTC, datetime

from sqlalchemy import delete, func, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from steady_tide.core.quantities.errors import NotFound
from steady_tide.store.ladders import check_ladders
from steady_tide.store.tables import Clip, Crew, GearNote, LadderKept, Mark, RushFolder, Shoot, Shot, TakeKept
from steady_tide.store.takes import check_notes, check_takes

LEFT = "demo-left"
PUT_AWAY = (Shoot, TakeKept, LadderKept, GearNote)


def demo_shoots(session: Session) -> int:
    """How many shoots of the demo are there."""
    return session.scalar(select(func.count()).where(Shoot.demo, Shoot.deleted_at.is_(None))) or 0


def left_demo(session: Session) -> bool:
    """Whether the demo was left, and can be brought back."""
    return session.get(Mark, LEFT) is not None


def leave_demo(session: Session) -> None:
    """Put away the demo's shoots with all that is in them, their takes, ladders and notes, and its crew's names; its clips are taken off. Raises NotFound where it is not there."""
    if demo_shoots(session) == 0:
        raise NotFound("There is no demo here any more. It may have been left before.")
    at = datetime.now(UTC)
    shots = select(Shot.id).join(Shoot, Shoot.id == Shot.shoot_id).where(Shoot.demo, Shoot.deleted_at.is_(None))
    clips = select(Clip.id).join(RushFolder, RushFolder.id == Clip.folder_id).where(RushFolder.demo)
    # What was measured in the demo's clips is measured again when they come back.
    session.execute(delete(TakeKept).where(TakeKept.clip_id.in_(clips)))
    for table, there in (
        (TakeKept, TakeKept.shot_id.in_(shots)), (LadderKept, LadderKept.shot_id.in_(shots)), (GearNote, GearNote.demo),
        (Shoot, Shoot.demo),
    ):  # fmt: skip
        session.execute(update(table).where(there, table.deleted_at.is_(None)).values(deleted_at=at))
    paths = session.scalars(select(RushFolder.path).where(RushFolder.demo)).all()
    session.execute(delete(RushFolder).where(RushFolder.demo))
    crews = session.scalars(select(Crew).where(Crew.id.in_(select(Shoot.crew_id).where(Shoot.demo)))).all()
    names = {str(crew.id): [crew.name, crew.people] for crew in crews}
    for crew in crews:
        crew.name, crew.people = "The crew", []
    said = json.dumps({"at": at.isoformat(), "folders": list(paths), "crews": names})
    session.execute(insert(Mark).values(key=LEFT, value=said).on_conflict_do_nothing())
    session.flush()


def return_demo(session: Session) -> list[str]:
    """Bring back what was put away with the demo. Returns the folders of its clips, which are to be looked into again. Raises NotFound where it was not left."""
    mark = session.scalar(select(Mark).where(Mark.key == LEFT).with_for_update())
    if mark is None:
        raise NotFound("The demo was not left, so that there is nothing to bring back.")
    said = json.loads(mark.value)
    for table in PUT_AWAY:
        session.execute(
            update(table).where(table.deleted_at == datetime.fromisoformat(said["at"])).values(deleted_at=None)
        )
    for crew in session.scalars(select(Crew)):
        if str(crew.id) in said["crews"]:
            crew.name, crew.people = said["crews"][str(crew.id)]
    session.delete(mark)
    check_takes(session)
    check_notes(session)
    check_ladders(session)
    return list(said["folders"])
