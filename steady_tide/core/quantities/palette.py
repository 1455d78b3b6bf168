"""Colours and sizes of type, as data: one set for the interface, the saved card, drawings and paper."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from steady_tide.core.quantities.frozen import Frozen

Colour = Annotated[str, Field(pattern=r"^#[0-9a-f]{6}$")]
LINEAR_BELOW = 0.04045


class Palette(Frozen):
    """grounds: colours by ground and name; paper: of what is set in ink; type: sizes by name, px."""

    grounds: dict[str, dict[str, Colour]]
    paper: dict[str, Colour]
    type: dict[str, float]


def luminance(colour: str) -> float:
    """Relative luminance of a colour. colour: such as #17262e, sRGB. Returns 0 for black to 1 for white. Source: wcag21."""
    total = 0.0
    for weight, at in ((0.2126, 1), (0.7152, 3), (0.0722, 5)):
        code = int(colour[at : at + 2], 16) / 255.0
        total += weight * (code / 12.92 if code <= LINEAR_BELOW else ((code + 0.055) / 1.055) ** 2.4)
    return total


def contrast_ratio(one: str, other: str) -> float:
    """How far two colours stand apart, 1 to 21. Source: wcag21."""
    dark, light = sorted((luminance(one), luminance(other)))
    return (light + 0.05) / (dark + 0.05)
