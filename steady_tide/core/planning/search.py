"""The exact search: the least price over all legal combinations, and over those with any one value.

The joint cost falls apart once a few numbers are fixed, so most of it is eliminated exactly instead
of enumerated. Within one lens and pace:

    look, focus,  each touch nothing but the picture                    -> eliminated into the picture
    habits
    exposure      (floor, ceiling, compensation) sees the picture only
                  through its noise, and noise only through the ISO used -> eliminated per ISO used
    what is left  picture x gate x glass                                 -> evaluated as one array

Balance, sharpness, wind reduction and the sound track stand alone. Running the eliminations the other way round gives
the same for floor, ceiling and compensation, so that each dial has its whole cost profile.
"""

from __future__ import annotations

from math import isnan

import numpy as np

from steady_tide.core.planning import costs
from steady_tide.core.planning.dials import Freedom
from steady_tide.core.planning.metering import Asked, exposure_times, meter
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.solution import INFINITE, Choice, Group, Solution, Table
from steady_tide.core.planning.space import (
    Floats,
    Geometry,
    Glass,
    Ints,
    Space,
    geometry,
    legal_gates,
)


def weighed(at: Situation, items: costs.Items) -> Floats:
    """Sum of weight times stops over some items. Returns an array of their common shape."""
    total: Floats = np.zeros(())
    for name, stops in items.items():
        if at.weights[name]:
            total = total + at.weights[name] * stops
    return np.asarray(total)


STANDING_ALONE = ("balances", "sharpness", "wind", "tracks")
EXPOSURE_ITEMS = (
    "over",
    "under",
    "gain_behind_glass",
    "spare_gain",
    "raised_floor",
    "unlocked",
    "metering",
    "glass",
    "cast",
)


EXPOSURE_BLOCKS = ("gates", "glasses", "iso_pairs", "compensations")


def search(at: Situation, space: Space, free: Freedom, known: Solution | None = None) -> Solution:
    """Find the least price of all legal combinations, and of those with any one candidate.

    at: what the brief asks for; space: what the camera can do; free: what is not pinned away;
    known: a solution for the same brief and camera under other pins, whose exposure tables serve again
    where its pins left exposure as free.
    Returns the solution; its total is infinite where nothing legal is left.
    """
    serves = (
        known is not None
        and all(np.array_equal(known.places[block], np.flatnonzero(free.masks[block])) for block in EXPOSURE_BLOCKS)
        and set(_kinds(space, known.places["pictures"])) == set(_kinds(space, np.flatnonzero(free.masks["pictures"])))
    )
    return _search(at, space, free, INFINITE, known.tables if known is not None and serves else None)


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


def least(at: Situation, space: Space, free: Freedom) -> Solution | None:
    """Find only the cheapest combination, where nothing is known of its price yet.

    at, space, free: as in `search`. Returns a solution whose total and `best()` are right, and nothing
    else; None where nothing legal is left. Exact: the bound is raised until something stays below it.
    """
    tables = None
    for at_most in (*FIRST_BOUNDS, float(np.finfo(float).max)):
        solution = _search(at, space, free, at_most, tables)
        tables = solution.tables or None
        # What exceeds the bound may have something cheaper among what the bound left out.
        if solution.total <= at_most:
            return solution
    return None


FIRST_BOUNDS = (2.5, 5.0, 10.0)  # stops; most plans give up no more


def _search(at: Situation, space: Space, free: Freedom, at_most: float, tables: tuple[Table, ...] | None) -> Solution:
    places = {block: np.flatnonzero(mask) for block, mask in free.masks.items()}
    alone = {
        "balances": weighed(at, costs.balance_costs(at, space.balances)),
        "sharpness": weighed(at, costs.sharpness_costs(at, space.sheet.sharpness)),
        "wind": weighed(at, costs.wind_costs(at, space.sheet.wind_reduction)),
        "tracks": weighed(at, costs.track_costs(at, space.sheet.sound_track)),
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
            minima[block][places[block]] = np.minimum(
                minima[block][places[block]], prices.min(axis=axes, initial=INFINITE) + rest
            )
    for block, prices in unpinned.items():
        minima[block] = prices + (total - least_alone[block]) if np.isfinite(total) else np.full(len(prices), INFINITE)
    return Solution(total, minima, alone, tables, groups, places, over_exposure, owner, at.weights["noise"])


def _tables_and_groups(
    at: Situation, space: Space, places: dict[str, Ints], at_most: float, known: tuple[Table, ...] | None
) -> tuple[tuple[Table, ...], tuple[Group, ...]]:
    sheet, pictures = space.sheet, space.pictures
    if not all(len(places[block]) for block in places):
        return (), ()
    seen = geometry(pictures, sheet, at.brief.delivery.width, at.brief.delivery.height)
    priced = weighed(at, costs.picture_costs(at, space, pictures, seen))
    attached = _attached(at, space, places)
    tables: list[Table] = []
    groups: list[Group] = []
    base = priced + sum(prices.min(axis=1) for prices in attached.values())
    fit = places["pictures"][np.isfinite(base[places["pictures"]])]
    for lens in range(len(sheet.lenses)):
        of_lens = fit[pictures.lens[fit] == lens]
        table = known[lens] if known else _table(at, space, places, lens, _paces_of(space, lens, places["pictures"]))
        tables.append(table)
        if not len(table.gates) or not len(of_lens):
            continue
        cheapest_exposure = float(table.by_rung.min())
        least = {
            int(pace): float(base[of_lens][pictures.pace[of_lens] == pace].min())
            for pace in np.unique(pictures.pace[of_lens])
        }
        # The most promising pace first, so that what it reaches lets the others be left out.
        for pace in sorted(least, key=lambda pace: least[pace]) if at_most < INFINITE else sorted(least):
            if least[pace] + cheapest_exposure > at_most + 1e-9:
                continue
            legal = legal_gates(space.gates, lens, space.paces[pace])
            rows = np.flatnonzero(legal[table.gates] & ((table.paces < 0) | (table.paces == pace)))
            if len(rows) == 0:
                continue
            chosen = of_lens[pictures.pace[of_lens] == pace]
            group = _group(at, space, lens, table, rows, pace, chosen, seen, priced, attached, at_most)
            if group is not None:
                groups.append(group)
                if at_most < INFINITE:
                    at_most = min(at_most, float(group.joint.min()))
    return tuple(tables), tuple(groups)


def _kinds(space: Space, pictures: Ints) -> list[bool]:
    """Whether some pictures are taken at speed, at intervals, or both. Returns up to two truths."""
    return [bool(kind) for kind in np.unique(np.isnan(space.pictures.interval_s[pictures]))]


def _paces_of(space: Space, lens: int, free: Ints) -> Ints:
    """Paces of a lens of the kinds that the free pictures are of, so that a pinned rate changes no table."""
    pictures = space.pictures
    wanted = np.isin(np.isnan(pictures.interval_s), _kinds(space, free))
    return np.unique(pictures.pace[(pictures.lens == lens) & wanted])


def _attached(at: Situation, space: Space, places: dict[str, Ints]) -> dict[str, Floats]:
    """Prices of what touches nothing but the picture, infinite where not offered. Returns picture x candidate each."""
    pictures = space.pictures
    looks = weighed(at, costs.look_costs(at, space, [space.looks[i] for i in places["looks"]], pictures))
    focus = weighed(at, costs.focus_costs(at, [space.focuses[i] for i in places["focuses"]]))
    habits = [space.habits[i] for i in places["habits"]]
    return {
        "looks": np.where(space.look_allowed[:, places["looks"]], looks, INFINITE),
        "focuses": np.where(space.focus_allowed[:, places["focuses"]][pictures.lens], focus, INFINITE),
        "habits": weighed(at, costs.habit_costs(at, space, pictures, habits)),
    }


def _table(at: Situation, space: Space, places: dict[str, Ints], lens: int, paces: Ints) -> Table:
    glasses, pairs, compensations = places["glasses"], places["iso_pairs"], places["compensations"]
    longest_of_all_s = max((space.paces[pace].longest_s for pace in paces), default=0.0) * (1.0 + 1e-9)
    rows = [
        (gate, pace)
        for gate in places["gates"]
        if space.gates[gate][0] == lens and not space.gates[gate][2] > longest_of_all_s
        for pace in (paces if isnan(space.gates[gate][2]) else [-1])
    ]
    gates = np.array([gate for gate, _ in rows], dtype=np.intp)
    row_paces = np.array([pace for _, pace in rows], dtype=np.intp)
    longest_s = np.array([space.paces[pace].longest_s if pace >= 0 else float("nan") for pace in row_paces])[:, None]
    f_number = np.array([space.gates[g][1] for g in gates])[:, None]
    fixed_s = np.array([space.gates[g][2] for g in gates])[:, None]
    nd_stops = np.array([space.glasses[g].stops for g in glasses])
    compensation = np.array([space.compensations[c] for c in compensations])
    gate = (f_number[..., None], fixed_s[..., None], nd_stops[:, None])
    asked = meter(at.light.ev100, space.sheet, *gate, compensation, longest_s[..., None])
    exposures = exposure_times(at.light.ev100, space.sheet, f_number, fixed_s, nd_stops, longest_s)
    price = _exposure_price(at, space, asked, glasses, pairs, compensations)
    ladder, rung = _iso_ladder(space, asked.iso_dim, pairs)
    by_rung = _least_by_rung(price, rung, ladder.shape[-1])
    return Table(
        gates, row_paces, price, ladder, rung, by_rung, costs.noise_of_iso(space.sheet.lenses[lens], ladder), exposures
    )


def _group(
    at: Situation,
    space: Space,
    lens: int,
    table: Table,
    rows: Ints,
    pace: int,
    chosen: Ints,
    seen: Geometry,
    priced: Floats,
    attached: dict[str, Floats],
    at_most: float,
) -> Group | None:
    pictures = space.pictures
    exposures = table.exposures.take(rows)
    gate_price = weighed(at, costs.gate_costs(at, exposures, np.array(space.paces[pace].capture_hz)))
    base = priced[chosen] + sum(prices[chosen].min(axis=1) for prices in attached.values())
    if at_most < INFINITE:
        hopeful = base + (gate_price + table.by_rung[rows].min(axis=-1)).min() <= at_most + 1e-9
        if not hopeful.any():
            return None
        chosen, base = chosen[hopeful], base[hopeful]
    per_degree = seen.px_per_deg[chosen][:, None, None]
    items = {
        **costs.smear_costs(at, per_degree, pictures.steadied[chosen][:, None, None], exposures.dim_s),
        **(costs.drift_costs(at, per_degree, exposures.dim_s) if at.lapse else {}),
    }
    openings, which = np.unique(space.openings_mm[table.gates[rows]], return_inverse=True)
    spots = costs.spots_deg(at, space.sheet.lenses[lens], openings)
    soft = weighed(at, costs.softness_costs(at, per_degree[..., 0], *spots))
    fixed = base[:, None, None] + weighed(at, items) + soft[:, which][:, :, None] + gate_price
    shortfall = costs.noise_shortfall(at, seen.photosites[chosen], pictures.noise_gain[chosen])
    least_exposure, of_rung = _through_noise(at.weights["noise"], shortfall, fixed, table, rows, at_most == INFINITE)
    return Group(
        lens,
        rows,
        chosen,
        fixed + least_exposure,
        fixed,
        shortfall,
        of_rung,
        {name: prices[chosen] for name, prices in attached.items()},
    )


def _through_noise(
    weight: float, shortfall: Floats, fixed: Floats, table: Table, rows: Ints, both_ways: bool
) -> tuple[Floats, Floats]:
    """Eliminate exposure for each picture, and, if asked both ways, pictures for each ISO in use.

    Returns picture x row x glass and row x glass x rung. Pictures with the same noise are looked at once
    only. One way, a speed is left out where a quieter one costs no more; the other way, a kind of picture
    where a quieter one costs no more anywhere.
    """
    kinds, kind = np.unique(shortfall, return_inverse=True)
    rungs = table.by_rung.shape[-1]
    price = table.by_rung[rows].reshape(-1, rungs)
    adds = table.noise_of[rows].reshape(-1, rungs)

    by_noise = np.argsort(adds, axis=1, kind="stable")
    rising = np.take_along_axis(price, by_noise, axis=1)
    cheaper = rising < np.minimum.accumulate(np.pad(rising, ((0, 0), (1, 0)), constant_values=INFINITE), axis=1)[:, :-1]
    owner = np.nonzero(cheaper)[0]
    starts = np.flatnonzero(np.diff(owner, prepend=-1))
    noise = np.maximum(0.0, kinds[:, None] + np.take_along_axis(adds, by_noise, axis=1)[cheaper]) * weight
    least = np.full((len(kinds), len(price)), INFINITE)
    if len(owner):
        least[:, owner[starts]] = np.minimum.reduceat(noise + rising[cheaper], starts, axis=1)

    of_rung = np.full(price.shape, INFINITE)
    if both_ways:
        in_order = np.argsort(kind, kind="stable")
        begins = np.flatnonzero(np.diff(kind[in_order], prepend=-1))
        of_kind = np.minimum.reduceat(fixed.reshape(len(kind), -1)[in_order], begins, axis=0)
        wanted = np.ones(len(kinds), dtype=bool)
        wanted[1:] = (of_kind[1:] < np.minimum.accumulate(of_kind, axis=0)[:-1]).any(axis=1)
        in_use = np.isfinite(price)
        noise = np.maximum(0.0, kinds[wanted, None] + adds[in_use]) * weight
        of_rung[in_use] = (noise + of_kind[wanted][:, np.nonzero(in_use)[0]]).min(axis=0, initial=INFINITE)
    return least[kind].reshape(fixed.shape), of_rung.reshape(*fixed.shape[1:], rungs)


def _exposure_price(
    at: Situation, space: Space, asked: Asked, glasses: Ints, pairs: Ints, compensations: Ints
) -> Floats:
    """Price of exposure without noise. Returns row x glass x iso pair x compensation."""
    sheet = space.sheet
    chosen: list[Glass] = [space.glasses[g] for g in glasses]
    floors = np.log2([float(space.iso_pairs[k][0]) for k in pairs])[:, None]
    ceilings = np.log2([float(space.iso_pairs[k][1]) for k in pairs])[:, None]
    nd_stops = np.array([glass.stops for glass in chosen])[:, None, None]
    density = np.array([glass.density_stops for glass in chosen])[:, None, None]
    items = costs.exposure_costs(at.light.ev100, sheet, asked.for_pairs(), nd_stops, density, floors, ceilings)
    habit = weighed(at, costs.compensation_costs(sheet, np.array([space.compensations[c] for c in compensations])))
    pieces = weighed(at, costs.glass_costs(at, chosen))
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
    place = rung.reshape(outer, rung.shape[2] * rung.shape[3]) + np.arange(outer)[:, None] * rungs
    np.minimum.at(least, place.ravel(), exposure.ravel())
    return least.reshape(*exposure.shape[:2], rungs)


def _over_exposure(number: int, table: Table, groups: tuple[Group, ...]) -> Floats:
    """Least price of each exposure over all pictures and looks. Returns the shape of the table's price."""
    of_rung = np.full(table.ladder.shape, INFINITE)
    for group in groups:
        if group.table == number:
            of_rung[group.rows] = np.minimum(of_rung[group.rows], group.of_rung)
    return table.price + table.at_rung(of_rung)


def _minima(
    space: Space, tables: tuple[Table, ...], groups: tuple[Group, ...], places: dict[str, Ints], rest: float
) -> tuple[dict[str, Floats], dict[str, Ints]]:
    """Least price of each picture, gate, glass and look, and the group in which it was found."""
    sizes = {
        "pictures": len(space.pictures),
        "gates": len(space.gates),
        "glasses": len(space.glasses),
        "looks": len(space.looks),
        "focuses": len(space.focuses),
        "habits": len(space.habits),
    }
    least = {block: np.full(size, INFINITE) for block, size in sizes.items()}
    owner = {block: np.zeros(size, dtype=np.intp) for block, size in sizes.items()}
    for number, group in enumerate(groups):
        of_picture = group.joint.min(axis=(1, 2))
        of_attached = [
            (name, places[name], ((of_picture - prices.min(axis=1))[:, None] + prices).min(axis=0))
            for name, prices in group.attached.items()
        ]
        for block, index, prices in (
            ("pictures", group.pictures, of_picture),
            ("gates", tables[group.table].gates[group.rows], group.joint.min(axis=(0, 2))),
            ("glasses", places["glasses"], group.joint.min(axis=(0, 1))),
            *of_attached,
        ):
            better = prices + rest < least[block][index]
            least[block][index[better]] = prices[better] + rest
            owner[block][index[better]] = number
    return least, owner


def gate_seconds(space: Space, gate: int) -> float | None:
    """Exposure of a gate in seconds, None for automatic."""
    seconds = space.gates[gate][2]
    return None if isnan(seconds) else seconds
