"""From the codes of a file back to light: the curves that files declare."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Table:
    """A curve by its points. light: linear, mid grey being 0.18, at codes that rise evenly from 0 to 1."""

    light: tuple[float, ...]


Named = Literal["linear", "srgb", "rec709"]
Transfer = Named | Table


def to_light(code: Floats, transfer: Transfer) -> Floats:
    """Undo a transfer curve.

    code: shares of the largest code, 0 to 1, any shape; transfer: linear, srgb (source: iec61966-2-1),
    rec709 (source: bt709), or a table. Returns shares of white, linear in light; of a table, what it says.
    """
    if isinstance(transfer, Table):
        return np.interp(code, np.linspace(0.0, 1.0, len(transfer.light)), transfer.light)
    if transfer == "linear":
        return code
    if transfer == "srgb":
        return np.where(code <= 0.04045, code / 12.92, ((code + 0.055) / 1.055) ** 2.4)
    return np.where(code < 0.081, code / 4.5, ((code + 0.099) / 1.099) ** (1 / 0.45))


def to_code(light: Floats, transfer: Named) -> Floats:
    """Apply a transfer curve: the other way. light: shares of white, 0 to 1. Returns shares of the largest code."""
    if transfer == "linear":
        return light
    safe = np.maximum(light, 0.0)
    if transfer == "srgb":
        return np.where(light <= 0.0031308, light * 12.92, 1.055 * safe ** (1 / 2.4) - 0.055)
    return np.where(light < 0.018, light * 4.5, 1.099 * safe**0.45 - 0.099)


def slope_at(code: float, transfer: Transfer) -> float:
    """How much light a step of code is worth. code: share, 0 to 1. Returns light per code, both as shares."""
    eps = 1e-4
    low, high = max(0.0, code - eps), min(1.0, code + eps)
    ends = to_light(np.array([low, high]), transfer)
    return float((ends[1] - ends[0]) / (high - low))
