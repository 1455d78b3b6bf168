"""Plan a shot: the one door to everything in this folder."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from math import isfinite, isnan
from typing import Any

import numpy as np

from steady_tide.core import wording
from steady_tide.core.brief import Brief, School
from steady_tide.core.endurance import hours_of, minutes_to_heat
from steady_tide.core.kit import Kit, Knowledge
from steady_tide.core.lapse import frames_of, star_drift_px
from steady_tide.core.light.day import DayOfLight
from steady_tide.core.planning import advice, costs
from steady_tide.core.planning.bench import Bench, conflict, dial_name
from steady_tide.core.planning.dials import AUTOMATIC, Dial
from steady_tide.core.planning.glass_times import GlassSpan, glass_times
from steady_tide.core.planning.items import ITEMS
from steady_tide.core.planning.ledger import Priced, light_missing_stops, price, price_all
from steady_tide.core.planning.plan import (
    CameraName,
    DialValue,
    Endurance,
    Exposure,
    LedgerItem,
    Plan,
    RankedCamera,
    Rival,
    Settings,
)
from steady_tide.core.planning.ranking import Standing, entries_of, rank, ranked
from steady_tide.core.planning.reasons import contest, explain
from steady_tide.core.planning.search import STANDING_ALONE, cheapest, gate_seconds, search
from steady_tide.core.planning.situation import Situation, situation
from steady_tide.core.planning.solution import Choice, Solution
from steady_tide.core.stops import camera_ev


def plan(
    brief: Brief,
    kit: Kit,
    knowledge: Knowledge,
    *,
    crew: School | None = None,
    schools: bool = True,
    only: str | None = None,
) -> Plan:
    """Find the legal combination that gives up least.

    brief: what will be filmed; kit: cameras, glass, housings, cells and cards to choose from; knowledge:
    places, skies, waters, mounts, weights; crew: its way of working where the brief leaves it open;
    schools: whether to say, too, what other ways of working would change; only: id of a camera, to plan
    on it without ranking the others.
    Returns the plan of the best camera. Raises BadBrief where the brief names what does not exist,
    NoLegalPlan where the pins exclude each other or no camera can do it.
    """
    brief = brief.in_school(crew or School())
    at = situation(brief, knowledge)
    entries = entries_of(at, kit, knowledge, only)
    standings = rank(at, entries)
    return _told(standings[0], ranked(at, standings), knowledge, schools)


def through_day(
    brief: Brief,
    kit: Kit,
    knowledge: Knowledge,
    day: DayOfLight,
    *,
    crew: School | None = None,
    only: str | None = None,
) -> tuple[GlassSpan, ...]:
    """When glass is changed if a shot is held through a day.

    brief, kit, knowledge, crew, only: as in `plan`, which decides all but the density; day: the light.
    Returns spans with the density that serves. Raises as `plan` does.
    """
    brief = brief.in_school(crew or School())
    at = situation(brief, knowledge)
    best = rank(at, entries_of(at, kit, knowledge, only))[0]
    assert best.entry.bench is not None
    assert best.choice is not None
    return glass_times(at, best.entry.bench.space, best.choice, day)


def _told(best: Standing, others: list[RankedCamera], knowledge: Knowledge, schools: bool) -> Plan:
    bench = best.entry.bench
    assert bench is not None
    at, space, dials = bench.at, bench.space, bench.dials
    solution = best.found if best.whole else search(at, space, bench.free_but(), best.found)
    assert solution is not None
    choice = solution.best()
    held = []
    for name, dial in dials.items():
        if dial.listed:
            needs_search = name in bench.pins and dial.block not in STANDING_ALONE
            without = search(at, space, bench.free_but(name), solution) if needs_search else solution
            held.append(contest(dial, without, int(dial.of_candidate[getattr(choice, dial.block)])))
    rivals = [entry.rival for entry in held if entry.rival is not None]
    ours, *priced = price_all(at, space, [choice, *rivals])
    of_rival = dict(zip(rivals, priced, strict=True))
    profiles = {
        entry.dial.id: tuple(
            _dial_value(bench, entry.dial, value, float(stops))
            for value, stops in zip(entry.dial.values, entry.prices, strict=True)
        )
        for entry in held
    }
    reasons = {
        entry.dial.id: explain(
            at, space, entry, ours, None if entry.rival is None else of_rival[entry.rival], bench.names
        )
        for entry in held
    }
    runner_up = {entry.dial.id: None if entry.second is None else float(entry.prices[entry.second]) for entry in held}
    lasts = _endurance(bench, ours)
    housing = space.glasses[choice.glasses].housing
    told = advice.Told(at, space, ours, lasts, knowledge.chemistries, None if housing is None else bench.names[housing])
    pinned_camera = {"camera": at.brief.pins["camera"]} if "camera" in at.brief.pins else {}
    return Plan(
        camera=CameraName(id=space.sheet.id, name=space.sheet.name, edition=space.sheet.edition),
        settings=_settings(bench, choice),
        values={
            "camera": space.sheet.name,
            **{
                name: wording.dial_value(name, _value(dial, choice), bench.names)
                for name, dial in dials.items()
                if dial.listed
            },
        },
        exposure=_exposure(bench, ours),
        endurance=lasts,
        light_source=at.light.source,
        ledger=_ledger(at, ours),
        given_up_stops=ours.given_up(at),
        reasons={"camera": others[0].why, **reasons},
        runner_up_stops={
            "camera": next((r.given_up_stops for r in others if r.id != space.sheet.id), None),
            **runner_up,
        },
        profiles={
            "camera": tuple(
                DialValue(
                    value=entry.id,
                    label=entry.name,
                    legal=entry.given_up_stops is not None,
                    given_up_stops=entry.given_up_stops,
                    why_not=entry.why if entry.given_up_stops is None else None,
                )
                for entry in others
            ),
            **profiles,
        },
        settled=_settled(bench),
        pins={**pinned_camera, **bench.pins},
        warnings=tuple(advice.warnings(told)),
        cautions=tuple(advice.cautions(at.brief, at.mount, at.dark)),
        schools=tuple(_rivals(bench, solution, ours, knowledge)) if schools else (),
        cameras=tuple(others),
        combinations=space.combinations,
    )


def _settled(bench: Bench) -> tuple[str, ...]:
    """Dials without a choice: of one value, or decided by another dial or by the brief."""
    sheet = bench.space.sheet
    of_lens = all(len(lens.f_numbers) == 1 for lens in sheet.lenses)
    return tuple(
        name
        for name, dial in bench.dials.items()
        if dial.listed
        and name not in bench.pins
        and (len(dial.values) == 1 or (name == "f_number" and of_lens) or (name == "interval_s" and not bench.at.lapse))
    )


def _value(dial: Dial, choice: Choice) -> Any:
    return dial.values[int(dial.of_candidate[getattr(choice, dial.block)])]


def _dial_value(bench: Bench, dial: Dial, value: Any, stops: float) -> DialValue:
    legal = bool(np.isfinite(stops))
    # A plan holds hundreds of these, made of our own values; checking each again would cost a tenth of it.
    return DialValue.model_construct(
        value=value,
        label=wording.dial_value(dial.id, value, bench.names),
        legal=legal,
        given_up_stops=stops if legal else None,
        why_not=None if legal else _why_not(bench, dial, value),
    )


def _why_not(bench: Bench, dial: Dial, value: Any) -> str:
    """Name the smallest set of other pins with which a value is not offered."""
    others = {name: pin for name, pin in bench.pins.items() if name != dial.id}
    demand = bench.demanded(dial, value)
    if demand:
        return demand
    names = conflict(bench, others, ((dial.id, value),))
    if not names:
        return _never(bench, dial, value)
    said = " and ".join(f"{dial_name(n)} {wording.dial_value(n, others[n], bench.names)}" for n in names)
    return f"Not offered with {said}, which you pinned."


def _never(bench: Bench, dial: Dial, value: Any) -> str:
    """Why no plan for this shot has a value, whatever else is turned."""
    space = bench.space
    if dial.id == "shutter_s":
        return "Longer than a frame lasts." if not bench.at.lapse else "Longer than the pause between frames."
    if dial.block == "looks":
        looks = dial.mask(value)
        fit = bench.demands.masks["pictures"]
        if space.look_offered[fit][:, looks].any():
            drive = any(
                space.looks[n].codec.id in mode.drive_codecs
                for n in np.flatnonzero(looks)
                for mode in space.sheet.modes
            )
            return "It records to a drive, and the kit has none." if drive else "No card in the kit is fast enough."
    return "No mode that films this shot offers it."


def _settings(bench: Bench, choice: Choice) -> Settings:
    space = bench.space
    sheet, pictures = space.sheet, space.pictures
    mode = sheet.modes[int(pictures.mode[choice.pictures])]
    lens, f_number, _ = space.gates[choice.gates]
    look = space.looks[choice.looks]
    floor, ceiling = space.iso_pairs[choice.iso_pairs]
    seconds = gate_seconds(space, choice.gates)
    glass, habit = space.glasses[choice.glasses], space.habits[choice.habits]
    balance, focus = space.balances[choice.balances], space.focuses[choice.focuses]
    interval = float(pictures.interval_s[choice.pictures])
    return Settings(
        lens=sheet.lenses[lens].id,
        f_number=f_number,
        width=mode.width,
        height=mode.height,
        frame_rate=float(pictures.rate[choice.pictures]),
        interval_s=None if isnan(interval) else interval,
        view=sheet.views[int(pictures.view[choice.pictures])].id,
        stabilisation=sheet.stabilisation[int(pictures.steadying[choice.pictures])].id,
        shutter_s=seconds,
        shutter_mode=AUTOMATIC if seconds is None else "fixed",
        iso_floor=floor,
        iso_ceiling=ceiling,
        exposure_compensation=space.compensations[choice.compensations],
        white_balance_k=balance if isinstance(balance, int) else None,
        white_balance="locked" if isinstance(balance, int) else "raw" if balance == "raw" else "automatic",
        focus=focus,
        focus_m=costs.focus_distance_m(bench.at, sheet.lenses[lens]) if focus == "locked" else None,
        profile=look.profile.id,
        bit_depth=look.bit_depth,
        codec=look.codec.id,
        bit_rate_mb_s=look.bit_rate_mb_s,
        sharpness=sheet.sharpness[choice.sharpness],
        high_dynamic_range=look.high_dynamic_range,
        nd=glass.ids,
        colour_filter=glass.colour,
        housing=glass.housing,
        wind_reduction=sheet.wind_reduction[choice.wind],
        sound_track=sheet.sound_track[choice.tracks],
        pre_record_s=habit.pre_record_s,
        positioning=habit.positioning,
        screen=habit.screen,
    )


def _endurance(bench: Bench, ours: Priced) -> Endurance:
    at, space = bench.at, bench.space
    supplies, power = space.supplies, space.sheet.power
    interval = float(space.pictures.interval_s[ours.choice.pictures])
    minutes = float(
        minutes_to_heat(ours.power_w, supplies.heat_k_per_w, supplies.heat_tau_s, at.brief.air_c, power.heat_limit_c)
    )
    rate = space.looks[ours.choice.looks].bit_rate_mb_s
    return Endurance(
        power_w=ours.power_w,
        hours_per_charge=float(hours_of(supplies.charge_wh, ours.power_w)),
        cold_factor=supplies.cold,
        needed_wh=ours.needed_wh,
        available_wh=supplies.energy_wh,
        recorded_gb=ours.recorded_gb,
        gb_per_hour=ours.recorded_gb / (at.brief.running_s / 3600.0) if at.lapse else rate * 0.45,
        minutes_to_heat=minutes if isfinite(minutes) else None,
        frames=None if isnan(interval) else int(frames_of(at.brief.take.length_s, interval)),
        screen_s=None if isnan(interval) else ours.screen_s,
        star_drift_px=float(star_drift_px(ours.shutter_dim_s, ours.px_per_deg))
        if at.lapse and at.light.night_sky
        else None,
    )


def _exposure(bench: Bench, ours: Priced) -> Exposure:
    at, space = bench.at, bench.space
    floor, ceiling = space.iso_pairs[ours.choice.iso_pairs]
    nd = space.glasses[ours.choice.glasses].stops
    low, high = ours.reach_camera_ev
    _, f_number, _ = space.gates[ours.choice.gates]
    return Exposure(
        ev100=at.light.ev100,
        reach_ev100=(low - float(np.log2(ceiling / 100)) + nd, high - float(np.log2(floor / 100)) + nd),
        reach_camera_ev=(low, high),
        over_stops=ours.stops["over"],
        under_stops=ours.stops["under"],
        nd_stops=nd,
        light_missing_stops=light_missing_stops(space, ours),
        nd_asked_stops=at.light.ev100[1]
        + float(np.log2(floor / 100))
        - float(camera_ev(f_number, ours.wanted_shutter_s)),
        iso_used=(round(ours.iso_dim), round(ours.iso_bright)),
        shutter_used_s=(ours.shutter_dim_s, ours.shutter_bright_s),
        wanted_shutter_s=ours.wanted_shutter_s,
        snr=ours.snr_dim,
        snr_limit=at.noise_limit_snr,
        smear_px=ours.smear_px,
        field_deg=ours.field_deg,
        bits_per_pixel=ours.bits_per_pixel,
    )


def _ledger(at: Situation, ours: Priced) -> tuple[LedgerItem, ...]:
    items = [
        LedgerItem(
            item=name,
            title=ITEMS[name].title,
            dial=ITEMS[name].dial,
            stops=stops,
            weight=at.weights[name],
            given_up_stops=at.weights[name] * stops,
            why=f"{wording.stops(stops)} stops at {at.weights[name]:g} each",
            weight_why=at.weight_reasons[name],
        )
        for name, stops in ours.stops.items()
        if at.weights[name] * stops > 0
    ]
    return tuple(sorted(items, key=lambda item: -item.given_up_stops))


_RIVAL_SCHOOLS: tuple[tuple[str, Any, str], ...] = (
    ("shutter", "free", "leave the shutter to the camera"),
    ("shutter", "half_turn", "hold the half-turn shutter"),
    ("noise", "quiet", "take a cleaner, darker picture"),
    ("noise", "get_it", "get it at any noise"),
    ("dark_stabilisation", "drop", "drop steadying in the dark"),
    ("dark_stabilisation", "keep", "keep steadying in the dark"),
    ("dark_profile", "flat", "record flat even in the dark"),
    ("view", "widest", "take the widest view"),
    ("resolution", "most", "record the most pixels"),
)
SHOWN_RIVALS = 3
_DARK_AXES = {"noise", "dark_stabilisation", "dark_profile"}  # where schools part only in the dark


def _rivals(bench: Bench, solution: Solution, ours: Priced, knowledge: Knowledge) -> Iterator[Rival]:
    at, brief = bench.at, bench.at.brief
    found: dict[Choice, str] = {}
    for axis, school, name in _RIVAL_SCHOOLS:
        if len(found) == SHOWN_RIVALS:
            break
        if getattr(brief.school, axis) == school or (axis in _DARK_AXES and not bench.at.dark):
            continue
        other = brief.model_copy(update={"school": School.model_validate({**brief.school.model_dump(), axis: school})})
        their_at = situation(other, knowledge)
        only_weights = replace(their_at, brief=at.brief, weights=at.weights, weight_reasons=at.weight_reasons) == at
        ours_for_them = ours if only_weights else price(their_at, bench.space, ours.choice)
        at_most = ours_for_them.given_up(their_at)
        choice = cheapest(their_at, bench.space, solution, bench.at, bench.free_but(), at_most)
        if choice is not None and choice != ours.choice and choice not in found:
            found[choice] = name
    for priced, name in zip(price_all(bench.at, bench.space, list(found)), found.values(), strict=True):
        changes = {
            dial.id: wording.dial_value(dial.id, _value(dial, priced.choice), bench.names)
            for dial in bench.dials.values()
            if dial.listed and _value(dial, priced.choice) != _value(dial, ours.choice)
        }
        yield Rival(name=name, changes=changes, given_up_stops=priced.given_up(bench.at))
