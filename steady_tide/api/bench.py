"""Routes of the Bench: a brief in, a plan out. Nothing is stored."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Response

from steady_tide.api.planned import plan_brief
from steady_tide.api.shared import CrewWay
from steady_tide.core.brief import Brief
from steady_tide.core.errors import NotFound
from steady_tide.core.planning.plan import Plan
from steady_tide.library import demo_kit

router = APIRouter(tags=["bench"])


@router.post("/plan", response_model=Plan)
def plan(
    brief: Brief,
    crew: CrewWay,
    only: Annotated[
        str | None, Query(max_length=60, description="id of a camera: plan on it, and do not rank the others")
    ] = None,
    schools: Annotated[bool, Query(description="whether to say what other ways of working would change")] = True,
) -> Response:
    """Plan a shot with the crew's kit and, where the brief leaves it open, in the crew's way."""
    if only is not None and only not in {camera.id for camera in demo_kit().cameras}:
        raise NotFound(f"There is no camera '{only}' in the kit.")
    # Written out directly: the plan is a checked model already, and checking it again takes longer than sending it.
    made = plan_brief(brief, crew, only, schools)
    return Response(made.model_dump_json(), media_type="application/json")
