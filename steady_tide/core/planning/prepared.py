"""A camera laid out for a brief and its pins: what stands by itself priced, the rest when it is first asked for."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property

import numpy as np

from steady_tide.core.planning.exposure_tables import (
    Table,
    exposed_alike,
    kinds_of,
    paces_of,
    rows_of,
    table_of,
    through_lens,
)
from steady_tide.core.planning.exposure_times import Timed, timed
from steady_tide.core.planning.items import views
from steady_tide.core.planning.pinning import Freedom
from steady_tide.core.planning.precomputed import Candidates, Precomputed, precompute
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.space import INFINITE, Bools, Floats, Ints, Space

EXPOSURE_BLOCKS = ("gates", "glasses", "iso_pairs", "compensations")


@dataclass(frozen=True)
class OfLens:
    """The pictures of one lens beside its exposure table, before anything is priced together."""

    number: int
    found: Candidates
    timed: Timed
    pace: Ints  # picture: which of the paces
    lower: Floats  # picture: no combination with it is cheaper


@dataclass(frozen=True, eq=False)
class Prepared:
    """A camera laid out for a brief and its pins, with every part priced that stands by itself; what exposure costs
    behind a lens is worked out when that lens is first asked for."""

    at: Situation
    space: Space
    precomputed: Precomputed
    places: dict[str, Ints]  # candidates of each block that are left
    masks: dict[str, Bools]
    by_lens: dict[int, Candidates]  # the lens with the cheapest picture first; empty where nothing is left
    balances: Floats | None = None  # glass x balance: prices, where they differ from glass to glass
    known: Prepared | None = None  # whose tables serve again
    made: dict[int, Table] = field(default_factory=dict)
    exposed: dict[int, tuple[object, ...]] = field(default_factory=dict)  # by lens, what its table follows from

    @property
    def alone(self) -> dict[str, Floats]:
        """Price of every value of a dial that touches no other, pinned or not."""
        return self.precomputed.alone

    @cached_property
    def least_alone(self) -> dict[str, float]:
        """Least price of each dial that touches no other, among the values that are left."""
        return {dial: float(np.where(self.masks[dial], prices, INFINITE).min()) for dial, prices in self.alone.items()}

    def table(self, lens: int) -> Table:
        """What exposure costs behind a lens. lens: its number. Returns the table."""
        if lens not in self.made:
            self.made[lens] = self._worked_out(lens) if self.known is None else self.known.table(lens)
        return self.made[lens]

    def _worked_out(self, lens: int) -> Table:
        gates, paces = rows_of(self.space, self.places, lens, self._paces(lens))
        # A lens with something before it that takes no light is exposed as without.
        self.exposed[lens] = alike = exposed_alike(self.space, lens, gates, paces)
        glass = self.space.glass_allowed
        for other, known in self.made.items():
            if self.exposed[other] == alike and (glass[lens] <= glass[other]).all():
                return through_lens(self.at, self.space, lens, known, gates, paces, self.places["glasses"])
        return table_of(self.at, self.space, self.places, lens, gates, paces)

    def _paces(self, lens: int) -> Ints:
        return paces_of(self.space, lens, self.kinds)

    @cached_property
    def kinds(self) -> tuple[bool, ...]:
        """Whether free pictures are taken at speed, at intervals, or both."""
        return kinds_of(self.space, self.places["pictures"])

    def of_lens(self, lens: int) -> OfLens | None:
        """The pictures of a lens beside its exposures. lens: its number. Returns them, None where none is left."""
        table, found = self.table(lens), self.by_lens[lens]
        if not len(table.gates):
            return None
        known = self.precomputed.timed.get(lens)
        if known is None or known.table is not table:
            known = self.precomputed.timed[lens] = timed(self.at, self.space, lens, table, self._paces(lens))
        pace = np.searchsorted(known.paces, found.pictures.pace)
        return OfLens(lens, found, known, pace, found.base + known.least[pace])

    def all_lenses(self) -> tuple[OfLens, ...]:
        """All of them, in the order of the sheet."""
        lenses = (self.of_lens(number) for number in sorted(self.by_lens))
        return tuple(of_lens for of_lens in lenses if of_lens is not None)


def prepare(
    at: Situation, space: Space, free: Freedom, known: Prepared | None = None, within: Freedom | None = None
) -> Prepared:
    """Price everything that stands by itself.

    at: what the brief asks for; space: what the camera can do; free: what is not pinned away; known: the same camera
    prepared before: what it laid out serves again for the same brief, and its exposure tables where light and weights
    are the same and its pins left exposure as free; within: what may be asked about later, as without pins; only what is
    free where left out.
    """
    places = {block: np.flatnonzero(mask) for block, mask in free.masks.items()}
    precomputed = (
        known.precomputed
        if known is not None and known.at.origin is at.origin and known.precomputed.covers(free)
        else None
    )
    precomputed = precomputed or precompute(at, space, (within or free).masks["pictures"])
    if not all(len(kept) for kept in places.values()):
        return Prepared(at, space, precomputed, places, free.masks, {})
    again = known is not None and _serves_again(known, at, places, space)
    of_glass = precomputed.balances[np.ix_(places["glasses"], places["balances"])]
    by_lens = _by_lens(precomputed.candidates(places, of_glass.min(axis=0)))
    differ = of_glass if (of_glass != of_glass[0]).any() else None
    return Prepared(
        at, space, precomputed, places, free.masks, by_lens, differ, (known.known or known) if known and again else None
    )


def _serves_again(known: Prepared, at: Situation, places: dict[str, Ints], space: Space) -> bool:
    """Whether exposure tables that were made before say the same again."""
    if not known.by_lens:
        return False
    if at.origin is not known.at.origin and not (at.light == known.at.light and _weigh_exposure_alike(at, known.at)):
        return False
    as_free = all(np.array_equal(known.places[block], places[block]) for block in EXPOSURE_BLOCKS)
    return as_free and known.kinds == kinds_of(space, places["pictures"])


def _weigh_exposure_alike(at: Situation, other: Situation) -> bool:
    if at.noise_for_steadiness_stops != other.noise_for_steadiness_stops or at.shown_fps != other.shown_fps:
        return False
    items = (item for scope in views.OF_EXPOSURE for item in at.judgement.of_scope[scope])
    return all(at.weights[item.id] == other.weights[item.id] for item in items)


def _by_lens(every: Candidates) -> dict[int, Candidates]:
    """The pictures of each lens; the lens with the cheapest first."""
    lens = np.where(np.isfinite(every.base), every.pictures.lens, -1)
    numbers = [int(number) for number in np.unique(lens) if number >= 0]
    if len(numbers) == 1 and (lens >= 0).all():
        return {numbers[0]: every}
    of_lens = [(number, every.take(np.flatnonzero(lens == number))) for number in numbers]
    return dict(sorted(of_lens, key=lambda entry: float(entry[1].base.min())))
