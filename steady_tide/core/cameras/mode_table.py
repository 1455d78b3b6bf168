"""A manual's mode table, pasted as text: rows of modes, and what had to be guessed or could not be read."""

from __future__ import annotations

import csv
import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any, Literal

from steady_tide.core.cameras import mode_words as words
from steady_tide.core.cameras.delimited import records
from steady_tide.core.quantities.errors import BadFile, Fault
from steady_tide.core.quantities.frozen import Frozen

LARGEST_TEXT, MOST_LINES, MOST_ROWS = 200_000, 2_000, 400
LONGEST_LINE = 1_000  # characters; patterns are tried over whole lines, so that none may be long

Column = Literal[
    "size", "width", "height", "shape", "rates", "views", "stabilisation", "codecs", "bit_depths", "bit_rates_mb_s",
    "profiles", "wide_range", "lens", "passed over"
]  # fmt: skip
_HEADINGS: tuple[tuple[str, Column], ...] = (
    (r"bit\s*-?\s*rate|mbps|mb/s|data\s*rate", "bit_rates_mb_s"),
    (r"bit\s*-?\s*depth|colou?r\s*depth|^bits?$|^depth$", "bit_depths"),
    (r"aspect|ratio|^shape$", "shape"),
    (r"^width|^w$|width\s*\(", "width"),
    (r"^height|^h$|height\s*\(|^lines$", "height"),
    (r"fps|frame\s*rate|frames?\s*(?:per|/)|^rates?\b|^hz$", "rates"),
    (r"stabili[sz]|steady", "stabilisation"),
    (r"wide\s*range|dynamic\s*range|^hdr$", "wide_range"),
    (r"codec|compression|encod|video\s*format|^format$", "codecs"),
    (r"profile|colou?r|^look$", "profiles"),
    (r"field|fov|view|angle|framing", "views"),
    (r"^lens|^camera$", "lens"),
    (r"resolution|size|pixels|^mode|^video|dimension|^frame$|quality", "size"),
    (r"zoom|note|remark|comment|file|audio|sound|screen", "passed over"),
)


class TableMode(Frozen):
    """One row of the table as modes: a size with its rates and what is offered with them. None: the table does not say."""

    line: int
    text: str
    width: int
    height: int
    rates: tuple[float, ...]
    lens: str | None = None
    views: tuple[str, ...] | None = None
    stabilisation: tuple[str, ...] | None = None
    codecs: tuple[str, ...] | None = None
    profiles: tuple[str, ...] | None = None
    bit_depths: tuple[int, ...] | None = None
    bit_rates_mb_s: tuple[float, ...] | None = None
    high_dynamic_range: bool = False
    guessed: bool = False


class Doubt(Frozen):
    """What was guessed, or passed over, and how to put it right."""

    line: int
    text: str
    what: str
    mend: str


class TableRead(Frozen):
    """What a pasted table came to."""

    layout: Literal["rows", "matrix", "turned", "lines"]
    columns: tuple[tuple[str, str], ...]  # heading, what it was taken for
    modes: tuple[TableMode, ...]
    doubts: tuple[Doubt, ...]

    @property
    def mode_count(self) -> int:
        """Pairs of size and rate."""
        return sum(len(mode.rates) for mode in self.modes)


@dataclass(frozen=True)
class _Line:
    number: int
    text: str
    cells: tuple[str, ...]

    def doubt(self, what: str, mend: str) -> Doubt:
        """What was guessed in it, or passed over, and how to put it right."""
        return Doubt(line=self.number, text=self.text[:300], what=what, mend=mend)


@dataclass(frozen=True)
class _Before:
    """What a line leaves for those below it."""

    size: tuple[int, int, bool] | None = None
    size_text: str = ""
    shape: tuple[float, float] | None = None
    section_views: tuple[str, ...] | None = None
    lens: str | None = None


KINDS = {"views": "a view", "stabilisation": "stabilisation", "codecs": "a format", "profiles": "a colour profile"}


def read_mode_table(text: str) -> TableRead:
    """Read a mode table as it was copied from a spreadsheet, a CSV, a page or plain text.

    text: at most 200,000 characters. Returns the modes with a list of doubts.
    Raises BadFile where nothing in it is a mode, or it is too long.
    """
    text = text.replace("\r\n", "\n").replace("\r", "\n")
    if len(text) > LARGEST_TEXT or text.count("\n") > MOST_LINES:
        raise BadFile(Fault("the table", "is longer than 2,000 lines", "Paste the mode table alone."))
    if "\0" in text:
        raise BadFile(Fault("the table", "is no text", "Save it as CSV, or copy it as text."))
    long = next((number for number, line in enumerate(text.split("\n"), 1) if len(line) > LONGEST_LINE), None)
    if long is not None:
        raise BadFile(
            Fault(
                f"line {long}", f"is longer than {LONGEST_LINE:,} characters", "Paste the mode table alone, row by row."
            )
        )
    lines = _split(text)
    doubts: list[Doubt] = []
    layout: Literal["rows", "matrix", "turned", "lines"]
    columns: tuple[tuple[str, str], ...] = ()
    if any(len(line.cells) > 1 for line in lines):
        turned = _turned(lines)
        body = turned or lines
        at, matrix, kinds = _heading(body)
        if at is None:
            layout, modes = "lines", _from_lines(lines, doubts)
        else:
            heading = body[at]
            if matrix:
                layout = "matrix"
                columns = tuple(
                    (cell, "rates" if rate else "size") for cell, rate in zip(heading.cells, matrix, strict=True)
                )
                modes = _from_matrix(body[at + 1 :], matrix, doubts)
            else:
                layout = "turned" if turned else "rows"
                columns = tuple((cell, kind or "passed over") for cell, kind in zip(heading.cells, kinds, strict=True))
                modes = _from_rows(body[at + 1 :], heading, kinds, doubts)
    else:
        layout, modes = "lines", _from_lines(lines, doubts)
    modes = _once(modes, doubts)
    if not modes:
        raise BadFile(
            Fault(
                "the table",
                "no line of it names a frame size with a rate" + (f"; {doubts[0].what}" if doubts else ""),
                "Give lines such as: 3840 x 2160; 60, 50, 30 fps; wide, linear.",
            )
        )
    if len(modes) > MOST_ROWS:
        raise BadFile(Fault("the table", f"has {len(modes)} modes", f"A sheet holds {MOST_ROWS} rows."))
    return TableRead(layout=layout, columns=columns, modes=tuple(modes), doubts=tuple(doubts))


def rough_modes(modes: Sequence[TableMode]) -> list[dict[str, Any]]:
    """The modes as a rough sheet takes them: what the table does not say is left out."""
    return [
        mode.model_dump(mode="json", exclude_none=True, exclude_defaults=True, exclude={"line", "text", "guessed"})
        for mode in modes
    ]


def _split(text: str) -> list[_Line]:
    raw = [(number, line.rstrip("\r")) for number, line in enumerate(text.split("\n"), start=1) if line.strip()]
    lines = [line for _, line in raw]
    if sum(line.count("|") >= 2 for line in lines) > len(lines) / 2:
        found = [(n, line, [cell.strip() for cell in line.strip().strip("|").split("|")]) for n, line in raw]
        found = [entry for entry in found if not all(re.fullmatch(r":?-*:?", cell) for cell in entry[2])]
    else:
        mark = next((mark for mark in "\t;," if _regular(lines, mark)), None)
        if mark:
            found, number = [], 1
            for record, read in records(text, mark, loose=True):
                cells = read if read is not None else record.replace('"', "").split(mark)
                if any(cell.strip() for cell in cells):
                    found.append((number, mark.join(cells), [" ".join(cell.split()) for cell in cells]))
                number += record.count("\n") + 1
        else:
            found = [(n, line, [cell.strip() for cell in re.split(r"\s{2,}", line.strip())]) for n, line in raw]
    wide = max((len(cells) for _, _, cells in found), default=0)
    return [_Line(n, line.strip(), tuple(cells + [""] * (wide - len(cells)))) for n, line, cells in found]


def _regular(lines: list[str], mark: str) -> bool:
    """Whether most lines are cut into the same number of cells by a mark."""
    counts = Counter(sum(1 for _ in next(csv.reader([line], delimiter=mark), [])) for line in lines)
    cells, often = counts.most_common(1)[0] if counts else (1, 0)
    # In text, commas stand between rates, too: then the counts differ from line to line.
    return cells > 1 and often >= 0.6 * len(lines) and not (mark == "," and cells == 2 and len(lines) < 3)


def _kind(heading: str) -> Column | None:
    plain = heading.strip().lower()
    return next((kind for pattern, kind in _HEADINGS if re.search(pattern, plain)), None) if plain else None


def _turned(lines: list[_Line]) -> list[_Line] | None:
    """The table with rows for columns, where its headings stand at the left."""
    if len(lines) < 2 or len(lines[0].cells) < 3:
        return None
    left = [_kind(line.cells[0]) for line in lines]
    above = [_kind(cell) for cell in lines[0].cells[1:]]
    if sum(kind is not None for kind in left) < max(2, 0.6 * len(lines)) or sum(k is not None for k in above) >= 2:
        return None
    if words.size_in(lines[-1].cells[0]) and left[-1] is None:
        return None
    return [
        _Line(index + 1, " | ".join(column), tuple(column))
        for index, column in enumerate(zip(*(line.cells for line in lines), strict=True))
    ]


def _heading(lines: list[_Line]) -> tuple[int | None, list[tuple[float, ...]] | None, list[Column | None]]:
    """Where the headings stand, and what they say: rates over columns, or kinds of columns."""
    for at, line in enumerate(lines[:6]):
        rates = [
            words.rates_in(cell)[0]
            if re.fullmatch(r"[\d\s.,/p]+(?:p|fps|hz)?", cell.strip(), re.I) and cell.strip()
            else ()
            for cell in line.cells
        ]
        if sum(bool(rate) for rate in rates) >= 2 and not rates[0] and not words.size_in(" ".join(line.cells[:1])):
            return at, rates, []
        kinds = [_kind(cell) for cell in line.cells]
        useful = {kind for kind in kinds if kind not in (None, "passed over")}
        has_size = "size" in useful or {"width", "height"} <= useful
        if len(useful) >= 2 and (has_size or "rates" in useful) and not words._SIZE.search(line.text):
            return at, None, kinds
    return None, None, []


def _from_matrix(lines: list[_Line], rates: list[tuple[float, ...]], doubts: list[Doubt]) -> list[TableMode]:
    found: list[TableMode] = []
    before = _Before()
    for line in lines:
        label = " ".join(cell for cell, rate in zip(line.cells, rates, strict=True) if not rate)
        filled = [cell for cell, rate in zip(line.cells, rates, strict=True) if rate and cell.strip()]
        if not filled:
            before = _section(before, line)
            continue
        shape = words.shape_in(label) or before.shape
        size = words.size_in(label, shape) or before.size
        if size is None:
            doubts.append(_no_size(line))
            continue
        before = replace(before, size=size)
        groups: dict[str, list[float]] = {}
        for cell, here in zip(line.cells, rates, strict=True):
            if here and words.says_yes(cell) is not False:
                groups.setdefault("" if words.says_yes(cell) else cell, []).extend(here)
        for cell, these in groups.items():
            mode = _mode(line, size, tuple(sorted(set(these))), before)
            if cell:
                mode = _said(mode, line, cell, doubts)
            found.append(mode)
        _tell_guess(line, size, doubts)
    return found


def _said(mode: TableMode, line: _Line, cell: str, doubts: list[Doubt]) -> TableMode:
    """A mode with what a cell of many kinds says."""
    changes: dict[str, object] = {
        kind: said
        for kind in ("views", "codecs", "profiles", "stabilisation")
        if (said := words.loose_words(cell, kind))
    }
    if bits := words.bit_rates_in(cell, False):
        changes["bit_rates_mb_s"] = bits
    if depths := words.depths_in(cell, False):
        changes["bit_depths"] = depths
    if not changes:
        doubts.append(line.doubt(f"“{cell}” was passed over", "Taken as: offered."))
    return mode.model_copy(update=changes)


def _section(before: _Before, line: _Line) -> _Before:
    """A line that stands over others, such as one with a shape or a view alone."""
    said = " ".join(cell for cell in line.cells if cell)
    return replace(
        before,
        shape=words.shape_in(said) or before.shape,
        section_views=words.loose_words(said, "views") or before.section_views,
        lens=_slug(said) if re.search(r"\blens\b|\bcamera\b", said, re.I) else before.lens,
    )


def _from_rows(lines: list[_Line], heading: _Line, kinds: list[Column | None], doubts: list[Doubt]) -> list[TableMode]:
    found: list[TableMode] = []
    before = _Before()
    for line in lines:
        cells: dict[Column, str] = {
            kind: cell for kind, cell in zip(kinds, line.cells, strict=True) if kind and kind != "passed over"
        }
        filled = [cell for cell in line.cells if cell]
        if line.cells == heading.cells:
            continue  # the headings again, on another page
        if len(filled) == 1 and len(line.cells) > 2 and not words.rates_in(filled[0], alone=False)[0]:
            size = words.size_in(filled[0])
            before = replace(_section(before, line), size=size or before.size)
            continue
        mode = _from_row(line, cells, before, doubts)
        if isinstance(mode, _Before):
            before = mode
        elif mode is not None:
            before = replace(before, size=(mode.width, mode.height, mode.guessed))
            found.append(mode)
    return found


def _from_row(line: _Line, cells: dict[Column, str], before: _Before, doubts: list[Doubt]) -> TableMode | None:
    shape = words.shape_in(cells.get("shape", "")) or words.shape_in(cells.get("size", "")) or before.shape
    size = _row_size(cells, shape) or (before.size if not cells.get("size", "").strip() else None)
    if size is None:
        doubts.append(_no_size(line))
        return None
    rates, filled_in = words.rates_in(cells.get("rates", ""))
    if not rates:
        rates, filled_in = words.rates_in(cells.get("size", ""), alone=False)
    if not rates:
        doubts.append(line.doubt("no frame rate was found", "Give rates such as 60, 50, 30."))
        return None
    if filled_in:
        doubts.append(_range(line, rates))
    mode = _mode(line, size, rates, before)
    changes: dict[str, object] = {}
    for kind in ("views", "stabilisation", "codecs", "profiles"):
        cell = cells.get(kind, "")
        if not cell.strip():
            continue
        try:
            changes[kind] = words.words_in(cell, kind) or None
            if unread := words.not_read(cell, kind):
                said = ", ".join(f"\u201c{word}\u201d" for word in unread)
                doubts.append(
                    line.doubt(
                        f"{said} was not understood as {KINDS[kind]}, and left out",
                        "Choose what it stands for in the list of modes below.",
                    )
                )
        except words.Unread as unread:
            doubts.append(line.doubt(unread.what, unread.mend))
    if depths := words.depths_in(cells.get("bit_depths", ""), True) or words.depths_in(line.text, False):
        changes["bit_depths"] = depths
    if bits := words.bit_rates_in(cells.get("bit_rates_mb_s", ""), True):
        changes["bit_rates_mb_s"] = bits
    if words.says_yes(cells.get("wide_range", "")):
        changes["high_dynamic_range"] = True
    if cells.get("lens", "").strip():
        changes["lens"] = _slug(cells["lens"])
    _tell_guess(line, size, doubts)
    return mode.model_copy(update={name: value for name, value in changes.items() if value is not None})


def _row_size(cells: dict[Column, str], shape: tuple[float, float] | None) -> tuple[int, int, bool] | None:
    wide, high = (re.sub(r"[^\d]", "", cells.get(side, "")) for side in ("width", "height"))
    if wide and high:
        return int(wide), int(high), False
    return words.size_in(cells.get("size", "") or (f"{high}p" if high else ""), shape)


def _from_lines(lines: list[_Line], doubts: list[Doubt]) -> list[TableMode]:
    """Text without columns: a line names a size, and a rate with its unit."""
    found: list[TableMode] = []
    before = _Before()
    for line in lines:
        shape = words.shape_in(line.text) or before.shape
        size = words.size_in(line.text, shape)
        rates, filled_in = words.rates_in(line.text, alone=False)
        if not rates and size is not None and ":" in line.text:
            # "3840 x 2160: 60, 50, 30"
            after = re.split(r":\s", words._SHAPE.sub(" ", line.text), maxsplit=1)
            rates, filled_in = words.rates_in(after[1]) if len(after) == 2 else ((), False)
        if not rates:
            if size is not None or shape != before.shape or words.loose_words(line.text, "views"):
                before = replace(_section(before, line), size=size or before.size)
            else:
                doubts.append(line.doubt("was passed over: no rate in it", "Write such as 60 fps."))
            continue
        size = size or before.size
        if size is None:
            doubts.append(_no_size(line))
            continue
        if filled_in:
            doubts.append(_range(line, rates))
        _tell_guess(line, size, doubts)
        mode = _mode(line, size, rates, before)
        changes: dict[str, object] = {
            kind: said
            for kind in ("views", "codecs", "profiles", "stabilisation")
            if (said := words.loose_words(line.text, kind))
        }
        if bits := words.bit_rates_in(line.text, False):
            changes["bit_rates_mb_s"] = bits
        if depths := words.depths_in(line.text, False):
            changes["bit_depths"] = depths
        before = replace(before, size=size)
        found.append(mode.model_copy(update=changes))
    return found


def _mode(line: _Line, size: tuple[int, int, bool], rates: tuple[float, ...], before: _Before) -> TableMode:
    return TableMode(
        line=line.number,
        text=line.text[:300],
        width=min(size[0], 32_768),
        height=min(size[1], 32_768),
        rates=rates[:40],
        views=before.section_views,
        lens=before.lens,
        guessed=size[2],
    )


def _once(modes: list[TableMode], doubts: list[Doubt]) -> list[TableMode]:
    """Each size and rate once: what a later line says of the same is joined to the first."""
    found: dict[tuple[str | None, int, int, float], int] = {}
    kept: list[TableMode] = []
    for mode in modes:
        fresh = tuple(rate for rate in mode.rates if (mode.lens, mode.width, mode.height, rate) not in found)
        again = [rate for rate in mode.rates if rate not in fresh]
        for rate in again:
            at = found[(mode.lens, mode.width, mode.height, rate)]
            kept[at] = _joined(kept[at], mode) if kept[at].rates == mode.rates else kept[at]
        if again and any(kept[found[(mode.lens, mode.width, mode.height, rate)]].rates != mode.rates for rate in again):
            doubts.append(
                Doubt(
                    line=mode.line,
                    text=mode.text,
                    what=f"{mode.width} x {mode.height} at {', '.join(f'{rate:g}' for rate in again)} fps stood above already",
                    mend="The first line counts; change it in the table below.",
                )
            )
        if fresh:
            for rate in fresh:
                found[(mode.lens, mode.width, mode.height, rate)] = len(kept)
            kept.append(mode.model_copy(update={"rates": fresh}))
    return kept


def _joined(one: TableMode, other: TableMode) -> TableMode:
    def both(name: str) -> tuple[object, ...] | None:
        mine, theirs = getattr(one, name), getattr(other, name)
        return mine if theirs is None else theirs if mine is None else tuple(dict.fromkeys((*mine, *theirs)))

    names = ("views", "stabilisation", "codecs", "profiles", "bit_depths", "bit_rates_mb_s")
    wide = one.high_dynamic_range or other.high_dynamic_range
    return one.model_copy(update={**{name: both(name) for name in names}, "high_dynamic_range": wide})


def _slug(text: str) -> str:
    plain = re.sub(r"\b(?:lens|camera|the)\b", " ", text.lower())
    return re.sub(r"[^a-z0-9]+", "_", plain).strip("_")[:40] or "main"


def _no_size(line: _Line) -> Doubt:
    return line.doubt("no frame size was found", "Give it as 3840 x 2160, or as 4K 16:9.")


def _range(line: _Line, rates: tuple[float, ...]) -> Doubt:
    return line.doubt(
        f"a range of rates was taken as {', '.join(f'{rate:g}' for rate in rates)}",
        "Take out what the camera does not offer.",
    )


def _tell_guess(line: _Line, size: tuple[int, int, bool], doubts: list[Doubt]) -> None:
    if size[2]:
        doubts.append(
            line.doubt(f"the name was taken for {size[0]} x {size[1]}", "Correct it if the manual gives pixels.")
        )
