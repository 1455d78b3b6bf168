"""Routes of recipes: other ways to film a shot, kept beside it, and priced beside each other."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from fastapi import Path
from pydantic import BaseModel, ConfigDict
from sqlalchemy.orm import Session

from steady_tide.api.shared import CrewWay, HeldKit, PlansOf, SessionOf
from steady_tide.api.station import station
from steady_tide.core.brief.brief import Brief
from steady_tide.core.brief.recipes import MOST, Recipe, Recipes, by_recipe
from steady_tide.core.quantities.errors import BadInput, Fault, NoLegalPlan, NotFound
from steady_tide.store.shots import get_shot, keep_recipes, locked_shot
from steady_tide.words.plans import PlanText, plan_text
from steady_tide.words.refusals import refusal_words

router = station("bench")
RecipeId = Annotated[str, Path(min_length=1, max_length=80)]


class RecipeList(BaseModel):
    """The recipes of a shot, the oldest first."""

    items: list[Recipe]
    total: int


class Compared(BaseModel):
    """What is to be compared: a shot, and other ways to film it."""

    model_config = ConfigDict(extra="forbid")

    brief: Brief
    recipes: Recipes


class PricedRecipe(BaseModel):
    """A recipe with its plan, or why it has none."""

    id: str
    plan: PlanText | None
    problem: str | None


class PricedRecipes(BaseModel):
    """The recipes in the order asked."""

    items: list[PricedRecipe]
    total: int


def _kept(recipes: list[Recipe]) -> RecipeList:
    return RecipeList(items=recipes, total=len(recipes))


def _of(session: Session, shot_id: UUID, *, held: bool = False) -> list[Recipe]:
    shot = locked_shot(session, shot_id) if held else get_shot(session, shot_id)
    return [Recipe.model_validate(recipe) for recipe in shot.recipes]


@router.get("/shots/{shot_id}/recipes")
def recipes_of(session: SessionOf, shot_id: UUID) -> RecipeList:
    """The recipes that are kept beside a shot."""
    return _kept(_of(session, shot_id))


@router.put("/shots/{shot_id}/recipes/{recipe_id}")
def keep(session: SessionOf, shot_id: UUID, recipe_id: RecipeId, recipe: Recipe) -> RecipeList:
    """Keep a recipe beside a shot, or change the one of that id."""
    if recipe.id != recipe_id:
        raise BadInput(Fault("id", f"is not '{recipe_id}', as the address says", "Say the same twice."))
    here = _of(session, shot_id, held=True)
    known = any(other.id == recipe_id for other in here)
    if not known and len(here) >= MOST:
        raise BadInput(Fault("recipes", f"would be more than {MOST} beside the plan", "Discard one first."))
    changed = [recipe if other.id == recipe_id else other for other in here]
    return _put(session, shot_id, changed if known else [*here, recipe])


@router.delete("/shots/{shot_id}/recipes/{recipe_id}")
def discard(session: SessionOf, shot_id: UUID, recipe_id: RecipeId) -> RecipeList:
    """Discard a recipe. Raises where there is none of that id."""
    here = _of(session, shot_id, held=True)
    rest = [other for other in here if other.id != recipe_id]
    if len(rest) == len(here):
        raise NotFound(f"There is no recipe {recipe_id} beside this shot. It may have been discarded.")
    return _put(session, shot_id, rest)


def _put(session: Session, shot_id: UUID, recipes: list[Recipe]) -> RecipeList:
    keep_recipes(session, locked_shot(session, shot_id), [recipe.model_dump(mode="json") for recipe in recipes])
    return _kept(recipes)


@router.post("/bench/recipes")
def compare(asked: Compared, crew: CrewWay, kit: HeldKit, plans: PlansOf) -> PricedRecipes:
    """Price recipes of a shot beside each other: each planned by its own pins and ways of working."""
    found = []
    for recipe in asked.recipes:
        try:
            plan = plans.plan(by_recipe(asked.brief, recipe), crew, kit, schools=False)
            found.append(PricedRecipe(id=recipe.id, plan=plan_text(plan, plans.judgement), problem=None))
        except (NoLegalPlan, BadInput) as error:
            why = refusal_words(error, plans.judgement) if isinstance(error, NoLegalPlan) else str(error)
            found.append(PricedRecipe(id=recipe.id, plan=None, problem=why))
    return PricedRecipes(items=found, total=len(found))
