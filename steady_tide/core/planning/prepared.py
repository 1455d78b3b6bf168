"""A camera laid out for a brief and its pins: what stands by itself priced, the rest when it is first asked for."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from steady_tide.core.planning.geometry import Geometry, geometry
from steady_tide.core.planning.items import views
from steady_tide.core.planning.items.cast import balance_behind_k
from steady_tide.core.planning.pinning import Freedom
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.space import INFINITE, Bools, Floats, Ints, Pictures, Space
from steady_tide.core.planning.tables import Table, kinds_of, paces_of, rows_of, table_of, weighed
from steady_tide.core.planning.times import Times

EXPOSURE_BLOCKS = ("gates", "glasses", "iso_pairs", "compensations")


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
    times: Times
    gates: Ints  # time
    dim_s: Floats  # pace x time: how long it is at the dim end
    of_pace: Floats  # pace x time: its price, infinite where it is not legal
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
    by_lens: dict[int, Candidates]  # the lens with the cheapest picture first; empty where nothing is left
    balances: Floats | None = None  # glass x balance: prices, where they differ from glass to glass
    known: Prepared | None = None  # whose tables serve again
    made: dict[int, Table] = field(default_factory=dict)

    @property
    def least_alone(self) -> dict[str, float]:
        """Least price of each dial that touches no other, among the values that are left."""
        return {dial: float(np.where(self.masks[dial], prices, INFINITE).min()) for dial, prices in self.alone.items()}

    def table(self, lens: int) -> Table:
        """What exposure costs behind a lens. lens: its number. Returns the table."""
        if lens not in self.made:
            self.made[lens] = self._worked_out(lens) if self.known is None else self.known.table(lens)
        return self.made[lens]

    def _worked_out(self, lens: int) -> Table:
        paces = paces_of(self.space, lens, self.places["pictures"])
        return table_of(self.at, self.space, self.places, lens, *rows_of(self.space, self.places, lens, paces))

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
    of_glass = balances_by_glass(at, space, places)
    by_lens = _by_lens(at, space, places, of_glass)
    differ = of_glass if (of_glass != of_glass[0]).any() else None
    return Prepared(at, space, places, free.masks, alone, by_lens, differ, known if again else None)


def balances_by_glass(at: Situation, space: Space, places: dict[str, Ints]) -> Floats:
    """Prices of the balances that are left behind each glass: of the light that it leaves. Returns glass x balance."""
    values = [space.balances[i] for i in places["balances"]]
    wanted = [balance_behind_k(at, space.glasses[g]) for g in places["glasses"]]
    price = {
        k: np.broadcast_to(weighed(at, views.BALANCE, views.BalanceView(at, values, [k] * len(values))), len(values))
        for k in dict.fromkeys(wanted)
    }
    return np.array([price[k] for k in wanted])


def _serves_again(known: Prepared, at: Situation, places: dict[str, Ints], space: Space) -> bool:
    """Whether exposure tables that were made before say the same again."""
    if not known.by_lens:
        return False
    if at is not known.at and not (at.light == known.at.light and _weigh_exposure_alike(at, known.at)):
        return False
    as_free = all(np.array_equal(known.places[block], places[block]) for block in EXPOSURE_BLOCKS)
    return as_free and set(kinds_of(space, known.places["pictures"])) == set(kinds_of(space, places["pictures"]))


def _weigh_exposure_alike(at: Situation, other: Situation) -> bool:
    items = (item for scope in views.OF_EXPOSURE for item in at.judgement.of_scope[scope])
    return all(at.weights[item.id] == other.weights[item.id] for item in items)


def _by_lens(at: Situation, space: Space, places: dict[str, Ints], balances: Floats) -> dict[int, Candidates]:
    """Pictures with what they cost by themselves, by lens; the lens with the cheapest first."""
    pictures = space.pictures.take(places["pictures"])
    delivery = at.brief.delivery
    seen = geometry(pictures, space.sheet, delivery.width, delivery.height, space.flat_port)
    attached = _attached(at, space, places, pictures, balances.min(axis=0))
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
    times = Times.of(table, paces)
    gates, exposures = times.gates(table), times.exposures(table)
    capture_hz = np.array([space.paces[pace].capture_hz for pace in paces])[:, None]
    legal = np.array([space.offer.gate_fits[space.offer.pairs.index((number, int(pace)))][gates] for pace in paces])
    of_pace = np.where(legal, weighed(at, views.GATE, views.GateView(at, exposures, capture_hz)), INFINITE)
    cheapest = table.by_rung.min(axis=-1)
    least = (of_pace + times.by_pace(cheapest.min(axis=1), cheapest)).min(axis=1, initial=INFINITE)
    return OfLens(number, found, times, gates, exposures.dim_s, of_pace, pace, found.base + least[pace])


def _attached(
    at: Situation, space: Space, places: dict[str, Ints], pictures: Pictures, of_balance: Floats
) -> dict[str, Floats]:
    """Prices of what touches nothing but the picture, infinite where not offered; of balances the least behind any
    glass. Returns picture x candidate each."""
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
