"""What the search finds: least prices of every candidate, and the way back to the combinations."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from steady_tide.core.planning.exposure_tables import Table
from steady_tide.core.planning.picture_prices import Group, first_least
from steady_tide.core.planning.priced_choice import Choice
from steady_tide.core.planning.space import INFINITE, Floats, Ints

# Blocks that touch nothing but the picture.
ATTACHED = ("looks", "focuses", "balances", "sounds", "habits")


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
        if block is None:
            return Choice.from_places({**self._cheapest, **self._cheapest_alone})
        keep = slice(None) if candidates is None else candidates
        least = np.full(len(self.minima[block]), INFINITE)
        if block in ("iso_pairs", "compensations"):
            least[keep] = 0.0
            return Choice.from_places({**self._through_exposure(block, least), **self._cheapest_alone})
        least[keep] = self.minima[block][keep]
        wanted = int(least.argmin())
        if block in self.alone:
            return Choice.from_places({**self._cheapest, **self._cheapest_alone, block: wanted})
        group = self.groups[self.owner[block][wanted]]
        return Choice.from_places({**self._in_group(group, block, wanted), **self._cheapest_alone})

    @cached_property
    def _cheapest(self) -> dict[str, int]:
        """The cheapest combination of all, without the dials that stand alone."""
        return self._in_group(min(self.groups, key=lambda g: float(g.of_picture.min())), "all", 0)

    @cached_property
    def _cheapest_alone(self) -> dict[str, int]:
        """The cheapest value of each dial that stands alone."""
        return {name: int(prices.argmin()) for name, prices in self.alone.items()}

    def _in_group(self, group: Group, block: str, wanted: int) -> dict[str, int]:
        table = self.tables[group.table]
        held: dict[str, int] = {}
        if block == "gates":
            picture, row, glass = group.through_gate(table, wanted)
        elif block == "glasses":
            glass = int(np.flatnonzero(self.places[block] == wanted)[0])
            picture = int(group.behind(glass).argmin())
            row = int(group.cells(picture)[:, glass].argmin())
        else:
            if block in ATTACHED:
                held = {block: int(np.flatnonzero(self.places[block] == wanted)[0])}
                picture = int(group.with_each(block)[:, held[block]].argmin())
            elif block == "pictures":
                picture = int(np.flatnonzero(group.pictures == wanted)[0])
            else:
                picture = int(group.of_picture.argmin())
            if block == "balances" and group.balances is not None:
                glass = group.glass_with(picture, held[block])
                row = int(group.cells(picture)[:, glass].argmin())
            else:
                row, glass = group.cell_of(picture)
        pair, compensation = self._gain_of(group, picture, row, glass)
        return self._named(group, picture, row, glass, pair, compensation, held)

    def _gain_of(self, group: Group, picture: int, row: int, glass: int) -> tuple[int, ...]:
        """The cheapest pair of ISO and compensation of a picture in one cell."""
        known = self._gains.get((group.table, picture, row, glass))
        if known is None:
            table = self.tables[group.table]
            noise = np.maximum(0.0, group.shortfall[picture] + table.noise_at(row, glass))
            known = first_least(table.price[row, glass] + self.noise_weight * noise)
            self._gains[group.table, picture, row, glass] = known
        return known

    @cached_property
    def _gains(self) -> dict[tuple[int, ...], tuple[int, ...]]:
        return {}

    def _through_exposure(self, block: str, allowed: Floats) -> dict[str, int]:
        allowed = allowed[self.places[block]]
        of_table = [prices[block] + allowed for prices in self.by_exposure]
        number = int(np.argmin([float(prices.min(initial=INFINITE)) for prices in of_table]))
        held, group = int(np.argmin(of_table[number])), self.groups[number]
        table = self.tables[group.table]
        priced = self.over_exposure[number]
        if block == "iso_pairs":
            row, glass, compensation = first_least(priced[:, :, held, :])
            pair = held
        else:
            row, glass, pair = first_least(priced[:, :, :, held])
            compensation = held
        noise = np.maximum(0.0, group.shortfall + table.noise_at(row, glass)[pair, compensation])
        picture = int(np.argmin(group.fixed_at(row, glass) + self.noise_weight * noise))
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
