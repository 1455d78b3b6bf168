"""Drawing in linear light: shapes by their signed distance, textures with a natural spectrum, in scene coordinates.

A scene is drawn on a plane before the camera, one unit wide where the wanted field ends: x from -0.5 to 0.5 across it, y
upwards. Colours are reflectances in red, green and blue; mid grey is 0.18, lamps are far above 1.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cache, cached_property

import cv2
import numpy as np
from numpy.typing import NDArray

from steady_tide.core.physics.noise import GREY_REFLECTANCE

Array = NDArray[np.float32]
Colour = tuple[float, float, float]

TILE = 512
COARSE = 8  # of how many pixels one is looked at to find out where a shape lies


@cache
def natural_tile(seed: int) -> Array:
    """A texture that tiles, with amplitudes that fall with frequency as those of natural scenes do.

    seed: which. Returns TILE x TILE values of mean 0 and standard deviation 1. Source: field1987.
    """
    rng = np.random.default_rng(seed)
    rows, columns = np.fft.fftfreq(TILE)[:, None], np.fft.rfftfreq(TILE)[None, :]
    frequency = np.hypot(rows, columns)
    frequency[0, 0] = 1.0
    spectrum = np.exp(2j * np.pi * rng.random(frequency.shape)) / frequency
    spectrum[0, 0] = 0.0
    tile = np.fft.irfft2(spectrum, s=(TILE, TILE))
    return np.asarray(tile / tile.std(), dtype=np.float32)


@dataclass(frozen=True, eq=False)
class Canvas:
    """Where each pixel looks: scene coordinates, and how large a pixel is there.

    x, y: (rows, columns); foot: of one pixel, scene units.
    """

    x: Array
    y: Array
    foot: Array

    @cached_property
    def _coarse(self) -> tuple[Array, Array]:
        return self.x[::COARSE, ::COARSE], self.y[::COARSE, ::COARSE]

    @cached_property
    def _reach(self) -> float:
        return float(self.foot.max()) * (COARSE + 1)

    def where(self, box: Box) -> tuple[slice, slice] | None:
        """Rows and columns that hold a box, None where it lies outside."""
        x, y = self._coarse
        reach = self._reach
        inside = (x > box.left - reach) & (x < box.right + reach) & (y > box.bottom - reach) & (y < box.top + reach)
        if not inside.any():
            return None
        rows, columns = np.flatnonzero(inside.any(axis=1)), np.flatnonzero(inside.any(axis=0))
        return (
            slice(max(0, (rows[0] - 1) * COARSE), (rows[-1] + 2) * COARSE),
            slice(max(0, (columns[0] - 1) * COARSE), (columns[-1] + 2) * COARSE),
        )

    def part(self, rows: slice, columns: slice) -> Canvas:
        """A part of it."""
        return Canvas(self.x[rows, columns], self.y[rows, columns], self.foot[rows, columns])

    def texture(
        self, size: float, seed: int, across: float = 1.0, u: Array | None = None, v: Array | None = None
    ) -> Array:
        """A natural texture of mean 0 and deviation about 1.

        size: of its largest parts, scene units; seed: which; across: how much longer than high its parts are; u, v:
        other coordinates to lay it in. Returns (rows, columns); what is finer than a pixel is left out.
        """
        tile = natural_tile(seed)
        u, v = self.x if u is None else u, self.y if v is None else v
        total = np.zeros(self.x.shape, dtype=np.float32)
        for octave, weight in ((1.0, 0.8), (9.0, 0.6)):
            per_unit = np.float32(TILE * octave / (size * 4.0))
            looked = cv2.remap(
                tile, u * (per_unit / np.float32(across)) + 1000.5, v * per_unit + 500.5,
                cv2.INTER_LINEAR, borderMode=cv2.BORDER_WRAP,
            )  # fmt: skip
            seen = np.clip(1.6 - self.foot * per_unit * 0.6, 0.0, 1.0)
            total += weight * seen * looked
        return total


@dataclass(frozen=True)
class Box:
    """Where a shape lies, scene units."""

    left: float
    right: float
    bottom: float
    top: float


@dataclass(frozen=True)
class Shape:
    """A shape: where it lies, and how far outside of it a point is, negative inside."""

    box: Box
    outside: Callable[[Array, Array], Array]


EVERYWHERE = Box(-1e9, 1e9, -1e9, 1e9)


def ellipse(x: float, y: float, wide: float, high: float, tilt_deg: float = 0.0) -> Shape:
    """An ellipse. x, y: centre; wide, high: half axes; tilt_deg: against the horizon."""
    cos, sin = np.cos(np.radians(tilt_deg)), np.sin(np.radians(tilt_deg))
    reach = max(wide, high)

    def outside(px: Array, py: Array) -> Array:
        dx, dy = px - x, py - y
        along, up = (cos * dx + sin * dy) / wide, (cos * dy - sin * dx) / high
        radius = np.sqrt(along * along + up * up) + np.float32(1e-6)
        slope = np.sqrt((along / wide) ** 2 + (up / high) ** 2) / radius + np.float32(1e-6)
        return np.asarray((radius - 1.0) / slope)

    return Shape(Box(x - reach, x + reach, y - reach, y + reach), outside)


def box(x: float, y: float, wide: float, high: float, tilt_deg: float = 0.0, rounded: float = 0.0) -> Shape:
    """A rectangle. x, y: centre; wide, high: half sides; rounded: radius of its corners."""
    cos, sin = np.cos(np.radians(tilt_deg)), np.sin(np.radians(tilt_deg))
    reach = float(np.hypot(wide, high))

    def outside(px: Array, py: Array) -> Array:
        dx, dy = px - x, py - y
        across = np.abs(cos * dx + sin * dy) - (wide - rounded)
        up = np.abs(cos * dy - sin * dx) - (high - rounded)
        apart = np.hypot(np.maximum(across, 0.0), np.maximum(up, 0.0))
        return np.asarray(apart + np.minimum(np.maximum(across, up), 0.0) - rounded)

    return Shape(Box(x - reach, x + reach, y - reach, y + reach), outside)


def stroke(x0: float, y0: float, x1: float, y1: float, thick: float, thin: float | None = None) -> Shape:
    """A stroke with round ends. thick: half its width at the first end, thin: at the other."""
    end = thick if thin is None else thin
    dx, dy = x1 - x0, y1 - y0
    length = max(dx * dx + dy * dy, 1e-12)
    most = max(thick, end)

    def outside(px: Array, py: Array) -> Array:
        along = np.clip(((px - x0) * dx + (py - y0) * dy) / length, 0.0, 1.0)
        return np.asarray(np.hypot(px - x0 - along * dx, py - y0 - along * dy) - (thick + (end - thick) * along))

    return Shape(Box(min(x0, x1) - most, max(x0, x1) + most, min(y0, y1) - most, max(y0, y1) + most), outside)


def below(height: float | Callable[[Array], Array]) -> Shape:
    """All that lies below a line. height: of the line, or at each x."""
    if callable(height):
        return Shape(EVERYWHERE, lambda px, py: np.asarray(py - height(px)))
    return Shape(Box(-1e9, 1e9, -1e9, height), lambda px, py: np.asarray(py - height))


Lit = float | Callable[[Canvas], Array]


class Sheet:
    """One layer that is being drawn: light times cover, and cover. contrast: by how much its stops about mid grey are
    stretched."""

    def __init__(self, canvas: Canvas, contrast: float = 1.0) -> None:
        self.canvas = canvas
        self.contrast = contrast
        self.light = np.zeros((*canvas.x.shape, 3), dtype=np.float32)
        self.cover = np.zeros(canvas.x.shape, dtype=np.float32)

    def add(
        self,
        shape: Shape,
        colour: Colour,
        lit: Lit = 1.0,
        grain: tuple[float, float, int] | None = None,
        soft: float = 0.0,
        dense: float = 1.0,
    ) -> None:
        """Paint a shape over what is there.

        colour: its reflectance; lit: by how much it is lit more or less, one number or at each place; grain: size of a
        texture, scene units, its depth, stops, and which; soft: width of its edge, scene units; dense: how much it hides.
        """
        place = self.canvas.where(Box(
            shape.box.left - soft, shape.box.right + soft, shape.box.bottom - soft, shape.box.top + soft
        ))  # fmt: skip
        if place is None:
            return
        here = self.canvas.part(*place)
        edge = np.maximum(here.foot, np.float32(soft))
        cover = np.clip(0.5 - shape.outside(here.x, here.y) / edge, 0.0, 1.0) * np.float32(dense)
        much = np.asarray(lit(here) if callable(lit) else np.float32(lit))
        if grain is not None:
            size, stops, seed = grain
            much = much * np.exp2(np.float32(stops) * here.texture(size, seed))
        if self.contrast != 1.0:
            much = np.asarray(cv2.pow(much, self.contrast)) if much.ndim else much**self.contrast
            colour = _stretched(colour, self.contrast)
        value = cover * much
        self.light[place] = self.light[place] * (1.0 - cover)[..., None] + value[..., None] * np.array(
            colour, np.float32
        )
        self.cover[place] = self.cover[place] + cover * (1.0 - self.cover[place])

    def glow(
        self, x: float, y: float, wide: float, colour: Colour, high: float | None = None, reach: float = 4.0
    ) -> None:
        """Add light that falls off around a point, such as a lamp's halo or its path on water.

        wide, high: where it has fallen to 0.6 of its middle; colour: there; reach: how many times as far it is drawn.
        """
        tall = wide if high is None else high
        place = self.canvas.where(Box(x - reach * wide, x + reach * wide, y - reach * tall, y + reach * tall))
        if place is None:
            return
        here = self.canvas.part(*place)
        fall = np.exp(-0.5 * (((here.x - x) / wide) ** 2 + ((here.y - y) / tall) ** 2))
        self.light[place] += fall[..., None] * np.array(colour, np.float32)


def _stretched(colour: Colour, contrast: float) -> Colour:
    """A reflectance whose stops about mid grey are stretched."""
    red, green, blue = (GREY_REFLECTANCE * (max(part, 1e-6) / GREY_REFLECTANCE) ** contrast for part in colour)
    return red, green, blue
