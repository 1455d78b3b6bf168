"""Dials of exposure: aperture, shutter, ISO, glass, compensation; the housing, which is put on with the glass."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from steady_tide.core.planning.comparison import Comparison
from steady_tide.core.planning.dials.dial_kind import AUTOMATIC, NONE, NOT_OFFERED, DialKind, as_offered
from steady_tide.core.planning.space import Gate, Glass
from steady_tide.core.quantities.stops import camera_ev, read_seconds

JOIN = "+"  # between pieces of glass that are worn together


def _shutter(gate: Gate) -> Any:
    return AUTOMATIC if gate[2] != gate[2] else gate[2]


def _longest_first(seconds: Any) -> float:
    return float("inf") if seconds == AUTOMATIC else -float(seconds)


def _seconds_as_offered(values: Sequence[Any], given: Any) -> Any:
    return as_offered(values, read_seconds(given) if given not in values else given)


def _shutter_settings(_: Any, __: Any, seconds: Any) -> dict[str, Any]:
    automatic = seconds == AUTOMATIC
    return {"shutter_s": None if automatic else seconds, "shutter_mode": AUTOMATIC if automatic else "fixed"}


def _shutter_lead(told: Comparison, item: str) -> tuple[str, dict[str, Any]] | None:
    at, ours = told.at, told.ours
    if item not in ("motion_look", "loose_shutter"):
        return None
    look = at.brief.subject.motion_look
    near = abs(np.log2(ours.shutter_dim_s / ours.wanted_shutter_s)) < at.limits.as_wanted_stops
    if near and look == "natural" and not at.lapse:
        rate = float(told.space.pictures.rate[ours.choice["pictures"]])
        return "half_turn", {"shown_fps": min(rate, at.shown_fps)}
    if look == "frozen" and item == "motion_look":
        return "frozen", {"wanted_s": ours.wanted_shutter_s}
    return None


def _ceiling_lead(told: Comparison, item: str) -> tuple[str, dict[str, Any]] | None:
    ours = told.ours
    return ("noise", {"snr": ours.snr_dim, "limit": told.at.snr_limit(ours.shutter_dim_s)}) if item == "noise" else None


def _glass_ids(glass: Glass) -> str:
    return JOIN.join(glass.ids) or NONE


def _glass_as_offered(values: Sequence[Any], given: Any) -> Any:
    if not isinstance(given, str):
        given = JOIN.join(given) if isinstance(given, (list, tuple)) else NONE if given is None else given
    if isinstance(given, str) and given not in values:
        wanted = sorted(part for part in given.split(JOIN) if part)
        return next((v for v in values if sorted(v.split(JOIN)) == wanted), NONE if not wanted else NOT_OFFERED)
    return as_offered(values, given)


def _glass_lead(told: Comparison, item: str) -> tuple[str, dict[str, Any]] | None:
    if item not in ("over", "under", "motion_look", "loose_shutter"):
        return None
    choice, space = told.ours.choice, told.space
    glass = space.glasses[choice["glasses"]]
    floor, _ = space.iso_pairs[choice["iso_pairs"]]
    _, f_number, _ = space.gates[choice["gates"]]
    bright = told.at.light.ev100[1] + np.log2(floor / 100.0)
    asked = float(bright) - float(camera_ev(f_number, told.ours.shutter_bright_s))
    if not glass.ids or asked <= 0:
        return None
    return "takes", {"glass": list(glass.ids), "colour": glass.colour, "taken_stops": glass.stops, "asked_stops": asked}


def _one_aperture(_: Any, space: Any) -> bool:
    return all(len(lens.f_numbers) == 1 for lens in space.sheet.lenses)


EXPOSING_DIALS = (
    DialKind(
        id="f_number", block="gates", word="aperture", form="aperture", row="aperture", phrase="an aperture of {value}",
        read=lambda gate: gate[1], key=float, settled=_one_aperture,
    ),
    DialKind(
        id="shutter_s", block="gates", word="shutter", form="seconds", row="shutter",
        read=_shutter, key=_longest_first, reads=_seconds_as_offered, writes=_shutter_settings,
        lead=_shutter_lead, tied="Between this and {rival} the light decides nothing.",
        leads={
            "half_turn": "Half of the frame interval at {shown_fps:fps}.",
            "frozen": "Frozen asks for {wanted_s:seconds}.",
        },
    ),
    DialKind(
        id="iso_floor", block="iso_pairs", word="lowest ISO", form="iso", row="iso",
        read=lambda pair: pair[0], phrase="{value} as the lowest", noun="lowest ISO",
    ),
    DialKind(
        id="iso_ceiling", block="iso_pairs", word="highest ISO", form="iso", row="iso",
        read=lambda pair: pair[1], phrase="{value} as the highest", noun="highest ISO",
        lead=_ceiling_lead, leads={"noise": "Signal to noise {snr:whole}, limit {limit:whole}."},
    ),
    DialKind(
        id="nd", block="glasses", word="ND filter", form="things", row="glass", by_hand=True, nothing="no filter",
        read=_glass_ids, order=lambda _: (), reads=_glass_as_offered,
        writes=lambda _, __, worn: {"nd": () if worn == NONE else tuple(worn.split(JOIN))},
        lead=_glass_lead, leads={"takes": "{asked_stops:stops} stops too bright; {worn} removes {taken_stops:g}."},
        only={NONE: "No filter at hand fits."},
    ),
    DialKind(
        id="colour_filter", block="glasses", word="colour filter", form="things", row="glass", by_hand=True,
        nothing="no filter", read=lambda glass: glass.colour or NONE, order=lambda _: (),
        writes=lambda _, __, worn: {"colour_filter": None if worn == NONE else worn},
        only={NONE: "No colour filter at hand fits here."},
    ),
    DialKind(
        id="red_gain_stops", block="glasses", word="red gain", form="stops", row="balance", read=lambda glass: glass.red_gain_stops,
        key=float, phrase="{value} of red gain", off="no red gain",
        settled=lambda at, space: at.light.deepest_m is None,
    ),
    DialKind(
        id="housing", block="glasses", word="housing", form="things", row="glass", by_hand=True, nothing="no housing",
        read=lambda glass: glass.housing or NONE, order=lambda _: (),
        writes=lambda _, __, worn: {"housing": None if worn == NONE else worn},
        tied="Nothing asks for {rival}.",
        only={
            NONE: "It stays dry.",
            "none, wet": "It is not taken into water without one.",
            "wet": "Without it, it is not proof.",
        },
    ),
    DialKind(
        id="exposure_compensation", block="compensations", word="exposure compensation", form="signed", row="exposure",
        read=float, key=float,
    ),
    DialKind(
        id="shutter_mode", block="gates", word="shutter mode", form="plain", listed=False,
        read=lambda gate: AUTOMATIC if gate[2] != gate[2] else "fixed", writes=lambda *_: {},
    ),
)  # fmt: skip
