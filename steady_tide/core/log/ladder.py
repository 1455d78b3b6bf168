"""A test ladder: one dial varies, all else stays; what of that can be held, in which order it is filmed, how long it takes."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Annotated, Any

import numpy as np
from pydantic import Field, model_validator

from steady_tide.core.brief.brief import Brief
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.gear.view_names import todays_view
from steady_tide.core.log.quantities import BITS, LEFT, SMEAR, SNR, better_first
from steady_tide.core.physics.motion import excursion_deg, left_over_deg
from steady_tide.core.planning.dials.dial_kind import AUTOMATIC
from steady_tide.core.planning.plan import Plan
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadInput, Fault, NoLegalPlan
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.limits import Limits
from steady_tide.core.rushes.clip_plan import ClipPlan, clip_plan

Planner = Callable[[Brief], Plan]
LEAST_RUNGS = 2
CAMERA = "camera"
PASSES = (1, 2, 2 * 2)  # in all but the first as many there as back

# What a ladder of each dial is about: the quantity that is judged, None where the pictures are only liked or not.
DIALS: dict[str, str | None] = {
    "iso_ceiling": SNR,
    "shutter_s": SMEAR,
    "stabilisation": LEFT,
    "bit_rate_mb_s": BITS,
    "profile": None,
    "sharpness": None,
    "view": None,
    "exposure_compensation": None,
}
# Dials that belong to the varied one and go with it.
TOGETHER = {"iso_ceiling": ("iso_floor",), "profile": ("bit_depth", "codec", "bit_rate_mb_s")}


class RungPlan(Frozen):
    """One rung: the value of its dial, and what a take on it is held against. left_deg: wander that stabilisation leaves;
    given_up_stops: of the plan with it."""

    value: str | int | float | bool
    planned: ClipPlan
    left_deg: float
    given_up_stops: float

    @property
    def pins(self) -> dict[str, Any]:
        """All dials of its plan but the camera."""
        return {name: value for name, value in self.planned.chosen.items() if name != CAMERA}

    @property
    def brighter_stops(self) -> float:
        """How much brighter than metered it comes out, both ends of the light together."""
        return self.planned.exposure.over_stops - self.planned.exposure.under_stops

    def amount(self, quantity: str) -> float:
        """What it comes to in a quantity, as planned."""
        return self.left_deg if quantity == LEFT else float(getattr(self.planned.exposure, quantity))


class NotHeld(Frozen):
    """What cannot stay the same over a ladder. what: `exposure_time`, `gain`, `brightness`, `field`, or `dial`; facts: its
    quantities."""

    what: str
    facts: dict[str, Any] = Field(default_factory=dict)


class Ladder(Frozen):
    """A ladder as it is filmed. dial: that varies; rungs: its plans; order: rungs as they are filmed; take_s: of each; minutes:
    in all."""

    dial: str
    camera: str
    rungs: Annotated[tuple[RungPlan, ...], Field(min_length=LEAST_RUNGS, max_length=sizes.RUNGS)]
    order: Annotated[tuple[Annotated[int, Field(ge=0)], ...], Field(max_length=sizes.RUNGS * max(PASSES))]
    take_s: Annotated[float, Field(gt=0, allow_inf_nan=False)]
    minutes: Annotated[float, Field(gt=0, allow_inf_nan=False)]

    @model_validator(mode="before")
    @classmethod
    def _todays_views(cls, data: Any) -> Any:
        if not isinstance(data, dict) or data.get("dial") != "view" or not isinstance(data.get("rungs"), list | tuple):
            return data
        rungs = [
            {**rung, "value": todays_view(rung.get("value"))} if isinstance(rung, dict) else rung
            for rung in data["rungs"]
        ]
        return {**data, "rungs": rungs}

    @model_validator(mode="after")
    def _whole(self) -> Ladder:
        if self.dial not in DIALS:
            raise ValueError(f"ladders of {self.dial[:60]} are not made; use one of {', '.join(DIALS)}")
        if any(place >= len(self.rungs) for place in self.order):
            raise ValueError(f"the order names a rung that is not there; the last one is {len(self.rungs) - 1}")
        return self

    @property
    def quantity(self) -> str | None:
        """What is judged of it; None where its pictures are only liked or not."""
        return DIALS[self.dial]

    @property
    def best_first(self) -> tuple[int, ...]:
        """Rungs from the best picture to the worst, as planned; as they stand where nothing is measured."""
        places = range(len(self.rungs))
        if self.quantity is None:
            return tuple(places)
        return better_first(self.quantity, {place: self.rungs[place].amount(self.quantity) for place in places})

    @property
    def held(self) -> dict[str, Any]:
        """All dials that stay, with their values."""
        return {
            name: value
            for name, value in self.rungs[0].pins.items()
            if name != self.dial and all(_plain(rung.pins.get(name)) == _plain(value) for rung in self.rungs)
        }


@dataclass(frozen=True)
class LadderBasis:
    """What ladders of a shot are made from. plan: of the shot; sheet: of its camera; knowledge: with which it was made; planner:
    plans a brief on that camera."""

    brief: Brief
    plan: Plan
    sheet: CameraSheet
    knowledge: Knowledge
    planner: Planner

    @property
    def limits(self) -> Limits:
        """Of judgement."""
        return self.knowledge.limits


def offered(basis: LadderBasis, dials: Iterable[str] = DIALS, passes: int = 2) -> tuple[Ladder, ...]:
    """Ladders worth filming of a shot: their pictures differ visibly, and the rest can stay the same.

    basis: of the shot; dials: looked at; passes: how often each rung is filmed. Returns one for each such dial. Raises BadInput
    where so many passes are not offered.
    """
    _check_passes(passes)
    found = []
    for dial in dials:
        values = _values_about(basis, dial)
        if len(values) < LEAST_RUNGS:
            continue
        rungs = [rung for rung in (_rung(basis, dial, value) for value in values) if rung is not None]
        if len(rungs) >= LEAST_RUNGS:
            ladder = _made(basis, dial, rungs, passes)
            if visible(ladder, basis.limits) and all(one.what != "dial" for one in not_held(ladder, basis.limits)):
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
    values = [todays_view(value) if dial == "view" else value for value in values]
    for value in values:
        if value not in legal:
            said = ", ".join(str(one) for one in legal) or "none"
            raise BadInput(Fault("values", f"{value} is not to be had in this shot", f"Use some of {said}."))
    # As the plan has them: 800.0 is its 800.
    unique = [legal[place] for place in dict.fromkeys(legal.index(value) for value in values)]
    if not LEAST_RUNGS <= len(unique) <= sizes.RUNGS:
        raise BadInput(Fault("values", f"are {len(unique)}", f"Choose {LEAST_RUNGS} to {sizes.RUNGS} that differ."))
    _check_passes(passes)
    rungs = []
    for value in unique:
        rung = _rung(basis, dial, value) or _rung(basis, dial, value, loose=True)
        if rung is None:
            raise BadInput(Fault("values", f"no plan of this shot has {value}", "Leave it out."))
        rungs.append(rung)
    return _made(basis, dial, rungs, passes)


def _check_passes(passes: int) -> None:
    if passes not in PASSES:
        raise BadInput(Fault("passes", f"{passes} is not offered", "Use 1, 2 or 4."))


def _legal(basis: LadderBasis, dial: str) -> list[Any]:
    return [entry.value for entry in basis.plan.profiles.get(dial, ()) if entry.legal]


def _values_about(basis: LadderBasis, dial: str) -> list[Any]:
    """Legal values nearest to the chosen one, as many as are looked at with care, in their own order."""
    legal, chosen = _legal(basis, dial), basis.plan.chosen.get(dial)
    legal = [value for value in legal if value is not None]
    if chosen not in legal:
        return legal[: int(basis.limits.ladder_most_rungs)]
    most, at = int(basis.limits.ladder_most_rungs), legal.index(chosen)
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
    return rung_with(basis, value, _pins(basis, dial, value, loose))


def rung_with(basis: LadderBasis, value: Any, pins: dict[str, Any]) -> RungPlan | None:
    """A rung by its pins. basis: of the ladder; value: of its dial; pins: of all dials that are held. Returns None where no plan goes with them."""
    try:
        made = basis.planner(basis.brief.model_copy(update={"pins": pins}))
    except NoLegalPlan:
        return None
    planned = clip_plan(basis.brief, made, basis.sheet, basis.knowledge)
    return RungPlan(
        value=value, planned=planned, left_deg=_left_deg(basis, planned), given_up_stops=made.given_up_stops
    )


def _left_deg(basis: LadderBasis, planned: ClipPlan) -> float:
    """What stabilisation leaves of the wander of whoever holds the camera, degrees."""
    move, own = basis.brief.camera_move, basis.knowledge.own
    mount = basis.knowledge.mounts.get(move.mount)
    if mount is None or planned.margin_deg is None or planned.leak is None:
        return 0.0
    theirs = own.shake(move.hands, move.mount)
    shake = mount.shake_deg_s if theirs is None else theirs.value
    return float(left_over_deg(excursion_deg(shake, mount.settle_s), planned.margin_deg, planned.leak))


def _made(basis: LadderBasis, dial: str, rungs: Sequence[RungPlan], passes: int) -> Ladder:
    take_s = min(basis.limits.ladder_take_s, basis.brief.take.length_s)
    order = order_of(len(rungs), passes)
    changes = sum(before != after for before, after in pairwise(order))
    seconds = len(order) * take_s + (changes + 1) * basis.limits.ladder_change_s
    return Ladder(
        dial=dial, camera=basis.plan.camera.id, rungs=tuple(rungs), order=order, take_s=take_s, minutes=seconds / 60.0
    )


def _plain(value: Any) -> Any:
    return tuple(value) if isinstance(value, list) else value


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


def not_held(ladder: Ladder, limits: Limits) -> list[NotHeld]:
    """What moves over a ladder besides its dial. limits: of judgement. Returns it, the worst first."""
    found = []
    dial, rungs = ladder.dial, ladder.rungs
    together = TOGETHER.get(dial, ())
    names = dict.fromkeys(name for rung in rungs for name in rung.pins)
    for name in names:
        values = [_plain(rung.pins.get(name)) for rung in rungs]
        if name != dial and name not in together and any(value != values[0] for value in values):
            found.append(NotHeld(what="dial", facts={"dial": name, "values": [rung.pins.get(name) for rung in rungs]}))
    seen = limits.ladder_visible_stops
    shown = [rung.planned.exposure for rung in rungs]
    followed = dial == "iso_ceiling" and all(rung.pins.get("shutter_s") == AUTOMATIC for rung in rungs)
    if followed:
        # Where gain is held and the shutter is free, the shutter makes up for the gain.
        least = min(one.iso_used[0] for one in shown)
        times = [one.shutter_used_s[0] * least / max(1, one.iso_used[0]) for one in shown]
        found += _moving("exposure_time", times, seen)
    elif dial != "shutter_s":
        found += _moving("exposure_time", [one.shutter_used_s[0] for one in shown], seen)
    if dial != "iso_ceiling":
        found += _moving("gain", [float(one.iso_used[1]) for one in shown], seen)
    brightness = [rung.brighter_stops for rung in rungs]
    if not followed and dial != "exposure_compensation" and max(brightness) - min(brightness) >= seen:
        found.append(NotHeld(what="brightness", facts={"stops": max(brightness) - min(brightness)}))
    fields = [one.field_deg for one in shown]
    if dial != "view" and max(fields) - min(fields) >= limits.ladder_visible_share * min(fields):
        found.append(NotHeld(what="field", facts={"low": min(fields), "high": max(fields)}))
    return found


def _moving(what: str, values: Sequence[float], seen: float) -> list[NotHeld]:
    low, high = min(values), max(values)
    if low <= 0.0 or np.log2(high / low) < seen:
        return []
    return [NotHeld(what=what, facts={"low": low, "high": high})]


def visible(ladder: Ladder, limits: Limits) -> bool:
    """Whether neighbours on a ladder can be told apart. limits: of judgement."""
    return all(_differ(a, b, ladder, limits) for a, b in pairwise(ladder.rungs))


def _differ(a: RungPlan, b: RungPlan, ladder: Ladder, limits: Limits) -> bool:
    seen = limits.ladder_visible_stops
    if ladder.quantity is None:
        one, other = a.planned, b.planned
        if ladder.dial == "view":
            least, most = sorted((one.exposure.field_deg, other.exposure.field_deg))
            return most - least >= limits.ladder_visible_share * least
        apart = abs(one.settings.exposure_compensation - other.settings.exposure_compensation)
        return ladder.dial != "exposure_compensation" or apart >= seen
    less, more = sorted((a.amount(ladder.quantity), b.amount(ladder.quantity)))
    if less <= 0.0:
        return less != more
    if ladder.quantity == SMEAR and more < limits.rushes_smear_px_noticed:
        return False
    return float(np.log2(more / less)) >= seen


def changed_since(ladder: Ladder, chosen: Mapping[str, Any]) -> dict[str, tuple[Any, Any]]:
    """What the shot's plan has otherwise now than the ladder held. chosen: of the plan now. Returns before and after by dial."""
    return {
        name: (value, chosen[name])
        for name, value in ladder.held.items()
        if name in chosen and _plain(chosen[name]) != _plain(value)
    }
