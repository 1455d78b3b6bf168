"""Own numbers that footage taught: a meter's habit, a person's shake, what stabilisation lets through."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence

import numpy as np

from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.brief.own_numbers import ANYBODY, OwnNumber
from steady_tide.core.gear.kit import Kit
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.log.posterior import Estimated, robust_mean
from steady_tide.core.log.take import TakeSeen
from steady_tide.core.own.own_kind import Applied, Evidence, Of, OwnKind, Reading, Readings, with_camera
from steady_tide.core.physics.motion import excursion_deg, left_over_deg
from steady_tide.core.quantities.limits import Limits
from steady_tide.core.rushes.clip_plan import ClipPlan
from steady_tide.core.rushes.content import is_fixed

# Dials of which a take tells nothing any more where they were set otherwise than planned.
METERED = ("exposure_compensation", "shutter_s", "iso_floor", "iso_ceiling", "nd")
STEADIED = ("stabilisation", "view", "frame", "frame_rate")
HANDS = np.geomspace(0.05, 500.0, 600)  # degrees a second, tried
LEAST_LEAK = 1e-3
MEDIAN_OFF = float(np.sqrt(np.pi / 2.0))  # times as far off as a mean, of normal values


def spread_over_groups(found: Estimated, readings: Sequence[Reading], apart: float) -> Estimated:
    """Widen an interval by what readings of one group have in common. apart: how far groups lie from each other, in the unit
    of the number. Returns the same value with an honest interval."""
    groups = max(1, len({one.group or one.take for one in readings}))
    shared = 1.645 * apart / np.sqrt(groups)  # of a normal distribution, nine times in ten
    low = found.value - float(np.hypot(found.value - found.low, shared))
    high = found.value + float(np.hypot(found.high - found.value, shared))
    return Estimated(found.value, low, high, found.spread, found.count)


def as_planned(take: TakeSeen, dials: Sequence[str]) -> ClipPlan | None:
    """What a take was filmed by; None where that is not known, or one of some dials was set otherwise."""
    return None if any(dial in take.said.settings for dial in dials) else take.plan


def _habits(evidence: Evidence) -> Readings:
    found: Readings = defaultdict(list)
    limits = evidence.limits
    for take in evidence.takes:
        clip, plan = take.measures, as_planned(take, METERED)
        if clip is None or plan is None or take.light is None or clip.exposure.median_stops is None:
            continue
        # A picture that is far from grey of itself does not show what the meter does, nor does one that it had no say in.
        if plan.own_contrast or is_fixed(plan):
            continue
        off = clip.exposure.median_stops - plan.settings.exposure_compensation
        if abs(off) > limits.own_habit_most_stops or (clip.exposure.white_share or 0.0) >= limits.rushes_blown_noticed:
            continue
        says: dict[str, str | float] = {"shot": take.shot or "", "median_stops": clip.exposure.median_stops}
        found[(plan.camera, take.light)].append(Reading(off, "clip", says, at=take.at, take=take.key, group=take.shot))
    return found


def _habit(readings: Sequence[Reading], usual: float | None, limits: Limits) -> Estimated:
    values = [one.value for one in readings]
    found = robust_mean(values, usual or 0.0, limits.own_habit_spread_stops, (0.03, 0.8))
    return spread_over_groups(found, readings, limits.own_habit_content_stops)


def _habit_usual(of: Of, kit: Kit, knowledge: Knowledge) -> float | None:
    sheet = kit.camera(of["camera"])
    return None if sheet is None else sheet.metering_bias_stops


METERING = OwnKind(id="metering", parts=("camera", "light"), gather=_habits, estimate=_habit, usual=_habit_usual)


def hand_of(left_deg_s: float, settle_s: float, margin_deg: float, leak: float) -> float:
    """How fast a hand turned, from what stabilisation let through: `left_over_deg` turned about.

    left_deg_s: RMS speed that is left, degrees a second; settle_s: time until a wander turns back, seconds; margin_deg, leak:
    of the stabilisation. Returns degrees a second.
    """
    left = np.asarray(left_over_deg(excursion_deg(HANDS, settle_s), margin_deg, leak)) / settle_s
    return float(np.exp(np.interp(np.log(max(left_deg_s, 1e-6)), np.log(np.maximum(left, 1e-9)), np.log(HANDS))))


def _steadied_hand(take: TakeSeen, limits: Limits) -> float | None:
    """The hand behind a take, degrees a second; None where its picture does not show it."""
    clip, plan = take.measures, as_planned(take, STEADIED)
    if clip is None or plan is None or plan.settle_s is None or plan.margin_deg is None or plan.leak is None:
        return None
    left = clip.motion.shake_deg_s
    if left is None or (clip.motion.shake_px or 0.0) < limits.rushes_hand_px or clip.doubted("motion.shake_px"):
        return None
    hand = hand_of(left, plan.settle_s, plan.margin_deg, plan.leak)
    return hand if left / hand >= limits.rushes_hand_left_share else None


def _shakes(evidence: Evidence) -> Readings:
    found: Readings = defaultdict(list)
    limits = evidence.limits
    tried: dict[tuple[str, ...], int] = defaultdict(int)
    for take in evidence.takes:
        mount = evidence.knowledge.mounts.get(take.said.mount or "")
        if mount is None or mount.shake_deg_s <= 0.0:
            continue
        keys = [(ANYBODY, mount.id), *([(take.said.hands, mount.id)] if take.said.hands else [])]
        if take.measures is not None and take.measures.motion.shake_deg_s is not None:
            for key in keys:
                tried[key] += 1
        hand = _steadied_hand(take, limits)
        most = limits.rushes_hand_times
        if hand is None or not 1.0 / most <= hand / mount.shake_deg_s <= most:
            continue
        says: dict[str, str | float] = {"shot": take.shot or "", "hands": take.said.hands or ""}
        for key in keys:
            found[key].append(Reading(hand, "clip", says, at=take.at, take=take.key, group=take.shot))
    # Where stabilisation hides most of the hand, the few that show it are the shakiest.
    return {key: seen for key, seen in found.items() if len(seen) >= limits.own_seen_share * tried[key]}


def in_stops(
    readings: Sequence[Reading],
    usual: float | None,
    usual_spread: float,
    scales: tuple[float, float],
    apart: float = 0.0,
) -> Estimated:
    """A robust mean of positive numbers, of which twice as much is as far off as half. usual: prior, the readings' median where
    there is none; usual_spread, scales: stops; apart: how far groups of readings lie from each other, stops. Returns it in the
    number's unit."""
    values = [float(np.log2(one.value)) for one in readings]
    prior = float(np.median(values)) if not usual or usual <= 0.0 else float(np.log2(usual))
    found = spread_over_groups(robust_mean(values, prior, usual_spread, scales), readings, apart)
    return Estimated(2.0**found.value, 2.0**found.low, 2.0**found.high, found.spread, found.count)


def _shake(readings: Sequence[Reading], usual: float | None, limits: Limits) -> Estimated:
    return in_stops(readings, usual, limits.own_shake_spread_stops, (0.05, 1.0))


def _shake_usual(of: Of, kit: Kit, knowledge: Knowledge) -> float | None:
    mount = knowledge.mounts.get(of["mount"])
    return None if mount is None else mount.shake_deg_s


SHAKE = OwnKind(id="shake", parts=("hands", "mount"), gather=_shakes, estimate=_shake, usual=_shake_usual)


def _leaks(evidence: Evidence) -> Readings:
    """From ladders of stabilisation: what is left with it, against what is left without."""
    found: Readings = defaultdict(list)
    ladders: dict[str, list[tuple[TakeSeen, ClipPlan, float]]] = defaultdict(list)
    for take in evidence.takes:
        plan, clip = as_planned(take, STEADIED), take.measures
        if take.ladder and plan is not None and clip is not None and clip.motion.shake_deg_s:
            ladders[take.ladder].append((take, plan, clip.motion.shake_deg_s))
    for takes in ladders.values():
        bare = [left for _, plan, left in takes if plan.margin_deg == 0.0]
        if not bare:
            continue
        hand = float(np.median(bare))
        for take, plan, left in takes:
            if not plan.margin_deg or plan.settle_s is None or hand * plan.settle_s > plan.margin_deg:
                continue
            leak = min(1.0, max(LEAST_LEAK, left / hand))
            says: dict[str, str | float] = {"shot": take.shot or "", "left": left, "hand": hand, "bare": len(bare)}
            found[(plan.camera, plan.settings.stabilisation)].append(
                Reading(leak, "clip", says, at=take.at, take=take.key, group=take.ladder)
            )
    return found


def leak_usual(of: Of, kit: Kit, knowledge: Knowledge) -> float | None:
    """What stabilisation lets through, as the sheet says."""
    return level_value(of, kit, "leak")


def level_value(of: Of, kit: Kit, field: str) -> float | None:
    """A number of a camera's level of stabilisation. of: camera and level. Returns None where there is none such."""
    sheet = kit.camera(of["camera"])
    level = None if sheet is None else next((one for one in sheet.stabilisation if one.id == of["level"]), None)
    return None if level is None else float(getattr(level, field))


def with_level(number: OwnNumber, kit: Kit, field: str, value: float) -> Kit:
    """A kit in which a camera's level of stabilisation has another number. Returns the kit."""

    def change(sheet: CameraSheet) -> CameraSheet:
        levels = tuple(
            one.model_copy(update={field: value}) if one.id == number.of["level"] else one
            for one in sheet.stabilisation
        )
        return sheet.model_copy(update={"stabilisation": levels})

    return with_camera(kit, number.of["camera"], change)


def _leak(readings: Sequence[Reading], usual: float | None, limits: Limits) -> Estimated:
    # All readings of a ladder share the hand, which its few takes without stabilisation tell.
    bare = float(np.mean([float(one.says["bare"]) for one in readings]))
    apart = limits.own_hand_stops * MEDIAN_OFF / np.sqrt(bare)
    return in_stops(readings, usual, limits.own_gear_spread_stops, (0.05, 1.5), apart)


def _apply_leak(number: OwnNumber, kit: Kit, knowledge: Knowledge) -> Applied:
    return with_level(number, kit, "leak", min(1.0, number.value)), knowledge


LEAK = OwnKind(
    id="leak",
    parts=("camera", "level"),
    gather=_leaks,
    estimate=_leak,
    usual=leak_usual,
    apply=_apply_leak,
)
