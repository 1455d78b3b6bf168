"""What a choice comes to: settings, exposure with its reach, endurance, and the ledger."""

from __future__ import annotations

from math import isfinite, isnan
from typing import Any

import numpy as np

from steady_tide.core.physics.endurance import cold_factor, hours_of, minutes_to_heat
from steady_tide.core.planning.camera_problem import CameraProblem
from steady_tide.core.planning.interval_film import frames_of, star_drift_px
from steady_tide.core.planning.ledger import light_missing_stops
from steady_tide.core.planning.plan import Endurance, Exposure, LedgerItem, Reach, Settings
from steady_tide.core.planning.priced_choice import Choice, Priced
from steady_tide.core.planning.reach import reaches_of
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.space import ROUNDING
from steady_tide.core.quantities.stops import camera_ev

GIGABYTES_AN_HOUR = 0.45  # of one megabit a second


def settings_of(problem: CameraProblem, choice: Choice) -> Settings:
    """The chosen value of every dial, as settings are written. problem: of the camera; choice: it."""
    written: dict[str, Any] = {}
    for name, dial in problem.dials.items():
        value = dial.value_of(choice[dial.block])
        written |= dial.kind.writes(problem, choice, value) if dial.kind.writes else {name: value}
    return Settings.model_validate(written)


def endurance_of(problem: CameraProblem, ours: Priced) -> Endurance:
    """What the takes use up, and what there is. problem: of the camera; ours: the plan, priced."""
    at, space = problem.at, problem.space
    supplies, power = space.supplies, space.sheet.power
    interval = float(space.pictures.interval_s[ours.choice["pictures"]])
    minutes = float(
        minutes_to_heat(
            power.warming_w(ours.power_w, at.sun_w_m2),
            supplies.heat_k_per_w,
            supplies.heat_tau_s,
            at.brief.air_c,
            power.heat_limit_c,
        )
    )
    cells_c = float(supplies.cells_c(ours.needed_wh))
    rate = space.looks[ours.choice["looks"]].bit_rate_mb_s
    an_hour = ours.recorded_gb / (at.brief.running_s / 3600.0) if at.lapse else rate * GIGABYTES_AN_HOUR
    return Endurance(
        power_w=ours.power_w,
        warming_w=power.warming_w(ours.power_w, at.sun_w_m2),
        hours_per_charge=float(hours_of(supplies.charge_wh(ours.needed_wh), ours.power_w)),
        cells_c=cells_c,
        cold_factor=float(cold_factor(cells_c, supplies.own.left)),
        needed_wh=ours.needed_wh,
        available_wh=float(supplies.energy_wh(ours.needed_wh)),
        unattended_wh=float(supplies.charge_wh(ours.needed_wh)) + supplies.bank_wh,
        recorded_gb=ours.recorded_gb,
        gb_per_hour=an_hour,
        minutes_to_heat=minutes if isfinite(minutes) else None,
        frames=None if isnan(interval) else int(frames_of(at.brief.take.length_s, interval)),
        screen_s=None if isnan(interval) else ours.screen_s,
        star_drift_px=float(star_drift_px(ours.shutter_dim_s, ours.px_per_deg))
        if at.lapse and at.light.night_sky
        else None,
    )


def exposure_of(problem: CameraProblem, ours: Priced) -> Exposure:
    """What the light and the camera come to. problem: of the camera; ours: the plan, priced."""
    at, space = problem.at, problem.space
    floor, _ = space.iso_pairs[ours.choice["iso_pairs"]]
    reaches = reaches_of(problem, ours)
    mine = _of_value(reaches["nd"], problem.dials["nd"].value_of(ours.choice["glasses"]))
    _, f_number, _ = space.gates[ours.choice["gates"]]
    asked = at.light.ev100[1] + float(np.log2(floor / 100)) - float(camera_ev(f_number, ours.wanted_shutter_s))
    return Exposure(
        ev100=at.light.ev100,
        reach_ev100=(mine.low_ev100, mine.high_ev100),
        reach_camera_ev=ours.reach_camera_ev,
        over_stops=ours.stops["over"],
        under_stops=ours.stops["under"],
        nd_stops=space.glasses[ours.choice["glasses"]].stops,
        light_missing_stops=light_missing_stops(at, space, ours),
        nd_asked_stops=asked,
        iso_used=(round(ours.iso_dim), round(ours.iso_bright)),
        shutter_used_s=(ours.shutter_dim_s, ours.shutter_bright_s),
        wanted_shutter_s=ours.wanted_shutter_s,
        snr=ours.snr_dim,
        snr_limit=at.snr_limit(ours.shutter_dim_s),
        smear_px=ours.smear_px,
        field_deg=ours.field_deg,
        contrast_stops=at.contrast_stops,
        bits_per_pixel=ours.bits_per_pixel,
        reaches=reaches,
    )


def _of_value(reaches: tuple[Reach, ...], value: Any) -> Reach:
    return next(reach for reach in reaches if reach.value == value)


def ledger_of(at: Situation, ours: Priced) -> tuple[LedgerItem, ...]:
    """What is given up, the most first. at: gives the weights; ours: the plan, priced."""
    items = [
        LedgerItem(
            item=name,
            dial=at.judgement.items[name].dial,
            stops=stops,
            weight=at.weights[name],
            given_up_stops=at.weights[name] * stops,
            weight_why=at.weight_reasons[name],
        )
        for name, stops in ours.stops.items()
        if at.weights[name] * stops > ROUNDING
    ]
    return tuple(sorted(items, key=lambda item: -item.given_up_stops))
