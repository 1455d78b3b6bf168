"""Routes of the Bench: a brief in, a plan out. Nothing is stored."""

from __future__ import annotations

from fastapi import APIRouter, Response

from steady_tide.api.planned import plan_brief
from steady_tide.core.brief import Brief
from steady_tide.core.planning.plan import Plan

router = APIRouter(tags=["bench"])


@router.post("/plan", response_model=Plan)
def plan(brief: Brief) -> Response:
    """Plan a shot with the crew's kit."""
    # Written out directly: the plan is a checked model already, and checking it again takes longer than sending it.
    return Response(plan_brief(brief).model_dump_json(), media_type="application/json")
