"""What exposure times give up: the look of motion, smear, flicker, stars that trail."""

from __future__ import annotations

import numpy as np

from steady_tide.core.light.flicker import beat_hz, worst_ripple_stops
from steady_tide.core.planning.interval_film import star_drift_px
from steady_tide.core.planning.items.item import Item
from steady_tide.core.planning.items.views import FRAME, GATE, FrameView, GateView
from steady_tide.core.planning.space import Floats
from steady_tide.core.quantities.frame_rates import recorded_rate


def _loose(v: GateView) -> Floats:
    limits, exposures = v.at.limits, v.exposures
    course = np.abs(np.log2(exposures.dim_s / exposures.bright_s))
    # Over the hours of an interval film the course of the light is wanted; its small jumps are not.
    drifted = limits.lapse_course_share * course if v.at.lapse else np.minimum(course, limits.loose_most_stops)
    drift = np.where(exposures.automatic, limits.loose_shutter_least_stops + drifted, 0.0)
    # A look that is lost already has nothing left to drift from; an interval film or a still thing flickers all the same.
    wavers = v.at.lapse or v.at.brief.traits.on_table
    left = 1.0 if wavers else np.clip(1.0 - v.look_stops / limits.look_lost_stops, 0.0, 1.0)
    return np.asarray(drift * left)


def _flicker(v: GateView) -> Floats:
    limits, mains = v.at.limits, v.at.brief.mains_hz
    # An automatic shutter is shorter at the bright end and pulses more there.
    times = np.broadcast_arrays(v.exposures.dim_s, v.exposures.bright_s)
    swing = worst_ripple_stops(v.at.light.ripple, times, mains)
    taken_hz = recorded_rate(v.capture_hz, v.at.brief.delivery.fps)
    stands = beat_hz(taken_hz, mains) < limits.beat_seen_hz
    return np.asarray(swing * np.where(stands, limits.standing_ripple_share, 1.0))


def _smear(v: FrameView) -> Floats:
    limits = v.at.limits
    share = np.where(v.steadied, limits.smear_share_steadied, limits.smear_share_free)
    shaken = v.smear_px / (share * v.at.brief.delivery.width)
    return np.asarray(np.log2(np.maximum(1.0, np.maximum(shaken, v.unreadable))))


def _star_drift(v: FrameView) -> Floats:
    if not (v.at.lapse and v.at.light.night_sky):
        return np.zeros(np.broadcast_shapes(v.px_per_deg.shape, v.exposure_s.shape))
    drift = star_drift_px(v.exposure_s, v.px_per_deg)
    return np.asarray(np.log2(np.maximum(1.0, drift / v.at.limits.star_drift_px)))


MOTION_ITEMS = (
    Item(
        id="motion_look", title="motion look", dial="shutter_s", scope=GATE, cost=lambda v: v.look_stops,
        decided_by=("gates", "nd", "frame_rate", "interval_s"),
        facts=lambda c: {"wanted_s": c.ours.wanted_shutter_s},
        sentence="{rival} is {theirs:stops} stops off {wanted_s:seconds}, the exposure that is wanted.",
    ),
    Item(
        id="loose_shutter", title="shutter left free", dial="shutter_s", scope=GATE, cost=_loose,
        decided_by=("gates", "nd"),
        sentence="With {rival} the motion look drifts with the light by {theirs:stops} stops.",
    ),
    Item(
        id="held_shutter", title="shutter held", dial="shutter_s", scope=GATE,
        cost=lambda v: (~v.exposures.automatic).astype(float), decided_by=("gates",),
        sentence="{rival} holds one exposure where the camera would follow the light.",
    ),
    Item(
        id="flicker", title="lamp flicker", dial="shutter_s", scope=GATE, cost=_flicker, decided_by=("shutter_s",),
        sentence="With {rival} the lamps would flicker by {theirs:stops} stops.",
    ),
    Item(
        id="smear", title="smear in the frame", dial="shutter_s", scope=FRAME, cost=_smear,
        decided_by=("shutter_s", "frame_rate", "lens", "view", "stabilisation"),
        facts=lambda c: {"theirs_px": c.theirs.smear_px, "ours_px": c.ours.smear_px},
        sentence="{rival} smears {theirs_px:.1f} px in a frame, this {ours_px:.1f}.",
    ),
    Item(
        id="star_drift", title="stars that trail", dial="shutter_s", scope=FRAME, cost=_star_drift,
        decided_by=("interval_s",),
        sentence="With {rival} the stars would be trails, {theirs:stops} stops longer than a point.",
    ),
)  # fmt: skip
