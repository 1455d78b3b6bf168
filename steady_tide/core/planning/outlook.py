"""What a plan looks ahead to: the frame from above, slow motion by rate, an interval film and its exposure."""

from __future__ import annotations

from datetime import timedelta

import numpy as np

from steady_tide.core.brief.brief import Brief
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.light.day import day_of_light
from steady_tide.core.light.sources import SkyLight
from steady_tide.core.planning.framing import Framing, framing_of
from steady_tide.core.planning.interval_film import CoursePoint, course_of
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.slow_motion import Cadence, SlowRate, cadence, slow_rates
from steady_tide.core.quantities.frozen import Frozen

COURSE_POINTS = 61


class SlowMotion(Frozen):
    """Slow motion of a shot: what each rate of the camera would give, and what the chosen one does."""

    timeline_fps: float
    asked_factor: float
    chosen: Cadence  # as slow as asked
    rates: tuple[SlowRate, ...]


class LapseOutlook(Frozen):
    """An interval film: its numbers, and how the exposure follows the light where the sky gives it."""

    duration_s: float
    interval_s: float
    shutter_s: float | None
    write_s: float
    frames: int
    screen_s: float
    timeline_fps: float
    recorded_gb: float
    needed_wh: float
    available_wh: float  # without anybody changing a cell
    star_drift_px: float | None
    course: tuple[CoursePoint, ...]  # empty where the light does not change


class Outlook(Frozen):
    """Everything that is drawn of a plan besides its light."""

    framing: Framing
    slow: SlowMotion | None
    lapse: LapseOutlook | None


def outlook_of(brief: Brief, plan: Plan, sheet: CameraSheet, knowledge: Knowledge) -> Outlook:
    """Look ahead. brief, plan: of the shot; sheet: its camera; knowledge: the sky. Returns the numbers."""
    lapse = plan.settings.interval_s is not None
    return Outlook(
        framing=framing_of(brief, plan, sheet),
        slow=None if lapse else _slow(brief, plan, sheet),
        lapse=_lapse(brief, plan, sheet, knowledge) if lapse else None,
    )


def _slow(brief: Brief, plan: Plan, sheet: CameraSheet) -> SlowMotion | None:
    asked, event = brief.delivery.slow_factor, brief.subject.event_s
    fps = brief.delivery.fps
    if asked == 1.0 and event is None and cadence(plan.settings.frame_rate, fps).even:
        return None
    offered = [rate for mode in sheet.modes if not mode.intervals_s for rate in mode.rates]
    return SlowMotion(
        timeline_fps=fps,
        asked_factor=asked,
        chosen=cadence(plan.settings.frame_rate, fps, asked),
        rates=slow_rates(offered, fps, event),
    )


def _lapse(brief: Brief, plan: Plan, sheet: CameraSheet, knowledge: Knowledge) -> LapseOutlook:
    settings, lasts = plan.settings, plan.endurance
    assert settings.interval_s is not None
    return LapseOutlook(
        duration_s=brief.take.length_s,
        interval_s=settings.interval_s,
        shutter_s=settings.shutter_s,
        write_s=sheet.interval_write_s,
        frames=lasts.frames or 0,
        screen_s=lasts.screen_s or 0.0,
        timeline_fps=settings.frame_rate,
        recorded_gb=lasts.recorded_gb,
        needed_wh=lasts.needed_wh,
        available_wh=lasts.unattended_wh,
        star_drift_px=lasts.star_drift_px,
        course=_course(brief, plan, sheet, knowledge),
    )


def habit_stops(plan: Plan, sheet: CameraSheet, knowledge: Knowledge) -> float:
    """How far a plan's camera exposes too much in its light: by one's own clips, else by its sheet. Returns stops."""
    known = knowledge.own.metering(plan.camera.id, plan.light_kind)
    return sheet.metering_bias_stops if known is None else known.value


def _course(brief: Brief, plan: Plan, sheet: CameraSheet, knowledge: Knowledge) -> tuple[CoursePoint, ...]:
    """The exposure through the film; the middle of level ground and what faces the sun is what is exposed for."""
    light, settings = brief.light, plan.settings
    if not isinstance(light, SkyLight) or settings.interval_s is None:
        return ()
    end = light.start + timedelta(seconds=brief.take.length_s)
    step = max(60.0, brief.take.length_s / (COURSE_POINTS - 1))
    day = day_of_light(light.latitude, light.longitude, light.start, end, knowledge.sky, light.cloud, light.shade, step)
    longest = min(sheet.between_frames_s(settings.interval_s), sheet.shutter.longest_automatic_s)
    shortest = sheet.shutter.auto_fastest_s
    if settings.shutter_s is not None:
        shortest = longest = settings.shutter_s
    return course_of(
        [float(second) for second in day.seconds],
        [float(ev) for ev in np.round((day.level_ev100 + day.facing_ev100) / 2.0, 3)],
        f_number=settings.f_number,
        nd_stops=plan.exposure.nd_stops,
        compensation_stops=settings.exposure_compensation + habit_stops(plan, sheet, knowledge),
        shortest_s=shortest,
        longest_s=longest,
        iso=(settings.iso_floor, settings.iso_ceiling),
    )
