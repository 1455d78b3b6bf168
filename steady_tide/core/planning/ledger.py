"""The price of one combination, item by item: the same costs as in the search, for a single candidate."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from steady_tide.core.physics.noise import averaging_gain
from steady_tide.core.planning.geometry import Geometry, geometry_of
from steady_tide.core.planning.interval_film import frames_of, screen_s
from steady_tide.core.planning.items import views
from steady_tide.core.planning.items.cast import balance_behind_k
from steady_tide.core.planning.judgement import Stops
from steady_tide.core.planning.metering import exposure_times, meter
from steady_tide.core.planning.precomputed import Precomputed
from steady_tide.core.planning.priced_choice import Choice, Priced
from steady_tide.core.planning.quantities import bits_a_pixel, noise_shortfall, recorded_gb
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.space import Floats, Pictures, Space
from steady_tide.core.quantities.stops import camera_ev

# The order in which items are named, by scope; dials that stand alone between them.
_BEFORE = (
    views.PICTURE, views.GATE, views.FRAME, views.SPOT, views.EXPOSURE, views.NOISE, views.METER, views.FRONT,
    views.SOUND, views.BALANCE,
)  # fmt: skip
_AFTER = (views.LOOK, views.HABIT, views.FOCUS)


def light_missing_stops(at: Situation, space: Space, priced: Priced) -> float:
    """Light that the dim end lacks at base gain, or, as a negative number, that the bright end has too much.

    at: the situation; space: of the camera; priced: the plan. Returns stops.
    """
    floor, _ = space.iso_pairs[priced.choice["iso_pairs"]]
    gained = float(np.log2(max(priced.iso_dim, floor) / min(space.sheet.iso.floors)))
    lacking = priced.stops["under"] + gained
    return lacking if lacking > at.limits.seen_stops else -priced.stops["over"]


def price(at: Situation, space: Space, choice: Choice, precomputed: Precomputed | None = None) -> Priced:
    """Price one combination. at: what is asked; space: of the camera; choice: it; precomputed: as in `price_all`. Returns stops by
    item."""
    return price_all(at, space, [choice], precomputed)[0]


def price_all(
    at: Situation, space: Space, choices: Sequence[Choice], precomputed: Precomputed | None = None
) -> list[Priced]:
    """Price some combinations at once.

    at: what is asked; space: of the camera; choices: N of them; precomputed: the same camera laid out for the same brief, with
    all their pictures: what stands by itself is read from there instead of worked out once more. Returns stops by item
    for each.
    """
    if not choices:
        return []
    sheet, judgement = space.sheet, at.judgement
    places = np.array([c["pictures"] for c in choices], dtype=np.intp)
    pictures = space.pictures.take(places)
    delivery = at.brief.delivery
    seen = geometry_of(space.offer, delivery.width, delivery.height, space.flat_port).take(places)
    gates = [c["gates"] for c in choices]
    f_number, fixed_s = space.offer.gate_f_number[gates], space.offer.gate_s[gates]
    glasses = [space.glasses[c["glasses"]] for c in choices]
    nd_stops = np.array([glass.stops for glass in glasses]) + space.lost_stops[pictures.lens]
    density_stops = np.array([glass.density_stops for glass in glasses])
    floor, ceiling = np.log2(np.array([space.iso_pairs[c["iso_pairs"]] for c in choices], dtype=float)).T
    compensation = np.array([space.compensations[c["compensations"]] for c in choices])
    looks = [space.looks[c["looks"]] for c in choices]
    habits = [space.habits[c["habits"]] for c in choices]
    longest_s = np.array([space.paces[pace].automatic_s for pace in pictures.pace])
    exposures = exposure_times(at.light.ev100, sheet, f_number, fixed_s, nd_stops, longest_s)
    bias = at.meter_bias_stops(sheet)
    asked = meter(at.light.ev100, sheet, f_number, fixed_s, nd_stops, compensation, longest_s, bias)
    exposed = views.ExposureView(at, at.light.ev100, sheet, asked, nd_stops, density_stops, floor, ceiling)
    noise_of, focus_deg, diffraction_deg, past_best = np.empty((4, len(choices)))
    for lens in np.unique(pictures.lens):
        mine = pictures.lens == lens
        noise_of[mine] = views.noise_of_iso(sheet.lenses[lens], exposed.used_dim[mine])
        openings = space.offer.openings_mm[gates][mine]
        focus_deg[mine], diffraction_deg[mine] = views.spots_deg(at, sheet.lenses[lens], openings, space.flat_port)
        past_best[mine] = views.past_best_stops(at, openings, space.offer.widest_mm[lens])
    noise_past = noise_of - at.noise_forgiven_stops(exposures.dim_s)
    gate = views.GateView(at, exposures, pictures.capture_hz)
    frame = views.FrameView(at, seen.px_per_deg, pictures.steadied, exposures.dim_s)
    of_look = views.LookView(at, space, looks, pictures)
    of_habit = views.HabitView(at, space, pictures, habits)
    joint = {
        views.GATE: gate,
        views.FRAME: frame,
        views.SPOT: views.SpotView(at, seen.px_per_deg, focus_deg, diffraction_deg, past_best),
        views.EXPOSURE: exposed,
        views.NOISE: views.NoiseView(noise_shortfall(at, seen.photosites, pictures.noise_gain), noise_past),
        views.METER: views.MeterView(at, sheet, compensation),
        views.FRONT: views.FrontView(at, glasses),
    }
    items = {name: stops for scope, view in joint.items() for name, stops in judgement.stops(scope, view).items()}
    items |= (
        _by_themselves(at, space, choices, pictures, seen, of_look, of_habit)
        if precomputed is None
        else precomputed.stops(choices)
    )
    slowest = np.where(np.isnan(fixed_s), longest_s, fixed_s)
    fastest = np.where(np.isnan(fixed_s), sheet.shutter.auto_fastest_s, fixed_s)
    names = [item.id for scope in (*_BEFORE, *judgement.alone, *_AFTER) for item in judgement.of_scope.get(scope, ())]
    every = [_for_each(items[name], len(choices)) for name in names]
    columns = (
        np.exp2(exposed.used_dim),
        np.exp2(exposed.used_bright),
        exposures.dim_s,
        exposures.bright_s,
        gate.wanted_s,
        np.exp2(-noise_of) * averaging_gain(seen.photosites, at.delivered_px) * pictures.noise_gain,
        frame.smear_px,
        seen.field_deg,
        seen.usable_w_px,
        np.diagonal(bits_a_pixel(of_look.bits, pictures)),
        camera_ev(f_number, slowest),
        camera_ev(f_number, fastest),
        np.diagonal(of_habit.draw_w),
        np.diagonal(of_habit.needed_wh),
        np.diagonal(recorded_gb(at, of_look.bits, pictures)),
        screen_s(frames_of(at.brief.take.length_s, pictures.interval_s), at.brief.delivery.fps),
        seen.px_per_deg,
    )
    return [
        Priced(
            choice=choice,
            stops=dict(zip(names, stops, strict=True)),
            iso_dim=iso_dim,
            iso_bright=iso_bright,
            shutter_dim_s=shutter_dim_s,
            shutter_bright_s=shutter_bright_s,
            wanted_shutter_s=wanted_s,
            snr_dim=snr,
            smear_px=smear,
            field_deg=field,
            usable_w_px=usable,
            bits_per_pixel=bits,
            reach_camera_ev=(low, high),
            power_w=power,
            needed_wh=needed,
            recorded_gb=size,
            screen_s=shown,
            px_per_deg=per_degree,
        )
        for (
            choice, stops, (
                iso_dim, iso_bright, shutter_dim_s, shutter_bright_s, wanted_s, snr, smear, field, usable, bits, low,
                high, power, needed, size, shown, per_degree,
            ),
        ) in zip(choices, zip(*every, strict=True), np.array(columns).T.tolist(), strict=True)
    ]  # fmt: skip


def _for_each(stops: Floats, count: int) -> list[float]:
    """Stops of each of some combinations; of all at once where they are alike. Returns count of them."""
    return stops.tolist() if stops.shape == (count,) else [stops.item()] * count


def _by_themselves(
    at: Situation,
    space: Space,
    choices: Sequence[Choice],
    pictures: Pictures,
    seen: Geometry,
    of_look: views.LookView,
    of_habit: views.HabitView,
) -> Stops:
    """What some combinations give up in all but exposure. Returns stops by item, (N,) each."""
    sheet, judgement = space.sheet, at.judgement
    lights = [balance_behind_k(at, space.glasses[c["glasses"]]) for c in choices]
    straight = {
        views.PICTURE: views.PictureView(at, space, pictures, seen),
        views.SOUND: views.SoundView(at, sheet, [space.sounds[c["sounds"]] for c in choices]),
        views.BALANCE: views.BalanceView(
            at, space.sheet.balance_k, [space.balances[c["balances"]] for c in choices], lights
        ),
        **{dial: views.AloneView(at, sheet, [space.alone[dial][c[dial]] for c in choices]) for dial in judgement.alone},
    }
    items = {name: stops for scope, view in straight.items() for name, stops in judgement.stops(scope, view).items()}
    # Those of one picture each: the square's diagonal.
    for scope, square in ((views.LOOK, of_look), (views.HABIT, of_habit)):
        items |= {name: np.diagonal(stops) for name, stops in judgement.stops(scope, square).items()}
    focus = [c["focuses"] for c in choices]
    of_focus = judgement.stops(views.FOCUS, views.FocusView.for_pictures(at, space, pictures, seen))
    return items | {name: stops[np.arange(len(choices)), focus] for name, stops in of_focus.items()}
