"""A shoot's day as the core works with it, from what is kept."""

from __future__ import annotations

import time
from collections.abc import Sequence
from typing import Any
from zoneinfo import ZoneInfo

from sqlalchemy.orm import Session

from steady_tide.api.crew_kit import CrewKit
from steady_tide.api.planned import made_again
from steady_tide.core.brief import Brief, School
from steady_tide.core.kit import Kit
from steady_tide.core.light.sky import Cloud
from steady_tide.core.outing.budget import ShootBudget, budget_of
from steady_tide.core.outing.day import DayPlace
from steady_tide.core.outing.planned import Outing, PlannedShot, Unplanned
from steady_tide.core.outing.presets import PresetPlan, presets_of
from steady_tide.core.planning.plan import Plan
from steady_tide.core.shoot import DayRules, ShotWishes
from steady_tide.store.shots import list_planned
from steady_tide.store.tables import Shoot, Shot

KEPT_PRESETS = 64


def outing_kept(session: Session, shoot: Shoot, crew: School, gear: CrewKit) -> Outing:
    """The planned shots of a shoot, as kept. shoot: whose; crew: its way of working; gear: its kit. Returns the day."""
    return outing_of_rows(session, list_planned(session, shoot.id), crew, gear)


def outing_of_rows(session: Session, rows: Sequence[Shot], crew: School, gear: CrewKit) -> Outing:
    """The same from rows at hand, which are in their order. Each plan comes with the edition of the sheet it was made with."""
    planned, without = [], []
    for shot in rows:
        made_again(shot, crew, gear)
        key, brief = str(shot.id), Brief.model_validate(shot.brief)
        plan = None if shot.plan is None else Plan.model_validate(shot.plan)
        if plan is None:
            without.append(Unplanned(key, brief.title, str(shot.summary.get("problem", "it has no plan"))))
            continue
        sheet = gear.sheet(session, plan.camera.id, plan.camera.edition)
        if sheet is None:
            without.append(Unplanned(key, brief.title, f"the camera '{plan.camera.name}' is no longer in the kit"))
        else:
            wishes = ShotWishes.model_validate(shot.wishes)
            planned.append(PlannedShot(key, brief, plan, sheet, shot.starts_at, wishes))
    return Outing(tuple(planned), tuple(without))


def where_is(shoot: Shoot) -> DayPlace:
    """Where and when a shoot is."""
    cloud: Cloud = shoot.cloud or "clear"  # type: ignore[assignment]
    return DayPlace(
        title=shoot.title,
        place=shoot.place,
        day=shoot.day,
        zone=ZoneInfo(shoot.zone),
        latitude=shoot.latitude,
        longitude=shoot.longitude,
        cloud=cloud,
    )


def rules_of(shoot: Shoot) -> DayRules:
    """What holds for the order of its day."""
    return DayRules.model_validate(shoot.rules)


def kit_for(outing: Outing, gear: CrewKit) -> Kit:
    """The crew's kit with the sheets that the plans of a day were made with, also of cameras that were put away."""
    theirs = {shot.sheet.id: shot.sheet for shot in outing.shots}
    others = tuple(sheet for sheet in gear.kit.cameras if sheet.id not in theirs)
    return gear.kit.model_copy(update={"cameras": (*theirs.values(), *others)})


def budget_kept(outing: Outing, gear: CrewKit) -> ShootBudget:
    """The budgets of a day with the crew's kit."""
    return budget_of(outing, gear.kit, gear.knowledge.chemistries)


def presets_kept(state: Any, outing: Outing) -> tuple[PresetPlan, ...]:
    """Presets of every camera of a day, kept until a plan changes. state: of the application."""
    found = []
    for camera in dict.fromkeys(shot.sheet.id for shot in outing.shots):
        shots = [shot for shot in outing.shots if shot.sheet.id == camera]
        key = (camera, *((shot.key, shot.brief.title, tuple(shot.plan.values.items())) for shot in shots))
        if key not in state.presets:
            if len(state.presets) >= KEPT_PRESETS:
                state.presets.clear()
            state.presets[key] = presets_of(shots, time.monotonic)
        found.append(state.presets[key])
    return tuple(found)
