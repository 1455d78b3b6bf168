"""Usual uses from the shelf and of one's own, and presets that stay on cameras."""

from __future__ import annotations

import time
from collections.abc import Mapping
from concurrent.futures import Future
from dataclasses import dataclass
from datetime import datetime
from threading import Lock
from typing import Annotated, Any
from uuid import uuid4

from cachetools import LRUCache
from pydantic import Field
from sqlalchemy.orm import Session

from steady_tide import library
from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.quantities.errors import BadInput, Fault, NoLegalPlan, NotFound
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.uses.habits import Habit, habits_of
from steady_tide.core.uses.sharing import Shared, sharing
from steady_tide.core.uses.standing import PlannedUse, Standing, standing_of
from steady_tide.core.uses.two_uses import Beside, beside
from steady_tide.core.uses.use import Name, PerYear, Use
from steady_tide.services.changes import changed
from steady_tide.services.crew_kit import CrewKit
from steady_tide.services.digests import digest_of
from steady_tide.services.kept_plans import basis_of
from steady_tide.services.planning_pool import Desk, Turn
from steady_tide.services.plans import Plans
from steady_tide.store import uses as store
from steady_tide.store.merging import Stamps
from steady_tide.store.shoots import list_shoots

KEPT_STANDING = 32


@dataclass(frozen=True)
class UseHere:
    """A use as it is here. own: of one's own, else of the shelf; chosen: whether presets are made for it."""

    use: Use
    own: bool
    chosen: bool
    stamps: Stamps


def uses_here(session: Session) -> tuple[UseHere, ...]:
    """The shelf, then one's own, each with what is said of it."""
    rows = {row.id: row for row in store.list_uses(session)}
    found = []
    for key, use in library.uses().items():
        row = rows.get(key)
        often = use.per_year if row is None or row.per_year is None else row.per_year
        chosen = row is not None and row.chosen
        found.append(
            UseHere(use.model_copy(update={"per_year": often}), False, chosen, {} if row is None else row.stamps)
        )
    for row in rows.values():
        if row.use is not None:
            use = Use.model_validate({**row.use, "id": row.id, "per_year": row.per_year or 0.0})
            found.append(UseHere(use, True, row.chosen, row.stamps))
    return tuple(found)


def use_named(uses: tuple[UseHere, ...], use_id: str) -> UseHere:
    """One of the uses, by its id. Raises NotFound."""
    found = next((one for one in uses if one.use.id == use_id), None)
    if found is None:
        raise NotFound(f"There is no use '{use_id[:60]}'. It may have been removed.")
    return found


def keep_as_use(session: Session, name: str, says: str, per_year: float, brief: Brief) -> str:
    """Keep a brief as a use of one's own. name, says: of it; per_year: how often it is filmed. Returns its id. Raises BadInput."""
    use_id = f"own-{uuid4().hex[:12]}"
    use = Use(id=use_id, name=name, says=says, per_year=per_year, brief=brief.model_copy(update={"title": name}))
    store.add_own(session, use_id, use.model_dump(mode="json", exclude={"id", "per_year"}), per_year)
    return use_id


class UseSaid(Frozen):
    """What is said of a use; name and says only of one's own. per_year: how often it is filmed, None as the shelf has it."""

    chosen: bool = False
    per_year: PerYear | None = None
    name: Name = "A use"
    says: Annotated[str, Field(max_length=200, pattern=r"^[^\x00]*$")] = ""


def change_use(session: Session, use_id: str, made_on: int, change: Mapping[str, Any]) -> None:
    """Change what is said of a use. made_on: revision that the change was made on; change: fields of `UseSaid`. Raises
    NotFound, BadInput, Conflict."""
    here = use_named(uses_here(session), use_id)
    row = store.said_of(session, use_id)
    if not here.own and {"name", "says"} & set(change):
        raise BadInput(Fault("name", "is the shelf's", "Keep a shot as a use of your own to name it."))
    now = {"chosen": row.chosen, "per_year": row.per_year, "name": here.use.name, "says": here.use.says}
    said, row.stamps = changed(UseSaid, now, row.stamps, made_on, change)
    row.chosen, row.per_year = said.chosen, said.per_year
    if here.own:
        row.use = {**(row.use or {}), "name": said.name, "says": said.says}
    session.flush()


@dataclass(frozen=True)
class CameraUses:
    """What is said of uses and of one camera's set-up, read at once: what follows takes seconds, and holds no connection. uses: all; names, ticks,
    checked_at: of the set-up; mains_hz: where one films."""

    uses: tuple[UseHere, ...]
    names: dict[str, Any]
    ticks: dict[str, Any]
    checked_at: datetime | None
    mains_hz: int

    @property
    def chosen(self) -> tuple[UseHere, ...]:
        """Uses that presets are made for."""
        return tuple(here for here in self.uses if here.chosen)


def camera_uses(session: Session, camera: str) -> CameraUses:
    """Read what is said of uses and of a camera's set-up. camera: id. Returns it."""
    kept, shoots = store.set_up_of(session, camera), list_shoots(session)
    return CameraUses(
        uses=uses_here(session),
        names={} if kept is None else kept.names,
        ticks={} if kept is None else kept.ticks,
        checked_at=None if kept is None else kept.checked_at,
        mains_hz=shoots[-1][0].mains_hz if shoots else 50,  # of the latest shoot
    )


@dataclass(frozen=True)
class NotFilmed:
    """A use that a camera cannot film, and why: code and quantities of the refusal."""

    id: str
    name: str
    code: str
    facts: dict[str, Any]


@dataclass(frozen=True)
class StandingAsked:
    """What a camera's standing presets are counted from. planned, without: uses with plans, and those that it cannot film."""

    sheet: CameraSheet
    planned: tuple[PlannedUse, ...]
    without: tuple[NotFilmed, ...]
    briefs: dict[str, Brief]
    digest: str


def standing_asked(
    camera: str, chosen: tuple[UseHere, ...], crew: School, gear: CrewKit, plans: Plans
) -> StandingAsked:
    """Plan the chosen uses on one camera. camera: id; crew, gear: now. Returns what is counted. Raises NotFound where there is no such camera."""
    sheet, planner = gear.camera(camera), plans.planner(crew, gear)
    planned, without = [], []
    for here in chosen:
        try:
            plan = planner(here.use.brief, camera)
        except NoLegalPlan as error:
            without.append(NotFilmed(here.use.id, here.use.name, error.code, error.facts))
            continue
        planned.append(PlannedUse(here.use.id, here.use.name, here.use.per_year, plan))
    made_from = [(one.id, one.name, one.per_year, one.plan.chosen) for one in planned]
    return StandingAsked(
        sheet,
        tuple(planned),
        tuple(without),
        {here.use.id: here.use.brief for here in chosen},
        digest_of([sheet.model_dump(mode="json"), made_from, basis_of({}, crew, gear)["planner"]]),
    )


def beside_here(camera: str, uses: tuple[Use, Use], crew: School, gear: CrewKit, plans: Plans) -> Beside:
    """Two uses side by side on a camera. camera: id; crew, gear: now. Raises NotFound, NoLegalPlan."""
    gear.camera(camera)
    planner = plans.planner(crew, gear)
    return beside(uses, lambda brief: planner(brief, camera))


def sharing_here(
    found: Standing, asked: StandingAsked, crew: School, gear: CrewKit, plans: Plans
) -> tuple[Shared, ...]:
    """Price each use with the presets of others. found: presets for what is asked; crew, gear: now. Returns the uses, cheapest first."""
    planner = plans.planner(crew, gear)
    return sharing(found, asked.planned, asked.briefs, lambda brief: planner(brief, asked.sheet.id))


class StandingShelf:
    """Standing presets that were counted lately; counting takes seconds, so it is done in another process."""

    def __init__(self, desk: Desk | None = None) -> None:
        """desk: with the other process; left out, they are counted here."""
        self._desk = desk
        self._kept: LRUCache[str, Standing] = LRUCache(KEPT_STANDING)
        self._counted: dict[str, Future[Standing]] = {}
        self._lock = Lock()

    def at_hand(self, asked: StandingAsked, wait_s: float) -> Standing | None:
        """Presets for what is asked; None where they are still being counted after a wait. wait_s: how long. Raises DeskBusy."""
        with self._lock:
            there = self._kept.get(asked.digest)
            if there is not None:
                return there
            counted = self._counted.get(asked.digest)
            if counted is None:
                if self._desk is None:
                    self._kept[asked.digest] = made = count_standing(asked.sheet, asked.planned)
                    return made
                counted = self._desk.ask(count_standing, (asked.sheet, asked.planned), Turn.OTHERS)
                self._counted[asked.digest] = counted
                counted.add_done_callback(lambda future: self._over(asked.digest, future))
        try:
            return counted.result(timeout=wait_s)
        except TimeoutError:
            return None

    def _over(self, digest: str, future: Future[Standing]) -> None:
        with self._lock:
            self._counted.pop(digest, None)
            if not future.cancelled() and future.exception() is None:
                self._kept[digest] = future.result()


def count_standing(sheet: CameraSheet, planned: tuple[PlannedUse, ...]) -> Standing:
    """Standing presets of a camera. Returns them."""
    return standing_of(sheet, planned, time.monotonic)


def habits_here(sheet: CameraSheet, said: CameraUses) -> tuple[Habit, ...]:
    """What is advised to be set once on a camera. said: of uses; where none is chosen, for everything on the shelf."""
    briefs = [(here.use.brief, here.use.per_year) for here in said.chosen or said.uses]
    return habits_of(library.habits(), sheet, briefs, said.mains_hz)
