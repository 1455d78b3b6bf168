"""Whether a plan rests on estimates: it is made again with each matter at its worst and at its best."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import Any

from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.kit import Kit
from steady_tide.core.gear.sheet import CameraSheet, Estimate
from steady_tide.core.gear.sheet_paths import value_at
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan
from steady_tide.core.quantities.errors import BadBrief, NoLegalPlan
from steady_tide.core.quantities.frozen import Frozen

# Numbers of which more is worse; of all others more is better.
WORSE_WHEN_MORE = {
    "read_noise_e",
    "readout_ms",
    "leak",
    "base_w",
    "per_gigapixel_s_w",
    "power_w",
    "heat_k_per_w",
    "needs_grading_stops",
    "closest_m",
    "f_numbers",
}
# What estimated numbers can be about, and be tried together.
MATTERS = (
    "noise",
    "readout",
    "heat",
    "power",
    "view",
    "steadying",
    "colour",
    "recording",
    "aperture",
    "metering",
)
SAME_STOPS = 0.05  # prices closer than this are shown alike


class EstimatedField(Frozen):
    """An estimated number of the sheet."""

    field: str
    value: float
    low: float
    high: float
    how: str


class EstimatedDial(Frozen):
    """A dial that an estimate decides: its values, None where an end leaves no plan."""

    dial: str
    now: Any
    at_worst: Any
    at_best: Any
    worst_has_plan: bool
    best_has_plan: bool


class RestsOn(Frozen):
    """One matter of which only estimates are known."""

    matter: str
    fields: tuple[EstimatedField, ...]
    dials: tuple[EstimatedDial, ...]
    worst_stops: float | None  # None where the worst leaves no plan
    best_stops: float | None
    decides: bool  # whether a dial or the price changes with it


class EstimateCheck(Frozen):
    """What of a plan rests on estimates of its camera's sheet."""

    camera: str
    edition: int
    names: dict[str, str]  # of glass and housings
    given_up_stops: float
    estimates: int
    matters: tuple[RestsOn, ...]  # those that decide something first


def check_estimates(
    brief: Brief, kit: Kit, knowledge: Knowledge, made: Plan, crew: School | None = None
) -> EstimateCheck:
    """Make a plan again with what is only estimated at its worst and at its best.

    brief, kit, knowledge, crew: of the plan; made: the plan. Returns what changes, matter by matter: numbers of
    one matter move together. Raises what the planner raises for a brief that cannot be read.
    """
    sheet = next(camera for camera in kit.cameras if camera.id == made.camera.id)
    groups: dict[str, list[Estimate]] = {}
    for estimate in sheet.estimates:
        if estimate.low is not None and estimate.high is not None and estimate.matter in MATTERS:
            groups.setdefault(estimate.matter, []).append(estimate)
    found = [_rests(matter, group, sheet, brief, kit, knowledge, made, crew) for matter, group in groups.items()]
    return EstimateCheck(
        camera=sheet.id,
        edition=sheet.edition,
        names=made.names,
        given_up_stops=made.given_up_stops,
        estimates=len(sheet.estimates),
        matters=tuple(sorted(found, key=lambda entry: (not entry.decides, -len(entry.dials)))),
    )


def _rests(
    matter: str,
    group: Sequence[Estimate],
    sheet: CameraSheet,
    brief: Brief,
    kit: Kit,
    knowledge: Knowledge,
    made: Plan,
    crew: School | None,
) -> RestsOn:
    ends: list[Plan | None] = []
    for worst in (True, False):
        other = _varied(sheet, group, worst)
        cameras = tuple(other if camera.id == sheet.id else camera for camera in kit.cameras)
        their_kit = kit.model_copy(update={"cameras": cameras})
        try:
            ends.append(plan(brief, their_kit, knowledge, crew=crew, schools=False, only=sheet.id))
        except (NoLegalPlan, BadBrief):
            ends.append(None)
    at_worst, at_best = ends
    dials = tuple(
        EstimatedDial(
            dial=dial,
            now=now,
            at_worst=at_worst.chosen.get(dial, now) if at_worst else None,
            at_best=at_best.chosen.get(dial, now) if at_best else None,
            worst_has_plan=at_worst is not None,
            best_has_plan=at_best is not None,
        )
        for dial, now in made.chosen.items()
        if any(end is not None and end.chosen.get(dial, now) != now for end in ends)
    )
    prices = [None if end is None else end.given_up_stops for end in ends]
    moved = any(price is None or abs(price - made.given_up_stops) >= SAME_STOPS for price in prices)
    return RestsOn(
        matter=matter,
        fields=tuple(
            EstimatedField(
                field=entry.field,
                value=float(value_at(sheet, entry.field)),
                low=entry.low or 0.0,
                high=entry.high or 0.0,
                how=entry.how,
            )
            for entry in group
        ),
        dials=dials,
        worst_stops=prices[0],
        best_stops=prices[1],
        decides=bool(dials) or moved,
    )


def _varied(sheet: CameraSheet, group: Sequence[Estimate], worst: bool) -> CameraSheet:
    """The sheet with the numbers of one matter at one end."""
    doc: Any = sheet.model_dump(mode="json")
    for entry in group:
        steps = re.findall(r"[^.\[\]]+", entry.field)
        name = next(step for step in reversed(steps) if not step.isdigit())
        at = doc
        for step in steps[:-1]:
            at = at[int(step)] if isinstance(at, list) else at[step]
        high = (name in WORSE_WHEN_MORE) == worst
        last = steps[-1]
        at[int(last) if isinstance(at, list) else last] = entry.high if high else entry.low
    return CameraSheet.model_validate(doc)
