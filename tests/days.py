"""Days that several tests use, as the planner makes them."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from functools import cache
from typing import Any

import yaml

from steady_tide import library
from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.gear.kit import Kit
from steady_tide.core.outing.planned import Outing, PlannedShot, in_order, outing_of
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan
from steady_tide.core.shoot.shoot_file import ShootFile, read_shoot
from steady_tide.demo.load import DEMO
from tests.briefs import brief

MORNING = datetime(2026, 10, 11, 8, tzinfo=UTC)


def replan(what: Brief, kit: Kit, only: str | None = None) -> Plan:
    return plan(what, kit, library.knowledge(), only=only, schools=False)


def shot(
    key: str, minutes: float | None = 0, kit: Kit | None = None, only: str = "limpet-7", **fields: Any
) -> PlannedShot:
    """A planned shot that begins some minutes after the morning."""
    kit = kit or library.demo_kit()
    what = brief(**{"title": f"shot {key}", **fields})
    sheet = next(camera for camera in kit.cameras if camera.id == only)
    start = None if minutes is None else MORNING + timedelta(minutes=minutes)
    return PlannedShot(key, what, replan(what, kit, only), sheet, start)


def day(*shots: PlannedShot) -> Outing:
    return Outing(in_order(shots))


def demo_shoot(number: int = 0) -> ShootFile:
    """A demo shoot as its file."""
    data = yaml.safe_load(DEMO.read_text())
    fields = data["shoots"][number]
    shots = [{**entry, "brief": {**entry["brief"], "mains_hz": fields["mains_hz"]}} for entry in fields["shots"]]
    return read_shoot({"format": "steady-tide/shoot", "version": 1, "crew": data["crew"], **fields, "shots": shots})


@cache
def demo_day(number: int = 0) -> Outing:
    """A demo shoot, planned."""

    def planner(what: Brief, kit: Kit, school: School) -> Plan:
        return plan(what, kit, library.knowledge(), crew=school, schools=False)

    return outing_of(demo_shoot(number), library.demo_kit(), planner)
