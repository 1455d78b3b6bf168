"""A stone quay by day: a walker, a bollard, houses across the water, a bright sky."""

from __future__ import annotations

import numpy as np

from steady_tide.core.look.drawing import Array, Canvas, Sheet, below, box, ellipse, stroke
from steady_tide.core.look.scene import Layer, Scene

HORIZON, EDGE = 0.03, -0.09


def _sky(sheet: Sheet) -> None:
    def lit(c: Canvas) -> Array:
        clouds = np.exp2(0.45 * c.texture(0.5, 11, across=3.0))
        return np.asarray((0.80 + 0.5 * np.clip(c.y * 1.4, -0.3, 1.0)) * clouds)

    sheet.add(below(1e6), (0.80, 0.92, 1.10), lit)


def _houses(sheet: Sheet) -> None:
    rng = np.random.default_rng(4)
    x = -2.4
    while x < 2.4:
        wide, high = rng.uniform(0.03, 0.09), rng.uniform(0.05, 0.13)
        wall = [(0.42, 0.36, 0.30), (0.30, 0.17, 0.12), (0.55, 0.53, 0.48), (0.24, 0.27, 0.30)][int(rng.integers(4))]
        middle = x + wide / 2.0
        sheet.add(box(middle, HORIZON + high / 2.0, wide / 2.0, high / 2.0), wall, grain=(0.02, 0.15, 21))
        sheet.add(box(middle, HORIZON + high + 0.008, wide * 0.54, 0.009), (0.10, 0.07, 0.06))
        for row in range(int(high / 0.026)):
            for column in range(int(wide / 0.02)):
                at = (x + 0.012 + 0.02 * column, HORIZON + 0.018 + 0.026 * row)
                sheet.add(box(*at, 0.0042, 0.0065), (0.05, 0.06, 0.07))
        x += wide


def _water(sheet: Sheet) -> None:
    sheet.add(below(HORIZON), (0.13, 0.20, 0.23), _rippled)


def _rippled(c: Canvas) -> Array:
    """Water that mirrors the sky in strips, finer the farther it is."""
    far = np.maximum(np.float32(HORIZON + 0.006) - c.y, np.float32(0.006))
    waves = c.texture(0.10, 31, u=c.x / far * 0.08, v=0.02 / far)
    return np.asarray(np.exp2(0.7 * waves) + 9.0 * np.clip(waves - 2.1, 0.0, 1.0))


def _stones(sheet: Sheet) -> None:
    def lit(c: Canvas) -> Array:
        x, y = c.x, c.y
        far = np.maximum(np.float32(EDGE + 0.05) - y, np.float32(0.02))
        along, deep = x / far * 0.12, 0.012 / far
        row = np.floor(deep / 0.012)
        joint = np.minimum(np.abs(deep / 0.012 - row - 0.5), 0.5)
        shifted = along / 0.03 + 0.37 * row
        gap = np.minimum(np.abs(shifted - np.floor(shifted) - 0.5), 0.5)
        joints = np.clip(np.minimum((0.5 - joint) / 0.07, (0.5 - gap) / 0.04), 0.15, 1.0)
        rough = c.texture(0.03, 41, u=along, v=deep)
        tone = 0.8 + 0.4 * np.abs(np.sin(row * 12.9898 + np.floor(shifted) * 78.233))
        return np.asarray(joints * tone * np.exp2(0.3 * rough))

    sheet.add(below(EDGE), (0.24, 0.22, 0.20), lit)
    sheet.add(box(0.0, EDGE, 3.0, 0.008), (0.36, 0.34, 0.31), grain=(0.03, 0.3, 43))
    sheet.add(box(0.27, EDGE - 0.02, 0.022, 0.042, rounded=0.01), (0.05, 0.05, 0.055))
    sheet.add(box(0.27, EDGE + 0.022, 0.029, 0.010, rounded=0.008), (0.18, 0.18, 0.18))
    for turn in range(5):
        sheet.add(ellipse(0.27, EDGE - 0.045 + 0.006 * turn, 0.030, 0.0055), (0.45, 0.36, 0.20), grain=(0.006, 0.5, 44))
    sheet.add(box(-0.36, EDGE - 0.085, 0.05, 0.038), (0.18, 0.18, 0.18))
    sheet.add(box(-0.36, EDGE - 0.085, 0.044, 0.032), (0.70, 0.70, 0.70), grain=(0.01, 0.08, 45))


def _walker(sheet: Sheet) -> None:
    x, foot = -0.06, -0.20
    sheet.add(ellipse(x, foot - 0.006, 0.07, 0.010), (0.02, 0.02, 0.02), soft=0.012, dense=0.6)
    for side, step in ((-1, 0.018), (1, -0.024)):
        sheet.add(stroke(x + 0.006 * side, foot + 0.10, x + step, foot + 0.005, 0.014, 0.009), (0.05, 0.06, 0.10))
        sheet.add(ellipse(x + step + 0.006, foot + 0.003, 0.013, 0.006), (0.03, 0.025, 0.02))
    sheet.add(stroke(x, foot + 0.10, x + 0.002, foot + 0.19, 0.030, 0.026), (0.55, 0.09, 0.05), grain=(0.012, 0.25, 51))
    sheet.add(box(x + 0.010, foot + 0.185, 0.010, 0.016), (0.80, 0.80, 0.78))
    for side in (-1, 1):
        sheet.add(
            stroke(x + 0.022 * side, foot + 0.19, x + 0.036 * side, foot + 0.105, 0.010, 0.007), (0.48, 0.08, 0.05)
        )
    sheet.add(ellipse(x + 0.004, foot + 0.232, 0.017, 0.021), (0.40, 0.25, 0.18))
    sheet.add(ellipse(x, foot + 0.243, 0.019, 0.015), (0.03, 0.02, 0.015), grain=(0.004, 0.5, 52))
    for line in range(12):
        sheet.add(
            stroke(x - 0.02 + 0.0035 * line, foot + 0.105, x - 0.018 + 0.0035 * line, foot + 0.185, 0.0005),
            (0.30, 0.05, 0.03),
        )


SCENE = Scene(
    id="quay",
    name="Quay with a walker",
    stops=9.0,
    shows="Stone joints, windows across the water, a red coat, a sky that clips first.",
    neutral="the bollard's cap and the crate",
    layers=(
        Layer("sky", "sky", _sky, fills=True),
        Layer("houses", "far", _houses, flows=(1.0, 0.0), fills=True),
        Layer("water", "far", _water, fills=True),
        Layer("stones", "subject", _stones, flows=(1.0, 0.0), fills=True),
        Layer("walker", "subject", _walker, subject=True),
    ),
)
