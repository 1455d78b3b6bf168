"""What clips are held against: of a shot's plan, or of a rung of a ladder."""

from __future__ import annotations

from pydantic import ValidationError
from sqlalchemy.orm import Session

from steady_tide.core.brief.brief import Brief
from steady_tide.core.planning.plan import Plan
from steady_tide.core.rushes.clip_plan import ClipPlan, clip_plan
from steady_tide.services.crew_kit import CrewKit
from steady_tide.services.kept_plans import held_gear
from steady_tide.services.rush_curves import AS_THE_STREAM_SAYS, profiled_of, sheet_of
from steady_tide.services.rush_folders import ask_to_measure, measure_anew
from steady_tide.store import rushes as store
from steady_tide.store.tables import Clip, Shot


def hold_against(session: Session, clip: Clip, plan: ClipPlan | None) -> None:
    """Hold a clip against a plan from now on. plan: None for none. Asks for another measuring where its profile has another
    curve than was undone."""
    clip.planned = None if plan is None else plan.model_dump(mode="json")
    if clip.state != "done":
        return
    known_as = AS_THE_STREAM_SAYS
    if plan is not None:
        known_as = profiled_of(sheet_of(session, plan.camera), plan.settings.profile)[1]
    if clip.measured_as != known_as and clip.gone_at is None:
        measure_anew(clip)
        session.flush()
        ask_to_measure(session, store.get_folder(session, clip.folder_id), [clip])


def plan_of(session: Session, shot: Shot, gear: CrewKit) -> ClipPlan | None:
    """What clips of a shot are held against; None where it has no plan."""
    if shot.plan is None:
        return None
    try:
        plan = Plan.model_validate(shot.plan)
    except ValidationError:
        return None
    held = held_gear(session, shot, gear)
    sheet = held.kit.camera(plan.camera.id)
    if sheet is None:
        return None
    return clip_plan(Brief.model_validate(shot.brief), plan, sheet, held.knowledge)
