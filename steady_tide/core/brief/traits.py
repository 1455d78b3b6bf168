"""What a kind of shot is like, as far as the planner and the views ask. No scenario is asked for by its name."""

from __future__ import annotations

from typing import Annotated, Literal, get_args

from pydantic import Field

from steady_tide.core.quantities.frozen import Frozen

Trait = Literal["interval", "on_table", "under_water", "in_the_dark", "fast"]
TRAITS: tuple[Trait, ...] = get_args(Trait)


class Traits(Frozen):
    """One flag for each trait. A scenario of the library names those that it has."""

    interval: Annotated[bool, Field(description="frames at intervals become the film")] = False
    on_table: Annotated[bool, Field(description="what is filmed stands on a table, and the light is one's own")] = False
    under_water: Annotated[bool, Field(description="the camera is under water")] = False
    in_the_dark: Annotated[bool, Field(description="it is dark, whatever the light says")] = False
    fast: Annotated[bool, Field(description="the camera moves at speed")] = False

    @property
    def brings_light(self) -> bool:
        """Whether the dark is met with lamps, not with what a day forgives."""
        return self.on_table or self.under_water
