"""What a camera offers by its modes and rules, whatever is at hand: its legal pictures and looks."""

from __future__ import annotations

from itertools import product
from math import isnan
from typing import Any

import numpy as np

from steady_tide.core.gear.sheet import CameraSheet, Mode, Recorder
from steady_tide.core.planning.dials.dial_kind import DialKind
from steady_tide.core.planning.dials.independent import balances_of
from steady_tide.core.planning.geometry import focal_mm
from steady_tide.core.planning.space import (
    SET_BY_HAND,
    Bools,
    Floats,
    Habit,
    Ints,
    Look,
    Offer,
    Pace,
    Pictures,
)


def offered(sheet: CameraSheet, dials: dict[str, DialKind]) -> Offer:
    """Lay out what a camera offers.

    sheet: the camera; dials: those that its rules may tie, by id. Returns the offer.
    """
    timings = tuple(
        (index, rate, interval)
        for index, mode in enumerate(sheet.modes)
        for rate in mode.rates
        for interval in (mode.intervals_s or (float("nan"),))
    )
    of_timing = [[_pace(sheet, rate, interval, way.by_hand) for _, rate, interval in timings] for way in sheet.ways]
    known = {pace for mine in of_timing for pace in mine}
    paces = tuple(sorted(known, key=lambda pace: (pace.capture_hz, pace.longest_s, pace.by_hand)))
    place = {pace: index for index, pace in enumerate(paces)}
    pace_of = np.array([[place[pace] for pace in mine] for mine in of_timing], dtype=np.intp)
    pictures = _pictures(sheet, timings, pace_of)
    looks = tuple(_looks(sheet))
    pictures, allowed = _ruled(sheet, dials, pictures, looks)
    of_mode = np.array([[look.codec.id in mode.drive_codecs for look in looks] for mode in sheet.modes])
    gates = _gates(sheet)
    focuses, focus_allowed = _focuses(sheet)
    focal = [focal_mm(sheet, lens) for lens in sheet.lenses]
    return Offer(
        sheet=sheet,
        pictures=pictures,
        timings=timings,
        paces=paces,
        gates=gates,
        iso_pairs=tuple(
            (low, high) for low in sorted(sheet.iso.floors) for high in sorted(sheet.iso.ceilings) if low <= high
        ),
        compensations=tuple(sorted(sheet.compensation_stops)),
        looks=looks,
        look_offered=allowed,
        to_drive=of_mode[pictures.mode],
        focuses=focuses,
        focus_allowed=focus_allowed,
        balances=balances_of(sheet),
        habits=tuple(
            Habit(screen, positioning, early)
            for screen, positioning, early in product(sheet.screens, sheet.positioning, sorted(sheet.pre_record_s))
        ),
        alone={kind.id: tuple(kind.offers(sheet)) for kind in dials.values() if kind.offers is not None},
        openings_mm=np.array([focal[lens] / f for lens, f, _ in gates]),
        focal_mm=np.array(focal),
    )


def _pictures(sheet: CameraSheet, timings: tuple[tuple[int, float, float], ...], paces: Ints) -> Pictures:
    lens_index = {lens.id: index for index, lens in enumerate(sheet.lenses)}
    view_index = {view.id: index for index, view in enumerate(sheet.views)}
    level_index = {level.id: index for index, level in enumerate(sheet.stabilisation)}
    rows = [
        (lens_index[mode.lens], way, timings[timing][0], timing, view_index[view], level_index[level])
        for timing, mode in ((timing, sheet.modes[index]) for timing, (index, _, _) in enumerate(timings))
        for way, recorder in enumerate(sheet.ways)
        for view in mode.views
        for level in mode.stabilisation
        if recorder.stabilisation is None or level in recorder.stabilisation
    ]
    lens, way, mode, timing, view, level = (np.array(column, dtype=np.intp) for column in zip(*rows, strict=True))
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
        recorder=way,
        mode=mode,
        timing=timing,
        pace=paces[way, timing],
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
        keeps_view=np.array([[sheet.keeps(entry, v) for v in sheet.views] for entry in sheet.lenses])[lens, view],
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
        still_mb=of_mode(lambda m: float("nan") if m.still_mb is None else m.still_mb),
    )


def _ruled(
    sheet: CameraSheet, dials: dict[str, DialKind], pictures: Pictures, looks: tuple[Look, ...]
) -> tuple[Pictures, Bools]:
    """Leave out what modes and rules do not offer. Returns the pictures that are left, and picture x look."""
    of_mode = np.array([[_look_fits(sheet, mode, look) for look in looks] for mode in sheet.modes])
    allowed = of_mode[pictures.mode]
    if sheet.recorders:
        of_way = np.array(
            [[[_way_fits(way, mode, look) for look in looks] for mode in sheet.modes] for way in sheet.recorders]
        )
        allowed &= of_way[pictures.recorder, pictures.mode]
    if sheet.high_dynamic_range:
        joined = np.array([look.high_dynamic_range for look in looks])
        allowed = allowed & ~(joined & (pictures.capture_hz > sheet.high_dynamic_range.fastest_fps)[:, None])
    for rule in sheet.rules:
        picture = np.ones(len(pictures), dtype=bool)
        look = np.ones(len(looks), dtype=bool)
        for name, values in rule.never.items():
            kind = dials[name]
            if kind.block == "looks":
                look &= np.array([kind.read(entry) in values for entry in looks])
            else:
                picture &= np.isin(kind.read(sheet, pictures), np.array(values))
        allowed = allowed & ~(picture[:, None] & look)
    left = np.asarray(allowed.any(axis=1), dtype=bool)
    return pictures.take(left), allowed[left]


def _pace(sheet: CameraSheet, rate: float, interval_s: float, by_hand: bool) -> Pace:
    """How often frames are taken. rate: frames per second at speed; interval_s: NaN of film at speed."""
    capture_hz = rate if isnan(interval_s) else 1.0 / interval_s
    longest_s = 1.0 / rate if isnan(interval_s) else sheet.between_frames_s(interval_s)
    return Pace(capture_hz, longest_s, min(longest_s, sheet.shutter.longest_automatic_s), by_hand)


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


def _way_fits(way: Recorder, mode: Mode, look: Look) -> bool:
    return (
        (way.codecs is None or look.codec.id in way.codecs)
        and (way.profiles is None or look.profile.id in way.profiles)
        and (way.high_dynamic_range or not look.high_dynamic_range)
        and (way.drive or look.codec.id not in mode.drive_codecs)
    )


def _look_fits(sheet: CameraSheet, mode: Mode, look: Look) -> bool:
    return (
        look.codec.id in mode.codecs
        and (mode.profiles is None or look.profile.id in mode.profiles)
        and (mode.bit_depths is None or look.bit_depth in mode.bit_depths)
        and (mode.bit_rates_mb_s is None or look.bit_rate_mb_s in mode.bit_rates_mb_s)
        and (not look.high_dynamic_range or (mode.high_dynamic_range and sheet.high_dynamic_range is not None))
    )


def _gates(sheet: CameraSheet) -> tuple[tuple[int, float, float], ...]:
    """Lens, f-number and exposure in seconds; NaN stands for automatic."""
    exposures = [*sorted(sheet.shutter.fixed_s, reverse=True), *([float("nan")] if sheet.shutter.auto else [])]
    return tuple((index, f, t) for index, lens in enumerate(sheet.lenses) for f in lens.f_numbers for t in exposures)


_FOCUSES = {
    "fixed": ("fixed",),
    "automatic": ("automatic", "locked", "hyperfocal", "infinity"),
    "manual": ("locked", "hyperfocal", "infinity"),
}
FOCUS_ORDER = ("fixed", "automatic", "locked", "hyperfocal", "infinity")


def _focuses(sheet: CameraSheet) -> tuple[tuple[str, ...], Bools]:
    offered = [
        [name for name in _FOCUSES[lens.focus] if lens.farthest_m is None or name not in SET_BY_HAND]
        for lens in sheet.lenses
    ]
    known = tuple(name for name in FOCUS_ORDER if any(name in names for names in offered))
    return known, np.array([[name in names for name in known] for names in offered])
