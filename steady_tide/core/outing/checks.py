"""What to do before a take: which checks a plan asks for, and the quantities that they name."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from pydantic import Field

from steady_tide.core.brief.brief import Brief
from steady_tide.core.gear.items import Mount
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.planning.plan import Plan
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.limits import Limits


class Check(Frozen):
    """Something to do before the take. id: which; facts: what its sentence needs."""

    id: str
    facts: dict[str, Any] = Field(default_factory=dict)


def checks_of(brief: Brief, plan: Plan, sheet: CameraSheet, mount: Mount, limits: Limits) -> Iterator[Check]:
    """What to check before a shot is filmed.

    brief, plan: of the shot; sheet: its camera; mount: how it is held; limits: judgement. Yields checks in their order.
    """
    settings = plan.settings
    yield Check(id="card", facts={"takes_card": sheet.card_min_mb_s is not None})
    yield Check(id="lens")
    if settings.nd or settings.colour_filter:
        yield Check(id="glass", facts={"nd": list(settings.nd), "colour_filter": settings.colour_filter})
    elif sheet.filter_mount.fits:
        yield Check(id="no_glass")
    if settings.attachment:
        yield Check(id="attached", facts={"attachment": settings.attachment})
    if settings.microphone:
        yield Check(id="microphone", facts={"microphone": settings.microphone})
    if settings.housing:
        yield Check(id="seal", facts={"housing": settings.housing})
        yield Check(id="fog")
    if brief.light.kind == "water":
        yield Check(id="tether")
    if sheet.kind == "phone" and brief.delivery.height > brief.delivery.width:
        yield Check(id="upright")
    by_hand = all(way.by_hand for way in sheet.ways if way.id == settings.recorder)
    if by_hand and settings.focus == "locked" and settings.focus_m is not None:
        yield Check(id="focus", facts={"focus_m": settings.focus_m})
    if plan.endurance.frames is not None:
        yield Check(id="interval", facts={"frames": plan.endurance.frames, "interval_s": settings.interval_s})
        yield Check(id="dew")
    if settings.iso_floor == settings.iso_ceiling and settings.shutter_mode == "fixed":
        yield Check(id="locked", facts={"iso": settings.iso_floor})
    else:
        yield Check(id="metering" if by_hand else "lock_together")
    yield Check(id=_support(mount))
    if brief.sound.wanted and brief.sound.wind_m_s >= limits.fresh_wind_m_s:
        yield Check(id="foam")
    if plan.exposure.ev100[1] < limits.torch_ev:
        yield Check(id="torch")
    if brief.air_c <= limits.warm_cells_c:
        yield Check(id="warm")
    if brief.subject.event_s is not None:
        yield Check(id="early")
    elif plan.endurance.frames is None:
        yield Check(id="hold")
    yield Check(id="test")


def _support(mount: Mount) -> str:
    """What to look at by how the camera is held."""
    if mount.stands:
        return "tripod"
    if mount.flying:
        return "flight"
    return "tilt" if mount.point_of_view else "grid"
