"""A shoot's day as the core works with it, from what is kept."""

from __future__ import annotations

import time
from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass, field
from threading import Lock
from zoneinfo import ZoneInfo

from sqlalchemy.orm import Session

from steady_tide.core.brief import School
from steady_tide.core.kit import Kit
from steady_tide.core.light.sky import Cloud
from steady_tide.core.outing.budget import ShootBudget, budget_of
from steady_tide.core.outing.day import DayPlace
from steady_tide.core.outing.planned import Outing, PlannedShot, Unplanned
from steady_tide.core.outing.presets import PresetPlan, presets_of
from steady_tide.core.shoot import DayRules, ShotWishes
from steady_tide.services.crew_kit import CrewKit
from steady_tide.services.kept_plans import standing_of
from steady_tide.services.plans import Plans
from steady_tide.store.shots import list_planned
from steady_tide.store.tables import Shoot, Shot

KEPT_PRESETS = 64
NO_PLAN, CAMERA_GONE = "no_plan_kept", "camera_gone"


def outing_kept(session: Session, shoot: Shoot, crew: School, gear: CrewKit, plans: Plans) -> Outing:
    """The planned shots of a shoot, as they stand. shoot: whose; crew: its way of working; gear: its kit."""
    return outing_of_rows(session, list_planned(session, shoot.id), crew, gear, plans)


def outing_of_rows(session: Session, rows: Sequence[Shot], crew: School, gear: CrewKit, plans: Plans) -> Outing:
    """The same from rows at hand, which are in their order. Each plan comes with the edition of the sheet it was made with."""
    planned, without = [], []
    for shot in rows:
        standing = standing_of(session, shot, crew, gear, plans)
        key, brief, plan = str(shot.id), standing.brief, standing.plan
        if plan is None:
            why = standing.refusal
            code, facts = (why.code, why.facts) if why else (NO_PLAN, {})
            without.append(Unplanned(key, brief.title, code, facts))
            continue
        sheet = gear.sheet(session, plan.camera.id, plan.camera.edition)
        if sheet is None:
            without.append(Unplanned(key, brief.title, CAMERA_GONE, {"camera": plan.camera.name}))
        else:
            wishes = ShotWishes.model_validate(shot.wishes)
            planned.append(PlannedShot(key, brief, plan, sheet, shot.starts_at, wishes, standing.digest))
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
    return budget_of(outing, gear.kit, gear.knowledge)


@dataclass(frozen=True, eq=False)
class PresetShelf:
    """Presets of the last days that were looked at; they hang on all that the plans are made from."""

    _kept: OrderedDict[tuple[object, ...], PresetPlan] = field(default_factory=OrderedDict)
    _lock: Lock = field(default_factory=Lock)

    def of(self, outing: Outing, camera: str | None = None) -> tuple[PresetPlan, ...]:
        """Presets of every camera of a day, or of one. camera: its id."""
        cameras = dict.fromkeys(shot.sheet.id for shot in outing.shots if camera in (None, shot.sheet.id))
        return tuple(self._of_camera([shot for shot in outing.shots if shot.sheet.id == name]) for name in cameras)

    def _of_camera(self, shots: list[PlannedShot]) -> PresetPlan:
        sheet = shots[0].sheet
        key = (sheet.id, sheet.edition, *((shot.key, shot.digest) for shot in shots))
        with self._lock:
            found = self._kept.get(key)
        if found is None:
            found = presets_of(shots, time.monotonic)
            with self._lock:
                self._kept[key] = found
                while len(self._kept) > KEPT_PRESETS:
                    self._kept.popitem(last=False)
        return found
