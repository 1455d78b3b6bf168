"""A dial's chosen value against its runner-up: what reasons are made from."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from steady_tide.core.planning.priced_choice import Priced
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.space import Space


@dataclass(frozen=True)
class Comparison:
    """Two plans that differ in a dial: the chosen value and its rival, with both plans priced."""

    at: Situation
    space: Space
    dial: str
    chosen: Any
    rival: Any
    ours: Priced
    theirs: Priced
