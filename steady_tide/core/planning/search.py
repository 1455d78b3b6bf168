"""The exact search: the least price over all legal combinations, and over those with any one value.

The joint cost falls apart once a few numbers are fixed, so most of it is eliminated exactly instead
of enumerated. Within one lens:

    look, focus,  each touch nothing but the picture                    -> eliminated into the picture
    sound, habits
    balance       sees the glass, too, where that changes the light's colour -> eliminated for each picture and glass
    exposure      (floor, ceiling, compensation) sees the picture only
                  through its noise, and noise only through the ISO used -> eliminated per ISO used
    glass         sees the picture only through its noise where the
                  exposure is held, and through its time where it is not -> eliminated per noise, or per time
    what is left  picture x time                                         -> evaluated as one array

Dials that touch no other are solved by themselves. Running the eliminations the other way round gives
the same for floor, ceiling and compensation, so that each dial has its whole cost profile.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from steady_tide.core.planning.exposure_tables import Table, weighed
from steady_tide.core.planning.items import views
from steady_tide.core.planning.noise_coupling import of_rungs
from steady_tide.core.planning.picture_prices import Group, Kinds
from steady_tide.core.planning.pinning import Freedom
from steady_tide.core.planning.precomputed import Candidates
from steady_tide.core.planning.prepared import OfLens, Prepared, prepare
from steady_tide.core.planning.quantities import noise_shortfall
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.solution import ATTACHED, Solution
from steady_tide.core.planning.space import INFINITE, ROUNDING, Bools, Floats, Ints, Space

THROUGH_EXPOSURE = ("iso_pairs", "compensations")  # blocks whose least prices are found from the exposures' side
FIRST_SLACK = 1.0  # stops above what any combination costs at least


def search(
    at: Situation, space: Space, free: Freedom, known: Prepared | None = None, about: str | None = None
) -> Solution:
    """Find the least price of all legal combinations, and of those with any one candidate.

    at, space, free, known: as in `prepare`; about: as in `solve`. Returns the solution; its total is infinite where
    nothing legal is left.
    """
    return solve(prepare(at, space, free, known), about)


def solve(prepared: Prepared, about: str | None = None) -> Solution:
    """Find the least price of all legal combinations, and of those with any one candidate.

    prepared: the camera; about: the one block whose candidates are asked about, all where left out. Returns the
    solution; its total is infinite where nothing legal is left.
    """
    through_exposure = about in (None, *THROUGH_EXPOSURE)
    groups = tuple(priced_together(prepared, of_lens, None, through_exposure) for of_lens in prepared.all_lenses())
    return solution_of(prepared, groups, about)


def solution_of(prepared: Prepared, groups: tuple[Group, ...], about: str | None) -> Solution:
    """What the priced pictures of all lenses say. prepared, about: as in `solve`; groups: priced over all pictures, too, where
    all blocks or those of exposure are asked about. Returns the solution."""
    places, through_exposure = prepared.places, about in (None, *THROUGH_EXPOSURE)
    tables = {group.table: prepared.table(group.table) for group in groups}
    least_alone = prepared.least_alone
    rest = sum(least_alone.values())
    total = min((float(group.of_picture.min()) for group in groups), default=INFINITE) + rest
    over_exposure = tuple(
        table.price + table.at_rung(group.of_rung)
        for group, table in zip(groups, tables.values(), strict=True)
        if through_exposure
    )
    minima, owner = _minima(prepared, groups, rest, about)
    by_exposure = tuple(_by_exposure(prices) for prices in over_exposure)
    for block in THROUGH_EXPOSURE:
        minima[block] = np.full(len(prepared.masks[block]), INFINITE)
        if by_exposure:  # none where the pins leave nothing, or it is not asked
            minima[block][places[block]] = np.minimum.reduce([prices[block] for prices in by_exposure]) + rest
    for dial, prices in prepared.alone.items():
        # As if the dial were free, so that a pin there needs no second search.
        others = total - least_alone[dial] if np.isfinite(total) else INFINITE
        minima[dial] = prices + others
    return Solution(
        total,
        minima,
        _pinned_alone(prepared),
        tables,
        groups,
        places,
        over_exposure,
        by_exposure,
        owner,
        prepared.at.weights["noise"],
    )


def least(prepared: Prepared, at_most: float | None = None) -> Solution | None:
    """Find only the cheapest combination.

    prepared: the camera; at_most: price of some legal combination, where one is known, stops.
    Returns a solution whose total and `best()` are right, and nothing else; None where nothing legal is left. Exact:
    pictures are left out only where their part alone exceeds the bound, and the bound is raised until the cheapest
    combination stays below it.
    """
    rest = sum(prepared.least_alone.values())
    if not np.isfinite(rest):
        return None
    total, best = (INFINITE if at_most is None else at_most - rest), None
    for number, found in prepared.by_lens.items():
        if float(found.base.min()) > total + ROUNDING:
            break  # all else costs something or nothing, and so do the lenses after this one
        of_lens = prepared.of_lens(number)
        group = None if of_lens is None else _cheapest(prepared, of_lens, total)
        if group is not None:
            joint = float(group.of_picture.min())
            if joint < total - ROUNDING or best is None or (joint <= total and number < best.table):
                total, best = min(total, joint), group
    if best is None:
        # Where the bound was a hair too low for rounding, ask again without one.
        return None if at_most is None else least(prepared)
    alone, noise = _pinned_alone(prepared), prepared.at.weights["noise"]
    tables = {best.table: prepared.table(best.table)}
    joint = float(best.of_picture.min())
    return Solution(joint + rest, {}, alone, tables, (best,), prepared.places, (), (), {}, noise)


def _cheapest(prepared: Prepared, of_lens: OfLens, at_most: float) -> Group | None:
    """The pictures of a lens of which one is the cheapest. at_most: stops that it must not exceed. Returns them priced,
    None where all exceed it."""
    bound = min(float(of_lens.lower.min()) + FIRST_SLACK, at_most)
    while True:
        hopeful = of_lens.lower <= bound + ROUNDING
        if not hopeful.any():
            return None
        group = priced_together(prepared, of_lens, hopeful, both_ways=False)
        joint = float(group.of_picture.min())
        # What exceeds the bound may have something cheaper among what the bound left out; nothing above what was found.
        if joint <= bound + ROUNDING:
            return group
        if bound in (at_most, INFINITE):
            return None
        bound = min(joint, at_most)


def _pinned_alone(prepared: Prepared) -> dict[str, Floats]:
    """Price of every value of a dial that touches no other, infinite where it is pinned away."""
    return {dial: np.where(prepared.masks[dial], prices, INFINITE) for dial, prices in prepared.alone.items()}


def _by_exposure(prices: Floats) -> dict[str, Floats]:
    """Least prices of ISO pairs and of compensations. prices: row x glass x pair x compensation."""
    of_both = prices.reshape(-1, *prices.shape[2:]).min(axis=0, initial=INFINITE)
    return {
        "iso_pairs": of_both.min(axis=1, initial=INFINITE),
        "compensations": of_both.min(axis=0, initial=INFINITE),
    }


def priced_together(prepared: Prepared, of_lens: OfLens, only: Bools | None, both_ways: bool) -> Group:
    """Price the pictures of one lens with everything. prepared: the camera; only: those that are looked at, all where left out; both_ways:
    whether exposures are priced over all pictures, too."""
    at, table, times = prepared.at, prepared.table(of_lens.number), of_lens.timed.times
    found = of_lens.found if only is None else of_lens.found.take(only)
    pace = of_lens.pace if only is None else of_lens.pace[only]
    fixed = of_lens.timed.price[pace]
    fixed += found.base[:, None]
    fixed += _within_frame(prepared, of_lens, found, of_lens.timed.dim_s[pace])
    noise = noise_shortfall(at, found.seen.photosites, found.pictures.noise_gain)
    balances, kinds = _kinds(prepared, found, noise)
    weight = at.weights["noise"]
    speeds = of_lens.timed.speeds
    of_held = speeds.least(kinds.shortfall[:, None, None], times.held)
    of_held += kinds.more[:, None, :]
    metered = speeds.least(noise[:, None, None], times.metered[pace])
    metered += fixed[:, len(times.held) :].reshape(metered.shape)
    metered += kinds.more[kinds.which][:, None, :]
    group = Group(
        of_lens.number, found.places, times, pace, fixed, noise, kinds, of_held, metered, found.attached, balances
    )
    return replace(group, of_rung=of_rungs(weight, table, group)) if both_ways else group


def _kinds(prepared: Prepared, found: Candidates, noise: Floats) -> tuple[Floats | None, Kinds]:
    """Kinds of pictures that no exposure tells apart: of the same noise, and with the same balances where these cost
    otherwise behind other glass. noise: of each picture. Returns what balances cost, None where it is the same behind
    any glass, and the kinds, the quietest first."""
    shortfall, which = np.unique(noise, return_inverse=True)
    if prepared.balances is None:
        return None, Kinds(shortfall, which, np.zeros((len(shortfall), prepared.places["glasses"].size)))
    fits = prepared.space.offer.balance_fits[np.ix_(found.places, prepared.places["balances"])]
    balances = np.where(fits[:, None, :], prepared.balances, INFINITE)
    alike, of_fits = np.unique(fits, axis=0, return_inverse=True)
    both, first, which = np.unique(which * len(alike) + of_fits.ravel(), return_index=True, return_inverse=True)
    # So far the least behind any glass was counted.
    more = balances[first].min(axis=2) - found.attached["balances"][first].min(axis=1)[:, None]
    return balances, Kinds(shortfall[both // len(alike)], which, more)


def _within_frame(prepared: Prepared, of_lens: OfLens, found: Candidates, dim_s: Floats) -> Floats:
    """Price of what moves within a frame and of what is not sharp. dim_s: picture x time. Returns picture x time."""
    at = prepared.at
    per_degree, steadied = found.seen.px_per_deg[:, None], found.pictures.steadied[:, None]
    openings = of_lens.timed.openings
    soft = weighed(at, views.SPOT, views.SpotView(at, per_degree, *openings.spots_deg, openings.past_best))
    soft = np.broadcast_to(soft, (len(found.places), len(openings.past_best)))
    moved = weighed(at, views.FRAME, views.FrameView(at, per_degree, steadied, dim_s))
    return np.asarray(moved + (soft if soft.shape[1] == 1 else soft[:, openings.which]))


def _minima(
    prepared: Prepared, groups: tuple[Group, ...], rest: float, about: str | None
) -> tuple[dict[str, Floats], dict[str, Ints]]:
    """Least price of each picture, gate, glass and look, and the group in which it was found. about: the one block that is
    asked about, all where left out."""
    places, asked = prepared.places, ("pictures", "gates", "glasses", *ATTACHED)
    sizes = {block: prepared.space.sizes[block] for block in asked if about in (None, block)}
    least = {block: np.full(size, INFINITE) for block, size in sizes.items()}
    owner = {block: np.zeros(size, dtype=np.intp) for block, size in sizes.items()}
    for number, group in enumerate(groups):
        table = prepared.table(group.table)
        for block, size in sizes.items():
            index, prices = _of_candidates(group, table, block, size)
            index = places[block] if index is None else index
            better = prices + rest < least[block][index]
            least[block][index[better]] = prices[better] + rest
            owner[block][index[better]] = number
    return least, owner


def _of_candidates(group: Group, table: Table, block: str, size: int) -> tuple[Ints | None, Floats]:
    """Least price of each candidate of a block in one group. Returns which candidates they are, None where it is those that
    are left, and their prices."""
    if block == "pictures":
        return group.pictures, group.of_picture
    if block == "gates":
        of_gate = np.full(size, INFINITE)
        np.minimum.at(of_gate, table.gates, group.of_cell.min(axis=1))
        return np.arange(size), of_gate
    if block == "glasses":
        return None, group.of_cell.min(axis=0)
    return None, group.with_each(block).min(axis=0)
