"""Text whose cells stand between marks: its records one by one, so that one whose quotes do not close costs no other."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator

LONGEST_RECORD_LINES = 40  # a cell in quotes may hold line breaks; past so many, its quote was never meant to open


def records(text: str, mark: str, *, loose: bool = False) -> Iterator[tuple[str, list[str] | None]]:
    """Records of a table as text.

    text: the table, its line ends any; mark: what stands between cells; loose: blanks after a mark are none. Yields, in
    order, each record as it stands, and its cells, or None where it cannot be read: its quotes do not close, or a cell is
    larger than csv's limit. Takes time in proportion to the text.
    """
    lines = io.StringIO(text, newline="").readlines()
    at = 0
    while at < len(lines):
        until = at + LONGEST_RECORD_LINES
        reader = csv.reader(iter(lines[at:until]), delimiter=mark, strict=True, skipinitialspace=loose)
        try:
            cells, taken = next(reader, []), max(1, reader.line_num)
        except csv.Error:
            cells, taken = None, 1
        yield "".join(lines[at : at + taken]).rstrip("\r\n"), cells
        at += taken
