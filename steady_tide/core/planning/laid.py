"""The pictures of a camera with what they, and all that touches nothing but them, cost by themselves; whatever is pinned."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from steady_tide.core.planning.geometry import Geometry, geometry_of
from steady_tide.core.planning.items import views
from steady_tide.core.planning.items.cast import balance_behind_k
from steady_tide.core.planning.pinning import Freedom
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.space import INFINITE, Bools, Floats, Ints, Pictures, Space
from steady_tide.core.planning.tables import weighed
from steady_tide.core.planning.times import Timed


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


@dataclass(frozen=True, eq=False)
class Laid:
    """Pictures with every candidate of what may go with them, priced by themselves."""

    space: Space
    places: Ints  # in the space
    pictures: Pictures
    seen: Geometry
    own: Floats  # picture
    attached: dict[str, Floats]  # picture x every candidate, infinite where not offered; without balances
    balances: Floats  # every glass x every balance: of the light that the glass leaves
    alone: dict[str, Floats]  # every value of each dial that touches no other
    timed: dict[int, Timed] = field(default_factory=dict)  # by lens, as last asked for

    def covers(self, free: Freedom) -> bool:
        """Whether all pictures that are free are among these."""
        asked = free.masks["pictures"].copy()
        asked[self.places] = False
        return not asked.any()

    def candidates(self, places: dict[str, Ints], of_balance: Floats) -> Candidates:
        """What is left beside pins. places: of each block; of_balance: price of each balance that is left, the least
        behind any glass. Returns the pictures with what is left to attach."""
        offer, left = self.space.offer, places["pictures"]
        rows = np.searchsorted(self.places, left)
        whole = len(rows) == len(self.places)

        def kept(block: str) -> Floats:
            prices, columns = self.attached[block], places[block]
            if len(columns) < prices.shape[1]:
                prices = prices[:, columns]
            return prices if whole else prices[rows]

        balances = np.where(offer.balance_fits[np.ix_(left, places["balances"])], of_balance, INFINITE)
        attached = {
            "looks": kept("looks"), "focuses": kept("focuses"), "balances": balances, "sounds": kept("sounds"),
            "habits": kept("habits"),
        }  # fmt: skip
        own, pictures, seen = self.own, self.pictures, self.seen
        if not whole:
            own, pictures, seen = own[rows], pictures.take(rows), seen.take(rows)
        base = own + sum(prices.min(axis=1) for prices in attached.values())
        return Candidates(left, pictures, seen, attached, base)


def lay_out(at: Situation, space: Space, kept: Bools) -> Laid:
    """Price what stands by itself. at: what the brief asks for; space: of the camera; kept: pictures that may be asked
    about. Returns them."""
    places = np.flatnonzero(kept)
    pictures, delivery = space.pictures.take(places), at.brief.delivery
    seen = geometry_of(space.offer, delivery.width, delivery.height, space.flat_port).take(places)
    own = weighed(at, views.PICTURE, views.PictureView(at, space, pictures, seen))
    alone = {
        dial: np.broadcast_to(weighed(at, dial, views.AloneView(at, space.sheet, values)), len(values))
        for dial, values in space.alone.items()
    }
    return Laid(space, places, pictures, seen, own, _attached(at, space, places, pictures), _balances(at, space), alone)


def _attached(at: Situation, space: Space, places: Ints, pictures: Pictures) -> dict[str, Floats]:
    """Prices of what touches nothing but the picture, infinite where not offered. Returns picture x candidate each."""
    # Views change nothing of how a frame is recorded or fed, nor steadying of how it is recorded.
    first, timed = _alike(pictures.timing)
    of_look = weighed(at, views.LOOK, views.LookView(at, space, space.looks, pictures.take(first)))[timed]
    first, fed = _alike(pictures.timing * len(space.sheet.stabilisation) + pictures.steadying)
    of_habit = weighed(at, views.HABIT, views.HabitView(at, space, pictures.take(first), space.habits))[fed]
    of_focus = weighed(at, views.FOCUS, views.FocusView(at, space.focuses, space.focus_lenses))[pictures.lens]
    of_sound = weighed(at, views.SOUND, views.SoundView(at, space.sheet, space.sounds))
    return {
        "looks": np.where(space.look_allowed[places], of_look, INFINITE),
        "focuses": np.where(space.offer.focus_fits[places], of_focus, INFINITE),
        "sounds": np.broadcast_to(of_sound, (len(pictures), len(space.sounds))),
        "habits": np.broadcast_to(of_habit, (len(pictures), len(space.habits))),
    }


def _balances(at: Situation, space: Space) -> Floats:
    """Prices of the balances behind each glass: of the light that it leaves. Returns glass x balance."""
    values = space.balances
    wanted = [balance_behind_k(at, glass) for glass in space.glasses]
    price = {
        k: np.broadcast_to(weighed(at, views.BALANCE, views.BalanceView(at, values, [k] * len(values))), len(values))
        for k in dict.fromkeys(wanted)
    }
    return np.array([price[k] for k in wanted])


def _alike(kinds: Ints) -> tuple[Ints, Ints]:
    """One picture of each kind, and which of them each picture is like. kinds: of each picture. Returns both."""
    _, first, alike = np.unique(kinds, return_index=True, return_inverse=True)
    return first, alike
