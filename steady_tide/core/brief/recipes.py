"""Recipes: other ways to film one shot, kept beside it and priced anew whenever they are looked at."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from steady_tide.core.brief.brief import Brief, Id, Pins, School
from steady_tide.core.quantities.frozen import Frozen

MOST = 3  # beside the plan as it stands


class Recipe(Frozen):
    """What is done otherwise: pins and ways of working. The rest is the shot's own brief."""

    id: Id
    name: Annotated[str, Field(min_length=1, max_length=60, pattern=r"^[^\x00]*$")]
    pins: Pins = Field(default_factory=dict)
    school: School = School()


Recipes = Annotated[tuple[Recipe, ...], Field(max_length=MOST)]


def by_recipe(brief: Brief, recipe: Recipe) -> Brief:
    """The same shot filmed by a recipe. brief: of the shot; recipe: one of its own. Returns another."""
    return brief.model_copy(update={"pins": recipe.pins, "school": recipe.school})
