"""Pinned dials, each as if it were free beside the pins of the others: what its other values would cost.

A dial of the picture, or of what touches nothing but the picture, changes no exposure. So one search over all that any of
them would leave serves them all; for each, what the others' pins leave is taken from it.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from steady_tide.core.planning.camera_problem import CameraProblem
from steady_tide.core.planning.pinning import Freedom
from steady_tide.core.planning.prepared import Prepared, prepare
from steady_tide.core.planning.search import priced_together, search, solution_of
from steady_tide.core.planning.solution import ATTACHED, Solution

# Balances see the glass, too.
TOGETHER = ("pictures", *(block for block in ATTACHED if block != "balances"))


def unpinned_solutions(problem: CameraProblem, prepared: Prepared) -> dict[str, Solution]:
    """What each pinned dial that is shown would cost at every value, beside the other pins.

    problem: of the camera; prepared: with all its pins. Returns a solution for each of these dials, in which only that dial's block
    can be asked about; dials that touch no other need none.
    """
    names = [name for name in problem.pins if problem.dials[name].listed and not problem.dials[name].kind.alone]
    free = {name: problem.free_but(name) for name in names}
    together = [name for name in names if problem.dials[name].block in TOGETHER]
    if len(together) < 2:
        together = []
    found = {
        name: search(problem.at, problem.space, free[name], prepared, problem.dials[name].block)
        for name in names
        if name not in together
    }
    return found | (_at_once(problem, prepared, {name: free[name] for name in together}) if together else {})


def _at_once(problem: CameraProblem, prepared: Prepared, free: dict[str, Freedom]) -> dict[str, Solution]:
    """One search for dials of which none changes an exposure. free: what the pins of the others leave, by dial. Returns solutions by dial."""
    any_of = {
        block: np.logical_or.reduce([one.masks[block] for one in free.values()]) if block in TOGETHER else mask
        for block, mask in next(iter(free.values())).masks.items()
    }
    every = prepare(problem.at, problem.space, Freedom(any_of), prepared)
    groups = [priced_together(every, of_lens, None, both_ways=False) for of_lens in every.all_lenses()]
    found = {}
    for name, one in free.items():
        fewer = {block: one.masks[block] for block in TOGETHER if not np.array_equal(one.masks[block], any_of[block])}
        places = {**every.places, **{block: np.flatnonzero(mask) for block, mask in fewer.items()}}
        left = replace(every, masks=one.masks, places=places)
        columns = {block: mask[every.places[block]] for block, mask in fewer.items() if block != "pictures"}
        narrowed = (group.narrowed(one.masks["pictures"][group.pictures], columns) for group in groups)
        mine = tuple(group for group in narrowed if len(group.pictures))
        found[name] = solution_of(left, mine, problem.dials[name].block)
    return found
