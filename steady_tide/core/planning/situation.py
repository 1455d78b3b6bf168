"""What a brief asks for, as the numbers that the costs compare against."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from functools import cached_property
from math import sqrt
from typing import TypeVar

import numpy as np

from steady_tide.core.brief.brief import USUAL_SCHOOL, Brief
from steady_tide.core.brief.knowledge import Knowledge, Weight
from steady_tide.core.brief.own_numbers import Own
from steady_tide.core.gear.items import Mount
from steady_tide.core.gear.sheet import CameraSheet, Lens
from steady_tide.core.light.meter_light import LightKind, kind_of_light
from steady_tide.core.light.resolving import Light, resolve
from steady_tide.core.light.sources import LampLight
from steady_tide.core.physics.motion import excursion_deg, subject_speed_deg_s
from steady_tide.core.physics.optics import WATER_INDEX, pixels_per_degree
from steady_tide.core.planning.judgement import Judgement
from steady_tide.core.planning.lens_fronts import Wet
from steady_tide.core.quantities.errors import BadBrief, Fault
from steady_tide.core.quantities.limits import Limits
from steady_tide.core.quantities.stops import Number, half_turn_s

T = TypeVar("T")


@dataclass(frozen=True)
class Situation:
    """A brief with everything derived that does not depend on the camera.

    darkness: 0 by day to 1 in the dark, between without a step; dark: whether it is called dark. moving: how much of
    the motion look can be seen, 1 unless nothing moves. contrast_stops: within one frame. noise_for_steadiness_stops: how
    far noise may pass its limit, at most, where an exposure is shortened in the dark so that steadied frames do not pulse.
    """

    brief: Brief
    light: Light
    mount: Mount
    judgement: Judgement
    weights: dict[str, float]
    weight_reasons: dict[str, str]
    limits: Limits
    noise_limit_snr: float
    own: Own
    shown_fps: float
    graded: bool
    darkness: float
    dark: bool
    lapse: bool
    owns_light: bool
    sudden: bool
    moving: float
    contrast_stops: float
    range_wanted_stops: float
    wander_deg: float
    field_wanted_deg: float
    bend_matters: float
    frozen_s: float | None
    noise_for_steadiness_stops: float
    origin: object = field(default_factory=object, compare=False, repr=False)  # the very same for all pins of a brief

    @property
    def delivered_px(self) -> int:
        """Pixels of the delivered frame."""
        return self.brief.delivery.width * self.brief.delivery.height

    @property
    def band_stops(self) -> float:
        """How far the light changes during a take."""
        return self.light.ev100[1] - self.light.ev100[0]

    @cached_property
    def steadiness(self) -> float:
        """How far one exposure is meant to hold the take, 0 to 1: see `_steady`."""
        return _steady(self.brief, self.light, self.sudden, self.limits)

    @cached_property
    def is_heard(self) -> bool:
        """Whether the sound is of use: wanted, in the dry, at speed, and not beside propellers."""
        return self.brief.sound.wanted and not self.mount.flying and self.light.deepest_m is None and not self.lapse

    @property
    def wind_m_s(self) -> float:
        """What blows at the microphone: the wind, or the ride's own where it reaches it."""
        ride = 0.0 if self.mount.inside else self.brief.camera_move.travel_m_s
        return max(0.0 if self.mount.inside else self.brief.sound.wind_m_s, ride)

    def roar_stops(self, held_m_s: float) -> float:
        """How far the wind at a microphone passes what it stands, 0 where the sound is of no use. held_m_s: that it
        stands. Returns stops."""
        past = np.log2(max(self.wind_m_s, self.limits.least_wind_m_s) / held_m_s)
        return max(0.0, float(past)) if self.is_heard else 0.0

    @property
    def carried(self) -> bool:
        """Whether a person's movement shakes the camera."""
        return _carried(self.mount, self.limits)

    @property
    def wet(self) -> Wet | None:
        """Water at the camera, None in the dry."""
        share = self.limits.proof_used_share
        if self.light.deepest_m is not None:
            return Wet(self.light.deepest_m, share, under=True)
        return Wet(self.limits.spray_m, share, under=False) if self.brief.wet else None

    @cached_property
    def subject_deg_s(self) -> float:
        """Angular speed of the subject against the frame: a camera that turns with it takes its turn off."""
        speed = float(subject_speed_deg_s(self.brief.subject.speed_m_s, self.brief.subject.distance_m[0]))
        return abs(speed - min(speed, self.brief.camera_move.turn_deg_s))

    def meter_bias_stops(self, sheet: CameraSheet) -> float:
        """How far a camera's meter exposes too much in this shot: its habit, and what fools it. Returns stops."""
        black = self.brief.traits.on_table and self.brief.subject.ground == "black"
        return self.meter_habit_stops(sheet) + (self.limits.black_ground_stops if black else 0.0)

    def meter_habit_stops(self, sheet: CameraSheet) -> float:
        """How far a camera's meter exposes too much in this kind of light: by one's own clips, else by its sheet. Returns
        stops."""
        known = self.own.metering(sheet.id, self.light_kind)
        return sheet.metering_bias_stops if known is None else known.value

    @cached_property
    def light_kind(self) -> LightKind:
        """What kind of light a meter meets."""
        return kind_of_light(self.brief.light, self.light.ev100, self.limits)

    @cached_property
    def over_held_stops(self) -> float:
        """How much brighter than metered the brightest moment may come out: what the frame's contrast leaves of a
        finished picture's range, half of it above."""
        if self.brief.traits.on_table:
            return 0.0
        limits = self.limits
        room = limits.headroom_share * (limits.headroom_full_stops - self.contrast_stops)
        return min(limits.headroom_most_stops, max(0.0, room))

    @cached_property
    def under_held_stops(self) -> float:
        """How much darker than metered the dimmest moment may come out: by day some, in the dark nothing."""
        if self.brief.traits.on_table and self.light.lamps:
            shaped = any(lamp.role == "fill" for lamp in self.light.lamps)  # then its dark side is as dark as was meant
            return max(self.limits.modelling_held_stops, self.band_stops if shaped else 0.0)
        if self.brief.traits.brings_light:
            return 0.0
        return self.limits.shade_lifted_stops * (1.0 - self.darkness)

    @property
    def wants_flat(self) -> float:
        """How much a flat profile is wanted: where it is graded, less in the dark for who wants the dark contrasty."""
        contrasty = self.darkness if self.brief.school.dark_profile == "contrasty" else 0.0
        return (1.0 - contrasty) if self.graded else 0.0

    @property
    def sun_w_m2(self) -> float:
        """What a face in the sun takes up, watts a square metre; nothing under water."""
        shines = self.light.sunlit and self.light.deepest_m is None
        return self.limits.sun_w_m2 * self.limits.sun_absorbed_share if shines else 0.0

    def noise_forgiven_stops(self, exposure_s: Number) -> Number:
        """How far noise may pass its limit: as far as an exposure is shorter than half a turn, where stabilisation is kept in
        the dark. In itself noise is as little wanted in hands as on legs. exposure_s: at the dim end. Returns stops."""
        short = np.log2(half_turn_s(self.shown_fps) / np.asarray(exposure_s))
        return self.noise_for_steadiness_stops * np.clip(short, 0.0, 1.0)

    def snr_limit(self, exposure_s: float) -> float:
        """Signal to noise that a plan may fall to. exposure_s: at the dim end, seconds."""
        return float(self.noise_limit_snr * 2.0 ** -np.asarray(self.noise_forgiven_stops(exposure_s)))

    def can_focus(self, lens: Lens, flat_port: bool) -> bool:
        """Whether a lens can be sharp on the subject, midway between its ends; the sky of a night is far.

        lens: one of a camera; flat_port: whether water before a flat window brings things nearer.
        """
        near, far = self.brief.subject.distance_m
        if self.lapse and self.light.night_sky:
            near = far
        there = sqrt(near * far) / (WATER_INDEX if flat_port else 1.0)
        rounded = self.limits.distance_rounded_share
        reaches = lens.farthest_m is None or there <= lens.farthest_m * (1.0 + rounded)
        return reaches and there >= lens.closest_m * (1.0 - rounded)

    def focus_distance_m(self, lens: Lens) -> float:
        """Where a lens is best focused: midway, in reciprocal distance, between the ends of the subject.

        lens: one that can be focused. Returns metres.
        """
        near, far = self.brief.subject.distance_m
        middle = max(2.0 / (1.0 / near + 1.0 / far), lens.closest_m)
        return middle if lens.farthest_m is None else min(middle, lens.farthest_m)


def ramp(value: float, nothing: float, all_of_it: float) -> float:
    """Share of the way from one value to another, 0 to 1; so that nothing switches at a threshold."""
    return float(np.clip((value - nothing) / (all_of_it - nothing), 0.0, 1.0))


def situation(brief: Brief, knowledge: Knowledge, judgement: Judgement) -> Situation:
    """Work out what a brief asks for.

    brief: what will be filmed; what its school leaves open follows the usual way;
    knowledge: places, mounts and weights; judgement: what there is to turn and to give up.
    Returns the situation. Raises BadBrief on an unknown place, water, mount or scenario.
    """
    brief = brief.in_school(USUAL_SCHOOL)
    light = resolve(brief.light, knowledge.world, brief.subject.distance_m)
    mount = _named("camera_move.mount", "mount", brief.camera_move.mount, knowledge.mounts)
    shaken = knowledge.own.shake(brief.camera_move.hands, mount.id)
    if shaken is not None:
        mount = mount.model_copy(update={"shake_deg_s": shaken.value})
    _named("scenario", "scenario", brief.scenario, knowledge.weights.scenarios)
    limits = knowledge.limits
    darkness = _darkness(brief, light, limits)
    lapse = brief.traits.interval
    sudden = light.sudden if brief.light_changes is None else brief.light_changes == "sudden"
    layers = _layers(brief, knowledge, mount, light, darkness, sudden)
    weights, reasons = _merged(knowledge, judgement, layers)
    assert brief.school.noise is not None
    noise_limit = knowledge.noise_limit_snr(brief.school.noise, brief.camera_move.hands)
    if not lapse:  # on legs as in hands
        noise_limit *= limits.dark_noise_share**darkness
    keeps = brief.school.dark_stabilisation == "keep" and _carried(mount, limits)
    contrast = _contrast(brief, light, limits)
    return Situation(
        brief=brief,
        light=light,
        mount=mount,
        judgement=judgement,
        weights=weights,
        weight_reasons=reasons,
        limits=limits,
        noise_limit_snr=noise_limit,
        own=knowledge.own,
        shown_fps=brief.delivery.fps if lapse else brief.shown_fps,
        graded=brief.graded,
        darkness=darkness,
        dark=brief.traits.in_the_dark or (light.dark and not brief.traits.brings_light),
        lapse=lapse,
        owns_light=knowledge.scenarios[brief.scenario].light == "lamps",
        sudden=sudden,
        moving=_moving(brief, mount, limits),
        contrast_stops=contrast,
        range_wanted_stops=_range_wanted(brief, contrast, darkness, limits),
        wander_deg=float(excursion_deg(mount.shake_deg_s, mount.settle_s)),
        field_wanted_deg=_field_wanted(brief, mount, limits),
        bend_matters=limits.pov_bend if mount.point_of_view else 1.0,
        frozen_s=_frozen_s(brief, mount, limits),
        noise_for_steadiness_stops=darkness * limits.dark_keep_noise_stops if keeps else 0.0,
    )


def _named(where: str, what: str, name: str, known: Mapping[str, T]) -> T:
    if name not in known:
        raise BadBrief(Fault(where, f"there is no {what} called '{name}'", f"Use one of {', '.join(known)}."))
    return known[name]


def _darkness(brief: Brief, light: Light, limits: Limits) -> float:
    """How dark it is. Under water and at a lit table the darkness is another one: it is met with light."""
    if brief.traits.brings_light:
        return 0.0
    if brief.traits.in_the_dark:
        return 1.0
    return ramp(sum(light.ev100) / 2.0, limits.day_down_to_ev, limits.night_from_ev)


def _contrast(brief: Brief, light: Light, limits: Limits) -> float:
    """Range within one frame, stops: as said, or as usual in such light; water between takes of it."""
    if brief.contrast_stops is not None:
        return brief.contrast_stops
    mirrors = limits.shiny_contrast_stops if brief.subject.surface == "shiny" else 0.0
    return light.usual_contrast_stops + mirrors


def _range_wanted(brief: Brief, contrast: float, darkness: float, limits: Limits) -> float:
    """Range that a profile should hold: the frame's own, and for a grade some room beside it. A finished picture shows
    only so much; who wants the dark contrasty grades it as one."""
    shown = min(contrast, limits.range_straight_stops)
    if not brief.graded:
        return shown
    room = contrast + limits.range_grade_room_stops
    contrasty = darkness if brief.school.dark_profile == "contrasty" else 0.0
    return room + contrasty * (shown - room)


def _carried(mount: Mount, limits: Limits) -> bool:
    return mount.shake_deg_s > limits.steady_hold_deg_s


def _steady(brief: Brief, light: Light, sudden: bool, limits: Limits) -> float:
    """How far the light of a take stays as it is, 0 to 1. Shadow in the frame is no change; who travels meets other light, and
    water and hours change it, whatever a meter said once."""
    moves = brief.camera_move.travel_m_s > 0.0 or brief.traits.under_water or brief.traits.interval
    if sudden or moves or brief.light_changes == "gradual":
        return 0.0
    band = light.ev100[1] - light.ev100[0]
    changes = band if light.changes_stops is None else light.changes_stops
    return 1.0 - ramp(changes, limits.steady_to_stops, limits.changes_from_stops)


Layer = tuple[Mapping[str, Weight], float]  # weights, and how far they replace what is below them


def _layers(
    brief: Brief, knowledge: Knowledge, mount: Mount, light: Light, darkness: float, sudden: bool
) -> Iterator[Layer]:
    """The weights that hold, each over those before it, as far as it applies."""
    data, limits, school = knowledge.weights, knowledge.limits, brief.school
    yield data.scenarios[brief.scenario], 1.0
    if not brief.traits.interval:
        yield data.cases["dark"], darkness
    carried = _carried(mount, limits)
    for axis, choices in data.schools.items():
        chosen = getattr(school, axis)
        if chosen is not None and (axis != "dark_stabilisation" or carried):
            yield choices[chosen], darkness if axis.startswith("dark_") else 1.0
    band = light.ev100[1] - light.ev100[0]
    if school.glass_gain == "locked":
        yield data.cases["one_exposure"], 1.0
    if school.glass_gain is None:
        narrow = 1.0 - ramp(band, limits.gain_locked_to_stops, limits.gain_follows_from_stops)
        yield data.schools["glass_gain"]["locked"], narrow
    if brief.traits.interval:
        yield (
            data.cases["lapse_steady"],
            1.0 - ramp(band, limits.lapse_lock_to_stops, limits.lapse_free_from_stops),
        )
        yield data.cases["lapse_carried"], 1.0 if carried else 0.0
    if brief.subject.size_m is not None and not mount.point_of_view and not brief.traits.on_table:
        yield data.cases["framed" if brief.subject.fills is not None else "sized"], 1.0
    if sudden:
        yield data.cases["sudden"], 1.0
    yield data.cases["steady"], _steady(brief, light, sudden, limits)
    if brief.traits.interval:
        yield data.cases["lapse_dark"], darkness
        yield data.cases["lapse_sky"], 1.0 if light.night_sky else 0.0
    if brief.traits.on_table and not light.lamps:  # the dark side of a lit thing is no change
        yield (
            data.cases["product_band"],
            ramp(band, limits.table_steady_to_stops, limits.table_changes_from_stops),
        )


def _merged(
    knowledge: Knowledge, judgement: Judgement, layers: Iterable[Layer]
) -> tuple[dict[str, float], dict[str, str]]:
    merged = {name: (entry.weight, entry.why) for name, entry in knowledge.weights.items.items()}
    for entries, share in layers:
        for name, entry in entries.items():
            below, why = merged[name]
            merged[name] = (below + share * (entry.weight - below), entry.why if share >= HALF else why)
    of_item = {item.id: merged[item.weight_key] for item in judgement.item_kinds}
    return {name: weight for name, (weight, _) in of_item.items()}, {name: why for name, (_, why) in of_item.items()}


HALF = 0.5  # from here on a layer's sentence says why


def _moving(brief: Brief, mount: Mount, limits: Limits) -> float:
    """How much of a motion look there is to see, 0 to 1: a thing that stands on a table before a camera that stands
    shows none, and what moves less than some pixels from frame to frame shows little."""
    move, subject = brief.camera_move, brief.subject
    if brief.traits.interval:
        return 0.0 if isinstance(brief.light, LampLight) else 1.0  # what grows under a lamp stands
    held = not _carried(mount, limits) and move.travel_m_s == 0.0 and move.turn_deg_s == 0.0
    if not held or subject.event_s is not None or subject.motion_look != "natural":
        return 1.0
    if subject.speed_m_s == 0.0:  # unknown, but on a table
        return 0.0 if brief.traits.on_table else 1.0
    per_degree = brief.delivery.width / _field_wanted(brief, mount, limits)
    moved_px = float(subject_speed_deg_s(subject.speed_m_s, subject.distance_m[0])) / brief.delivery.fps * per_degree
    return ramp(moved_px, 0.0, limits.motion_seen_px)


def _field_wanted(brief: Brief, mount: Mount, limits: Limits) -> float:
    """Field that such a shot shows: the mount's, or what lets a subject of known size fill its share of the frame."""
    if brief.school.view == "widest":
        return max(mount.field_deg, limits.widest_field_deg)
    on_table = brief.traits.on_table
    if brief.subject.size_m is None or (mount.point_of_view and not on_table):
        least = limits.water_field_deg if brief.traits.under_water else 0.0
        return limits.product_field_deg if on_table else max(least, mount.field_deg)
    near, far = brief.subject.distance_m
    across = 2.0 * np.degrees(np.arctan(brief.subject.size_m / 2.0 / sqrt(near * far)))
    if on_table:
        least, most = limits.product_least_field_deg, limits.product_most_field_deg
        return float(np.clip(across / (brief.subject.fills or limits.product_fill), least, most))
    return float(
        np.clip(across / (brief.subject.fills or limits.subject_fill), limits.least_field_deg, mount.field_deg)
    )


def _frozen_s(brief: Brief, mount: Mount, limits: Limits) -> float | None:
    """Longest exposure that freezes the subject, judged at the field that such a shot shows."""
    if brief.subject.motion_look != "frozen":
        return None
    speed = float(subject_speed_deg_s(brief.subject.speed_m_s, brief.subject.distance_m[0]))
    if speed == 0.0:
        return limits.frozen_unknown_s
    per_degree = float(pixels_per_degree(brief.delivery.width, _field_wanted(brief, mount, limits), "equidistant"))
    return limits.frozen_px / (speed * per_degree)
