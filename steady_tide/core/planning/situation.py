"""What a brief asks for, as the numbers that the costs compare against."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from math import sqrt
from typing import TypeVar

import numpy as np

from steady_tide.core.brief import USUAL_SCHOOL, Brief
from steady_tide.core.errors import BadBrief, Fault
from steady_tide.core.gear import Mount
from steady_tide.core.knowledge import Knowledge, Limits
from steady_tide.core.light.sources import Light, resolve
from steady_tide.core.motion import excursion_deg, subject_speed_deg_s
from steady_tide.core.optics import pixels_per_degree
from steady_tide.core.planning.judgement import Judgement
from steady_tide.core.sheet import Lens

T = TypeVar("T")


@dataclass(frozen=True)
class Situation:
    """A brief with everything derived that does not depend on the camera."""

    brief: Brief
    light: Light
    mount: Mount
    judgement: Judgement
    weights: dict[str, float]
    weight_reasons: dict[str, str]
    limits: Limits
    noise_limit_snr: float
    shown_fps: float
    graded: bool
    dark: bool
    lapse: bool
    range_wanted_stops: float
    wander_deg: float
    field_wanted_deg: float
    bend_matters: float
    frozen_s: float | None

    @property
    def delivered_px(self) -> int:
        """Pixels of the delivered frame."""
        return self.brief.delivery.width * self.brief.delivery.height

    @cached_property
    def is_heard(self) -> bool:
        """Whether the sound is of use: wanted, in the dry, at speed, and not beside propellers."""
        return self.brief.sound.wanted and not self.mount.flying and self.light.deepest_m is None and not self.lapse

    @property
    def wind_m_s(self) -> float:
        """What blows at the microphone, or the ride's own."""
        return max(self.brief.sound.wind_m_s, self.brief.camera_move.travel_m_s)

    @property
    def carried(self) -> bool:
        """Whether a person's movement shakes the camera."""
        return self.mount.shake_deg_s > self.limits["steady_hold_deg_s"]

    def focus_distance_m(self, lens: Lens) -> float:
        """Where a lens is best focused: midway, in reciprocal distance, between the ends of the subject.

        lens: one that can be focused. Returns metres.
        """
        near, far = self.brief.subject.distance_m
        return max(2.0 / (1.0 / near + 1.0 / far), lens.closest_m)


def situation(brief: Brief, knowledge: Knowledge, judgement: Judgement) -> Situation:
    """Work out what a brief asks for.

    brief: what will be filmed; what its school leaves open follows the usual way;
    knowledge: places, mounts and weights; judgement: what there is to turn and to give up.
    Returns the situation. Raises BadBrief on an unknown place, water, mount or scenario.
    """
    brief = brief.in_school(USUAL_SCHOOL)
    light = resolve(brief.light, knowledge.world, brief.subject.distance_m)
    mount = _named("camera_move.mount", "mount", brief.camera_move.mount, knowledge.mounts)
    _named("scenario", "scenario", brief.scenario, knowledge.weights.scenarios)
    # Under water and at a lit table the darkness is another one: it is met with light, not with patience.
    dark = brief.scenario == "low_light" or (light.dark and brief.scenario not in ("underwater", "product"))
    limits = knowledge.limits
    carried = mount.shake_deg_s > limits["steady_hold_deg_s"]
    weights, reasons = _weights(brief, knowledge, judgement, dark, carried)
    assert brief.school.noise is not None
    noise_limit = knowledge.weights.noise_limit_snr[brief.school.noise]
    if dark and brief.school.dark_stabilisation == "keep" and carried:
        noise_limit *= limits["dark_keep_noise"]
    wide_range = brief.graded and not (dark and brief.school.dark_profile == "contrasty")
    lapse = brief.scenario == "lapse"
    return Situation(
        brief=brief,
        light=light,
        mount=mount,
        judgement=judgement,
        weights=weights,
        weight_reasons=reasons,
        limits=limits,
        noise_limit_snr=noise_limit,
        shown_fps=brief.delivery.fps if lapse else brief.shown_fps,
        graded=brief.graded,
        dark=dark,
        lapse=lapse,
        range_wanted_stops=limits["range_graded_stops" if wide_range else "range_straight_stops"],
        wander_deg=float(excursion_deg(mount.shake_deg_s, mount.settle_s)),
        field_wanted_deg=_field_wanted(brief, mount, limits),
        bend_matters=limits["pov_bend"] if mount.point_of_view else 1.0,
        frozen_s=_frozen_s(brief, mount, limits),
    )


def _named(where: str, what: str, name: str, known: Mapping[str, T]) -> T:
    if name not in known:
        raise BadBrief(Fault(where, f"there is no {what} called '{name}'", f"Use one of {', '.join(known)}."))
    return known[name]


def _weights(
    brief: Brief, knowledge: Knowledge, judgement: Judgement, dark: bool, carried: bool
) -> tuple[dict[str, float], dict[str, str]]:
    data = knowledge.weights
    layers = [data.items, data.scenarios[brief.scenario]]
    if dark and brief.scenario not in ("low_light", "lapse"):
        layers.append(data.scenarios["low_light"])
    for axis, choices in data.schools.items():
        steadies = axis != "dark_stabilisation" or carried
        if (dark or not axis.startswith("dark_")) and steadies:
            layers.append(choices[getattr(brief.school, axis)])
    merged = {name: entry for layer in layers for name, entry in layer.items()}
    of_item = {item.id: merged[item.weight_key] for item in judgement.item_kinds}
    return {name: entry.weight for name, entry in of_item.items()}, {n: entry.why for n, entry in of_item.items()}


def _field_wanted(brief: Brief, mount: Mount, limits: Limits) -> float:
    """Field that such a shot shows: the mount's, or on a table what lets the thing fill its share of the frame."""
    if brief.school.view == "widest":
        return max(mount.field_deg, limits["widest_field_deg"])
    if brief.scenario != "product":
        return mount.field_deg
    if brief.subject.size_m is None:
        return limits["product_field_deg"]
    near, far = brief.subject.distance_m
    across = 2.0 * np.degrees(np.arctan(brief.subject.size_m / 2.0 / sqrt(near * far)))
    least, most = limits["product_least_field_deg"], limits["product_most_field_deg"]
    return float(np.clip(across / limits["product_fill"], least, most))


def _frozen_s(brief: Brief, mount: Mount, limits: Limits) -> float | None:
    """Longest exposure that freezes the subject, judged at the field that such a shot shows."""
    if brief.subject.motion_look != "frozen":
        return None
    speed = float(subject_speed_deg_s(brief.subject.speed_m_s, brief.subject.distance_m[0]))
    if speed == 0.0:
        return limits["frozen_unknown_s"]
    per_degree = float(pixels_per_degree(brief.delivery.width, _field_wanted(brief, mount, limits), "equidistant"))
    return limits["frozen_px"] / (speed * per_degree)
