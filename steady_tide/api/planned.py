"""Plans as the service keeps them: with the one line that a list of shots shows."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

from steady_tide import library
from steady_tide.core import wording
from steady_tide.core.brief import Brief
from steady_tide.core.errors import NoLegalPlan, NotPlannedYet
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan


def plan_brief(brief: Brief) -> Plan:
    """Plan a brief with the crew's kit. Raises what the planner raises."""
    return _plan_of(brief.model_dump_json())


@lru_cache(maxsize=64)
def _plan_of(brief: str) -> Plan:
    """Planning is a pure function, and the Bench asks for the same plan when it saves what it shows."""
    return plan(Brief.model_validate_json(brief), library.demo_kit(), library.knowledge())


def planned_fields(brief: Brief) -> dict[str, Any]:
    """Columns of a shot made from its brief: the brief, its plan and the summary of both.

    A brief whose pins exclude each other is kept all the same, with the reason instead of a plan.
    Raises BadBrief where the brief names what does not exist.
    """
    try:
        made = plan_brief(brief)
    except (NoLegalPlan, NotPlannedYet) as error:
        return {
            "brief": brief.model_dump(mode="json"),
            "plan": None,
            "summary": {"title": brief.title, "problem": str(error)},
        }
    return {
        "brief": brief.model_dump(mode="json"),
        "plan": made.model_dump(mode="json"),
        "summary": summary(brief, made),
    }


def summary(brief: Brief, made: Plan) -> dict[str, Any]:
    """What a list of shots shows of a plan. Returns plain values."""
    values, settings = made.values, made.settings
    frame = f"{settings.width}{wording.NARROW}{wording.TIMES}{wording.NARROW}{settings.height}"
    iso = f"ISO{wording.NARROW}{settings.iso_floor}" + (
        f"\u2013{settings.iso_ceiling}" if settings.iso_ceiling > settings.iso_floor else ""
    )
    shutter = "shutter automatic" if settings.shutter_s is None else values["shutter_s"]
    return {
        "title": brief.title,
        "camera": made.camera.name,
        "ev100": list(made.exposure.ev100),
        "sheet": f"{frame} \u00b7 {values['frame_rate']} \u00b7 {shutter} \u00b7 {iso} \u00b7 {values['nd']}",
        "given_up_stops": made.given_up_stops,
        "pins": len(made.pins),
        "warnings": sum(warning.severity != "note" for warning in made.warnings),
    }
