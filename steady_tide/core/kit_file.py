"""A whole kit as one file."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, Literal

from pydantic import Field

from steady_tide.core.frozen import Frozen
from steady_tide.core.gear import (
    KINDS,
    Attachment,
    Cell,
    CellKind,
    Filter,
    Housing,
    KitLamp,
    Medium,
    Microphone,
    Mount,
    Thing,
)
from steady_tide.core.sheet import CameraSheet


class KitFile(Frozen):
    """A whole kit as one file."""

    format: Literal["steady-tide/kit"]
    version: Literal[1]
    cameras: Annotated[tuple[CameraSheet, ...], Field(max_length=200)] = ()
    filters: Annotated[tuple[Filter, ...], Field(max_length=500)] = ()
    attachments: Annotated[tuple[Attachment, ...], Field(max_length=500)] = ()
    housings: Annotated[tuple[Housing, ...], Field(max_length=500)] = ()
    microphones: Annotated[tuple[Microphone, ...], Field(max_length=500)] = ()
    lamps: Annotated[tuple[KitLamp, ...], Field(max_length=500)] = ()
    batteries: Annotated[tuple[Cell, ...], Field(max_length=500)] = ()
    media: Annotated[tuple[Medium, ...], Field(max_length=500)] = ()
    mounts: Annotated[tuple[Mount, ...], Field(max_length=200)] = ()
    chemistries: Annotated[tuple[CellKind, ...], Field(max_length=100)] = ()

    def things(self) -> Iterator[tuple[str, Thing]]:
        """Everything but the cameras, each with its kind."""
        for kind in KINDS:
            for thing in getattr(self, kind):
                yield kind, thing
