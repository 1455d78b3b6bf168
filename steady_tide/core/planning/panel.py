"""A panel of briefs, each with what an operator accepts of its plan, and how a plan stands against that.

A plan is accepted whole, would be signed with one change, or is refused: where two changes are wanted, or where it
does what the brief says would be refused.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from typing import Annotated, Any, Literal

import numpy as np
from pydantic import BeforeValidator, Field

from steady_tide.core.brief.brief import Brief, read_brief
from steady_tide.core.gear.items import piece_of
from steady_tide.core.gear.kit import Kit
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.physics.optics import fitted_width_px
from steady_tide.core.planning.plan import Plan
from steady_tide.core.quantities.errors import NoLegalPlan
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.stops import read_seconds

Verdict = Literal["whole", "changed", "refused"]
VERDICTS: tuple[Verdict, ...] = ("whole", "changed", "refused")
CHANGES_REFUSED = 2  # wanted changes from which on a plan is refused
ROUNDING = 1e-6

Bound = Annotated[float, BeforeValidator(read_seconds)]


class Expectation(Frozen):
    """What one quantity or setting of a plan should be.

    of: its name, see `facts_of`; is: one of these; from, to: within, both ends included; or: or one of these; has,
    lacks: of names such as those of warnings; why: what an operator would say.
    """

    of: str
    one_of: Annotated[tuple[Any, ...] | None, Field(alias="is")] = None
    least: Annotated[Bound | None, Field(alias="from")] = None
    most: Annotated[Bound | None, Field(alias="to")] = None
    or_one_of: Annotated[tuple[Any, ...], Field(alias="or")] = ()
    has: tuple[str, ...] = ()
    lacks: tuple[str, ...] = ()
    any_of: tuple[str, ...] = ()
    why: str

    def holds(self, facts: Mapping[str, Any]) -> bool:
        """Whether it is so. facts: of a plan, by name. Raises KeyError where there is no such fact."""
        value = facts[self.of]
        if self.has or self.lacks or self.any_of:
            anyone = not self.any_of or bool(set(self.any_of) & set(value))
            return set(self.has) <= set(value) and not set(self.lacks) & set(value) and anyone
        if value in self.or_one_of or (self.one_of is not None and value in self.one_of):
            return True
        if self.one_of is not None or not isinstance(value, (int, float)):
            return False
        slack = ROUNDING * max(1.0, abs(value)) if value > 1 else 0.005 * abs(value)
        above = self.least is None or value >= self.least - slack
        return above and (self.most is None or value <= self.most + slack)


class PanelBrief(Frozen):
    """A brief, what an operator accepts of its plan, and what he would refuse."""

    id: str
    title: str
    brief: dict[str, Any]
    accepts: tuple[Expectation, ...]
    refuses: tuple[Expectation, ...] = ()

    def read(self) -> Brief:
        """The brief. Raises BadBrief with the path of every fault."""
        return read_brief({"title": self.title, **self.brief})


class Wanted(Frozen):
    """Something that an operator would change: what it is, and why he would."""

    of: str
    value: Any
    why: str
    refused: bool = False


class Judged(Frozen):
    """How the plan of one brief stands."""

    id: str
    title: str
    scenario: str
    verdict: Verdict
    camera: str | None
    wanted: tuple[Wanted, ...]


def judge(entry: PanelBrief, kit: Kit, plan: Callable[[Brief], Plan]) -> Judged:
    """Plan one brief and hold the plan against what an operator accepts.

    entry: the brief with its expectations; kit: what is taken along; plan: plans a brief.
    Returns how it stands; a brief without a legal plan is refused.
    """
    brief = entry.read()
    said = {"id": entry.id, "title": entry.title, "scenario": brief.scenario}
    try:
        found = plan(brief)
    except NoLegalPlan as error:
        gone = Wanted(
            of="plan", value=None, why=error.code if hasattr(error, "code") else "no legal plan", refused=True
        )
        return Judged(verdict="refused", camera=None, wanted=(gone,), **said)
    facts = facts_of(brief, found, kit)
    wanted = [Wanted(of=want.of, value=facts[want.of], why=want.why) for want in entry.accepts if not want.holds(facts)]
    wanted += [
        Wanted(of=no.of, value=facts[no.of], why=no.why, refused=True) for no in entry.refuses if no.holds(facts)
    ]
    refused = len(wanted) >= CHANGES_REFUSED or any(want.refused for want in wanted)
    verdict: Verdict = "refused" if refused else "changed" if wanted else "whole"
    return Judged(verdict=verdict, camera=found.camera.id, wanted=tuple(wanted), **said)


def facts_of(brief: Brief, plan: Plan, kit: Kit) -> dict[str, Any]:
    """Everything about a plan that an expectation may name.

    brief, plan, kit: of the shot. Returns settings by their own names (`auto` and `off` for a shutter and an interval
    that are left out), quantities in the units of their names, and what is said.
    """
    settings = plan.settings
    sheet = next(camera for camera in kit.cameras if camera.id == plan.camera.id)
    stops = {f.id: f.stops for piece in kit.filters for f in piece.positions()}
    polarises = {piece.id for piece in kit.filters if piece.kind == "polariser"}
    warnings = tuple(warning.code for warning in plan.warnings)
    return {
        **settings.model_dump(),
        "shutter_s": "auto" if settings.shutter_s is None else settings.shutter_s,
        "interval_s": "off" if settings.interval_s is None else settings.interval_s,
        "camera": sheet.id,
        "camera_kind": sheet.kind,
        "straight": next(view for view in sheet.views if view.id == settings.view).projection == "linear",
        "tall": settings.height * 16 > settings.width * 9 * 1.01,
        "nd_stops": sum(stops[piece] for piece in settings.nd),
        "polarised": any(piece_of(piece) in polarises for piece in settings.nd),
        "over_stops": plan.exposure.over_stops,
        "under_stops": plan.exposure.under_stops,
        "field_deg": plan.exposure.field_deg,
        "iso_range_stops": float(np.log2(settings.iso_ceiling / settings.iso_floor)),
        "given_up_stops": plan.given_up_stops,
        "screen_s": plan.endurance.screen_s,
        "upright_px": _upright_px(sheet, settings.width, settings.height),
        "housed_or_proof": "housing_missing" not in warnings,
        "housing_margin_m": _margin_m(sheet, plan, kit, brief),
        "lamp_reach_m": next((w.facts["reach_m"] for w in plan.warnings if w.code == "lamp_reach"), None),
        "warnings": warnings,
        "cautions": tuple(caution.topic for caution in plan.cautions),
    }


def _upright_px(sheet: CameraSheet, width: int, height: int) -> float:
    """Width that is left of a frame in an upright cut of nine by sixteen; a phone is turned."""
    wide, high = (height, width) if sheet.kind == "phone" else (width, height)
    return float(fitted_width_px(wide, high, 9, 16))


def _margin_m(sheet: CameraSheet, plan: Plan, kit: Kit, brief: Brief) -> float | None:
    """By how much body or housing is proof beyond the deepest point, metres. None in the dry."""
    if brief.light.kind != "water":
        return None
    case = next((housing for housing in kit.housings if housing.id == plan.settings.housing), None)
    proof_m = sheet.proof_depth_m if case is None else case.proof_depth_m
    return proof_m - brief.light.depth_m[1]


class Difference(Frozen):
    """What became of a brief since the last run."""

    id: str
    was: Verdict
    now: Verdict


def shares(judged: Iterable[Judged]) -> dict[Verdict, int]:
    """How many plans are accepted whole, with one change, and refused. judged: of a run. Returns counts."""
    found = [entry.verdict for entry in judged]
    return {verdict: found.count(verdict) for verdict in VERDICTS}


def differences(judged: Iterable[Judged], before: Mapping[str, Verdict]) -> tuple[Difference, ...]:
    """What changed since another run. judged: of this one; before: verdicts by id. Returns what differs."""
    return tuple(
        Difference(id=entry.id, was=before[entry.id], now=entry.verdict)
        for entry in judged
        if entry.id in before and before[entry.id] != entry.verdict
    )
