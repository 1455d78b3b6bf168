"""The pictures of one lens, priced with all that goes with them; and which exposure each of them costs least with."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property

import numpy as np

from steady_tide.core.planning.exposure_tables import Table
from steady_tide.core.planning.exposure_times import Times
from steady_tide.core.planning.space import INFINITE, Bools, Floats, Ints


@dataclass(frozen=True)
class Kinds:
    """Pictures that no exposure tells apart, the quietest first."""

    shortfall: Floats  # kind: what its pictures add to noise, stops
    which: Ints  # picture: of which kind
    more: Floats  # kind x glass: what the cheapest balance costs more behind a glass than behind any


@dataclass(frozen=True)
class Group:
    """The pictures of one lens with their exposures. What each picture costs in each cell, a row of the exposure table
    behind a glass, is told of one picture, one glass or one gate at a time: all of it would be ten times as much."""

    table: int
    pictures: Ints
    times: Times
    pace: Ints  # picture: which of the paces of the times
    fixed: Floats  # picture x time: least price without exposure, noise, and what glass does to balances
    shortfall: Floats  # picture: what it adds to noise, stops
    kinds: Kinds
    of_held: Floats  # kind x held row x glass: price of exposure and noise, and of balances behind the glass
    metered: Floats  # picture x automatic gate x glass: least price of all
    attached: dict[str, Floats]  # for each block that touches nothing but the picture: picture x candidate
    balances: Floats | None = None  # picture x glass x balance, where a balance costs otherwise behind other glass
    of_rung: Floats = field(
        default_factory=lambda: np.empty((0, 0, 0))
    )  # row x glass x rung: least price over the pictures, without exposure
    made: dict[str, Floats] = field(default_factory=dict)  # what `with_each` said before
    cheapest: dict[int, tuple[int, ...]] = field(default_factory=dict)  # what `cell_of` said before

    def narrowed(self, kept: Bools, columns: dict[str, Bools]) -> Group:
        """Some of the pictures with some of what is attached to them. kept: picture; columns: of blocks that are attached, which are
        left; all of the others. Returns fewer, without exposure priced over pictures."""
        attached = {block: prices[kept] for block, prices in self.attached.items()}
        more = np.zeros(int(kept.sum()))
        for block, left in columns.items():
            before, attached[block] = attached[block].min(axis=1), attached[block][:, left]
            more += attached[block].min(axis=1, initial=INFINITE) - before
        fits = np.isfinite(more)
        if not fits.all():
            kept = kept.copy()
            kept[kept] = fits
            more, attached = more[fits], {block: prices[fits] for block, prices in attached.items()}
        used, which = np.unique(self.kinds.which[kept], return_inverse=True)
        return Group(
            self.table,
            self.pictures[kept],
            self.times,
            self.pace[kept],
            self.fixed[kept] + more[:, None],
            self.shortfall[kept],
            Kinds(self.kinds.shortfall[used], which, self.kinds.more[used]),
            self.of_held[used],
            self.metered[kept] + more[:, None, None],
            attached,
            None if self.balances is None else self.balances[kept],
        )

    @property
    def _fixed_held(self) -> Floats:
        return self.fixed[:, : len(self.times.held)]

    @cached_property
    def of_picture(self) -> Floats:
        """Least price of each picture."""
        held = self._fixed_held + self.of_held.min(axis=2)[self.kinds.which]
        metered = self.metered.reshape(len(self.pictures), -1)
        return np.asarray(np.minimum(held.min(axis=1, initial=INFINITE), metered.min(axis=1, initial=INFINITE)))

    @cached_property
    def of_kind(self) -> Floats:
        """Least price of each kind at each held time, kind x held row, as `fixed`."""
        in_order = np.argsort(self.kinds.which, kind="stable")
        begins = np.searchsorted(self.kinds.which[in_order], np.arange(len(self.kinds.shortfall)))
        return np.asarray(np.minimum.reduceat(self._fixed_held[in_order], begins, axis=0))

    @cached_property
    def of_cell(self) -> Floats:
        """Least price over the pictures, row x glass."""
        found = np.full((self.times.rows, self.times.glasses), INFINITE)
        found[self.times.held] = (self.of_kind[:, :, None] + self.of_held).min(axis=0)
        if self.times.metered.size:
            in_order = np.argsort(self.pace, kind="stable")
            paces, begins = np.unique(self.pace[in_order], return_index=True)
            found[self.times.metered[paces]] = np.minimum.reduceat(self.metered[in_order], begins, axis=0)
        return found

    def cells(self, picture: int) -> Floats:
        """What one picture costs in each cell. Returns row x glass, infinite where not legal."""
        found = np.full((self.times.rows, self.times.glasses), INFINITE)
        found[self.times.held] = self._fixed_held[picture][:, None] + self.of_held[self.kinds.which[picture]]
        found[self.times.metered[self.pace[picture]]] = self.metered[picture]
        return found

    def cell_of(self, picture: int) -> tuple[int, ...]:
        """The cheapest cell of one picture, the first among equals. Returns row and glass."""
        if picture not in self.cheapest:
            self.cheapest[picture] = first_least(self.cells(picture))
        return self.cheapest[picture]

    def behind(self, glass: int) -> Floats:
        """Least price of each picture behind one glass."""
        held = self._fixed_held + self.of_held[:, :, glass][self.kinds.which]
        metered = self.metered[:, :, glass]
        return np.asarray(np.minimum(held.min(axis=1, initial=INFINITE), metered.min(axis=1, initial=INFINITE)))

    def through_gate(self, table: Table, gate: int) -> tuple[int, int, int]:
        """The cheapest combination with a gate. table: of the lens; gate: place in the space. Returns picture, row and
        glass, the first among equals."""
        held = np.flatnonzero(table.gates[self.times.held] == gate)
        if len(held):
            place = int(held[0])
            prices = self._fixed_held[:, place, None] + self.of_held[:, place][self.kinds.which]
            picture, glass = first_least(prices)
            return picture, int(self.times.held[place]), glass
        place = int(np.flatnonzero(table.gates[self.times.metered[0]] == gate)[0])
        picture, glass = first_least(self.metered[:, place])
        return picture, int(self.times.metered[self.pace[picture], place]), glass

    def fixed_at(self, row: int, glass: int) -> Floats:
        """What each picture costs in one cell without exposure and noise. Returns prices, infinite where not legal."""
        more = self.kinds.more[self.kinds.which, glass]
        held = np.flatnonzero(self.times.held == row)
        if len(held):
            return np.asarray(self.fixed[:, held[0]] + more)
        pace, gate = np.argwhere(self.times.metered == row)[0]
        time = len(self.times.held) + gate * self.times.glasses + glass
        return np.where(self.pace == pace, self.fixed[:, time] + more, INFINITE)

    def but(self, block: str) -> Floats:
        """Least price of each picture without what is attached to it in a block."""
        return np.asarray(self.of_picture - self.attached[block].min(axis=1))

    def with_each(self, block: str) -> Floats:
        """Least price of each picture with each candidate of what is attached to it, picture x candidate."""
        if block not in self.made:
            if block == "balances" and self.balances is not None:
                self.made[block] = np.asarray((self._without_balance[..., None] + self.balances).min(axis=1))
            else:
                self.made[block] = np.asarray(self.but(block)[:, None] + self.attached[block])
        return self.made[block]

    @cached_property
    def _without_balance(self) -> Floats:
        """Least price of each picture behind each glass, without its balance."""
        assert self.balances is not None
        behind = np.stack([self.behind(glass) for glass in range(self.times.glasses)], axis=1)
        return np.asarray(behind - self.balances.min(axis=2))

    def glass_with(self, picture: int, balance: int) -> int:
        """The glass behind which a picture costs least with a balance."""
        assert self.balances is not None
        return int(np.argmin(self._without_balance[picture] + self.balances[picture, :, balance]))


def first_least(prices: Floats) -> tuple[int, ...]:
    """Where the least price stands, the first among equals."""
    place, found = int(prices.argmin()), []
    for size in reversed(prices.shape):
        place, at = divmod(place, size)
        found.append(at)
    return tuple(reversed(found))
