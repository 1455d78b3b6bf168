"""What exposure costs behind one lens: a table of rows and glasses by pairs of ISO and compensations."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from steady_tide.core.planning.items import views
from steady_tide.core.planning.metering import CachedBrief, Exposures, exposure_times, meter
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.space import INFINITE, ROUNDING, Floats, Glass, Ints, Space


@dataclass(frozen=True)
class Table:
    """What exposure costs behind one lens; rows are gates, an automatic one standing once for each pace."""

    gates: Ints  # row
    paces: Ints  # row; -1 where the pace does not matter
    price: Floats  # row x glass x iso pair x compensation: without noise
    ladder: Floats  # row x glass x rung: log2 of the ISO speeds that can be in use
    rung: Ints  # the shape of price: which of them is, in the flat ladder
    by_rung: Floats  # row x glass x rung: least price
    noise_of: Floats  # row x glass x rung: noise that this ISO brings
    exposures: Exposures  # row x glass: times at both ends of the light

    def at_rung(self, values: Floats) -> Floats:
        """Spread values of rungs over the exposures that use them. Returns the shape of `price`."""
        return np.asarray(values.reshape(-1).take(self.rung.swapaxes(2, 3)).swapaxes(2, 3))

    def noise_at(self, row: int, glass: int) -> Floats:
        """Noise that the ISO in use brings behind one glass. Returns iso pair x compensation."""
        return np.asarray(self.noise_of.reshape(-1).take(self.rung[row, glass]))


def weighed(at: Situation, scope: str, view: Any) -> Floats:
    """Sum of weight times stops over the items of a scope. view: of it. Returns an array of their common shape."""
    return at.judgement.weighed(at.weights, scope, view)


def kinds_of(space: Space, pictures: Ints) -> tuple[bool, ...]:
    """Whether some pictures are taken at intervals, at speed, or both. Returns up to two truths: of intervals."""
    timed = ~np.isnan(space.pictures.interval_s[pictures])
    return tuple(kind for kind, some in ((False, not timed.all()), (True, timed.any())) if some)


def paces_of(space: Space, lens: int, kinds: tuple[bool, ...]) -> Ints:
    """Paces of a lens of some kinds, as of the free pictures, so that a pinned rate changes no table."""
    found = [space.offer.paces_of[lens, kind] for kind in kinds]
    return found[0] if len(found) == 1 else np.unique(np.concatenate([np.empty(0, dtype=np.intp), *found]))


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
    glasses, compensations = places["glasses"], places["compensations"]
    pairs = [space.iso_pairs[k] for k in places["iso_pairs"]]
    longest_s = np.array([space.paces[pace].automatic_s if pace >= 0 else float("nan") for pace in row_paces])[:, None]
    f_number, fixed_s = space.offer.gate_f_number[gates][:, None], space.offer.gate_s[gates][:, None]
    nd_stops = np.array([space.glasses[g].stops for g in glasses]) + space.lost_stops[lens]
    exposures = exposure_times(at.light.ev100, space.sheet, f_number, fixed_s, nd_stops, longest_s)
    compensation = np.array([space.compensations[c] for c in compensations])
    gate = (f_number[..., None], fixed_s[..., None], nd_stops[:, None])
    bias = at.meter_bias_stops(space.sheet)
    asked = meter(at.light.ev100, space.sheet, *gate, compensation, longest_s[..., None], bias)
    price = _exposure_price(at, space, asked, nd_stops, [space.glasses[g] for g in glasses], pairs, compensation)
    price = _without_unfit(space, price, lens, row_paces, glasses, places["iso_pairs"])
    ladder, rung = _iso_ladder(asked.iso_dim, pairs)
    by_rung = _least_by_rung(price, rung, ladder.shape)
    noise_of = _noise_of(at, space, lens, ladder, exposures)
    # Pairs come last while this is worked out, since they are the most; they are named before compensations elsewhere.
    return Table(gates, row_paces, price.swapaxes(2, 3), ladder, rung.swapaxes(2, 3), by_rung, noise_of, exposures)


def exposed_alike(space: Space, lens: int, gates: Ints, row_paces: Ints) -> tuple[object, ...]:
    """All of a lens that its exposures follow from; where it is equal for two lenses, their tables differ in noise and in
    the glass that goes before them. gates, row_paces: rows that are looked at."""
    paces = [(space.paces[pace].automatic_s, space.paces[pace].by_hand) if pace >= 0 else None for pace in row_paces]
    return (
        space.offer.gate_f_number[gates].tobytes(),
        space.offer.gate_s[gates].tobytes(),
        tuple(paces),
        float(space.lost_stops[lens]),
    )


def _noise_of(at: Situation, space: Space, lens: int, ladder: Floats, exposures: Exposures) -> Floats:
    """Noise that each ISO in use brings past what its exposure forgives. Returns row x glass x rung."""
    forgiven = np.broadcast_to(at.noise_forgiven_stops(exposures.dim_s), ladder.shape[:2])
    return np.asarray(views.noise_of_iso(space.sheet.lenses[lens], ladder) - forgiven[..., None])


def through_lens(
    at: Situation, space: Space, lens: int, known: Table, gates: Ints, row_paces: Ints, glasses: Ints
) -> Table:
    """The table of a lens from that of another one that is exposed alike and takes all of its glass. gates, row_paces: its rows;
    glasses: that are left. Returns it."""
    noise_of = _noise_of(at, space, lens, known.ladder, known.exposures)
    fits = space.glass_allowed[lens, glasses]
    price = np.where(fits[:, None, None], known.price, INFINITE)
    by_rung = np.where(fits[:, None], known.by_rung, INFINITE)
    return replace(known, gates=gates, paces=row_paces, noise_of=noise_of, price=price, by_rung=by_rung)


def _without_unfit(space: Space, price: Floats, lens: int, row_paces: Ints, glasses: Ints, pairs: Ints) -> Floats:
    """Prices, infinite where glass does not go before a lens, or a pair of ISO not with a row's pace. price: row x glass
    x compensation x iso pair. Returns the same."""
    glass = space.glass_allowed[lens, glasses]
    gain = np.ones((len(row_paces), len(pairs)), dtype=bool)
    of_pace = row_paces >= 0
    gain[of_pace] = space.offer.iso_fits[np.ix_(row_paces[of_pace], pairs)]
    if glass.all() and gain.all():
        return price
    return np.where(glass[:, None, None] & gain[:, None, None, :], price, INFINITE)


def _exposure_price(
    at: Situation,
    space: Space,
    asked: CachedBrief,
    stops: Floats,
    chosen: list[Glass],
    pairs: list[tuple[int, int]],
    compensation: Floats,
) -> Floats:
    """Price of exposure without noise. stops: that each glass, and what is before the lens, takes. Returns row x glass x compensation x iso pair."""
    sheet = space.sheet
    floors, ceilings = np.log2(np.array(pairs, dtype=float)).T.copy()
    nd_stops = stops[:, None, None]
    density = np.array([glass.density_stops for glass in chosen])[:, None, None]
    light = views.ExposureView(at, at.light.ev100, sheet, asked.for_pairs(), nd_stops, density, floors, ceilings)
    exposure = weighed(at, views.EXPOSURE, light)
    habit = weighed(at, views.METER, views.MeterView(at, sheet, compensation))
    pieces = weighed(at, views.FRONT, views.FrontView(at, chosen))
    exposure += (pieces[:, None] + habit)[..., None]
    return exposure


def _iso_ladder(asked: Floats, pairs: list[tuple[int, int]]) -> tuple[Floats, Ints]:
    """The few ISO speeds that can be in use at the dim end, and which of them each exposure uses.

    asked: row x glass x compensation. Returns log2 ISO, row x glass x rung, and places in it once it is flat, row x glass
    x compensation x pair. A speed in use is a floor, a ceiling, or what the light asks for; which of them follows from
    where what is asked for lies among the floors and ceilings.
    """
    ends = sorted({iso for pair in pairs for iso in pair})
    place = {iso: index for index, iso in enumerate(ends)}
    floors, ceilings = np.array([[place[low], place[high]] for low, high in pairs]).T
    log2_ends = np.log2(np.array(ends, dtype=float))
    rows, glasses, compensations = asked.shape
    ladder = np.concatenate([np.broadcast_to(log2_ends, (rows, glasses, len(ends))), asked], axis=-1)
    above = np.arange(len(ends) + 1)[:, None, None]
    between = len(ends) + np.arange(compensations)[:, None]
    at_rest = np.where(above <= floors, floors, np.where(above > ceilings, ceilings, between))
    which = np.searchsorted(log2_ends, asked) * compensations + np.arange(compensations)
    rung = at_rest.reshape(-1, len(pairs)).take(which, axis=0)
    rung += (np.arange(rows * glasses) * ladder.shape[-1]).reshape(rows, glasses, 1, 1)
    return ladder, rung


def _least_by_rung(exposure: Floats, rung: Ints, shape: tuple[int, ...]) -> Floats:
    """Least exposure price for each ISO in use. shape: of the ladder. Returns row x glass x rung."""
    least = np.full(shape, INFINITE)
    np.minimum.at(least.reshape(-1), rung.reshape(-1), exposure.reshape(-1))
    return least
