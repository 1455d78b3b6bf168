"""Over the mud at speed, seen by whoever rides: a ribbed flat that rushes by, tufts, two gloves on a bar."""

from __future__ import annotations

import numpy as np

from steady_tide.core.look.drawing import Array, Canvas, Sheet, below, box, ellipse, stroke
from steady_tide.core.look.scene import Layer, Scene

HORIZON = 0.06


def _sky(sheet: Sheet) -> None:
    sheet.add(
        below(1e6), (0.85, 0.95, 1.08),
        lambda c: np.asarray((0.95 + 0.3 * np.clip(c.y, 0.0, 1.0)) * np.exp2(0.35 * c.texture(0.4, 111, across=4.0))),
    )  # fmt: skip


def _shore(sheet: Sheet) -> None:
    sheet.add(
        below(lambda x: np.asarray(HORIZON + 0.012 + 0.006 * np.sin(9.0 * x) + 0.004 * np.sin(31.0 * x))),
        (0.10, 0.13, 0.10), grain=(0.03, 0.5, 121),
    )  # fmt: skip
    rng = np.random.default_rng(12)
    for _ in range(14):
        x, high = rng.uniform(-1.5, 1.5), rng.uniform(0.01, 0.05)
        sheet.add(
            stroke(x, HORIZON, x + rng.uniform(-0.003, 0.003), HORIZON + high, 0.002, 0.0015), (0.05, 0.045, 0.04)
        )


def _mud(sheet: Sheet) -> None:
    def lit(c: Canvas) -> Array:
        x, y = c.x, c.y
        far = np.maximum(np.float32(HORIZON + 0.01) - y, np.float32(0.01))
        along, deep = x / far * 0.15, 0.03 / far
        ribs = np.sin(along * 4.0 + deep * 60.0 + 1.2 * c.texture(0.4, 131, u=along, v=deep))
        wet = c.texture(0.25, 132, u=along, v=deep)
        shine = np.clip(wet - 0.7, 0.0, 1.2) * 3.2
        return np.asarray(np.exp2(0.5 * ribs + 0.45 * wet) + shine)

    sheet.add(below(HORIZON), (0.19, 0.165, 0.135), lit)
    rng = np.random.default_rng(13)
    for _ in range(60):
        depth = rng.uniform(0.02, 0.32)
        x, y, size = rng.uniform(-6.0, 6.0) * depth, HORIZON - depth, 0.16 * depth
        sheet.add(ellipse(x, y, size, size * 0.35), (0.05, 0.10, 0.035), grain=(size * 0.3, 0.8, 133))
        sheet.add(ellipse(x + size * 0.8, y - size * 0.2, size * 0.16, size * 0.12), (0.60, 0.58, 0.54))


def _gloves(sheet: Sheet) -> None:
    sheet.add(stroke(-0.30, -0.235, 0.30, -0.235, 0.012), (0.03, 0.03, 0.032))
    sheet.add(box(0.0, -0.225, 0.045, 0.022, rounded=0.006), (0.18, 0.18, 0.18))
    for line in range(6):
        sheet.add(stroke(-0.035 + 0.014 * line, -0.238, -0.035 + 0.014 * line, -0.212, 0.0014), (0.03, 0.03, 0.03))
    for side in (-1, 1):
        sheet.add(
            stroke(side * 0.42, -0.36, side * 0.25, -0.24, 0.055, 0.032), (0.06, 0.10, 0.19), grain=(0.02, 0.3, 141)
        )
        for finger in range(4):
            x = side * (0.215 + 0.018 * finger)
            sheet.add(stroke(x, -0.222, x - side * 0.004, -0.252, 0.010), (0.52, 0.28, 0.06), grain=(0.006, 0.3, 142))


SCENE = Scene(
    id="mud",
    name="Over the mud at speed",
    stops=9.0,
    shows="Ribs and wet shine that smear with the ride, a far shore that only shake can smear, gloves that stay.",
    neutral="the little screen on the bar",
    layers=(
        Layer("sky", "sky", _sky, fills=True),
        Layer("shore", "far", _shore, fills=True),
        Layer("mud", "subject", _mud, flows=(0.0, -1.0), fills=True),
        Layer("gloves", "near", _gloves),
    ),
)
