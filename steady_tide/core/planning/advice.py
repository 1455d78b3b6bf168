"""Warnings (what will go wrong) and cautions (what can hurt someone): when each applies, and its quantities."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from math import isfinite, sqrt
from typing import Any, Literal

import numpy as np

from steady_tide.core.brief.brief import Brief
from steady_tide.core.gear.attachments import before_lens
from steady_tide.core.gear.items import Chemistry, Housing, KitLamp, Mount
from steady_tide.core.light.flicker import ripple_left, ripple_stops, worst_ripple_stops
from steady_tide.core.light.pictures import lamp_factor
from steady_tide.core.light.roles import on_subject, ratios
from steady_tide.core.light.sources import Lamp, SkyLight, WaterLight
from steady_tide.core.physics.endurance import cold_factor, hours_of
from steady_tide.core.physics.motion import lean_deg
from steady_tide.core.planning.camera_problem import too_near
from steady_tide.core.planning.geometry import geometry_of
from steady_tide.core.planning.items.framing import pan_allowed_deg_s
from steady_tide.core.planning.ledger import light_missing_stops
from steady_tide.core.planning.plan import Caution, Endurance, Warning
from steady_tide.core.planning.priced_choice import Priced
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.space import Space
from steady_tide.core.quantities.stops import camera_ev, lux_from_ev100

Severity = Literal["stop", "warn", "note"]
GRAVEST_FIRST: tuple[Severity, ...] = ("stop", "warn", "note")


@dataclass(frozen=True)
class PlanFacts:
    """All that warnings are made from."""

    at: Situation
    space: Space
    plan: Priced
    endurance: Endurance
    chemistries: dict[str, Chemistry]
    housing: str | None
    housings: tuple[Housing, ...]
    kit_lamps: tuple[KitLamp, ...]

    @property
    def steadied(self) -> bool:
        """Whether the camera steadies the picture."""
        return bool(self.space.pictures.steadied[self.plan.choice["pictures"]])

    @cached_property
    def own_lamps(self) -> tuple[Lamp, ...]:
        """Lamps that the crew may turn down, and that light what is exposed for."""
        return tuple(lamp for lamp in on_subject(self.at.light.lamps) if self.is_ours(lamp))

    @property
    def movable(self) -> tuple[Lamp, ...]:
        """Those of them on land, which the crew may move as well."""
        return self.own_lamps if self.at.light.deepest_m is None else ()

    @property
    def own_share(self) -> float:
        """Share of the light at the bright end that those lamps give."""
        light = self.at.light
        return self.movable_share if light.deepest_m is None else light.lamp_share

    def burns_stops(self, times: float) -> float:
        """By how much the bright end passes what it may, at base gain, once the crew's lamps are some times as strong."""
        at, space, plan = self.at, self.space, self.plan
        lens, f_number, _ = space.gates[plan.choice["gates"]]
        taken = space.glasses[plan.choice["glasses"]].stops + float(space.lost_stops[lens])
        base = float(np.log2(min(space.sheet.iso.floors) / 100.0))
        bright = at.light.ev100[1] + base - taken - float(camera_ev(f_number, plan.shutter_bright_s))
        return bright + float(np.log2(1.0 + self.movable_share * (times - 1.0))) - at.over_held_stops

    def is_ours(self, lamp: Lamp) -> bool:
        """Whether a lamp is the crew's: as said, else at a lit table, under water, and where the kit has such a one."""
        if lamp.ours is not None:
            return lamp.ours
        share = self.at.limits.same_lamp_share
        brought = self.at.owns_light or self.at.light.deepest_m is not None
        return brought or any(one.is_like(lamp.lux_at_1m, lamp.kelvin, share) for one in self.kit_lamps)

    @property
    def movable_share(self) -> float:
        """Share of the light at the bright end that those lamps give."""
        return sum(lamp.lux for lamp in self.movable) / float(lux_from_ev100(self.at.light.ev100[1]))

    @property
    def is_short(self) -> bool:
        """Whether something that more light would mend is past its limit: darkness, noise, the exposure that is wanted."""
        stops, told = self.plan.stops, self.at.limits.told_stops
        frozen = self.at.brief.subject.motion_look == "frozen"
        return frozen or any(stops[item] >= told for item in ("under", "noise", "motion_look", "smear"))

    @property
    def lacking_stops(self) -> float:
        """Light that the dim end lacks at base gain."""
        return max(0.0, light_missing_stops(self.at, self.space, self.plan))


def warnings(told: PlanFacts) -> Iterator[Warning]:
    """What will go wrong with a plan, the gravest first. told: the plan with its numbers. Yields warnings."""
    found = [
        *_stops(told),
        *_exposure(told),
        *_lamps(told),
        *_ways(told),
        *_steadiness(told),
        *_time(told),
        *_water(told),
        *_table(told),
        *_supplies(told),
    ]
    yield from sorted(found, key=lambda warning: GRAVEST_FIRST.index(warning.severity))


def _say(severity: Severity, code: str, **facts: Any) -> Warning:
    return Warning(code=code, severity=severity, facts=facts)


def _stops(told: PlanFacts) -> Iterator[Warning]:
    space, wet = told.space, told.at.wet
    sheet, supplies = space.sheet, space.supplies
    if wet is not None and space.too_deep:
        case = max((h for h in told.housings if sheet.id in h.fits), key=lambda h: h.proof_depth_m, default=None)
        yield _say(
            "stop",
            "housing_missing" if wet.under else "not_proof",
            camera=sheet.name,
            proof_m=sheet.proof_depth_m if case is None else case.proof_depth_m,
            deepest_m=wet.deepest_m,
            safe_m=wet.deepest_m / wet.used_share,
            housing=None if case is None else case.name,
        )
    if too_near(told.at, space):
        lens = space.sheet.lenses[space.pictures.lens[told.plan.choice["pictures"]]]
        yield _say("stop", "too_near", from_m=told.at.brief.subject.distance_m[0], closest_m=lens.closest_m)
    if space.card_too_slow:
        slowest = min(look.bit_rate_mb_s for look in space.looks)
        yield _say(
            "stop",
            "card_too_slow",
            least_mb_s=slowest,
            wanted_mb_s=slowest * supplies.card_margin,
            fastest_mb_s=supplies.fastest_mb_s,
        )
    if not supplies.has_card:
        yield _say("stop", "card_missing", least_mb_s=sheet.card_min_mb_s or 0.0)


def _exposure(told: PlanFacts) -> Iterator[Warning]:
    at, space, plan = told.at, told.space, told.plan
    over, under, noticed = plan.stops["over"], plan.stops["under"], told.at.limits.noticed_stops
    # Where gain stands in for missing light, less light is no mend for what is over.
    if over >= noticed and not (at.light.lamps and told.lacking_stops >= 1.0):
        takes_glass = bool(space.sheet.filter_mount.fits) and at.light.deepest_m is None
        mend = _lamp_less(told, over) if told.own_lamps else {"mend": "glass" if takes_glass else "none"}
        yield _say("warn", "highlights_lost", over_stops=over, **mend)
    # Between its bright moments light that jumps may be dark; the note about it says so.
    meant = at.band_stops if at.sudden else 0.0
    if under - meant >= (noticed if at.dark or at.light.lamps else told.at.limits.noticed_by_day_stops):
        if told.movable:
            yield _say("warn", "light_missing", under_stops=under, **_lamp_mend(told))
        else:
            yield _say("warn", "too_dark", under_stops=under, mend=_dark_mend(at))
    elif told.movable and told.is_short and told.lacking_stops >= told.at.limits.told_stops:
        yield _say("note", "light_at_base", **_lamp_mend(told))
    if plan.stops["noise"] >= told.at.limits.told_stops:
        yield _say("warn", "noisy", snr=plan.snr_dim, limit=at.snr_limit(plan.shutter_dim_s))
    if len(space.glasses[plan.choice["glasses"]].ids) > 1:
        yield _say("note", "stacked_glass")
    if at.band_stops >= told.at.limits.wide_band_stops and not at.lapse and not at.sudden:
        yield _say("note", "wide_band")
    if at.sudden:
        yield _say("note", "sudden_light")
    holds = space.holds_stops(space.looks[plan.choice["looks"]])
    if at.contrast_stops - holds >= told.at.limits.contrast_told_stops:
        yield _say("warn", "contrast_beyond", contrast_stops=at.contrast_stops, holds_stops=holds)
    if at.brief.glare and not space.glasses[plan.choice["glasses"]].polarises:
        yield _say("note", "glare_stays")
    if at.brief.air_c <= told.at.limits.frost_c and at.light.ev100[1] >= told.at.limits.bright_ground_ev:
        yield _say("note", "bright_ground")


def _ways(told: PlanFacts) -> Iterator[Warning]:
    """What follows from the recorder, from what is before the lens, from the microphone, from filming oneself."""
    at, space, plan = told.at, told.space, told.plan
    picture = plan.choice["pictures"]
    sheet = space.sheet
    if not space.offer.by_hand[picture]:
        yield _say("note", "own_recorder")
    if before_lens(sheet.lenses[int(space.pictures.lens[picture])].id):
        yield _say("note", "attached")
    if plan.stops["voice"] >= told.at.limits.noticed_stops:
        yield _say("warn", "voice_far", stops=plan.stops["voice"], reach_m=told.at.limits.built_in_reach_m)
    if at.brief.camera_move.self_framed and plan.stops["self_view"] > 0.0:
        yield _say("note", "frame_unseen")
    microphone = space.sounds[plan.choice["sounds"]].microphone
    held_m_s = at.limits.fresh_wind_m_s if microphone is None else microphone.wind_held_m_s
    reduced = microphone is None and space.sounds[plan.choice["sounds"]].wind_reduction != "off"
    if not reduced and at.roar_stops(held_m_s) >= at.limits.noticed_stops:
        name = None if microphone is None else microphone.name
        yield _say("warn", "wind_roars", wind_m_s=at.wind_m_s, held_m_s=held_m_s, microphone=name)
    still_mb = float(space.pictures.still_mb[picture])
    if still_mb == still_mb:
        yield _say("note", "stills", still_mb=still_mb, recorded_gb=told.endurance.recorded_gb)


def _dark_mend(at: Situation) -> str:
    """What helps where it is too dark: never light for stars or for what is far, never an edit where none is planned."""
    lamp_helps = at.dark and not at.light.night_sky and at.brief.subject.distance_m[0] <= at.limits.lamp_helps_m
    if lamp_helps:
        return "light"
    return "edit" if at.graded else "dark"


def _lamps(told: PlanFacts) -> Iterator[Warning]:
    at, plan = told.at, told.plan
    flicker = plan.stops["flicker"]
    if flicker >= told.at.limits.told_flicker_stops:
        yield _say("warn", "flicker", flicker_stops=flicker, mains_hz=at.brief.mains_hz)
    elif flicker > 0.0 and _worst_ripple_stops(told) > told.at.limits.told_ripple_stops:
        yield _say("note", "flicker", flicker_stops=_worst_ripple_stops(told), mains_hz=at.brief.mains_hz)
    elif at.light.lamps:
        left = float(ripple_stops(ripple_left(at.light.ripple, plan.shutter_dim_s, at.brief.mains_hz)))
        yield _say("note", "flicker_clean", pulses=at.light.ripple > 0, shutter_s=plan.shutter_dim_s, left_stops=left)

    if at.light.deepest_m is None:
        for ratio in ratios(at.light.lamps, at.limits):
            off, lamp = ratio.off_stops, at.light.lamps[ratio.number - 1]
            if abs(off) >= told.at.limits.told_ratio_stops and told.is_ours(lamp):
                yield _say(
                    "note",
                    "lamp_ratio",
                    role=ratio.role,
                    stops=ratio.stops,
                    wanted=list(ratio.wanted),
                    from_m=lamp.distance_m,
                    to_m=lamp.distance_m * 2.0 ** (off / 2.0),
                )
    if at.light.mixed_mireds >= told.at.limits.mixed_mireds:
        yield _say("warn", "mixed_light", kelvins=sorted({lamp.kelvin for lamp in at.light.lamps}))


def _worst_ripple_stops(told: PlanFacts) -> float:
    """What the exposures leave of the lamps' ripple, at the worse end of the light. Returns stops."""
    plan, at = told.plan, told.at
    times = (plan.shutter_dim_s, plan.shutter_bright_s)
    return float(worst_ripple_stops(at.light.ripple, times, at.brief.mains_hz))


def _lamp_less(told: PlanFacts, stops: float) -> dict[str, Any]:
    """How far or how low the crew's lamps must be for some stops less. Returns quantities."""
    nearest = min(lamp.distance_m for lamp in told.own_lamps)
    factor = lamp_factor(told.own_share, -stops)
    if factor is None:
        return {"mend": "lamps_off"}
    return {"mend": "lamps", "output_share": factor, "from_m": nearest, "to_m": nearest / sqrt(factor)}


def _lamp_mend(told: PlanFacts) -> dict[str, Any]:
    """How near or how strong the crew's lamps must be for the light that is missing. Returns quantities."""
    wanted = lamp_factor(told.movable_share, told.lacking_stops) or 1.0
    nearest = min(lamp.distance_m for lamp in told.movable)
    spare = min(lamp.output for lamp in told.movable)
    burns = told.burns_stops(wanted)
    return {
        "burns_stops": burns if burns >= told.at.limits.told_stops else 0.0,
        "missing_stops": told.lacking_stops,
        "times": wanted,
        "turn_up": spare * wanted <= 1.0,
        "from_m": nearest,
        "to_m": nearest / sqrt(wanted),
    }


def _steadiness(told: PlanFacts) -> Iterator[Warning]:
    at, plan, stops = told.at, told.plan, told.plan.stops
    noticed = told.at.limits.noticed_stops
    if at.dark and told.steadied and stops["smear"] >= noticed:
        yield _say("warn", "pulsing_smear", smear_px=plan.smear_px, shutter_s=plan.shutter_dim_s)
    left_to_hands = at.carried and at.weights["shake"] < 1
    if not told.steadied and left_to_hands and stops["shake"] >= noticed:
        yield _say("warn", "steady_the_camera")
    elif stops["shake"] >= noticed:
        yield _say("warn", "unsteady", shake_stops=stops["shake"])
    if stops["detail"] >= told.at.limits.told_stops:
        yield _say("note", "soft", left_px=plan.usable_w_px, wanted_px=at.brief.delivery.width)
    if not at.dark and stops["smear"] >= told.at.limits.smear_told_stops:
        yield _say("note", "smear_by_day", smear_px=plan.smear_px, shutter_s=plan.shutter_dim_s)
    if stops["softness"] >= noticed:
        yield _say("note", "soft_focus", softness_stops=stops["softness"])


def _time(told: PlanFacts) -> Iterator[Warning]:
    at, plan, stops, lasts = told.at, told.plan, told.plan.stops, told.endurance
    light, delivery = at.brief.light, at.brief.delivery
    if at.lapse and isinstance(light, SkyLight):
        given_s, films_s = (light.end - light.start).total_seconds(), at.brief.take.length_s
        if films_s > told.at.limits.light_span_share * given_s + 60.0:
            yield _say("warn", "light_span", given_h=given_s / 3600.0, film_h=films_s / 3600.0)
    if stops["slow_motion"] >= told.at.limits.told_slow_stops:
        yield _say("warn", "too_few_frames", wanted_fps=at.shown_fps)
    move = at.brief.camera_move
    if stops["pan"] >= told.at.limits.pan_told_stops:
        allowed = float(pan_allowed_deg_s(at, np.array(plan.field_deg)))
        yield _say("warn", "pan_too_fast", turn_deg_s=move.turn_deg_s, allowed_deg_s=allowed)
    skew_deg = _lean_deg(told)
    if skew_deg >= told.at.limits.skew_told_deg:
        yield _say("note", "skew", skew_deg=skew_deg, turn_deg_s=move.turn_deg_s)
    if at.lapse and at.carried:
        yield _say("note", "thin_later", every=max(2, round(at.brief.camera_move.travel_m_s * delivery.fps)))
    if stops["cadence"] > 0:
        yield _say("note", "uneven_cadence", timeline_fps=delivery.fps)
    if lasts.frames is not None and lasts.screen_s is not None:
        yield _say(
            "note",
            "interval_film",
            frames=lasts.frames,
            screen_s=lasts.screen_s,
            timeline_fps=delivery.fps,
            drift_px=lasts.star_drift_px,
        )


def _lean_deg(told: PlanFacts) -> float:
    """By how much upright lines lean in the delivered picture while the camera turns. Returns degrees."""
    space, picture, delivery = told.space, told.plan.choice["pictures"], told.at.brief.delivery
    sensor = space.sheet.lenses[int(space.pictures.lens[picture])].sensor
    seen = geometry_of(space.offer, delivery.width, delivery.height, space.flat_port)
    high = delivery.width * delivery.height / seen.wide_px
    # Only the rows of the picture count, of all that the sensor reads.
    rows = sqrt(float(seen.photosites[picture]) / float(space.pictures.sampling[picture]) * high / seen.wide_px)
    readout_s = sensor.readout_ms / 1000.0 * min(1.0, rows / sensor.height_px)
    return lean_deg(told.at.brief.camera_move.turn_deg_s, readout_s, high / float(seen.px_per_deg[picture]))


def _water(told: PlanFacts) -> Iterator[Warning]:
    light, sheet = told.at.light, told.space.sheet
    if light.deepest_m is None:
        return
    if told.housing and sheet.proof_depth_m < light.deepest_m and not told.space.too_deep:
        yield _say(
            "warn", "housing_needed", housing=told.housing, proof_m=sheet.proof_depth_m, deepest_m=light.deepest_m
        )
    reached = light.red_gone_m is not None and light.deepest_m >= light.red_gone_m
    if reached and light.lamp_share < told.at.limits.lamps_lead_share:
        yield _say("note", "red_gone", depth_m=light.red_gone_m)
    cast = told.plan.stops["cast"]
    if light.lamp_reach_m is not None:
        lit = max(lamp.farthest_m for lamp in light.lamps)
        yield _say("note", "lamp_reach", reach_m=light.lamp_reach_m, beyond=lit > light.lamp_reach_m)
        yield _say("note", "backscatter")
        stops_apart = max(float(2.0 * np.log2(lamp.farthest_m / lamp.distance_m)) for lamp in light.lamps)
        if stops_apart >= told.at.limits.lamps_apart_stops:
            yield _say("note", "lamps_dim_near", apart_stops=stops_apart)
    elif cast >= told.at.limits.told_cast_stops:
        yield _say("note", "colour_cast", cast_stops=cast)


def _table(told: PlanFacts) -> Iterator[Warning]:
    subject = told.at.brief.subject
    if subject.motion_look == "frozen" and subject.speed_m_s == 0:
        yield _say("note", "speed_unknown", stands_in_s=told.at.limits.frozen_unknown_s)

    if told.at.brief.traits.on_table and subject.ground == "black":
        yield _say("note", "black_ground", fooled_stops=told.at.limits.black_ground_stops)
    if told.at.brief.traits.on_table and subject.surface == "shiny":
        yield _say("note", "reflections")


def _supplies(told: PlanFacts) -> Iterator[Warning]:
    at, space, lasts = told.at, told.space, told.endurance
    power, supplies, stops = space.sheet.power, space.supplies, told.plan.stops
    take_h = at.brief.take.length_s / 3600.0
    charge_h, wanted_h = lasts.hours_per_charge, at.brief.running_s / 3600.0
    charge_wh = float(supplies.charge_wh(lasts.needed_wh))
    on_one_charge = lasts.needed_wh <= charge_wh
    cold = at.brief.air_c <= told.at.limits.cold_c
    if at.lapse and not on_one_charge:
        lacks_wh = lasts.needed_wh - charge_wh
        fed = supplies.bank_wh >= lacks_wh * told.at.limits.battery_margin
        yield _say(
            "note" if fed else "warn",
            "outside_power",
            charge_h=charge_h,
            wanted_h=wanted_h,
            bank_wh=lacks_wh / told.at.limits.bank_efficiency,
            needed_wh=lasts.needed_wh,
            have_wh=supplies.bank_wh,
            suffices=fed,
        )
    elif _ends_early(told):
        can = power.runs_on_bank and at.wet is None
        yield _say(
            "warn",
            "charge_ends_take",
            charge_h=charge_h,
            take_h=take_h,
            can_be_fed=can,
            cells=_cells(told) if cold else None,
        )
    elif lasts.needed_wh > lasts.available_wh:
        yield _say("warn", "battery_short", needed_wh=lasts.needed_wh, have_wh=lasts.available_wh, cells=_cells(told))
    elif lasts.needed_wh * told.at.limits.battery_margin > lasts.available_wh:
        yield _say("note", "battery_close", needed_wh=lasts.needed_wh, have_wh=lasts.available_wh, cells=_cells(told))
    elif cold or not on_one_charge:
        yield _say("note", "battery", charge_h=charge_h, wanted_h=wanted_h, cells=_cells(told) if cold else None)
    if stops["heat"] > 0 and lasts.minutes_to_heat is not None and isfinite(lasts.minutes_to_heat):
        yield _say("warn", "heat", minutes=lasts.minutes_to_heat)
    limit = space.sheet.clip_limit_min
    if limit is not None and at.brief.take.length_s > 60 * limit and not at.lapse:
        yield _say("note", "clip_splits", minutes=limit)
    take_gb = lasts.recorded_gb * at.brief.take.length_s / at.brief.running_s
    if supplies.has_card and take_gb > supplies.largest_gb:
        yield _say("warn", "take_over_card", take_gb=take_gb, largest_gb=supplies.largest_gb)
    if stops["card"] > 0:
        yield _say("warn", "card_small", recorded_gb=lasts.recorded_gb, fits_gb=supplies.capacity_gb)
    if stops["drive"] > 0:
        yield _say("warn", "drive_needed")
    if power.reserve_share:
        yield _say("note", "way_home", reserve_share=power.reserve_share, charge_h=charge_h)


def _ends_early(told: PlanFacts) -> bool:
    """Whether a take is longer than a charge, and nothing feeds the camera meanwhile: spare cells do not help."""
    fed = told.space.supplies.bank_wh > 0.0
    return not fed and told.at.brief.take.length_s / 3600.0 > told.endurance.hours_per_charge


def _cells(told: PlanFacts) -> dict[str, Any]:
    """What the cold does to the cells, and what others would do. Returns quantities."""
    at, power, lasts = told.at, told.space.sheet.power, told.endurance
    if lasts.cold_factor > told.at.limits.cold_seen_share:
        return {"case": "flying" if at.mount.flying else "warm"}
    best = max(told.chemistries.values(), key=lambda kind: cold_factor(lasts.cells_c, kind.left))
    hours = float(hours_of(power.battery_wh * cold_factor(lasts.cells_c, best.left), lasts.power_w))
    return {
        "case": "cold",
        "air_c": at.brief.air_c,
        "cells_c": lasts.cells_c,
        "left_share": lasts.cold_factor,
        "best": best.name,
        "best_h": hours,
    }


def cautions(
    brief: Brief, mount: Mount, dark: bool, night: bool, indoors: bool, fast_m_s: float, frost_c: float
) -> Iterator[Caution]:
    """What can hurt someone, by scenario and mount; the words defer to training, local rules and licensed practice.

    brief: what will be filmed; mount: how the camera is held; dark: whether it is dark; night: whether
    no day lights the water; indoors: whether there is a floor underfoot; fast_m_s: from which speed on
    a screen must not be looked at; frost_c: from which air on hands and cells suffer. Yields cautions.
    """
    if isinstance(brief.light, WaterLight):
        yield Caution(topic="diving")
        yield Caution(topic="seals")
        if night:
            yield Caution(topic="night_dive")
    elif brief.wet:
        yield Caution(topic="wet")
    if mount.point_of_view and not mount.flying:
        yield Caution(topic="mounts")
    if mount.flying:
        yield Caution(topic="flying")
    if brief.light.kind == "lamps":
        yield Caution(topic="lamps")
    outside = not (indoors or mount.inside or brief.traits.on_table)
    if dark and outside:
        yield Caution(topic="dark")
    elif brief.traits.interval and outside and brief.light.kind != "lamps":
        yield Caution(topic="waiting")
    if brief.air_c <= frost_c:
        yield Caution(topic="cold")
    if mount.vehicle:
        yield Caution(topic="driving")
        if not mount.inside:
            yield Caution(topic="suction")
    elif brief.traits.fast and brief.camera_move.travel_m_s > fast_m_s and not mount.flying:
        yield Caution(topic="speed")
    if mount.on_foot and not dark and outside:
        yield Caution(topic="footing")
