"""What each item of the ledger costs, in stops and not yet weighted.

Each function prices a group of items for arrays of candidates, and is the only place where that
item is judged: the search calls it with all candidates, the ledger with the chosen one.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from steady_tide.core.light.flicker import beat_hz, ripple_left, ripple_stops
from steady_tide.core.motion import blur_px, left_over_deg, repeats_unevenly
from steady_tide.core.noise import averaging_gain, grey_electrons, signal_to_noise
from steady_tide.core.optics import fitted_width_px, linear_shortfall_stops
from steady_tide.core.planning.metering import Asked, Exposures
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.space import Bools, Floats, Geometry, Look, Pictures
from steady_tide.core.sheet import CameraSheet, Lens
from steady_tide.core.stops import half_turn_s

Items = dict[str, Floats]

# Blackbody colours differ visibly by about this many reciprocal megakelvins; a stop of balance.
MIREDS_IN_A_STOP = 60.0
UPRIGHT_LONG_SIDE_PX = 1920


def picture_costs(at: Situation, pictures: Pictures, seen: Geometry, largest_px: float) -> Items:
    """Price what a picture alone decides.

    at: the situation; pictures, seen: P pictures and their geometry; largest_px: pixels of the
    camera's largest frame. Returns stops, (P,) each.
    """
    delivery = at.brief.delivery
    steadied = pictures.steadied.astype(float)
    later = delivery.stabilise_later
    shake = np.log2(
        np.maximum(1.0, left_over_deg(at.wander_deg, seen.margin_deg, pictures.leak) / at.limits["wander_allowed_deg"])
    )
    bent = np.where(pictures.straight, 0.0, np.log2(np.maximum(1.0, seen.field_deg / 75.0)))
    carried = at.mount.shake_deg_s > 1 and not at.mount.point_of_view
    rates, which = np.unique(pictures.rate, return_inverse=True)
    uneven = np.array([repeats_unevenly(float(rate), at.shown_fps) for rate in rates], dtype=float)[which]
    area = pictures.width_px * pictures.height_px
    return {
        "detail": linear_shortfall_stops(delivery.width, seen.usable_w_px),
        "reframe": _reframe(at, pictures),
        "most": 0.5 * np.log2(largest_px / area),
        "view": np.abs(np.log2(seen.field_deg / at.field_wanted_deg)),
        "bend": at.bend_matters * bent,
        "horizon": np.where(pictures.levelled, 0.0, 0.2 if carried else 0.0),
        "crop": -np.log2(pictures.keeps_steady),
        "shake": np.zeros_like(shake) if later else shake,
        "software": steadied if later else np.zeros_like(steadied),
        "light_unused": -np.log2(seen.sensor_share),
        "slow_motion": np.maximum(0.0, np.log2(at.shown_fps / pictures.rate)),
        "spare_frames": np.maximum(0.0, np.log2(pictures.rate / at.shown_fps)),
        "cadence": uneven,
    }


def _reframe(at: Situation, pictures: Pictures) -> Floats:
    short = np.zeros(len(pictures))
    delivery = at.brief.delivery
    if delivery.stabilise_later:
        high = at.limits["software_room"] * delivery.height
        short = linear_shortfall_stops(high, np.minimum(pictures.height_px, pictures.width_px * high / delivery.width))
    for shape in at.brief.delivery.reframe:
        wide, high = (int(part) for part in shape.split(":"))
        wanted = UPRIGHT_LONG_SIDE_PX * wide / max(wide, high)
        short = np.maximum(
            short, linear_shortfall_stops(wanted, fitted_width_px(pictures.width_px, pictures.height_px, wide, high))
        )
    return short


def wanted_shutter_s(at: Situation, rate: Floats) -> Floats:
    """Exposure that the motion look asks for.

    at: the situation; rate: frames per second. Returns seconds. Frames beyond those that the
    timeline shows are dropped, so the interval is that of the frames shown.
    """
    half = half_turn_s(np.minimum(rate, at.shown_fps))
    look = at.brief.subject.motion_look
    if look == "streaked":
        return np.asarray(2.0 * half)
    if look == "frozen" and at.frozen_s is not None:
        return np.asarray(np.minimum(half, at.frozen_s))
    return np.asarray(half)


def gate_costs(at: Situation, exposures: Exposures, rate: Floats) -> Items:
    """Price what exposure and rate decide together.

    at: the situation; exposures, rate: broadcastable arrays. Returns stops of that shape.
    """
    wanted = wanted_shutter_s(at, rate)

    def off(t: Floats) -> Floats:
        stops: Floats = np.log2(t / wanted)
        short = 0.0 if at.brief.subject.motion_look == "frozen" else 1.0
        return np.where(stops > 0, at.limits["long_exposure_factor"] * stops, -short * stops)

    automatic = exposures.automatic
    drift = np.where(automatic, 0.2 + np.abs(np.log2(exposures.dim_s / exposures.bright_s)), 0.0)
    swing = ripple_stops(ripple_left(at.light.ripple, exposures.dim_s, at.brief.mains_hz))
    still = np.where(beat_hz(rate, at.brief.mains_hz) < 0.05, 0.5, 1.0)
    look = 0.5 * (off(exposures.dim_s) + off(exposures.bright_s))
    # A look that is lost already has nothing left to drift from.
    return {"motion_look": look, "loose_shutter": drift * np.clip(1.0 - look / 3.0, 0.0, 1.0), "flicker": swing * still}


def smear_px(at: Situation, px_per_deg: Floats, exposure_s: Floats) -> Floats:
    """Blur that shake leaves in one frame. Returns delivered pixels."""
    return np.asarray(blur_px(at.mount.shake_deg_s + at.brief.camera_move.turn_deg_s, exposure_s, px_per_deg))


def smear_costs(at: Situation, px_per_deg: Floats, steadied: Bools, exposure_s: Floats) -> Items:
    """Price shake inside one frame.

    px_per_deg: delivered pixels per degree; steadied: whether the frame is steadied; exposure_s: at
    the dim end, seconds; broadcastable. Returns stops of that shape.
    """
    share = np.where(steadied, at.limits["smear_share_steadied"], at.limits["smear_share_free"])
    blur = smear_px(at, px_per_deg, exposure_s)
    return {"smear": np.log2(np.maximum(1.0, blur / (share * at.brief.delivery.width)))}


def noise_shortfall(at: Situation, photosites: Floats, in_camera_gain: Floats) -> Floats:
    """What a picture adds to the noise item, to be added to `noise_of_iso`; stops, shape (P,)."""
    return np.asarray(np.log2(at.noise_limit_snr / (averaging_gain(photosites, at.delivered_px) * in_camera_gain)))


def noise_of_iso(lens: Lens, log2_iso: Floats) -> Floats:
    """Minus log2 of a pixel's signal-to-noise ratio at mid grey. log2_iso: any shape. Returns stops."""
    sensor = lens.sensor
    electrons = grey_electrons(np.exp2(log2_iso), sensor.pixel_pitch_um, sensor.quantum_efficiency, lens.transmission)
    return np.asarray(-np.log2(signal_to_noise(electrons, sensor.read_noise_e)))


def noise_costs(shortfall: Floats, of_iso: Floats) -> Items:
    """Price noise at the dim end: how far the ratio falls short of the school's limit, stops."""
    return {"noise": np.maximum(0.0, shortfall + of_iso)}


def exposure_costs(
    at: Situation, sheet: CameraSheet, asked: Asked, nd_stops: Floats, log2_floor: Floats, log2_ceiling: Floats
) -> Items:
    """Price what the light finds between floor and ceiling.

    asked: what the camera asks for; nd_stops: of the glass; log2_*: ISO as logarithm; broadcastable.
    Returns stops of that shape.
    """
    low, high = at.light.ev100
    hundred = np.log2(100.0)
    used_dim = np.clip(asked.iso_dim, log2_floor, log2_ceiling)
    used_bright = np.clip(asked.iso_bright, log2_floor, log2_ceiling)
    base = np.log2(float(min(sheet.iso.floors)))
    return {
        "over": np.maximum(0.0, high + used_bright - hundred - nd_stops - asked.camera_ev_bright),
        "under": np.maximum(0.0, asked.camera_ev_dim + nd_stops + hundred - low - used_dim),
        "gain_behind_glass": np.minimum(nd_stops, log2_ceiling - base),
        "spare_gain": np.maximum(0.0, log2_ceiling - used_dim),
        "raised_floor": log2_floor - base,
    }


def compensation_costs(sheet: CameraSheet, compensation: Floats) -> Items:
    """Price a compensation that leaves the meter's habit uncorrected. Returns stops."""
    return {"metering": np.abs(compensation + sheet.metering_bias_stops)}


def glass_costs(pieces: Floats) -> Items:
    """Price glass for being there. pieces: how many. Returns stops: a tenth each, a stack more."""
    return {"glass": 0.1 * pieces + 0.4 * np.maximum(0.0, pieces - 1.0)}


def look_costs(
    at: Situation, sheet: CameraSheet, looks: Sequence[Look], width: Floats, height: Floats, rate: Floats
) -> Items:
    """Price colour and recording.

    looks: L of them; width, height, rate: of T frame sizes with their rates, (T, 1). Returns stops, (T, L).
    """
    wide = np.array([look.high_dynamic_range for look in looks], dtype=float)
    stretch = sheet.high_dynamic_range.gain_stops if sheet.high_dynamic_range else 0.0
    holds = np.array([look.profile.range_stops for look in looks]) + wide * stretch
    unfinished = np.array([look.profile.needs_grading_stops for look in looks])
    lifted = np.array([look.profile.shadow_lift_stops for look in looks])
    deep = np.array([look.bit_depth > 8 for look in looks], dtype=float)
    bits = np.array([look.bit_rate_mb_s for look in looks])
    efficiency = np.array([look.codec.efficiency for look in looks])
    slow_codec = np.array([look.codec.efficiency >= 1.0 for look in looks], dtype=float)
    delivery = at.brief.delivery
    phone = delivery.edit_device == "phone"
    moving = at.brief.subject.speed_m_s > 0 or at.mount.shake_deg_s > 5
    per_pixel = bits * 1e6 * efficiency / (width * height * rate)
    wanted_bits = at.limits["bits_graded" if at.graded else "bits_straight"]
    ghosts = 1.0 if at.dark else (0.5 if moving else 0.15)
    if at.graded:
        tones = (1.0 - deep) * np.where(unfinished > 0.5, 1.0, 0.4)
    else:
        tones = deep * (0.8 if phone else 0.3)
    too_large = 0.5 * np.log2(np.maximum(1.0, width * height / (UPRIGHT_LONG_SIDE_PX * 1080.0)))
    every = np.zeros(np.broadcast_shapes(width.shape, bits.shape))
    return {
        "latitude": every + np.maximum(0.0, at.range_wanted_stops - holds),
        "finish": every + (0.0 if at.graded else unfinished),
        "lifted_shadows": every + lifted,
        "tones": every + tones,
        "bits": np.maximum(0.0, np.log2(wanted_bits / per_pixel)),
        "storage": every + np.log2(bits / min(rate_ for codec in sheet.codecs for rate_ in codec.bit_rates_mb_s)),
        "editing": every + (too_large + 0.2 * slow_codec if phone else 0.0),
        "range_mode": every + wide * ghosts,
    }


def balance_costs(at: Situation, balances: Sequence[int | None]) -> Items:
    """Price white balances. balances: kelvin, None for automatic. Returns stops, one each."""
    locked = at.brief.school.white_balance == "locked"
    warm, cool = at.light.balance_k
    stops = []
    for kelvin in balances:
        if kelvin is None:
            stops.append(0.8 if locked else 0.0)
            continue
        nearest = min(max(kelvin, warm), cool)
        off = abs(1e6 / kelvin - 1e6 / nearest) / MIREDS_IN_A_STOP
        middle = abs(1e6 / kelvin - 2e6 / (warm + cool)) / MIREDS_IN_A_STOP
        stops.append(off + 0.05 * middle + (0.0 if locked else 0.4))
    return {"balance": np.array(stops)}


_SHARPENING = {True: {"low": 0.0, "medium": 0.3, "high": 1.0}, False: {"low": 0.3, "medium": 0.0, "high": 0.6}}


def sharpness_costs(at: Situation, levels: Sequence[str]) -> Items:
    """Price sharpening in the camera. levels: low, medium, high. Returns stops, one each."""
    return {"sharpening": np.array([_SHARPENING[at.graded][level] for level in levels])}


def wind_costs(at: Situation, settings: Sequence[str]) -> Items:
    """Price wind reduction: what the wind (or the ride's own) roars, and what mono loses. Returns stops."""
    sound = at.brief.sound
    wind = max(sound.wind_m_s, at.brief.camera_move.travel_m_s)
    roar = min(2.0, max(0.0, float(np.log2(max(wind, 1e-9) / 5.0)))) if sound.wanted else 0.0
    price = {"off": roar, "automatic": 0.05 + 0.2 * roar, "on": 0.2 if sound.wanted else 0.1}
    return {"wind": np.array([price[setting] for setting in settings])}
