"""Plans as the service keeps them: with the one line that a list of shots shows."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

from pydantic import ValidationError

from steady_tide.api.crew_kit import CrewKit
from steady_tide.core import wording
from steady_tide.core.brief import Brief, School
from steady_tide.core.errors import NoLegalPlan
from steady_tide.core.outing.day import lit_by_day
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan
from steady_tide.store.tables import Shot


def plan_brief(brief: Brief, crew: School, gear: CrewKit, only: str | None = None, schools: bool = True) -> Plan:
    """Plan a brief with the crew's kit.

    brief: what will be filmed; crew: its way of working; gear: what it owns; only: id of a camera, to plan on it without
    ranking the others; schools: whether to say what other ways of working would change.
    Raises what the planner raises.
    """
    return _plan_of(brief.model_dump_json(), crew.model_dump_json(), gear, only, schools)


@lru_cache(maxsize=64)
def _plan_of(brief: str, crew: str, gear: CrewKit, only: str | None, schools: bool) -> Plan:
    """Planning is a pure function, and the Bench asks for the same plan when it saves what it shows."""
    return plan(
        Brief.model_validate_json(brief),
        gear.kit,
        gear.knowledge,
        crew=School.model_validate_json(crew),
        only=only,
        schools=schools,
    )


def planned_fields(brief: Brief, crew: School, gear: CrewKit) -> dict[str, Any]:
    """Columns of a shot made from its brief: the brief, its plan and the summary of both.

    A brief whose pins exclude each other is kept all the same, with the reason instead of a plan.
    Raises BadBrief where the brief names what does not exist.
    """
    try:
        made = plan_brief(brief, crew, gear)
    except NoLegalPlan as error:
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


def made_again(shot: Shot, crew: School, gear: CrewKit) -> Shot:
    """Plan a shot again whose plan an older version of the product has kept in another form.

    shot: as kept, changed in place where its plan cannot be read any more; crew, gear: as for `plan_brief`.
    Returns the shot.
    """
    if shot.plan is not None:
        try:
            Plan.model_validate(shot.plan)
        except ValidationError:
            for name, value in planned_fields(Brief.model_validate(shot.brief), crew, gear).items():
                setattr(shot, name, value)
    return shot


def summary(brief: Brief, made: Plan) -> dict[str, Any]:
    """What a list of shots shows of a plan. Returns plain values."""
    values, settings = made.values, made.settings
    frame = f"{settings.width}{wording.NARROW}{wording.TIMES}{wording.NARROW}{settings.height}"
    iso = f"ISO{wording.NARROW}{settings.iso_floor}" + (
        f"\u2013{settings.iso_ceiling}" if settings.iso_ceiling > settings.iso_floor else ""
    )
    pace = values["frame_rate"] if settings.interval_s is None else values["interval_s"]
    shutter = "shutter automatic" if settings.shutter_s is None else values["shutter_s"]
    glass = [values[name] for name in ("nd", "colour_filter", "housing") if getattr(settings, name)]
    return {
        "title": brief.title,
        "camera": made.camera.name,
        "ev100": list(made.exposure.ev100),
        "daylight": lit_by_day(brief.light),
        "sheet": " \u00b7 ".join([frame, pace, shutter, iso, *(glass or [values["nd"]])]),
        "given_up_stops": made.given_up_stops,
        "pins": len(made.pins),
        "warnings": sum(warning.severity != "note" for warning in made.warnings),
    }
