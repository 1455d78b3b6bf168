"""The exact search: the least price over all legal combinations, and over those with any one value.

The joint cost falls apart once a few numbers are fixed, so most of it is eliminated exactly instead
of enumerated. Within one lens and rate:

    look          touches the picture only through its frame size       -> eliminated into the picture
    exposure      (floor, ceiling, compensation) sees the picture only
                  through its noise, and noise only through the ISO used -> eliminated per ISO used
    what is left  picture x gate x glass                                 -> evaluated as one array

Balance, sharpness and wind reduction stand alone. Running the eliminations the other way round gives
the same for floor, ceiling and compensation, so that each dial has its whole cost profile.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import isnan

import numpy as np

from steady_tide.core.planning import costs
from steady_tide.core.planning.dials import Freedom
from steady_tide.core.planning.metering import Asked, Exposures, exposure_times, meter
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.space import (
    Floats,
    Geometry,
    Glass,
    Ints,
    Space,
    geometry,
    legal_gates,
)

INFINITE = float("inf")


@dataclass(frozen=True)
class Choice:
    """One combination: a place in each block of a space."""

    pictures: int
    gates: int
    glasses: int
    iso_pairs: int
    compensations: int
    looks: int
    balances: int
    sharpness: int
    wind: int


@dataclass(frozen=True)
class _Table:
    """What exposure costs behind one lens; rows are gates, an automatic one standing once for each rate."""

    gates: Ints  # row
    rates: Floats  # row; NaN where the rate does not matter
    price: Floats  # row x glass x iso pair x compensation: without noise
    ladder: Floats  # row x glass x rung: log2 of the ISO speeds that can be in use
    rung: Ints  # the shape of price: which of them is
    by_rung: Floats  # row x glass x rung: least price
    noise_of: Floats  # row x glass x rung: noise that this ISO brings
    exposures: Exposures  # row x glass: times at both ends of the light

    def at_rung(self, values: Floats) -> Floats:
        """Spread values of rungs over the exposures that use them. Returns the shape of `price`."""
        flat = self.rung.reshape(*self.rung.shape[:2], -1)
        return np.take_along_axis(values, flat, axis=-1).reshape(self.rung.shape)


@dataclass(frozen=True)
class _Group:
    """The pictures of one lens at one rate, with the rows of the lens's table that they may use."""

    table: int
    rows: Ints
    pictures: Ints
    joint: Floats  # picture x row x glass: least price
    fixed: Floats  # picture x row x glass: without exposure and noise
    shortfall: Floats  # picture
    of_rung: Floats  # row x glass x rung: least price over the pictures, without exposure
    of_look: Floats  # picture x look


@dataclass(frozen=True)
class Solution:
    """Least prices for every candidate of every block, and the way back to the combinations.

    Blocks that stand alone have one dial each and touch nothing else; their least prices are given as
    if that dial were free, so that a pin there needs no second search.
    """

    total: float
    minima: dict[str, Floats]
    alone: dict[str, Floats]
    tables: tuple[_Table, ...]
    groups: tuple[_Group, ...]
    places: dict[str, Ints]
    over_exposure: tuple[Floats, ...]  # for each table, the shape of its price
    owner: dict[str, Ints]  # for each block, the group that holds a candidate's least price
    noise_weight: float

    def best(self, block: str | None = None, candidates: Ints | None = None) -> Choice:
        """The cheapest combination, or the cheapest with one of some candidates of a block.

        block, candidates: of the space; None asks for the cheapest of all. Returns the combination;
        the first in the order of the space among equals. Only where the price is finite.
        """
        keep = slice(None) if candidates is None else candidates
        alone = {name: int(np.argmin(prices)) for name, prices in self.alone.items()}
        if block in self.alone:
            allowed = np.full(len(self.alone[block]), INFINITE)
            allowed[keep] = self.minima[block][keep]
            alone[block] = int(np.argmin(allowed))
        if block in ("iso_pairs", "compensations"):
            return Choice(**self._through_exposure(block, keep), **alone)
        if block is None or block in self.alone:
            group = min(self.groups, key=lambda g: float(g.joint.min()))
            return Choice(**self._in_group(group, "all", 0), **alone)
        least = np.full(len(self.minima[block]), INFINITE)
        least[keep] = self.minima[block][keep]
        wanted = int(np.argmin(least))
        return Choice(**self._in_group(self.groups[self.owner[block][wanted]], block, wanted), **alone)

    def _in_group(self, group: _Group, block: str, wanted: int) -> dict[str, int]:
        table = self.tables[group.table]
        joint = group.joint
        if block == "looks":
            joint = (
                joint
                + (group.of_look[:, self.places["looks"] == wanted].min(axis=1) - group.of_look.min(axis=1))[
                    :, None, None
                ]
            )
        axis = {
            "pictures": (group.pictures == wanted)[:, None, None],
            "gates": (table.gates[group.rows] == wanted)[:, None],
            "glasses": self.places["glasses"] == wanted,
        }.get(block)
        priced = joint if axis is None else np.where(axis, joint, INFINITE)
        picture, place, glass = (int(i) for i in np.unravel_index(int(np.argmin(priced)), priced.shape))
        row = int(group.rows[place])
        noise = np.maximum(0.0, group.shortfall[picture] + table.noise_of[row, glass][table.rung[row, glass]])
        within = table.price[row, glass] + self.noise_weight * noise
        pair, compensation = (int(i) for i in np.unravel_index(int(np.argmin(within)), within.shape))
        look = (
            int(np.argmin(group.of_look[picture]))
            if block != "looks"
            else int(np.flatnonzero(self.places["looks"] == wanted)[0])
        )
        return self._named(group, picture, row, glass, pair, compensation, look)

    def _through_exposure(self, block: str, keep: Ints | slice) -> dict[str, int]:
        bar = np.full(len(self.minima[block]), INFINITE)
        bar[keep] = 0.0
        bar = bar[self.places[block]]
        bar = bar[:, None] if block == "iso_pairs" else bar
        number = int(np.argmin([float((prices + bar).min()) for prices in self.over_exposure]))
        table = self.tables[number]
        priced = self.over_exposure[number] + bar
        row, glass, pair, compensation = (int(i) for i in np.unravel_index(int(np.argmin(priced)), priced.shape))
        rung = table.rung[row, glass, pair, compensation]
        owners = [group for group in self.groups if group.table == number and row in group.rows]
        group = min(owners, key=lambda g: float(g.of_rung[int(np.flatnonzero(g.rows == row)[0]), glass, rung]))
        place = int(np.flatnonzero(group.rows == row)[0])
        noise = np.maximum(0.0, group.shortfall + table.noise_of[row, glass, rung])
        picture = int(np.argmin(group.fixed[:, place, glass] + self.noise_weight * noise))
        return self._named(group, picture, row, glass, pair, compensation, int(np.argmin(group.of_look[picture])))

    def _named(
        self, group: _Group, picture: int, row: int, glass: int, pair: int, compensation: int, look: int
    ) -> dict[str, int]:
        return {
            "pictures": int(group.pictures[picture]),
            "gates": int(self.tables[group.table].gates[row]),
            "glasses": int(self.places["glasses"][glass]),
            "iso_pairs": int(self.places["iso_pairs"][pair]),
            "compensations": int(self.places["compensations"][compensation]),
            "looks": int(self.places["looks"][look]),
        }


def weighed(at: Situation, items: costs.Items) -> Floats:
    """Sum of weight times stops over some items. Returns an array of their common shape."""
    total: Floats = np.zeros(())
    for name, stops in items.items():
        if at.weights[name]:
            total = total + at.weights[name] * stops
    return np.asarray(total)


STANDING_ALONE = ("balances", "sharpness", "wind")
EXPOSURE_ITEMS = ("over", "under", "gain_behind_glass", "spare_gain", "raised_floor", "metering", "glass")


def search(at: Situation, space: Space, free: Freedom) -> Solution:
    """Find the least price of all legal combinations, and of those with any one candidate.

    at: what the brief asks for; space: what the camera can do; free: what is not pinned away.
    Returns the solution; its total is infinite where nothing legal is left.
    """
    return _search(at, space, free, INFINITE, None)


def cheapest(
    at: Situation, space: Space, known: Solution, known_at: Situation, free: Freedom, at_most: float
) -> Choice | None:
    """Find only the cheapest combination under other weights, faster than `search`.

    at, space, free: as in `search`; known, known_at: a solution for the same light and the same
    freedom; at_most: price under `at` of some legal combination, stops.
    Returns the combination, None where nothing legal is left. It is exact: candidates are left out
    only where their part alone exceeds the known price, and the known solution's exposure tables are
    used again only where no weight in them differs.
    """
    same = at.light == known_at.light and all(at.weights[item] == known_at.weights[item] for item in EXPOSURE_ITEMS)
    solution = _search(at, space, free, at_most, known.tables if same else None)
    return solution.best() if np.isfinite(solution.total) else None


def _search(at: Situation, space: Space, free: Freedom, at_most: float, tables: tuple[_Table, ...] | None) -> Solution:
    places = {block: np.flatnonzero(mask) for block, mask in free.masks.items()}
    alone = {
        "balances": weighed(at, costs.balance_costs(at, space.balances)),
        "sharpness": weighed(at, costs.sharpness_costs(at, space.sheet.sharpness)),
        "wind": weighed(at, costs.wind_costs(at, space.sheet.wind_reduction)),
    }
    unpinned = alone
    alone = {block: np.where(free.masks[block], prices, INFINITE) for block, prices in alone.items()}
    tables, groups = _tables_and_groups(
        at, space, places, at_most - sum(float(p.min()) for p in alone.values()), tables
    )
    joint = min((float(group.joint.min()) for group in groups if group.joint.size), default=INFINITE)
    least_alone = {block: float(prices.min()) for block, prices in alone.items()}
    total = joint + sum(least_alone.values())
    if at_most < INFINITE:
        return Solution(total, {}, alone, tables, groups, places, (), {}, at.weights["noise"])
    rest = sum(least_alone.values())
    over_exposure = tuple(_over_exposure(number, table, groups) for number, table in enumerate(tables))
    minima, owner = _minima(space, tables, groups, places, rest)
    for block, axes in (("iso_pairs", (0, 1, 3)), ("compensations", (0, 1, 2))):
        minima[block] = np.full(len(free.masks[block]), INFINITE)
        for prices in over_exposure:
            minima[block][places[block]] = np.minimum(minima[block][places[block]], prices.min(axis=axes) + rest)
    for block, prices in unpinned.items():
        minima[block] = prices + (total - least_alone[block]) if np.isfinite(total) else np.full(len(prices), INFINITE)
    return Solution(total, minima, alone, tables, groups, places, over_exposure, owner, at.weights["noise"])


def _tables_and_groups(
    at: Situation, space: Space, places: dict[str, Ints], at_most: float, known: tuple[_Table, ...] | None
) -> tuple[tuple[_Table, ...], tuple[_Group, ...]]:
    sheet, pictures = space.sheet, space.pictures
    if not all(len(places[block]) for block in places):
        return (), ()
    seen = geometry(pictures, sheet.lenses, at.brief.delivery.width, at.brief.delivery.height)
    priced = weighed(at, costs.picture_costs(at, pictures, seen, space.largest_px))
    of_timing = _look_prices(at, space, places["looks"])
    tables: list[_Table] = []
    groups: list[_Group] = []
    for lens in range(len(sheet.lenses)):
        of_lens = places["pictures"][pictures.lens[places["pictures"]] == lens]
        rates = np.unique(pictures.rate[of_lens])
        table = known[lens] if known is not None else _table(at, space, places, lens, rates)
        cheapest_exposure = float(table.by_rung.min())
        base = priced + of_timing.min(axis=1)[pictures.timing]
        of_lens = of_lens[np.isfinite(base[of_lens])]
        least = {
            float(rate): float(base[of_lens][pictures.rate[of_lens] == rate].min())
            for rate in np.unique(pictures.rate[of_lens])
        }
        # The most promising rate first, so that what it reaches lets the others be left out.
        for rate in sorted(least, key=lambda rate: least[rate]) if at_most < INFINITE else sorted(least):
            if least[rate] + cheapest_exposure > at_most + 1e-9:
                continue
            legal = legal_gates(space.gates, lens, rate)
            rows = np.flatnonzero(legal[table.gates] & (np.isnan(table.rates) | (table.rates == rate)))
            if len(rows) == 0:
                continue
            chosen = of_lens[pictures.rate[of_lens] == rate]
            of_look = of_timing[pictures.timing[chosen]]
            group = _group(
                at, space, places, len(tables), table, rows, rate, chosen, seen, priced[chosen], of_look, at_most
            )
            if group is not None:
                groups.append(group)
                if at_most < INFINITE:
                    at_most = min(at_most, float(group.joint.min()))
        tables.append(table)
    return tuple(tables), tuple(groups)


def _table(at: Situation, space: Space, places: dict[str, Ints], lens: int, rates: Floats) -> _Table:
    glasses, pairs, compensations = places["glasses"], places["iso_pairs"], places["compensations"]
    rows = [
        (gate, rate)
        for gate in places["gates"]
        if space.gates[gate][0] == lens
        for rate in (rates if isnan(space.gates[gate][2]) else [float("nan")])
    ]
    gates = np.array([gate for gate, _ in rows], dtype=np.intp)
    row_rates = np.array([rate for _, rate in rows], dtype=float)
    f_number = np.array([space.gates[g][1] for g in gates])[:, None]
    fixed_s = np.array([space.gates[g][2] for g in gates])[:, None]
    nd_stops = np.array([space.glasses[g].stops for g in glasses])
    compensation = np.array([space.compensations[c] for c in compensations])
    gate = (f_number[..., None], fixed_s[..., None], nd_stops[:, None])
    asked = meter(at, space.sheet, *gate, compensation, row_rates[:, None, None])
    exposures = exposure_times(at, space.sheet, f_number, fixed_s, nd_stops, row_rates[:, None])
    price = _exposure_price(at, space, asked, glasses, pairs, compensations)
    ladder, rung = _iso_ladder(space, asked.iso_dim, pairs)
    by_rung = _least_by_rung(price, rung, ladder.shape[-1])
    return _Table(
        gates, row_rates, price, ladder, rung, by_rung, costs.noise_of_iso(space.sheet.lenses[lens], ladder), exposures
    )


def _group(
    at: Situation,
    space: Space,
    places: dict[str, Ints],
    number: int,
    table: _Table,
    rows: Ints,
    rate: float,
    chosen: Ints,
    seen: Geometry,
    picture_price: Floats,
    of_look: Floats,
    at_most: float,
) -> _Group | None:
    pictures = space.pictures
    exposures = table.exposures.take(rows)
    gate_price = weighed(at, costs.gate_costs(at, exposures, np.array(rate)))
    if at_most < INFINITE:
        bound = picture_price + of_look.min(axis=1) + (gate_price + table.by_rung[rows].min(axis=-1)).min()
        hopeful = bound <= at_most + 1e-9
        if not hopeful.any():
            return None
        chosen, picture_price, of_look = chosen[hopeful], picture_price[hopeful], of_look[hopeful]
    smear = costs.smear_costs(
        at, seen.px_per_deg[chosen][:, None, None], pictures.steadied[chosen][:, None, None], exposures.dim_s
    )
    fixed = (picture_price + of_look.min(axis=1))[:, None, None] + weighed(at, smear) + gate_price
    shortfall = costs.noise_shortfall(at, seen.photosites[chosen], pictures.noise_gain[chosen])
    least_exposure, of_rung = _through_noise(at.weights["noise"], shortfall, fixed, table, rows, at_most == INFINITE)
    return _Group(number, rows, chosen, fixed + least_exposure, fixed, shortfall, of_rung, of_look)


def _through_noise(
    weight: float, shortfall: Floats, fixed: Floats, table: _Table, rows: Ints, both_ways: bool
) -> tuple[Floats, Floats]:
    """Eliminate exposure for each picture, and, if asked both ways, pictures for each ISO in use.

    Returns picture x row x glass and row x glass x rung. One rung at a time, so that the arrays
    stay in the processor's cache; pictures with the same noise are looked at once only, and where
    even the worst of them shows none, none at all.
    """
    kinds, kind = np.unique(shortfall, return_inverse=True)
    noise_of = np.ascontiguousarray(np.moveaxis(table.noise_of[rows], -1, 0))
    by_rung = np.ascontiguousarray(np.moveaxis(table.by_rung[rows], -1, 0))
    of_kind = np.full((len(kinds), *fixed.shape[1:]), INFINITE)
    np.minimum.at(of_kind, kind, fixed)
    least = np.full_like(of_kind, INFINITE)
    of_rung = np.full_like(noise_of, INFINITE)
    best_of_kinds = of_kind.min(axis=0)
    noise, sums = np.empty_like(of_kind), np.empty_like(of_kind)
    for rung, (adds, price) in enumerate(zip(noise_of, by_rung, strict=True)):
        in_use = np.isfinite(price)
        if not in_use.any():
            continue
        if kinds[-1] + adds[in_use].max() <= 0.0:
            np.minimum(least, price, out=least)
            of_rung[rung] = best_of_kinds
            continue
        np.add(kinds[:, None, None], adds, out=noise)
        np.maximum(noise, 0.0, out=noise)
        noise *= weight
        np.add(noise, price, out=sums)
        np.minimum(least, sums, out=least)
        if both_ways:
            noise += of_kind
            noise.min(axis=0, out=of_rung[rung])
    return least[kind], np.moveaxis(of_rung, 0, -1)


def _exposure_price(
    at: Situation, space: Space, asked: Asked, glasses: Ints, pairs: Ints, compensations: Ints
) -> Floats:
    """Price of exposure without noise. Returns row x glass x iso pair x compensation."""
    sheet = space.sheet
    chosen: list[Glass] = [space.glasses[g] for g in glasses]
    floors = np.log2([float(space.iso_pairs[k][0]) for k in pairs])[:, None]
    ceilings = np.log2([float(space.iso_pairs[k][1]) for k in pairs])[:, None]
    nd_stops = np.array([glass.stops for glass in chosen])[:, None, None]
    items = costs.exposure_costs(at, sheet, asked.for_pairs(), nd_stops, floors, ceilings)
    habit = weighed(at, costs.compensation_costs(sheet, np.array([space.compensations[c] for c in compensations])))
    pieces = weighed(at, costs.glass_costs(np.array([float(len(glass.ids)) for glass in chosen])))
    return np.asarray(weighed(at, items) + habit + pieces[:, None, None])


def _iso_ladder(space: Space, asked: Floats, pairs: Ints) -> tuple[Floats, Ints]:
    """The few ISO speeds that can be in use at the dim end, and which of them each exposure uses.

    Returns log2 ISO, gates x glasses x rungs, and rungs, gates x glasses x pairs x compensations.
    A speed in use is a floor, a ceiling, or what the light asks for.
    """
    ends = sorted({iso for k in pairs for iso in space.iso_pairs[k]})
    place = {iso: index for index, iso in enumerate(ends)}
    floors = np.array([place[space.iso_pairs[k][0]] for k in pairs])[:, None]
    ceilings = np.array([place[space.iso_pairs[k][1]] for k in pairs])[:, None]
    log2_ends = np.log2(np.array(ends, dtype=float))
    between = len(ends) + np.arange(asked.shape[-1])
    wide = asked[:, :, None, :]
    rung = np.where(wide <= log2_ends[floors], floors, np.where(wide >= log2_ends[ceilings], ceilings, between))
    ladder = np.concatenate([np.broadcast_to(log2_ends, (*asked.shape[:2], len(ends))), asked], axis=-1)
    return ladder, rung


def _least_by_rung(exposure: Floats, rung: Ints, rungs: int) -> Floats:
    """Least exposure price for each ISO in use. Returns gates x glasses x rungs."""
    outer = exposure.shape[0] * exposure.shape[1]
    least = np.full(outer * rungs, INFINITE)
    place = rung.reshape(outer, -1) + np.arange(outer)[:, None] * rungs
    np.minimum.at(least, place.ravel(), exposure.ravel())
    return least.reshape(*exposure.shape[:2], rungs)


def _look_prices(at: Situation, space: Space, looks: Ints) -> Floats:
    """Price of each look with each frame size and rate; infinite where not offered. Timings x looks."""
    modes = [space.sheet.modes[mode] for mode, _ in space.timings]
    width = np.array([[float(mode.width)] for mode in modes])
    height = np.array([[float(mode.height)] for mode in modes])
    rate = np.array([[rate] for _, rate in space.timings])
    items = costs.look_costs(at, space.sheet, [space.looks[i] for i in looks], width, height, rate)
    return np.where(space.look_allowed[:, looks], weighed(at, items), INFINITE)


def _over_exposure(number: int, table: _Table, groups: tuple[_Group, ...]) -> Floats:
    """Least price of each exposure over all pictures and looks. Returns the shape of the table's price."""
    of_rung = np.full(table.ladder.shape, INFINITE)
    for group in groups:
        if group.table == number:
            of_rung[group.rows] = np.minimum(of_rung[group.rows], group.of_rung)
    return table.price + table.at_rung(of_rung)


def _minima(
    space: Space, tables: tuple[_Table, ...], groups: tuple[_Group, ...], places: dict[str, Ints], rest: float
) -> tuple[dict[str, Floats], dict[str, Ints]]:
    """Least price of each picture, gate, glass and look, and the group in which it was found."""
    sizes = {
        "pictures": len(space.pictures),
        "gates": len(space.gates),
        "glasses": len(space.glasses),
        "looks": len(space.looks),
    }
    least = {block: np.full(size, INFINITE) for block, size in sizes.items()}
    owner = {block: np.zeros(size, dtype=np.intp) for block, size in sizes.items()}
    for number, group in enumerate(groups):
        of_picture = group.joint.min(axis=(1, 2))
        bare = of_picture - group.of_look.min(axis=1)
        for block, index, prices in (
            ("pictures", group.pictures, of_picture),
            ("gates", tables[group.table].gates[group.rows], group.joint.min(axis=(0, 2))),
            ("glasses", places["glasses"], group.joint.min(axis=(0, 1))),
            ("looks", places["looks"], (bare[:, None] + group.of_look).min(axis=0)),
        ):
            better = prices + rest < least[block][index]
            least[block][index[better]] = prices[better] + rest
            owner[block][index[better]] = number
    return least, owner


def gate_seconds(space: Space, gate: int) -> float | None:
    """Exposure of a gate in seconds, None for automatic."""
    seconds = space.gates[gate][2]
    return None if isnan(seconds) else seconds
