"""What a thing of the kit is, in one line."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from steady_tide.core.gear.items import (
    Attachment,
    Cell,
    CellKind,
    Filter,
    Housing,
    KitLamp,
    Medium,
    Microphone,
    Mount,
)
from steady_tide.words.quantities import MINUS, NARROW, TIMES, stops

Names = Mapping[str, str]
DEGREE = "\u00b0"
DEG_S = "\u00b0/s"
CELSIUS = "\u00b0C"


def gear_line(kind: str, thing: Any, names: Names) -> str:
    """What a thing is. kind: such as filters; thing: of that kind; names: of cameras, by id. Returns a line."""
    return LINES[kind](thing, names)


def _of(value: float, unit: str) -> str:
    text = f"{round(value, 3):f}".rstrip("0").rstrip(".")
    return f"{text.replace('-', MINUS)}{NARROW}{unit}"


def _fits(thing: Any, names: Names) -> str:
    return ", ".join(names.get(one, one) for one in thing.fits)


def _filter(thing: Filter, names: Names) -> str:
    if thing.kind == "colour":
        bands = ", ".join(stops(band) for band in thing.band_stops)
        return f"colour, takes {stops(thing.stops)} stops; red, green, blue {bands}"
    if thing.turns_from_stops is not None:
        return f"variable ND, even from {stops(thing.turns_from_stops)} to {stops(thing.stops)} stops"
    return f"{'polariser' if thing.kind == 'polariser' else 'ND'}, {stops(thing.stops)} stops"


def _attachment(thing: Attachment, names: Names) -> str:
    what = (
        f"close-up, {_of(thing.dioptres, 'dioptres')}"
        if thing.dioptres > 0
        else f"converter, {_of(thing.factor, TIMES)}"
    )
    takes = f", takes {stops(thing.stops)} stops" if thing.stops > 0 else ""
    return f"{what}{takes}, softer by {stops(thing.softer_stops)} stops"


def _microphone(thing: Microphone, names: Names) -> str:
    how = {"cable": "by cable", "wireless": "wireless", "recorder": "records apart"}[thing.how]
    near = ", worn" if thing.worn else f", near up to {_of(thing.reach_m, 'm')}"
    runs = "" if thing.runs_h is None else f", runs {_of(thing.runs_h, 'h')}"
    return f"{how}{near}, stands {_of(thing.wind_held_m_s, 'm/s')} of wind{runs}"


def _housing(thing: Housing, names: Names) -> str:
    port = "dome" if thing.port == "dome" else "flat window"
    filters = f"filters \u201c{thing.filters}\u201d, {thing.stack} at once" if thing.filters else "no filters"
    return f"to {_of(thing.proof_depth_m, 'm')}, {port}, for {_fits(thing, names) or 'no camera yet'}; {filters}"


def _mount(thing: Mount, names: Names) -> str:
    return f"{thing.phrase}; shakes {_of(thing.shake_deg_s, DEG_S)}, shows {_of(thing.field_deg, DEGREE)}"


def _lamp(thing: KitLamp, names: Names) -> str:
    ripple = f", ripple {thing.ripple:g}" if thing.ripple > 0 else ""
    deep = f", to {_of(thing.proof_depth_m, 'm')}" if thing.proof_depth_m > 0 else ""
    return f"{_of(thing.lux_at_1m, 'lx')} at 1{NARROW}m, {_of(thing.kelvin, 'K')}{ripple}{deep}"


def _cell(thing: Cell, names: Names) -> str:
    fits = f"; for {_fits(thing, names)}" if thing.fits else ""
    return f"{_of(thing.wh, 'Wh')} {thing.kind}, {thing.chemistry}{fits}"


def _medium(thing: Medium, names: Names) -> str:
    speed = f", {thing.speed_class}" if thing.speed_class else ""
    fits = f"; for {_fits(thing, names)}" if thing.fits else ""
    return f"{_of(thing.capacity_gb, 'GB')} {thing.kind}{speed}, holds {_of(thing.write_mb_s, 'Mb/s')}{fits}"


def _chemistry(thing: CellKind, names: Names) -> str:
    return ", ".join(f"{_of(warmth, CELSIUS)} {round(share * 100)}{NARROW}%" for warmth, share in thing.left)


LINES: Mapping[str, Callable[[Any, Names], str]] = {
    "filters": _filter,
    "attachments": _attachment,
    "housings": _housing,
    "microphones": _microphone,
    "mounts": _mount,
    "lamps": _lamp,
    "batteries": _cell,
    "media": _medium,
    "chemistries": _chemistry,
}
