"""A shot of the day together with the plan that was made for it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import Any

from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.gear.kit import Kit
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.planning.plan import Plan
from steady_tide.core.quantities.errors import NoLegalPlan
from steady_tide.core.shoot.shoot_file import ShootFile, ShotWishes


@dataclass(frozen=True)
class PlannedShot:
    """A shot with its plan, and the camera that the plan is for."""

    key: str
    brief: Brief
    plan: Plan
    sheet: CameraSheet
    starts_at: datetime | None = None
    wishes: ShotWishes = field(default_factory=ShotWishes)
    digest: str = ""  # of all that the plan is made from, where it is kept

    @property
    def takes(self) -> int:
        """How often it is filmed."""
        return max(1, round(self.brief.running_s / self.brief.take.length_s))

    @property
    def lasts_s(self) -> float:
        """From the first take to the last, waiting included, seconds."""
        return self.brief.lasts_s

    @property
    def ends_at(self) -> datetime | None:
        """When it is over, if it is known when it begins."""
        return None if self.starts_at is None else self.starts_at + timedelta(seconds=self.lasts_s)

    @property
    def on_drive(self) -> bool:
        """Whether its mode writes what it records to an external drive only."""
        settings = self.plan.settings
        return any(
            settings.codec in mode.drive_codecs
            and (mode.width, mode.height, mode.lens) == (settings.width, settings.height, settings.lens)
            and settings.frame_rate in mode.rates
            for mode in self.sheet.modes
        )

    def with_plan(self, brief: Brief, plan: Plan, sheet: CameraSheet) -> PlannedShot:
        """The same shot, planned otherwise. Returns another."""
        return PlannedShot(self.key, brief, plan, sheet, self.starts_at, self.wishes, digest="")


@dataclass(frozen=True)
class Unplanned:
    """A shot that has no plan, and why: code and quantities of the refusal."""

    key: str
    title: str
    code: str
    facts: dict[str, Any]


@dataclass(frozen=True)
class Outing:
    """The shots of a day in their order, those without a time last."""

    shots: tuple[PlannedShot, ...]
    unplanned: tuple[Unplanned, ...] = ()

    def shot(self, key: str) -> PlannedShot | None:
        """The shot under a key, or None."""
        return next((shot for shot in self.shots if shot.key == key), None)

    def replaced(self, new: PlannedShot) -> Outing:
        """The same day with one shot planned otherwise. Returns another."""
        return Outing(tuple(new if shot.key == new.key else shot for shot in self.shots), self.unplanned)


Planner = Callable[[Brief, Kit, School], Plan]


def in_order(shots: Sequence[PlannedShot]) -> tuple[PlannedShot, ...]:
    """Shots by their start, those without one last, in the order given. Returns them."""
    timed = [shot for shot in shots if shot.starts_at is not None]
    return (
        *sorted(timed, key=lambda shot: shot.starts_at),  # type: ignore[arg-type,return-value]
        *(shot for shot in shots if shot.starts_at is None),
    )


def outing_of(shoot: ShootFile, kit: Kit, planner: Planner) -> Outing:
    """Plan every shot of a shoot.

    shoot: as read from its file; kit: what the crew owns; planner: from brief, kit and the crew's school to
    a plan. Returns the day; shots are keyed by their place in the file, from 1. Raises BadBrief where a brief
    names what does not exist.
    """
    school = shoot.crew.school if shoot.crew else School()
    sheets = {sheet.id: sheet for sheet in kit.cameras}
    planned, without = [], []
    for number, entry in enumerate(shoot.shots, start=1):
        try:
            plan = planner(entry.brief, kit, school)
        except NoLegalPlan as error:
            without.append(Unplanned(str(number), entry.brief.title, error.code, error.facts))
            continue
        planned.append(
            PlannedShot(str(number), entry.brief, plan, sheets[plan.camera.id], entry.starts_at, entry.wishes)
        )
    return Outing(in_order(planned), tuple(without))
