"""All legal combinations of one camera, as arrays.

A combination is a picture (lens, frame, rate or interval, view, steadying), a gate (aperture and shutter),
what stands in front of the lens (housing and glass), a pair of ISO floor and ceiling, a compensation, a
look (profile, depth, format, bit rate, wide range), a focus and habits (screen, positioning, early
start). The pace of a picture ties gates to it, its lens gates and focus, its mode looks. Balance,
sharpness, wind reduction and the sound track stand alone.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations, product
from math import isnan
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.kit import Filter, Housing, piece_of
from steady_tide.core.optics import cropped_field_deg, fitted_width_px, focal_length_mm, pixels_per_degree
from steady_tide.core.planning.supplies import CARD_MARGIN, Supplies
from steady_tide.core.sheet import LOOK_DIALS, CameraSheet, Codec, Lens, Mode, Profile

Floats = NDArray[np.float64]
Ints = NDArray[np.intp]
Bools = NDArray[np.bool_]
Balance = int | None | Literal["raw"]

NO_SPARE_S = 1e-9


@dataclass(frozen=True)
class Pictures:
    """Frame, rate, view and steadying of every legal picture; all arrays of shape (P,)."""

    lens: Ints
    mode: Ints
    timing: Ints
    pace: Ints
    width_px: Floats
    height_px: Floats
    rate: Floats
    capture_hz: Floats
    interval_s: Floats
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
    power_w: Floats
    straight: Bools
    levelled: Bools
    steadied: Bools

    def take(self, index: Ints | Bools) -> Pictures:
        """The pictures at some places. index: places or a mask, (P,). Returns fewer pictures."""
        return Pictures(**{name: values[index] for name, values in vars(self).items()})

    def __len__(self) -> int:
        return len(self.rate)


@dataclass(frozen=True)
class Pace:
    """How often frames are taken, frames per second, and the longest exposure that this leaves, seconds."""

    capture_hz: float
    longest_s: float


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
    """What stands in front of the lens: a housing or none, densities, a colour filter or none."""

    ids: tuple[str, ...] = ()
    stops: float = 0.0
    names: tuple[str, ...] = ()
    colour: str | None = None
    band_stops: tuple[float, float, float] = (0.0, 0.0, 0.0)
    colour_stops: float = 0.0
    housing: str | None = None

    @property
    def density_stops(self) -> float:
        """Stops of the neutral glass alone."""
        return self.stops - self.colour_stops

    @property
    def pieces(self) -> int:
        """Pieces of glass that can be taken off."""
        return len(self.ids) + (self.colour is not None)


@dataclass(frozen=True)
class Habit:
    """What the camera does besides: screen, positioning, and keeping what was before the start."""

    screen: str
    positioning: str
    pre_record_s: float


@dataclass(frozen=True)
class Space:
    """Everything one camera can be set to with what is at hand."""

    sheet: CameraSheet
    supplies: Supplies
    pictures: Pictures
    timings: tuple[tuple[int, float, float], ...]  # mode, rate, interval (NaN for film at speed)
    paces: tuple[Pace, ...]
    gates: tuple[tuple[int, float, float], ...]
    glasses: tuple[Glass, ...]
    iso_pairs: tuple[tuple[int, int], ...]
    compensations: tuple[float, ...]
    looks: tuple[Look, ...]
    look_allowed: Bools  # picture x look
    look_offered: Bools  # the same, before cards and drives
    focuses: tuple[str, ...]
    focus_allowed: Bools  # lens x focus
    habits: tuple[Habit, ...]
    balances: tuple[Balance, ...]
    openings_mm: Floats  # gate
    too_deep: bool
    card_too_slow: bool

    @property
    def largest_px(self) -> float:
        """Pixels of the largest frame."""
        return float((self.pictures.width_px * self.pictures.height_px).max())

    @property
    def combinations(self) -> int:
        """How many legal combinations there are, multiplied out."""
        count = 0
        looks = self.look_allowed.sum(axis=1)
        for lens, pace in sorted(set(zip(self.pictures.lens.tolist(), self.pictures.pace.tolist(), strict=True))):
            here = (self.pictures.lens == lens) & (self.pictures.pace == pace)
            gates = int(legal_gates(self.gates, lens, self.paces[pace]).sum())
            count += int(looks[here].sum()) * gates * int(self.focus_allowed[lens].sum())
        sheet = self.sheet
        alone = len(self.balances) * len(sheet.sharpness) * len(sheet.wind_reduction) * len(sheet.sound_track)
        exposure = len(self.glasses) * len(self.iso_pairs) * len(self.compensations)
        return count * exposure * len(self.habits) * alone


def space_of(
    sheet: CameraSheet,
    supplies: Supplies,
    filters: Sequence[Filter] = (),
    housings: Sequence[Housing] = (),
    deepest_m: float | None = None,
) -> Space:
    """Lay out all that a camera can do.

    sheet: the camera; supplies: cards and charge; filters, housings: at hand; deepest_m: how deep it goes
    under water, metres, None in the dry. Returns the space; what does not fit is left out.
    """
    timings, paces, pictures, looks, allowed = offered(sheet)
    kept = allowed & _on_cards(sheet, supplies, pictures, looks)
    card_too_slow = supplies.has_card and not kept.any()
    glasses, too_deep = _glasses(sheet, filters, housings, deepest_m)
    focuses, focus_allowed = _focuses(sheet)
    gates = _gates(sheet)
    return Space(
        sheet=sheet,
        supplies=supplies,
        pictures=pictures,
        timings=timings,
        paces=paces,
        gates=gates,
        glasses=tuple(glasses),
        iso_pairs=tuple(
            (low, high) for low in sorted(sheet.iso.floors) for high in sorted(sheet.iso.ceilings) if low <= high
        ),
        compensations=tuple(sorted(sheet.compensation_stops)),
        looks=looks,
        look_allowed=allowed if card_too_slow else kept,
        look_offered=allowed,
        focuses=focuses,
        focus_allowed=focus_allowed,
        habits=tuple(
            Habit(screen, positioning, early)
            for screen, positioning, early in product(sheet.screens, sheet.positioning, sorted(sheet.pre_record_s))
        ),
        balances=(
            *sorted(sheet.balance_k),
            *((None,) if sheet.balance_automatic else ()),
            *(("raw",) if sheet.balance_raw else ()),
        ),
        openings_mm=np.array([focal_mm(sheet, sheet.lenses[lens]) / f for lens, f, _ in gates]),
        too_deep=too_deep,
        card_too_slow=card_too_slow,
    )


def offered(
    sheet: CameraSheet,
) -> tuple[tuple[tuple[int, float, float], ...], tuple[Pace, ...], Pictures, tuple[Look, ...], Bools]:
    """What a camera offers by its modes and rules, whatever is at hand.

    sheet: the camera. Returns timings, paces, pictures, looks, and which look goes with which picture, (P, looks).
    """
    timings = tuple(
        (index, rate, interval)
        for index, mode in enumerate(sheet.modes)
        for rate in mode.rates
        for interval in (mode.intervals_s or (float("nan"),))
    )
    of_timing = [
        Pace(rate, 1.0 / rate)
        if isnan(interval)
        else Pace(1.0 / interval, max(interval - sheet.interval_write_s, NO_SPARE_S))
        for _, rate, interval in timings
    ]
    paces = tuple(sorted(set(of_timing), key=lambda pace: (pace.capture_hz, pace.longest_s)))
    pictures = _pictures(sheet, timings, np.array([paces.index(pace) for pace in of_timing], dtype=np.intp))
    looks = tuple(_looks(sheet))
    pictures, allowed = _ruled(sheet, pictures, looks, timings)
    return timings, paces, pictures, looks, allowed


def _pictures(sheet: CameraSheet, timings: tuple[tuple[int, float, float], ...], paces: Ints) -> Pictures:
    lens_index = {lens.id: index for index, lens in enumerate(sheet.lenses)}
    view_index = {view.id: index for index, view in enumerate(sheet.views)}
    level_index = {level.id: index for index, level in enumerate(sheet.stabilisation)}
    rows = [
        (lens_index[mode.lens], timings[timing][0], timing, view_index[view], level_index[level])
        for timing, mode in ((timing, sheet.modes[index]) for timing, (index, _, _) in enumerate(timings))
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

    fields = np.array([[entry.fields_deg.get(v.id, v.field_deg) for v in sheet.views] for entry in sheet.lenses])
    rate = np.array([rate for _, rate, _ in timings])[timing]
    interval = np.array([seconds for _, _, seconds in timings])[timing]
    capture = np.where(np.isnan(interval), rate, 1.0 / interval)
    width, height = of_mode(lambda m: m.width), of_mode(lambda m: m.height)
    pixels = width * height * capture / 1e9
    return Pictures(
        lens=lens,
        mode=mode,
        timing=timing,
        pace=paces[timing],
        view=view,
        steadying=level,
        width_px=width,
        height_px=height,
        rate=rate,
        capture_hz=capture,
        interval_s=interval,
        window_w_px=of_mode(lambda m: m.window_px[0]),
        window_h_px=of_mode(lambda m: m.window_px[1]),
        sampling=of_mode(lambda m: m.sampling),
        noise_gain=of_mode(lambda m: m.noise_reduction),
        keeps_view=of_view("keeps").astype(float),
        keeps_steady=of_level("keeps"),
        leak=of_level("leak"),
        field_deg=fields[lens, view],
        power_w=sheet.power.base_w
        + sheet.power.per_gigapixel_s_w * pixels
        + of_level("power_w")
        + of_mode(lambda m: m.power_w),
        straight=of_view("projection") == "linear",
        levelled=of_view("levelled"),
        steadied=of_level("keeps") < 1.0,
    )


def _ruled(
    sheet: CameraSheet, pictures: Pictures, looks: tuple[Look, ...], timings: tuple[tuple[int, float, float], ...]
) -> tuple[Pictures, Bools]:
    """Leave out what modes and rules do not offer. Returns the pictures that are left, and picture x look."""
    of_mode = np.array([[_look_fits(sheet, mode, look) for look in looks] for mode in sheet.modes])
    allowed = of_mode[pictures.mode]
    if sheet.high_dynamic_range:
        joined = np.array([look.high_dynamic_range for look in looks])
        allowed = allowed & ~(joined & (pictures.capture_hz > sheet.high_dynamic_range.fastest_fps)[:, None])
    for rule in sheet.rules:
        picture = np.ones(len(pictures), dtype=bool)
        look = np.ones(len(looks), dtype=bool)
        for dial, values in rule.never.items():
            if dial in LOOK_DIALS:
                look &= np.array([look_value(entry, dial) in values for entry in looks])
            else:
                picture &= np.isin(picture_values(sheet, pictures, dial), np.array(values))
        allowed = allowed & ~(picture[:, None] & look)
    left = np.asarray(allowed.any(axis=1), dtype=bool)
    return pictures.take(left), allowed[left]


def picture_values(sheet: CameraSheet, pictures: Pictures, dial: str) -> NDArray[Any]:
    """Value of a dial in each picture. dial: one of those of pictures. Returns an array of shape (P,)."""
    of_mode = np.array([f"{mode.width}x{mode.height}" for mode in sheet.modes])
    values: dict[str, NDArray[Any]] = {
        "frame": of_mode[pictures.mode],
        "frame_rate": pictures.rate,
        "interval_s": pictures.interval_s,
        "lens": np.array([lens.id for lens in sheet.lenses])[pictures.lens],
        "view": np.array([view.id for view in sheet.views])[pictures.view],
        "stabilisation": np.array([level.id for level in sheet.stabilisation])[pictures.steadying],
    }
    return values[dial]


def look_value(look: Look, dial: str) -> Any:
    """Value of a dial in a look. dial: one of those of looks. Returns it."""
    return {
        "profile": look.profile.id,
        "bit_depth": look.bit_depth,
        "codec": look.codec.id,
        "bit_rate_mb_s": look.bit_rate_mb_s,
        "high_dynamic_range": look.high_dynamic_range,
    }[dial]


def _on_cards(sheet: CameraSheet, supplies: Supplies, pictures: Pictures, looks: tuple[Look, ...]) -> Bools:
    """Which looks the cards or drives at hand can take. Without any card nothing is ruled out."""
    to_drive = np.array([[look.codec.id in mode.drive_codecs for look in looks] for mode in sheet.modes])[pictures.mode]
    if not supplies.has_card:
        return ~to_drive | supplies.has_drive
    fits = np.array([look.bit_rate_mb_s * CARD_MARGIN <= supplies.fastest_mb_s for look in looks])
    return np.where(to_drive, supplies.has_drive, fits)


def _gates(sheet: CameraSheet) -> tuple[tuple[int, float, float], ...]:
    """Lens, f-number and exposure in seconds; NaN stands for automatic."""
    exposures = [*sorted(sheet.shutter.fixed_s, reverse=True), *([float("nan")] if sheet.shutter.auto else [])]
    return tuple((index, f, t) for index, lens in enumerate(sheet.lenses) for f in lens.f_numbers for t in exposures)


def legal_gates(gates: Sequence[tuple[int, float, float]], lens: int, pace: Pace) -> Bools:
    """Which gates a picture may use: those of its lens that end before the next frame begins.

    gates: as in a space; lens: index; pace: of the picture. Returns a mask of shape (G,).
    """
    return np.array([which == lens and (isnan(t) or t <= pace.longest_s * (1.0 + 1e-9)) for which, _, t in gates])


def _glasses(
    sheet: CameraSheet, filters: Sequence[Filter], housings: Sequence[Housing], deepest_m: float | None
) -> tuple[list[Glass], bool]:
    """Housings that are deep enough, each with what fits its port; the bare body only as deep as it is proof."""
    cases: list[Housing | None] = [None]
    too_deep = False
    if deepest_m is not None:
        fitting = [housing for housing in housings if sheet.id in housing.fits]
        cases = [None] if sheet.proof_depth_m >= deepest_m else []
        cases += [housing for housing in fitting if housing.proof_depth_m >= deepest_m]
        if not cases:
            too_deep = True
            cases = [max(fitting, key=lambda housing: housing.proof_depth_m)] if fitting else [None]
    return [glass for case in cases for glass in _behind(sheet, filters, case)], too_deep


def _behind(sheet: CameraSheet, filters: Sequence[Filter], case: Housing | None) -> list[Glass]:
    mount, stack = (sheet.filter_mount.fits, sheet.filter_mount.stack) if case is None else (case.filters, case.stack)
    owned = (place for f in filters if mount and mount in f.fits for place in f.positions())
    fitting = sorted(owned, key=lambda f: (f.kind, f.stops, f.id))
    densities = [f for f in fitting if f.kind == "nd"]
    colours: list[Filter | None] = [None, *(f for f in fitting if f.kind == "colour")]
    found = []
    for colour in colours:
        for count in range(max(0, stack + 1 - (colour is not None))):
            for combo in combinations(densities, count):
                if len({piece_of(f.id) for f in combo}) < count:
                    continue  # one piece cannot be turned to two places
                pieces = [*combo, *([colour] if colour else [])]
                found.append(
                    Glass(
                        ids=tuple(f.id for f in combo),
                        stops=sum(f.stops for f in pieces),
                        names=tuple(f.name for f in pieces),
                        colour=colour.id if colour else None,
                        band_stops=colour.band_stops if colour else (0.0, 0.0, 0.0),
                        colour_stops=colour.stops if colour else 0.0,
                        housing=case.id if case else None,
                    )
                )
    return found


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


def _look_fits(sheet: CameraSheet, mode: Mode, look: Look) -> bool:
    return (
        look.codec.id in mode.codecs
        and (mode.profiles is None or look.profile.id in mode.profiles)
        and (mode.bit_depths is None or look.bit_depth in mode.bit_depths)
        and (mode.bit_rates_mb_s is None or look.bit_rate_mb_s in mode.bit_rates_mb_s)
        and (not look.high_dynamic_range or (mode.high_dynamic_range and sheet.high_dynamic_range is not None))
    )


_FOCUSES = {"fixed": ("fixed",), "automatic": ("automatic", "locked"), "manual": ("locked",)}


def _focuses(sheet: CameraSheet) -> tuple[tuple[str, ...], Bools]:
    offered = [_FOCUSES[lens.focus] for lens in sheet.lenses]
    known = tuple(name for name in ("fixed", "automatic", "locked") if any(name in names for names in offered))
    return known, np.array([[name in names for name in known] for names in offered])


def focal_mm(sheet: CameraSheet, lens: Lens) -> float:
    """Focal length behind the widest field that a lens shows. Returns millimetres."""
    shown = {view for mode in sheet.modes if mode.lens == lens.id for view in mode.views}
    views = [view for view in sheet.views if view.id in shown] or list(sheet.views)
    widest = max(views, key=lambda view: lens.fields_deg.get(view.id, view.field_deg))
    width_mm = lens.sensor.width_px * lens.sensor.pixel_pitch_um / 1000.0
    return focal_length_mm(width_mm, lens.fields_deg.get(widest.id, widest.field_deg), widest.projection)


@dataclass(frozen=True)
class Geometry:
    """What each picture sees, for one delivery; arrays of shape (P,)."""

    wide_px: int
    full_deg: Floats
    field_deg: Floats
    px_per_deg: Floats
    margin_deg: Floats
    usable_w_px: Floats
    sensor_share: Floats
    photosites: Floats


def geometry(pictures: Pictures, sheet: CameraSheet, wide: int, high: int) -> Geometry:
    """Work out fields, pixels and the share of the sensor that is used.

    pictures: P of them; sheet: of the camera; wide, high: delivered frame, pixels; a phone is turned upright
    for an upright one. Returns the geometry; degrees, pixels per degree (delivered), shares of the sensor's area.
    """
    if high > wide and sheet.kind == "phone":
        wide, high = high, wide
    lenses = sheet.lenses
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
        wide_px=wide,
        full_deg=full,
        field_deg=left,
        px_per_deg=per_degree,
        margin_deg=(full - left) / 2.0,
        usable_w_px=fitted_width_px(captured_w, captured_h, wide, high),
        sensor_share=(fitted / largest) ** 2 * pictures.sampling,
        photosites=fitted**2 * (high / wide) * pictures.sampling,
    )
