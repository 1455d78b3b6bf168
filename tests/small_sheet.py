"""A camera small enough to enumerate, with something of everything that can go wrong in a search."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from steady_tide import library
from steady_tide.core.cameras.sheet_reading import read_sheet
from steady_tide.core.gear.items import Attachment, Filter, Housing, Medium, Microphone
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.planning.enumeration import Gear, space_of
from steady_tide.core.planning.power_and_cards import supplies_of
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.space import Space

CARD = Medium(id="card", name="card", capacity_gb=32, write_mb_s=240)


def small_sheet_data() -> dict[str, Any]:
    """The sheet as a person would write it."""
    sensor = {
        "width_px": 4000,
        "height_px": 3000,
        "pixel_pitch_um": 1.5,
        "quantum_efficiency": 0.6,
        "read_noise_e": 3.0,
        "full_well_e": 6000,
        "readout_ms": 12.0,
    }
    lens = {"transmission": 0.9, "closest_m": 0.3, "sensor": sensor}
    return {
        "format": "steady-tide/camera-sheet",
        "version": 1,
        "id": "periwinkle-2",
        "name": "Periwinkle 2",
        "kind": "action",
        "metering_bias_stops": 0.3,
        "lenses": [
            {"id": "main", "name": "main", "f_numbers": [2.8], "focus": "fixed", **lens},
            {"id": "long", "name": "long", "f_numbers": [2.0, 4.0], "focus": "automatic", "fields_deg": {"rectilinear": 40}, **lens},
        ],
        "views": [
            {"id": "wide", "projection": "equidistant", "field_deg": 120, "keeps": 1.0},
            {"id": "rectilinear", "projection": "linear", "field_deg": 85, "keeps": 0.8},
        ],
        "stabilisation": [
            {"id": "off", "keeps": 1.0, "leak": 1.0},
            {"id": "standard", "keeps": 0.9, "leak": 0.05, "power_w": 0.3},
        ],
        "modes": [
            {"width": 3840, "height": 2160, "lens": "main", "rates": [25, 30], "window_px": [4000, 2250],
             "views": ["wide", "rectilinear"], "stabilisation": ["off", "standard"], "codecs": ["new"], "high_dynamic_range": True},
            {"width": 1920, "height": 1080, "lens": "main", "rates": [25, 100], "window_px": [4000, 2250], "sampling": 0.5,
             "views": ["wide"], "stabilisation": ["off", "standard"], "codecs": ["new", "old"], "noise_reduction": 1.3},
            {"width": 1920, "height": 1080, "lens": "long", "rates": [25], "window_px": [3000, 1700],
             "views": ["rectilinear"], "stabilisation": ["off"], "codecs": ["old"]},
            {"width": 1920, "height": 1080, "lens": "main", "rates": [25], "intervals_s": [2, 20], "window_px": [4000, 2250],
             "views": ["wide"], "stabilisation": ["off"], "codecs": ["new"], "profiles": ["natural"]},
        ],
        "rules": [{"never": {"view": ["rectilinear"], "profile": ["flat"], "bit_depth": [8]}, "why": "a made-up limit"}],
        "shutter": {"fixed_s": [15, "1/25", "1/50", "1/1600"], "auto": True, "auto_fastest_s": "1/4000"},
        "iso": {"floors": [100, 400], "ceilings": [100, 1600]},
        "compensation_stops": [-0.3, 0.7],
        "balance_k": [3200, 5500],
        "profiles": [
            {"id": "natural", "range_stops": 10, "bit_depths": [8]},
            {"id": "flat", "range_stops": 12, "shadow_lift_stops": 0.7, "needs_grading_stops": 1.0, "bit_depths": [8, 10]},
        ],
        "codecs": [
            {"id": "new", "bit_depths": [8, 10], "bit_rates_mb_s": [100], "efficiency": 1.0},
            {"id": "old", "bit_depths": [8], "bit_rates_mb_s": [60], "efficiency": 0.6},
        ],
        "sharpness": ["low", "medium"],
        "high_dynamic_range": {"gain_stops": 1.0, "profiles": ["natural"], "bit_depths": [8], "fastest_fps": 25},
        "wind_reduction": ["off", "on"],
        "pre_record_s": [0, 15],
        "filter_mount": {"fits": "limpet", "stack": 2},
        "power": {"base_w": 2, "per_gigapixel_s_w": 3, "battery_wh": 5, "heat_k_per_w": 12, "heat_tau_s": 500,
                  "heat_limit_c": 70, "pre_record_w": 0.4},
        "card_min_mb_s": 30,
        "proof_depth_m": 5,
    }  # fmt: skip


def small_sheet() -> CameraSheet:
    """The sheet, read."""
    return read_sheet(small_sheet_data())


def manifold_sheet() -> CameraSheet:
    """A camera of which every way of recording, holding and hearing can be enumerated: two recorders, a front lens, red
    gain, stills, and a way in for a microphone; and less of everything else."""
    data = small_sheet_data()
    main, long = data["lenses"]
    film = {"width": 1920, "height": 1080, "rates": [25], "window_px": [3000, 1700], "stabilisation": ["off"]}
    every = {
        "width": 1920, "height": 1080, "lens": "main", "rates": [25], "intervals_s": [20], "window_px": [4000, 2250],
        "views": ["wide"], "stabilisation": ["off"],
    }  # fmt: skip
    changed = {
        "lenses": [main, {**long, "f_numbers": [2.0]}, {**main, "id": "front", "faces": "front", "fields_deg": {"rectilinear": 70}}],
        "modes": [
            {**film, "lens": "main", "views": ["wide"], "codecs": ["new"], "high_dynamic_range": True},
            {**film, "lens": "long", "views": ["rectilinear"], "codecs": ["old"]},
            {**film, "lens": "front", "views": ["rectilinear"], "codecs": ["old"]},
            {**every, "codecs": ["new"], "profiles": ["natural"]},
            {**every, "codecs": ["raw"], "still_mb": 20},
        ],
        "rules": [],
        "recorders": [
            {"id": "hand", "name": "by hand", "high_dynamic_range": False},
            {"id": "own", "name": "its own", "by_hand": False, "profiles": ["natural"]},
        ],
        "shutter": {"fixed_s": [15, "1/50"], "auto": True, "auto_fastest_s": "1/4000"},
        "red_gain_stops": [0, 1],
        "microphone_in": "adapter",
        "pre_record_s": [0],
        "sharpness": ["low"],
        "compensation_stops": [-0.3],
        "profiles": [*data["profiles"][:1], {**data["profiles"][1], "bit_depths": [8]}, {"id": "raw", "range_stops": 13, "needs_grading_stops": 1.6, "bit_depths": [12]}],
        "codecs": [*data["codecs"], {"id": "raw", "bit_depths": [12], "bit_rates_mb_s": [120], "efficiency": 0.3}],
        "screens": ["back", "both"],
        "filter_mount": {"fits": "limpet", "stack": 1},
    }  # fmt: skip
    return read_sheet({**data, **changed})


def laid_out(
    sheet: CameraSheet,
    at: Situation,
    filters: Sequence[Filter] = (),
    housings: Sequence[Housing] = (),
    media: Sequence[Medium] = (CARD,),
    attachments: Sequence[Attachment] = (),
    microphones: Sequence[Microphone] = (),
) -> Space:
    """The space of a camera for a situation, with a card."""
    supplies = supplies_of(sheet, at.brief, (), media, library.knowledge())
    return space_of(sheet, at.judgement.dials, supplies, Gear(filters, attachments, housings, microphones), at.wet)
