"""The one answer to a brief on the Bench: the plan with what it looks ahead to, the light's pictures, and estimates."""

from __future__ import annotations

from pydantic import BaseModel

from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.gear.attachments import with_attachments
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.light.account import steps
from steady_tide.core.light.pictures import (
    FlickerPicture,
    LampsPicture,
    WaterPicture,
    flicker_picture,
    lamps_picture,
    water_picture,
)
from steady_tide.core.light.resolving import resolve
from steady_tide.core.light.sources import LampLight, WaterLight
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.estimates import check_estimates
from steady_tide.core.planning.judgement import Judgement
from steady_tide.core.planning.outlook import outlook_of
from steady_tide.core.planning.plan import Plan
from steady_tide.core.quantities.stops import lux_from_ev100
from steady_tide.services.gear import Gear
from steady_tide.words.estimates import CheckText, estimate_check_text
from steady_tide.words.light import StepText, lamp_words, steps_text
from steady_tide.words.outlook import OutlookText, outlook_text
from steady_tide.words.plans import PlanText, plan_text

NO_COLOUR = (0.0, 0.0, 0.0)


class MeterBand(BaseModel):
    """A band of light as meters give it: what a meter's light begins with in a brief."""

    ev100: tuple[float, float]
    lux: tuple[float, float]


class Instruments(BaseModel):
    """What the Bench draws of a brief's light."""

    meter: MeterBand
    contrast_stops: float  # within one frame, as usual in such light
    contrast_matters: bool  # whether that is more than a finished picture shows
    lamps_say: tuple[str, ...]  # what each lamp of the brief throws on the subject

    steps: list[StepText]
    water: WaterPicture | None
    lamps: LampsPicture | None
    flicker: FlickerPicture | None


class BenchAnswer(BaseModel):
    """All that the Bench shows of a brief. Estimates stand only in a whole answer, where a sheet has some."""

    plan: PlanText
    outlook: OutlookText
    instruments: Instruments
    estimates: CheckText | None
    whole: bool


def answer_of(
    brief: Brief, crew: School, gear: Gear, plan: Plan, whole: bool = True, judgement: Judgement = USUAL
) -> BenchAnswer:
    """Answer a brief.

    brief: what will be filmed; crew: its way of working; gear: what it owns; plan: made of these; whole: whether it
    ranks the others and says what other ways of working would change, so that what rests on estimates is wanted, too;
    judgement: the one it was made with.
    """
    sheet = gear.camera(plan.camera.id)
    check = None
    if whole and sheet.estimates:
        check = estimate_check_text(check_estimates(brief, gear.kit, gear.knowledge, plan, crew))
    return BenchAnswer.model_construct(
        plan=plan_text(plan, judgement),
        outlook=outlook_text(outlook_of(brief.in_school(crew), plan, _as_worn(sheet, plan, gear), gear.knowledge)),
        instruments=instruments_of(brief, plan, sheet, gear),
        estimates=check,
        whole=whole,
    )


def _as_worn(sheet: CameraSheet, plan: Plan, gear: Gear) -> CameraSheet:
    """A camera with what a plan puts before its lens."""
    return with_attachments(sheet, tuple(a for a in gear.kit.attachments if a.id == plan.settings.attachment))


def instruments_of(brief: Brief, plan: Plan, sheet: CameraSheet, gear: Gear) -> Instruments:
    """What is drawn of a brief's light beside a plan. sheet: of its camera; gear: colour filters at hand."""
    light, distance, world = brief.light, brief.subject.distance_m, gear.knowledge.world
    taken = brief.kit.filters
    colours = [f for f in gear.kit.filters if f.kind == "colour" and (taken is None or f.id in taken)]
    settings = plan.settings
    resolved = resolve(light, world, distance)
    usual = resolved.usual_contrast_stops
    low, high = (round(ev, 1) for ev in plan.exposure.ev100)
    return Instruments.model_construct(
        meter=MeterBand(ev100=(low, high), lux=(_lux(low), _lux(high))),
        contrast_stops=usual,
        contrast_matters=usual > gear.knowledge.limits.range_straight_stops,
        lamps_say=lamp_words(light.lamps if isinstance(light, LampLight | WaterLight) else ()),
        steps=list(steps_text(steps(light, world, distance))),
        water=water_picture(light, world, distance, [("none", NO_COLOUR), *((f.id, f.band_stops) for f in colours)])
        if isinstance(light, WaterLight)
        else None,
        lamps=lamps_picture(light, world, plan.exposure.light_missing_stops) if isinstance(light, LampLight) else None,
        flicker=flicker_picture(
            resolved,
            brief.mains_hz,
            sheet.shutter.fixed_s,
            settings.frame_rate,
            sheet.lenses[0].sensor.readout_ms / 1000.0,
            settings.height,
            brief.delivery.fps,
        ),
    )


def _lux(ev100: float) -> float:
    return round(float(lux_from_ev100(ev100)), 2)
