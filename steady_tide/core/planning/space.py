"""All legal combinations of one camera, as arrays.

A combination is a picture (frame, rate, view, steadying), a gate (aperture and shutter), a set of
glass, a pair of ISO floor and ceiling, a compensation and a look (profile, depth, format, bit rate,
wide range). Rates tie gates to pictures and looks to pictures; nothing else is tied. Balance,
sharpness and wind reduction stand alone.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations, product
from math import isnan
from typing import Any

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.kit import NdFilter
from steady_tide.core.optics import cropped_field_deg, fitted_width_px, pixels_per_degree
from steady_tide.core.sheet import CameraSheet, Codec, Lens, Mode, Profile

Floats = NDArray[np.float64]
Ints = NDArray[np.intp]
Bools = NDArray[np.bool_]


@dataclass(frozen=True)
class Pictures:
    """Frame, rate, view and steadying of every legal picture; all arrays of shape (P,)."""

    lens: Ints
    mode: Ints
    timing: Ints
    width_px: Floats
    height_px: Floats
    rate: Floats
    view: Ints
    steadying: Ints
    window_w_px: Floats
    window_h_px: Floats
    sampling: Floats
    noise_gain: Floats
    keeps_view: Floats
    keeps_steady: Floats
    leak: Floats
    field_deg: Floats
    straight: Bools
    levelled: Bools
    steadied: Bools

    def take(self, index: Ints | Bools) -> Pictures:
        """The pictures at some places. index: places or a mask, (P,). Returns fewer pictures."""
        return Pictures(**{name: values[index] for name, values in vars(self).items()})

    def __len__(self) -> int:
        return len(self.rate)


@dataclass(frozen=True)
class Look:
    """How a picture is coloured and recorded."""

    profile: Profile
    bit_depth: int
    codec: Codec
    bit_rate_mb_s: float
    high_dynamic_range: bool


@dataclass(frozen=True)
class Glass:
    """Filters in front of the lens, from none to as many as the mount takes."""

    ids: tuple[str, ...]
    stops: float
    names: tuple[str, ...]


@dataclass(frozen=True)
class Space:
    """Everything one camera can be set to with the glass at hand."""

    sheet: CameraSheet
    pictures: Pictures
    timings: tuple[tuple[int, float], ...]
    gates: tuple[tuple[int, float, float], ...]
    glasses: tuple[Glass, ...]
    iso_pairs: tuple[tuple[int, int], ...]
    compensations: tuple[float, ...]
    looks: tuple[Look, ...]
    look_allowed: Bools
    balances: tuple[int | None, ...]

    @property
    def largest_px(self) -> float:
        """Pixels of the largest frame."""
        return float((self.pictures.width_px * self.pictures.height_px).max())

    @property
    def combinations(self) -> int:
        """How many legal combinations there are, multiplied out."""
        rates = np.array([rate for _, rate in self.timings])
        count = 0
        for lens in range(len(self.sheet.lenses)):
            of_lens = self.pictures.lens == lens
            for timing in np.unique(self.pictures.timing[of_lens]):
                pictures = int((of_lens & (self.pictures.timing == timing)).sum())
                gates = int(legal_gates(self.gates, lens, float(rates[timing])).sum())
                count += pictures * gates * int(self.look_allowed[timing].sum())
        alone = len(self.balances) * len(self.sheet.sharpness) * len(self.sheet.wind_reduction)
        return count * len(self.glasses) * len(self.iso_pairs) * len(self.compensations) * alone


def space_of(sheet: CameraSheet, filters: Sequence[NdFilter]) -> Space:
    """Lay out all that a camera can do.

    sheet: the camera; filters: glass at hand. Returns the space; filters that do not fit are left out.
    """
    timings = tuple((index, rate) for index, mode in enumerate(sheet.modes) for rate in mode.rates)
    looks = tuple(_looks(sheet))
    return Space(
        sheet=sheet,
        pictures=_pictures(sheet, timings),
        timings=timings,
        gates=_gates(sheet),
        glasses=tuple(_glasses(sheet, filters)),
        iso_pairs=tuple(
            (low, high) for low in sorted(sheet.iso.floors) for high in sorted(sheet.iso.ceilings) if low <= high
        ),
        compensations=tuple(sorted(sheet.compensation_stops)),
        looks=looks,
        look_allowed=np.array(
            [[_look_fits(sheet, sheet.modes[mode], rate, look) for look in looks] for mode, rate in timings]
        ),
        balances=(*sorted(sheet.balance_k), *((None,) if sheet.balance_automatic else ())),
    )


def _pictures(sheet: CameraSheet, timings: tuple[tuple[int, float], ...]) -> Pictures:
    lens_index = {lens.id: index for index, lens in enumerate(sheet.lenses)}
    view_index = {view.id: index for index, view in enumerate(sheet.views)}
    level_index = {level.id: index for index, level in enumerate(sheet.stabilisation)}
    rows = [
        (lens_index[mode.lens], timings[timing][0], timing, view_index[view], level_index[level])
        for timing, mode in ((timing, sheet.modes[index]) for timing, (index, _) in enumerate(timings))
        for view in mode.views
        for level in mode.stabilisation
    ]
    lens, mode, timing, view, level = (np.array(column, dtype=np.intp) for column in zip(*rows, strict=True))
    modes: tuple[Mode, ...] = sheet.modes

    def of_mode(field: Any) -> Floats:
        return np.array([field(entry) for entry in modes], dtype=float)[mode]

    def of_view(field: str) -> Any:
        return np.array([getattr(entry, field) for entry in sheet.views])[view]

    def of_level(field: str) -> Floats:
        return np.array([getattr(entry, field) for entry in sheet.stabilisation], dtype=float)[level]

    return Pictures(
        lens=lens,
        mode=mode,
        timing=timing,
        view=view,
        steadying=level,
        width_px=of_mode(lambda m: m.width),
        height_px=of_mode(lambda m: m.height),
        rate=np.array([rate for _, rate in timings])[timing],
        window_w_px=of_mode(lambda m: m.window_px[0]),
        window_h_px=of_mode(lambda m: m.window_px[1]),
        sampling=of_mode(lambda m: m.sampling),
        noise_gain=of_mode(lambda m: m.noise_reduction),
        keeps_view=of_view("keeps").astype(float),
        keeps_steady=of_level("keeps"),
        leak=of_level("leak"),
        field_deg=of_view("field_deg").astype(float),
        straight=of_view("projection") == "linear",
        levelled=of_view("levelled"),
        steadied=of_level("keeps") < 1.0,
    )


def _gates(sheet: CameraSheet) -> tuple[tuple[int, float, float], ...]:
    """Lens, f-number and exposure in seconds; NaN stands for automatic."""
    exposures = [*sorted(sheet.shutter.fixed_s, reverse=True), *([float("nan")] if sheet.shutter.auto else [])]
    return tuple((index, f, t) for index, lens in enumerate(sheet.lenses) for f in lens.f_numbers for t in exposures)


def legal_gates(gates: Sequence[tuple[int, float, float]], lens: int, rate: float) -> Bools:
    """Which gates a picture may use: those of its lens that are no longer than its frame interval.

    gates: as in a space; lens: index; rate: frames per second. Returns a mask of shape (G,).
    """
    return np.array([which == lens and (isnan(t) or t * rate <= 1.0 + 1e-9) for which, _, t in gates])


def _glasses(sheet: CameraSheet, filters: Sequence[NdFilter]) -> list[Glass]:
    fitting = sorted((f for f in filters if sheet.filter_mount.fits in f.fits), key=lambda f: (f.stops, f.id))
    sets = [combo for count in range(sheet.filter_mount.stack + 1) for combo in combinations(fitting, count)]
    return [
        Glass(tuple(f.id for f in combo), sum(f.stops for f in combo), tuple(f.name for f in combo)) for combo in sets
    ]


def _looks(sheet: CameraSheet) -> list[Look]:
    wide = sheet.high_dynamic_range
    found = []
    for profile, codec in product(sheet.profiles, sheet.codecs):
        for depth, bits in product(profile.bit_depths, codec.bit_rates_mb_s):
            if depth not in codec.bit_depths:
                continue
            found.append(Look(profile, depth, codec, bits, False))
            if wide and profile.id in wide.profiles and depth in wide.bit_depths:
                found.append(Look(profile, depth, codec, bits, True))
    return found


def _look_fits(sheet: CameraSheet, mode: Mode, rate: float, look: Look) -> bool:
    if look.codec.id not in mode.codecs:
        return False
    if not look.high_dynamic_range:
        return True
    return (
        mode.high_dynamic_range
        and sheet.high_dynamic_range is not None
        and rate <= sheet.high_dynamic_range.fastest_fps
    )


@dataclass(frozen=True)
class Geometry:
    """What each picture sees, for one delivery; arrays of shape (P,)."""

    field_deg: Floats
    px_per_deg: Floats
    margin_deg: Floats
    usable_w_px: Floats
    sensor_share: Floats
    photosites: Floats


def geometry(pictures: Pictures, lenses: Sequence[Lens], wide: int, high: int) -> Geometry:
    """Work out fields, pixels and the share of the sensor that is used.

    pictures: P of them; lenses: of the sheet; wide, high: delivered frame, pixels.
    Returns the geometry; degrees, pixels per degree (delivered), shares of the sensor's area.
    """
    sensor_w = np.array([lens.sensor.width_px for lens in lenses], dtype=float)[pictures.lens]
    sensor_h = np.array([lens.sensor.height_px for lens in lenses], dtype=float)[pictures.lens]
    window = pictures.window_w_px / sensor_w

    def field(keeps: Floats) -> Floats:
        straight = cropped_field_deg(pictures.field_deg, keeps, "linear")
        return np.asarray(
            np.where(pictures.straight, straight, cropped_field_deg(pictures.field_deg, keeps, "equidistant"))
        )

    full, left = field(window), field(window * pictures.keeps_steady)
    keeps = pictures.keeps_view * pictures.keeps_steady
    captured_w = np.minimum(pictures.width_px, pictures.window_w_px * keeps * np.sqrt(pictures.sampling))
    captured_h = np.minimum(pictures.height_px, pictures.window_h_px * keeps * np.sqrt(pictures.sampling))
    fitted = fitted_width_px(pictures.window_w_px, pictures.window_h_px, wide, high) * keeps
    largest = fitted_width_px(sensor_w, sensor_h, wide, high)
    per_degree = np.asarray(
        np.where(
            pictures.straight, pixels_per_degree(wide, left, "linear"), pixels_per_degree(wide, left, "equidistant")
        ),
        dtype=float,
    )
    return Geometry(
        field_deg=left,
        px_per_deg=per_degree,
        margin_deg=(full - left) / 2.0,
        usable_w_px=fitted_width_px(captured_w, captured_h, wide, high),
        sensor_share=(fitted / largest) ** 2 * pictures.sampling,
        photosites=fitted**2 * (high / wide) * pictures.sampling,
    )
