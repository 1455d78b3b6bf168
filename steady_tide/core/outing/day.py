"""Where and when a shoot is, its light, and when glass is changed through it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime, tzinfo

from steady_tide.core.brief.brief import School
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.kit import Kit
from steady_tide.core.light.day import DayOfLight, day_of_light, local_day
from steady_tide.core.light.sky import Cloud
from steady_tide.core.light.sources import has_lamps, sky_of
from steady_tide.core.outing.planned import Outing, PlannedShot
from steady_tide.core.planning.glass_times import GlassSpan
from steady_tide.core.planning.planner import through_day
from steady_tide.core.quantities.moments import in_utc

GLASS_BEFORE_H, GLASS_AFTER_H = 1.0, 3.0  # of a shot's start: what somebody waiting for it may need
WORKED_OUT_STEP_S = 300.0


@dataclass(frozen=True)
class DayPlace:
    """Where and when a shoot is, as far as it is known."""

    title: str
    place: str
    day: date | None
    zone: tzinfo
    latitude: float | None = None
    longitude: float | None = None
    cloud: Cloud = "clear"


def light_of(where: DayPlace, knowledge: Knowledge, ends: tuple[datetime, datetime] | None = None) -> DayOfLight | None:
    """The light there. ends: of the span, the local day unless given. Returns None where place or day are not known."""
    if where.latitude is None or where.longitude is None:
        return None
    if ends is None:
        if where.day is None:
            return None
        ends = local_day(where.day, where.zone)
    start, end = ends
    return day_of_light(
        where.latitude, where.longitude, start, end, knowledge.sky, where.cloud, step_s=WORKED_OUT_STEP_S
    )


def glass_through_day(
    shot: PlannedShot, kit: Kit, knowledge: Knowledge, zone: tzinfo, crew: School
) -> tuple[GlassSpan, ...]:
    """When glass is changed if a shot that the sky lights comes early or late on its day.

    shot: planned; kit, knowledge: as for planning; zone: of the place; crew: its way of working. The sky is the shot's
    own, so that at its own time the glass is the planned one. Returns spans; none where its light does not follow the
    hour, or glass does not hold it.
    """
    sky = sky_of(shot.brief.light)
    holds = shot.plan.settings.shutter_mode == "fixed" and shot.sheet.filter_mount.fits
    if sky is None or not holds or has_lamps(shot.brief.light):
        return ()
    own = (in_utc(sky.start), in_utc(sky.end))
    day = day_of_light(
        sky.latitude,
        sky.longitude,
        *local_day(own[0].astimezone(zone).date(), zone),
        knowledge.sky,
        sky.cloud,
        sky.shade,
        step_s=WORKED_OUT_STEP_S,
    )
    return through_day(shot.brief, kit, knowledge, day, crew=crew, only=shot.sheet.id, own=own)


def glass_of_day(
    outing: Outing, kit: Kit, knowledge: Knowledge, zone: tzinfo, crew: School
) -> dict[str, tuple[GlassSpan, ...]]:
    """When glass is changed around each shot that the sky lights, if it comes early or late.

    outing: the planned day; kit, knowledge: as for planning; zone: of the place; crew: its way of working.
    Returns spans by shot, from an hour before its start to three after.
    """
    found = {}
    for shot in outing.shots:
        if shot.starts_at is None:
            continue
        spans = glass_through_day(shot, kit, knowledge, zone, crew)
        around = [span for span in spans if span.nd is not None and _near(span, shot.starts_at)]
        if len(around) > 1:
            found[shot.key] = tuple(around)
    return found


def _near(span: GlassSpan, starts_at: datetime) -> bool:
    before = (span.end - starts_at).total_seconds() / 3600.0
    after = (span.start - starts_at).total_seconds() / 3600.0
    return before >= -GLASS_BEFORE_H and after <= GLASS_AFTER_H
