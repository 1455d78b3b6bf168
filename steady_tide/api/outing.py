"""Routes of going outside: budgets, mends, presets, packing, wishes, and what was ticked and set."""

from __future__ import annotations

from typing import Annotated, Any, Literal
from uuid import UUID

from fastapi import Query
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.orm import Session

from steady_tide.api.shared import CrewKitOf, CrewWay, PlansOf, PresetsOf, SessionOf
from steady_tide.api.station import station
from steady_tide.core.brief.brief import Brief
from steady_tide.core.gear.items import Keeping
from steady_tide.core.gear.kit import Kit
from steady_tide.core.outing.mends import Failing, mends
from steady_tide.core.outing.packing import packing_of
from steady_tide.core.outing.presets import named
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan as plan_shot
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadInput, Fault, NotFound
from steady_tide.core.shoot.shoot_file import DayRules, Key, Line, ShotWishes
from steady_tide.services.changes import Change, changed
from steady_tide.services.days import budget_kept, kit_for, outing_kept, rules_of
from steady_tide.store import kit as store_kit
from steady_tide.store import shots as store_shots
from steady_tide.store.merging import revision_of
from steady_tide.store.shoots import get_shoot, locked_shoot
from steady_tide.words.budgets import BudgetText, budget_text
from steady_tide.words.mends import MendText, mend_text
from steady_tide.words.orders import LIGHT_WINDOWS
from steady_tide.words.packing import PackingText, packing_text
from steady_tide.words.presets import PresetsText, presets_text

router = station("outside")


class MendList(BaseModel):
    """Ways out of a failure, those that are enough first."""

    items: list[MendText]
    total: int


class PresetList(BaseModel):
    """Presets of each camera of a day."""

    items: list[PresetsText]
    total: int


class Outside(BaseModel):
    """What was done outside since the last word from there."""

    model_config = ConfigDict(extra="forbid")

    ticks: Annotated[dict[Key, bool], Field(max_length=sizes.TICKS)] = {}
    really_set: Annotated[dict[Key, Line | None], Field(max_length=sizes.REALLY_SET)] = {}


class OutsideKept(BaseModel):
    """What is known of a shot's card outside."""

    ticks: dict[str, bool]
    really_set: dict[str, str]


class DayAsked(BaseModel):
    """What the order of a shoot's day has to respect, and the windows that shots may name."""

    rules: DayRules
    revision: int  # of the shoot and its rules
    light_windows: dict[str, str]
    wishes: dict[str, ShotWishes]  # by shot
    wish_revisions: dict[str, int]  # by shot


class RulesKept(BaseModel):
    """The rules of a day as they are kept."""

    rules: DayRules
    revision: int


class WishesKept(BaseModel):
    """What a shot asks of the order, as it is kept."""

    wishes: ShotWishes
    revision: int


@router.get("/shoots/{shoot_id}/budget")
def budget(session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, shoot_id: UUID) -> BudgetText:
    """What is left of charge, cards, coolness and flight after each shot."""
    return budget_text(budget_kept(outing_kept(session, get_shoot(session, shoot_id), crew, gear, plans), gear))


@router.get("/shoots/{shoot_id}/mends")
def mends_of(
    session: SessionOf,
    crew: CrewWay,
    gear: CrewKitOf,
    plans: PlansOf,
    shoot_id: UUID,
    shot: Annotated[UUID, Query(description="the shot that fails")],
    kind: Annotated[Literal["battery", "card", "heat", "flight"], Query(description="what it fails in")],
) -> MendList:
    """What would mend a failure, each way tried and priced by the planner. Takes a second or two."""
    outing = outing_kept(session, get_shoot(session, shoot_id), crew, gear, plans)
    kit, knowledge = kit_for(outing, gear), gear.knowledge
    found = outing.shot(str(shot))
    rows = [row for camera in budget_kept(outing, gear).cameras for row in camera.shots if row.key == str(shot)]
    fail = next((fail for row in rows for fail in row.fails if fail.kind == kind), None)
    if found is None or fail is None:
        raise NotFound("This shot does not fail there any more.")

    def replan(brief: Brief, other: Kit, camera: str) -> Plan:
        return plan_shot(brief, other, knowledge, crew=crew, only=camera, schools=False)

    names = found.plan.names
    items = [mend_text(way, names) for way in mends(Failing(outing, found, fail, kit, knowledge, replan))]
    return MendList(items=items, total=len(items))


@router.get("/shoots/{shoot_id}/presets")
def presets(
    session: SessionOf, shelf: PresetsOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, shoot_id: UUID
) -> PresetList:
    """Presets and quick buttons that leave the fewest taps through the day."""
    shoot = get_shoot(session, shoot_id)
    outing = outing_kept(session, shoot, crew, gear, plans)
    items = [presets_text(found) for found in named(shelf.of_day(outing), rules_of(shoot).preset_names)]
    return PresetList(items=items, total=len(items))


def _kept(session: Session) -> dict[str, Keeping]:
    """State and place of everything in the kit, by id."""
    cameras = ((camera.id, camera.keeping) for camera, _ in store_kit.list_cameras(session))
    things = ((thing.id, thing.keeping) for thing in store_kit.list_things(session))
    return {name: Keeping.model_validate(keeping) for name, keeping in (*cameras, *things)}


@router.get("/shoots/{shoot_id}/packing")
def packing(session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, shoot_id: UUID) -> PackingText:
    """What to pack, and what the kit lacks."""
    outing = outing_kept(session, get_shoot(session, shoot_id), crew, gear, plans)
    return packing_text(packing_of(outing, budget_kept(outing, gear), gear.kit, gear.knowledge, _kept(session)))


@router.get("/shoots/{shoot_id}/rules")
def day_asked(session: SessionOf, shoot_id: UUID) -> DayAsked:
    """What the order of the day has to respect."""
    shoot = get_shoot(session, shoot_id)
    shots = store_shots.list_shots(session, shoot_id)
    return DayAsked(
        rules=rules_of(shoot),
        revision=revision_of(shoot.stamps),
        light_windows=LIGHT_WINDOWS,
        wishes={str(shot.id): ShotWishes.model_validate(shot.wishes) for shot in shots},
        wish_revisions={str(shot.id): revision_of(shot.stamps) for shot in shots},
    )


@router.patch("/shoots/{shoot_id}/rules")
def change_rules(session: SessionOf, shoot_id: UUID, said: Change) -> RulesKept:
    """Change what holds for the whole day, field by field."""
    shoot = locked_shoot(session, shoot_id)
    rules, stamps = changed(DayRules, shoot.rules or {}, shoot.stamps, said.revision, said.change, "rules.")
    names = [window.name for window in rules.windows]
    for index, name in enumerate(names):
        if name in names[:index] or name in LIGHT_WINDOWS:
            raise BadInput(
                Fault(f"windows[{index}].name", f"there is a window called '{name}' already", "Give it another name.")
            )
    shoot.rules, shoot.stamps = rules.model_dump(mode="json"), stamps
    return RulesKept(rules=rules, revision=revision_of(stamps))


@router.patch("/shots/{shot_id}/wishes")
def change_wishes(session: SessionOf, shot_id: UUID, said: Change) -> WishesKept:
    """Change what one shot asks of the order of the day, field by field."""
    shot = store_shots.locked_shot(session, shot_id)
    wishes, stamps = changed(ShotWishes, shot.wishes or {}, shot.stamps, said.revision, said.change, "wishes.")
    store_shots.keep_wishes(session, shot, wishes.model_dump(mode="json"), stamps)
    return WishesKept(wishes=wishes, revision=revision_of(stamps))


def _outside(shot: Any) -> OutsideKept:
    return OutsideKept(ticks=shot.ticks, really_set=shot.really_set)


@router.get("/shots/{shot_id}/outside")
def outside(session: SessionOf, shot_id: UUID) -> OutsideKept:
    """What was ticked on a shot's card, and what was really set."""
    return _outside(store_shots.get_shot(session, shot_id))


@router.post("/shots/{shot_id}/outside")
def note_outside(session: SessionOf, shot_id: UUID, said: Outside) -> OutsideKept:
    """Add ticks and settings from outside; the last word on each counts, so it may be said again."""
    return _outside(store_shots.note_outside(session, shot_id, said.ticks, said.really_set))
