"""What the planner may choose from."""

from __future__ import annotations

from steady_tide.core.frozen import Frozen
from steady_tide.core.gear import Cell, Filter, Housing, KitLamp, Medium
from steady_tide.core.sheet import CameraSheet


class Kit(Frozen):
    """What the planner may choose from."""

    cameras: tuple[CameraSheet, ...]
    filters: tuple[Filter, ...]
    housings: tuple[Housing, ...] = ()
    lamps: tuple[KitLamp, ...] = ()
    batteries: tuple[Cell, ...] = ()
    media: tuple[Medium, ...] = ()
