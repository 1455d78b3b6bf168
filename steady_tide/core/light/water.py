"""Light under water, in the camera's three bands."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.frozen import Frozen

Bands = NDArray[np.float64]  # red, green, blue

REFRACTIVE_INDEX = 1.34
DIFFUSE_REFLECTION = 0.066  # of a sky without sun; source: jerlov1976
BALANCED_STOPS = 0.7
LUMINANCE = np.array([0.2126, 0.7152, 0.0722])  # share of each band in what a meter sees


class WaterType(Frozen):
    """One of Jerlov's types: downward attenuation by wavelength."""

    id: str
    name: str
    kd_per_m: tuple[float, ...]


class Waters(Frozen):
    """Types of water, and how the camera's bands see them."""

    wavelengths_nm: tuple[float, ...]
    bands_nm: tuple[tuple[float, float], tuple[float, float], tuple[float, float]]
    types: dict[str, WaterType]

    def sensitivity(self) -> NDArray[np.float64]:
        """Share of each wavelength in each band. Returns bands x wavelengths, rows sum to 1."""
        at = np.array(self.wavelengths_nm)
        rows = np.array([np.exp(-0.5 * ((at - centre) / (width / 2.3548)) ** 2) for centre, width in self.bands_nm])
        return np.asarray(rows / rows.sum(axis=1, keepdims=True))


def surface_reflection(zenith_deg: float) -> float:
    """Share of direct sun that the surface throws back.

    zenith_deg: angle of the sun from the zenith, degrees, 0 to 90. Returns 0 to 1.
    Fresnel's equations, unpolarised, still water.
    """
    incoming = np.radians(min(max(zenith_deg, 1e-6), 89.999))
    refracted = np.arcsin(np.sin(incoming) / REFRACTIVE_INDEX)
    minus, plus = incoming - refracted, incoming + refracted
    across, along = (np.sin(minus) / np.sin(plus)) ** 2, (np.tan(minus) / np.tan(plus)) ** 2
    return float((across + along) / 2.0)


def passed(waters: Waters, water: WaterType, path_m: Any) -> Bands:
    """Share of each band that passes through some water.

    waters, water: the tables; path_m: length of the path, metres, any shape. Returns shape + (3,).
    Integrated over the bands, so that what is left of red is its yellow edge. Source: jerlov1976.
    """
    left = np.exp(-np.asarray(path_m, dtype=float)[..., None] * np.array(water.kd_per_m))
    return np.asarray(left @ waters.sensitivity().T)


class FilterRange(Frozen):
    """Depths between which a colour filter balances the bands; absent where it never does."""

    id: str
    depth_m: tuple[float, float] | None
    least_cast_stops: float
    best_at_m: float


def filter_range(
    waters: Waters, water: WaterType, id: str, band_stops: tuple[float, float, float], path_m: float
) -> FilterRange:
    """Where a filter leaves red, green and blue within BALANCED_STOPS of each other.

    waters, water: the tables; id: of the filter, for the answer; band_stops: what it takes from the bands,
    (0, 0, 0) for none; path_m: from subject to lens, metres. Returns the range within 40 metres.
    """
    depths = np.linspace(0.0, 40.0, 401)
    stops = np.log2(np.maximum(passed(waters, water, depths + path_m), 1e-30)) - np.array(band_stops)
    apart = stops.max(axis=1) - stops.min(axis=1)
    best = int(np.argmin(apart))
    balanced = apart <= BALANCED_STOPS
    if not balanced.any():
        return FilterRange(id=id, depth_m=None, least_cast_stops=float(apart[best]), best_at_m=float(depths[best]))
    out = np.flatnonzero(~balanced)
    top = out[out < best].max(initial=-1) + 1
    bottom = out[out > best].min(initial=len(depths)) - 1
    return FilterRange(
        id=id,
        depth_m=(float(depths[top]), float(depths[bottom])),
        least_cast_stops=float(apart[best]),
        best_at_m=float(depths[best]),
    )


def red_gone_m(waters: Waters, water: WaterType, share: float = 0.1) -> float:
    """Depth at which only a share of the red is left, against the surface.

    share: 0 to 1. Returns metres, at most 60.
    """
    depths = np.linspace(0.0, 60.0, 1201)
    red = passed(waters, water, depths)[:, 0]
    return float(depths[int(np.argmax(red <= share))]) if red[-1] <= share else 60.0


def lamp_reach_m(waters: Waters, water: WaterType, within_stops: float = 1.0) -> float:
    """Distance up to which a lamp's red, there and back, stays close to its green.

    within_stops: how close, stops. Returns metres, at most 20.
    """
    distances = np.linspace(0.0, 20.0, 401)
    bands = passed(waters, water, 2.0 * distances)
    behind = np.log2(bands[:, 1] / bands[:, 0])
    return float(distances[int(np.argmax(behind > within_stops))]) if behind[-1] > within_stops else 20.0
