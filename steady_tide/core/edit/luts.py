"""Tables of colours: worked out, looked up, and how far looking up is off."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.edit.display import Developing, lut_points

Floats = NDArray[np.float64]
SIZE = 33
SHAPER = 4096
TEN_BITS = 1023.0
TRIED = 20_000


@dataclass(frozen=True)
class Lut:
    """A table of colours. table: shape (size^3, 3), red running first; shaper: codes for evenly spaced codes before it, shape (n,), None for
    none; title: for its file."""

    title: str
    table: Floats
    shaper: Floats | None = None

    @property
    def size(self) -> int:
        """Points along each edge."""
        return int(np.rint(np.cbrt(len(self.table))))


@dataclass(frozen=True)
class LutError:
    """How far looking up is off what it stands for, codes of 10 bit: the most and the mean, over colours at random and greys."""

    most: float
    mean: float


def lut_of(how: Developing, title: str, size: int = SIZE) -> Lut:
    """A table without a shaper. how: from codes to a finished picture; title: of its file; size: along each edge. Returns it."""
    return Lut(title, how.unbounded(lut_points(size)))


def shaped_lut_of(how: Developing, title: str, size: int = SIZE) -> Lut:
    """A table behind a shaper that spreads the profile's codes as a display does, where a table is nearly straight. Returns it."""
    plain = Developing(how.codes, how.stops, how.headroom_stops, how.own)
    codes = np.linspace(0.0, 1.0, SHAPER)
    shaper = plain.developed(np.repeat(codes[:, None], 3, axis=1))[:, 0]
    shaper = np.maximum.accumulate(shaper)
    shaper = shaper / shaper[-1]  # the table's last point is the brightest code
    # Back from the shaped codes: of a flat stretch the brightest code counts, since it is where the next begins.
    shown, first = np.unique(shaper[::-1], return_index=True)
    back = codes[::-1][first]
    points = np.interp(lut_points(size), shown, back)
    return Lut(title, how.unbounded(points), shaper)


def looked_up(lut: Lut, rgb: Floats) -> Floats:
    """Look colours up, tetrahedron by tetrahedron. lut: table; rgb: shape (n, 3), 0 to 1. Returns the same shape, held to 0 to 1. Source: kasson1995."""
    if lut.shaper is not None:
        rgb = np.interp(rgb, np.linspace(0.0, 1.0, len(lut.shaper)), lut.shaper)
    n = lut.size
    grid = lut.table.reshape(n, n, n, 3)  # blue, green, red
    at = np.clip(rgb, 0.0, 1.0) * (n - 1)
    low = np.minimum(at.astype(int), n - 2)
    part = at - low
    order = np.argsort(-part, axis=1, kind="stable")  # the largest part first: along which edges one goes
    here = low.copy()
    value = grid[here[:, 2], here[:, 1], here[:, 0]]
    rows = np.arange(len(rgb))
    sorted_parts = np.take_along_axis(part, order, axis=1)
    done = value.copy()
    for step in range(3):
        here[rows, order[:, step]] += 1
        nxt = grid[here[:, 2], here[:, 1], here[:, 0]]
        done += sorted_parts[:, step : step + 1] * (nxt - value)
        value = nxt
    return np.asarray(np.clip(done, 0.0, 1.0))


def error_of(lut: Lut, how: Developing, seed: int = 1) -> LutError:
    """How far a table is off what it stands for. lut: of how; how: exact; seed: of the colours tried. Returns codes of 10 bit, over codes that
    the profile writes."""
    rng = np.random.default_rng(seed)
    darkest = float(how.codes[0])
    tried = darkest + (1.0 - darkest) * rng.random((TRIED, 3))
    grey = np.linspace(darkest, 1.0, TRIED // 4)
    tried = np.concatenate([tried, np.repeat(grey[:, None], 3, axis=1)])
    off = np.abs(looked_up(lut, tried) - how.developed(tried)).max(axis=1) * TEN_BITS
    return LutError(float(off.max()), float(off.mean()))
