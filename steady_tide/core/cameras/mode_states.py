"""What of a mode map goes with one value that is asked for, what is lost with it, and what stands aside."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Any

from steady_tide.core.cameras.mode_cells import MapCell, MapRow

Pair = tuple[str, str]  # view and stabilisation
# Dials that a map can be asked about; what others cost is told in words alone.
ASKED = ("frame_rate", "frame", "lens", "view", "stabilisation", "bit_depth", "codec", "profile", "high_dynamic_range")
KEPT, LOST, ASIDE, NONE = "k", "l", "a", "."


def states_of(
    rows: Sequence[MapRow], rates: Sequence[float], grid: Sequence[Pair], dial: str, value: Any
) -> tuple[tuple[str, ...], ...]:
    """Look at every cell of a map.

    rows, rates: of the map; grid: pairs in the order in which they are told; dial, value: that is asked for.
    Returns a text for each row and rate, a letter for each pair of the grid: it goes with the value (k), is lost
    with it (l), stands aside (a), or is not there (.); nothing where a map is not asked about the dial.
    """
    if dial not in ASKED:
        return ()
    return tuple(
        tuple(
            "".join(found.get(pair, NONE) for pair in grid)
            for found in (_cell(rows, row, r, dial, value) for r in rates)
        )
        for row in rows
    )


def _cell(rows: Sequence[MapRow], row: MapRow, rate: float, dial: str, value: Any) -> dict[Pair, str]:
    cell = _at(row, rate)
    here = cell.pairs if cell else ()
    if dial == "frame_rate":
        return _against(here, (entry.pairs for entry in row.cells)) if rate == value else dict.fromkeys(here, ASIDE)
    if dial == "frame":
        if f"{row.width}x{row.height}" != value:
            return dict.fromkeys(here, ASIDE)
        return _against(here, (_pairs(other, rate) for other in rows))
    if dial == "lens":
        alike = [other for other in rows if (other.width, other.height) == (row.width, row.height)]
        if row.lens != value:
            return dict.fromkeys(here, ASIDE if any(other.lens == value for other in alike) else LOST)
        return _against(here, (_pairs(other, rate) for other in alike))
    if dial in ("view", "stabilisation"):
        moved = {(value, level) if dial == "view" else (view, value) for view, level in here}
        return {**dict.fromkeys(here, ASIDE), **{pair: KEPT if pair in here else LOST for pair in moved}}
    return _recorded(cell, dial, value) if cell else {}


def _recorded(cell: MapCell, dial: str, value: Any) -> dict[Pair, str]:
    has = {
        "bit_depth": value in cell.bit_depths,
        "codec": value in cell.codecs,
        "profile": value in cell.profiles,
        "high_dynamic_range": not value or cell.high_dynamic_range,
    }[dial]
    if not has:
        return dict.fromkeys(cell.pairs, LOST)
    lacking = cell.without.get(f"{dial}={value}", ())
    return {pair: LOST if place in lacking else KEPT for place, pair in enumerate(cell.pairs)}


def _at(row: MapRow, rate: float) -> MapCell | None:
    return next((cell for cell in row.cells if cell.rate == rate), None)


def _pairs(row: MapRow, rate: float) -> tuple[Pair, ...]:
    cell = _at(row, rate)
    return cell.pairs if cell else ()


def _against(here: Iterable[Pair], others: Iterable[Iterable[Pair]]) -> dict[Pair, str]:
    mine = set(here)
    return {pair: KEPT if pair in mine else LOST for pairs in others for pair in pairs}
