"""What a clip was to be: of a shot's plan, what rushes are held against."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import BeforeValidator

from steady_tide.core.brief.brief import Brief
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.gear.view_names import todays_pins
from steady_tide.core.planning.outlook import habit_stops
from steady_tide.core.planning.plan import Exposure, Plan, Settings
from steady_tide.core.quantities.frozen import Frozen


class ClipPlan(Frozen):
    """Settings and exposure of the plan that a clip was filmed by, and what of its brief counts.

    target_stops: how far above mid grey the meter was to bring the picture, its habit and the compensation counted;
    delivered_px: width of the timeline; own_contrast: whether what fills the frame may be far from grey, as at night or on
    black ground; light_kind: as a meter meets it; mount, hands: how and by whom it was held; settle_s: of the mount; margin_deg,
    leak: of the stabilisation, what it can shift and what passes all the same.
    """

    camera: str
    camera_name: str
    scenario: str
    settings: Settings
    exposure: Exposure
    chosen: Annotated[dict[str, Any], BeforeValidator(todays_pins)]
    target_stops: float
    delivered_px: int
    sound_wanted: bool
    own_contrast: bool = False
    light_kind: str | None = None
    mount: str | None = None
    hands: str | None = None
    settle_s: float | None = None
    margin_deg: float | None = None
    leak: float | None = None


def clip_plan(brief: Brief, plan: Plan, sheet: CameraSheet, knowledge: Knowledge) -> ClipPlan:
    """Take of a plan what a clip is held against. brief: of the shot; sheet: of the plan's camera; knowledge: with which it was
    made. Returns it."""
    mount = knowledge.mounts.get(brief.camera_move.mount)
    level = next((one for one in sheet.stabilisation if one.id == plan.settings.stabilisation), None)
    # What stabilisation can shift: half of what it cuts off.
    margin = None if level is None else plan.exposure.field_deg * (1.0 / level.keeps - 1.0) / 2.0
    return ClipPlan(
        camera=plan.camera.id,
        camera_name=plan.camera.name,
        scenario=brief.scenario,
        settings=plan.settings,
        exposure=plan.exposure.model_copy(update={"reaches": {}}),
        chosen=plan.chosen,
        target_stops=plan.settings.exposure_compensation + habit_stops(plan, sheet, knowledge),
        delivered_px=brief.delivery.width,
        sound_wanted=brief.sound.wanted,
        own_contrast=plan.dark or brief.traits.on_table,
        light_kind=plan.light_kind or None,
        mount=brief.camera_move.mount,
        hands=brief.camera_move.hands,
        settle_s=None if mount is None else mount.settle_s,
        margin_deg=margin,
        leak=None if level is None else level.leak,
    )
