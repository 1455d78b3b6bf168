"""Scenes of known truth, and plans to take them with."""

from __future__ import annotations

from typing import Any

import numpy as np

from steady_tide import library
from steady_tide.core.look.drawing import Sheet, below
from steady_tide.core.look.exposure_of_plan import Taking, taking_of
from steady_tide.core.look.rendering import Moment as Moment
from steady_tide.core.look.rendering import Recorded, Renderer, Window
from steady_tide.core.look.scene import Layer, Scene
from tests.briefs import brief

GREY = 0.18


def taken(**fields: Any) -> Taking:
    """A brief taken with the demo kit."""
    asked = brief(**fields)
    camera = asked.pins.get("camera")
    only = camera if isinstance(camera, str) else None
    return taking_of(asked, library.demo_kit(), library.knowledge(), only=only)


def scene(*layers: Layer, stops: float = 9.0) -> Scene:
    """A scene for tests; its contrast is that of the shot unless said otherwise."""
    return Scene("made", "made", stops, "", "", layers)


def rendered(taking: Taking, made: Scene, share: float = 0.5, seed: int = 3, **window: Any) -> Recorded:
    """One frame. window: of it, the whole at 480 pixels unless said otherwise."""
    delivery = taking.at.brief.delivery
    view = Window(480, 270, delivery.width / 480) if not window else Window(**window)
    return Renderer(taking, made, seed).frame(Moment(share), view)


def _grey(sheet: Sheet) -> None:
    sheet.add(below(1e6), (GREY, GREY, GREY))


def _ramp(sheet: Sheet) -> None:
    """From six stops below grey at the left to six above at the right, within the wanted field."""
    sheet.add(below(1e6), (GREY, GREY, GREY), lambda c: np.exp2(12.0 * np.clip(c.x, -0.5, 0.5)).astype(np.float32))


def _post(sheet: Sheet) -> None:
    """A bright line a thirtieth of the field wide, from top to bottom, on black."""
    sheet.light[np.abs(sheet.canvas.x) < 1.0 / 60.0] = 0.5
    sheet.cover[:] = 1.0


def _point(sheet: Sheet) -> None:
    """A bright point of one pixel at the centre, on black."""
    middle = np.unravel_index(np.argmin(np.hypot(sheet.canvas.x, sheet.canvas.y)), sheet.canvas.x.shape)
    sheet.light[middle] = 20.0
    sheet.cover[:] = 1.0


EVEN = scene(Layer("grey", "subject", _grey, fills=True))
RAMP = scene(Layer("ramp", "subject", _ramp, fills=True, shines=True))
POST = scene(Layer("post", "far", _post, fills=True, shines=True))
RIDER = scene(Layer("point", "subject", _point, subject=True, fills=True, shines=True))
