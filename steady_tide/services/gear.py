"""What the crew owns and knows, as whoever plans takes it; without a store, so that a worker loads none."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.brief.own_numbers import OwnNumber
from steady_tide.core.gear.kit import Kit
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.quantities.errors import NotFound


@dataclass(frozen=True, eq=False)
class Gear:
    """What the crew owns and knows.

    kit, knowledge: with the own numbers that are switched on laid over them; bare: both without any; own: those numbers.
    """

    kit: Kit
    knowledge: Knowledge
    bare: tuple[Kit, Knowledge]
    own: tuple[OwnNumber, ...]

    @cached_property
    def names(self) -> dict[str, str]:
        """What all gear and all mounts are called, by id."""
        return {mount.id: mount.name for mount in self.knowledge.mounts.values()} | self.kit.names

    def camera(self, camera_id: str) -> CameraSheet:
        """A camera's latest sheet. Raises NotFound."""
        found = self.kit.camera(camera_id)
        if found is None:
            raise NotFound(f"There is no camera '{camera_id}' in the kit.")
        return found

    def has(self, camera_id: str | None) -> bool:
        """Whether a camera is in the kit."""
        return self.kit.camera(camera_id) is not None
