"""A test ladder: one dial varies, all else stays; what of that can be held, in which order it is filmed, how long it takes."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated, Any

import numpy as np
from pydantic import Field

from steady_tide.core import sizes
from steady_tide.core.brief import Brief
from steady_tide.core.errors import BadInput, Fault, NoLegalPlan
from steady_tide.core.frozen import Frozen
from steady_tide.core.gear import Mount
from steady_tide.core.knowledge import Limits
from steady_tide.core.motion import excursion_deg, left_over_deg
from steady_tide.core.planning.dials.kind import AUTOMATIC
from steady_tide.core.planning.plan import Plan
from steady_tide.core.sheet import CameraSheet

Planner = Callable[[Brief], Plan]
LEAST_RUNGS = 2
PASSES = (1, 2, 2 * 2)  # in all but the first as many there as back

# What a ladder of each dial is about: the quantity that is judged, None where the pictures are only liked or not.
DIALS: dict[str, str | None] = {
    "iso_ceiling": "snr",
    "shutter_s": "smear_px",
    "stabilisation": "left_deg",
    "bit_rate_mb_s": "bits_per_pixel",
    "profile": None,
    "sharpness": None,
    "view": None,
    "exposure_compensation": None,
}
# Dials that belong to the varied one and go with it.
TOGETHER = {"iso_ceiling": ("iso_floor",), "profile": ("bit_depth", "codec", "bit_rate_mb_s")}


class RungPlan(Frozen):
    """One rung: the value of its dial, and what the plan with it comes to. left_deg: wander that steadying leaves; brighter
    stops: how much brighter than metered, both ends together."""

    value: Any
    pins: dict[str, Any]
    iso_used: tuple[int, int]
    shutter_used_s: tuple[float, float]
    snr: float
    smear_px: float
    left_deg: float
    bits_per_pixel: float
    field_deg: float
    brighter_stops: float
    given_up_stops: float


class NotHeld(Frozen):
    """What cannot stay the same over a ladder. what: `exposure_time`, `gain`, `brightness`, `field`, or `dial`; facts: its
    quantities."""

    what: str
    facts: dict[str, Any] = Field(default_factory=dict)


class Ladder(Frozen):
    """A ladder as it is filmed.

    dial: that varies; rungs: its plans; best_first: rungs from the best picture to the worst, as planned; held: all other dials
    with their values; not_held: what moves all the same; order: rungs as they are filmed; minutes: in all; quantity: what is
    judged; visible: whether neighbours can be told apart.
    """

    dial: str
    camera: str
    rungs: Annotated[tuple[RungPlan, ...], Field(min_length=LEAST_RUNGS, max_length=sizes.RUNGS)]
    best_first: tuple[int, ...]
    held: dict[str, Any]
    not_held: tuple[NotHeld, ...]
    order: tuple[int, ...]
    take_s: float
    minutes: float
    quantity: str | None
    visible: bool


@dataclass(frozen=True)
class LadderBasis:
    """What ladders of a shot are made from. plan: of the shot; sheet: of its camera; mount: how it is held; planner: plans a
    brief on that camera."""

    brief: Brief
    plan: Plan
    sheet: CameraSheet
    mount: Mount | None
    limits: Limits
    planner: Planner


def offered(basis: LadderBasis) -> tuple[Ladder, ...]:
    """Ladders worth filming of a shot: their pictures differ visibly, and the rest can stay the same. basis: of the shot. Returns
    one for each such dial."""
    found = []
    for dial in DIALS:
        values = _values_about(basis, dial)
        if len(values) < LEAST_RUNGS:
            continue
        rungs = [rung for rung in (_rung(basis, dial, value) for value in values) if rung is not None]
        if len(rungs) >= LEAST_RUNGS:
            ladder = _made(basis, dial, rungs, 2)
            if ladder.visible and all(one.what != "dial" for one in ladder.not_held):
                found.append(ladder)
    return tuple(found)


def ladder_of(basis: LadderBasis, dial: str, values: Sequence[Any], passes: int = 2) -> Ladder:
    """A ladder of one dial.

    basis: of the shot; dial: one of `DIALS`; values: two to six, as the plan's profile has them; passes: how often each is
    filmed. Returns it. Raises BadInput where the dial or a value cannot be had.
    """
    if dial not in DIALS:
        raise BadInput(Fault("dial", f"ladders of {dial} are not made", f"Use one of {', '.join(DIALS)}."))
    legal = _legal(basis, dial)
    unique = [value for place, value in enumerate(values) if value not in values[:place]]
    for value in unique:
        if value not in legal:
            said = ", ".join(str(one) for one in legal) or "none"
            raise BadInput(Fault("values", f"{value} is not to be had in this shot", f"Use some of {said}."))
    if not LEAST_RUNGS <= len(unique) <= sizes.RUNGS:
        raise BadInput(Fault("values", f"are {len(unique)}", f"Choose {LEAST_RUNGS} to {sizes.RUNGS} that differ."))
    if passes not in PASSES:
        raise BadInput(Fault("passes", f"{passes} is not offered", "Use 1, 2 or 4."))
    rungs = []
    for value in unique:
        rung = _rung(basis, dial, value) or _rung(basis, dial, value, loose=True)
        if rung is None:
            raise BadInput(Fault("values", f"no plan of this shot has {value}", "Leave it out."))
        rungs.append(rung)
    return _made(basis, dial, rungs, passes)


def _legal(basis: LadderBasis, dial: str) -> list[Any]:
    return [entry.value for entry in basis.plan.profiles.get(dial, ()) if entry.legal]


def _values_about(basis: LadderBasis, dial: str) -> list[Any]:
    """Legal values nearest to the chosen one, as many as are looked at with care, in their own order."""
    legal, chosen = _legal(basis, dial), basis.plan.chosen.get(dial)
    legal = [value for value in legal if value is not None]
    if chosen not in legal:
        return legal[: int(basis.limits["ladder_most_rungs"])]
    most, at = int(basis.limits["ladder_most_rungs"]), legal.index(chosen)
    first = max(0, min(at - most // 2, len(legal) - most))
    return legal[first : first + most]


def _pins(basis: LadderBasis, dial: str, value: Any, loose: bool) -> dict[str, Any]:
    """All dials but the varied one as planned, or, loosely, only those that the person pinned."""
    together = TOGETHER.get(dial, ())
    kept = basis.brief.pins if loose else basis.plan.chosen
    pins = {name: held for name, held in kept.items() if name not in (dial, "camera", *together)}
    pins[dial] = value
    if dial == "iso_ceiling" and value in basis.sheet.iso.floors:
        pins["iso_floor"] = value  # gain that may fall below it would be no rung
    return pins


def _rung(basis: LadderBasis, dial: str, value: Any, loose: bool = False) -> RungPlan | None:
    pins = _pins(basis, dial, value, loose)
    try:
        made = basis.planner(basis.brief.model_copy(update={"pins": pins}))
    except NoLegalPlan:
        return None
    exposure = made.exposure
    return RungPlan(
        value=value,
        pins={name: said for name, said in made.chosen.items() if name != "camera"},
        iso_used=exposure.iso_used,
        shutter_used_s=exposure.shutter_used_s,
        snr=exposure.snr,
        smear_px=exposure.smear_px,
        left_deg=_left_deg(basis, made),
        bits_per_pixel=exposure.bits_per_pixel,
        field_deg=exposure.field_deg,
        brighter_stops=exposure.over_stops - exposure.under_stops,
        given_up_stops=made.given_up_stops,
    )


def _left_deg(basis: LadderBasis, made: Plan) -> float:
    level = next((one for one in basis.sheet.stabilisation if one.id == made.settings.stabilisation), None)
    if basis.mount is None or level is None:
        return 0.0
    margin = made.exposure.field_deg * (1.0 / level.keeps - 1.0) / 2.0
    return float(left_over_deg(excursion_deg(basis.mount.shake_deg_s, basis.mount.settle_s), margin, level.leak))


def _made(basis: LadderBasis, dial: str, rungs: Sequence[RungPlan], passes: int) -> Ladder:
    limits = basis.limits
    take_s = min(limits["ladder_take_s"], basis.brief.take.length_s)
    order = order_of(len(rungs), passes)
    changes = sum(before != after for before, after in pairwise(order))
    quantity = DIALS[dial]
    return Ladder(
        dial=dial,
        camera=basis.plan.camera.id,
        rungs=tuple(rungs),
        best_first=best_first(rungs, quantity),
        held={
            name: value
            for name, value in rungs[0].pins.items()
            if name != dial and all(_plain(rung.pins.get(name)) == _plain(value) for rung in rungs)
        },
        not_held=tuple(not_held(dial, rungs, limits)),
        order=order,
        take_s=take_s,
        minutes=(len(order) * take_s + (changes + 1) * limits["ladder_change_s"]) / 60.0,
        quantity=quantity,
        visible=all(_differ(a, b, dial, quantity, limits) for a, b in pairwise(rungs)),
    )


def _plain(value: Any) -> Any:
    return tuple(value) if isinstance(value, list) else value


def best_first(rungs: Sequence[RungPlan], quantity: str | None) -> tuple[int, ...]:
    """Rungs from the best picture to the worst by the quantity that is judged; as they stand where there is none. Returns
    places."""
    if quantity is None:
        return tuple(range(len(rungs)))
    sign = 1.0 if quantity in ("smear_px", "left_deg") else -1.0
    return tuple(sorted(range(len(rungs)), key=lambda place: sign * float(getattr(rungs[place], quantity))))


def order_of(count: int, passes: int) -> tuple[int, ...]:
    """The order in which rungs are filmed: there and back, so that a light that drifts evenly favours none.

    count: of rungs; passes: how often each is filmed; once, they are filmed from the middle outwards. Returns places of rungs.
    With two or four passes the mean moment of every rung is the same.
    """
    there = tuple(range(count))
    if passes == 1:
        middle = (count - 1) / 2.0
        return tuple(sorted(there, key=lambda place: (abs(place - middle), place)))
    return tuple(place for turn in range(passes) for place in (there if turn % 2 == 0 else there[::-1]))


def not_held(dial: str, rungs: Sequence[RungPlan], limits: Limits) -> list[NotHeld]:
    """What moves over a ladder besides its dial. dial: that varies; rungs: their plans. Returns it, the worst first."""
    found = []
    together = TOGETHER.get(dial, ())
    names = dict.fromkeys(name for rung in rungs for name in rung.pins)
    for name in names:
        values = [_plain(rung.pins.get(name)) for rung in rungs]
        if name != dial and name not in together and any(value != values[0] for value in values):
            found.append(NotHeld(what="dial", facts={"dial": name, "values": [rung.pins.get(name) for rung in rungs]}))
    seen = limits["ladder_visible_stops"]
    followed = dial == "iso_ceiling" and all(rung.pins.get("shutter_s") == AUTOMATIC for rung in rungs)
    if followed:
        # Where gain is held and the shutter is free, the shutter makes up for the gain.
        least = min(rung.iso_used[0] for rung in rungs)
        times = [rung.shutter_used_s[0] * least / rung.iso_used[0] for rung in rungs]
        found += _moving("exposure_time", times, seen)
    elif dial != "shutter_s":
        found += _moving("exposure_time", [rung.shutter_used_s[0] for rung in rungs], seen)
    if dial != "iso_ceiling":
        found += _moving("gain", [float(rung.iso_used[1]) for rung in rungs], seen)
    brightness = [rung.brighter_stops for rung in rungs]
    if not followed and dial != "exposure_compensation" and max(brightness) - min(brightness) >= seen:
        found.append(NotHeld(what="brightness", facts={"stops": max(brightness) - min(brightness)}))
    fields = [rung.field_deg for rung in rungs]
    if dial != "view" and max(fields) / min(fields) - 1.0 >= limits["ladder_visible_share"]:
        found.append(NotHeld(what="field", facts={"low": min(fields), "high": max(fields)}))
    return found


def _moving(what: str, values: Sequence[float], seen: float) -> list[NotHeld]:
    low, high = min(values), max(values)
    if low <= 0.0 or np.log2(high / low) < seen:
        return []
    return [NotHeld(what=what, facts={"low": low, "high": high})]


def _differ(a: RungPlan, b: RungPlan, dial: str, quantity: str | None, limits: Limits) -> bool:
    """Whether two neighbours on a ladder can be told apart."""
    seen = limits["ladder_visible_stops"]
    if quantity is None:
        if dial == "view":
            return abs(a.field_deg / b.field_deg - 1.0) >= limits["ladder_visible_share"]
        return dial != "exposure_compensation" or abs(float(a.value) - float(b.value)) >= seen
    one, other = float(getattr(a, quantity)), float(getattr(b, quantity))
    if min(one, other) <= 0.0:
        return one != other
    if quantity == "smear_px" and max(one, other) < limits["rushes_smear_px_noticed"]:
        return False
    return abs(float(np.log2(one / other))) >= seen


def changed_since(ladder: Ladder, chosen: Mapping[str, Any]) -> dict[str, tuple[Any, Any]]:
    """What the shot's plan has otherwise now than the ladder held. chosen: of the plan now. Returns before and after by dial."""
    return {
        name: (value, chosen[name])
        for name, value in ladder.held.items()
        if name in chosen and _plain(chosen[name]) != _plain(value)
    }
