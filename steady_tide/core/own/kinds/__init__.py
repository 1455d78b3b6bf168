"""All kinds of own numbers, each defined once in the files of this folder."""

from __future__ import annotations

from steady_tide.core.own.kinds.filmed import LEAK, METERING, SHAKE
from steady_tide.core.own.kinds.judged import NOISE
from steady_tide.core.own.kinds.noted import (
    CAPACITY,
    CARD,
    CLOCK,
    DRAW,
    GLASS,
    GLASS_BLUE,
    GLASS_RED,
    HEAT,
    KEEPS,
    READOUT,
)
from steady_tide.core.own.own_kind import OwnKind

KINDS: tuple[OwnKind, ...] = (
    NOISE, METERING, SHAKE, LEAK, KEEPS, READOUT, GLASS, GLASS_RED, GLASS_BLUE, CAPACITY, DRAW, HEAT, CARD, CLOCK,
)  # fmt: skip
BY_ID = {kind.id: kind for kind in KINDS}
