"""Frost in low sun: white blades against dark ground, a flask, a sun beside the frame's edge."""

from __future__ import annotations

import numpy as np

from steady_tide.core.look.drawing import Array, Canvas, Sheet, below, box, ellipse, stroke
from steady_tide.core.look.scene import Layer, Scene

HORIZON = 0.09


def _morning(sheet: Sheet) -> None:
    def lit(c: Canvas) -> Array:
        x, y = c.x, c.y
        return np.asarray(0.8 + 0.3 * np.clip(y, 0.0, 1.0) + 3.2 * np.exp(-np.hypot(x - 0.40, y - 0.13) / 0.10))

    sheet.add(below(1e6), (1.05, 0.92, 0.84), lit)
    sheet.add(
        below(lambda x: np.asarray(HORIZON + 0.02 + 0.012 * np.sin(7.0 * x) + 0.005 * np.sin(29.0 * x))),
        (0.20, 0.22, 0.27),
        grain=(0.05, 0.3, 911),
        soft=0.01,
    )


def _field(sheet: Sheet) -> None:
    def lit(c: Canvas) -> Array:
        x, y = c.x, c.y
        far = np.maximum(np.float32(HORIZON + 0.01) - y, np.float32(0.01))
        return np.asarray(np.exp2(0.9 * c.texture(0.06, 921, u=x / far * 0.15, v=0.03 / far)))

    sheet.add(below(HORIZON), (0.24, 0.25, 0.26), lit)
    for post in range(-5, 7):
        x = 0.13 * post + 0.03
        sheet.add(box(x, HORIZON + 0.005, 0.004, 0.030), (0.07, 0.055, 0.045))
        sheet.add(box(x, HORIZON + 0.036, 0.0055, 0.003), (0.75, 0.77, 0.80))


def _flask(sheet: Sheet) -> None:
    def lit(c: Canvas) -> Array:
        return np.asarray(0.55 + 0.9 * np.clip((c.x + 0.10) / 0.04, -0.5, 1.0))

    sheet.add(box(-0.10, -0.085, 0.032, 0.082, rounded=0.006), (0.18, 0.18, 0.18), lit)
    sheet.add(box(-0.10, 0.012, 0.024, 0.018, rounded=0.005), (0.55, 0.06, 0.04), lit)
    for line in range(4):
        sheet.add(stroke(-0.13, -0.05 - 0.02 * line, -0.07, -0.05 - 0.02 * line, 0.0008), (0.07, 0.07, 0.07))
    sheet.add(ellipse(0.06, -0.145, 0.05, 0.02), (0.10, 0.08, 0.06), grain=(0.01, 0.6, 931))


def _blades(sheet: Sheet) -> None:
    rng = np.random.default_rng(94)
    for _ in range(170):
        x, tall, lean = rng.uniform(-1.2, 1.2), rng.uniform(0.05, 0.22), rng.normal(0.0, 0.04)
        white = rng.uniform(0.35, 0.95)
        sheet.add(stroke(x, -0.33, x + lean, -0.33 + tall, 0.0030, 0.0006), (0.9 * white, 0.95 * white, 1.02 * white))
        for needle in range(5):
            share = 0.3 + 0.15 * needle
            at = (x + share * lean, -0.33 + share * tall)
            sheet.add(stroke(*at, at[0] + rng.normal(0.0, 0.006), at[1] + 0.005, 0.0005), (white, white, white))


SCENE = Scene(
    id="frost",
    name="Frost in low sun",
    stops=10.0,
    shows="White needles beside the sun, a flask half in shade, a far hedge: range and white at once.",
    neutral="the flask",
    layers=(
        Layer("morning", "sky", _morning, fills=True),
        Layer("field", "far", _field, flows=(1.0, 0.0), fills=True),
        Layer("flask", "subject", _flask, subject=True),
        Layer("blades", "near", _blades, flows=(1.0, 0.0), fills=True),
    ),
)
