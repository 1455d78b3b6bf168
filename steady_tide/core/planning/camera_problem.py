"""One camera laid out for one brief: its space, its dials, what is pinned and what the brief demands."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from functools import cached_property
from itertools import combinations
from typing import Any

import numpy as np

from steady_tide.core.gear.items import Housing, KitLamp
from steady_tide.core.planning.pinning import Dial, Freedom, all_free, pinned
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.space import Bools, Space


@dataclass(frozen=True)
class CameraProblem:
    """Everything that planning one camera for one brief needs."""

    at: Situation
    space: Space
    dials: dict[str, Dial]
    pins: dict[str, Any]
    names: dict[str, str]
    housings: tuple[Housing, ...] = ()
    lamps: tuple[KitLamp, ...] = ()
    reached: dict[tuple[str, ...], dict[str, Bools]] = field(default_factory=dict, compare=False, repr=False)

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

    def reaches(self, dial: Dial, value: Any, pins: tuple[str, ...] = ()) -> bool:
        """Whether a legal combination has a value, with the demands and some pins of the brief. pins: dials that are held
        to theirs. Returns the truth; what each candidate can be part of is worked out once for each set of pins."""
        if pins not in self.reached:
            held = pinned(self.demands, self.dials, [(name, self.pins[name]) for name in pins])
            self.reached[pins] = reachable(self.space, held)
        return bool((self.reached[pins][dial.block] & dial.mask(value)).any())


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


def is_legal(problem: CameraProblem, free: Freedom) -> bool:
    """Whether anything legal is left. problem: of the camera; free: what is not pinned away."""
    return bool(_pictures_left(problem.space, free).any())


def reachable(space: Space, free: Freedom) -> dict[str, Bools]:
    """What can be part of a legal combination. space: of the camera; free: what is not pinned away. Returns a mask over
    the candidates of each block."""
    left = _pictures_left(space, free)
    if not left.any():
        return {block: np.zeros(len(mask), dtype=bool) for block, mask in free.masks.items()}
    return {
        **free.masks,
        "pictures": left,
        **{
            block: free.masks[block] & fits[np.unique(kind[left])].any(axis=0)
            for block, (fits, kind) in space.beside.items()
        },
    }


def _pictures_left(space: Space, free: Freedom) -> Bools:
    """Pictures that go with something in every block, whatever goes with them in the others."""
    masks = free.masks
    if not all(mask.any() for mask in masks.values()):
        return np.zeros(len(space.pictures), dtype=bool)
    left = masks["pictures"].copy()
    for block, (fits, kind) in space.beside.items():
        left &= np.asarray((fits & masks[block]).any(axis=1))[kind]
    return left


def conflict(problem: CameraProblem, pins: dict[str, Any]) -> tuple[str, ...]:
    """The smallest set of pins that leaves nothing legal.

    problem: of the camera; pins: by dial. Returns the dials, the first set among equals; none where the pins are not to
    blame.
    """
    return _smallest(
        problem,
        pins,
        1,
        lambda names: is_legal(problem, pinned(problem.demands, problem.dials, [(name, pins[name]) for name in names])),
    )


def excluded_by(problem: CameraProblem, dial: Dial, value: Any) -> tuple[str, ...]:
    """The smallest set of the brief's pins on other dials beside which a value is not legal. problem: of the camera; dial,
    value: which. Returns the dials; none where it is not legal even without them, or legal with them all."""
    others = {name: pin for name, pin in problem.pins.items() if name != dial.id}
    return _smallest(problem, others, 0, lambda names: problem.reaches(dial, value, names))


def _smallest(
    problem: CameraProblem, pins: dict[str, Any], least: int, legal: Callable[[tuple[str, ...]], bool]
) -> tuple[str, ...]:
    # Where one dial's value can exclude another's.
    tied = [name for name in pins if problem.dials[name].block in ("pictures", *problem.space.beside)]
    for size in range(least, len(tied) + 1):
        for names in combinations(tied, size):
            if not legal(names):
                return names
    return ()
