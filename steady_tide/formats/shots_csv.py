"""A shot list as CSV, out and in. A list, not the whole: what it leaves out stays as usual."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Callable, Iterator, Sequence
from datetime import date, datetime, tzinfo
from typing import Any

from pydantic import ValidationError

from steady_tide.core.brief.brief import Brief
from steady_tide.core.light.sources import PlaceLight
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadFile, Fault
from steady_tide.core.quantities.frozen import Frozen, faults_of
from steady_tide.formats.table_text import (
    LONGEST_CELL,
    MEND_QUOTES,
    NUMBER,
    UNCLOSED,
    read_moment,
    rows_of,
    safe,
    unquoted,
)

COLUMNS = (
    "start",
    "title",
    "scenario",
    "place",
    "ev_dim",
    "ev_bright",
    "near_m",
    "far_m",
    "speed_m_s",
    "mount",
    "width",
    "height",
    "fps",
    "slow_factor",
    "graded",
    "take_s",
    "takes",
    "standby_min",
    "air_c",
    "wind_m_s",
    "sound",
)
NEEDED = ("title",)
SHOWN_ONLY = ("camera", "sheet", "given_up_stops")  # written for the reader's sake, passed over when read
YES, NO = ("yes", "true", "1", "x"), ("no", "false", "0", "")


class ListedShot(Frozen):
    """A shot to be written, with what its plan says."""

    starts_at: datetime | None
    brief: Brief
    ev100: tuple[float, float] | None
    camera: str = ""
    sheet: str = ""
    given_up_stops: float | None = None


class ReadShot(Frozen):
    """A shot read from a row."""

    row: int
    starts_at: datetime | None
    brief: Brief


class RowFault(Frozen):
    """What is wrong with one row; rows count as a spreadsheet shows them, the heading being 1."""

    row: int
    column: str
    what: str
    mend: str


class ShotListReport(Frozen):
    """The shots of a list, and what is wrong with its other rows."""

    shots: tuple[ReadShot, ...]  # none where nobody can tell what its numbers mean
    faults: tuple[RowFault, ...]
    passed_over: tuple[str, ...]  # columns that say nothing to us


def write_shots_csv(shots: Sequence[ListedShot], zone: tzinfo) -> str:
    """Write a list.

    shots: in their order; zone: of the place, in which starts are written. Returns CSV with a heading; light that
    is no plain place stands as its EV. Cells that a spreadsheet would take for formulas are made text.
    """
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow([*COLUMNS, *SHOWN_ONLY])
    for shot in shots:
        writer.writerow([safe(cell) for cell in _row(shot, zone)])
    return out.getvalue()


def _row(shot: ListedShot, zone: tzinfo) -> Iterator[Any]:
    brief = shot.brief
    place = brief.light.place if isinstance(brief.light, PlaceLight) else ""
    dim, bright = (None, None) if place or shot.ev100 is None else shot.ev100
    yield "" if shot.starts_at is None else f"{shot.starts_at.astimezone(zone):%Y-%m-%d %H:%M}"
    yield brief.title
    yield brief.scenario
    yield place
    yield from ("" if value is None else f"{value:.2f}" for value in (dim, bright))
    yield from (f"{value:g}" for value in (*brief.subject.distance_m, brief.subject.speed_m_s))
    yield brief.camera_move.mount
    delivery, take = brief.delivery, brief.take
    yield from (delivery.width, delivery.height, f"{delivery.fps:g}", f"{delivery.slow_factor:g}")
    yield "yes" if delivery.graded else "no"
    yield f"{take.length_s:g}"
    yield "" if take.count is None else take.count
    yield from (f"{take.standby_min:g}", f"{brief.air_c:g}", f"{brief.sound.wind_m_s:g}")
    yield "yes" if brief.sound.wanted else "no"
    yield shot.camera
    yield shot.sheet
    yield "" if shot.given_up_stops is None else f"{shot.given_up_stops:.1f}"


def read_shots_csv(data: bytes, zone: tzinfo, day: date | None, source: str = "shot list") -> ShotListReport:
    """Read a list.

    data: the file; zone: of the place, for starts; day: for starts that give a time only; source: for messages.
    Returns the shots, and what is wrong row by row. Raises BadFile where it is no list at all: too large, no text,
    no heading with a title.
    """
    table = rows_of(data, source)
    rows = table.rows
    heading = [cell.strip().lower().replace(" ", "_") for cell in rows[0]]
    if doubled := [name for name in heading if name and heading.count(name) > 1]:
        raise BadFile(Fault(f"{source}: row 1", f"the column '{doubled[0]}' stands there twice", "Keep one of them."))
    missing = [name for name in NEEDED if name not in heading]
    if missing:
        raise BadFile(
            Fault(
                f"{source}: row 1",
                f"there is no column '{missing[0]}'",
                f"The first row names the columns: {', '.join(COLUMNS)}. Only the title is needed.",
            )
        )
    if len(rows) - 1 > sizes.SHOTS:
        raise BadFile(
            Fault(
                source,
                f"has {len(rows) - 1} rows, and a shoot holds {sizes.SHOTS} shots",
                "Split it into several days.",
            )
        )
    faults: list[RowFault] = []
    cells = [
        (number, {name: unquoted(cell) for name, cell in zip(heading, row, strict=False) if name})
        for number, row in enumerate(rows[1:], start=2)
        if any(cell.strip() for cell in row)
    ]
    decimal = _decimal_mark(cells, table.delimiter, faults)
    mixed = bool(faults)
    faults += [RowFault(row=row, column="", what=UNCLOSED, mend=MEND_QUOTES) for row in table.unread]
    shots = []
    for number, row in cells:
        found = _shot(number, row, zone, day, decimal, faults)
        if found is not None:
            shots.append(found)
    if not cells and not faults:
        raise BadFile(Fault(source, "holds no shot", "Give one row a shot under the heading."))
    known = {*COLUMNS, *SHOWN_ONLY}
    return ShotListReport(
        shots=() if mixed else tuple(shots),
        faults=tuple(faults),
        passed_over=tuple(name for name in heading if name and name not in known),
    )


NUMBERS = (
    *("ev_dim", "ev_bright", "near_m", "far_m", "speed_m_s", "width", "height", "fps", "slow_factor"),
    *("take_s", "takes", "standby_min", "air_c", "wind_m_s"),
)


def _decimal_mark(cells: list[tuple[int, dict[str, str]]], delimiter: str, faults: list[RowFault]) -> str:
    """The one decimal mark of the list. A mix is a fault: 1,500 may be one and a half or fifteen hundred."""
    marks: dict[str, tuple[int, str]] = {}
    for number, row in cells:
        for name in NUMBERS:
            for mark in (".", ","):
                if mark in row.get(name, ""):
                    marks.setdefault(mark, (number, name))
    if len(marks) == 2:
        number, name = max(marks.values())
        faults.append(
            RowFault(
                row=number,
                column=name,
                what="the list mixes decimal points and decimal commas",
                mend="Write all numbers with the same mark, without thousands marks.",
            )
        )
    return "," if "," in marks else "."


def _shot(
    number: int, row: dict[str, str], zone: tzinfo, day: date | None, decimal: str, faults: list[RowFault]
) -> ReadShot | None:
    before = len(faults)

    def fault(column: str, what: str, mend: str) -> None:
        faults.append(RowFault(row=number, column=column, what=what, mend=mend))

    def value(column: str, convert: Callable[[str], Any]) -> Any:
        text = row.get(column, "")
        if text == "":
            return None
        if len(text) > LONGEST_CELL:
            fault(column, f"is longer than {LONGEST_CELL} characters", "Shorten it.")
            return None
        try:
            return convert(text)
        except ValueError as error:
            fault(column, str(error), "")
            return None

    def figure(text: str) -> float:
        plain = text.replace(decimal, ".")
        if not NUMBER.match(plain):
            raise ValueError(f"'{text[:40]}' is no number")
        return float(plain)

    def yes(text: str) -> bool:
        if text.lower() in YES:
            return True
        if text.lower() in NO:
            return False
        raise ValueError(f"'{text[:40]}' is neither yes nor no")

    numbers = {name: value(name, figure) for name in NUMBERS}
    starts_at = value("start", lambda text: read_moment(text, zone, day))
    place, dim, bright = row.get("place", ""), numbers["ev_dim"], numbers["ev_bright"]
    light: dict[str, Any]
    if place and (dim is not None or bright is not None):
        fault("place", "a place and an EV are two answers to one question", "Give one of them.")
    if place:
        light = {"kind": "place", "place": place}
    elif dim is None and bright is None:
        light = {"kind": "place", "place": "full_sun"}
    else:
        ends = [end for end in (dim, bright) if end is not None]
        light = {"kind": "meter", "ev100": [ends[0], ends[-1]]}
    near, far = numbers["near_m"], numbers["far_m"]
    ends = [end for end in (near, far) if end is not None]
    said: dict[str, Any] = {
        "title": value("title", str),
        "scenario": row.get("scenario") or None,
        "light": light,
        "subject": {"distance_m": [ends[0], ends[-1]] if ends else None, "speed_m_s": numbers["speed_m_s"]},
        "camera_move": {"mount": row.get("mount") or None},
        "delivery": {
            "width": _whole(numbers["width"]),
            "height": _whole(numbers["height"]),
            "fps": numbers["fps"],
            "slow_factor": numbers["slow_factor"],
            "graded": value("graded", yes),
        },
        "take": {
            "length_s": numbers["take_s"],
            "count": _whole(numbers["takes"]),
            "standby_min": numbers["standby_min"],
        },
        "sound": {"wanted": value("sound", yes), "wind_m_s": numbers["wind_m_s"]},
        "air_c": numbers["air_c"],
    }
    if said["title"] is None and not any(f.column == "title" for f in faults[before:]):
        fault("title", "is missing", "Give the shot a name.")
    if len(faults) > before:
        return None
    try:
        brief = Brief.model_validate(_said_only(said))
    except ValidationError as error:
        for found in faults_of(error):
            fault(_COLUMN_OF.get(re.sub(r"\[\d\]$", "", found.where), found.where), found.what, found.mend)
        return None
    return ReadShot(row=number, starts_at=starts_at, brief=brief)


_COLUMN_OF = {
    "subject.distance_m": "near_m",
    "subject.speed_m_s": "speed_m_s",
    "camera_move.mount": "mount",
    "delivery.width": "width",
    "delivery.height": "height",
    "delivery.fps": "fps",
    "delivery.slow_factor": "slow_factor",
    "take.length_s": "take_s",
    "take.count": "takes",
    "take.standby_min": "standby_min",
    "sound.wind_m_s": "wind_m_s",
    "light.ev100": "ev_dim",
    "light": "ev_dim",
}


def _whole(value: float | None) -> float | int | None:
    return int(value) if value is not None and value.is_integer() else value


def _said_only(said: dict[str, Any]) -> dict[str, Any]:
    found = {}
    for name, value in said.items():
        inner = _said_only(value) if isinstance(value, dict) else value
        if inner is not None and inner != {}:
            found[name] = inner
    return found
