"""The cells of a mode map: which pairs of view and stabilisation a frame has at a rate."""

from __future__ import annotations

from steady_tide.core.quantities.frozen import Frozen


class MapCell(Frozen):
    """One frame at one rate: pairs of view and stabilisation that exist."""

    rate: float
    pairs: tuple[tuple[str, str], ...]
    high_dynamic_range: bool
    bit_depths: tuple[int, ...]
    codecs: tuple[str, ...]
    profiles: tuple[str, ...]
    to_drive: bool  # every way of recording it writes to a drive
    without: dict[str, tuple[int, ...]]  # by "dial=value" that is here at all: places in pairs that lack it


class MapRow(Frozen):
    """One frame of one lens, at all rates that it has."""

    lens: str
    lens_name: str
    width: int
    height: int
    shape: str
    label: str
    cells: tuple[MapCell, ...]
