"""What stands in the frame, and what of it is sharp: the numbers behind a drawing from above."""

from __future__ import annotations

from math import inf, isfinite, radians

from steady_tide.core.brief.brief import Brief
from steady_tide.core.gear.attachments import together
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.physics.optics import (
    depth_of_field_m,
    distance_for_width_m,
    hyperfocal_m,
    pixels_per_degree,
    width_at_m,
)
from steady_tide.core.planning.geometry import focal_mm
from steady_tide.core.planning.plan import Plan
from steady_tide.core.quantities.frozen import Frozen

CIRCLE_PX = 2.0  # delivered pixels over which a point may spread
STILL_SHARP_M = 0.05  # of a lens whose sheet names no closest distance


class Framing(Frozen):
    """Camera, field, focus and subject from above."""

    field_deg: float
    focal_mm: float
    f_number: float
    circle_um: float
    focus: str  # fixed, automatic or locked
    focus_m: float | None  # None for a lens that cannot be turned
    sharp_m: tuple[float, float | None]  # the far end None where it has none
    hyperfocal_m: float
    closest_focus_m: float
    closest_useful_m: float  # sharp, and the subject still whole
    subject_m: tuple[float, float]
    subject_size_m: float | None
    width_m: tuple[float, float]  # of the frame, at the near and at the far end of the subject
    fills: float | None  # share of the frame that the subject takes at its nearest


def framing_of(brief: Brief, plan: Plan, sheet: CameraSheet) -> Framing:
    """Work out frame and sharpness of a plan.

    brief, plan: of the shot; sheet: the camera that the plan is for, with what is put before its lenses. Returns the numbers, metres and degrees.
    A point counts as sharp within two delivered pixels. An automatic focus is taken where a locked one would be.
    """
    named = together(plan.settings.lens, plan.settings.attachment)
    lens = next(entry for entry in sheet.lenses if entry.id == named)
    view = next(entry for entry in sheet.views if entry.id == plan.settings.view)
    field = plan.exposure.field_deg
    near, far = brief.subject.distance_m
    upright = sheet.kind == "phone" and brief.delivery.height > brief.delivery.width
    across_px = brief.delivery.height if upright else brief.delivery.width
    focal = focal_mm(sheet, lens)
    spread = radians(CIRCLE_PX / float(pixels_per_degree(across_px, field, view.projection)))
    circle = spread * focal
    f_number = plan.settings.f_number
    closest = max(STILL_SHARP_M, lens.closest_m)
    if lens.focus == "fixed":
        focus, sharp = None, (closest, inf)
    else:
        focus = plan.settings.focus_m or max(2.0 / (1.0 / near + 1.0 / far), lens.closest_m)
        sharp = depth_of_field_m(focal, f_number, circle, focus)
    size = brief.subject.size_m
    whole = 0.0 if size is None else float(distance_for_width_m(size, field))
    widths = float(width_at_m(near, field)), float(width_at_m(far, field))
    return Framing(
        field_deg=field,
        focal_mm=focal,
        f_number=f_number,
        circle_um=1000.0 * circle,
        focus=plan.settings.focus,
        focus_m=focus,
        sharp_m=(sharp[0], sharp[1] if isfinite(sharp[1]) else None),
        hyperfocal_m=hyperfocal_m(focal, f_number, circle),
        closest_focus_m=lens.closest_m,
        closest_useful_m=max(closest, whole),
        subject_m=(near, far),
        subject_size_m=size,
        width_m=widths,
        fills=None if size is None else min(1.0, size / widths[0]),
    )
