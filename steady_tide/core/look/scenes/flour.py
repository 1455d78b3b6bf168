"""Flour falling on dough: grains that a short exposure freezes, a wooden board, a dark ground."""

from __future__ import annotations

import numpy as np

from steady_tide.core.look.drawing import Sheet, below, box, ellipse, stroke
from steady_tide.core.look.scene import Layer, Scene


def _table(sheet: Sheet) -> None:
    sheet.add(
        below(1e6),
        (0.030, 0.028, 0.030),
        lambda c: np.asarray(0.6 + 1.3 * np.exp(-((c.x + 0.2) ** 2 + (c.y - 0.1) ** 2) / 0.15)),
    )
    sheet.add(below(-0.12), (0.21, 0.12, 0.06), lambda c: np.asarray(np.exp2(0.5 * c.texture(0.05, 611, across=9.0))))
    sheet.add(
        ellipse(0.0, -0.125, 0.17, 0.075),
        (0.62, 0.54, 0.42),
        lambda c: np.asarray(0.75 + 2.0 * np.clip(c.y + 0.13, -0.2, 0.2) - 0.8 * np.clip(c.x, -0.2, 0.2)),
        grain=(0.05, 0.12, 612),
    )
    sheet.add(box(0.33, -0.10, 0.045, 0.055, rounded=0.008), (0.18, 0.18, 0.18))
    sheet.add(ellipse(0.33, -0.047, 0.045, 0.010), (0.60, 0.60, 0.60))


def _grains(sheet: Sheet) -> None:
    rng = np.random.default_rng(62)
    sheet.add(ellipse(0.0, 0.20, 0.045, 0.20), (0.75, 0.74, 0.70), grain=(0.03, 1.2, 621), soft=0.06, dense=0.35)
    for _ in range(420):
        y = rng.uniform(-0.12, 0.40)
        x, size = rng.normal(0.0, 0.035 + 0.12 * max(0.0, 0.12 - y)), rng.uniform(0.0006, 0.0024)
        sheet.add(ellipse(x, y, size, size), (0.85, 0.84, 0.80))
    for _ in range(14):
        x, y = rng.normal(0.0, 0.05), rng.uniform(-0.05, 0.25)
        sheet.add(
            stroke(x, y, x + rng.uniform(-0.006, 0.006), y + rng.uniform(-0.004, 0.004), 0.0042), (0.90, 0.89, 0.86)
        )


SCENE = Scene(
    id="flour",
    name="Flour falling",
    stops=8.0,
    shows="Grains that turn to streaks with a longer exposure, wood, a white that must not clip.",
    neutral="the grey cup beside the dough",
    layers=(
        Layer("table", "far", _table, fills=True),
        Layer("grains", "subject", _grains, subject=True, heads=(0.0, -1.0)),
    ),
)
