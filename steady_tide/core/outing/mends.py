"""What would mend a shot that fails its budget, each way tried and priced by the planner."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from typing import Any

from steady_tide.core.brief.brief import Brief, KitList
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.items import Cell, Medium
from steady_tide.core.gear.kit import Kit
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.outing.budget import Fail, ShotBudget, budget_of
from steady_tide.core.outing.planned import Outing, PlannedShot
from steady_tide.core.outing.stores import own_cell
from steady_tide.core.physics.endurance import cold_factor
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.power_and_cards import fed_from_outside
from steady_tide.core.quantities.errors import NoLegalPlan
from steady_tide.core.quantities.frozen import Frozen

SAVING = {
    "battery": ("pre_record_s", "positioning", "screen", "stabilisation", "frame_rate", "frame"),
    "flight": ("stabilisation", "frame_rate", "frame"),
    "heat": ("screen", "stabilisation", "frame_rate", "frame"),
    "card": ("bit_rate_mb_s", "codec", "frame_rate", "frame"),
}
CARD_SIZES_GB = (32.0, 64.0, 128.0, 256.0, 512.0, 1000.0, 2000.0)
MOST_CELLS = 12
TRIED_VALUES = 3
LONGEST_PAUSE_MIN = 120
OTHER_CAMERAS = 2


class Mend(Frozen):
    """One way out: what to do, whether it is enough, and what it costs against the plan as it is.

    code: which sentence says it; facts: its quantities.
    """

    id: str
    code: str
    facts: dict[str, Any]
    works: bool
    given_up_stops: float  # more than now; negative where it is even better
    pins: dict[str, str | float | bool]  # that carry it out on the Bench; empty where it is done by hand


Replan = Callable[[Brief, Kit, str], Plan]  # on one camera, by id


@dataclass(frozen=True)
class Failing:
    """A shot of a day that fails, with all that is needed to try something else."""

    outing: Outing
    shot: PlannedShot
    fail: Fail
    kit: Kit
    knowledge: Knowledge
    replan: Replan

    def after(self, outing: Outing, kit: Kit) -> ShotBudget:
        """The budget of the shot in another day or with another kit."""
        budget = budget_of(outing, kit, self.knowledge)
        return next(row for camera in budget.cameras for row in camera.shots if row.key == self.shot.key)

    def holds(self, outing: Outing, kit: Kit) -> bool:
        """Whether the shot is then free of this failure."""
        return self.fail.kind not in {fail.kind for fail in self.after(outing, kit).fails}


def mends(failing: Failing) -> tuple[Mend, ...]:
    """Try what would mend a failure.

    failing: the shot and its failure. Returns ways out, those that are enough first, then the cheapest.
    """
    found = [*_by_dials(failing), *_by_gear(failing), *_by_waiting(failing), *_by_camera(failing)]
    return tuple(sorted(found, key=lambda mend: (not mend.works, mend.given_up_stops)))


def _by_dials(failing: Failing) -> Iterator[Mend]:
    shot = failing.shot
    for dial in SAVING[failing.fail.kind]:
        now = shot.plan.chosen.get(dial)
        values = [
            value
            for value in shot.plan.profiles.get(dial, ())
            if value.legal and value.value != now and value.given_up_stops is not None
        ]
        best: Mend | None = None
        tried = 0  # of those that save
        for value in sorted(values, key=lambda value: value.given_up_stops or 0.0):
            pinned = shot.brief.model_copy(update={"pins": {**shot.brief.pins, dial: value.value}})
            try:
                plan = failing.replan(pinned, failing.kit, shot.sheet.id)
            except NoLegalPlan:
                continue
            if not _saves(failing.fail, shot.plan, plan):
                continue
            tried += 1
            mend = Mend(
                id=dial,
                code="dial",
                facts={"dial": dial, "value": value.value, "now": now},
                works=failing.holds(failing.outing.replaced(shot.with_plan(pinned, plan, shot.sheet)), failing.kit),
                given_up_stops=plan.given_up_stops - shot.plan.given_up_stops,
                pins={dial: value.value},
            )
            if best is None or (mend.works and not best.works):
                best = mend
            if best.works or tried == TRIED_VALUES:
                break
        if best is not None:
            yield best


def _saves(fail: Fail, now: Plan, then: Plan) -> bool:
    if fail.kind == "card":
        return then.endurance.recorded_gb < now.endurance.recorded_gb
    if fail.kind == "heat":
        return then.endurance.power_w < now.endurance.power_w
    return then.endurance.needed_wh < now.endurance.needed_wh


def _by_gear(failing: Failing) -> Iterator[Mend]:
    if failing.fail.kind in ("battery", "flight"):
        yield from _more_charge(failing)
    if failing.fail.kind == "card":
        yield from _another_card(failing)


def _priced(
    failing: Failing, kit: Kit, name: str, facts: dict[str, Any], works: bool, sheet: CameraSheet | None = None
) -> Mend:
    """What the shot gives up when it is planned with other gear."""
    shot = failing.shot
    if sheet is not None:
        kit = kit.model_copy(
            update={"cameras": tuple(sheet if camera.id == sheet.id else camera for camera in kit.cameras)}
        )
    plan = failing.replan(shot.brief.model_copy(update={"kit": _all_of(shot.brief)}), kit, shot.sheet.id)
    more = plan.given_up_stops - shot.plan.given_up_stops
    return Mend(id=name, code=name, facts=facts, works=works, given_up_stops=more, pins={})


def _all_of(brief: Brief) -> KitList:
    """The brief's kit with everything that feeds and stores, so that what is added counts."""
    return brief.kit.model_copy(update={"batteries": None, "media": None})


def _free_of_lists(failing: Failing) -> Outing:
    shot = failing.shot
    freed = shot.with_plan(shot.brief.model_copy(update={"kit": _all_of(shot.brief)}), shot.plan, shot.sheet)
    return failing.outing.replaced(freed)


def _more_charge(failing: Failing) -> Iterator[Mend]:
    shot, kit = failing.shot, failing.kit
    sheet = shot.sheet
    outing = _free_of_lists(failing)
    for count in range(1, MOST_CELLS + 1):
        more = kit.model_copy(update={"batteries": (*kit.batteries, own_cell(sheet, count))})
        if failing.holds(outing, more):
            facts: dict[str, Any] = {"count": count, "wh": sheet.power.battery_wh}
            yield _priced(failing, more, "more_cells", facts, works=True)
            break
    at_c = shot.plan.endurance.cells_c
    chemistries, limits = failing.knowledge.chemistries, failing.knowledge.limits
    now = chemistries.get(sheet.power.chemistry) or chemistries["ordinary"]
    best_id, best = max(chemistries.items(), key=lambda entry: cold_factor(at_c, entry[1].left))
    if float(cold_factor(at_c, best.left)) > float(cold_factor(at_c, now.left)) + limits.seen_stops:
        warm_sheet = sheet.model_copy(update={"power": sheet.power.model_copy(update={"chemistry": best_id})})
        cells = tuple(
            cell.model_copy(update={"chemistry": best_id}) if sheet.id in cell.fits else cell for cell in kit.batteries
        )
        warm = kit.model_copy(update={"batteries": cells})
        swapped = replace(
            outing,
            shots=tuple(
                replace(entry, sheet=warm_sheet) if entry.sheet.id == sheet.id else entry for entry in outing.shots
            ),
        )
        facts = {
            "best": best.name,
            "best_share": float(cold_factor(at_c, best.left)),
            "now_share": float(cold_factor(at_c, now.left)),
            "cells_c": at_c,
        }
        yield _priced(failing, warm, "cold_rated", facts, failing.holds(swapped, warm), warm_sheet)
    if fed_from_outside(shot.brief, sheet, failing.knowledge):
        wanted = failing.fail.short / limits.bank_efficiency if failing.fail.unit == "Wh" else 0.0
        if wanted:
            bank = Cell(id="another-bank", name="power bank", kind="bank", wh=max(1.0, wanted * 1.02))
            more = kit.model_copy(update={"batteries": (*kit.batteries, bank)})
            yield _priced(failing, more, "bank", {"wh": bank.wh}, failing.holds(outing, more))


def _another_card(failing: Failing) -> Iterator[Mend]:
    shot, kit = failing.shot, failing.kit
    if not shot.sheet.card_min_mb_s:
        return
    outing = _free_of_lists(failing)
    fast = shot.plan.settings.bit_rate_mb_s * failing.knowledge.limits.card_margin
    for size in CARD_SIZES_GB:
        card = Medium(id="another-card", name="another card", capacity_gb=size, write_mb_s=fast, fits=(shot.sheet.id,))
        more = kit.model_copy(update={"media": (*kit.media, card)})
        if failing.holds(outing, more):
            yield _priced(failing, more, "card", {"gb": size, "mb_s": fast}, works=True)
            return


def _by_waiting(failing: Failing) -> Iterator[Mend]:
    """Longer pauses between takes, for a camera that gets too hot."""
    if failing.fail.kind != "heat" or failing.shot.takes < 2:
        return
    shot = failing.shot
    for minutes in (5, 10, 20, 30, 45, 60, 90, LONGEST_PAUSE_MIN):
        if minutes <= shot.brief.take.standby_min:
            continue
        take = shot.brief.take.model_copy(update={"standby_min": float(minutes)})
        brief = shot.brief.model_copy(update={"take": take})
        plan = failing.replan(brief, failing.kit, shot.sheet.id)
        if failing.holds(failing.outing.replaced(shot.with_plan(brief, plan, shot.sheet)), failing.kit):
            yield Mend(
                id="pause",
                code="pause",
                facts={"minutes": minutes, "now_minutes": shot.brief.take.standby_min},
                works=True,
                given_up_stops=plan.given_up_stops - shot.plan.given_up_stops,
                pins={},
            )
            return


def _by_camera(failing: Failing) -> Iterator[Mend]:
    shot = failing.shot
    sheets = {camera.id: camera for camera in failing.kit.cameras}
    others = [
        ranked
        for ranked in shot.plan.cameras
        if ranked.id != shot.sheet.id and ranked.given_up_stops is not None and ranked.id in sheets
    ]
    for other in sorted(others, key=lambda ranked: ranked.given_up_stops or 0.0)[:OTHER_CAMERAS]:
        pinned = shot.brief.model_copy(update={"pins": {"camera": other.id}})
        try:
            plan = failing.replan(pinned, failing.kit, other.id)
        except NoLegalPlan:
            continue
        moved = failing.outing.replaced(shot.with_plan(pinned, plan, sheets[other.id]))
        yield Mend(
            id=f"camera-{other.id}",
            code="camera",
            facts={"camera": other.name},
            works=failing.holds(moved, failing.kit),
            given_up_stops=plan.given_up_stops - shot.plan.given_up_stops,
            pins={"camera": other.id},
        )
