"""Eelgrass in shallow water: blades, a grey stone, a red crab, particles between."""

from __future__ import annotations

import numpy as np

from steady_tide.core.look.drawing import Array, Canvas, Sheet, below, ellipse, stroke
from steady_tide.core.look.scene import Layer, Scene


def _ground(sheet: Sheet) -> None:
    def lit(c: Canvas) -> Array:
        x, y = c.x, c.y
        far = np.maximum(np.float32(0.10) - y, np.float32(0.03))
        net = c.texture(0.2, 311, u=x / far * 0.2, v=0.05 / far)
        return np.asarray(np.exp2(0.35 * net) + 1.3 * np.exp(-((net / 0.25) ** 2)))  # light that waves throw on it

    sheet.add(below(1e6), (0.30, 0.34, 0.36), lambda c: np.asarray(0.8 + 1.6 * np.clip(c.y + 0.1, 0.0, 0.6)))
    sheet.add(below(-0.02), (0.34, 0.30, 0.22), lit, soft=0.10)


def _blades(sheet: Sheet, count: int, seed: int, foot: float, long: float, thick: float) -> None:
    rng = np.random.default_rng(seed)
    for _ in range(count):
        x, lean, tall = rng.uniform(-1.3, 1.3), rng.normal(0.05, 0.05), long * rng.uniform(0.6, 1.25)
        tone = rng.uniform(0.55, 1.35)
        colour = (0.055 * tone, 0.145 * tone, 0.035 * tone)
        bend = lean * rng.uniform(0.8, 1.8)
        points = [
            (x, foot),
            (x + 0.35 * lean, foot + 0.4 * tall),
            (x + lean, foot + 0.75 * tall),
            (x + lean + bend, foot + tall),
        ]
        width = thick * rng.uniform(0.7, 1.3)
        for (x0, y0), (x1, y1), w0, w1 in zip(points, points[1:], (1.0, 0.95, 0.8), (0.95, 0.8, 0.15), strict=False):
            sheet.add(stroke(x0, y0, x1, y1, width * w0, width * w1), colour)
            sheet.add(stroke(x0 + 0.3 * width, y0, x1 + 0.3 * width, y1, width * 0.12), tuple(2.2 * c for c in colour))  # type: ignore[arg-type]


def _far(sheet: Sheet) -> None:
    _blades(sheet, 60, 31, -0.06, 0.16, 0.0045)


def _stone(sheet: Sheet) -> None:
    def round_light(c: Canvas) -> Array:
        x, y = c.x, c.y
        return np.asarray(0.7 + 4.0 * np.clip(y + 0.20, 0.0, 0.15) + 0.6 * np.clip(-x - 0.05, -0.2, 0.3))

    sheet.add(ellipse(-0.17, -0.165, 0.105, 0.068), (0.18, 0.18, 0.18), round_light, grain=(0.03, 0.25, 321))
    sheet.add(ellipse(-0.23, -0.128, 0.022, 0.012), (0.42, 0.20, 0.34), grain=(0.006, 0.5, 322))
    body = (0.075, -0.175)
    for side in (-1, 1):
        for leg in range(4):
            knee = (body[0] + side * (0.042 + 0.009 * leg), body[1] + 0.016 - 0.012 * leg)
            sheet.add(stroke(*body, *knee, 0.0055, 0.004), (0.42, 0.07, 0.03))
            sheet.add(stroke(*knee, knee[0] + side * 0.012, knee[1] - 0.028, 0.004, 0.0015), (0.38, 0.07, 0.03))
        claw = (body[0] + side * 0.050, body[1] + 0.036)
        sheet.add(stroke(*body, *claw, 0.007, 0.006), (0.46, 0.08, 0.03))
        sheet.add(ellipse(*claw, 0.014, 0.010, 40.0 * side), (0.60, 0.14, 0.06))
    sheet.add(ellipse(*body, 0.040, 0.028), (0.55, 0.09, 0.035), grain=(0.01, 0.4, 323))
    for side in (-1, 1):
        sheet.add(ellipse(body[0] + 0.012 * side, body[1] + 0.029, 0.0032, 0.0036), (0.02, 0.02, 0.02))
    rng = np.random.default_rng(33)
    for _ in range(9):
        x, y = rng.uniform(-0.45, 0.45), rng.uniform(-0.26, -0.2)
        sheet.add(ellipse(x, y, rng.uniform(0.006, 0.014), 0.006), (0.62, 0.60, 0.55))


def _near(sheet: Sheet) -> None:
    _blades(sheet, 26, 34, -0.42, 0.40, 0.010)


def _dust(sheet: Sheet) -> None:
    rng = np.random.default_rng(35)
    for _ in range(90):
        size = rng.uniform(0.0006, 0.0018)
        sheet.glow(rng.uniform(-0.9, 0.9), rng.uniform(-0.5, 0.5), size, (0.4, 0.42, 0.42))


SCENE = Scene(
    id="eelgrass",
    name="Eelgrass and a crab",
    stops=8.0,
    shows="What is left of a crab's red, a grey stone for the balance, blades for detail, distance that fades.",
    neutral="the stone",
    layers=(
        Layer("ground", "far", _ground, flows=(1.0, 0.0), fills=True),
        Layer("far blades", "far", _far, flows=(1.0, 0.0), fills=True),
        Layer("stone", "subject", _stone, subject=True),
        Layer("near blades", "near", _near, flows=(1.0, 0.0), fills=True),
        Layer("dust", "near", _dust, flows=(1.0, 0.0), fills=True),
    ),
)
