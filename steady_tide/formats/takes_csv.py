"""Takes as CSV, out and in: one's own lists and those of others, whose columns are found by their names."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, tzinfo
from typing import Any
from uuid import UUID, uuid5

from pydantic import ValidationError

from steady_tide.core.log.take import FAULTS, LONGEST_NOTE, TakeFields
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadFile, Fault
from steady_tide.core.quantities.frozen import Frozen, faults_of
from steady_tide.formats.table_text import LONGEST_CELL, MEND_QUOTES, UNCLOSED, read_moment, rows_of, safe, unquoted

COLUMNS = (
    "at", "shoot", "shot", "take", "camera", "mount", "hands", "rating", "faults", "note", "seconds", "id",
)  # fmt: skip
# What others call a column.
CALLED: dict[str, tuple[str, ...]] = {
    "at": ("at", "start", "started", "date_time", "datetime", "timestamp", "when", "recorded"),
    "day": ("day", "date"),
    "time": ("time", "clock", "time_of_day"),
    "shoot": ("shoot", "project", "production"),
    "shot": ("shot", "scene", "title", "name"),
    "camera": ("camera", "cam", "body"),
    "mount": ("mount", "held", "support"),
    "hands": ("hands", "person", "operator", "who", "by", "filmed_by"),
    "rating": ("rating", "verdict", "good", "status"),
    "faults": ("faults", "fault", "problems", "problem"),
    "note": ("note", "notes", "comment", "comments", "remarks"),
    "wrong": ("wrong", "what_went_wrong"),  # a column of its own once, now part of the note
    "seconds": ("seconds", "length", "length_s", "duration", "duration_s"),
    "id": ("id",),
}
# Settings that lists have, by the dial that they are of.
SET: dict[str, tuple[str, ...]] = {
    "iso_ceiling": ("iso", "gain"), "shutter_s": ("shutter", "shutter_s", "exposure_time"), "nd": ("nd", "glass", "filter"),
    "frame_rate": ("fps", "frame_rate", "rate"), "frame": ("resolution", "frame", "size"),
    "white_balance_k": ("wb", "white_balance", "balance", "kelvin"), "profile": ("profile", "colour", "color", "look"),
    "stabilisation": ("stabilisation", "stabilization", "steadying"), "view": ("view", "lens_view", "field"),
    "exposure_compensation": ("ev", "compensation", "exposure_compensation"),
}  # fmt: skip
RATED = {
    "keep": "keep", "k": "keep", "yes": "keep", "y": "keep", "good": "keep", "ok": "keep", "maybe": "maybe", "m": "maybe",
    "?": "maybe", "no": "no", "n": "no", "bad": "no", "ng": "no",
}  # fmt: skip
OURS = UUID("6c1f0a51-5a5e-4c9e-9a66-5d0a37b6a2f0")  # names rows of lists that have no ids


@dataclass(frozen=True)
class ListedTake:
    """A take to be written."""

    id: UUID
    shoot: str
    shot: str
    number: int
    zone: tzinfo
    said: TakeFields
    faults: tuple[str, ...]


class RowDoubt(Frozen):
    """What is in doubt about one row; rows count as a spreadsheet shows them, the heading being 1. taken: whether the take is
    there all the same."""

    row: int
    column: str
    what: str
    mend: str
    taken: bool


@dataclass(frozen=True)
class ReadTake:
    """A take that was read. row: where it stood."""

    row: int
    id: UUID
    shoot: str
    shot: str
    said: TakeFields


@dataclass(frozen=True)
class TakesRead:
    """All takes of a list, and what is in doubt. passed_over: columns that say nothing to us."""

    takes: tuple[ReadTake, ...]
    doubts: tuple[RowDoubt, ...]
    passed_over: tuple[str, ...]


def write_takes_csv(takes: Sequence[ListedTake]) -> str:
    """Write takes. takes: in their order. Returns CSV with a heading; times are those of the place."""
    dials = list(dict.fromkeys(dial for take in takes for dial in take.said.settings))
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow([*COLUMNS, *(SET[dial][0] if dial in SET else dial for dial in dials)])
    for take in takes:
        said = take.said
        row: list[Any] = [
            said.at.astimezone(take.zone).isoformat(timespec="seconds"), take.shoot, take.shot, take.number, said.camera or "",
            said.mount or "", said.hands or "", said.rating or "", " ".join(take.faults), said.note,
            "" if said.seconds is None else f"{said.seconds:g}", str(take.id),
        ]  # fmt: skip
        row += [said.settings.get(dial, "") for dial in dials]
        writer.writerow([safe(cell) for cell in row])
    return out.getvalue()


def read_takes_csv(data: bytes, zone: tzinfo, source: str = "list of takes") -> TakesRead:
    """Read takes.

    data: the file; zone: for times that name none; source: for messages. Returns the takes and what is in doubt, row by row; a
    row without a time that can be read is left out. Raises BadFile where it is no list of takes at all.
    """
    table = rows_of(data, source)
    rows = table.rows
    heading = [cell.strip().lower().replace(" ", "_").replace("-", "_") for cell in rows[0]]
    known = {**{name: called for name, called in CALLED.items()}, **SET}
    place: dict[str, int] = {}
    for name, called in known.items():
        found = [heading.index(word) for word in called if word in heading]
        if found:
            place[name] = found[0]
    if "at" not in place and "day" not in place:
        raise BadFile(
            Fault(f"{source}: row 1", "no column tells when a take was", "Name one 'at', or two 'date' and 'time'.")
        )
    if len(rows) - 1 > sizes.TAKES:
        raise BadFile(Fault(source, f"has {len(rows) - 1} rows", f"Split it: {sizes.TAKES} are read at once."))
    takes: list[ReadTake] = []
    doubts = [RowDoubt(row=row, column="", what=UNCLOSED, mend=MEND_QUOTES, taken=False) for row in table.unread]
    for number, row in enumerate(rows[1:], start=2):
        if not any(cell.strip() for cell in row):
            continue
        cells = {name: unquoted(row[column]) for name, column in place.items() if column < len(row)}
        take = _take(number, cells, zone, doubts)
        if take is not None:
            takes.append(take)
    if not takes and not doubts:
        raise BadFile(Fault(source, "holds no take", "Give one row a take under the heading."))
    used = set(place.values())
    passed = tuple(name for column, name in enumerate(heading) if name and column not in used and name != "take")
    return TakesRead(tuple(takes), tuple(doubts), passed)


def _take(number: int, cells: Mapping[str, str], zone: tzinfo, doubts: list[RowDoubt]) -> ReadTake | None:
    def doubt(column: str, what: str, mend: str, taken: bool = True) -> None:
        doubts.append(RowDoubt(row=number, column=column, what=what, mend=mend, taken=taken))

    def text(name: str, longest: int) -> str:
        value = cells.get(name, "")
        if len(value) > longest:
            doubt(name, f"is longer than {longest} characters", "It was cut.")
        return value[:longest]

    try:
        at = _at(cells, zone)
    except ValueError as error:
        doubt("at", str(error), "This row is left out. Write 2026-10-11 12:20.", taken=False)
        return None
    rating = None
    if said := cells.get("rating", "").lower():
        rating = RATED.get(said)
        if rating is None:
            doubt("rating", f"'{said[:40]}' is none of keep, maybe, no", "It stands without a rating.")
    faults = []
    for word in re.split(r"[\s,;+/]+", cells.get("faults", "").lower())[:40]:
        if word in FAULTS:
            faults.append(word)
        elif word:
            doubt("faults", f"'{word[:40]}' is no fault that is known", f"Use {', '.join(FAULTS)}.")
    seconds = None
    if length := cells.get("seconds", ""):
        try:
            seconds = _length_s(length)
        except ValueError:
            doubt("seconds", f"'{length[:40]}' is no length", "Write seconds, or 1:30.")
    settings = {dial: cells[dial][:60] for dial in SET if cells.get(dial)}
    fields = {
        "at": at, "camera": text("camera", 120) or None, "mount": text("mount", 120) or None, "hands": text("hands", 120) or None,
        "rating": rating, "faults": faults, "wrong": text("wrong", 1000), "note": text("note", 1000 if cells.get("wrong") else LONGEST_NOTE), "seconds": seconds,
        "settings": settings,
    }  # fmt: skip
    try:
        made = TakeFields.model_validate(fields)
    except ValidationError as error:
        for found in faults_of(error):
            doubt(found.where, found.what, found.mend or "This row is left out.", taken=False)
        return None
    shoot, shot = text("shoot", 200), text("shot", 200)
    return ReadTake(number, _id(cells, made, shoot, shot), shoot, shot, made)


def _id(cells: Mapping[str, str], said: TakeFields, shoot: str, shot: str) -> UUID:
    """The id that stands there, else one that follows from the take: read twice, it is the same."""
    try:
        return UUID(cells.get("id", ""))
    except ValueError:
        return uuid5(
            OURS,
            "|".join(
                (said.at.isoformat(), shoot, shot, said.camera or "", cells.get("note", ""), cells.get("wrong", ""))
            ),
        )


def _at(cells: Mapping[str, str], zone: tzinfo) -> datetime:
    text = cells.get("at", "") or " ".join(part for part in (cells.get("day", ""), cells.get("time", "")) if part)
    if not text:
        raise ValueError("no time is given")
    if len(text) > LONGEST_CELL:
        raise ValueError("is no time")
    return read_moment(text, zone, None)


def _length_s(text: str) -> float:
    parts = text.replace(",", ".").split(":")
    if len(parts) > 3:
        raise ValueError("no length")
    seconds = 0.0
    for part in parts:
        seconds = 60.0 * seconds + float(part)
    if not 0.0 <= seconds <= 172_800.0:
        raise ValueError("out of reach")
    return seconds
