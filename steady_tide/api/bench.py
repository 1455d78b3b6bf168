"""Routes of the Bench: a brief in, a plan out. Nothing is stored."""

from __future__ import annotations

from fastapi import APIRouter

from steady_tide.api.planned import plan_brief
from steady_tide.core.brief import Brief
from steady_tide.core.planning.plan import Plan

router = APIRouter(tags=["bench"])


@router.post("/plan")
def plan(brief: Brief) -> Plan:
    """Plan a shot with the crew's kit."""
    return plan_brief(brief)
