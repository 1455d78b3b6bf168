"""Finding a dial in a camera's own menu."""

from __future__ import annotations

from random import Random
from typing import Any

from steady_tide.core.practice.faults import own_dials
from steady_tide.core.practice.question import PracticeKind, Question, Row, World


def _topics(world: World) -> tuple[str, ...]:
    """Dials of menus; of a kind of shot or a way of working there are none, of one's own faults those that bring them."""
    if world.scenario is not None or world.school is not None:
        return ()
    if world.past is not None:
        return tuple(topic for topic in _all(world) if topic.partition("/")[2] in own_dials(world))
    return _all(world)


def _all(world: World) -> tuple[str, ...]:
    return tuple(
        f"{camera.id}/{entry.dial}"
        for camera in world.kit.cameras
        if world.camera in (None, camera.id) and len(camera.menu) > 1
        for page in camera.menu
        for entry in page.dials
    )


def _ask(world: World, topic: str, chance: Random) -> dict[str, Any]:
    camera_id, _, dial = topic.partition("/")
    camera = next(one for one in world.kit.cameras if one.id == camera_id)
    label = next(entry.label for page in camera.menu for entry in page.dials if entry.dial == dial)
    return {
        "code": "menu",
        "facts": {"camera": camera.id, "camera_name": camera.name, "dial": dial, "label": label},
        "form": "one",
        "rows": (Row(dial=None, values=tuple(page.page for page in camera.menu)),),
    }


def _judge(world: World, question: Question, given: Any) -> tuple[float, Any, str, dict[str, Any]]:
    camera = next(one for one in world.kit.cameras if one.id == question.facts["camera"])
    dial = question.facts["dial"]
    page = next(n for n, page in enumerate(camera.menu) if any(entry.dial == dial for entry in page.dials))
    return (0.0 if given == page else world.rules["wrong_page_stops"]), page, "menu", question.facts


MENUS = PracticeKind("menu", _topics, lambda world, topic: topic in _all(world), _ask, _judge)
