"""The exposure times that pictures can have behind one lens.

A held exposure is as long behind any glass; only an automatic one follows the glass, and how long it may be, the pace. So
what a picture gives up within a frame is priced for each time it can have, not for each exposure and glass.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from steady_tide.core.planning.metering import Exposures
from steady_tide.core.planning.space import Floats, Ints
from steady_tide.core.planning.tables import Table


@dataclass(frozen=True)
class Times:
    """Which rows of an exposure table give a picture its times: first those that are held, then each automatic gate behind
    each glass."""

    held: Ints  # time: row
    metered: Ints  # pace x automatic gate: row
    glasses: int

    @classmethod
    def of(cls, table: Table, paces: Ints) -> Times:
        """Times behind a lens. table: its exposures; paces: that pictures have, rising."""
        automatic = np.flatnonzero(table.paces >= 0)
        gates = len(np.unique(table.gates[automatic]))
        metered = np.empty((len(paces), 0), dtype=np.intp)
        if gates:
            of_gate = automatic.reshape(gates, -1)  # each stands once for each pace, in their order
            metered = of_gate[:, np.searchsorted(table.paces[of_gate[0]], paces)].T
        return cls(np.flatnonzero(table.paces < 0), metered, table.price.shape[1])

    def by_pace(self, held: Floats, metered: Floats) -> Floats:
        """Spread values of rows over the times. held: of each row, where it is held; metered: row x glass, where it is
        automatic. Returns pace x time."""
        paces = len(self.metered)
        of_held = np.broadcast_to(held[self.held], (paces, len(self.held)))
        return np.concatenate([of_held, metered[self.metered].reshape(paces, -1)], axis=1)

    def exposures(self, table: Table) -> Exposures:
        """How long the times are. table: the exposures. Returns pace x time."""
        ends = (table.exposures.dim_s, table.exposures.bright_s)
        dim_s, bright_s = (self.by_pace(end[:, 0], end) for end in ends)
        automatic = np.broadcast_to(np.arange(dim_s.shape[1]) >= len(self.held), dim_s.shape)
        return Exposures(dim_s, bright_s, automatic)

    def gates(self, table: Table) -> Ints:
        """The gate of each time. table: the exposures."""
        automatic = np.repeat(table.gates[self.metered[0]], self.glasses) if len(self.metered) else self.held[:0]
        return np.concatenate([table.gates[self.held], automatic])
