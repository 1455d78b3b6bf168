"""Questions with pictures: what is wrong with a frame, and which of two was which. A fault is only asked for where it can be measured to be the one."""

from __future__ import annotations

import zlib
from collections.abc import Iterator
from dataclasses import dataclass
from random import Random
from threading import local
from typing import Any

import numpy as np

from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.kit import Kit
from steady_tide.core.look.exposure_of_plan import taking_of
from steady_tide.core.look.numbers import measures_of
from steady_tide.core.look.rendering import Drawings, Moment, Renderer
from steady_tide.core.look.scenes import SCENES, usual_scene
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.prices import costs_of
from steady_tide.core.planning.ranking import chosen_values
from steady_tide.core.practice.faults import DIALS_OF, MOVING, STILL, looks_different, own_dials, the_fault
from steady_tide.core.practice.question import PracticeKind, Question, Row, Sight, Tries, World
from steady_tide.core.practice.setting import lighted, scene
from steady_tide.core.quantities.errors import BadBrief, NoLegalPlan, NotFound

# What is worked out anew when one of them is spoilt: the camera would do so, too.
EXPOSURE = frozenset({"shutter_s", "iso_floor", "iso_ceiling", "nd", "exposure_compensation", "f_number"})
APART = ("shutter_s", "iso_floor", "white_balance_k", "exposure_compensation", "view", "lens", "focus")
MOST_TRIES = 12  # values of a use that are looked at
AT_ONCE = 3  # of these, since one of the first few often serves
HALF_WAY = Moment(0.5)
AS_CLIP = 0.2  # of faults that a frame shows, too
CLIP_S = 1.0  # of a clip that is asked about
MOST_STRAYS = 0.5  # frames: farther away nothing of a scene is drawn, and it is mirrored
PLACES = ("first", "second")


class _Lately(local):
    """What was drawn of the brief that a thread was last asked about: its tries come in parts."""

    brief: tuple[str, str] | None = None
    drawings = Drawings()

    def drawings_of(self, brief: tuple[str, str]) -> Drawings:
        if brief != self.brief:
            self.brief, self.drawings = brief, Drawings()
        return self.drawings


_lately = _Lately()


def sights_of(
    brief: Brief, camera: str, tries: Tries, kit: Kit, knowledge: Knowledge, crew: School | None = None
) -> list[Sight | None]:
    """What a brief would look like with several pins. camera: id; tries: values by dial; the rest as the planner takes it. Returns a sight for each, None where its values are not legal together."""
    seed, drawings = zlib.crc32(brief.title.encode()), _lately.drawings_of((brief.model_dump_json(), camera))
    found: list[Sight | None] = []
    for pins in tries:
        try:
            taking = taking_of(brief.model_copy(update={"pins": {**brief.pins, **pins}}), kit, knowledge, crew, camera)
        except (NoLegalPlan, BadBrief):
            found.append(None)
            continue
        renderer = Renderer(taking, SCENES[usual_scene(taking.at)], seed, drawings)
        chosen = {"camera": camera, **chosen_values(taking.problem, taking.choice)}
        measures = measures_of(renderer, HALF_WAY, brief.graded)
        found.append(Sight(chosen=chosen, measures=measures, strays=_strays(renderer)))
    return found


def _strays(renderer: Renderer) -> float:
    """How far what fills the frame leaves it within a clip. Returns frames."""
    delivery = renderer.taking.at.brief.delivery
    frame = np.array([delivery.width, delivery.height])
    ways = [
        np.abs(renderer.way_px(layer, time_s, 1.0)) / frame
        for layer in renderer.scene.layers
        if layer.fills
        for time_s in (-CLIP_S / 2.0, CLIP_S / 2.0)
    ]
    return float(max((way.max() for way in ways), default=0.0))


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


@dataclass(frozen=True)
class _Spoilt:
    """A plan with one dial set otherwise. best, spoilt: how both look; price: what the other one gives up more, stops."""

    brief: Brief
    plan: Plan
    dial: str
    value: Any
    best: Sight
    spoilt: Sight

    @property
    def price(self) -> float:
        return self.spoilt.measures.given_up_stops - self.best.measures.given_up_stops

    @property
    def facts(self) -> dict[str, Any]:
        """What a question tells and a judge needs."""
        camera = self.plan.camera
        return {
            "use": self.brief.title, "camera": camera.id, "camera_name": camera.name, **lighted(self.brief, self.plan),
            "dial": self.dial, "usual": self.plan.chosen[self.dial], "spoilt": self.value, "price": self.price,
        }  # fmt: skip


def _spoilt(world: World, dials: tuple[str, ...], least: float, chance: Random) -> Iterator[_Spoilt]:
    """Plans of any uses with one of some dials set to a value that costs something. least: stops."""
    for brief, plan in _scenes(world, chance):
        tried = [
            (dial, value)
            for dial in dials
            if dial in plan.chosen
            for value, cost in costs_of(plan, dial)
            if cost > least
        ]
        chance.shuffle(tried)
        tried = tried[:MOST_TRIES]
        (best,) = world.sights(brief, plan.camera.id, [plan.chosen])
        if best is None:
            continue
        for begin in range(0, len(tried), AT_ONCE):
            some = tried[begin : begin + AT_ONCE]
            others = world.sights(brief, plan.camera.id, [_pinned(plan, dial, value) for dial, value in some])
            for (dial, value), other in zip(some, others, strict=True):
                found = None if other is None else _Spoilt(brief, plan, dial, value, best, other)
                if found is not None and found.price > least:
                    yield found


def _ask_wrong(world: World, topic: str, chance: Random) -> dict[str, Any]:
    dials = next(dials for fault, dials in DIALS_OF.items() if fault == topic)
    moving = topic in MOVING or chance.random() < AS_CLIP  # a clip must not tell what is wrong with it
    for one in _spoilt(world, dials, world.rules.kinds["wrong"].right_within_stops, chance):
        if moving and one.spoilt.strays > MOST_STRAYS:
            continue
        if the_fault(one.spoilt.measures, one.best.measures, world.rules, moving) == topic:
            return {
                "code": "wrong",
                "facts": one.facts,
                "form": "one",
                "rows": (Row(dial=None, values=tuple(DIALS_OF) if moving else STILL),),
                "moving": moving,
                "frames": (one.spoilt,),
                "brief": one.brief,
                "pins": {one.dial: one.value},
            }
    raise NotFound("None of these shots shows that fault by itself.")


def _judge_wrong(world: World, question: Question, given: Any) -> tuple[float, Any, str, dict[str, Any]]:
    place = question.rows[0].values.index(question.topic.partition(":")[2])
    # Who mends something else keeps what the fault costs.
    return (0.0 if given == place else question.facts["price"]), place, "wrong", question.facts


def _ask_which(world: World, topic: str, chance: Random) -> dict[str, Any]:
    for one in _spoilt(world, (topic,), world.rules.kinds["which"].right_within_stops, chance):
        if looks_different(one.spoilt.measures, one.best.measures, world.rules):
            spoilt_at, asks_spoilt = chance.randrange(2), chance.random() < 0.5
            return {
                "code": "which",
                "facts": {
                    **one.facts,
                    "value": one.value if asks_spoilt else one.plan.chosen[topic],
                    "is_at": spoilt_at if asks_spoilt else 1 - spoilt_at,
                },
                "form": "one",
                "rows": (Row(dial=None, values=PLACES),),
                "frames": (one.spoilt, one.best) if spoilt_at == 0 else (one.best, one.spoilt),
                "brief": one.brief,
                "pins": {topic: one.value},
            }
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
    return tuple(dial for dial in APART if _there(world, dial) and (world.past is None or dial in own_dials(world)))


WRONG = PracticeKind("wrong", _faults, lambda world, topic: topic in DIALS_OF, _ask_wrong, _judge_wrong)
WHICH_WAS = PracticeKind("which", _dials, lambda world, topic: topic in APART, _ask_which, _judge_which)
