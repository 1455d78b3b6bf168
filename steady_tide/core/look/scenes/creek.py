"""A creek from above: branches through the marsh, a boat with a grey deck, a sun glint."""

from __future__ import annotations

import numpy as np

from steady_tide.core.look.drawing import EVERYWHERE, Array, Shape, Sheet, below, box, ellipse, stroke
from steady_tide.core.look.scene import Layer, Scene


def _bank(x: Array, y: Array) -> Array:
    """How far a point is from the middle of the nearest arm, less half its width."""
    main = np.abs(y - 0.05 * np.sin(5.0 * x + 0.6) - 0.02 * np.sin(17.0 * x)) - (0.045 + 0.02 * np.sin(3.0 * x))
    left = np.abs(x + 0.22 - 0.35 * (y - 0.05) ** 2 * 8.0 - 0.03 * np.sin(21.0 * y)) - (
        0.020 - 0.03 * np.clip(y, 0.0, 0.5)
    )
    right = np.abs(x - 0.30 - 0.05 * np.sin(14.0 * y)) - (0.016 + 0.03 * np.clip(y, -0.5, 0.0))
    return np.asarray(np.minimum(main, np.minimum(np.where(y > 0.0, left, 9.0), np.where(y < 0.02, right, 9.0))))


def _marsh(sheet: Sheet) -> None:
    sheet.add(
        below(1e6),
        (0.085, 0.135, 0.055),
        lambda c: np.asarray(np.exp2(0.55 * c.texture(0.12, 811) + 0.3 * c.texture(0.012, 812))),
    )
    sheet.add(
        Shape(EVERYWHERE, lambda x, y: np.asarray(_bank(x, y) - 0.014)),
        (0.24, 0.20, 0.15),
        lambda c: np.asarray(np.exp2(0.3 * c.texture(0.05, 813))),
        soft=0.006,
    )
    sheet.add(
        Shape(EVERYWHERE, _bank), (0.055, 0.085, 0.085),
        lambda c: np.asarray(np.exp2(0.4 * c.texture(0.04, 814, across=2.0)) + 14.0 * np.exp(-(((c.x - 0.12) / 0.06) ** 2)) * np.clip(c.texture(0.02, 815) - 1.0, 0.0, 1.5)),
        soft=0.003,
    )  # fmt: skip


def _boat(sheet: Sheet) -> None:
    x, y = -0.02, 0.005
    for step in range(7):
        sheet.add(
            stroke(
                x - 0.05 - 0.018 * step,
                y - 0.004 - 0.004 * step,
                x - 0.05 - 0.018 * step,
                y + 0.006 + 0.004 * step,
                0.0014,
            ),
            (0.55, 0.58, 0.58),
            dense=0.7 - 0.08 * step,
        )
    sheet.add(ellipse(x, y, 0.046, 0.017), (0.70, 0.69, 0.66))
    sheet.add(ellipse(x, y, 0.038, 0.012), (0.18, 0.18, 0.18), grain=(0.01, 0.1, 821))
    sheet.add(box(x + 0.008, y, 0.010, 0.008), (0.50, 0.08, 0.05))
    sheet.add(ellipse(x - 0.018, y + 0.001, 0.0055, 0.0055), (0.10, 0.14, 0.30))


SCENE = Scene(
    id="creek",
    name="Creek from above",
    stops=9.0,
    shows="Reed as fine as pixels, banks, a boat, a glint that clips.",
    neutral="the boat's deck",
    layers=(
        Layer("marsh", "far", _marsh, flows=(0.0, -1.0), fills=True),
        Layer("boat", "subject", _boat, subject=True),
    ),
)
