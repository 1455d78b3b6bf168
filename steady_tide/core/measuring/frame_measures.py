"""What a frame shows of its settings: noise of a grey card, smear, blown and drowned shares, cast."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.light.water import LUMINANCE

Array = NDArray[np.float32]
FULL = 0.9985  # of the largest code: only the very last one of eight bits is above


def snr_of_card(card: Array, pixel_scale: float = 1.0) -> float:
    """Signal-to-noise ratio of the luminance of an even grey card.

    card: linear light, (rows, columns, 3); pixel_scale: delivered pixels along a side of each of its pixels, so that the
    ratio is told for delivered ones. Returns a ratio. Source: iso12232. Valid where a pixel's noise is its own.
    """
    luminance = card.astype(np.float64) @ LUMINANCE
    return float(luminance.mean() / luminance.std() / pixel_scale)


def cast_of_card(card: Array) -> tuple[float, float]:
    """How far red and blue of a grey card stand from its green. card: linear light. Returns stops, red and blue."""
    red, green, blue = np.maximum(card.reshape(-1, 3).astype(np.float64).mean(axis=0), 1e-9)
    return float(np.log2(red / green)), float(np.log2(blue / green))


def length_of_spot(spot: Array | None) -> float:
    """How long the streak is that a point leaves.

    spot: its share of light, (rows, columns), even along a line. Returns pixels; 0 where the point stands. An even line of
    length L spreads by L / sqrt(12) about its middle; laying it on pixels adds a sixth of a pixel, squared.
    """
    if spot is None:
        return 0.0
    weight = spot.astype(np.float64) / float(spot.sum())
    down, across = weight.sum(axis=1), weight.sum(axis=0)
    rows, columns = np.arange(len(down)) - (len(down) - 1) / 2.0, np.arange(len(across)) - (len(across) - 1) / 2.0
    rows, columns = rows - down @ rows, columns - across @ columns
    both = float(rows @ weight @ columns)
    spread = np.array([[across @ columns**2, both], [both, down @ rows**2]])
    most = np.linalg.eigvalsh(spread)[-1]
    return float(np.sqrt(12.0 * max(0.0, most - 1.0 / 6.0)))


def most_of(codes: Array) -> Array:
    """The fullest band of each pixel. codes: (rows, columns, 3). Returns (rows, columns)."""
    return np.maximum(np.maximum(codes[..., 0], codes[..., 1]), codes[..., 2])


def blown_share(codes: Array) -> float:
    """Share of pixels of which a band is full. codes: of the file, shares of the largest, (rows, columns, 3)."""
    return float((most_of(codes) >= FULL).mean())


def drowned_share(codes: Array, darkest: float) -> float:
    """Share of pixels darker than a profile's darkest usable tone. codes: as in `blown_share`; darkest: its code."""
    return float((most_of(codes) <= darkest).mean())
