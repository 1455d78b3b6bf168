"""A glazed jar on black: a curved highlight, fine crackle, a label, a white cup."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from steady_tide.core.look.drawing import Array, Canvas, Sheet, below, box, ellipse, stroke
from steady_tide.core.look.scene import Layer, Scene


def _ground(sheet: Sheet) -> None:
    sheet.add(
        below(1e6), (0.012, 0.012, 0.014), lambda c: np.asarray(0.7 + 1.4 * np.exp(-((c.x + 0.1) ** 2 + c.y**2) / 0.08))
    )
    sheet.add(
        below(-0.14),
        (0.030, 0.028, 0.027),
        lambda c: np.asarray(0.5 + 1.5 * np.exp(-((c.x / 0.35) ** 2))),
        grain=(0.15, 0.3, 511),
    )


def _round(middle: float, wide: float) -> Callable[[Canvas], Array]:
    def lit(c: Canvas) -> Array:
        across = np.clip((c.x - middle) / wide, -1.0, 1.0)
        return np.asarray(0.12 + 1.15 * np.clip(np.cos((across + 0.45) * 1.35), 0.0, 1.0) ** 1.5)

    return lit


def _jar(sheet: Sheet) -> None:
    body, cup = _round(0.0, 0.105), _round(0.225, 0.05)
    sheet.add(ellipse(0.0, -0.155, 0.11, 0.016), (0.004, 0.004, 0.004), soft=0.02)
    glaze = (0.055, 0.19, 0.21)
    sheet.add(ellipse(0.0, -0.03, 0.105, 0.125), glaze, body, grain=(0.05, 0.18, 521))
    sheet.add(box(0.0, 0.095, 0.048, 0.028, rounded=0.008), glaze, body)
    sheet.add(ellipse(0.0, 0.123, 0.054, 0.011), (0.10, 0.27, 0.28), body)
    sheet.add(ellipse(0.0, 0.124, 0.040, 0.007), (0.01, 0.02, 0.02))
    rng = np.random.default_rng(52)
    for _ in range(150):
        x, y, way = rng.uniform(-0.09, 0.09), rng.uniform(-0.13, 0.08), rng.uniform(0.0, np.pi)
        if (x / 0.10) ** 2 + ((y + 0.03) / 0.12) ** 2 > 0.9:
            continue
        long = rng.uniform(0.005, 0.018)
        sheet.add(
            stroke(x, y, x + long * np.cos(way), y + long * np.sin(way), 0.00045), (0.02, 0.07, 0.08), body, dense=0.7
        )
    sheet.add(box(0.028, -0.045, 0.032, 0.026), (0.70, 0.66, 0.55), body)
    for line in range(5):
        sheet.add(
            stroke(0.003, -0.030 - 0.0075 * line, 0.052 - 0.006 * (line % 3), -0.030 - 0.0075 * line, 0.0011),
            (0.08, 0.05, 0.04),
            body,
        )
    sheet.add(ellipse(0.225, -0.115, 0.050, 0.045), (0.18, 0.18, 0.18), cup)
    sheet.add(ellipse(0.225, -0.078, 0.050, 0.009), (0.30, 0.30, 0.30), cup)
    sheet.add(ellipse(-0.20, -0.135, 0.024, 0.024), (0.60, 0.24, 0.03), _round(-0.20, 0.024))


def _shine(sheet: Sheet) -> None:
    sheet.glow(-0.052, 0.012, 0.0045, (7.0, 7.0, 6.8), high=0.030)
    sheet.glow(-0.052, 0.012, 0.016, (0.35, 0.36, 0.37), high=0.055)
    sheet.glow(-0.030, 0.108, 0.0030, (5.0, 5.0, 4.9), high=0.008)
    sheet.glow(0.205, -0.095, 0.0035, (1.6, 1.6, 1.55), high=0.014)
    sheet.glow(-0.208, -0.124, 0.0030, (2.0, 1.9, 1.6))


SCENE = Scene(
    id="jar",
    name="Glazed jar on black",
    stops=9.0,
    shows="A highlight on glaze, crackle as fine as the lens draws it, a dark side, a ground that should stay black.",
    neutral="the grey cup",
    layers=(
        Layer("ground", "far", _ground, fills=True),
        Layer("jar", "subject", _jar, subject=True),
        Layer("shine", "subject", _shine, subject=True, shines=True),
    ),
)
