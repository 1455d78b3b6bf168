"""Light under water, in the camera's three bands."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.physics.noise import GREY_REFLECTANCE
from steady_tide.core.physics.optics import WATER_INDEX
from steady_tide.core.quantities.frozen import Frozen

Bands = NDArray[np.float64]  # red, green, blue

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
    upright: tuple[tuple[float, float], ...]
    upright_low_sun: tuple[tuple[float, float], ...]
    beam_ratio: float
    veil_share: float
    red_from_nm: float
    types: dict[str, WaterType]

    def upright_share(self, depth_m: Any, sun_deg: float = 90.0) -> NDArray[np.float64]:
        """What stands against level ground. depth_m: metres, any shape; sun_deg: its altitude. Returns shares."""
        at, share = np.array(self.upright).T
        suns, more = np.array(self.upright_low_sun).T
        found = np.interp(np.asarray(depth_m, dtype=float), at, share) * np.interp(sun_deg, suns, more)
        return np.asarray(np.minimum(1.0, found))

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
    refracted = np.arcsin(np.sin(incoming) / WATER_INDEX)
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


@dataclass(frozen=True)
class Seen:
    """What reaches the lens of daylight, as shares of the surface's light by band: of the subject, and of the veil
    that the water between lays over it."""

    subject: Bands
    veil: Bands

    @property
    def bands(self) -> Bands:
        """Both together."""
        return np.asarray(self.subject + self.veil)

    @property
    def contrast_left(self) -> NDArray[np.float64]:
        """Share of the subject's contrast that the veil leaves."""
        return np.asarray((self.subject @ LUMINANCE) / np.maximum(self.bands @ LUMINANCE, 1e-300))


def seen_through(waters: Waters, water: WaterType, depth_m: Any, path_m: Any, sun_deg: float = 90.0) -> Seen:
    """Daylight on what stands at a depth, seen through some water.

    waters, water: the tables; depth_m: of the subject; path_m: from it to the lens, metres, of one shape; sun_deg:
    altitude of the sun. Returns shares of what passes the surface, shape + (3,). Downward attenuation by depth, the
    share of what stands, beam attenuation along the path, and the veil. Source: jerlov1976.
    """
    kd = np.array(water.kd_per_m)
    depth, path = (np.asarray(metres, dtype=float)[..., None] for metres in (depth_m, path_m))
    level = np.exp(-depth * kd)
    along = np.exp(-waters.beam_ratio * path * kd)
    subject = waters.upright_share(depth, sun_deg) * level * along
    # Against a grey card: the veil shines by itself, the card throws back a part.
    veil = waters.veil_share / GREY_REFLECTANCE * level * (1.0 - along)
    bands = waters.sensitivity().T
    return Seen(np.asarray(subject @ bands), np.asarray(veil @ bands))


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
    seen = seen_through(waters, water, depths, np.full(len(depths), path_m)).bands
    stops = np.log2(np.maximum(seen, 1e-30)) - np.array(band_stops)
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
    """Depth at which only a share of the red is left, against the surface; of what is red, not of its yellow edge.

    share: 0 to 1. Returns metres, at most 60. Source: jerlov1976.
    """
    depths = np.linspace(0.0, 60.0, 1201)
    wavelengths = np.array(waters.wavelengths_nm)
    red = waters.sensitivity()[0] * (wavelengths > waters.red_from_nm)
    left = np.exp(-depths[:, None] * np.array(water.kd_per_m)) @ (red / red.sum())
    return float(depths[int(np.argmax(left <= share))]) if left[-1] <= share else 60.0


# Light below which a lamp under water lights nothing that is worth filming: EV 4, as a room in the evening.
LEAST_LAMP_LUX = 40.0
LEAST_CONTRAST = 0.2  # of a thing against the water, below which it is but a shape


def lamp_reach_m(waters: Waters, water: WaterType, lux_at_1m: float, within_stops: float = 1.0) -> float:
    """Distance up to which a lamp is of use: its red stays close to its green, there and back, and there is light.

    lux_at_1m: of all lamps together, in air; within_stops: how close, stops. Returns metres, at most 20.
    """
    distances = np.linspace(0.0, 20.0, 401)[1:]
    bands = passed(waters, water, 2.0 * distances)
    behind = np.log2(bands[:, 1] / bands[:, 0]) > within_stops
    dark = lux_at_1m / distances**2 * (bands @ LUMINANCE) < LEAST_LAMP_LUX
    green = np.argmin(np.abs(np.array(waters.wavelengths_nm) - waters.bands_nm[1][0]))
    veiled = np.exp(-waters.beam_ratio * water.kd_per_m[green] * distances) < LEAST_CONTRAST
    short = behind | dark | veiled
    return float(distances[max(0, int(np.argmax(short)) - 1)]) if short.any() else 20.0
