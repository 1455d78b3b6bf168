"""What the planner may choose from."""

from __future__ import annotations

from steady_tide.core.gear.items import Attachment, Cell, Filter, Housing, KitLamp, Medium, Microphone
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.quantities.frozen import Frozen


class Kit(Frozen):
    """What the planner may choose from."""

    cameras: tuple[CameraSheet, ...]
    filters: tuple[Filter, ...]
    attachments: tuple[Attachment, ...] = ()
    housings: tuple[Housing, ...] = ()
    microphones: tuple[Microphone, ...] = ()
    lamps: tuple[KitLamp, ...] = ()
    batteries: tuple[Cell, ...] = ()
    media: tuple[Medium, ...] = ()

    def camera(self, camera_id: str | None) -> CameraSheet | None:
        """A camera's sheet. Returns None where it is not in the kit."""
        return next((sheet for sheet in self.cameras if sheet.id == camera_id), None)

    @property
    def names(self) -> dict[str, str]:
        """What all of it is called, by id."""
        return {thing.id: thing.name for kind in ("cameras", *TAKEN_ALONG) for thing in getattr(self, kind)}


# What a brief may take along, kind by kind, besides cameras.
TAKEN_ALONG = ("filters", "attachments", "housings", "microphones", "lamps", "batteries", "media")
