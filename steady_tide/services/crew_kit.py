"""The crew's kit as the planner takes it: read again when it has changed, and with older sheets where a plan keeps one."""

from __future__ import annotations

import pickle
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from threading import Lock
from typing import Any

from cachetools import LRUCache, cached
from sqlalchemy.orm import Session

from steady_tide import library
from steady_tide.core.brief.own_numbers import OwnNumber
from steady_tide.core.gear.items import KINDS, CellKind, Mount
from steady_tide.core.gear.kit import TAKEN_ALONG, Kit
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.own.applying import read_number, with_own_numbers
from steady_tide.core.quantities.errors import NotFound
from steady_tide.services.digests import digest_of
from steady_tide.services.gear import Gear
from steady_tide.store import kit as store
from steady_tide.store.ladders import own_edition, switched_on

MOST_HELD = 64
Held = tuple[str | None, int, tuple[tuple[str, int], ...]]


@dataclass(frozen=True, eq=False)
class CrewKit(Gear):
    """Gear in one state of the store; compared by identity, so that plans made with it can be kept.

    revision: of the store; held: the same with older sheets and numbers, once they were asked for; older: sheets of then.
    """

    revision: str
    held: dict[Held, CrewKit]
    older: dict[tuple[str, int], CameraSheet]

    @cached_property
    def kit_digest(self) -> str:
        """Stands for all that the planner chooses from, counts and editions among it."""
        return digest_of(self.kit.model_dump(mode="json"))

    @cached_property
    def knowledge_digest(self) -> str:
        """Stands for all that is known: places, skies, mounts, cells, weights and limits."""
        return digest_of(self.knowledge.model_dump(mode="json"))

    def sheet(self, session: Session, camera_id: str, edition: int) -> CameraSheet | None:
        """A sheet in an edition, also of a camera that was put away. Returns None where it was never here."""
        latest = self.bare[0].camera(camera_id)
        if latest is not None and latest.edition == edition:
            return latest
        key = (camera_id, edition)
        if key not in self.older:
            try:
                self.older[key] = CameraSheet.model_validate(store.get_edition(session, camera_id, edition))
            except NotFound:
                return latest
        return self.older[key]

    def holding(
        self, session: Session, camera_id: str | None, edition: int, own: Mapping[str, int] | None = None
    ) -> CrewKit:
        """The same kit with a camera's sheet as it was in an edition, also where the camera was put away since, and with own
        numbers as they were. own: editions by key; those that are switched off stay so."""
        there = camera_id is None or (self.has(camera_id) and self.bare_camera(camera_id).edition == edition)
        counts = {number.key: number.edition for number in self.own}
        older = {key: kept for key, kept in (own or {}).items() if counts.get(key, kept) != kept}
        if there and not older:
            return self
        key = (None if there else camera_id, 0 if there else edition, tuple(sorted(older.items())))
        if key not in self.held:
            made = self._held(session, None if there else camera_id, edition, older, str(key))
            if made is None:
                return self
            if len(self.held) >= MOST_HELD:
                self.held.clear()
            self.held[key] = made
        return self.held[key]

    def bare_camera(self, camera_id: str) -> CameraSheet:
        """A camera's latest sheet as it was written, no own numbers in it. camera_id: of the kit."""
        return next(sheet for sheet in self.bare[0].cameras if sheet.id == camera_id)

    def _held(
        self, session: Session, camera_id: str | None, edition: int, older: Mapping[str, int], name: str
    ) -> CrewKit | None:
        kit, knowledge = self.bare
        if camera_id is not None:
            sheet = self.sheet(session, camera_id, edition)
            if sheet is None:
                return None
            others = tuple(sheet if other.id == camera_id else other for other in kit.cameras)
            cameras = others if self.has(camera_id) else (*others, sheet)
            kit = kit.model_copy(update={"cameras": cameras})
        numbers = tuple(_in_edition(session, number, older.get(number.key)) for number in self.own)
        laid = with_own_numbers(kit, knowledge, numbers)
        return CrewKit(*laid, (kit, knowledge), numbers, f"{self.revision} {name}", {}, self.older)


def _in_edition(session: Session, number: OwnNumber, edition: int | None) -> OwnNumber:
    kept = None if edition is None else own_edition(session, number.key, edition)
    return number if kept is None else read_number(kept)


def examples() -> tuple[list[dict[str, Any]], list[tuple[str, dict[str, Any]]]]:
    """The library's invented gear: sheets, and everything else with its kind."""
    kit, known = library.demo_kit(), library.knowledge()
    things: list[tuple[str, dict[str, Any]]] = [
        (kind, thing.model_dump(mode="json")) for kind in TAKEN_ALONG for thing in getattr(kit, kind)
    ]
    things += [("mounts", mount.model_dump(mode="json")) for mount in known.mounts.values()]
    things += [
        ("chemistries", {"id": name, **kind.model_dump(mode="json")}) for name, kind in known.chemistries.items()
    ]
    return [sheet.model_dump(mode="json") for sheet in kit.cameras], things


def read_crew_kit(session: Session, before: CrewKit | None = None) -> CrewKit:
    """Read the kit. before: as it was last read, handed back where nothing has changed. Returns it."""
    revision = store.revision(session)
    if revision is None:
        store.seed(session, *examples())
        revision = store.revision(session) or ""
    if before is not None and before.revision == revision:
        return before
    things: dict[str, list[Any]] = {kind: [] for kind in KINDS}
    for row in store.list_things(session):
        if row.kind in KINDS:
            things[row.kind].append(KINDS[row.kind].model_validate(row.thing))
    known = library.knowledge()
    mounts: list[Mount] = things.pop("mounts")
    kinds: list[CellKind] = things.pop("chemistries")
    knowledge = known.model_copy(
        update={
            "mounts": known.mounts | {mount.id: mount for mount in mounts},
            "chemistries": known.chemistries | {kind.id: kind.chemistry for kind in kinds},
        }
    )
    cameras = tuple(CameraSheet.model_validate(sheet) for _, sheet in store.list_cameras(session))
    kit = Kit(cameras=cameras, **{kind: tuple(owned) for kind, owned in things.items()})
    numbers = tuple(read_number(number) for number in switched_on(session))
    return CrewKit(*with_own_numbers(kit, knowledge, numbers), (kit, knowledge), numbers, revision, {}, {})


def typical_kit() -> CrewKit:
    """The library's own gear, as long as no kit can be read."""
    both = (library.demo_kit(), library.knowledge())
    return CrewKit(*both, both, (), "", {}, {})


MOST_PACKED = 8


def _digest(gear: CrewKit) -> str:
    return f"{gear.kit_digest}{gear.knowledge_digest}"


@cached(LRUCache(MOST_PACKED), key=_digest, lock=Lock())
def packed(gear: CrewKit) -> tuple[str, bytes]:
    """A kit as it is handed to a worker. Returns its digest and its content."""
    return _digest(gear), pickle.dumps((gear.kit, gear.knowledge, gear.bare, gear.own))
