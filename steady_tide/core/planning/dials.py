"""Dials: how the settings that people turn lie over the blocks that the search moves in.

A block is a list of candidates (pictures, gates, glass and so on); a dial groups the candidates of
one block by the value they have on it. Pinning a dial keeps the candidates of one group.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from math import isnan
from typing import Any

import numpy as np

from steady_tide.core.errors import BadBrief, Fault
from steady_tide.core.planning.space import Bools, Ints, Space
from steady_tide.core.stops import read_seconds

BLOCKS = ("pictures", "gates", "glasses", "iso_pairs", "compensations", "looks", "balances", "sharpness", "wind")
AUTOMATIC = "auto"


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
    frames = [f"{modes[m].width}x{modes[m].height}" for m in pictures.mode]
    found = [
        _dial("frame", "pictures", frames, key=_frame_order),
        _dial("frame_rate", "pictures", pictures.rate.tolist(), key=float),
        _dial("view", "pictures", [sheet.views[v].id for v in pictures.view], [view.id for view in sheet.views]),
        _dial(
            "stabilisation",
            "pictures",
            [sheet.stabilisation[s].id for s in pictures.steadying],
            [s.id for s in sheet.stabilisation],
        ),
        _dial("shutter_s", "gates", [AUTOMATIC if isnan(t) else t for _, _, t in space.gates], key=_shutter_order),
        _dial("iso_floor", "iso_pairs", [low for low, _ in space.iso_pairs], key=int),
        _dial("iso_ceiling", "iso_pairs", [high for _, high in space.iso_pairs], key=int),
        _dial(
            "nd",
            "glasses",
            ["+".join(glass.ids) or "none" for glass in space.glasses],
            ["+".join(g.ids) or "none" for g in space.glasses],
        ),
        _dial("exposure_compensation", "compensations", list(space.compensations), key=float),
        _dial(
            "white_balance_k",
            "balances",
            [AUTOMATIC if k is None else k for k in space.balances],
            [AUTOMATIC if k is None else k for k in space.balances],
        ),
        _dial(
            "profile", "looks", [look.profile.id for look in space.looks], [profile.id for profile in sheet.profiles]
        ),
        _dial("bit_depth", "looks", [look.bit_depth for look in space.looks], key=int),
        _dial("sharpness", "sharpness", list(sheet.sharpness), list(sheet.sharpness)),
        _dial("high_dynamic_range", "looks", [look.high_dynamic_range for look in space.looks], key=bool),
        _dial("codec", "looks", [look.codec.id for look in space.looks], [codec.id for codec in sheet.codecs]),
        _dial("bit_rate_mb_s", "looks", [look.bit_rate_mb_s for look in space.looks], key=float),
        _dial("wind_reduction", "wind", list(sheet.wind_reduction), list(sheet.wind_reduction)),
        _unlisted("width", "pictures", [modes[m].width for m in pictures.mode]),
        _unlisted("height", "pictures", [modes[m].height for m in pictures.mode]),
        _unlisted("shutter_mode", "gates", [AUTOMATIC if isnan(t) else "fixed" for _, _, t in space.gates]),
    ]
    return {dial.id: dial for dial in found}


def _dial(
    name: str,
    block: str,
    of_candidates: list[Any],
    order: list[Any] | None = None,
    key: Callable[[Any], Any] | None = None,
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
        "balances": len(space.balances),
        "sharpness": len(space.sheet.sharpness),
        "wind": len(space.sheet.wind_reduction),
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
        given = "+".join(given) if isinstance(given, (list, tuple)) else "none" if given is None else given
    if dial.id == "nd" and isinstance(given, str) and given not in dial.values:
        wanted = sorted(part for part in given.split("+") if part)
        return next((v for v in dial.values if sorted(v.split("+")) == wanted), "none" if not wanted else _NOTHING)
    if given is None and AUTOMATIC in dial.values:
        return AUTOMATIC
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
