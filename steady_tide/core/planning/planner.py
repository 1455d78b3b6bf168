"""Plan a shot: the one door to everything in this folder."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from itertools import combinations
from typing import Any

import numpy as np

from steady_tide.core import wording
from steady_tide.core.brief import Brief, School
from steady_tide.core.errors import BadBrief, Fault, NoLegalPlan
from steady_tide.core.kit import Kit, Knowledge, NdFilter
from steady_tide.core.planning import advice
from steady_tide.core.planning.dials import AUTOMATIC, Dial, Freedom, all_free, dials_of, pinned, read_pins
from steady_tide.core.planning.items import ITEMS
from steady_tide.core.planning.ledger import Priced, price, price_all
from steady_tide.core.planning.plan import CameraName, DialValue, Exposure, LedgerItem, Plan, Rival, Settings
from steady_tide.core.planning.reasons import contest, explain
from steady_tide.core.planning.search import STANDING_ALONE, Choice, Solution, cheapest, gate_seconds, search
from steady_tide.core.planning.situation import Situation, situation
from steady_tide.core.planning.space import Space, legal_gates, space_of
from steady_tide.core.sheet import CameraSheet
from steady_tide.core.stops import camera_ev


@dataclass(frozen=True)
class _Bench:
    """Everything that planning one camera for one brief needs."""

    at: Situation
    space: Space
    dials: dict[str, Dial]
    pins: dict[str, Any]
    names: dict[str, str]

    def free_but(self, *left_out: str) -> Freedom:
        return pinned(
            all_free(self.space),
            self.dials,
            [(name, value) for name, value in self.pins.items() if name not in left_out],
        )


def plan(brief: Brief, kit: Kit, knowledge: Knowledge, schools: bool = True) -> Plan:
    """Find the legal combination that gives up least.

    brief: what will be filmed; kit: cameras and glass to choose from; knowledge: places, mounts, weights;
    schools: whether to say, too, what other ways of working would change.
    Returns the plan of the best camera. Raises BadBrief where the brief names what does not exist,
    NotPlannedYet for a scenario without weights, NoLegalPlan where the pins exclude each other.
    """
    at = situation(brief, knowledge)
    filters = taken("filters", brief.kit.filters, {f.id: f for f in kit.filters})
    cameras = taken("cameras", brief.kit.cameras, {c.id: c for c in kit.cameras})
    if not cameras:
        raise BadBrief(Fault("kit.cameras", "there is no camera in the kit", "Take at least one along."))
    benches = [_bench(at, camera, filters, brief) for camera in cameras]
    solutions = [search(bench.at, bench.space, bench.free_but()) for bench in benches]
    best = min(range(len(benches)), key=lambda i: solutions[i].total)
    if not np.isfinite(solutions[best].total):
        raise no_legal_plan(benches[best])
    return _told(benches[best], solutions[best], knowledge if schools else None)


def taken(field: str, ids: tuple[str, ...] | None, owned: dict[str, Any]) -> list[Any]:
    """Pick what a brief takes from what the crew owns; a missing list means all.

    field: of the brief's kit, for messages; ids: the list; owned: by id. Returns the things.
    Raises BadBrief on an id that the crew does not own.
    """
    if ids is None:
        return list(owned.values())
    unknown = [
        Fault(f"kit.{field}[{index}]", f"the crew has no '{name}'", f"It has {', '.join(owned)}.")
        for index, name in enumerate(ids)
        if name not in owned
    ]
    if unknown:
        raise BadBrief(*unknown)
    return [owned[name] for name in dict.fromkeys(ids)]


def _bench(at: Situation, camera: CameraSheet, filters: list[NdFilter], brief: Brief) -> _Bench:
    space = space_of(camera, filters)
    dials = dials_of(space)
    return _Bench(at, space, dials, read_pins(dials, brief.pins, camera.name), {f.id: f.name for f in filters})


def is_legal(bench: _Bench, free: Freedom) -> bool:
    """Whether anything legal is left. bench: of the camera; free: what is not pinned away."""
    space = bench.space
    if not all(mask.any() for mask in free.masks.values()):
        return False
    looks = np.asarray((space.look_allowed & free.masks["looks"]).any(axis=1))
    pictures = space.pictures
    fit = np.flatnonzero(free.masks["pictures"] & looks[pictures.timing])
    for lens, rate in {(int(pictures.lens[p]), float(pictures.rate[p])) for p in fit}:
        if (legal_gates(space.gates, lens, rate) & free.masks["gates"]).any():
            return True
    return False


_TIED = ("pictures", "gates", "looks", "iso_pairs")  # where one dial's value can exclude another's


def _conflict(bench: _Bench, pins: dict[str, Any], fixed: tuple[tuple[str, Any], ...] = ()) -> tuple[str, ...]:
    """The smallest set of pins that, with what is fixed, leaves nothing legal; the first among equals."""
    tied = [name for name in pins if bench.dials[name].block in _TIED]
    for size in range(1, len(tied) + 1):
        for names in combinations(tied, size):
            tried = [*fixed, *((name, pins[name]) for name in names)]
            if not is_legal(bench, pinned(all_free(bench.space), bench.dials, tried)):
                return names
    return ()


def no_legal_plan(bench: _Bench) -> NoLegalPlan:
    """The error that names the smallest set of pins that exclude each other. bench: of the camera."""
    names = _conflict(bench, bench.pins)
    said = " and ".join(
        f"{_dial_name(name)} {wording.dial_value(name, bench.pins[name], bench.names)}" for name in names
    )
    return NoLegalPlan(
        f"pins: the {bench.space.sheet.name} does not offer {said} together. Release one of them.", names
    )


def _dial_name(dial: str) -> str:
    return (
        dial.removesuffix("_mb_s")
        .removesuffix("_k")
        .removesuffix("_s")
        .replace("_", " ")
        .replace("iso", "ISO")
        .replace("nd", "glass" if dial == "nd" else "nd")
    )


def _told(bench: _Bench, solution: Solution, knowledge: Knowledge | None) -> Plan:
    at, space, dials = bench.at, bench.space, bench.dials
    choice = solution.best()
    held = []
    for name, dial in dials.items():
        if dial.listed:
            needs_search = name in bench.pins and dial.block not in STANDING_ALONE
            without = search(at, space, bench.free_but(name)) if needs_search else solution
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
    return Plan(
        camera=CameraName(id=space.sheet.id, name=space.sheet.name),
        settings=_settings(space, choice),
        values={
            name: wording.dial_value(name, _value(dial, choice), bench.names)
            for name, dial in dials.items()
            if dial.listed
        },
        exposure=_exposure(bench, ours),
        light_source=at.light.source,
        ledger=_ledger(at, ours),
        given_up_stops=ours.given_up(at),
        reasons=reasons,
        runner_up_stops=runner_up,
        profiles=profiles,
        pins=bench.pins,
        warnings=tuple(advice.warnings(at, space, ours)),
        cautions=tuple(advice.cautions(at.brief, at.mount, at.dark)),
        schools=() if knowledge is None else tuple(_rivals(bench, solution, ours, knowledge)),
        combinations=space.combinations,
    )


def _value(dial: Dial, choice: Choice) -> Any:
    return dial.values[int(dial.of_candidate[getattr(choice, dial.block)])]


def _dial_value(bench: _Bench, dial: Dial, value: Any, stops: float) -> DialValue:
    legal = bool(np.isfinite(stops))
    return DialValue(
        value=value,
        label=wording.dial_value(dial.id, value, bench.names),
        legal=legal,
        given_up_stops=stops if legal else None,
        why_not=None if legal else _why_not(bench, dial, value),
    )


def _why_not(bench: _Bench, dial: Dial, value: Any) -> str:
    """Name the smallest set of other pins with which a value is not offered."""
    others = {name: pin for name, pin in bench.pins.items() if name != dial.id}
    names = _conflict(bench, others, ((dial.id, value),))
    if not names:
        return "Not offered with this kit."
    said = " and ".join(f"{_dial_name(n)} {wording.dial_value(n, others[n], bench.names)}" for n in names)
    return f"Not offered with {said}, which you pinned."


def _settings(space: Space, choice: Choice) -> Settings:
    sheet, pictures = space.sheet, space.pictures
    mode = sheet.modes[int(pictures.mode[choice.pictures])]
    lens, f_number, _ = space.gates[choice.gates]
    look = space.looks[choice.looks]
    floor, ceiling = space.iso_pairs[choice.iso_pairs]
    seconds = gate_seconds(space, choice.gates)
    return Settings(
        lens=sheet.lenses[lens].id,
        f_number=f_number,
        width=mode.width,
        height=mode.height,
        frame_rate=float(pictures.rate[choice.pictures]),
        view=sheet.views[int(pictures.view[choice.pictures])].id,
        stabilisation=sheet.stabilisation[int(pictures.steadying[choice.pictures])].id,
        shutter_s=seconds,
        shutter_mode=AUTOMATIC if seconds is None else "fixed",
        iso_floor=floor,
        iso_ceiling=ceiling,
        exposure_compensation=space.compensations[choice.compensations],
        white_balance_k=space.balances[choice.balances],
        profile=look.profile.id,
        bit_depth=look.bit_depth,
        codec=look.codec.id,
        bit_rate_mb_s=look.bit_rate_mb_s,
        sharpness=sheet.sharpness[choice.sharpness],
        high_dynamic_range=look.high_dynamic_range,
        nd=space.glasses[choice.glasses].ids,
        colour_filter=None,
        wind_reduction=sheet.wind_reduction[choice.wind],
    )


def _exposure(bench: _Bench, ours: Priced) -> Exposure:
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


def _rivals(bench: _Bench, solution: Solution, ours: Priced, knowledge: Knowledge) -> Iterator[Rival]:
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
