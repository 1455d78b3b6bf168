"""What a picture gives up by itself: detail, field, straight lines, steadiness, slow motion, other shapes."""

from __future__ import annotations

from typing import Any

import numpy as np

from steady_tide.core.gear.attachments import before_lens
from steady_tide.core.physics.motion import repeats_unevenly
from steady_tide.core.physics.optics import (
    behind_flat_port_deg,
    cropped_field_deg,
    fitted_width_px,
    linear_shortfall_stops,
)
from steady_tide.core.planning.comparison import Comparison
from steady_tide.core.planning.interval_film import frames_of, screen_s
from steady_tide.core.planning.items.item import Item
from steady_tide.core.planning.items.views import PICTURE, PictureView
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.space import Floats

# A film at speed where an interval film is wanted; the planner leaves those out before.
NEVER_STOPS = 100.0


def _detail(v: PictureView) -> Floats:
    return np.asarray(linear_shortfall_stops(v.seen.wide_px, v.seen.usable_w_px))


def _reframe(v: PictureView) -> Floats:
    at, pictures, limits = v.at, v.pictures, v.at.limits
    short = v.none
    delivery = at.brief.delivery
    if delivery.stabilise_later:
        high = limits.software_room * delivery.height
        short = linear_shortfall_stops(high, np.minimum(pictures.height_px, pictures.width_px * high / delivery.width))
    for shape in delivery.reframe:
        wide, high = (int(part) for part in shape.split(":"))
        wanted = limits.upright_long_side_px * wide / max(wide, high)
        cut = fitted_width_px(pictures.width_px, pictures.height_px, wide, high)
        short = np.maximum(short, linear_shortfall_stops(wanted, cut))
        # A cut that is a small part of the frame shows too little above and below.
        share = cut**2 * (high / wide) / (pictures.width_px * pictures.height_px)
        short = np.maximum(short, np.log2(limits.reframe_share / share))
    return short


def _most(v: PictureView) -> Floats:
    return np.log2(v.space.largest_px / (v.pictures.width_px * v.pictures.height_px)) / 2.0


def _pan(v: PictureView) -> Floats:
    """How much faster than can be watched a turn sweeps across the frame; frames that are slowed later sweep slower."""
    at, limits = v.at, v.at.limits
    turn = at.brief.camera_move.turn_deg_s
    if turn == 0.0 or at.lapse or at.brief.subject.motion_look == "streaked":
        return v.none
    allowed = pan_allowed_deg_s(at, v.seen.field_deg)
    times = np.maximum(turn, limits.least_turn_deg_s) / allowed
    return np.asarray(np.clip(np.log2(times), 0.0, limits.pan_most_stops))


def pan_allowed_deg_s(at: Situation, field_deg: Floats) -> Floats:
    """Fastest turn at which what stands can be watched as it crosses a field. Returns degrees a second. A subject that
    is followed stands in the frame, and may cross twice as fast behind it."""
    limits, delivery = at.limits, at.brief.delivery
    seen = field_deg / limits.pan_crossing_s * delivery.fps / limits.pan_at_fps * delivery.slow_factor
    return np.asarray(seen * (limits.pan_followed_times if at.brief.subject.speed_m_s > 0.0 else 1.0))


def _view(v: PictureView) -> Floats:
    wanted = v.at.field_wanted_deg
    wide, high = v.at.brief.delivery.width, v.at.brief.delivery.height
    if v.space.flat_port:  # what such a shot shows, people see through the same window
        wanted = float(behind_flat_port_deg(wanted))
    if high > wide and v.space.sheet.kind != "phone":  # an upright cut shows along its height what is wanted
        wanted = float(cropped_field_deg(wanted, wide / high, "linear"))
    # What stabilisation cuts away never counts as coming closer.
    return np.maximum(np.log2(wanted / v.seen.field_deg), np.log2(v.seen.full_deg / wanted))


def _bend(v: PictureView) -> Floats:
    wide = np.log2(np.maximum(1.0, v.seen.field_deg / v.at.limits.bend_from_deg))
    return v.at.bend_matters * np.where(v.pictures.straight, 0.0, wide)


def _lens(v: PictureView) -> Floats:
    return np.array([lens.softer_stops for lens in v.space.sheet.lenses])[v.pictures.lens]


def _horizon(v: PictureView) -> Floats:
    tilts = v.at.limits.horizon_tilt_stops if v.at.carried and not v.at.mount.point_of_view else 0.0
    return np.where(v.pictures.levelled, 0.0, tilts)


def _shake(v: PictureView) -> Floats:
    if v.at.brief.delivery.stabilise_later:
        return v.none
    # A wander is judged against what is seen: a long lens shows it sooner.
    allowed = v.at.limits.wander_allowed_share * v.seen.field_deg
    return np.log2(np.maximum(1.0, v.left_deg / allowed))


def _software(v: PictureView) -> Floats:
    return v.pictures.steadied.astype(float) if v.at.brief.delivery.stabilise_later else v.none


def _slow_motion(v: PictureView) -> Floats:
    return np.maximum(0.0, np.log2(v.at.shown_fps / v.pictures.rate))


def _spare_frames(v: PictureView) -> Floats:
    return v.none if v.at.lapse else np.maximum(0.0, np.log2(v.pictures.rate / v.at.shown_fps))


def _cadence(v: PictureView) -> Floats:
    rates, which = np.unique(v.pictures.rate, return_inverse=True)
    return np.array([repeats_unevenly(float(rate), v.at.shown_fps) for rate in rates], dtype=float)[which]


def _interval(v: PictureView) -> Floats:
    """Time on the screen against what is wanted; a factor within the tolerance passes."""
    if not v.at.lapse:
        return v.none
    take, limits = v.at.brief.take, v.at.limits
    wanted = take.screen_s or limits.lapse_screen_s
    slack = 0.0 if take.screen_s else limits.lapse_slack_stops
    shown = screen_s(frames_of(take.length_s, v.pictures.interval_s), v.pictures.rate)
    off = np.maximum(0.0, np.abs(np.log2(shown / wanted)) - slack)
    step_m = v.at.brief.camera_move.travel_m_s * np.nan_to_num(v.pictures.interval_s)
    off = np.maximum(off, np.log2(np.maximum(1.0, step_m / limits.lapse_step_m)))
    return np.where(np.isnan(v.pictures.interval_s), NEVER_STOPS, off)


def _by_hand(v: PictureView) -> Floats:
    """A recorder that is worked by hand is slower to begin with; where there is no other it is no choice."""
    ways = v.space.sheet.ways
    slower = [float(way.by_hand and any(not other.by_hand for other in ways)) for way in ways]
    return np.array(slower)[v.pictures.recorder]


def _attached(v: PictureView) -> Floats:
    put = np.array([bool(before_lens(lens.id)) for lens in v.space.sheet.lenses])
    return put.astype(float)[v.pictures.lens]


def _stills(v: PictureView) -> Floats:
    limits = v.at.limits
    work = limits.stills_on_phone_stops if v.at.brief.delivery.edit_device == "phone" else 1.0
    return np.where(np.isnan(v.pictures.still_mb), 0.0, work)


def _handling(v: PictureView) -> Floats:
    moved = v.at.brief.delivery.edit_device == "phone" and v.space.sheet.kind != "phone"
    return v.none + float(moved)


def _view_facts(c: Comparison) -> dict[str, Any]:
    return {
        "theirs_deg": c.theirs.field_deg,
        "ours_deg": c.ours.field_deg,
        "wanted_deg": c.at.field_wanted_deg,
    }


def _spare_facts(c: Comparison) -> dict[str, Any]:
    return {"times": 2.0 ** c.theirs.stops["spare_frames"]}


FRAMING_ITEMS = (
    Item(
        id="detail", title="short of the timeline", dial="frame", scope=PICTURE, cost=_detail,
        decided_by=("lens", "view", "stabilisation"),
        facts=lambda c: {"wanted_px": c.at.brief.delivery.width},
        sentence="{rival} has fewer pixels than the timeline's {wanted_px}: {theirs:stops} stops short.",
    ),
    Item(
        id="reframe", title="short for other shapes", dial="frame", scope=PICTURE, cost=_reframe,
        sentence="{rival} is {theirs:stops} stops too small for the other shapes.",
    ),
    Item(
        id="most", title="less than the most", dial="frame", scope=PICTURE, cost=_most,
        sentence="{rival} records {more:stops} stops less than the camera can.",
    ),
    Item(
        id="view", title="field of view", dial="view", scope=PICTURE, cost=_view, decided_by=("lens", "attachment", "stabilisation"),
        facts=_view_facts,
        sentence="{rival} shows {theirs_deg:degrees}, this {ours_deg:degrees} of the {wanted_deg:degrees} wanted.",
    ),
    Item(
        id="pan", title="pan too fast", dial="view", scope=PICTURE, cost=_pan, decided_by=("lens", "attachment", "frame_rate"),
        facts=lambda c: {"turn_deg_s": c.at.brief.camera_move.turn_deg_s},
        sentence="At {turn_deg_s:degrees} a second {rival} lets things cross {theirs:stops} stops too fast.",
    ),
    Item(
        id="bend", title="bent lines", dial="view", scope=PICTURE, cost=_bend, decided_by=("lens",),
        sentence="{rival} bends lines off the centre.",
    ),
    Item(
        id="lens", title="softer lens", dial="lens", scope=PICTURE, cost=_lens, decided_by=("attachment",),
        sentence="{rival} is {more:stops} stops softer.",
    ),
    Item(
        id="horizon", title="tilting horizon", dial="view", scope=PICTURE, cost=_horizon,
        sentence="{rival} lets the horizon tilt with the hand.",
    ),
    Item(
        id="crop", title="cropped by stabilisation", dial="stabilisation", scope=PICTURE,
        cost=lambda v: -np.log2(v.pictures.keeps_steady),
        sentence="{rival} crops {more:stops} stops more.",
    ),
    Item(
        id="shake", title="wandering picture", dial="stabilisation", scope=PICTURE, cost=_shake, decided_by=("lens",),
        sentence="With {rival} the picture would wander, by {theirs:stops} stops.",
    ),
    Item(
        id="software", title="steadied twice", dial="stabilisation", scope=PICTURE, cost=_software,
        sentence="Software steadies later and wants the whole frame; {rival} cuts it.",
    ),
    Item(
        id="light_unused", title="unused sensor area", dial="view", scope=PICTURE,
        cost=lambda v: -np.log2(v.seen.sensor_share), decided_by=("frame", "lens", "stabilisation"),
        sentence="{rival} would use less of the sensor, and lose {more:stops} stops of light.",
    ),
    Item(
        id="slow_motion", title="slow motion short", dial="frame_rate", scope=PICTURE, cost=_slow_motion,
        facts=lambda c: {"wanted_fps": c.at.shown_fps},
        sentence="{rival} is {theirs:stops} stops too slow: {wanted_fps:fps} are needed.",
    ),
    Item(
        id="spare_frames", title="frames dropped", dial="frame_rate", scope=PICTURE, cost=_spare_frames,
        facts=_spare_facts, sentence="{rival} records {times:.2g} times the frames that are shown.",
    ),
    Item(
        id="cadence", title="uneven cadence", dial="frame_rate", scope=PICTURE, cost=_cadence,
        facts=lambda c: {"timeline_fps": c.at.brief.delivery.fps},
        sentence="{rival} repeats frames unevenly on {timeline_fps:fps}.",
    ),
    Item(
        id="interval", title="time on the screen", dial="interval_s", scope=PICTURE, cost=_interval,
        facts=lambda c: {"theirs_s": c.theirs.screen_s, "ours_s": c.ours.screen_s},
        sentence="{rival} comes to {theirs_s:whole_s} on the screen, this to {ours_s:whole_s}.",
    ),
    Item(
        id="by_hand", title="worked by hand", dial="recorder", scope=PICTURE, cost=_by_hand,
        sentence="{rival} is set by hand, step by step.",
    ),
    Item(
        id="attached", title="put before the lens", dial="attachment", scope=PICTURE, cost=_attached,
        sentence="{rival} is one more thing to put on, and to see in the corners.",
    ),
    Item(
        id="stills", title="stills to assemble", dial="kept_as", scope=PICTURE, cost=_stills,
        sentence="{rival} have to be developed and put together.",
    ),
    Item(
        id="handling", title="moved to the phone", dial="camera", scope=PICTURE, cost=_handling,
        sentence="{rival} is not the phone that edits.",
    ),
)  # fmt: skip
