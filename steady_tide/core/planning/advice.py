"""Warnings (what will go wrong) and cautions (what can hurt someone): codes and texts in one place."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import isfinite, sqrt

from steady_tide.core import wording
from steady_tide.core.brief import Brief
from steady_tide.core.endurance import cold_factor, hours_of
from steady_tide.core.kit import Chemistry, Mount
from steady_tide.core.light.flicker import ripple_left, ripple_stops
from steady_tide.core.light.pictures import lamp_factor
from steady_tide.core.light.sources import SkyLight
from steady_tide.core.planning.ledger import Priced, light_missing_stops
from steady_tide.core.planning.plan import Caution, Endurance, Warning
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.space import Space
from steady_tide.core.planning.supplies import BANK_EFFICIENCY, CARD_MARGIN
from steady_tide.core.wording import NARROW

NOTICED_STOPS = 0.5
COLD_C = 5.0
WIDE_BAND_STOPS = 3.5


@dataclass(frozen=True)
class Told:
    """All that warnings are made from."""

    at: Situation
    space: Space
    plan: Priced
    endurance: Endurance
    chemistries: dict[str, Chemistry]
    housing: str | None

    @property
    def steadied(self) -> bool:
        """Whether the camera steadies the picture."""
        return bool(self.space.pictures.steadied[self.plan.choice.pictures])


def warnings(told: Told) -> Iterator[Warning]:
    """What will go wrong with a plan, the gravest first. told: the plan with its numbers. Yields warnings."""
    found = [
        *_stops(told),
        *_exposure(told),
        *_steadiness(told),
        *_time(told),
        *_water(told),
        *_table(told),
        *_supplies(told),
    ]
    order = {"stop": 0, "warn": 1, "note": 2}
    yield from sorted(found, key=lambda warning: order[warning.severity])


def _stop(code: str, text: str) -> Warning:
    return Warning(code=code, severity="stop", text=text)


def _warn(code: str, text: str) -> Warning:
    return Warning(code=code, severity="warn", text=text)


def _note(code: str, text: str) -> Warning:
    return Warning(code=code, severity="note", text=text)


def _stops(told: Told) -> Iterator[Warning]:
    space, deepest = told.space, told.at.light.deepest_m
    if deepest is not None and space.too_deep:
        proof = (
            f"is proof to {wording.metres(space.sheet.proof_depth_m)}" if space.sheet.proof_depth_m else "is not proof"
        )
        yield _stop(
            "housing_missing",
            f"Do not take it down. The {space.sheet.name} {proof}, and no housing in the kit goes to {wording.metres(deepest)}. "
            f"Take a housing rated for {wording.metres(deepest)} or more, or stay shallower.",
        )
    if space.card_too_slow:
        slowest = min(look.bit_rate_mb_s for look in space.looks)
        yield _stop(
            "card_too_slow",
            f"No card in the kit is fast enough. Even the lowest rate, {slowest:g}{NARROW}Mb/s, wants "
            f"{slowest * CARD_MARGIN:.0f}{NARROW}Mb/s held; the fastest card holds {space.supplies.fastest_mb_s:g}.",
        )
    if not space.supplies.has_card:
        yield _stop(
            "card_missing",
            f"There is no card in the kit. Take one that holds {space.sheet.card_min_mb_s or 0:g}{NARROW}Mb/s or more.",
        )


def _exposure(told: Told) -> Iterator[Warning]:
    at, space, plan = told.at, told.space, told.plan
    stops = plan.stops
    # Where gain stands in for missing light, less light is no mend for what is over.
    if stops["over"] >= NOTICED_STOPS and not (at.light.lamps and _lacking(told) >= 1.0):
        more = (
            f" {_lamp_less(at, stops['over'])}"
            if at.light.lamps and at.light.deepest_m is None
            else f" About {wording.stops(stops['over'])} stops more of ND would hold them."
            if space.sheet.filter_mount.fits and at.light.deepest_m is None
            else ""
        )
        yield _warn(
            "highlights_lost",
            f"Highlights will be lost. The brightest part is {wording.stops(stops['over'])} stops over.{more}",
        )
    if stops["under"] >= (NOTICED_STOPS if at.dark or at.light.lamps else 1.0):
        text = f"Dark at the dim end. It comes out {wording.stops(stops['under'])} stops under"
        if at.light.lamps and at.light.deepest_m is None:
            yield _warn("light_missing", f"{text}. {_lamp_mend(at, _lacking(told))}")
        else:
            mend = (
                "bring light, or go where light is." if at.dark else "lift it in the edit, or film the dim part apart."
            )
            yield _warn("too_dark", f"{text}; {mend}")
    elif at.light.lamps and at.light.deepest_m is None and _lacking(told) >= 0.3:
        yield _note("light_at_base", f"Gain stands in for light. {_lamp_mend(at, _lacking(told))}")
    if stops["noise"] >= 0.3:
        yield _warn(
            "noisy",
            f"Noise past your limit. Mid grey reaches {plan.snr_dim:.0f} to 1, and your school asks for {at.noise_limit_snr:.0f}.",
        )
    if stops["flicker"] >= 0.1:
        yield _warn(
            "flicker",
            f"Lamps will flicker by {wording.stops(stops['flicker'])} stops at {at.brief.mains_hz} Hz mains. Look for bands in a test take.",
        )
    elif at.light.lamps:
        left = float(ripple_stops(ripple_left(at.light.ripple, plan.shutter_dim_s, at.brief.mains_hz)))
        verdict = (
            "The lamps do not pulse, as far as their ripple is known."
            if at.light.ripple == 0
            else f"At {wording.seconds(plan.shutter_dim_s)} their ripple leaves {left:.2f} stops."
        )
        yield _note("flicker_clean", f"No flicker expected. {verdict}")
    if len(space.glasses[plan.choice.glasses].ids) > 1:
        yield _note("stacked_glass", "Stacked glass. Look for vignetting and reflections before you rely on it.")
    if at.light.ev100[1] - at.light.ev100[0] >= WIDE_BAND_STOPS:
        yield _note("wide_band", "A wide band of light. Two takes, one for each end, would each hold more.")
    if at.brief.air_c <= 0 and at.light.ev100[1] >= 14:
        yield _note("bright_ground", "Snow and frost fool the meter and clip early. Watch the histogram's right end.")


def _lacking(told: Told) -> float:
    """Light that the dim end lacks at base gain, stops."""
    return max(0.0, light_missing_stops(told.space, told.plan))


def _lamp_less(at: Situation, stops: float) -> str:
    """How far or how low lamps must be for some stops less. Returns a sentence."""
    nearest = min(lamp.distance_m for lamp in at.light.lamps)
    factor = lamp_factor(at.light.lamp_share, -stops)
    if factor is None:
        return "Turn the lamps off: the other light alone is too much."
    return (
        f"Turn the lamps down to {100 * factor:.0f}{NARROW}%, or move them from "
        f"{wording.metres(nearest)} to {wording.metres(nearest / sqrt(factor))}."
    )


def _lamp_mend(at: Situation, missing_stops: float) -> str:
    """How near or how strong lamps must be for some stops more. Returns a clause with its stop."""
    wanted = lamp_factor(at.light.lamp_share, missing_stops) or 1.0
    nearest = min(lamp.distance_m for lamp in at.light.lamps)
    nearer = nearest / sqrt(wanted)
    spare = min(lamp.output for lamp in at.light.lamps)
    turned = (
        f"turn them up {wanted:.1f} times, or " if spare * wanted <= 1.0 else f"use {wanted:.1f} times the lamps, or "
    )
    return f"At base ISO {wording.stops(missing_stops)} stops of light are missing: {turned}bring them from {wording.metres(nearest)} to {wording.metres(nearer)}."


def _steadiness(told: Told) -> Iterator[Warning]:
    at, plan, stops = told.at, told.plan, told.plan.stops
    if at.dark and told.steadied and stops["smear"] >= NOTICED_STOPS:
        yield _warn(
            "pulsing_smear",
            f"Steady, but pulsing. Each frame smears {plan.smear_px:.0f} px in {wording.seconds(plan.shutter_dim_s)}, and steadying cannot remove that.",
        )
    if not told.steadied and at.mount.shake_deg_s > 1 and at.weights["shake"] < 1 and stops["shake"] >= NOTICED_STOPS:
        yield _warn(
            "steady_the_camera",
            "Steady the camera itself. Use a gimbal or a tripod; nothing in the camera steadies this shot.",
        )
    elif stops["shake"] >= NOTICED_STOPS:
        yield _warn(
            "unsteady",
            f"The picture will wander, {wording.stops(stops['shake'])} stops past steady. Hold it with both hands, brace, or move less.",
        )
    if stops["detail"] >= 0.3:
        yield _note(
            "soft",
            f"Softer than the timeline. {plan.usable_w_px:.0f} pixels are left for {at.brief.delivery.width}.",
        )
    if stops["softness"] >= 0.3:
        yield _note(
            "soft_focus",
            f"Not all of it is sharp. Focus and aperture leave {wording.stops(stops['softness'])} stops of softness at the worse end; step back or film near and far apart.",
        )


def _time(told: Told) -> Iterator[Warning]:
    light = told.at.brief.light
    if told.at.lapse and isinstance(light, SkyLight):
        given_s, films_s = (light.end - light.start).total_seconds(), told.at.brief.take.length_s
        if films_s > 1.1 * given_s + 60.0:
            yield _warn(
                "light_span",
                f"The light is given for {wording.hours(given_s / 3600.0)}, the film runs {wording.hours(films_s / 3600.0)}. Give the light the whole span, else this plan is for its beginning only.",
            )
    at, stops, lasts = told.at, told.plan.stops, told.endurance
    if stops["slow_motion"] >= 0.1:
        yield _warn("too_few_frames", f"Too few frames for the slow-down. {at.shown_fps:g} a second are needed.")
    if stops["cadence"] > 0:
        yield _note(
            "uneven_cadence",
            f"Motion will judder. The rate does not divide evenly into {at.brief.delivery.fps:g}{NARROW}fps.",
        )
    if lasts.frames is not None and lasts.screen_s is not None:
        drift = f" Stars move {lasts.star_drift_px:.1f} px in a frame." if lasts.star_drift_px is not None else ""
        yield _note(
            "interval_film",
            f"{lasts.frames} frames, {lasts.screen_s:.0f}{NARROW}s on the screen at {at.brief.delivery.fps:g}{NARROW}fps.{drift}",
        )


def _water(told: Told) -> Iterator[Warning]:
    light = told.at.light
    if light.deepest_m is None:
        return
    if told.housing and told.space.sheet.proof_depth_m < light.deepest_m:
        yield _warn(
            "housing_needed",
            f"Only in the {told.housing}. The body alone is proof to {wording.metres(told.space.sheet.proof_depth_m)}, this goes to {wording.metres(light.deepest_m)}.",
        )
    if light.red_gone_m is not None and light.lamp_share < 0.5:
        yield _note(
            "red_gone",
            f"Red is gone below {wording.metres(light.red_gone_m)}. Less than a tenth of it is left; no filter and no balance bring back what is not there.",
        )
    if light.lamp_reach_m is not None:
        lit = max(lamp.distance_m for lamp in light.lamps)
        beyond = " The subject is beyond that." if lit > light.lamp_reach_m else ""
        yield _note(
            "lamp_reach",
            f"The lamps reach {wording.metres(light.lamp_reach_m)} in colour. Farther off their red falls a stop behind their green.{beyond}",
        )
    elif told.plan.stops["cast"] >= 1.0:
        yield _note(
            "colour_cast",
            f"A cast of {wording.stops(told.plan.stops['cast'])} stops stays. Get closer, stay shallower, keep sand or rock in the frame, or take lamps.",
        )


def _table(told: Told) -> Iterator[Warning]:
    if told.at.brief.subject.motion_look == "frozen" and told.at.brief.subject.speed_m_s == 0:
        yield _note(
            "speed_unknown",
            "The speed of the subject is not given, so 1/1000 s stands for frozen. Give it for a true figure.",
        )


def _supplies(told: Told) -> Iterator[Warning]:
    at, space, lasts = told.at, told.space, told.endurance
    power, supplies = space.sheet.power, space.supplies
    one = wording.hours(lasts.hours_per_charge)
    wants = wording.hours(at.brief.running_s / 3600.0)
    on_one_charge = lasts.needed_wh <= supplies.charge_wh
    if at.lapse and not on_one_charge:
        bank = (lasts.needed_wh - supplies.charge_wh) / BANK_EFFICIENCY
        known = (
            f" The bank in the kit gives {supplies.bank_wh:.0f}{NARROW}Wh."
            if supplies.bank_wh
            else " There is none in the kit."
        )
        outside = f"Bring mains or a power bank of at least {bank:.0f}{NARROW}Wh; in all {lasts.needed_wh:.0f}{NARROW}Wh are drawn."
        yield _warn("outside_power", f"Outside power needed. One charge lasts {one} of {wants}. {outside}{known}")
    elif lasts.needed_wh * at.limits["battery_margin"] > lasts.available_wh:
        yield _warn(
            "battery_short",
            f"The battery will not last. {lasts.needed_wh:.0f}{NARROW}Wh are wanted, {lasts.available_wh:.0f} there are: {one} a charge.{_cells(told)}",
        )
    elif at.brief.air_c <= COLD_C or not on_one_charge:
        yield _note(
            "battery",
            f"One charge lasts {one}, and {wants} are recorded.{_cells(told) if at.brief.air_c <= COLD_C else ''}",
        )
    if told.plan.stops["heat"] > 0 and lasts.minutes_to_heat is not None and isfinite(lasts.minutes_to_heat):
        yield _warn(
            "heat",
            f"It will stop for heat after {lasts.minutes_to_heat:.0f}{NARROW}min. Shorter takes, wind, shade, or a lighter mode.",
        )
    limit = space.sheet.clip_limit_min
    if limit is not None and at.brief.take.length_s > 60 * limit and not at.lapse:
        yield _note("clip_splits", f"Clips split after {limit:g}{NARROW}min. Join them in the edit.")
    if told.plan.stops["card"] > 0:
        yield _warn(
            "card_small",
            f"The cards are too small. {lasts.recorded_gb:.0f}{NARROW}GB are recorded, {supplies.capacity_gb:.0f} fit.",
        )
    if told.plan.stops["drive"] > 0:
        yield _warn(
            "drive_needed", "This mode records to an external drive only. Mount it so that its cable cannot pull."
        )
    if power.reserve_share:
        yield _note(
            "way_home",
            f"{100 * power.reserve_share:.0f}{NARROW}% of the charge is kept for the way home: {one} in the air.",
        )


def _cells(told: Told) -> str:
    """What the cold does to the cells, and what others would do. Returns a sentence with a blank before it."""
    at, power, lasts = told.at, told.space.sheet.power, told.endurance
    if lasts.cold_factor > 0.95:
        return " Take spare cells, or a lighter mode."
    best = max(told.chemistries.values(), key=lambda kind: cold_factor(at.brief.air_c, kind.left))
    hours = float(hours_of(power.battery_wh * cold_factor(at.brief.air_c, best.left), lasts.power_w))
    return (
        f" At {wording.celsius(at.brief.air_c)} ordinary cells give {100 * lasts.cold_factor:.0f}{NARROW}% of their charge; "
        f"{best.name} would last {wording.hours(hours)} a charge, and a lighter mode saves some."
    )


def cautions(brief: Brief, mount: Mount, dark: bool) -> Iterator[Caution]:
    """What can hurt someone, by scenario and mount; defers to training, local rules and licensed practice.

    brief: what will be filmed; mount: how the camera is held; dark: whether it is dark. Yields cautions.
    """
    if brief.scenario == "underwater" or brief.light.kind == "water":
        yield Caution(
            topic="diving",
            text="Air, depth, time and buddy come before the camera. Dive within your training; steady your buoyancy first, touch nothing that lives, mind boats.",
        )
        yield Caution(
            topic="seals",
            text="Seal lamps and housing ashore: seals clean, no hair or sand, closed by eye, tried in fresh water without the camera.",
        )
    if mount.point_of_view and not mount.flying:
        yield Caution(
            topic="mounts",
            text="The ride comes first. A mount can injure in a fall and must not block sight or controls; keep clear of bystanders.",
        )
    if mount.flying:
        yield Caution(
            topic="flying",
            text="Fly within your licence and local aviation rules: in line of sight, away from people, within the wind limit, with charge for the return.",
        )
    if brief.scenario == "product" or brief.light.kind == "lamps":
        yield Caution(
            topic="lamps",
            text="Mains and water stay apart. Lamps are hot, stands are weighted, cables are taped; wiring is for a licensed hand.",
        )
    if dark:
        yield Caution(topic="dark", text="Know the ground by day, be visible, and let someone ashore know the plan.")
    elif brief.scenario == "lapse":
        yield Caution(
            topic="waiting", text="Do not leave a stand where tide, wind or people reach it; dress for the wait."
        )
    if brief.air_c <= 0:
        yield Caution(
            topic="cold", text="Cold hands fumble and cells cut out early. Keep spares warm on the body; mind the ice."
        )
    if brief.scenario == "motion" and brief.camera_move.travel_m_s > 3 and not mount.flying:
        yield Caution(topic="speed", text="Never look at the screen while moving. Set, start, and look ahead.")
    if mount.id == "walking" and not dark:
        yield Caution(topic="footing", text="Watch your footing, edges and the tide while you film.")
