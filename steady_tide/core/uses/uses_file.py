"""Usual uses and set-ups as one file."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import Field

from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.uses.use import PerYear, Use, UseId

FORMAT = "steady-tide/uses"


class UseEntry(Frozen):
    """What is kept of a use. use: of one's own, without id and times, None of the shelf; per_year: None as the shelf has it."""

    id: UseId
    use: dict[str, Any] | None = None
    chosen: bool = False
    per_year: PerYear | None = None

    def read(self) -> Use | None:
        """The use of one's own. Returns None where it is of the shelf. Raises ValidationError."""
        if self.use is None:
            return None
        return Use.model_validate({**self.use, "id": self.id, "per_year": self.per_year or 0.0})


class SetUpEntry(Frozen):
    """What was ticked and named on a camera."""

    camera: Annotated[str, Field(min_length=1, max_length=60)]
    ticks: Annotated[dict[Annotated[str, Field(max_length=80)], bool], Field(max_length=sizes.TICKS * 3)] = Field(
        default_factory=dict
    )
    names: Annotated[
        dict[Annotated[str, Field(max_length=60)], Annotated[str, Field(max_length=24)]],
        Field(max_length=sizes.TICKS * 3),
    ] = Field(default_factory=dict)
    checked_at: datetime | None = None


class UsesFile(Frozen):
    """Usual uses and set-ups as one file."""

    format: Literal["steady-tide/uses"]
    version: Literal[1]
    uses: Annotated[tuple[UseEntry, ...], Field(max_length=sizes.USES * 3)] = ()
    set_ups: Annotated[tuple[SetUpEntry, ...], Field(max_length=sizes.CAMERAS)] = ()
