"""What each item of the ledger costs, in stops and not yet weighted.

Each function prices a group of items for arrays of candidates, and is the only place where that
item is judged: the search calls it with all candidates, the ledger with the chosen one.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from steady_tide.core.endurance import gigabytes, minutes_to_heat
from steady_tide.core.lapse import frames_of, screen_s, star_drift_px
from steady_tide.core.light.flicker import beat_hz, ripple_left, ripple_stops
from steady_tide.core.motion import blur_px, left_over_deg, repeats_unevenly
from steady_tide.core.noise import averaging_gain, grey_electrons, signal_to_noise
from steady_tide.core.optics import blur_spot_deg, diffraction_deg, fitted_width_px, linear_shortfall_stops
from steady_tide.core.planning.metering import Asked, Band, Exposures
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.space import Balance, Bools, Floats, Geometry, Glass, Habit, Look, Pictures, Space
from steady_tide.core.sheet import CameraSheet, Lens
from steady_tide.core.stops import half_turn_s

Items = dict[str, Floats]

# Blackbody colours differ visibly by about this many reciprocal megakelvins; a stop of balance.
MIREDS_IN_A_STOP = 60.0
# A film at speed where an interval film is wanted; the planner leaves those out before.
NEVER_STOPS = 100.0
UPRIGHT_LONG_SIDE_PX = 1920


def picture_costs(at: Situation, space: Space, pictures: Pictures, seen: Geometry) -> Items:
    """Price what a picture alone decides.

    at: the situation; space: of the camera; pictures, seen: P pictures and their geometry. Returns
    stops, (P,) each.
    """
    delivery = at.brief.delivery
    steadied = pictures.steadied.astype(float)
    later = delivery.stabilise_later
    # A wander is judged against what is seen: a long lens shows it sooner.
    allowed = at.limits["wander_allowed_share"] * seen.field_deg
    left = left_over_deg(at.wander_deg, seen.margin_deg, pictures.leak)
    shake = np.log2(np.maximum(1.0, left / allowed))
    bent = np.where(pictures.straight, 0.0, np.log2(np.maximum(1.0, seen.field_deg / 75.0)))
    carried = at.mount.shake_deg_s > 1 and not at.mount.point_of_view
    rates, which = np.unique(pictures.rate, return_inverse=True)
    uneven = np.array([repeats_unevenly(float(rate), at.shown_fps) for rate in rates], dtype=float)[which]
    area = pictures.width_px * pictures.height_px
    none = np.zeros(len(pictures))
    return {
        "detail": linear_shortfall_stops(seen.wide_px, seen.usable_w_px),
        "reframe": _reframe(at, pictures),
        "most": 0.5 * np.log2(space.largest_px / area),
        # What steadying cuts away never counts as coming closer.
        "view": np.maximum(np.log2(at.field_wanted_deg / seen.field_deg), np.log2(seen.full_deg / at.field_wanted_deg)),
        "bend": at.bend_matters * bent,
        "lens": np.array([lens.softer_stops for lens in space.sheet.lenses])[pictures.lens],
        "horizon": np.where(pictures.levelled, 0.0, 0.2 if carried else 0.0),
        "crop": -np.log2(pictures.keeps_steady),
        "shake": none if later else shake,
        "software": steadied if later else none,
        "light_unused": -np.log2(seen.sensor_share),
        "slow_motion": np.maximum(0.0, np.log2(at.shown_fps / pictures.rate)),
        "spare_frames": none if at.lapse else np.maximum(0.0, np.log2(pictures.rate / at.shown_fps)),
        "cadence": uneven,
        "interval": _interval(at, pictures) if at.lapse else none,
        "handling": none + (1.0 if delivery.edit_device == "phone" and space.sheet.kind != "phone" else 0.0),
    }


def _interval(at: Situation, pictures: Pictures) -> Floats:
    """Time on the screen against what is wanted; a factor within the tolerance passes."""
    wanted = at.brief.take.screen_s or at.limits["lapse_screen_s"]
    slack = 0.0 if at.brief.take.screen_s else at.limits["lapse_slack_stops"]
    shown = screen_s(frames_of(at.brief.take.length_s, pictures.interval_s), pictures.rate)
    off = np.maximum(0.0, np.abs(np.log2(shown / wanted)) - slack)
    return np.where(np.isnan(pictures.interval_s), NEVER_STOPS, off)


def _reframe(at: Situation, pictures: Pictures) -> Floats:
    short = np.zeros(len(pictures))
    delivery = at.brief.delivery
    if delivery.stabilise_later:
        high = at.limits["software_room"] * delivery.height
        short = linear_shortfall_stops(high, np.minimum(pictures.height_px, pictures.width_px * high / delivery.width))
    for shape in at.brief.delivery.reframe:
        wide, high = (int(part) for part in shape.split(":"))
        wanted = UPRIGHT_LONG_SIDE_PX * wide / max(wide, high)
        cut = fitted_width_px(pictures.width_px, pictures.height_px, wide, high)
        short = np.maximum(short, linear_shortfall_stops(wanted, cut))
        # A cut that is a small part of the frame shows too little above and below.
        share = cut**2 * (high / wide) / (pictures.width_px * pictures.height_px)
        short = np.maximum(short, np.log2(at.limits["reframe_share"] / share))
    return short


def wanted_shutter_s(at: Situation, capture_hz: Floats) -> Floats:
    """Exposure that the motion look asks for.

    at: the situation; capture_hz: frames taken per second. Returns seconds. Frames beyond those that the
    timeline shows are dropped, so the interval is that of the frames shown.
    """
    if at.lapse:  # frames far apart join best where little is left out between them
        return np.asarray(1.0 / capture_hz)
    half = half_turn_s(np.minimum(capture_hz, at.shown_fps))
    look = at.brief.subject.motion_look
    if look == "streaked":
        return np.asarray(2.0 * half)
    if look == "frozen" and at.frozen_s is not None:
        return np.asarray(np.minimum(half, at.frozen_s))
    return np.asarray(half)


def gate_costs(at: Situation, exposures: Exposures, capture_hz: Floats) -> Items:
    """Price what exposure and pace decide together.

    at: the situation; exposures, capture_hz: broadcastable arrays. Returns stops of that shape.
    """
    wanted = wanted_shutter_s(at, capture_hz)

    def off(t: Floats) -> Floats:
        stops: Floats = np.log2(t / wanted)
        short = np.maximum(0.0, -stops) * (0.0 if at.brief.subject.motion_look == "frozen" else 1.0)
        # Past some point shorter looks no worse.
        worst = at.limits["short_exposure_stops"]
        short = np.minimum(short, worst) + 0.25 * np.maximum(0.0, short - worst)
        return np.where(stops > 0, at.limits["long_exposure_factor"] * stops, short)

    automatic = exposures.automatic
    course = np.abs(np.log2(exposures.dim_s / exposures.bright_s))
    # Over the hours of an interval film the course of the light is wanted; its small jumps are not.
    drift = np.where(automatic, 0.2 + (at.limits["lapse_course_share"] if at.lapse else 1.0) * course, 0.0)
    swing = ripple_stops(ripple_left(at.light.ripple, exposures.dim_s, at.brief.mains_hz))
    still = np.where(beat_hz(capture_hz, at.brief.mains_hz) < 0.05, 0.5, 1.0)
    look = 0.5 * (off(exposures.dim_s) + off(exposures.bright_s))
    # A look that is lost already has nothing left to drift from; an interval film flickers all the same.
    left = 1.0 if at.lapse else np.clip(1.0 - look / 3.0, 0.0, 1.0)
    return {"motion_look": look, "loose_shutter": drift * left, "flicker": swing * still}


def drift_costs(at: Situation, px_per_deg: Floats, exposure_s: Floats) -> Items:
    """Price stars that move within an exposure. Returns stops of the broadcast shape."""
    if not (at.lapse and at.light.night_sky):
        return {"star_drift": np.zeros(np.broadcast_shapes(px_per_deg.shape, exposure_s.shape))}
    drift = star_drift_px(exposure_s, px_per_deg)
    return {"star_drift": np.log2(np.maximum(1.0, drift / at.limits["star_drift_px"]))}


def focus_distance_m(at: Situation, lens: Lens) -> float:
    """Where a lens is best focused: midway, in reciprocal distance, between the ends of the subject.

    at: gives the distances; lens: one that can be focused. Returns metres.
    """
    near, far = at.brief.subject.distance_m
    return max(2.0 / (1.0 / near + 1.0 / far), lens.closest_m)


def spots_deg(at: Situation, lens: Lens, opening_mm: Floats) -> tuple[Floats, Floats]:
    """Angles over which focus and diffraction spread a point.

    at: gives the distances; lens: where it can be focused; opening_mm: any shape. Returns degrees, both.
    Focus is judged at the worse end of the subject; a fixed lens is sharp from its closest distance on.
    """
    near, far = at.brief.subject.distance_m
    if at.lapse and at.light.night_sky:
        near = far  # the sky is the subject
    if lens.focus == "fixed":
        worst = blur_spot_deg(opening_mm, max(0.01, lens.closest_m), min(near, max(0.01, lens.closest_m)))
    else:
        at_m = focus_distance_m(at, lens)
        worst = np.maximum(blur_spot_deg(opening_mm, at_m, near), blur_spot_deg(opening_mm, at_m, far))
    return np.asarray(worst), np.asarray(diffraction_deg(opening_mm))


def softness_costs(at: Situation, px_per_deg: Floats, focus_deg: Floats, diffraction: Floats) -> Items:
    """Price what focus and a small opening soften. Parameters broadcast. Returns stops of that shape."""
    spread = np.hypot(
        focus_deg * px_per_deg / at.limits["focus_px"], diffraction * px_per_deg / at.limits["diffraction_px"]
    )
    return {"softness": np.log2(np.maximum(1.0, spread))}


def focus_costs(at: Situation, focuses: Sequence[str]) -> Items:
    """Price how the focus is worked. focuses: fixed, automatic, locked. Returns stops, one each."""
    near, far = at.brief.subject.distance_m
    moves = at.brief.subject.speed_m_s > 0 or at.brief.camera_move.travel_m_s > 0
    lost = min(1.5, 0.2 * float(np.log2(far / near))) + 0.1 if moves else 0.0
    hunts = 0.5 if at.dark or at.lapse or at.brief.scenario in ("product", "underwater") else 0.1
    price = {"fixed": 0.0, "automatic": hunts, "locked": lost}
    return {"focus": np.array([price[name] for name in focuses])}


def needed_wh(at: Situation, space: Space, pictures: Pictures, habits: Sequence[Habit]) -> Floats:
    """Energy that a shot takes: running at full power, and waiting in standby or, to start early, awake.

    pictures: P of them; habits: H of them. Returns watt-hours, (P, H).
    """
    power = draw_w(space, pictures, habits)
    early = np.array([habit.pre_record_s > 0 for habit in habits])
    waiting = np.where(early, power, space.supplies.standby_w)
    return np.asarray(power * at.brief.running_s / 3600.0 + waiting * at.brief.take.standby_min / 60.0)


def draw_w(space: Space, pictures: Pictures, habits: Sequence[Habit]) -> Floats:
    """Power while recording. Returns watts, (P, H)."""
    power = space.sheet.power
    extras = np.array(
        [
            power.screen_w.get(habit.screen, 0.0)
            + (power.positioning_w if habit.positioning == "on" else 0.0)
            + (power.pre_record_w if habit.pre_record_s else 0.0)
            for habit in habits
        ]
    )
    return np.asarray(pictures.power_w[:, None] + extras)


def habit_costs(at: Situation, space: Space, pictures: Pictures, habits: Sequence[Habit]) -> Items:
    """Price screen, positioning and early start, with the charge and the heat that they and the picture take.

    pictures: P of them; habits: H of them. Returns stops, (P, H).
    """
    supplies, power = space.supplies, space.sheet.power
    every = np.zeros((len(pictures), len(habits)))
    needed = needed_wh(at, space, pictures, habits) * at.limits["battery_margin"]
    minutes = minutes_to_heat(
        draw_w(space, pictures, habits), supplies.heat_k_per_w, supplies.heat_tau_s, at.brief.air_c, power.heat_limit_c
    )
    sudden = at.brief.subject.event_s is not None
    unseen = at.mount.point_of_view or at.mount.flying or at.lapse
    return {
        "battery": np.log2(np.maximum(1.0, needed / max(supplies.energy_wh, 1e-6))),
        "heat": np.log2(np.maximum(1.0, at.brief.take.length_s / 60.0 / np.maximum(minutes, 1e-6))),
        "early_start": every
        + np.array(
            [(0.02 if habit.pre_record_s else 0.6) if sudden else 0.1 * (habit.pre_record_s > 0) for habit in habits]
        ),
        "screen": every
        + np.array([{"off": 0.02 if unseen else 0.5, "back": 0.0, "both": 0.1}[habit.screen] for habit in habits]),
        "positioning": every + np.array([0.1 * (habit.positioning == "on") for habit in habits]),
    }


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
    ev100: Band,
    sheet: CameraSheet,
    asked: Asked,
    nd_stops: Floats,
    density_stops: Floats,
    log2_floor: Floats,
    log2_ceiling: Floats,
) -> Items:
    """Price what the light finds between floor and ceiling.

    ev100: light at both ends; asked: what the camera asks for; nd_stops: of all glass; density_stops: of its neutral part, which is
    there to take light, as a colour filter is not; log2_*: ISO as logarithm; broadcastable.
    Returns stops of that shape.
    """
    low, high = ev100
    hundred = np.log2(100.0)
    used_dim = np.clip(asked.iso_dim, log2_floor, log2_ceiling)
    used_bright = np.clip(asked.iso_bright, log2_floor, log2_ceiling)
    base = np.log2(float(min(sheet.iso.floors)))
    return {
        "over": np.maximum(0.0, high + used_bright - hundred - nd_stops - asked.camera_ev_bright),
        "under": np.maximum(0.0, asked.camera_ev_dim + nd_stops + hundred - low - used_dim),
        "gain_behind_glass": np.minimum(density_stops, log2_ceiling - base),
        "spare_gain": np.maximum(0.0, log2_ceiling - used_dim),
        "raised_floor": log2_floor - base,
        "unlocked": np.minimum(1.0, log2_ceiling - log2_floor),
    }


def compensation_costs(sheet: CameraSheet, compensation: Floats) -> Items:
    """Price a compensation that leaves the meter's habit uncorrected. Returns stops."""
    return {"metering": np.abs(compensation + sheet.metering_bias_stops)}


def glass_costs(at: Situation, glasses: Sequence[Glass]) -> Items:
    """Price what stands in front of the lens: a tenth for each piece, a stack more, and the colour left over.

    glasses: G of them. Returns stops, (G,) each.
    """
    pieces = np.array([float(glass.pieces) for glass in glasses])
    cased = np.array([float(glass.housing is not None) for glass in glasses])
    return {
        "glass": 0.1 * pieces + 1.0 * np.maximum(0.0, pieces - 1.0) + 0.02 * cased,
        "cast": np.array([cast_stops(at, glass) for glass in glasses]),
    }


def cast_stops(at: Situation, glass: Glass) -> float:
    """How far colours stand off behind a filter, beyond what a balance mends for nothing.

    A balance turns red against blue; green against both it leaves. Averaged over both ends of the light.
    Returns stops.
    """
    if at.light.deepest_m is None and not glass.colour:
        return 0.0
    off, wasted = [], 0.0
    for bands, red_left in zip(at.light.colour_stops, at.light.red_left, strict=True):
        # A filter holds the others back for the red to catch up; deep down there is no red to wait for.
        works = float(np.clip(np.log2(red_left / at.limits["red_useless_share"]) / 2.0, 0.0, 1.0))
        red, green, blue = (band - works * taken for band, taken in zip(bands, glass.band_stops, strict=True))
        # Past some point red is noise, and a filter that leaves less of the rest mends nothing.
        red = max(red, green - at.limits["cast_most_stops"])
        wasted += 0.25 * (1.0 - works) * glass.colour_stops
        tint = max(0.0, abs(green - (red + blue) / 2.0) - at.limits["tint_allowed_stops"])
        off.append(tint + 0.5 * max(0.0, abs(red - blue) - at.limits["balance_reach_stops"]))
    # Light that lamps bring white and near needs no filter, and is dearly bought.
    if at.light.lamp_share >= 0.5:
        wasted = 0.5 * at.light.lamp_share * glass.colour_stops
    return sum(off) / len(off) + wasted


def look_costs(at: Situation, space: Space, looks: Sequence[Look], pictures: Pictures) -> Items:
    """Price colour and recording.

    space: of the camera; looks: L of them; pictures: P of them. Returns stops, (P, L).
    """
    sheet = space.sheet
    width, height = pictures.width_px[:, None], pictures.height_px[:, None]
    rate = pictures.rate[:, None]
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
    every = np.zeros((len(pictures), len(looks)))
    drives = np.array([[look.codec.id in mode.drive_codecs for look in looks] for mode in sheet.modes], dtype=float)
    return {
        "latitude": every + np.maximum(0.0, at.range_wanted_stops - holds),
        "finish": every + (0.0 if at.graded else unfinished),
        "lifted_shadows": every + lifted,
        "tones": every + tones,
        "bits": np.maximum(0.0, np.log2(wanted_bits / per_pixel)),
        "storage": every + np.log2(bits / min(rate_ for codec in sheet.codecs for rate_ in codec.bit_rates_mb_s)),
        "editing": every + (too_large + 0.2 * slow_codec if phone else 0.0),
        "range_mode": every + wide * ghosts,
        "card": np.log2(np.maximum(1.0, recorded_gb(at, bits, pictures) / max(space.supplies.capacity_gb, 1e-6)))
        if space.supplies.has_card
        else every,
        "drive": drives[pictures.mode],
    }


def recorded_gb(at: Situation, bit_rate_mb_s: Floats, pictures: Pictures) -> Floats:
    """Size of all takes. bit_rate_mb_s: (L,); pictures: P of them. Returns gigabytes, (P, L)."""
    seconds = np.full(len(pictures), at.brief.running_s)
    at_intervals = ~np.isnan(pictures.interval_s)
    frames = frames_of(at.brief.running_s, np.where(at_intervals, pictures.interval_s, 1.0))
    seconds = np.where(at_intervals, screen_s(frames, pictures.rate), seconds)
    return np.asarray(gigabytes(bit_rate_mb_s, seconds[:, None]))


def balance_costs(at: Situation, balances: Sequence[Balance]) -> Items:
    """Price white balances. balances: kelvin, None for automatic, "raw". Returns stops, one each."""
    locked = at.brief.school.white_balance == "locked"
    warm, cool = at.light.balance_k
    # Where depth changes the colour, a lock is left behind and automatic follows.
    follows = min(1.0, 0.5 * at.light.drift_stops)
    stops = []
    for kelvin in balances:
        if kelvin == "raw":
            stops.append(0.3 if at.graded else 1.0)
            continue
        if kelvin is None:
            stops.append((0.8 - min(0.7, follows)) if locked else 0.0)
            continue
        nearest = min(max(float(kelvin), warm), cool)
        off = abs(1e6 / float(kelvin) - 1e6 / nearest) / MIREDS_IN_A_STOP
        middle = abs(1e6 / float(kelvin) - 2e6 / (warm + cool)) / MIREDS_IN_A_STOP
        stops.append(off + 0.05 * middle + (0.0 if locked else 0.4) + 0.3 * follows)
    return {"balance": np.array(stops)}


_SHARPENING = {True: {"low": 0.0, "medium": 0.3, "high": 1.0}, False: {"low": 0.3, "medium": 0.0, "high": 0.6}}


def sharpness_costs(at: Situation, levels: Sequence[str]) -> Items:
    """Price sharpening in the camera. levels: low, medium, high. Returns stops, one each."""
    return {"sharpening": np.array([_SHARPENING[at.graded][level] for level in levels])}


def is_heard(at: Situation) -> bool:
    """Whether the sound of a shot is of use: wanted, in the dry, at speed, and not beside propellers."""
    return at.brief.sound.wanted and not at.mount.flying and at.light.deepest_m is None and not at.lapse


def wind_costs(at: Situation, settings: Sequence[str]) -> Items:
    """Price wind reduction: what the wind (or the ride's own) roars, and what mono loses. Returns stops."""
    sound = at.brief.sound
    wind = max(sound.wind_m_s, at.brief.camera_move.travel_m_s)
    heard = is_heard(at)
    roar = min(2.0, max(0.0, float(np.log2(max(wind, 1e-9) / 5.0)))) if heard else 0.0
    price = {"off": roar, "automatic": 0.05 + 0.2 * roar, "on": 0.2 if heard else 0.1}
    return {"wind": np.array([price[setting] for setting in settings])}


def track_costs(at: Situation, settings: Sequence[str]) -> Items:
    """Price a sound track of its own: only where the sound is used and edited. Returns stops, one each."""
    edited = is_heard(at) and at.graded and at.brief.delivery.edit_device == "desktop"
    price = {"off": 0.1 if edited else 0.0, "on": 0.02 if edited else 0.1}
    return {"sound_track": np.array([price[setting] for setting in settings])}
