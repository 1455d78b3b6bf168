"""A whole kit as one file."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from steady_tide.core.gear.items import (
    KINDS,
    Attachment,
    Cell,
    CellKind,
    Filter,
    Housing,
    Id,
    Keeping,
    KitLamp,
    Medium,
    Microphone,
    Mount,
    Thing,
)
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.gear.upgrades import with_traits
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.frozen import Frozen


class KeptAs(Keeping):
    """State and place of one of the kit, and of a camera how many there are; things say that themselves."""

    kind: Annotated[str, Field(max_length=40)]
    id: Id
    count: Annotated[int, Field(ge=1, le=100)] = 1


class KitFile(Frozen):
    """A whole kit as one file."""

    format: Literal["steady-tide/kit"]
    version: Annotated[Literal[1, 2], Field(description="2; mounts of the first version had no traits")]
    cameras: Annotated[tuple[CameraSheet, ...], Field(max_length=sizes.CAMERAS)] = ()
    filters: Annotated[tuple[Filter, ...], Field(max_length=sizes.THINGS)] = ()
    attachments: Annotated[tuple[Attachment, ...], Field(max_length=sizes.THINGS)] = ()
    housings: Annotated[tuple[Housing, ...], Field(max_length=sizes.THINGS)] = ()
    microphones: Annotated[tuple[Microphone, ...], Field(max_length=sizes.THINGS)] = ()
    lamps: Annotated[tuple[KitLamp, ...], Field(max_length=sizes.THINGS)] = ()
    batteries: Annotated[tuple[Cell, ...], Field(max_length=sizes.THINGS)] = ()
    media: Annotated[tuple[Medium, ...], Field(max_length=sizes.THINGS)] = ()
    mounts: Annotated[tuple[Mount, ...], Field(max_length=sizes.MOUNTS)] = ()
    chemistries: Annotated[tuple[CellKind, ...], Field(max_length=sizes.CELL_KINDS)] = ()
    keeping: Annotated[
        tuple[KeptAs, ...],
        Field(max_length=sizes.CAMERAS + 10 * sizes.THINGS, description="state and place, of what has some"),
    ] = ()

    @model_validator(mode="before")
    @classmethod
    def _second(cls, data: Any) -> Any:
        """A file of the first version as one of the second."""
        if not isinstance(data, Mapping) or data.get("version") != 1:
            return data
        mounts = data.get("mounts", ())
        if isinstance(mounts, list | tuple):
            mounts = [with_traits(mount) if isinstance(mount, Mapping) else mount for mount in mounts]
        return {**data, "version": 2, "mounts": mounts}

    def things(self) -> Iterator[tuple[str, Thing]]:
        """Everything but the cameras, each with its kind."""
        for kind in KINDS:
            for thing in getattr(self, kind):
                yield kind, thing
