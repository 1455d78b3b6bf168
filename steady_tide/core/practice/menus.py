"""Finding a dial in a camera's own menu."""

from __future__ import annotations

from random import Random
from typing import Any

from steady_tide.core.practice.question import PracticeKind, Question, Row, World

WRONG_STOPS = 1.0  # a page too many costs as much of the moment as anything


def _topics(world: World) -> tuple[str, ...]:
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
    return (0.0 if given == page else WRONG_STOPS), page, "menu", question.facts


MENUS = PracticeKind("menu", _topics, lambda world, topic: topic in _topics(world), _ask, _judge)
