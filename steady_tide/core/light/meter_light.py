"""Kinds of light in which a meter may have habits of its own."""

from __future__ import annotations

from typing import Literal

from steady_tide.core.light.sources import LampLight, LightSource, WaterLight
from steady_tide.core.quantities.limits import Limits

LightKind = Literal["water", "lamps", "day", "dark"]
LIGHT_KINDS: tuple[LightKind, ...] = ("day", "dark", "lamps", "water")


def kind_of_light(source: LightSource, ev100: tuple[float, float], limits: Limits) -> LightKind:
    """What kind of light a shot is in, as a meter meets it.

    source: of its brief; ev100: what it comes to; limits: of judgement. Returns the kind.
    """
    if isinstance(source, WaterLight):
        return "water"
    if isinstance(source, LampLight):
        return "lamps"
    return "day" if sum(ev100) / 2.0 >= limits.habit_day_ev else "dark"
