"""Tables as text: CSV from spreadsheets and for them."""

from __future__ import annotations

import re
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta, tzinfo
from typing import Any

from steady_tide.core.cameras.delimited import records
from steady_tide.core.quantities.errors import BadFile, Fault
from steady_tide.core.quantities.moments import checked_moment

LONGEST_CELL = 500
# What is said of a row that cannot be read.
UNCLOSED = "its quotes do not close"
MEND_QUOTES = "Write a quote inside a cell twice, and save it as CSV UTF-8."
# A spreadsheet takes a cell that begins so for a formula; a quote before it makes it text.
FORMULA = tuple("=+-@\uff1d\uff0b\uff0d\uff20")  # and their full-width forms

NUMBER = re.compile(r"^[-+]?\d+([.,]\d+)?$")


def safe(cell: Any) -> Any:
    """A cell that no spreadsheet takes for a formula. cell: any value. Returns it, made text where it has to be."""
    if isinstance(cell, str) and _is_formula(cell) and not NUMBER.match(cell):
        return f"'{cell}"
    return cell


def _is_formula(cell: str) -> bool:
    """Whether a spreadsheet might take it for one: blanks and line ends before it do not help."""
    bare = cell.lstrip()
    return bare.startswith(FORMULA) or (bare != cell and cell[0] in "\t\r\n")


@dataclass(frozen=True)
class Table:
    """A table that was read. rows: its cells, the heading first; one that could not be read is empty. delimiter: what stands
    between cells. unread: the numbers of rows whose quotes do not close, the heading being 1."""

    rows: list[list[str]]
    delimiter: str
    unread: tuple[int, ...]


def rows_of(data: bytes, source: str) -> Table:
    """Rows of a table. data: the file; source: for messages. Returns them. Raises BadFile where it is no table."""
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise BadFile(Fault(source, "is not UTF-8 text", "Save it as CSV UTF-8.")) from None
    if "\x00" in text:
        raise BadFile(Fault(source, "is not text", "Save it as CSV UTF-8."))
    first = re.split(r"[\r\n]", text, maxsplit=1)[0]
    delimiter = max((",", ";", "\t"), key=first.count)
    read = [cells for _, cells in records(text, delimiter)]
    if not read or (read[0] is not None and not any(cell.strip() for cell in read[0])):
        raise BadFile(Fault(source, "is empty", "Its first row names the columns."))
    if read[0] is None:
        raise BadFile(Fault(f"{source}: row 1", UNCLOSED, MEND_QUOTES))
    return Table(
        rows=[cells or [] for cells in read],
        delimiter=delimiter,
        unread=tuple(number for number, cells in enumerate(read, start=1) if cells is None),
    )


def unquoted(cell: str) -> str:
    """A cell as it was before it was made text."""
    cell = cell.strip()
    return cell[1:].strip() if cell.startswith("'") and _is_formula(cell[1:]) else cell


def read_moment(text: str, zone: tzinfo, day: date | None) -> datetime:
    """A moment. text: with its day, or a time of day; zone: of the place; day: for a time alone. Raises ValueError."""
    clock = re.fullmatch(r"(\d{1,2}):(\d{2})", text)
    if clock:
        if day is None:
            raise ValueError("a time without a day, and the shoot has none either; write 2026-10-11 12:20")
        hour, minute = int(clock[1]), int(clock[2])
        if hour > 23 or minute > 59:
            raise ValueError(f"'{text}' is no time of day")
        return (datetime(day.year, day.month, day.day, tzinfo=zone) + timedelta(hours=hour, minutes=minute)).astimezone(
            UTC
        )
    try:
        found = datetime.fromisoformat(text)
    except ValueError:
        raise ValueError(f"'{text[:40]}' is no start; write 2026-10-11 12:20, or 12:20") from None
    return checked_moment(found if found.tzinfo else found.replace(tzinfo=zone)).astimezone(UTC)
