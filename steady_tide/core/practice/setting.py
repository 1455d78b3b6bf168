"""Setting the dials for a use in a light: scored in stops given up against the best."""

from __future__ import annotations

from random import Random
from typing import Any

from steady_tide.core.brief.brief import Brief
from steady_tide.core.light.sources import PlaceLight
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.prices import costs_of, fixed_cost, price_of
from steady_tide.core.practice.question import PracticeKind, Question, Row, World
from steady_tide.core.quantities.errors import NoLegalPlan
from steady_tide.core.uses.use import brief_for

DIALS = ("frame_rate", "stabilisation", "shutter_s", "iso_ceiling", "nd", "profile", "white_balance_k")
ASKED = 3
VALUES = 4


def scene(world: World, use_id: str, chance: Random) -> tuple[Brief, Plan]:
    """A use in a light, worked as the deck says, and its plan. use_id: of the shelf; chance: which light. Raises NoLegalPlan where the camera cannot film it."""
    use = world.uses[use_id]
    light = PlaceLight(kind="place", place=chance.choice(use.asks)) if use.asks else None
    brief = worked(world, brief_for(use, use.name, light, use.brief.mains_hz))
    return brief, world.planned(brief, world.camera)


def worked(world: World, brief: Brief) -> Brief:
    """A brief in the deck's way of working, where it has one."""
    return brief if world.school is None else brief.model_copy(update={"school": world.school.over(brief.school)})


def lighted(brief: Brief, plan: Plan) -> dict[str, Any]:
    """The light that a question names: exposure values, and the place."""
    return {
        "light": plan.exposure.ev100,
        "place": brief.light.place if isinstance(brief.light, PlaceLight) else None,
    }


def _row(plan: Plan, dial: str, least: float, chance: Random) -> Row | None:
    """Values of a dial, the best among them. least: stops that another must cost. None where they do not differ enough."""
    values = costs_of(plan, dial)
    others = [value for value, cost in values if value != plan.chosen[dial] and cost >= least]
    if len(others) < 2:
        return None
    shown = [plan.chosen[dial], *chance.sample(others, min(VALUES - 1, len(others)))]
    return Row(dial=dial, values=tuple(value for value, _ in values if value in shown))


def topics_of(world: World) -> tuple[str, ...]:
    """Uses that can be asked about, by id: with a camera, those that it can film; with a way of working, those that it changes; with one's own faults, those of their kinds of shot."""
    there = [use for use in world.uses.values() if world.past is None or use.brief.scenario in world.past.scenarios]
    if world.camera is None and world.school is None:
        return tuple(use.id for use in there)
    return tuple(use.id for use in there if _matters(world, use.brief))


def _matters(world: World, brief: Brief) -> bool:
    """Whether a use can be filmed, and the deck's way of working changes one of its dials."""
    try:
        mine = world.planned(worked(world, brief), world.camera)
        if world.school is None:
            return True
        usual = world.planned(brief, world.camera)
    except NoLegalPlan:
        return False
    return any(mine.chosen.get(dial) != usual.chosen.get(dial) for dial in DIALS)


def _ask(world: World, topic: str, chance: Random) -> dict[str, Any]:
    brief, plan = scene(world, topic, chance)
    least = world.rules["telling_stops"]
    rows = [
        row for row in (_row(plan, dial, least, chance) for dial in DIALS if dial in plan.chosen) if row is not None
    ]
    asked = sorted(chance.sample(range(len(rows)), min(ASKED, len(rows))))
    return {
        "code": "dials",
        "facts": {
            "use": brief.title,
            "says": world.uses[topic].says,
            "camera": plan.camera.id,
            "camera_name": plan.camera.name,
            **lighted(brief, plan),
            "rate": plan.settings.frame_rate,
            "graded": brief.delivery.graded,
        },
        "form": "each",
        "rows": tuple(rows[n] for n in asked),
        "brief": brief,
    }


def _judge(world: World, question: Question, given: Any) -> tuple[float, Any, str, dict[str, Any]]:
    assert question.brief is not None
    camera = question.facts["camera"]
    best = world.planned(question.brief, camera)
    places = tuple(row.values.index(best.chosen[row.dial or ""]) for row in question.rows)
    pins = {row.dial or "": row.values[place] for row, place in zip(question.rows, given, strict=True)}
    facts = {
        "alone": {dial: fixed_cost(best, dial, value) for dial, value in pins.items()},
        "reasons": {dial: best.reasons.get(dial) for dial in pins},
    }
    price = price_of(question.brief, best, pins, lambda brief: world.planned(brief, camera))
    if price is None:
        return world.rules["impossible_stops"], places, "not_together", facts
    return price, places, "dials", facts


SETTING = PracticeKind("dials", topics_of, lambda world, topic: topic in world.uses, _ask, _judge)
