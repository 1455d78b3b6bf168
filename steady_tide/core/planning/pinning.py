"""Dials laid out on a camera, and what pins leave free.

A block is a list of candidates (pictures, gates, glasses and so on); a dial groups the candidates of one block by
the value they have on it. Pinning a dial keeps the candidates of one group.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

import numpy as np

from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.planning.dials.dial_kind import NOT_OFFERED, DialKind
from steady_tide.core.planning.space import AT_HAND, Bools, Ints, Offer, Space
from steady_tide.core.quantities.errors import BadBrief, Fault
from steady_tide.core.quantities.identity_cache import once_for_each

MOST_SHOWN = 40  # characters of what a person wrote


@dataclass(frozen=True)
class Dial:
    """One dial of one camera: its values, and for each candidate of its block which value it has."""

    kind: DialKind
    values: tuple[Any, ...]
    of_candidate: Ints

    @property
    def id(self) -> str:
        """Which dial."""
        return self.kind.id

    @property
    def block(self) -> str:
        """The block that holds its candidates."""
        return self.kind.block

    @property
    def listed(self) -> bool:
        """Whether it is shown; one that is not only serves as a name for pins."""
        return self.kind.listed

    def mask(self, value: Any) -> Bools:
        """Candidates with a value. value: one of `values`. Returns a mask over the block."""
        return np.asarray(self.of_candidate == self.values.index(value))

    def value_of(self, candidate: int) -> Any:
        """The value of a candidate of its block."""
        return self.values[int(self.of_candidate[candidate])]


def dials_of(space: Space, kinds: dict[str, DialKind]) -> dict[str, Dial]:
    """All dials of a camera. space: what it can do; kinds: all that there are. Returns the dials by id."""
    by_sheet = _of_offer(space.offer, kinds)
    return {
        kind.id: by_sheet[kind.id] if kind.id in by_sheet else _laid(kind, space.sheet, getattr(space, kind.block))
        for kind in kinds.values()
    }


@once_for_each
def _of_offer(offer: Offer, kinds: dict[str, DialKind]) -> dict[str, Dial]:
    """Dials that depend on the sheet alone."""
    found = {}
    for kind in kinds.values():
        if kind.alone:
            found[kind.id] = _laid(kind, offer.sheet, offer.alone[kind.id])
        elif kind.block == "pictures":
            found[kind.id] = _grouped(kind, offer.sheet, kind.read(offer.sheet, offer.pictures).tolist())
        elif kind.block not in AT_HAND:
            found[kind.id] = _laid(kind, offer.sheet, getattr(offer, kind.block))
    return found


def _laid(kind: DialKind, sheet: CameraSheet, candidates: Iterable[Any]) -> Dial:
    return _grouped(kind, sheet, [kind.read(candidate) for candidate in candidates])


def _grouped(kind: DialKind, sheet: CameraSheet, of_candidates: list[Any]) -> Dial:
    present = dict.fromkeys(of_candidates)
    if kind.order is None:
        values = sorted(present, key=kind.key)
    else:
        # What the order does not name comes as it comes.
        values = [*(value for value in kind.order(sheet) if value in present)]
        values += [value for value in present if value not in values]
    places = {value: index for index, value in enumerate(values)}
    return Dial(kind, tuple(values), np.array([places[value] for value in of_candidates], dtype=np.intp))


@dataclass(frozen=True)
class Freedom:
    """Which candidates of each block may still be chosen."""

    masks: dict[str, Bools]

    def within(self, block: str, mask: Bools) -> Freedom:
        """The same with a block narrowed. Returns another freedom."""
        return Freedom({**self.masks, block: self.masks[block] & mask})


def all_free(space: Space) -> Freedom:
    """Nothing pinned. space: of the camera. Returns the freedom with every candidate."""
    return Freedom({block: np.ones(size, dtype=bool) for block, size in space.sizes.items()})


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
        value = dial.kind.reads(dial.values, given)
        if value is NOT_OFFERED:
            offered = ", ".join(str(v) for v in dial.values)
            faults.append(
                Fault(f"pins.{name}", f"the {camera} does not offer {_said(given)} there", f"It offers {offered}.")
            )
        else:
            read[name] = value
    if faults:
        raise BadBrief(*faults)
    return read


def _said(given: Any) -> str:
    text = str(given)
    return text if len(text) <= MOST_SHOWN else text[: MOST_SHOWN - 3] + "..."
