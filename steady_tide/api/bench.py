"""Routes of the Bench: a brief in, a plan out. Nothing is stored."""

from __future__ import annotations

from functools import lru_cache
from typing import Annotated

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel, Field

from steady_tide.api.crew_kit import CrewKit, HeldKit
from steady_tide.api.planned import plan_brief
from steady_tide.api.shared import CrewWay
from steady_tide.core.brief import Brief, School
from steady_tide.core.lapse import IntervalFilm, third_of_film
from steady_tide.core.planning.estimates import EstimateCheck, check_estimates
from steady_tide.core.planning.outlook import Outlook, outlook_of
from steady_tide.core.planning.plan import Plan

router = APIRouter(tags=["bench"])


class FilmAsked(BaseModel):
    """Two of three, and the timeline."""

    timeline_fps: Annotated[float, Field(ge=1, le=240)] = 25.0
    duration_s: Annotated[float, Field(gt=0, le=2_592_000)] | None = None
    interval_s: Annotated[float, Field(gt=0.01, le=86_400)] | None = None
    screen_s: Annotated[float, Field(gt=0, le=36_000)] | None = None


@router.post("/plan", response_model=Plan)
def plan(
    brief: Brief,
    crew: CrewWay,
    kit: HeldKit,
    only: Annotated[
        str | None, Query(max_length=60, description="id of a camera: plan on it, and do not rank the others")
    ] = None,
    schools: Annotated[bool, Query(description="whether to say what other ways of working would change")] = True,
) -> Response:
    """Plan a shot with the crew's kit and, where the brief leaves it open, in the crew's way."""
    if only is not None:
        kit.camera(only)
    # Written out directly: the plan is a checked model already, and checking it again takes longer than sending it.
    made = plan_brief(brief, crew, kit, only, schools)
    return Response(made.model_dump_json(), media_type="application/json")


@router.post("/outlook")
def outlook(brief: Brief, crew: CrewWay, kit: HeldKit, camera: Annotated[str, Query(max_length=60)]) -> Outlook:
    """What the plan of a brief looks ahead to on a camera: the frame from above, slow motion, an interval film."""
    sheet = kit.camera(camera)
    made = plan_brief(brief, crew, kit, only=camera, schools=False)
    return outlook_of(brief.in_school(crew), made, sheet, kit.knowledge)


@router.post("/estimates")
def estimates(brief: Brief, crew: CrewWay, kit: HeldKit, camera: Annotated[str, Query(max_length=60)]) -> EstimateCheck:
    """What of the plan of a brief on a camera rests on estimates of its sheet. Takes a second where there are many."""
    kit.camera(camera)
    return _check_of(brief.model_dump_json(), crew.model_dump_json(), kit, camera)


@lru_cache(maxsize=32)
def _check_of(brief: str, crew: str, kit: CrewKit, camera: str) -> EstimateCheck:
    what, way = Brief.model_validate_json(brief), School.model_validate_json(crew)
    made = plan_brief(what, way, kit, only=camera, schools=False)
    return check_estimates(what, kit.kit, kit.knowledge, made, way)


@router.post("/interval-film")
def interval_film(asked: FilmAsked) -> IntervalFilm:
    """Two of duration, interval and time on the screen give the third."""
    return third_of_film(asked.timeline_fps, asked.duration_s, asked.interval_s, asked.screen_s)
