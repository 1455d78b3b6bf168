"""A sluice under stars: points of light, a dark gate, one warm window, water that mirrors a little."""

from __future__ import annotations

import numpy as np

from steady_tide.core.look.drawing import Array, Canvas, Sheet, below, box, ellipse, stroke
from steady_tide.core.look.scene import Layer, Scene

GROUND = -0.10


def _night(sheet: Sheet) -> None:
    def lit(c: Canvas) -> Array:
        x, y = c.x, c.y
        band = np.exp(-(((y - 0.12 - 0.55 * x) / 0.09) ** 2))
        return np.asarray(
            (1.0 + 1.6 * band * np.exp2(0.6 * c.texture(0.15, 711)))
            * (1.0 + 1.3 * np.exp(-np.clip(y - GROUND, 0.0, 9.0) / 0.10))
        )

    sheet.add(below(1e6), (0.115, 0.125, 0.150), lit)


def _stars(sheet: Sheet) -> None:
    rng = np.random.default_rng(72)
    foot = float(np.median(sheet.canvas.foot))
    size = max(0.0005, 0.55 * foot)
    for _ in range(900):
        x, y = rng.uniform(-1.6, 1.6), rng.uniform(GROUND, 1.2)
        bright = 1.8 * rng.pareto(1.2) + 0.8
        warm = rng.uniform(0.75, 1.25)
        # A star is a point: the larger the pixel, the more it is spread out.
        much = min(bright, 40.0) * (0.0010 / size) ** 2
        sheet.glow(x, y, size, (much * warm, much, much / warm))


def _sluice(sheet: Sheet) -> None:
    sheet.add(
        below(GROUND), (0.022, 0.024, 0.026), lambda c: np.asarray(np.exp2(0.4 * c.texture(0.1, 721, across=5.0)))
    )
    sheet.add(box(0.0, -0.03, 0.15, 0.012), (0.016, 0.015, 0.014))
    for x in (-0.13, -0.045, 0.045, 0.13):
        sheet.add(box(x, -0.065, 0.009, 0.07), (0.020, 0.018, 0.017), grain=(0.02, 0.4, 722))
    for x in (-0.087, 0.0, 0.087):
        sheet.add(
            box(x, -0.085, 0.034, 0.045),
            (0.030, 0.024, 0.018),
            lambda c: np.asarray(0.7 + 0.5 * (np.sin(c.x * 900.0) > 0.6)),
            grain=(0.02, 0.4, 723),
        )
        sheet.add(stroke(x, -0.05, x, 0.02, 0.002), (0.02, 0.02, 0.02))
    sheet.add(box(0.30, -0.06, 0.055, 0.045), (0.035, 0.032, 0.030), grain=(0.03, 0.3, 724))
    sheet.add(stroke(0.24, -0.012, 0.30, 0.03, 0.006), (0.015, 0.014, 0.014))
    sheet.add(stroke(0.30, 0.03, 0.36, -0.012, 0.006), (0.015, 0.014, 0.014))
    sheet.add(ellipse(-0.32, -0.14, 0.05, 0.02), (0.18, 0.18, 0.18), lambda c: np.asarray(0.35 + 0.0 * c.x))


def _window(sheet: Sheet) -> None:
    sheet.add(box(0.30, -0.055, 0.011, 0.013), (9.0, 5.2, 1.9))
    sheet.glow(0.30, -0.055, 0.03, (0.20, 0.12, 0.045))
    rng = np.random.default_rng(73)
    for _ in range(22):
        down = 0.12 * rng.random()
        sheet.glow(
            0.30 + rng.normal(0.0, 0.006 + 0.05 * down),
            GROUND - 0.01 - down,
            0.006,
            (0.16, 0.09, 0.03),
            high=0.0012,
            reach=3.0,
        )


SCENE = Scene(
    id="sluice",
    name="Sluice under stars",
    stops=9.0,
    shows="Stars that are points or trails, a sky just above the noise, boards that may drown, one lamp that clips.",
    neutral="the stone by the water",
    layers=(
        Layer("night", "sky", _night, fills=True),
        Layer("stars", "sky", _stars, turns_deg_s=360.0 / 86164.0, fills=True, shines=True),
        Layer("sluice", "subject", _sluice, fills=True),
        Layer("window", "subject", _window, shines=True),
    ),
)
