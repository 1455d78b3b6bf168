"""Lantern punts on dark water below a lit wall: lamps far above white, faces, reflections, near black around."""

from __future__ import annotations

import numpy as np

from steady_tide.core.look.drawing import Array, Canvas, Sheet, below, box, ellipse, stroke
from steady_tide.core.look.scene import Layer, Scene

WATER = -0.02
LANTERN = (60.0, 36.0, 13.0)
WARM = (1.0, 0.62, 0.28)
WALL_LAMPS = ((-0.34, 0.075), (-0.17, 0.08))
PUNTS = ((-0.02, -0.045, 0.75), (0.13, -0.075, 1.0), (0.34, -0.105, 1.25))


def _near_lamps(c: Canvas) -> Array:
    x, y = c.x, c.y
    lit = np.full(x.shape, 0.012, dtype=np.float32)
    for at_x, at_y in WALL_LAMPS:
        lit += 0.0022 / ((x - at_x) ** 2 + (y - at_y) ** 2 + 0.0035)
    return np.asarray(lit)


def _wall(sheet: Sheet) -> None:
    sheet.add(below(1e6), (0.0016, 0.0020, 0.0032), 1.0)

    sheet.add(box(-0.62, 0.06, 0.46, 0.10), (0.30, 0.20, 0.13), _brick_light)
    for x in (-0.43, -0.255):
        sheet.add(box(x, 0.115, 0.014, 0.022), (2.6, 1.7, 0.75))
        sheet.add(stroke(x, 0.093, x, 0.137, 0.0014), (0.02, 0.015, 0.01))
        sheet.add(stroke(x - 0.014, 0.115, x + 0.014, 0.115, 0.0014), (0.02, 0.015, 0.01))
    sheet.add(box(-0.30, 0.03, 0.012, 0.016), (0.18, 0.18, 0.18), _near_lamps)
    sheet.add(below(WATER), (0.0016, 0.0022, 0.0030), 1.0)


def _brick_light(c: Canvas) -> Array:
    x, y = c.x, c.y
    row = np.floor(y / 0.013)
    shifted = x / 0.036 + 0.5 * (row % 2)
    gap = np.minimum(np.abs(shifted - np.round(shifted)) / 0.06, np.abs(y / 0.013 - np.round(y / 0.013)) / 0.12)
    return np.asarray(
        np.clip(gap, 0.35, 1.0) * _near_lamps(c) * (0.8 + 0.4 * np.abs(np.sin(row * 12.9 + np.floor(shifted) * 78.2)))
    )


def _lamps(sheet: Sheet) -> None:
    for x, y in WALL_LAMPS:
        sheet.glow(x, y, 0.004, LANTERN)
        sheet.glow(x, y, 0.022, (0.5, 0.32, 0.13))
        _path(sheet, x, WATER - 0.005, 0.013, 0.22, 0.10)


def _lanterns(sheet: Sheet) -> None:
    for x, y, size in PUNTS:
        lantern = (x + 0.008 * size, y + 0.030 * size)
        sheet.glow(*lantern, 0.0042 * size, LANTERN)
        sheet.glow(*lantern, 0.028 * size, (0.55, 0.34, 0.13))
        _path(sheet, lantern[0], y - 0.012 * size, 0.011 * size, 0.20, 0.55)


def _path(sheet: Sheet, x: float, top: float, wide: float, long: float, bright: float) -> None:
    """A lamp's path on the water: strips that widen towards whoever looks."""
    rng = np.random.default_rng(int(1000 * abs(x)) + 7)
    for _ in range(34):
        down = long * rng.random() ** 1.3
        much = bright * rng.uniform(0.2, 1.0) * (1.0 - 0.7 * down / long)
        sheet.glow(
            x + rng.normal(0.0, wide * (0.25 + 1.6 * down / long)), top - down, wide * rng.uniform(0.25, 0.8),
            tuple(much * part for part in WARM),
            high=rng.uniform(0.0008, 0.0022), reach=3.0,
        )  # fmt: skip


def _punts(sheet: Sheet) -> None:
    for x, y, size in PUNTS:

        def by_lantern(c: Canvas, x: float = x, y: float = y, size: float = size) -> Array:
            px, py = c.x, c.y
            away = (px - x - 0.008 * size) ** 2 + (py - y - 0.030 * size) ** 2
            return np.asarray(0.02 + 0.0016 * size**2 / (away + 0.0009 * size**2))

        sheet.add(
            stroke(x - 0.072 * size, y + 0.004 * size, x + 0.072 * size, y, 0.012 * size),
            (0.16, 0.10, 0.06),
            by_lantern,
            grain=(0.02, 0.3, 221),
        )
        for side, tall in ((-1, 0.034), (1, 0.040)):
            at = x + 0.032 * size * side
            sheet.add(
                ellipse(at, y + 0.6 * tall * size, 0.013 * size, 0.6 * tall * size),
                (0.20, 0.17, 0.15),
                by_lantern,
                grain=(0.008, 0.3, 222),
            )
            sheet.add(
                ellipse(at - 0.002 * side * size, y + 1.35 * tall * size, 0.0075 * size, 0.0092 * size),
                (0.42, 0.27, 0.19),
                by_lantern,
            )
        sheet.add(
            stroke(x + 0.06 * size, y - 0.01 * size, x + 0.078 * size, y + 0.075 * size, 0.0012 * size),
            (0.2, 0.15, 0.1),
            by_lantern,
        )


SCENE = Scene(
    id="punts",
    name="Lantern punts",
    stops=12.0,
    shows="Lanterns far above white, faces in their light, bricks that sink into noise, paths on the water.",
    neutral="the grey plate on the wall",
    layers=(
        Layer("wall", "far", _wall, fills=True),
        Layer("lamps", "far", _lamps, shines=True),
        Layer("punts", "subject", _punts, subject=True, heads=(-1.0, 0.0)),
        Layer("lanterns", "subject", _lanterns, subject=True, heads=(-1.0, 0.0), shines=True),
    ),
)
