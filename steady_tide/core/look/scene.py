"""What a scene is: data, and small functions that draw its layers."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from steady_tide.core.look.drawing import Canvas, Sheet

Depth = Literal["near", "subject", "far", "sky"]


@dataclass(frozen=True)
class Layer:
    """What moves together and lies at one distance.

    draw: paints it on a sheet; depth: how far it is; subject: whether it moves with the subject, which way is `heads`;
    flows: how the camera's travel moves it across the frame, right and up; turns: of the sky, degrees a second; fills:
    whether it goes on beyond what is drawn.
    """

    id: str
    depth: Depth
    draw: Callable[[Sheet], None]
    subject: bool = False
    heads: tuple[float, float] = (1.0, 0.0)
    flows: tuple[float, float] = (0.0, 0.0)
    turns_deg_s: float = 0.0
    fills: bool = False
    at_m: float | None = None  # where it is known, instead of by its depth
    shines: bool = False  # it is lamps and stars, whose light the frame's contrast does not change


@dataclass(frozen=True)
class Scene:
    """A scene of ours. stops: range within it as it is drawn; shows: what can be
    judged by it; neutral: its grey things, by which balance is judged."""

    id: str
    name: str
    stops: float
    shows: str
    neutral: str
    layers: tuple[Layer, ...]  # from the back to the front


def drawn(layer: Layer, canvas: Canvas, contrast: float = 1.0) -> Sheet:
    """Draw a layer. canvas: where each pixel looks; contrast: by how much stops about grey are stretched, but for what
    shines. Returns the sheet."""
    sheet = Sheet(canvas, 1.0 if layer.shines else contrast)
    layer.draw(sheet)
    return sheet
