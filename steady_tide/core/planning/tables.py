"""What exposure costs behind one lens: a table of rows and glasses by pairs of ISO and compensations."""

from __future__ import annotations

from typing import Any

import numpy as np

from steady_tide.core.planning.items import views
from steady_tide.core.planning.metering import Asked, exposure_times, meter
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.solution import INFINITE, Table
from steady_tide.core.planning.space import ROUNDING, Floats, Glass, Ints, Space


def weighed(at: Situation, scope: str, view: Any) -> Floats:
    """Sum of weight times stops over the items of a scope. view: of it. Returns an array of their common shape."""
    return at.judgement.weighed(at.weights, scope, view)


def kinds_of(space: Space, pictures: Ints) -> list[bool]:
    """Whether some pictures are taken at speed, at intervals, or both. Returns up to two truths."""
    return [bool(kind) for kind in np.unique(np.isnan(space.pictures.interval_s[pictures]))]


def paces_of(space: Space, lens: int, free: Ints) -> Ints:
    """Paces of a lens of the kinds that the free pictures are of, so that a pinned rate changes no table."""
    pictures = space.pictures
    wanted = np.isin(np.isnan(pictures.interval_s), kinds_of(space, free))
    return np.unique(pictures.pace[(pictures.lens == lens) & wanted])


def rows_of(space: Space, places: dict[str, Ints], lens: int, paces: Ints) -> tuple[Ints, Ints]:
    """Exposures behind a lens: a row for each gate, an automatic one standing once for each pace. paces: that there are.
    Returns gates, and the pace of each row, -1 where it does not matter."""
    longest_of_all_s = max((space.paces[pace].longest_s for pace in paces), default=0.0) * (1.0 + ROUNDING)
    mine = places["gates"][space.offer.gate_lens[places["gates"]] == lens]
    mine = mine[~(space.offer.gate_s[mine] > longest_of_all_s)]
    automatic = np.isnan(space.offer.gate_s[mine])
    gates = np.concatenate([mine[~automatic], np.repeat(mine[automatic], len(paces))])
    row_paces = np.concatenate([np.full(int((~automatic).sum()), -1), np.tile(paces, int(automatic.sum()))])
    in_order = np.argsort(gates, kind="stable")
    return gates[in_order], row_paces[in_order].astype(np.intp)


def table_of(at: Situation, space: Space, places: dict[str, Ints], lens: int, gates: Ints, row_paces: Ints) -> Table:
    """What exposure costs behind a lens. gates, row_paces: rows that are looked at. Returns the table."""
    glasses, pairs, compensations = places["glasses"], places["iso_pairs"], places["compensations"]
    longest_s = np.array([space.paces[pace].longest_s if pace >= 0 else float("nan") for pace in row_paces])[:, None]
    f_number, fixed_s = space.offer.gate_f_number[gates][:, None], space.offer.gate_s[gates][:, None]
    nd_stops = np.array([space.glasses[g].stops for g in glasses]) + space.lost_stops[lens]
    exposures = exposure_times(at.light.ev100, space.sheet, f_number, fixed_s, nd_stops, longest_s)
    compensation = np.array([space.compensations[c] for c in compensations])
    gate = (f_number[..., None], fixed_s[..., None], nd_stops[:, None])
    bias = at.meter_bias_stops(space.sheet)
    asked = meter(at.light.ev100, space.sheet, *gate, compensation, longest_s[..., None], bias)
    price = _exposure_price(at, space, asked, nd_stops, glasses, pairs, compensations)
    price = _without_unfit(space, price, lens, row_paces, glasses, pairs)
    ladder, rung = _iso_ladder(space, asked.iso_dim, pairs)
    by_rung = _least_by_rung(price, rung, ladder.shape[-1])
    return Table(
        gates, row_paces, price, ladder, rung, by_rung, views.noise_of_iso(space.sheet.lenses[lens], ladder), exposures
    )


def _without_unfit(space: Space, price: Floats, lens: int, row_paces: Ints, glasses: Ints, pairs: Ints) -> Floats:
    """Prices, infinite where glass does not go before a lens, or a pair of ISO not with a row's pace. price: row x glass
    x iso pair x compensation. Returns the same."""
    glass = space.glass_allowed[lens, glasses]
    gain = np.ones((len(row_paces), len(pairs)), dtype=bool)
    of_pace = row_paces >= 0
    gain[of_pace] = space.offer.iso_fits[np.ix_(row_paces[of_pace], pairs)]
    if glass.all() and gain.all():
        return price
    return np.where(glass[:, None, None] & gain[:, None, :, None], price, INFINITE)


def _exposure_price(
    at: Situation, space: Space, asked: Asked, stops: Floats, glasses: Ints, pairs: Ints, compensations: Ints
) -> Floats:
    """Price of exposure without noise. stops: that each glass, and what is before the lens, takes. Returns row x glass x iso pair x compensation."""
    sheet = space.sheet
    chosen: list[Glass] = [space.glasses[g] for g in glasses]
    floors = np.log2([float(space.iso_pairs[k][0]) for k in pairs])[:, None]
    ceilings = np.log2([float(space.iso_pairs[k][1]) for k in pairs])[:, None]
    nd_stops = stops[:, None, None]
    density = np.array([glass.density_stops for glass in chosen])[:, None, None]
    light = views.ExposureView(at, at.light.ev100, sheet, asked.for_pairs(), nd_stops, density, floors, ceilings)
    exposure = weighed(at, views.EXPOSURE, light)
    given = np.array([space.compensations[c] for c in compensations])
    habit = weighed(at, views.METER, views.MeterView(at, sheet, given))
    pieces = weighed(at, views.FRONT, views.FrontView(at, chosen))
    return np.asarray(exposure + habit + pieces[:, None, None])


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
