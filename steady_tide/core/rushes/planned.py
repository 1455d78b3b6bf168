"""What a clip was to be: of a shot's plan, what rushes are held against."""

from __future__ import annotations

from typing import Any

from steady_tide.core.brief import Brief
from steady_tide.core.frozen import Frozen
from steady_tide.core.planning.plan import Exposure, Plan, Settings
from steady_tide.core.sheet import CameraSheet


class ClipPlan(Frozen):
    """Settings and exposure of the plan that a clip was filmed by, and what of its brief counts.

    target_stops: how far above mid grey the meter was to bring the picture, its habit and the compensation counted;
    delivered_px: width of the timeline; own_contrast: whether what fills the frame may be far from grey, as at night or on
    black ground.
    """

    camera: str
    camera_name: str
    scenario: str
    settings: Settings
    exposure: Exposure
    chosen: dict[str, Any]
    target_stops: float
    delivered_px: int
    sound_wanted: bool
    own_contrast: bool = False


def clip_plan(brief: Brief, plan: Plan, sheet: CameraSheet) -> ClipPlan:
    """Take of a plan what a clip is held against. brief: of the shot; sheet: of the plan's camera. Returns it."""
    return ClipPlan(
        camera=plan.camera.id,
        camera_name=plan.camera.name,
        scenario=brief.scenario,
        settings=plan.settings,
        exposure=plan.exposure.model_copy(update={"reaches": {}}),
        chosen=plan.chosen,
        target_stops=plan.settings.exposure_compensation + sheet.metering_bias_stops,
        delivered_px=brief.delivery.width,
        sound_wanted=brief.sound.wanted,
        own_contrast=plan.dark or brief.scenario == "product",
    )
