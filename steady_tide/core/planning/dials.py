"""Dials: how the settings that people turn lie over the blocks that the search moves in.

A block is a list of candidates (pictures, gates, glass and so on); a dial groups the candidates of
one block by the value they have on it. Pinning a dial keeps the candidates of one group.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, replace
from math import isnan
from typing import Any

import numpy as np

from steady_tide.core.errors import BadBrief, Fault
from steady_tide.core.planning.space import Bools, Ints, Space, look_value, picture_values
from steady_tide.core.stops import read_seconds

BLOCKS = (
    "pictures",
    "gates",
    "glasses",
    "iso_pairs",
    "compensations",
    "looks",
    "focuses",
    "habits",
    "balances",
    "sharpness",
    "wind",
    "tracks",
)
AUTOMATIC = "auto"
AT_SPEED = "off"  # no interval: film at speed
NONE = "none"


@dataclass(frozen=True)
class Dial:
    """One dial of one camera: its values, and for each candidate of its block which value it has."""

    id: str
    block: str
    values: tuple[Any, ...]
    of_candidate: Ints
    listed: bool = True

    def mask(self, value: Any) -> Bools:
        """Candidates with a value. value: one of `values`. Returns a mask over the block."""
        return np.asarray(self.of_candidate == self.values.index(value))


def dials_of(space: Space) -> dict[str, Dial]:
    """All dials of a camera.

    space: what it can do. Returns the dials by id; those not `listed` only serve as names for pins.
    """
    sheet, pictures, modes = space.sheet, space.pictures, space.sheet.modes

    def of_pictures(dial: str, order: Sequence[Any] | None = None, key: Key | None = None) -> Dial:
        return _dial(dial, "pictures", picture_values(sheet, pictures, dial).tolist(), order, key)

    def of_looks(dial: str, order: Sequence[Any] | None = None, key: Key | None = None) -> Dial:
        return _dial(dial, "looks", [look_value(look, dial) for look in space.looks], order, key)

    def of_glasses(dial: str, values: list[str]) -> Dial:
        return _dial(dial, "glasses", values, list(dict.fromkeys(values)))

    intervals = [AT_SPEED if isnan(seconds) else seconds for seconds in pictures.interval_s.tolist()]
    balances = [AUTOMATIC if k is None else k for k in space.balances]
    found = [
        of_pictures("frame", key=_frame_order),
        of_pictures("frame_rate", key=float),
        _dial("interval_s", "pictures", intervals, key=lambda s: 0.0 if s == AT_SPEED else s),
        of_pictures("lens", [lens.id for lens in sheet.lenses]),
        of_pictures("view", [view.id for view in sheet.views]),
        of_pictures("stabilisation", [level.id for level in sheet.stabilisation]),
        _dial("f_number", "gates", [f for _, f, _ in space.gates], key=float),
        _dial("shutter_s", "gates", [AUTOMATIC if isnan(t) else t for _, _, t in space.gates], key=_shutter_order),
        _dial("iso_floor", "iso_pairs", [low for low, _ in space.iso_pairs], key=int),
        _dial("iso_ceiling", "iso_pairs", [high for _, high in space.iso_pairs], key=int),
        of_glasses("nd", ["+".join(glass.ids) or NONE for glass in space.glasses]),
        of_glasses("colour_filter", [glass.colour or NONE for glass in space.glasses]),
        of_glasses("housing", [glass.housing or NONE for glass in space.glasses]),
        _dial("exposure_compensation", "compensations", list(space.compensations), key=float),
        _dial("white_balance_k", "balances", balances, balances),
        _dial("focus", "focuses", list(space.focuses), space.focuses),
        of_looks("profile", [profile.id for profile in sheet.profiles]),
        of_looks("bit_depth", key=int),
        _dial("sharpness", "sharpness", list(sheet.sharpness), sheet.sharpness),
        of_looks("high_dynamic_range", key=bool),
        of_looks("codec", [codec.id for codec in sheet.codecs]),
        of_looks("bit_rate_mb_s", key=float),
        _dial("wind_reduction", "wind", list(sheet.wind_reduction), sheet.wind_reduction),
        _dial("sound_track", "tracks", list(sheet.sound_track), sheet.sound_track),
        _dial("pre_record_s", "habits", [habit.pre_record_s for habit in space.habits], key=float),
        _dial("positioning", "habits", [habit.positioning for habit in space.habits], sheet.positioning),
        _dial("screen", "habits", [habit.screen for habit in space.habits], sheet.screens),
        _unlisted("width", "pictures", [modes[m].width for m in pictures.mode]),
        _unlisted("height", "pictures", [modes[m].height for m in pictures.mode]),
        _unlisted("shutter_mode", "gates", [AUTOMATIC if isnan(t) else "fixed" for _, _, t in space.gates]),
    ]
    return {dial.id: dial for dial in found}


Key = Callable[[Any], Any]


def _dial(
    name: str,
    block: str,
    of_candidates: list[Any],
    order: Sequence[Any] | None = None,
    key: Key | None = None,
) -> Dial:
    present = set(of_candidates)
    values = [value for value in order if value in present] if order is not None else sorted(present, key=key)
    places = {value: index for index, value in enumerate(values)}
    return Dial(name, block, tuple(values), np.array([places[value] for value in of_candidates], dtype=np.intp))


def _unlisted(name: str, block: str, of_candidates: list[Any]) -> Dial:
    return replace(_dial(name, block, of_candidates, key=lambda value: value), listed=False)


def _frame_order(frame: str) -> tuple[int, int]:
    wide, high = frame.split("x")
    return (int(wide), int(high))


def _shutter_order(value: Any) -> float:
    return float("inf") if value == AUTOMATIC else -value


@dataclass(frozen=True)
class Freedom:
    """Which candidates of each block may still be chosen."""

    masks: dict[str, Bools]

    def within(self, block: str, mask: Bools) -> Freedom:
        """The same with a block narrowed. Returns another freedom."""
        return Freedom({**self.masks, block: self.masks[block] & mask})


def all_free(space: Space) -> Freedom:
    """Nothing pinned. space: of the camera. Returns the freedom with every candidate."""
    sizes = {
        "pictures": len(space.pictures),
        "gates": len(space.gates),
        "glasses": len(space.glasses),
        "iso_pairs": len(space.iso_pairs),
        "compensations": len(space.compensations),
        "looks": len(space.looks),
        "focuses": len(space.focuses),
        "habits": len(space.habits),
        "balances": len(space.balances),
        "sharpness": len(space.sheet.sharpness),
        "wind": len(space.sheet.wind_reduction),
        "tracks": len(space.sheet.sound_track),
    }
    return Freedom({block: np.ones(sizes[block], dtype=bool) for block in BLOCKS})


def pinned(free: Freedom, dials: dict[str, Dial], pins: Iterable[tuple[str, Any]]) -> Freedom:
    """Narrow a freedom by pins. pins: pairs of dial and value as `read_pins` returns them."""
    for name, value in pins:
        free = free.within(dials[name].block, dials[name].mask(value))
    return free


def read_pins(dials: dict[str, Dial], pins: dict[str, Any], camera: str) -> dict[str, Any]:
    """Match a brief's pins with a camera's values.

    dials: of the camera; pins: as in the brief; camera: its name, for messages.
    Returns the pins with the camera's own values. Raises BadBrief naming each that it does not offer.
    """
    read, faults = {}, []
    for name, given in pins.items():
        dial = dials.get(name)
        if dial is None:
            names = ", ".join(d.id for d in dials.values() if d.listed)
            faults.append(Fault(f"pins.{name}", f"the {camera} has no dial called '{name}'", f"Its dials are {names}."))
            continue
        value = _match(dial, given)
        if value is _NOTHING:
            offered = ", ".join(str(v) for v in dial.values)
            faults.append(
                Fault(f"pins.{name}", f"the {camera} does not offer {_said(given)} there", f"It offers {offered}.")
            )
        else:
            read[name] = value
    if faults:
        raise BadBrief(*faults)
    return read


_NOTHING = object()


def _match(dial: Dial, given: Any) -> Any:
    if dial.id == "nd" and not isinstance(given, str):
        given = "+".join(given) if isinstance(given, (list, tuple)) else NONE if given is None else given
    if dial.id == "nd" and isinstance(given, str) and given not in dial.values:
        wanted = sorted(part for part in given.split("+") if part)
        return next((v for v in dial.values if sorted(v.split("+")) == wanted), NONE if not wanted else _NOTHING)
    if given is None or (isinstance(given, str) and given in ("automatic", "auto")):
        return next((value for value in (AUTOMATIC, "automatic", NONE, AT_SPEED) if value in dial.values), _NOTHING)
    if isinstance(given, bool) or dial.id == "high_dynamic_range":
        return (
            given if isinstance(given, bool) and dial.id == "high_dynamic_range" and given in dial.values else _NOTHING
        )
    if given in dial.values:
        return dial.values[dial.values.index(given)]
    number = read_seconds(given) if dial.id == "shutter_s" else given
    if isinstance(number, (int, float)):
        near = [v for v in dial.values if isinstance(v, (int, float)) and abs(v - number) <= 5e-3 * abs(v)]
        return min(near, key=lambda v: abs(v - number)) if near else _NOTHING
    return _NOTHING


def _said(given: Any) -> str:
    text = str(given)
    return text if len(text) <= 40 else text[:37] + "..."
