"""A frame as decoders give it: luma and chroma by themselves, in the codes of the file."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

import cv2
import numpy as np
from numpy.typing import NDArray

Codes = NDArray[Any]  # uint8 or uint16
Array = NDArray[np.float32]
Matrix = Literal["bt709", "bt601", "bt2020"]

# Share of red and of blue in luma; source: bt709, bt601, bt2020.
LUMA_OF: dict[Matrix, tuple[float, float]] = {
    "bt709": (0.2126, 0.0722),
    "bt601": (0.299, 0.114),
    "bt2020": (0.2627, 0.0593),
}


@dataclass(frozen=True)
class Planes:
    """One frame. y: (rows, columns); u, v: chroma, of the same shape or of half of it either way; bits: of a code;
    full_range: whether codes go from end to end; matrix: between luma and colours."""

    y: Codes
    u: Codes
    v: Codes
    bits: int
    full_range: bool
    matrix: Matrix

    @property
    def shape(self) -> tuple[int, int]:
        """Rows and columns."""
        rows, columns = self.y.shape
        return int(rows), int(columns)

    def luma(self, codes: Codes) -> Array:
        """Luma codes as shares: 0 black, 1 white."""
        unit = float(1 << (self.bits - 8))
        low, span = (0.0, 255.0 * unit + unit - 1.0) if self.full_range else (16.0 * unit, 219.0 * unit)
        return np.asarray((codes.astype(np.float32) - np.float32(low)) / np.float32(span))

    def chroma(self, codes: Codes) -> Array:
        """Chroma codes as shares, -0.5 to 0.5."""
        unit = float(1 << (self.bits - 8))
        span = 255.0 * unit if self.full_range else 224.0 * unit
        return np.asarray((codes.astype(np.float32) - np.float32(128.0 * unit)) / np.float32(span))

    def colours(self, rows: NDArray[np.intp], columns: NDArray[np.intp]) -> Array:
        """Codes of red, green and blue at some places. rows, columns: of luma. Returns (rows, columns, 3), shares."""
        down, across = self.y.shape[0] // self.u.shape[0], self.y.shape[1] // self.u.shape[1]
        y = self.luma(self.y[np.ix_(rows, columns)])
        at = np.ix_(np.minimum(rows // down, self.u.shape[0] - 1), np.minimum(columns // across, self.u.shape[1] - 1))
        u, v = self.chroma(self.u[at]), self.chroma(self.v[at])
        red, blue = LUMA_OF[self.matrix]
        return _bands(y, u, v, red, blue)

    def small(self, widest: int) -> Array:
        """The whole frame made smaller. widest: pixels across. Returns codes of red, green and blue, shares 0 to 1."""
        wide = min(widest, self.y.shape[1])
        size = (wide, max(1, round(self.y.shape[0] * wide / self.y.shape[1])))
        y, u, v = (cv2.resize(plane, size, interpolation=cv2.INTER_AREA) for plane in (self.y, self.u, self.v))
        return np.clip(_bands(self.luma(y), self.chroma(u), self.chroma(v), *LUMA_OF[self.matrix]), 0.0, 1.0)


def _bands(y: Array, u: Array, v: Array, red: float, blue: float) -> Array:
    r = y + np.float32(2.0 * (1.0 - red)) * v
    b = y + np.float32(2.0 * (1.0 - blue)) * u
    g = (y - np.float32(red) * r - np.float32(blue) * b) / np.float32(1.0 - red - blue)
    return np.stack([r, g, b], axis=-1)
