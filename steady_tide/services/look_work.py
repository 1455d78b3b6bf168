"""What the worker of pictures does: it draws frames, and parts of films."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.brief.brief import School
from steady_tide.core.quantities.errors import NoLegalPlan
from steady_tide.services.look_frames import LookAsked, Looked, Looker, OwnStill
from steady_tide.services.planning_tasks import unpacked

_looker = Looker()
Packed = tuple[str, bytes]
Films = list[tuple[LookAsked, OwnStill | None]]


def look_of(asked: LookAsked, crew: School, kit: Packed, still: OwnStill | None) -> Looked | NoLegalPlan:
    """Draw a frame. kit: packed. Returns it, or why there is no plan."""
    gear = unpacked(kit)
    try:
        taking = _looker.taking(asked, crew, gear.kit, gear.knowledge, kit[0])
    except NoLegalPlan as refused:
        return refused
    return _looker.frame(asked, taking, still)


def film_of(
    asked: Films, crew: School, kit: Packed, seconds: float, start: int, stop: int
) -> list[NDArray[np.uint8]] | NoLegalPlan:
    """Draw a part of a film, of several plans side by side. start, stop: which frames. Returns them."""
    gear = unpacked(kit)
    try:
        takings = [_looker.taking(one, crew, gear.kit, gear.knowledge, kit[0]) for one, _ in asked]
    except NoLegalPlan as refused:
        return refused
    reels = [
        _looker.film(one, taking, seconds, start, stop, still)
        for (one, still), taking in zip(asked, takings, strict=True)
    ]
    return [np.hstack(frames) for frames in zip(*reels, strict=True)]
