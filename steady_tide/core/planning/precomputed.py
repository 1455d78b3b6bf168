"""The pictures of a camera with what they, and all that touches nothing but them, cost by themselves; whatever is pinned."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from steady_tide.core.planning.exposure_times import Timed
from steady_tide.core.planning.geometry import Geometry, geometry_of
from steady_tide.core.planning.items import views
from steady_tide.core.planning.items.cast import balance_behind_k
from steady_tide.core.planning.judgement import Stops
from steady_tide.core.planning.pinning import Freedom
from steady_tide.core.planning.priced_choice import Choice
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.space import INFINITE, Bools, Floats, Ints, Pictures, Space


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
class Precomputed:
    """Pictures with every candidate of what may go with them, priced by themselves."""

    space: Space
    places: Ints  # in the space
    pictures: Pictures
    seen: Geometry
    own: Floats  # picture
    attached: dict[str, Floats]  # picture x every candidate, infinite where not offered; without balances
    balances: Floats  # every glass x every balance: of the light that the glass leaves
    alone: dict[str, Floats]  # every value of each dial that touches no other
    parts: tuple[Part, ...]  # what all of these are the weighted sums of
    timed: dict[int, Timed] = field(default_factory=dict)  # by lens, as last asked for

    def stops(self, choices: Sequence[Choice]) -> Stops:
        """What some combinations give up by themselves, item by item. choices: N of them, with pictures of these. Returns
        stops, (N,) each."""
        rows = np.searchsorted(self.places, [choice["pictures"] for choice in choices])
        return {
            item: stops[index] if stops.shape == part.shape else np.broadcast_to(stops, part.shape)[index]
            for part in self.parts
            for index in [part.places(rows, choices)]
            for item, stops in part.stops.items()
        }

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


@dataclass(frozen=True)
class Part:
    """Stops by item of one scope for all candidates, and where a combination's stand."""

    shape: tuple[int, ...]
    stops: Stops
    places: Callable[[Ints, Sequence[Choice]], tuple[Any, ...]]  # from rows of the pictures and the combinations


def precompute(at: Situation, space: Space, kept: Bools) -> Precomputed:
    """Price what stands by itself. at: what the brief asks for; space: of the camera; kept: pictures that may be asked
    about. Returns them."""
    judgement, weights, places = at.judgement, at.weights, np.flatnonzero(kept)
    pictures, delivery = space.pictures.take(places), at.brief.delivery
    seen = geometry_of(space.offer, delivery.width, delivery.height, space.flat_port).take(places)
    parts: list[Part] = []

    def priced(
        scope: str, view: Any, shape: tuple[int, ...], of: Callable[[Ints, Sequence[Choice]], tuple[Any, ...]]
    ) -> Floats:
        parts.append(Part(shape, judgement.stops(scope, view), of))
        price = judgement.weigh(weights, parts[-1].stops)
        return price if price.shape == shape else np.broadcast_to(price, shape)

    def block(name: str) -> Callable[[Ints, Sequence[Choice]], tuple[Any, ...]]:
        return lambda _, choices: ([choice[name] for choice in choices],)

    own = priced(views.PICTURE, views.PictureView(at, space, pictures, seen), (len(places),), lambda rows, _: (rows,))
    # Views change nothing of how a frame is recorded or fed, nor stabilisation of how it is recorded.
    first, timed = _alike(pictures.timing)
    of_look = priced(
        views.LOOK,
        views.LookView(at, space, space.looks, pictures.take(first)),
        (len(first), len(space.looks)),
        lambda rows, choices: (timed[rows], *block("looks")(rows, choices)),
    )
    first, fed = _alike(pictures.timing * len(space.sheet.stabilisation) + pictures.steadying)
    of_habit = priced(
        views.HABIT,
        views.HabitView(at, space, pictures.take(first), space.habits),
        (len(first), len(space.habits)),
        lambda rows, choices: (fed[rows], *block("habits")(rows, choices)),
    )
    of_focus = priced(
        views.FOCUS,
        views.FocusView.for_pictures(at, space, pictures, seen),
        (len(places), len(space.focuses)),
        lambda rows, choices: (rows, *block("focuses")(rows, choices)),
    )
    sounds = views.SoundView(at, space.sheet, space.sounds)
    of_sound = priced(views.SOUND, sounds, (len(space.sounds),), block("sounds"))
    # Balances are of the light that a glass leaves; many leave the same.
    lights, left = _lights(at, space)
    behind = views.BalanceView(
        at, space.sheet.balance_k, space.balances * len(lights), [k for k in lights for _ in space.balances]
    )
    of_balance = priced(
        views.BALANCE,
        behind,
        (len(lights) * len(space.balances),),
        lambda _, choices: ([left[c["glasses"]] * len(space.balances) + c["balances"] for c in choices],),
    )
    alone = {
        dial: priced(dial, views.AloneView(at, space.sheet, values), (len(values),), block(dial))
        for dial, values in space.alone.items()
    }
    attached = {
        "looks": np.where(space.look_allowed[places], of_look[timed], INFINITE),
        "focuses": np.where(space.offer.focus_fits[places], of_focus, INFINITE),
        "sounds": np.broadcast_to(of_sound, (len(places), len(space.sounds))),
        "habits": of_habit[fed],
    }
    balances = of_balance.reshape(len(lights), -1)[left]
    return Precomputed(space, places, pictures, seen, own, attached, balances, alone, tuple(parts))


def _lights(at: Situation, space: Space) -> tuple[list[tuple[int, int]], Ints]:
    """The balances of the light that the glasses leave, each once, kelvins; and which of them is behind each glass."""
    wanted = [balance_behind_k(at, glass) for glass in space.glasses]
    lights = list(dict.fromkeys(wanted))
    return lights, np.array([lights.index(k) for k in wanted])


def _alike(kinds: Ints) -> tuple[Ints, Ints]:
    """One picture of each kind, and which of them each picture is like. kinds: of each picture. Returns both."""
    _, first, alike = np.unique(kinds, return_index=True, return_inverse=True)
    return first, alike
