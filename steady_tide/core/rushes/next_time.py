"""Next time: what the clips of a shot tell of its light, its hand and its meter, and the plan that follows from it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

import numpy as np

from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.items import Mount
from steady_tide.core.gear.kit import Kit
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.light.resolving import resolve
from steady_tide.core.light.sources import HIGHEST_EV100, LOWEST_EV100, LampLight, MeterLight, WaterLight
from steady_tide.core.look.exposure_of_plan import taking_of
from steady_tide.core.planning.plan import Plan
from steady_tide.core.quantities.errors import NoLegalPlan
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.limits import Limits
from steady_tide.core.rushes.clip_plan import ClipPlan
from steady_tide.core.rushes.content import content_stops, is_fixed
from steady_tide.core.rushes.measures import ClipMeasures
from steady_tide.core.rushes.timeline import Timeline

TENTHS = 10.0  # light is told to a tenth of a stop
ENDS = (5.0, 95.0)  # percentiles that count as the dimmest and the brightest

Planner = Callable[[Brief, Kit, Knowledge, School, str], Plan]


class Learned(Frozen):
    """What clips tell. ev100: of the light, None where nothing tells; told: whether the picture came to an end of what the
    camera holds, or its exposure was fixed, so that the light is known and not only held; shake_times: the hand against
    what is usual; habit_stops: how much more the meter gives than its sheet says; clips: that told."""

    ev100: tuple[float, float] | None = None
    planned_ev100: tuple[float, float]
    told: bool = False
    shake_times: float | None = None
    habit_stops: float | None = None
    clips: int


class Changed(Frozen):
    """A dial that would be set otherwise."""

    dial: str
    was: Any
    now: Any


class NextTime(Frozen):
    """A shot planned again with what was measured. was_stops: what the settings of then give up in the light that there was,
    None where they do not go together any more; now_stops: what the new ones do; plan: the new one; brief: in the light
    that there was."""

    learned: Learned
    changes: tuple[Changed, ...]
    was_stops: float | None
    now_stops: float
    plan: Plan
    brief: Brief


Filmed = tuple[ClipMeasures, Timeline, ClipPlan]


def learned_from(
    clips: Sequence[Filmed],
    others: Sequence[Filmed],
    brief: Brief,
    kit: Kit,
    knowledge: Knowledge,
    crew: School,
) -> Learned:
    """What the clips of a shot tell.

    clips: of the shot, at least one; others: of the same camera, whatever they show, for its meter's habit; brief, kit,
    knowledge, crew: that it was planned with. Returns it.
    """
    limits = knowledge.limits
    content = content_stops([(clip, plan) for clip, _, plan in clips], limits)
    ev100, told = light_of(clips, limits, content)
    return Learned(
        ev100=ev100,
        planned_ev100=clips[0][2].exposure.ev100,
        told=told,
        shake_times=_shake_times(clips, brief, kit, knowledge, crew),
        habit_stops=_habit(others, limits),
        clips=len(clips),
    )


def light_of(clips: Sequence[Filmed], limits: Limits, content: float) -> tuple[tuple[float, float] | None, bool]:
    """The light that there was, as far as the picture tells.

    Where exposure was fixed the picture tells it; where the camera had come to an end of what it holds, too. Between the
    ends it only tells that the light was held. content: how much brighter than grey that is which fills the frames, stops.
    Returns the band, EV at ISO 100, and whether anything was told.
    """
    found: list[tuple[float, float]] = []
    told = False
    for clip, line, plan in clips:
        medians = np.array(line.median_stops or ([clip.exposure.median_stops] if clip.exposure.median_stops else []))
        if len(medians) == 0:
            continue
        low, high = plan.exposure.reach_ev100
        grey = medians - content
        off = grey - plan.target_stops
        over, under = off > limits.rushes_met_stops, off < -limits.rushes_met_stops
        seen = np.where(under, low + grey, np.where(over, high + grey, np.nan))
        if is_fixed(plan):
            seen = high + grey
        known = seen[~np.isnan(seen)]
        told = told or len(known) > 0
        if len(known):
            dimmest, brightest = (float(end) for end in np.percentile(known, ENDS))
            found.append((dimmest, brightest))
        if len(known) < len(medians):
            # As planned, as far as the camera holds it: more the picture does not say.
            ends = [min(max(end, low + plan.target_stops), high + plan.target_stops) for end in plan.exposure.ev100]
            found.append((ends[0], ends[1]))
    if not found:
        return None, False
    band = min(low for low, _ in found), max(high for _, high in found)
    return (round(band[0] * TENTHS) / TENTHS, round(band[1] * TENTHS) / TENTHS), told


def _usual_shake(brief: Brief, mount: Mount, knowledge: Knowledge) -> float:
    """How a mount shakes that nothing was filmed with: by one's own number, else as typical, degrees a second."""
    known = knowledge.own.shake(brief.camera_move.hands, mount.id)
    return mount.shake_deg_s if known is None else known.value


def _shake_times(clips: Sequence[Filmed], brief: Brief, kit: Kit, knowledge: Knowledge, crew: School) -> float | None:
    """The hand against what is usual for the way the camera was held, by what stabilisation let through."""
    limits, mount = knowledge.limits, knowledge.mounts.get(brief.camera_move.mount)
    usual = 0.0 if mount is None else _usual_shake(brief, mount, knowledge)
    seen = [
        clip.motion.shake_deg_s
        for clip, _, _ in clips
        if clip.motion.shake_deg_s is not None and (clip.motion.shake_px or 0.0) >= limits.rushes_hand_px
    ]
    if not seen or usual <= 0.0:
        return None
    try:
        as_filmed = brief.model_copy(update={"pins": clips[0][2].chosen})
        left = taking_of(as_filmed, kit, knowledge, crew, only=clips[0][2].camera).unsteadied_share
    except NoLegalPlan:
        return None
    if left < limits.rushes_hand_left_share:
        return None
    times = float(np.median(seen)) / left / usual
    most = limits.rushes_hand_times
    return times if 1.0 / most <= times <= most else None


def _habit(others: Sequence[Filmed], limits: Limits) -> float | None:
    """How much more than its sheet says a camera's meter gives, from clips that it held."""
    off = []
    for clip, _, plan in others:
        if clip.exposure.median_stops is None or is_fixed(plan):
            continue
        apart = clip.exposure.median_stops - plan.target_stops
        if (
            abs(apart) <= limits.rushes_exposure_stops_spoils
            and (clip.exposure.white_share or 0.0) < limits.rushes_blown_noticed
        ):
            off.append(apart)
    return float(np.median(off)) if len(off) >= limits.rushes_habit_clips else None


def next_time(
    learned: Learned, filmed: ClipPlan, brief: Brief, kit: Kit, knowledge: Knowledge, crew: School, planner: Planner
) -> NextTime:
    """Plan a shot again with what its clips tell.

    learned: from them; filmed: the plan of then; brief, kit, knowledge, crew: of now; planner: makes a plan of a brief on
    one camera. Returns the plan on the same camera, and what differs. Raises NoLegalPlan.
    """
    brief = brief if learned.ev100 is None else _in_light(brief, learned.ev100, knowledge)
    if learned.shake_times is not None:
        mount = knowledge.mounts[brief.camera_move.mount]
        usual = _usual_shake(brief, mount, knowledge)
        shaken = mount.model_copy(update={"shake_deg_s": min(500.0, usual * learned.shake_times)})
        own = knowledge.own.without("shake", mount.id)
        knowledge = knowledge.model_copy(update={"mounts": {**knowledge.mounts, mount.id: shaken}, "own": own})
    if learned.habit_stops is not None:
        # Habits are told against the target of then, which counted whatever was known of them.
        known = knowledge.own.metering(filmed.camera, filmed.light_kind or "")
        kit = _with_habit(kit, filmed.camera, learned.habit_stops, None if known is None else known.value)
        if known is not None:
            own = knowledge.own.without("metering", filmed.camera, filmed.light_kind or "")
            knowledge = knowledge.model_copy(update={"own": own})
    now = planner(brief, kit, knowledge, crew, filmed.camera)
    try:
        pinned = brief.model_copy(
            update={"pins": {dial: value for dial, value in filmed.chosen.items() if dial != "camera"}}
        )
        was: float | None = planner(pinned, kit, knowledge, crew, filmed.camera).given_up_stops
    except NoLegalPlan:
        was = None
    changes = [
        Changed(dial=dial, was=filmed.chosen[dial], now=value)
        for dial, value in now.chosen.items()
        if dial in filmed.chosen and _plain(filmed.chosen[dial]) != _plain(value)
    ]
    return NextTime(
        learned=learned, changes=tuple(changes), was_stops=was, now_stops=now.given_up_stops, plan=now, brief=brief
    )


def _plain(value: Any) -> Any:
    """A value as JSON has it: lists and tuples alike."""
    return [_plain(one) for one in value] if isinstance(value, list | tuple) else value


def _with_habit(kit: Kit, camera: str, habit_stops: float, known_stops: float | None) -> Kit:
    def biased(sheet: CameraSheet) -> float:
        usual = sheet.metering_bias_stops if known_stops is None else known_stops
        return float(np.clip(usual + habit_stops, -3.0, 3.0))

    cameras = tuple(
        sheet.model_copy(update={"metering_bias_stops": biased(sheet)}) if sheet.id == camera else sheet
        for sheet in kit.cameras
    )
    return kit.model_copy(update={"cameras": cameras})


def _in_light(brief: Brief, ev100: tuple[float, float], knowledge: Knowledge) -> Brief:
    """A brief in the light that there was. Under water the surface's is moved; lamps stay as they stand."""
    light = brief.light
    if isinstance(light, LampLight):
        return brief
    now = resolve(light, knowledge.world, brief.subject.distance_m)
    if isinstance(light, WaterLight):
        above = resolve(light.surface, knowledge.world)
        moved = [end + seen - planned for end, seen, planned in zip(above.ev100, ev100, now.ev100, strict=True)]
        surface = _metered(sorted(moved), above.balance_k)
        return brief.model_copy(update={"light": light.model_copy(update={"surface": surface})})
    return brief.model_copy(update={"light": _metered(list(ev100), now.balance_k)})


def _metered(ends: list[float], balance_k: tuple[int, int] | tuple[float, float]) -> MeterLight:
    low, high = (float(np.clip(end, LOWEST_EV100, HIGHEST_EV100)) for end in ends)
    return MeterLight(kind="meter", ev100=(low, high), balance_k=round(float(np.mean(balance_k))))
