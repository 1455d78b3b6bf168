"""The ISO speeds behind a lens that can serve any picture at all."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from steady_tide.core.planning.exposure_tables import Table
from steady_tide.core.planning.space import INFINITE, Floats, Ints


@dataclass(frozen=True)
class Speeds:
    """The few ISO speeds of each exposure that can serve a picture: a louder one only where it costs less. Side by side, so
    that whole columns are looked at at once."""

    weight: float
    price: Floats  # slot x row x glass
    of_noise: Floats  # the same, with what its noise costs beside that of the picture

    @classmethod
    def from_table(cls, weight: float, table: Table) -> Speeds:
        """Those of an exposure table. weight: of noise. Returns them."""
        rungs = table.by_rung.shape[-1]
        price, adds = table.by_rung.reshape(-1, rungs), table.noise_of.reshape(-1, rungs)
        by_noise = np.argsort(adds, axis=1, kind="stable")
        rising = np.take_along_axis(price, by_noise, axis=1)
        before = np.minimum.accumulate(rising, axis=1)
        cheaper = np.isfinite(rising)
        cheaper[:, 1:] &= rising[:, 1:] < before[:, :-1]
        owner, rung = np.nonzero(cheaper)
        slot = (np.cumsum(cheaper, axis=1) - 1)[owner, rung]
        slots = int(slot.max(initial=-1)) + 1
        left, noise = np.full((slots, len(price)), INFINITE), np.zeros((slots, len(price)))
        left[slot, owner] = rising[owner, rung]
        noise[slot, owner] = adds[owner, by_noise[owner, rung]]
        shape = (slots, *table.by_rung.shape[:2])
        return cls(weight, left.reshape(shape), (left + weight * noise).reshape(shape))

    def least(self, shortfall: Floats, rows: Ints) -> Floats:
        """Least price over the speeds. shortfall: of pictures, N x 1 x 1; rows: that are looked at, of all or N x rows.
        Returns N x row x glass."""
        weighted = self.weight * shortfall
        least = np.full((len(shortfall), rows.shape[-1], self.price.shape[-1]), INFINITE)
        for price, of_noise in zip(self.price, self.of_noise, strict=True):
            joined = weighted + of_noise[rows]
            np.minimum(least, np.maximum(joined, price[rows], out=joined), out=least)
        return least
