"""Own numbers that notes of gear taught: stabilisation's crop, readout, glass, charge, draw, heat, cards; and clocks."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Sequence
from typing import TypeVar

import numpy as np

from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.brief.own_numbers import OwnNumber
from steady_tide.core.gear.items import Filter
from steady_tide.core.gear.kit import Kit
from steady_tide.core.gear.sheet import CameraSheet, Power
from steady_tide.core.log.notes import (
    CardNote,
    ChargeNote,
    GlassNote,
    HeatNote,
    ReadoutNote,
    SteadyingNote,
    readout_ms,
)
from steady_tide.core.log.posterior import Estimated, robust_mean
from steady_tide.core.own.kinds.filmed import in_stops, level_value, with_level
from steady_tide.core.own.own_kind import Applied, Evidence, Of, OwnKind, Reading, Readings, with_camera
from steady_tide.core.physics.endurance import cell_temperature_c, cold_factor, minutes_to_heat
from steady_tide.core.quantities.limits import Limits

N = TypeVar("N")
RESISTANCES = np.geomspace(0.2, 200.0, 800)  # kelvin a watt, tried
MOST_SHARE = 1.0


def _of_kind(evidence: Evidence, kind: type[N]) -> list[N]:
    return [note for note in evidence.notes if isinstance(note, kind)]


def _gear(readings: Sequence[Reading], usual: float | None, limits: Limits) -> Estimated:
    return in_stops(readings, usual, limits.own_gear_spread_stops, (0.01, 1.0))


# Stabilisation's crop.


def _keeps_readings(evidence: Evidence) -> Readings:
    found: Readings = defaultdict(list)
    for note in _of_kind(evidence, SteadyingNote):
        says: dict[str, str | float] = {"with_cm": note.with_cm, "without_cm": note.without_cm}
        found[(note.camera, note.level)].append(Reading(note.with_cm / note.without_cm, "ruler", says, at=note.at))
    return found


def _apply_keeps(number: OwnNumber, kit: Kit, knowledge: Knowledge) -> Applied:
    return with_level(number, kit, "keeps", min(MOST_SHARE, number.value)), knowledge


KEEPS = OwnKind(
    id="keeps", parts=("camera", "level"), gather=_keeps_readings, estimate=_gear,
    usual=lambda of, kit, knowledge: level_value(of, kit, "keeps"), apply=_apply_keeps,
)  # fmt: skip


# Readout.


def _readouts(evidence: Evidence) -> Readings:
    found: Readings = defaultdict(list)
    for note in _of_kind(evidence, ReadoutNote):
        says: dict[str, str | float] = {"lean_px": note.lean_px, "pan_px": note.pan_px, "frame_rate": note.frame_rate}
        found[(note.camera,)].append(Reading(readout_ms(note), "lean", says, at=note.at))
    return found


def _readout_usual(of: Of, kit: Kit, knowledge: Knowledge) -> float | None:
    sheet = kit.camera(of["camera"])
    return None if sheet is None else sheet.lenses[0].sensor.readout_ms


def _apply_readout(number: OwnNumber, kit: Kit, knowledge: Knowledge) -> Applied:
    def change(sheet: CameraSheet) -> CameraSheet:
        first = sheet.lenses[0]
        sensor = first.sensor.model_copy(update={"readout_ms": number.value})
        return sheet.model_copy(update={"lenses": (first.model_copy(update={"sensor": sensor}), *sheet.lenses[1:])})

    return with_camera(kit, number.of["camera"], change), knowledge


READOUT = OwnKind(
    id="readout", parts=("camera",), gather=_readouts, estimate=_gear, usual=_readout_usual,
    apply=_apply_readout,
)  # fmt: skip


# Glass.


def _glass(kit: Kit, filter_id: str) -> Filter | None:
    return next((one for one in kit.filters if one.id == filter_id and one.turns_from_stops is None), None)


def _glass_readings(field: str) -> Callable[[Evidence], Readings]:
    def gather(evidence: Evidence) -> Readings:
        found: Readings = defaultdict(list)
        for note in _of_kind(evidence, GlassNote):
            value = getattr(note, field)
            if value is not None and _glass(evidence.kit, note.filter) is not None:
                found[(note.filter,)].append(Reading(value, "glass", {}, at=note.at))
        return found

    return gather


def _density(readings: Sequence[Reading], usual: float | None, limits: Limits) -> Estimated:
    values = [one.value for one in readings]
    return robust_mean(values, usual or float(np.median(values)), limits.own_glass_spread_stops, (0.01, 0.5))


def _density_usual(of: Of, kit: Kit, knowledge: Knowledge) -> float | None:
    glass = _glass(kit, of["filter"])
    return None if glass is None else glass.stops


def _with_glass(number: OwnNumber, kit: Kit, change: Callable[[Filter], Filter]) -> Kit:
    filters = tuple(
        change(one) if one.id == number.of["filter"] and one.turns_from_stops is None else one for one in kit.filters
    )
    return kit.model_copy(update={"filters": filters})


def _apply_density(number: OwnNumber, kit: Kit, knowledge: Knowledge) -> Applied:
    stops = float(np.clip(number.value, 0.01, 20.0))
    return _with_glass(number, kit, lambda one: one.model_copy(update={"stops": stops})), knowledge


GLASS = OwnKind(
    id="glass", parts=("filter",), gather=_glass_readings("stops"), estimate=_density, usual=_density_usual, apply=_apply_density,
)  # fmt: skip


def _cast(of: Of, kit: Kit, band: int) -> float | None:
    glass = _glass(kit, of["filter"])
    return None if glass is None else glass.band_stops[band] - glass.band_stops[1]


def _apply_cast(band: int) -> Callable[[OwnNumber, Kit, Knowledge], Applied]:
    def apply(number: OwnNumber, kit: Kit, knowledge: Knowledge) -> Applied:
        def change(one: Filter) -> Filter:
            against = [stops - one.band_stops[1] for stops in one.band_stops]
            against[band] = number.value
            least = min(against)
            return one.model_copy(update={"band_stops": tuple(stops - least for stops in against)})

        return _with_glass(number, kit, change), knowledge

    return apply


def _cast_kind(name: str, band: int, field: str) -> OwnKind:
    return OwnKind(
        id=name, parts=("filter",), gather=_glass_readings(field), estimate=_density,
        usual=lambda of, kit, knowledge: _cast(of, kit, band), apply=_apply_cast(band),
    )  # fmt: skip


GLASS_RED = _cast_kind("glass_red", 0, "red_stops")
GLASS_BLUE = _cast_kind("glass_blue", 2, "blue_stops")


# Charge and draw.


def screen_w(sheet: CameraSheet, note: ChargeNote | HeatNote) -> float:
    """What a sheet says that the screen draws that was on. Returns watts."""
    return sheet.power.screen_w.get(note.screen, 0.0)


def drawn_w(sheet: CameraSheet, note: ChargeNote | HeatNote) -> float:
    """What a sheet says that a camera draws in a mode, screen and all. Returns watts."""
    return recording_w(sheet, note) + screen_w(sheet, note)


def recording_w(sheet: CameraSheet, note: ChargeNote | HeatNote) -> float:
    """The same without the screen. note: names frame, rate and stabilisation. Returns watts."""
    power = sheet.power
    level = next((one for one in sheet.stabilisation if one.id == note.stabilisation), None)
    mode = next((one for one in sheet.modes if (one.width, one.height) == (note.width, note.height)), None)
    return (
        power.base_w
        + power.per_gigapixel_s_w * note.width * note.height * note.frame_rate / 1e9
        + (0.0 if level is None else level.power_w)
        + (0.0 if mode is None else mode.power_w)
    )


def gave_wh(sheet: CameraSheet, note: ChargeNote, knowledge: Knowledge, capacity_wh: float) -> float:
    """What a cell gave in a run: a share of what it gives when it is as cold as it was. capacity_wh: when warm. Returns
    watt-hours."""
    power, limits = sheet.power, knowledge.limits
    warmth = 0.0 if power.motors_w else limits.cell_warmth_share
    cell_c = cell_temperature_c(
        note.air_c, drawn_w(sheet, note), power.heat_k_per_w, power.tau_s, note.minutes * 60.0, warmth
    )
    kinds = knowledge.chemistries
    left = (kinds.get(power.chemistry) or next(iter(kinds.values()))).left
    return capacity_wh * float(cold_factor(cell_c, left)) * (note.from_percent - note.to_percent) / 100.0


def _capacities(evidence: Evidence) -> Readings:
    found: Readings = defaultdict(list)
    for note in _of_kind(evidence, ChargeNote):
        sheet = evidence.kit.camera(note.camera)
        if sheet is None or note.put_in_wh is None:
            continue
        taken = note.put_in_wh * evidence.limits.charger_efficiency
        whole = taken / ((note.from_percent - note.to_percent) / 100.0)
        says: dict[str, str | float] = {"put_in_wh": note.put_in_wh, "from": note.from_percent, "to": note.to_percent}
        found[(note.camera,)].append(Reading(whole, "charger", says, at=note.at))
    return found


def _with_power(number: OwnNumber, kit: Kit, change: Callable[[Power], Power]) -> Kit:
    return with_camera(kit, number.of["camera"], lambda sheet: sheet.model_copy(update={"power": change(sheet.power)}))


def _capacity_usual(of: Of, kit: Kit, knowledge: Knowledge) -> float | None:
    sheet = kit.camera(of["camera"])
    return None if sheet is None else sheet.power.battery_wh


def _apply_capacity(number: OwnNumber, kit: Kit, knowledge: Knowledge) -> Applied:
    return _with_power(number, kit, lambda power: power.model_copy(update={"battery_wh": number.value})), knowledge


CAPACITY = OwnKind(
    id="capacity", parts=("camera",), gather=_capacities, estimate=_gear, usual=_capacity_usual,
    apply=_apply_capacity,
)  # fmt: skip


def _draws(evidence: Evidence) -> Readings:
    found: Readings = defaultdict(list)
    capacities = _capacities(evidence)
    for note in _of_kind(evidence, ChargeNote):
        sheet = evidence.kit.camera(note.camera)
        if sheet is None:
            continue
        told = capacities.get((note.camera,), [])
        whole = sheet.power.battery_wh
        if len(told) >= evidence.limits.own_least_count:
            whole = _gear(told, whole, evidence.limits).value
        watts = gave_wh(sheet, note, evidence.knowledge, whole) / (note.minutes / 60.0)
        says: dict[str, str | float] = {
            "from": note.from_percent, "to": note.to_percent, "minutes": note.minutes, "air_c": note.air_c,
            "width": float(note.width), "height": float(note.height), "frame_rate": note.frame_rate, "watts": watts,
        }  # fmt: skip
        # The screen is counted apart by every plan, so that it is taken off here.
        times = (watts - screen_w(sheet, note)) / recording_w(sheet, note)
        if times > 0.0:
            found[(note.camera,)].append(Reading(times, "run_down", says, at=note.at))
    return found


def _apply_draw(number: OwnNumber, kit: Kit, knowledge: Knowledge) -> Applied:
    times = number.value

    def change(sheet: CameraSheet) -> CameraSheet:
        power = sheet.power
        scaled = power.model_copy(
            update={
                "base_w": power.base_w * times,
                "per_gigapixel_s_w": power.per_gigapixel_s_w * times,
                "motors_w": power.motors_w * times,
            }
        )
        levels = tuple(one.model_copy(update={"power_w": one.power_w * times}) for one in sheet.stabilisation)
        modes = tuple(one.model_copy(update={"power_w": one.power_w * times}) for one in sheet.modes)
        return sheet.model_copy(update={"power": scaled, "stabilisation": levels, "modes": modes})

    return with_camera(kit, number.of["camera"], change), knowledge


DRAW = OwnKind(
    id="draw", parts=("camera",), gather=_draws, estimate=_gear, usual=lambda of, kit, knowledge: 1.0,
    apply=_apply_draw,
)  # fmt: skip


# Heat.


def resistance_of(sheet: CameraSheet, note: HeatNote) -> float | None:
    """Thermal resistance with which a body gets as hot as it may in the time that it took. Returns kelvin a watt; None where no
    resistance does it."""
    power = sheet.power
    minutes = np.array(
        [
            float(
                minutes_to_heat(
                    drawn_w(sheet, note) - power.motors_w, tried, power.tau_s, note.air_c, power.heat_limit_c
                )
            )
            for tried in RESISTANCES
        ]
    )
    reached = np.isfinite(minutes)
    if not reached.any() or not minutes[reached].min() <= note.minutes <= minutes[reached].max():
        return None
    return float(np.interp(-note.minutes, -minutes[reached], RESISTANCES[reached]))


def _heats(evidence: Evidence) -> Readings:
    found: Readings = defaultdict(list)
    for note in _of_kind(evidence, HeatNote):
        sheet = evidence.kit.camera(note.camera)
        value = None if sheet is None else resistance_of(sheet, note)
        if value is not None:
            says: dict[str, str | float] = {"minutes": note.minutes, "air_c": note.air_c}
            found[(note.camera,)].append(Reading(value, "heat_stop", says, at=note.at))
    return found


def _heat_usual(of: Of, kit: Kit, knowledge: Knowledge) -> float | None:
    sheet = kit.camera(of["camera"])
    return None if sheet is None else sheet.power.heat_k_per_w


def _apply_heat(number: OwnNumber, kit: Kit, knowledge: Knowledge) -> Applied:
    return _with_power(number, kit, lambda power: power.model_copy(update={"heat_k_per_w": number.value})), knowledge


HEAT = OwnKind(id="heat", parts=("camera",), gather=_heats, estimate=_gear, usual=_heat_usual, apply=_apply_heat)


# Cards.


def _cards(evidence: Evidence) -> Readings:
    found: Readings = defaultdict(list)
    for note in _of_kind(evidence, CardNote):
        if any(medium.id == note.medium for medium in evidence.kit.media):
            found[(note.medium,)].append(Reading(note.recorded_gb, "filled", {}, at=note.at))
    return found


def _card_usual(of: Of, kit: Kit, knowledge: Knowledge) -> float | None:
    return next((medium.capacity_gb for medium in kit.media if medium.id == of["medium"]), None)


def _apply_card(number: OwnNumber, kit: Kit, knowledge: Knowledge) -> Applied:
    media = tuple(
        one.model_copy(update={"capacity_gb": number.value}) if one.id == number.of["medium"] else one
        for one in kit.media
    )
    return kit.model_copy(update={"media": media}), knowledge


CARD = OwnKind(id="card", parts=("medium",), gather=_cards, estimate=_gear, usual=_card_usual, apply=_apply_card)


# Clocks, which help to find a clip's shot, and plan nothing.


def _clocks(evidence: Evidence) -> Readings:
    return {
        (clock.camera,): [Reading(clock.ahead_s, "clock", {"clips": float(clock.clips)})] * clock.clips
        for clock in evidence.clocks
        if clock.clips
    }


def _clock(readings: Sequence[Reading], usual: float | None, limits: Limits) -> Estimated:
    value = readings[0].value
    fine = limits.own_clock_fine_s
    return Estimated(value, value - fine, value + fine, fine, len(readings))


CLOCK = OwnKind(
    id="clock", parts=("camera",), gather=_clocks, estimate=_clock, usual=lambda of, kit, knowledge: 0.0,
    enters=False,
)  # fmt: skip
