"""Joins what a table or files told to a sheet that is begun: what was typed stays, what it lacks is added."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from steady_tide.core.cameras.completing import RoughSheet
from steady_tide.core.cameras.known import Known

Part = dict[str, Any]


def joined(rough: RoughSheet, sheet: Part, known: Known) -> RoughSheet:
    """Put a draft beside what was typed. rough: as typed; sheet, known: of the draft. Returns both as one."""
    mine = rough.known.model_dump()
    filled = {name: value for name, value in known.model_dump().items() if mine.get(name) is None}
    rest = {name: value for name, value in sheet.items() if name != "modes"}
    whole = RoughSheet(sheet=_beside(rough.sheet, rest), known=Known.model_validate({**mine, **filled}))
    modes = sheet.get("modes")
    return with_modes(whole, modes) if isinstance(modes, list | tuple) else whole


def with_modes(rough: RoughSheet, added: Sequence[Part], instead: bool = False) -> RoughSheet:
    """Add modes: what a mode of the same frame and rate lacks is filled from the new one, the rest comes besides.

    rough: as typed; added: modes of the open format, any part of each; instead: whether they take the place of all.
    Returns another sheet.
    """
    if instead:
        return rough.model_copy(update={"sheet": {**rough.sheet, "modes": list(added)}})
    typed = rough.sheet.get("modes")
    modes = [dict(mode) for mode in typed if isinstance(mode, dict)] if isinstance(typed, list | tuple) else []
    for mode in added:
        fresh = []
        for rate in _rates(mode):
            here = next((other for other in modes if _is_same(other, mode) and rate in _rates(other)), None)
            if here is None:
                fresh.append(rate)
            else:
                here.update({name: value for name, value in mode.items() if name not in here})
        if fresh:
            modes.append({**mode, "rates": fresh})
    return rough.model_copy(update={"sheet": {**rough.sheet, "modes": modes}})


def _rates(mode: Part) -> list[Any]:
    rates = mode.get("rates")
    return list(rates) if isinstance(rates, list | tuple) else []


def _is_same(one: Part, other: Part) -> bool:
    """Whether two modes have the same frame on the same lens; a lens that is not named may be any."""
    lenses = {mode["lens"] for mode in (one, other) if mode.get("lens") is not None}
    return one.get("width") == other.get("width") and one.get("height") == other.get("height") and len(lenses) < 2


def _beside(mine: Part, theirs: Part) -> Part:
    found = dict(mine)
    for name, value in theirs.items():
        here = found.get(name)
        if here is None or here == "":
            found[name] = value
        elif isinstance(here, dict) and isinstance(value, dict):
            found[name] = _beside(here, value)
    return found
