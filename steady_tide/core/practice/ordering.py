"""Ordering by price or by range."""

from __future__ import annotations

from random import Random
from typing import Any

from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.planning.prices import costs_of
from steady_tide.core.practice.question import PracticeKind, Question, Row, World
from steady_tide.core.practice.setting import DIALS, scene, topics_of

VALUES = 4
RANGE = "range"


def _ask(world: World, topic: str, chance: Random) -> dict[str, Any]:
    if topic == RANGE:
        return _range(world, chance)
    brief, plan = scene(world, topic, chance)
    apart = world.rules["apart_stops"]
    there = [dial for dial in DIALS if dial in plan.chosen]
    dials = [dial for dial in there if len(_apart(costs_of(plan, dial), apart, chance)) >= VALUES - 1]
    dial = chance.choice(dials)
    shown = _apart(costs_of(plan, dial), apart, chance)
    chance.shuffle(shown)
    return {
        "code": "price",
        "facts": {
            "use": brief.title,
            "dial": dial,
            "camera": plan.camera.id,
            "camera_name": plan.camera.name,
            "light": plan.exposure.ev100,
            "costs": [cost for _, cost in shown],
        },
        "form": "order",
        "rows": (Row(dial=dial, values=tuple(value for value, _ in shown)),),
        "brief": brief,
    }


def _range(world: World, chance: Random) -> dict[str, Any]:
    cameras = [one for one in world.kit.cameras if world.camera in (None, one.id)]
    there = [
        ({"camera": camera.name, "profile": profile.id}, profile.range_stops)
        for camera in cameras
        for profile in camera.profiles
    ]
    shown = _apart(there, world.rules["apart_stops"], chance)
    chance.shuffle(shown)
    return {
        "code": "range",
        "facts": {"costs": [-stops for _, stops in shown], "camera": _first(world, shown).id},
        "form": "order",
        "rows": (Row(dial=None, values=tuple(value for value, _ in shown)),),
    }


def _first(world: World, shown: list[tuple[Any, float]]) -> CameraSheet:
    """The camera that comes first: in its sheet the ranges stand."""
    widest = max(shown, key=lambda one: one[1])[0]["camera"]
    return next(camera for camera in world.kit.cameras if camera.name == widest)


def _apart(values: list[tuple[Any, float]], least: float, chance: Random) -> list[tuple[Any, float]]:
    """A few values that lie far enough apart. values: with stops; least: stops between two. Returns them by rising stops."""
    mixed = chance.sample(values, len(values))
    found: list[tuple[Any, float]] = []
    for value, stops in mixed:
        if len(found) < VALUES and all(abs(stops - other) >= least for _, other in found):
            found.append((value, stops))
    return sorted(found, key=lambda one: one[1])


def _judge(world: World, question: Question, given: Any) -> tuple[float, Any, str, dict[str, Any]]:
    costs = question.facts["costs"]
    said = [costs[place] for place in given]
    # The worst pair that stands the wrong way round.
    off = max((said[n] - later for n in range(len(said)) for later in said[n + 1 :]), default=0.0)
    best = tuple(sorted(range(len(costs)), key=lambda place: costs[place]))
    return max(0.0, off), best, question.code, {"costs": costs}


def _topics(world: World) -> tuple[str, ...]:
    return topics_of(world) if world.past is not None or world.school is not None else (RANGE, *topics_of(world))


ORDERING = PracticeKind("order", _topics, lambda world, topic: topic == RANGE or topic in world.uses, _ask, _judge)
