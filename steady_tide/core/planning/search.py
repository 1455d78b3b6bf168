"""The exact search: the least price over all legal combinations, and over those with any one value.

The joint cost falls apart once a few numbers are fixed, so most of it is eliminated exactly instead
of enumerated. Within one lens:

    look, focus,  each touch nothing but the picture                    -> eliminated into the picture
    sound, habits
    balance       sees the glass, too, where that changes the light's colour -> eliminated for each picture and glass
    exposure      (floor, ceiling, compensation) sees the picture only
                  through its noise, and noise only through the ISO used -> eliminated per ISO used
    what is left  picture x gate x glass                                 -> evaluated as one array

Dials that touch no other are solved by themselves. Running the eliminations the other way round gives
the same for floor, ceiling and compensation, so that each dial has its whole cost profile.
"""

from __future__ import annotations

import numpy as np

from steady_tide.core.planning.items import views
from steady_tide.core.planning.pinning import Freedom
from steady_tide.core.planning.prepared import Candidates, OfLens, Prepared, prepare
from steady_tide.core.planning.quantities import noise_shortfall
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.solution import ATTACHED, INFINITE, Group, Solution, Table
from steady_tide.core.planning.space import ROUNDING, Bools, Floats, Ints, Space
from steady_tide.core.planning.tables import weighed

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
    at, space, places = prepared.at, prepared.space, prepared.places
    through_exposure = about in (None, *THROUGH_EXPOSURE)
    groups = tuple(_group(prepared, of_lens, None, through_exposure) for of_lens in prepared.all_lenses())
    tables = {group.table: prepared.table(group.table) for group in groups}
    least_alone = prepared.least_alone
    rest = sum(least_alone.values())
    total = min((float(group.of_picture.min()) for group in groups), default=INFINITE) + rest
    over_exposure = tuple(
        table.price + table.at_rung(group.of_rung)
        for group, table in zip(groups, tables.values(), strict=True)
        if through_exposure
    )
    minima, owner = _minima(space, tables, groups, places, rest)
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
        at.weights["noise"],
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
        group = _group(prepared, of_lens, hopeful, both_ways=False)
        joint = float(group.of_picture.min())
        # What exceeds the bound may have something cheaper among what the bound left out; nothing above what was found.
        if joint <= bound + ROUNDING:
            return group
        if bound in (at_most, INFINITE):
            return None
        bound = min(joint, at_most)


def _pinned_alone(prepared: Prepared) -> dict[str, Floats]:
    return {dial: np.where(prepared.masks[dial], prices, INFINITE) for dial, prices in prepared.alone.items()}


def _by_exposure(prices: Floats) -> dict[str, Floats]:
    """Least prices of ISO pairs and of compensations. prices: row x glass x pair x compensation."""
    of_both = prices.reshape(-1, *prices.shape[2:]).min(axis=0, initial=INFINITE)
    return {
        "iso_pairs": of_both.min(axis=1, initial=INFINITE),
        "compensations": of_both.min(axis=0, initial=INFINITE),
    }


def _group(prepared: Prepared, of_lens: OfLens, only: Bools | None, both_ways: bool) -> Group:
    """Price the pictures of one lens with everything. prepared: the camera; only: those that are looked at, all where left out; both_ways:
    whether exposures are priced over all pictures, too."""
    at, space, table = prepared.at, prepared.space, prepared.table(of_lens.number)
    found = of_lens.found if only is None else of_lens.found.take(only)
    pace = of_lens.pace if only is None else of_lens.pace[only]
    within = _within_frame(at, space, of_lens.number, table, found)
    fixed = of_lens.of_pace[pace]
    fixed += found.base[:, None, None]
    fixed += within
    balances = None
    if prepared.balances is not None:
        fits = space.offer.balance_fits[np.ix_(found.places, prepared.places["balances"])]
        balances = np.where(fits[:, None, :], prepared.balances, INFINITE)
        # So far the least behind any glass was counted.
        fixed += (balances.min(axis=2) - found.attached["balances"].min(axis=1)[:, None])[:, None, :]
    shortfall = noise_shortfall(at, found.seen.photosites, found.pictures.noise_gain)
    least_exposure, of_rung = _through_noise(at.weights["noise"], shortfall, fixed, table, both_ways)
    least_exposure += fixed
    return Group(of_lens.number, found.places, least_exposure, fixed, shortfall, of_rung, found.attached, balances)


def _within_frame(at: Situation, space: Space, lens: int, table: Table, found: Candidates) -> Floats:
    """Price of what moves within a frame and of what is not sharp. Returns picture x row x glass.

    Pictures that see alike are looked at once.
    """
    per_degree, steadied = found.seen.px_per_deg, found.pictures.steadied
    _, first, alike = np.unique(np.where(steadied, -per_degree, per_degree), return_index=True, return_inverse=True)
    scale = per_degree[first][:, None, None]
    moved = views.FrameView(at, scale, steadied[first][:, None, None], table.exposures.dim_s)
    openings, which = np.unique(space.offer.openings_mm[table.gates], return_inverse=True)
    spots = views.spots_deg(at, space.sheet.lenses[lens], openings, space.flat_port)
    past = views.past_best_stops(at, openings, space.offer.widest_mm[lens])
    soft = weighed(at, views.SPOT, views.SpotView(at, scale[..., 0], *spots, past))
    soft = np.broadcast_to(soft, (len(first), len(openings)))
    return np.asarray(weighed(at, views.FRAME, moved) + soft[:, which][:, :, None])[alike]


def _through_noise(
    weight: float, shortfall: Floats, fixed: Floats, table: Table, both_ways: bool
) -> tuple[Floats, Floats]:
    """Eliminate exposure for each picture, and, if asked both ways, pictures for each ISO in use.

    Returns picture x row x glass and row x glass x rung. Pictures with the same noise are looked at once
    only. One way, a speed is left out where a quieter one costs no more; the other way, a kind of picture
    where a quieter one costs no more anywhere.
    """
    kinds, kind = np.unique(shortfall, return_inverse=True)
    rungs = table.by_rung.shape[-1]
    price = table.by_rung.reshape(-1, rungs)
    adds = table.noise_of.reshape(-1, rungs)

    by_noise = np.argsort(adds, axis=1, kind="stable")
    rising = np.take_along_axis(price, by_noise, axis=1)
    cheaper = rising < np.minimum.accumulate(np.pad(rising, ((0, 0), (1, 0)), constant_values=INFINITE), axis=1)[:, :-1]
    # The few speeds that are left for each exposure, side by side, so that whole columns are looked at at once.
    owner, rung = np.nonzero(cheaper)
    slot = (np.cumsum(cheaper, axis=1) - 1)[owner, rung]
    slots = int(slot.max(initial=-1)) + 1
    left_price, left_adds = np.full((slots, len(price)), INFINITE), np.zeros((slots, len(price)))
    left_price[slot, owner] = rising[owner, rung]
    left_adds[slot, owner] = np.take_along_axis(adds, by_noise, axis=1)[owner, rung]
    least = np.full((len(kinds), len(price)), INFINITE)
    for column, added in zip(left_price, left_adds, strict=True):
        joined = np.add.outer(kinds, added)
        np.maximum(joined, 0.0, out=joined)
        joined *= weight
        joined += column
        np.minimum(least, joined, out=least)
    of_rung = _over_kinds(weight, kinds, kind, fixed, price, adds) if both_ways else np.empty((0, 0, 0))
    return least[kind].reshape(fixed.shape), of_rung.reshape(*fixed.shape[1:], rungs) if both_ways else of_rung


def _over_kinds(weight: float, kinds: Floats, kind: Ints, fixed: Floats, price: Floats, adds: Floats) -> Floats:
    """Least price over kinds of pictures for each ISO in use. Returns (row and glass) x rung.

    A kind is looked at only where no quieter one is as cheap.
    """
    of_kind = _least_of_kinds(fixed.reshape(len(kind), -1), kind)
    useful = np.ones(of_kind.shape, dtype=bool)
    useful[1:] = of_kind[1:] < np.minimum.accumulate(of_kind, axis=0)[:-1]
    owner, which = np.nonzero(useful.T)
    joined = kinds[which, None] + adds[owner]
    np.maximum(joined, 0.0, out=joined)
    joined *= weight
    joined += of_kind[which, owner][:, None]
    found = np.minimum.reduceat(joined, np.flatnonzero(np.diff(owner, prepend=-1)), axis=0)
    return np.where(np.isfinite(price), found, INFINITE)


def _least_of_kinds(prices: Floats, kind: Ints) -> Floats:
    """Least price of each kind of pictures. prices: picture x exposure; kind: of each picture. Returns kind x exposure.

    The first of every kind, then the second where there is one, and so on: few steps over whole rows.
    """
    in_order = np.argsort(kind, kind="stable")
    begins = np.flatnonzero(np.diff(kind[in_order], prepend=-1))
    counts = np.diff(np.append(begins, len(kind)))
    least = prices[in_order[begins]]
    for nth in range(1, int(counts.max())):
        has = counts > nth
        least[has] = np.minimum(least[has], prices[in_order[begins[has] + nth]])
    return least


def _minima(
    space: Space, tables: dict[int, Table], groups: tuple[Group, ...], places: dict[str, Ints], rest: float
) -> tuple[dict[str, Floats], dict[str, Ints]]:
    """Least price of each picture, gate, glass and look, and the group in which it was found."""
    sizes = {block: space.sizes[block] for block in ("pictures", "gates", "glasses", *ATTACHED)}
    least = {block: np.full(size, INFINITE) for block, size in sizes.items()}
    owner = {block: np.zeros(size, dtype=np.intp) for block, size in sizes.items()}
    for number, group in enumerate(groups):
        of_attached = [(name, places[name], group.with_each(name).min(axis=0)) for name in group.attached]
        of_gate = group.joint.min(axis=0)
        of_row = np.full(sizes["gates"], INFINITE)
        np.minimum.at(of_row, tables[group.table].gates, of_gate.min(axis=1))
        for block, index, prices in (
            ("pictures", group.pictures, group.of_picture),
            ("gates", np.arange(sizes["gates"]), of_row),
            ("glasses", places["glasses"], of_gate.min(axis=0)),
            *of_attached,
        ):
            better = prices + rest < least[block][index]
            least[block][index[better]] = prices[better] + rest
            owner[block][index[better]] = number
    return least, owner
