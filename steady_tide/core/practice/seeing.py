"""Questions with pictures: what is wrong with a frame, and which of two was which. A fault is only asked for where it can be measured to be the one."""

from __future__ import annotations

import zlib
from collections.abc import Iterator
from random import Random
from typing import Any, get_args

from steady_tide.core.brief import Brief, School
from steady_tide.core.errors import BadBrief, NoLegalPlan, NotFound
from steady_tide.core.kit import Kit
from steady_tide.core.knowledge import Knowledge
from steady_tide.core.log.take import FaultCode
from steady_tide.core.look.numbers import measures_of
from steady_tide.core.look.rendering import Drawings, Moment, Renderer
from steady_tide.core.look.scenes import SCENES, usual_scene
from steady_tide.core.look.taking import taking_of
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.prices import costs_of
from steady_tide.core.planning.ranking import chosen_values
from steady_tide.core.practice.faults import DIALS_OF, the_fault, told_apart
from steady_tide.core.practice.question import PracticeKind, Question, Row, Sight, Tries, World
from steady_tide.core.practice.setting import lighted, scene

# What is worked out anew when one of them is spoilt: the camera would do so, too.
EXPOSURE = frozenset({"shutter_s", "iso_floor", "iso_ceiling", "nd", "exposure_compensation", "f_number"})
APART = ("shutter_s", "iso_floor", "white_balance_k", "exposure_compensation", "view", "lens", "focus")
MOST_TRIES = 12  # values of a use that are looked at
HALF_WAY = Moment(0.5)
PLACES = ("first", "second")


def sights_of(
    brief: Brief, camera: str, tries: Tries, kit: Kit, knowledge: Knowledge, crew: School | None = None
) -> list[Sight | None]:
    """What a brief would look like with several pins. camera: id; tries: values by dial; the rest as the planner takes it. Returns a sight for each, None where its values are not legal together."""
    seed, drawings = zlib.crc32(brief.title.encode()), Drawings()
    found: list[Sight | None] = []
    for pins in tries:
        try:
            taking = taking_of(brief.model_copy(update={"pins": {**brief.pins, **pins}}), kit, knowledge, crew, camera)
        except (NoLegalPlan, BadBrief):
            found.append(None)
            continue
        renderer = Renderer(taking, SCENES[usual_scene(brief)], seed, drawings)
        chosen = {"camera": camera, **chosen_values(taking.bench, taking.choice)}
        found.append(Sight(chosen=chosen, measures=measures_of(renderer, HALF_WAY, brief.graded)))
    return found


def _pinned(plan: Plan, dial: str, value: Any) -> dict[str, Any]:
    """A plan with one dial set otherwise; exposure follows."""
    return {**{name: kept for name, kept in plan.chosen.items() if name not in EXPOSURE}, dial: value}


def _scenes(world: World, chance: Random) -> Iterator[tuple[Brief, Plan]]:
    """Uses that the camera can film, in any order, in a light."""
    uses = sorted(world.uses)
    chance.shuffle(uses)
    for use in uses:
        try:
            yield scene(world, use, chance)
        except NoLegalPlan:
            continue


def _told(brief: Brief, plan: Plan) -> dict[str, Any]:
    return {"use": brief.title, "camera": plan.camera.id, "camera_name": plan.camera.name, **lighted(brief, plan)}


def _spoilt(world: World, brief: Brief, plan: Plan, dials: tuple[str, ...], chance: Random) -> list[tuple[str, Any]]:
    """Values that cost something, in any order."""
    least = world.rules.kinds["wrong"].right_within_stops
    found = [
        (dial, value) for dial in dials for value, cost in costs_of(plan, dial) if cost > least and dial in plan.chosen
    ]
    chance.shuffle(found)
    return found[:MOST_TRIES]


def _ask_wrong(world: World, topic: str, chance: Random) -> dict[str, Any]:
    least = world.rules.kinds["wrong"].right_within_stops
    for brief, plan in _scenes(world, chance):
        tried = _spoilt(world, brief, plan, DIALS_OF[_fault(topic)], chance)
        tries = [plan.chosen, *(_pinned(plan, dial, value) for dial, value in tried)]
        best, *others = world.sights(brief, plan.camera.id, tries)
        for (dial, value), other in zip(tried, others, strict=True):
            if best is None or other is None:
                continue
            price = other.measures.given_up_stops - best.measures.given_up_stops
            if price > least and the_fault(other.measures, best.measures, world.rules) == topic:
                return {
                    "code": "wrong",
                    "facts": {
                        **_told(brief, plan),
                        "dial": dial,
                        "value": value,
                        "usual": plan.chosen[dial],
                        "price": price,
                    },
                    "form": "one",
                    "rows": (Row(dial=None, values=tuple(DIALS_OF)),),
                    "frames": (other,),
                    "brief": brief,
                    "pins": {dial: value},
                }
    raise NotFound("None of these shots shows that fault by itself.")


def _fault(topic: str) -> FaultCode:
    found: FaultCode = next(fault for fault in get_args(FaultCode) if fault == topic)
    return found


def _judge_wrong(world: World, question: Question, given: Any) -> tuple[float, Any, str, dict[str, Any]]:
    place = question.rows[0].values.index(question.topic.partition(":")[2])
    # Who mends something else keeps what the fault costs.
    return (0.0 if given == place else question.facts["price"]), place, "wrong", question.facts


def _ask_which(world: World, topic: str, chance: Random) -> dict[str, Any]:
    least = world.rules.kinds["which"].right_within_stops
    for brief, plan in _scenes(world, chance):
        tried = _spoilt(world, brief, plan, (topic,), chance)
        best, *others = world.sights(brief, plan.camera.id, [plan.chosen, *(_pinned(plan, topic, v) for _, v in tried)])
        for (_, value), other in zip(tried, others, strict=True):
            if best is None or other is None:
                continue
            price = other.measures.given_up_stops - best.measures.given_up_stops
            if price > least and told_apart(other.measures, best.measures, world.rules):
                both, place = (best, other), chance.randrange(2)
                asked = (plan.chosen[topic], value)[chance.randrange(2)]
                return {
                    "code": "which",
                    "facts": {
                        **_told(brief, plan), "dial": topic, "value": asked, "usual": plan.chosen[topic], "spoilt": value, "price": price,
                        "is_at": (place if asked == plan.chosen[topic] else 1 - place),
                    },
                    "form": "one",
                    "rows": (Row(dial=None, values=PLACES),),
                    "frames": both if place == 0 else both[::-1],
                    "brief": brief,
                    "pins": {topic: value},
                }  # fmt: skip
    raise NotFound("None of these shots shows what that dial does.")


def _judge_which(world: World, question: Question, given: Any) -> tuple[float, Any, str, dict[str, Any]]:
    place = question.facts["is_at"]
    return (0.0 if given == place else question.facts["price"]), place, "which", question.facts


def _there(world: World, dial: str) -> bool:
    """Whether some camera that one practises with has a choice there."""
    cameras = [camera for camera in world.kit.cameras if world.camera in (None, camera.id)]
    if dial == "focus":
        return any(lens.focus != "fixed" for camera in cameras for lens in camera.lenses)
    return any(len(camera.lenses) > 1 for camera in cameras) if dial == "lens" else True


def _faults(world: World) -> tuple[str, ...]:
    there = [fault for fault, dials in DIALS_OF.items() if any(_there(world, dial) for dial in dials)]
    return tuple(fault for fault in there if world.past is None or fault in world.own_faults)


def _dials(world: World) -> tuple[str, ...]:
    own = {dial for fault in world.own_faults for dial in DIALS_OF.get(fault, ())}
    return tuple(dial for dial in APART if _there(world, dial) and (world.past is None or dial in own))


WRONG = PracticeKind("wrong", _faults, lambda world, topic: topic in DIALS_OF, _ask_wrong, _judge_wrong)
WHICH_WAS = PracticeKind("which", _dials, lambda world, topic: topic in APART, _ask_which, _judge_which)
