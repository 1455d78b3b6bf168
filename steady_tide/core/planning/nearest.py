"""The nearest rival of a value: the plan that differs in this dial, and in as little else as can be."""

from __future__ import annotations

import numpy as np

from steady_tide.core.planning.camera_problem import CameraProblem
from steady_tide.core.planning.pinning import Dial
from steady_tide.core.planning.priced_choice import Choice
from steady_tide.core.planning.space import Bools, Ints


def nearest(problem: CameraProblem, ours: Choice, dial: Dial, value: int, beside: dict[str, Bools]) -> Choice | None:
    """Turn one dial of a plan and leave the rest.

    problem: of the camera; ours: the plan; dial: which to turn; value: place among its values; beside: what goes with the
    plan in each block, as far as it was asked before. Returns the legal
    combination that differs least besides; through another lens the opening is that lens's. None where turning it
    makes other dials illegal.
    """
    places = np.flatnonzero(dial.of_candidate == value)
    if dial.block not in beside:
        beside[dial.block] = _fits(problem, ours, dial.block) & problem.demands.masks[dial.block]
    places = places[beside[dial.block][places]]
    if len(places) == 0:
        return None
    best = int(places[np.argmin(_differences(problem, ours, dial, places))]) if len(places) > 1 else int(places[0])
    turned = dict(ours.places) | {dial.block: best}
    if dial.block == "pictures":
        gate = _gate_through(problem, ours, int(problem.space.pictures.lens[best]))
        if gate is None:
            return None
        turned["gates"] = gate
    return Choice.from_places(turned)


def turned_besides(problem: CameraProblem, ours: Choice, theirs: Choice, dial: str) -> tuple[str, ...]:
    """Dials that another plan turns besides one. Returns their ids, in the order in which a plan names them."""
    return tuple(
        name
        for name, other in problem.dials.items()
        if other.listed and name != dial and other.value_of(ours[other.block]) != other.value_of(theirs[other.block])
    )


def _differences(problem: CameraProblem, ours: Choice, dial: Dial, places: Ints) -> Ints:
    """How many other dials of the block each candidate turns."""
    count = np.zeros(len(places), dtype=np.intp)
    for other in problem.dials.values():
        if other.block == dial.block and other.id != dial.id and other.listed:
            count += other.of_candidate[places] != other.of_candidate[ours[dial.block]]
    return count


def _fits(problem: CameraProblem, ours: Choice, block: str) -> Bools:
    """Which candidates of a block go with the rest of a plan."""
    space, picture = problem.space, ours["pictures"]
    if block == "pictures":
        lens, fitting = space.pictures.lens, np.ones(len(space.pictures), dtype=bool)
        for other, (fits, kind) in space.beside.items():
            goes = fits[:, ours[other]][kind]
            # Another lens has gates of its own.
            fitting &= np.where(lens == lens[picture], goes, True) if other == "gates" else goes
        return fitting
    if block in space.beside:
        fits, kind = space.beside[block]
        return np.asarray(fits[kind[picture]])
    return np.ones(space.sizes[block], dtype=bool)


def _gate_through(problem: CameraProblem, ours: Choice, lens: int) -> int | None:
    """The plan's gate through a lens: the same exposure at the opening nearest to its own."""
    space = problem.space
    own_lens, f_number, seconds = space.gates[ours["gates"]]
    if lens == own_lens:
        return ours["gates"]
    same = np.isnan(space.offer.gate_s) if seconds != seconds else space.offer.gate_s == seconds
    places = np.flatnonzero((space.offer.gate_lens == lens) & same)
    if len(places) == 0:
        return None
    return int(places[np.argmin(np.abs(np.log2(space.offer.gate_f_number[places] / f_number)))])
