"""The exposure times that pictures can have behind one lens.

A held exposure is as long behind any glass; only an automatic one follows the glass, and how long it may be, the pace. So
what a picture gives up within a frame is priced for each time it can have, not for each exposure and glass.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from steady_tide.core.planning.exposure_tables import Table, weighed
from steady_tide.core.planning.iso_speeds import Speeds
from steady_tide.core.planning.items import views
from steady_tide.core.planning.metering import Exposures
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.space import INFINITE, Floats, Ints, Space


@dataclass(frozen=True)
class Times:
    """Which rows of an exposure table give a picture its times: first those that are held, then each automatic gate behind
    each glass."""

    held: Ints  # time: row
    metered: Ints  # pace x automatic gate: row
    rows: int
    glasses: int

    @classmethod
    def from_table(cls, table: Table, paces: Ints) -> Times:
        """Times behind a lens. table: its exposures; paces: that pictures can have, rising."""
        automatic = np.flatnonzero(table.paces >= 0)
        gates = len(np.unique(table.gates[automatic]))
        # Each automatic gate stands once for each pace, in their order.
        metered = automatic.reshape(gates, -1).T if gates else np.empty((len(paces), 0), dtype=np.intp)
        return cls(np.flatnonzero(table.paces < 0), metered, *table.price.shape[:2])

    def by_pace(self, held: Floats, metered: Floats) -> Floats:
        """Spread values of rows over the times. held: of each row, where it is held; metered: row x glass, where it is
        automatic. Returns pace x time."""
        paces = len(self.metered)
        of_held = np.broadcast_to(held[self.held], (paces, len(self.held)))
        return np.concatenate([of_held, metered[self.metered].reshape(paces, -1)], axis=1)


@dataclass(frozen=True)
class Openings:
    """How wide open a lens is at its times, and what that leaves unsharp."""

    which: Ints  # time: which of the openings
    spots_deg: tuple[Floats, Floats]  # opening: spread of a point by focus and by diffraction
    past_best: Floats  # opening: by how much it is closed past the lens's best range, stops


def _openings(at: Situation, space: Space, lens: int, gates: Ints) -> Openings:
    wide_mm, which = np.unique(space.offer.openings_mm[gates], return_inverse=True)
    spots = views.spots_deg(at, space.sheet.lenses[lens], wide_mm, space.flat_port)
    return Openings(which, spots, views.past_best_stops(at, wide_mm, space.offer.widest_mm[lens]))


@dataclass(frozen=True)
class Timed:
    """The times behind a lens, priced for each pace."""

    table: Table
    times: Times
    paces: Ints  # that pictures through the lens can have, rising
    gates: Ints  # time
    dim_s: Floats  # pace x time: how long it is at the dim end
    price: Floats  # pace x time: infinite where it is not legal
    least: Floats  # pace: the cheapest, with its exposure and without noise
    speeds: Speeds
    openings: Openings


def timed(at: Situation, space: Space, lens: int, table: Table, paces: Ints) -> Timed:
    """Price the times behind a lens. lens: its number; table: its exposures; paces: that it was made for. Returns them."""
    times = Times.from_table(table, paces)
    dim_s, bright_s = (times.by_pace(end[:, 0], end) for end in (table.exposures.dim_s, table.exposures.bright_s))
    automatic = np.broadcast_to(np.arange(dim_s.shape[1]) >= len(times.held), dim_s.shape)
    gates = np.concatenate([table.gates[times.held], np.repeat(table.gates[times.metered[0]], times.glasses)])
    capture_hz = np.array([space.paces[pace].capture_hz for pace in paces])[:, None]
    legal = np.array([space.offer.gate_fits[space.offer.pairs.index((lens, int(pace)))][gates] for pace in paces])
    view = views.GateView(at, Exposures(dim_s, bright_s, automatic), capture_hz)
    price = np.where(legal, weighed(at, views.GATE, view), INFINITE)
    cheapest = table.by_rung.min(axis=-1)
    least = (price + times.by_pace(cheapest.min(axis=1), cheapest)).min(axis=1, initial=INFINITE)
    speeds, openings = Speeds.from_table(at.weights["noise"], table), _openings(at, space, lens, gates)
    return Timed(table, times, paces, gates, dim_s, price, least, speeds, openings)
