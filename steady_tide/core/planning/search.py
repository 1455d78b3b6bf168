"""The exact search: the least price over all legal combinations, and over those with any one value.

The joint cost falls apart once a few numbers are fixed, so most of it is eliminated exactly instead
of enumerated. Within one lens:

    look, focus,  each touch nothing but the picture                    -> eliminated into the picture
    balance, habits
    exposure      (floor, ceiling, compensation) sees the picture only
                  through its noise, and noise only through the ISO used -> eliminated per ISO used
    what is left  picture x gate x glass                                 -> evaluated as one array

Dials that touch no other are solved by themselves. Running the eliminations the other way round gives
the same for floor, ceiling and compensation, so that each dial has its whole cost profile.
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np

from steady_tide.core.planning.geometry import Geometry, geometry
from steady_tide.core.planning.items import views
from steady_tide.core.planning.metering import Asked, exposure_times, meter
from steady_tide.core.planning.pinning import Freedom
from steady_tide.core.planning.quantities import noise_shortfall
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.solution import ATTACHED, INFINITE, Group, Solution, Table
from steady_tide.core.planning.space import ROUNDING, Bools, Floats, Glass, Ints, Pictures, Space

EXPOSURE_BLOCKS = ("gates", "glasses", "iso_pairs", "compensations")


def weighed(at: Situation, scope: str, view: Any) -> Floats:
    """Sum of weight times stops over the items of a scope. view: of it. Returns an array of their common shape."""
    return at.judgement.weighed(at.weights, scope, view)


@dataclass(frozen=True)
class Candidates:
    """Pictures that may still be chosen, with what they cost by themselves and what touches nothing but them."""

    places: Ints  # in the space
    pictures: Pictures
    seen: Geometry
    attached: dict[str, Floats]  # picture x candidate, infinite where not offered
    base: Floats  # picture: by itself and with the cheapest of what is attached

    def take(self, index: Ints | Bools) -> Candidates:
        """Some of them. index: places or a mask. Returns fewer."""
        return Candidates(
            self.places[index],
            self.pictures.take(index),
            self.seen.take(index),
            {name: prices[index] for name, prices in self.attached.items()},
            self.base[index],
        )


@dataclass(frozen=True)
class OfLens:
    """The pictures of one lens beside its exposure table, before anything is priced together."""

    number: int
    found: Candidates
    of_pace: Floats  # pace x row x glass: price of each row's exposure, infinite where it is not legal
    pace: Ints  # picture: which of the paces
    lower: Floats  # picture: no combination with it is cheaper


@dataclass(frozen=True, eq=False)
class Prepared:
    """A camera laid out for a brief and its pins, with every part priced that stands by itself; what exposure costs
    behind a lens is worked out when that lens is first asked for."""

    at: Situation
    space: Space
    places: dict[str, Ints]  # candidates of each block that are left
    masks: dict[str, Bools]
    alone: dict[str, Floats]  # price of every value of a dial that touches no other, pinned or not
    by_lens: dict[
        int, Candidates
    ]  # from the lens whose cheapest picture costs least by itself; empty where nothing is left
    known: Prepared | None = None  # whose tables serve again
    made: dict[int, Table] = field(default_factory=dict)

    @property
    def least_alone(self) -> dict[str, float]:
        """Least price of each dial that touches no other, among the values that are left."""
        return {dial: float(np.where(self.masks[dial], prices, INFINITE).min()) for dial, prices in self.alone.items()}

    def rows(self, lens: int) -> tuple[Ints, Ints]:
        """Gates and paces of the rows behind a lens. lens: its number."""
        return _rows(self.space, self.places, lens, _paces_of(self.space, lens, self.places["pictures"]))

    def table(self, lens: int) -> Table:
        """What exposure costs behind a lens. lens: its number. Returns the table."""
        if lens not in self.made:
            self.made[lens] = self._made(lens) if self.known is None else self.known.table(lens)
        return self.made[lens]

    def _made(self, lens: int) -> Table:
        """The table of a lens; a lens that opens alike behind the same glass takes it over."""
        gates, row_paces = self.rows(lens)
        opens = self._opens(lens, gates)
        for other, table in self.made.items():
            if np.array_equal(table.paces, row_paces) and self._opens(other, table.gates) == opens:
                noise_of = views.noise_of_iso(self.space.sheet.lenses[lens], table.ladder)
                return replace(table, gates=gates, noise_of=noise_of)
        return _table(self.at, self.space, self.places, lens, gates, row_paces)

    def _opens(self, lens: int, gates: Ints) -> tuple[object, ...]:
        """All of a lens that its exposures depend on."""
        offer, space = self.space.offer, self.space
        glass = space.glass_allowed[lens].tobytes()
        return space.lost_stops[lens], glass, offer.gate_f_number[gates].tobytes(), offer.gate_s[gates].tobytes()

    def of_lens(self, lens: int) -> OfLens | None:
        """The pictures of a lens beside its exposures. lens: its number. Returns them, None where none is left."""
        table = self.table(lens)
        return _of_lens(self.at, self.space, lens, table, self.by_lens[lens]) if len(table.gates) else None

    def all_lenses(self) -> tuple[OfLens, ...]:
        """All of them, in the order of the sheet."""
        lenses = (self.of_lens(number) for number in sorted(self.by_lens))
        return tuple(of_lens for of_lens in lenses if of_lens is not None)


def prepare(at: Situation, space: Space, free: Freedom, known: Prepared | None = None) -> Prepared:
    """Price everything that stands by itself.

    at: what the brief asks for; space: what the camera can do; free: what is not pinned away; known: the same camera
    prepared before, whose exposure tables serve again where light and weights are the same and its pins left exposure
    as free.
    """
    places = {block: np.flatnonzero(mask) for block, mask in free.masks.items()}
    alone = {
        dial: np.broadcast_to(weighed(at, dial, views.AloneView(at, space.sheet, values)), len(values))
        for dial, values in space.alone.items()
    }
    if not all(len(kept) for kept in places.values()):
        return Prepared(at, space, places, free.masks, alone, {})
    again = known is not None and _serves_again(known, at, places, space)
    return Prepared(at, space, places, free.masks, alone, _by_lens(at, space, places), known if again else None)


def _serves_again(known: Prepared, at: Situation, places: dict[str, Ints], space: Space) -> bool:
    """Whether exposure tables that were made before say the same again."""
    if not known.by_lens:
        return False
    if at is not known.at and not (at.light == known.at.light and _weigh_exposure_alike(at, known.at)):
        return False
    as_free = all(np.array_equal(known.places[block], places[block]) for block in EXPOSURE_BLOCKS)
    return as_free and set(_kinds(space, known.places["pictures"])) == set(_kinds(space, places["pictures"]))


def _weigh_exposure_alike(at: Situation, other: Situation) -> bool:
    items = (item for scope in views.OF_EXPOSURE for item in at.judgement.of_scope[scope])
    return all(at.weights[item.id] == other.weights[item.id] for item in items)


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
    groups = tuple(
        _group(at, space, prepared.table(of_lens.number), of_lens, None, through_exposure)
        for of_lens in prepared.all_lenses()
    )
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
    table = prepared.table(of_lens.number)
    while True:
        hopeful = of_lens.lower <= bound + ROUNDING
        if not hopeful.any():
            return None
        group = _group(prepared.at, prepared.space, table, of_lens, hopeful, both_ways=False)
        joint = float(group.of_picture.min())
        # What exceeds the bound may have something cheaper among what the bound left out; nothing above what was found.
        if joint <= bound + ROUNDING:
            return group
        if bound in (at_most, INFINITE):
            return None
        bound = min(joint, at_most)


THROUGH_EXPOSURE = ("iso_pairs", "compensations")  # blocks whose least prices are found from the exposures' side
FIRST_SLACK = 1.0  # stops above what any combination costs at least


def _pinned_alone(prepared: Prepared) -> dict[str, Floats]:
    return {dial: np.where(prepared.masks[dial], prices, INFINITE) for dial, prices in prepared.alone.items()}


def _by_exposure(prices: Floats) -> dict[str, Floats]:
    """Least prices of ISO pairs and of compensations. prices: row x glass x pair x compensation."""
    of_both = prices.reshape(-1, *prices.shape[2:]).min(axis=0, initial=INFINITE)
    return {
        "iso_pairs": of_both.min(axis=1, initial=INFINITE),
        "compensations": of_both.min(axis=0, initial=INFINITE),
    }


def _by_lens(at: Situation, space: Space, places: dict[str, Ints]) -> dict[int, Candidates]:
    """Pictures with what they cost by themselves, by lens; the lens with the cheapest first."""
    pictures = space.pictures.take(places["pictures"])
    delivery = at.brief.delivery
    seen = geometry(pictures, space.sheet, delivery.width, delivery.height, space.flat_port)
    attached = _attached(at, space, places, pictures)
    base = weighed(at, views.PICTURE, views.PictureView(at, space, pictures, seen)) + sum(
        prices.min(axis=1) for prices in attached.values()
    )
    every = Candidates(places["pictures"], pictures, seen, attached, base)
    lens = np.where(np.isfinite(base), pictures.lens, -1)
    numbers = [int(number) for number in np.unique(lens) if number >= 0]
    if len(numbers) == 1 and (lens >= 0).all():
        return {numbers[0]: every}
    of_lens = [(number, every.take(np.flatnonzero(lens == number))) for number in numbers]
    return dict(sorted(of_lens, key=lambda entry: float(entry[1].base.min())))


def _of_lens(at: Situation, space: Space, number: int, table: Table, found: Candidates) -> OfLens:
    paces, pace = np.unique(found.pictures.pace, return_inverse=True)
    of_pace = _gates_by_pace(at, space, number, table, paces)
    cheapest_exposure = (of_pace + table.by_rung.min(axis=-1)).min(axis=(1, 2))
    return OfLens(number, found, of_pace, pace, found.base + cheapest_exposure[pace])


def _kinds(space: Space, pictures: Ints) -> list[bool]:
    """Whether some pictures are taken at speed, at intervals, or both. Returns up to two truths."""
    return [bool(kind) for kind in np.unique(np.isnan(space.pictures.interval_s[pictures]))]


def _paces_of(space: Space, lens: int, free: Ints) -> Ints:
    """Paces of a lens of the kinds that the free pictures are of, so that a pinned rate changes no table."""
    pictures = space.pictures
    wanted = np.isin(np.isnan(pictures.interval_s), _kinds(space, free))
    return np.unique(pictures.pace[(pictures.lens == lens) & wanted])


def _attached(at: Situation, space: Space, places: dict[str, Ints], pictures: Pictures) -> dict[str, Floats]:
    """Prices of what touches nothing but the picture, infinite where not offered. Returns picture x candidate each."""
    looks = [space.looks[i] for i in places["looks"]]
    habits = [space.habits[i] for i in places["habits"]]
    focuses = [space.focuses[i] for i in places["focuses"]]
    # Views change nothing of how a frame is recorded or fed, nor steadying of how it is recorded.
    first, timed = _alike(pictures.timing)
    of_look = weighed(at, views.LOOK, views.LookView(at, space, looks, pictures.take(first)))[timed]
    first, fed = _alike(pictures.timing * len(space.sheet.stabilisation) + pictures.steadying)
    of_habit = weighed(at, views.HABIT, views.HabitView(at, space, pictures.take(first), habits))[fed]
    of_focus = weighed(at, views.FOCUS, views.FocusView(at, focuses, space.focus_lenses))
    sounds = [space.sounds[i] for i in places["sounds"]]
    of_sound = weighed(at, views.SOUND, views.SoundView(at, space.sheet, sounds))
    balances = [space.balances[i] for i in places["balances"]]
    of_balance = weighed(at, views.BALANCE, views.AloneView(at, space.sheet, balances))
    allowed = space.look_allowed[np.ix_(places["pictures"], places["looks"])]
    return {
        "looks": np.where(allowed, of_look, INFINITE),
        "focuses": np.where(
            space.offer.focus_fits[np.ix_(places["pictures"], places["focuses"])], of_focus[pictures.lens], INFINITE
        ),
        "balances": np.where(
            space.offer.balance_fits[np.ix_(places["pictures"], places["balances"])], of_balance, INFINITE
        ),
        "sounds": np.broadcast_to(of_sound, (len(pictures), len(sounds))),
        "habits": np.broadcast_to(of_habit, (len(pictures), len(habits))),
    }


def _alike(kinds: Ints) -> tuple[Ints, Ints]:
    """One picture of each kind, and which of them each picture is like. kinds: of each picture. Returns both."""
    _, first, alike = np.unique(kinds, return_index=True, return_inverse=True)
    return first, alike


def _rows(space: Space, places: dict[str, Ints], lens: int, paces: Ints) -> tuple[Ints, Ints]:
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


def _table(at: Situation, space: Space, places: dict[str, Ints], lens: int, gates: Ints, row_paces: Ints) -> Table:
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


def _group(at: Situation, space: Space, table: Table, of_lens: OfLens, only: Bools | None, both_ways: bool) -> Group:
    """Price the pictures of one lens with everything. only: those that are looked at, all where left out; both_ways:
    whether exposures are priced over all pictures, too."""
    found = of_lens.found if only is None else of_lens.found.take(only)
    pace = of_lens.pace if only is None else of_lens.pace[only]
    within = _within_frame(at, space, of_lens.number, table, found)
    fixed = of_lens.of_pace[pace]
    fixed += found.base[:, None, None]
    fixed += within
    shortfall = noise_shortfall(at, found.seen.photosites, found.pictures.noise_gain)
    least_exposure, of_rung = _through_noise(at.weights["noise"], shortfall, fixed, table, both_ways)
    least_exposure += fixed
    return Group(of_lens.number, found.places, least_exposure, fixed, shortfall, of_rung, found.attached)


def _gates_by_pace(at: Situation, space: Space, lens: int, table: Table, paces: Ints) -> Floats:
    """Price of each row's exposure at each pace, infinite where it is not legal. Returns pace x row x glass."""
    capture_hz = np.array([space.paces[pace].capture_hz for pace in paces])[:, None, None]
    price = weighed(at, views.GATE, views.GateView(at, table.exposures, capture_hz))
    legal = np.array([space.offer.gate_fits[space.offer.pairs.index((lens, int(pace)))][table.gates] for pace in paces])
    legal &= (table.paces < 0) | (table.paces == paces[:, None])
    return np.where(legal[:, :, None], price, INFINITE)


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


def _minima(
    space: Space, tables: dict[int, Table], groups: tuple[Group, ...], places: dict[str, Ints], rest: float
) -> tuple[dict[str, Floats], dict[str, Ints]]:
    """Least price of each picture, gate, glass and look, and the group in which it was found."""
    sizes = {block: space.sizes[block] for block in ("pictures", "gates", "glasses", *ATTACHED)}
    least = {block: np.full(size, INFINITE) for block, size in sizes.items()}
    owner = {block: np.zeros(size, dtype=np.intp) for block, size in sizes.items()}
    for number, group in enumerate(groups):
        of_attached = [
            (name, places[name], (group.but(name)[:, None] + prices).min(axis=0))
            for name, prices in group.attached.items()
        ]
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
