"""The log as files, out and in."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC
from typing import Any
from uuid import UUID
from zoneinfo import ZoneInfo

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from steady_tide.core.log.log_file import AnswerEntry, LadderEntry, LogFile, NoteEntry, TakeEntry
from steady_tide.core.log.take import days_before
from steady_tide.core.own.applying import read_number
from steady_tide.formats.log_json import read_log_json
from steady_tide.formats.takes_csv import ListedTake, ReadTake, RowDoubt, read_takes_csv, write_takes_csv
from steady_tide.services.own_numbers import NOTE
from steady_tide.services.takes import TakeFacts
from steady_tide.store import ladders as store_ladders
from steady_tide.store import takes as store
from steady_tide.store.tables import GearNote, LadderAnswer, LadderKept, TakeKept

BY_FILE = "file"


def log_file_of(session: Session) -> LogFile:
    """The whole log as its file."""
    shots = store.shots_of_takes(session)

    def names(shot_id: UUID | None) -> dict[str, str]:
        told = shots.get(shot_id) if shot_id is not None else None
        return {"shoot": "", "shot": ""} if told is None else {"shoot": told["shoot"], "shot": told["title"]}

    takes = list(reversed(store.list_takes(session)))
    measured = store.measured_of(session, [row.id for row in takes])
    rows = store_ladders.list_ladders(session)
    answers = store_ladders.answers_of(session, [row.id for row in rows])
    return LogFile(
        format="steady-tide/log",
        version=1,
        takes=tuple(
            TakeEntry(
                id=row.id,
                **names(row.shot_id),
                said=row.said,
                measures=measured[row.id][0],
                planned=measured[row.id][1],
                ladder=row.ladder_id,
                rung=row.rung,
            )
            for row in takes
        ),
        ladders=tuple(
            LadderEntry(
                id=row.id,
                title=row.title[:120],
                **names(row.shot_id),
                ladder=row.ladder,
                answers=tuple(AnswerEntry(id=one.id, answer=one.answer) for one in answers[row.id]),
            )
            for row in rows
        ),
        notes=tuple(NoteEntry(id=row.id, note=NOTE.validate_python(row.note)) for row in store.list_notes(session)),
        own=tuple(read_number(number) for number in store_ladders.switched_on(session)),
    )


def takes_csv_of(session: Session, takes: Sequence[TakeFacts]) -> str:
    """Takes as CSV, the oldest first. takes: of any kind."""
    listed = [
        ListedTake(
            id=take.row.id,
            shoot="" if take.shot is None else take.shot.shoot,
            shot="" if take.shot is None else take.shot.title,
            number=take.number,
            zone=UTC if take.shot is None else ZoneInfo(take.shot.zone),
            said=take.seen.said,
            faults=tuple(take.seen.said.faults),
        )
        for take in reversed(takes)
    ]
    return write_takes_csv(listed)


@dataclass(frozen=True)
class LogRead:
    """What a file brings. fresh: takes that are not here yet; known: that are; doubts: row by row; passed_over: columns that say
    nothing to us; ladders, notes: not here yet."""

    fresh: int
    known: int
    ladders: int
    notes: int
    doubts: tuple[RowDoubt, ...]
    passed_over: tuple[str, ...]


def read_in(session: Session, data: bytes, source: str, zone: ZoneInfo, apply: bool) -> LogRead:
    """Take a file in, or only look what it would bring. data: JSON or CSV; source: its name; zone: for times that name none;
    apply: whether to keep it. What is here already stays as it is. Raises BadFile."""
    if data.lstrip()[:1] == b"{":
        return _json_in(session, read_log_json(data, source), apply)
    read = read_takes_csv(data, zone, source)
    finder = _Finder(session)
    doubts = list(read.doubts)
    rows = [_row_of(take, finder, doubts) for take in read.takes]
    fresh = _put(session, TakeKept, rows, apply)
    return LogRead(fresh, len(rows) - fresh, 0, 0, tuple(sorted(doubts, key=lambda one: one.row)), read.passed_over)


class _Finder:
    """Finds shots that were not removed by the titles of shoot and shot."""

    def __init__(self, session: Session) -> None:
        self.told = {shot_id: told for shot_id, told in store.shots_of_takes(session).items() if not told["gone"]}
        self._by_title: dict[tuple[str | None, str], list[UUID]] = defaultdict(list)
        for shot_id, told in self.told.items():
            for shoot in (told["shoot"].casefold(), None):
                self._by_title[(shoot, told["title"].casefold())].append(shot_id)

    def find(self, shoot: str, shot: str) -> UUID | None:
        """The only shot of these titles, in any shoot where that one's is not named. Returns None where there is no such one."""
        same = self._by_title.get((shoot.casefold() or None, shot.casefold()), [])
        return same[0] if shot and len(same) == 1 else None


def _row_of(take: ReadTake, finder: _Finder, doubts: list[RowDoubt]) -> dict[str, Any]:
    shot_id = finder.find(take.shoot, take.shot)
    if take.shot and shot_id is None:
        where = f"\u201c{take.shot[:60]}\u201d" + (f" in \u201c{take.shoot[:60]}\u201d" if take.shoot else "")
        doubts.append(
            RowDoubt(
                row=take.row,
                column="shot",
                what=f"there is no one shot {where} here",
                mend="It is taken without a shot; name shoot and shot as they stand here.",
                taken=True,
            )
        )
    if shot_id is not None:
        day = finder.told[shot_id]["day"]
        if days_before(take.said.at, day) is not None:
            doubts.append(
                RowDoubt(
                    row=take.row,
                    column="at",
                    what=f"{take.said.at:%Y-%m-%d} is before the shoot, which is on {day:%Y-%m-%d}",
                    mend="It is taken as a rehearsal; if it is none, look at the camera's clock.",
                    taken=True,
                )
            )
    return {
        "id": take.id, "shot_id": shot_id, "at": take.said.at, "said": take.said.model_dump(mode="json"), "made_by": BY_FILE,
    }  # fmt: skip


def _put(session: Session, table: Any, rows: list[dict[str, Any]], apply: bool) -> int:
    """Keep rows that are not here yet. Returns how many those are."""
    unique = list({row["id"]: row for row in rows}.values())
    if not unique:
        return 0
    there = set(session.scalars(select(table.id).where(table.id.in_([row["id"] for row in unique]))))
    fresh = [row for row in unique if row["id"] not in there]
    if apply and fresh:
        session.execute(insert(table).on_conflict_do_nothing(), fresh)
        session.flush()
        session.expire_all()
    return len(fresh)


def _json_in(session: Session, log: LogFile, apply: bool) -> LogRead:
    finder = _Finder(session)
    ladders = [
        {
            "id": one.id, "shot_id": finder.find(one.shoot, one.shot), "title": one.title,
            "ladder": one.ladder.model_dump(mode="json"),
        }
        for one in log.ladders
    ]  # fmt: skip
    fresh_ladders = _put(session, LadderKept, ladders, apply)
    answers = [
        {"id": said.id, "ladder_id": one.id, "at": said.answer.at, "answer": said.answer.model_dump(mode="json")}
        for one in log.ladders
        for said in one.answers
    ]
    _put(session, LadderAnswer, answers, apply)
    here = {one.id for one in log.ladders} | {row.id for row in store_ladders.list_ladders(session)}
    takes = [
        {
            "id": one.id, "shot_id": finder.find(one.shoot, one.shot), "at": one.said.at,
            "said": one.said.model_dump(mode="json"), "made_by": BY_FILE,
            "measures": None if one.measures is None else one.measures.model_dump(mode="json"),
            "planned": None if one.planned is None else one.planned.model_dump(mode="json"),
            "ladder_id": one.ladder if one.ladder in here else None, "rung": one.rung,
        }
        for one in log.takes
    ]  # fmt: skip
    fresh = _put(session, TakeKept, takes, apply)
    notes = [{"id": one.id, "at": one.note.at, "note": one.note.model_dump(mode="json")} for one in log.notes]
    fresh_notes = _put(session, GearNote, notes, apply)
    return LogRead(fresh, len(takes) - fresh, fresh_ladders, fresh_notes, (), ())
