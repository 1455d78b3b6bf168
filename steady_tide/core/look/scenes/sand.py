"""A sandy bottom with small fish, a white slate and a grey weight."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from steady_tide.core.look.drawing import Array, Canvas, Sheet, below, box, ellipse, stroke
from steady_tide.core.look.scene import Layer, Scene


def _bottom(sheet: Sheet) -> None:
    def lit(c: Canvas) -> Array:
        x, y = c.x, c.y
        far = np.maximum(np.float32(0.14) - y, np.float32(0.03))
        along, deep = x / far * 0.2, 0.06 / far
        ribs = np.sin(deep * 55.0 + 2.0 * c.texture(0.5, 411, u=along, v=deep))
        grain = c.texture(0.03, 412, u=along, v=deep)
        return np.asarray(np.exp2(0.45 * ribs + 0.25 * grain))

    sheet.add(below(1e6), (0.16, 0.20, 0.23), lambda c: np.asarray(0.5 + 1.8 * np.clip(c.y, 0.0, 0.6)))
    sheet.add(below(0.05), (0.25, 0.215, 0.16), lit, soft=0.12)
    for x, y, size in ((-0.42, -0.06, 0.09), (0.05, -0.03, 0.05), (0.44, -0.10, 0.08), (-0.15, -0.26, 0.06)):
        sheet.add(ellipse(x, y, size, 0.5 * size), (0.045, 0.050, 0.040), grain=(0.3 * size, 0.7, 415))
    sheet.add(box(0.26, -0.155, 0.055, 0.040, 8.0, rounded=0.004), (0.78, 0.78, 0.76))
    for line in range(6):
        sheet.add(stroke(0.222, -0.136 - 0.008 * line, 0.285, -0.127 - 0.008 * line, 0.0009), (0.06, 0.06, 0.07))
    sheet.add(box(-0.28, -0.175, 0.045, 0.026, rounded=0.010), (0.18, 0.18, 0.18), grain=(0.02, 0.1, 413))
    sheet.add(ellipse(-0.10, -0.215, 0.030, 0.010), (0.55, 0.12, 0.10), grain=(0.008, 0.6, 414))


def _rounded(y: float, size: float) -> Callable[[Canvas], Array]:
    return lambda c: np.asarray(0.9 + 1.4 * np.clip((c.y - y) / size, -0.3, 0.4))


def _fish(sheet: Sheet) -> None:
    rng = np.random.default_rng(42)
    for number in range(16):
        x, y, size = rng.uniform(-0.28, 0.28), rng.uniform(-0.09, 0.13), rng.uniform(0.020, 0.036)
        orange = number in (3, 9)
        side = (0.62, 0.24, 0.04) if orange else (0.30, 0.34, 0.36)
        sheet.add(stroke(x - size, y, x - 1.5 * size, y + 0.32 * size, 0.10 * size, 0.16 * size), side)
        sheet.add(stroke(x - size, y, x - 1.5 * size, y - 0.32 * size, 0.10 * size, 0.16 * size), side)
        sheet.add(
            ellipse(x, y, size, 0.32 * size),
            side,
            _rounded(y, size),
            grain=(0.3 * size, 0.3, 421),
        )
        sheet.add(ellipse(x, y - 0.14 * size, 0.8 * size, 0.10 * size), (0.85, 0.86, 0.86))
        sheet.add(
            stroke(x - 0.8 * size, y + 0.06 * size, x + 0.7 * size, y + 0.06 * size, 0.03 * size), (0.05, 0.05, 0.06)
        )
        sheet.add(ellipse(x + 0.72 * size, y + 0.06 * size, 0.09 * size, 0.09 * size), (0.02, 0.02, 0.02))


SCENE = Scene(
    id="sand",
    name="Sand and small fish",
    stops=8.0,
    shows="Silver and orange fish, ripples to the edge of sight, a white slate that clips first.",
    neutral="the grey weight and the slate",
    layers=(
        Layer("bottom", "far", _bottom, flows=(1.0, 0.0), fills=True),
        Layer("fish", "subject", _fish, subject=True),
    ),
)
