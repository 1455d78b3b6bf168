"""What a brief asks for, as the numbers that the costs compare against."""

from __future__ import annotations

from dataclasses import dataclass
from math import sqrt

import numpy as np

from steady_tide.core.brief import USUAL_SCHOOL, Brief
from steady_tide.core.errors import BadBrief, Fault
from steady_tide.core.kit import Knowledge, Mount
from steady_tide.core.light.sources import Light, resolve
from steady_tide.core.motion import excursion_deg, subject_speed_deg_s
from steady_tide.core.optics import pixels_per_degree


@dataclass(frozen=True)
class Situation:
    """A brief with everything derived that does not depend on the camera."""

    brief: Brief
    light: Light
    mount: Mount
    weights: dict[str, float]
    weight_reasons: dict[str, str]
    limits: dict[str, float]
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


def situation(brief: Brief, knowledge: Knowledge) -> Situation:
    """Work out what a brief asks for.

    brief: what will be filmed; what its school leaves open follows the usual way;
    knowledge: places, mounts and weights.
    Returns the situation. Raises BadBrief on an unknown place, water or mount.
    """
    brief = brief.in_school(USUAL_SCHOOL)
    light = resolve(brief.light, knowledge.world, brief.subject.distance_m)
    mount = knowledge.mounts.get(brief.camera_move.mount)
    if mount is None:
        raise BadBrief(
            Fault(
                "camera_move.mount",
                f"there is no mount called '{brief.camera_move.mount}'",
                f"Use one of {', '.join(knowledge.mounts)}.",
            )
        )
    # Under water and at a lit table the darkness is another one: it is met with light, not with patience.
    dark = brief.scenario == "low_light" or (light.dark and brief.scenario not in ("underwater", "product"))
    weights, reasons = _weights(brief, knowledge, mount, dark)
    limits = {name: entry.weight for name, entry in knowledge.weights.limits.items()}
    assert brief.school.noise is not None
    noise_limit = knowledge.weights.noise_limit_snr[brief.school.noise]
    if dark and brief.school.dark_stabilisation == "keep" and mount.shake_deg_s > 1:
        noise_limit *= limits["dark_keep_noise"]
    wide_range = brief.graded and not (dark and brief.school.dark_profile == "contrasty")
    lapse = brief.scenario == "lapse"
    return Situation(
        brief=brief,
        light=light,
        mount=mount,
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


def _weights(brief: Brief, knowledge: Knowledge, mount: Mount, dark: bool) -> tuple[dict[str, float], dict[str, str]]:
    data = knowledge.weights
    layers = [data.items, data.scenarios[brief.scenario]]
    if dark and brief.scenario not in ("low_light", "lapse"):
        layers.append(data.scenarios["low_light"])
    for axis, choices in data.schools.items():
        steadies = axis != "dark_stabilisation" or mount.shake_deg_s > 1
        if (dark or not axis.startswith("dark_")) and steadies:
            layers.append(choices[getattr(brief.school, axis)])
    merged = {name: entry for layer in layers for name, entry in layer.items()}
    return {name: entry.weight for name, entry in merged.items()}, {name: entry.why for name, entry in merged.items()}


def _field_wanted(brief: Brief, mount: Mount, limits: dict[str, float]) -> float:
    """Field that such a shot shows: the mount's, or on a table what lets the thing fill its share of the frame."""
    if brief.school.view == "widest":
        return max(mount.field_deg, 135.0)
    if brief.scenario != "product":
        return mount.field_deg
    if brief.subject.size_m is None:
        return limits["product_field_deg"]
    near, far = brief.subject.distance_m
    across = 2.0 * np.degrees(np.arctan(brief.subject.size_m / 2.0 / sqrt(near * far)))
    return float(np.clip(across / limits["product_fill"], 12.0, 75.0))


def _frozen_s(brief: Brief, mount: Mount, limits: dict[str, float]) -> float | None:
    """Longest exposure that freezes the subject, judged at the field that such a shot shows."""
    if brief.subject.motion_look != "frozen":
        return None
    speed = float(subject_speed_deg_s(brief.subject.speed_m_s, brief.subject.distance_m[0]))
    if speed == 0.0:
        return limits["frozen_unknown_s"]
    per_degree = float(pixels_per_degree(brief.delivery.width, _field_wanted(brief, mount, limits), "equidistant"))
    return limits["frozen_px"] / (speed * per_degree)
