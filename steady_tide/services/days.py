"""A shoot's day as the core works with it, from what is kept."""

from __future__ import annotations

import time
from collections.abc import Sequence
from concurrent.futures import Future
from threading import Lock
from zoneinfo import ZoneInfo

from cachetools import LRUCache
from sqlalchemy.orm import Session

from steady_tide.core.brief.brief import School
from steady_tide.core.gear.kit import Kit
from steady_tide.core.light.sky import Cloud
from steady_tide.core.outing.budget import ShootBudget, budget_of
from steady_tide.core.outing.day import DayPlace
from steady_tide.core.outing.planned import Outing, PlannedShot, Unplanned
from steady_tide.core.outing.presets import PresetPlan, presets_of
from steady_tide.core.quantities.errors import DeskBusy
from steady_tide.core.shoot.shoot_file import DayRules, ShotWishes
from steady_tide.services.crew_kit import CrewKit
from steady_tide.services.kept_plans import standing_of
from steady_tide.services.planning_pool import Desk, Turn
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


Key = tuple[object, ...]


class PresetShelf:
    """Presets of the last days that were looked at; they hang on all that the plans are made from.

    Counting them takes seconds, so it is done in another process: whoever only shows them beside something else takes
    what is there by then.
    """

    def __init__(self, desk: Desk | None = None) -> None:
        """desk: with the other process; left out, they are counted here."""
        self._desk = desk
        self._kept: LRUCache[Key, PresetPlan] = LRUCache(KEPT_PRESETS)
        self._counted: dict[Key, Future[PresetPlan]] = {}
        self._lock = Lock()

    def of_day(self, outing: Outing, camera: str | None = None) -> tuple[PresetPlan, ...]:
        """Presets of every camera of a day, or of one, waiting for them. camera: its id. Raises DeskBusy."""
        return tuple(self._asked(shots).result() for shots in _by_camera(outing, camera))

    def at_hand(self, outing: Outing, camera: str, wait_s: float) -> PresetPlan | None:
        """Presets of one camera of a day; None where they are still being counted after a short wait, or never will be."""
        shots = next(iter(_by_camera(outing, camera)), None)
        try:
            return None if shots is None else self._asked(shots).result(timeout=wait_s)
        except (TimeoutError, DeskBusy):
            return None

    def _asked(self, shots: list[PlannedShot]) -> Future[PresetPlan]:
        sheet = shots[0].sheet
        key: Key = (sheet.id, sheet.edition, *((shot.key, shot.digest) for shot in shots))
        with self._lock:
            there = self._kept.get(key)
            if there is not None:
                return _done(there)
            counted = self._counted.get(key)
            if counted is not None:
                return counted
            if self._desk is None:
                self._kept[key] = made = count_presets(shots)
                return _done(made)
            counted = self._counted[key] = self._desk.ask(count_presets, (shots,), Turn.OTHERS)
        counted.add_done_callback(lambda future: self._over(key, future))
        return counted

    def _over(self, key: Key, future: Future[PresetPlan]) -> None:
        with self._lock:
            self._counted.pop(key, None)
            if not future.cancelled() and future.exception() is None:
                self._kept[key] = future.result()


def count_presets(shots: list[PlannedShot]) -> PresetPlan:
    """Presets of the shots of one camera. shots: in their order. Returns them."""
    return presets_of(shots, time.monotonic)


def _by_camera(outing: Outing, camera: str | None) -> list[list[PlannedShot]]:
    cameras = dict.fromkeys(shot.sheet.id for shot in outing.shots if camera in (None, shot.sheet.id))
    return [[shot for shot in outing.shots if shot.sheet.id == name] for name in cameras]


def _done(made: PresetPlan) -> Future[PresetPlan]:
    future: Future[PresetPlan] = Future()
    future.set_result(made)
    return future
