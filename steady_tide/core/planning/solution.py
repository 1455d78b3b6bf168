"""What the search finds: least prices of every candidate, and the way back to the combinations."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from steady_tide.core.planning.metering import Exposures
from steady_tide.core.planning.priced import Choice
from steady_tide.core.planning.space import Floats, Ints

INFINITE = float("inf")
# Blocks that touch nothing but the picture.
ATTACHED = ("looks", "focuses", "balances", "sounds", "habits")


@dataclass(frozen=True)
class Table:
    """What exposure costs behind one lens; rows are gates, an automatic one standing once for each pace."""

    gates: Ints  # row
    paces: Ints  # row; -1 where the pace does not matter
    price: Floats  # row x glass x iso pair x compensation: without noise
    ladder: Floats  # row x glass x rung: log2 of the ISO speeds that can be in use
    rung: Ints  # the shape of price: which of them is
    by_rung: Floats  # row x glass x rung: least price
    noise_of: Floats  # row x glass x rung: noise that this ISO brings
    exposures: Exposures  # row x glass: times at both ends of the light

    def at_rung(self, values: Floats) -> Floats:
        """Spread values of rungs over the exposures that use them. Returns the shape of `price`."""
        outer, pairs = self.rung.shape[:2], self.rung.shape[2] * self.rung.shape[3]
        flat = self.rung.reshape(*outer, pairs)
        return np.take_along_axis(values, flat, axis=-1).reshape(self.rung.shape)


@dataclass(frozen=True)
class Group:
    """The pictures of one lens with its exposure table; infinite where a gate does not go with a picture's pace."""

    table: int
    pictures: Ints
    joint: Floats  # picture x row x glass: least price
    fixed: Floats  # picture x row x glass: without exposure and noise
    shortfall: Floats  # picture
    of_rung: Floats  # row x glass x rung: least price over the pictures, without exposure
    attached: dict[str, Floats]  # for each block that touches nothing but the picture: picture x candidate
    balances: Floats | None = None  # picture x glass x balance, where a balance costs otherwise behind other glass

    @cached_property
    def of_picture(self) -> Floats:
        """Least price of each picture."""
        return np.asarray(self.joint.reshape(len(self.pictures), -1).min(axis=1))

    def but(self, block: str) -> Floats:
        """Least price of each picture without what is attached to it in a block."""
        return np.asarray(self.of_picture - self.attached[block].min(axis=1))

    def with_each(self, block: str) -> Floats:
        """Least price of each picture with each candidate of what is attached to it, picture x candidate."""
        if block == "balances" and self.balances is not None:
            return np.asarray((self._without_balance[..., None] + self.balances).min(axis=1))
        return np.asarray(self.but(block)[:, None] + self.attached[block])

    @cached_property
    def _without_balance(self) -> Floats:
        """Least price of each picture behind each glass, without its balance."""
        assert self.balances is not None
        return np.asarray(self.joint.min(axis=1) - self.balances.min(axis=2))

    def glass_with(self, picture: int, balance: int) -> int:
        """The glass behind which a picture costs least with a balance."""
        assert self.balances is not None
        return int(np.argmin(self._without_balance[picture] + self.balances[picture, :, balance]))


@dataclass(frozen=True)
class Solution:
    """Least prices for every candidate of every block, and the way back to the combinations.

    Blocks that stand alone have one dial each and touch nothing else; their least prices are given as
    if that dial were free, so that a pin there needs no second search.
    """

    total: float
    minima: dict[str, Floats]
    alone: dict[str, Floats]
    tables: dict[int, Table]  # by lens
    groups: tuple[Group, ...]
    places: dict[str, Ints]
    over_exposure: tuple[Floats, ...]  # for each group, the shape of its table's price
    by_exposure: tuple[dict[str, Floats], ...]  # for each group, least prices of ISO pairs and of compensations
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
            return Choice.of({**self._through_exposure(block, keep), **alone})
        if block is None or block in self.alone:
            group = min(self.groups, key=lambda g: float(g.of_picture.min()))
            return Choice.of({**self._in_group(group, "all", 0), **alone})
        least = np.full(len(self.minima[block]), INFINITE)
        least[keep] = self.minima[block][keep]
        wanted = int(np.argmin(least))
        return Choice.of({**self._in_group(self.groups[self.owner[block][wanted]], block, wanted), **alone})

    def _in_group(self, group: Group, block: str, wanted: int) -> dict[str, int]:
        table, joint = self.tables[group.table], group.joint
        held: dict[str, int] = {}
        if block in ATTACHED:
            held = {block: int(np.flatnonzero(self.places[block] == wanted)[0])}
            picture = int(np.argmin(group.with_each(block)[:, held[block]]))
            row, glass = _first_least(joint[picture])
            if block == "balances" and group.balances is not None:
                glass = group.glass_with(picture, held[block])
                row = int(np.argmin(joint[picture, :, glass]))
        elif block == "pictures":
            picture = int(np.flatnonzero(group.pictures == wanted)[0])
            row, glass = _first_least(joint[picture])
        elif block == "gates":
            rows = np.flatnonzero(table.gates == wanted)
            picture, place, glass = _first_least(joint[:, rows])
            row = int(rows[place])
        elif block == "glasses":
            glass = int(np.flatnonzero(self.places[block] == wanted)[0])
            picture, row = _first_least(joint[:, :, glass])
        else:
            picture = int(np.argmin(group.of_picture))
            row, glass = _first_least(joint[picture])
        noise = np.maximum(0.0, group.shortfall[picture] + table.noise_of[row, glass][table.rung[row, glass]])
        within = table.price[row, glass] + self.noise_weight * noise
        pair, compensation = _first_least(within)
        return self._named(group, picture, row, glass, pair, compensation, held)

    def _through_exposure(self, block: str, keep: Ints | slice) -> dict[str, int]:
        allowed = np.full(len(self.minima[block]), INFINITE)
        allowed[keep] = 0.0
        allowed = allowed[self.places[block]]
        of_table = [prices[block] + allowed for prices in self.by_exposure]
        number = int(np.argmin([float(prices.min(initial=INFINITE)) for prices in of_table]))
        held, group = int(np.argmin(of_table[number])), self.groups[number]
        table = self.tables[group.table]
        priced = self.over_exposure[number]
        if block == "iso_pairs":
            row, glass, compensation = _first_least(priced[:, :, held, :])
            pair = held
        else:
            row, glass, pair = _first_least(priced[:, :, :, held])
            compensation = held
        rung = table.rung[row, glass, pair, compensation]
        noise = np.maximum(0.0, group.shortfall + table.noise_of[row, glass, rung])
        picture = int(np.argmin(group.fixed[:, row, glass] + self.noise_weight * noise))
        return self._named(group, picture, row, glass, pair, compensation, {})

    def _named(
        self, group: Group, picture: int, row: int, glass: int, pair: int, compensation: int, held: dict[str, int]
    ) -> dict[str, int]:
        cheapest = {name: int(np.argmin(prices[picture])) for name, prices in group.attached.items()}
        if group.balances is not None:
            cheapest["balances"] = int(np.argmin(group.balances[picture, glass]))
        attached = {name: int(self.places[name][place]) for name, place in {**cheapest, **held}.items()}
        return {
            "pictures": int(group.pictures[picture]),
            "gates": int(self.tables[group.table].gates[row]),
            "glasses": int(self.places["glasses"][glass]),
            "iso_pairs": int(self.places["iso_pairs"][pair]),
            "compensations": int(self.places["compensations"][compensation]),
            **attached,
        }


def _first_least(prices: Floats) -> tuple[int, ...]:
    """Where the least price stands, the first among equals."""
    return tuple(int(place) for place in np.unravel_index(int(np.argmin(prices)), prices.shape))
