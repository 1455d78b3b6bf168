"""How exposure and pictures meet: through the noise of the ISO in use and nothing else.

One way, exposure is eliminated for each picture; the other way, pictures for each ISO in use.
"""

from __future__ import annotations

import numpy as np

from steady_tide.core.planning.exposure_tables import Table
from steady_tide.core.planning.picture_prices import Group
from steady_tide.core.planning.space import INFINITE, Floats, Ints


def of_rungs(weight: float, table: Table, group: Group) -> Floats:
    """Least price over pictures for each ISO in use, without exposure.

    weight: of noise; table, group: of one lens. Returns row x glass x rung, infinite where no exposure uses it.
    """
    times, kinds = group.times, group.kinds
    found = np.full(table.by_rung.shape, INFINITE)

    def over(rows: Ints, shortfall: Floats, of_kind: Floats) -> None:
        """rows: some; shortfall: kind x column; of_kind: the same, one column for each row and glass."""
        price, adds = (values[rows].reshape(-1, values.shape[-1]) for values in (table.by_rung, table.noise_of))
        found[rows] = _over_kinds(weight, shortfall, of_kind, price, adds).reshape(found[rows].shape)

    if len(times.held):
        of_kind = group.of_kind[:, :, None] + kinds.more[:, None, :]
        columns = of_kind.reshape(len(of_kind), -1)
        over(times.held, np.broadcast_to(kinds.shortfall[:, None], columns.shape), columns)
    if times.metered.size:
        # The pictures of each pace, the quietest first, one below the other.
        in_order = np.lexsort((group.shortfall, group.pace))
        pace = group.pace[in_order]
        depth = np.arange(len(pace)) - np.searchsorted(pace, pace)
        prices = group.fixed[:, len(times.held) :].reshape(group.metered.shape) + kinds.more[kinds.which][:, None, :]
        _, gates, glasses = group.metered.shape
        of_kind = np.full((int(depth.max()) + 1, len(times.metered), gates, glasses), INFINITE)
        of_kind[depth, pace] = prices[in_order]
        shortfall = np.zeros(of_kind.shape[:2])
        shortfall[depth, pace] = group.shortfall[in_order]
        columns = of_kind.reshape(len(of_kind), -1)
        over(times.metered, np.repeat(shortfall, gates * glasses, axis=1), columns)
    return found


def _over_kinds(weight: float, shortfall: Floats, of_kind: Floats, price: Floats, adds: Floats) -> Floats:
    """Least price over kinds of pictures for each ISO in use. shortfall, of_kind: kind x column; price, adds: column x rung. Returns
    column x rung.

    A kind is looked at only where no quieter one is as cheap.
    """
    useful = np.ones(of_kind.shape, dtype=bool)
    useful[1:] = of_kind[1:] < np.minimum.accumulate(of_kind, axis=0)[:-1]
    owner, which = np.nonzero(useful.T)
    joined = shortfall[which, owner][:, None] + adds[owner]
    np.maximum(joined, 0.0, out=joined)
    joined *= weight
    joined += of_kind[which, owner][:, None]
    found = np.minimum.reduceat(joined, np.flatnonzero(np.diff(owner, prepend=-1)), axis=0)
    return np.where(np.isfinite(price), found, INFINITE)
