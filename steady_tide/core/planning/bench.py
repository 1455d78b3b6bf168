"""One camera laid out for one brief: its space, its dials, what is pinned and what the brief demands."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from itertools import combinations
from typing import Any

import numpy as np

from steady_tide.core.gear import Housing
from steady_tide.core.planning.pinning import Dial, Freedom, all_free, pinned
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.space import Bools, Space


@dataclass(frozen=True)
class Bench:
    """Everything that planning one camera for one brief needs."""

    at: Situation
    space: Space
    dials: dict[str, Dial]
    pins: dict[str, Any]
    names: dict[str, str]
    housings: tuple[Housing, ...] = ()

    @cached_property
    def demands(self) -> Freedom:
        """What the brief itself leaves free: interval films only from interval modes, all else only without."""
        return all_free(self.space).within("pictures", fitting(self.at, self.space))

    def free_but(self, *left_out: str) -> Freedom:
        """What demands and pins leave free. left_out: dials whose pins do not count. Returns the freedom."""
        return pinned(
            self.demands,
            self.dials,
            [(name, value) for name, value in self.pins.items() if name not in left_out],
        )

    def demands_against(self, dial: Dial, value: Any) -> bool:
        """Whether the brief itself excludes a value of a dial."""
        return not (self.demands.masks[dial.block] & dial.mask(value)).any()


def timed(at: Situation, space: Space) -> Bools:
    """Pictures of the kind that the brief wants, at speed or at intervals. Returns a mask over the pictures."""
    at_speed = np.isnan(space.pictures.interval_s)
    return ~at_speed if at.lapse else at_speed


def in_focus(at: Situation, space: Space) -> Bools:
    """Pictures through lenses that can be sharp on the subject; all of them where none can. Returns a mask."""
    reaches = np.array([at.can_focus(lens, space.flat_port) for lens in space.sheet.lenses])[space.pictures.lens]
    return reaches if reaches.any() else np.ones(len(reaches), dtype=bool)


def too_near(at: Situation, space: Space) -> bool:
    """Whether no lens of a camera can be sharp on the subject."""
    return not any(at.can_focus(lens, space.flat_port) for lens in space.sheet.lenses)


def fitting(at: Situation, space: Space) -> Bools:
    """Pictures that the brief leaves: of its kind, and through a lens that can be sharp on the subject. Returns a mask
    over the pictures."""
    of_kind = timed(at, space)
    both = of_kind & in_focus(at, space)
    return both if both.any() else of_kind


def is_legal(bench: Bench, free: Freedom) -> bool:
    """Whether anything legal is left. bench: of the camera; free: what is not pinned away."""
    space = bench.space
    if not all(mask.any() for mask in free.masks.values()):
        return False
    pictures = space.pictures
    looks = np.asarray((space.look_allowed & free.masks["looks"]).any(axis=1))
    focuses = np.asarray((space.offer.focus_fits & free.masks["focuses"]).any(axis=1))
    balances = np.asarray((space.offer.balance_fits & free.masks["balances"]).any(axis=1))
    gated = np.asarray((space.offer.gate_fits & free.masks["gates"]).any(axis=1))[space.offer.pair_of_picture]
    gained = np.asarray((space.offer.iso_fits & free.masks["iso_pairs"]).any(axis=1))[pictures.pace]
    glazed = np.asarray((space.glass_allowed & free.masks["glasses"]).any(axis=1))[pictures.lens]
    return bool((free.masks["pictures"] & looks & focuses & balances & gated & gained & glazed).any())


# Blocks where one dial's value can exclude another's.
_TIED = ("pictures", "gates", "looks", "iso_pairs", "focuses", "balances", "glasses")


def conflict(bench: Bench, pins: dict[str, Any], fixed: tuple[tuple[str, Any], ...] = ()) -> tuple[str, ...]:
    """The smallest set of pins that, with what is fixed, leaves nothing legal.

    bench: of the camera; pins: by dial; fixed: pairs of dial and value. Returns the dials, the first set
    among equals; none where the pins are not to blame: where what is fixed is not legal even without them.
    """
    tied = [name for name in pins if bench.dials[name].block in _TIED]
    for size in range(0 if fixed else 1, len(tied) + 1):
        for names in combinations(tied, size):
            tried = [*fixed, *((name, pins[name]) for name in names)]
            if not is_legal(bench, pinned(bench.demands, bench.dials, tried)):
                return names
    return ()
