"""The crew's kit as the planner takes it: read again when it has changed, and with older sheets where a plan keeps one."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

from sqlalchemy.orm import Session

from steady_tide import library
from steady_tide.core.errors import NotFound
from steady_tide.core.gear import KINDS, CellKind, Mount
from steady_tide.core.kit import TAKEN_ALONG, Kit
from steady_tide.core.knowledge import Knowledge
from steady_tide.core.sheet import CameraSheet
from steady_tide.services.digests import digest_of
from steady_tide.store import kit as store

MOST_HELD = 64


@dataclass(frozen=True, eq=False)
class CrewKit:
    """What the crew owns and knows, in one state of it; compared by identity, so that plans made with it can be kept."""

    kit: Kit
    knowledge: Knowledge
    revision: str
    held: dict[tuple[str, int], CrewKit]
    older: dict[tuple[str, int], CameraSheet]

    @cached_property
    def kit_digest(self) -> str:
        """Stands for all that the planner chooses from, counts and editions among it."""
        return digest_of(self.kit.model_dump(mode="json"))

    @cached_property
    def knowledge_digest(self) -> str:
        """Stands for all that is known: places, skies, mounts, cells, weights and limits."""
        return digest_of(self.knowledge.model_dump(mode="json"))

    def camera(self, camera_id: str) -> CameraSheet:
        """A camera's latest sheet. Raises NotFound."""
        found = next((sheet for sheet in self.kit.cameras if sheet.id == camera_id), None)
        if found is None:
            raise NotFound(f"There is no camera '{camera_id}' in the kit.")
        return found

    def has(self, camera_id: str | None) -> bool:
        """Whether a camera is in the kit."""
        return any(sheet.id == camera_id for sheet in self.kit.cameras)

    def sheet(self, session: Session, camera_id: str, edition: int) -> CameraSheet | None:
        """A sheet in an edition, also of a camera that was put away. Returns None where it was never here."""
        latest = next((sheet for sheet in self.kit.cameras if sheet.id == camera_id), None)
        if latest is not None and latest.edition == edition:
            return latest
        key = (camera_id, edition)
        if key not in self.older:
            try:
                self.older[key] = CameraSheet.model_validate(store.get_edition(session, camera_id, edition))
            except NotFound:
                return latest
        return self.older[key]

    def holding(self, session: Session, camera_id: str | None, edition: int) -> CrewKit:
        """The same kit with a camera's sheet as it was in an edition, also where the camera was put away since."""
        if camera_id is None or (self.has(camera_id) and self.camera(camera_id).edition == edition):
            return self
        key = (camera_id, edition)
        if key not in self.held:
            sheet = self.sheet(session, camera_id, edition)
            if sheet is None:
                return self
            if len(self.held) >= MOST_HELD:
                self.held.clear()
            others = tuple(sheet if other.id == camera_id else other for other in self.kit.cameras)
            cameras = others if self.has(camera_id) else (*others, sheet)
            kit = self.kit.model_copy(update={"cameras": cameras})
            self.held[key] = CrewKit(kit, self.knowledge, f"{self.revision} {camera_id} {edition}", {}, self.older)
        return self.held[key]


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
    return CrewKit(kit, knowledge, revision, {}, {})
