"""The framing sketch: where things stand in a frame, to scale. Numbers only; the interface draws them."""

from __future__ import annotations

from dataclasses import dataclass
from math import atan2, cos, hypot, pi, radians, sin, tan
from typing import Literal

from steady_tide.core.physics.optics import Projection
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.story.shadow import SHOULDERS_M, OwnShadow

Point = tuple[float, float]  # across from the left and down from the top, shares of the frame
EYES_M = 1.6  # where a camera is held that says nothing
FAR_M = 1e6
STEPS = 12  # of a line, so that a view which bends it shows it bent


@dataclass(frozen=True)
class View:
    """What a frame sees. field_deg: across it; shape: width over height; pitch_deg: upwards positive; camera_m: above the ground;
    above a level ground."""

    field_deg: float
    projection: Projection
    shape: float
    camera_m: float = EYES_M
    pitch_deg: float = 0.0

    def point(self, right_m: float, up_m: float, ahead_m: float) -> Point | None:
        """Where a point stands in the frame. right_m, up_m: from the lens; ahead_m: level, along the heading. Returns shares of the
        frame, beyond 0 to 1 outside it; None behind a straight-lined camera."""
        pitch = radians(self.pitch_deg)
        depth = ahead_m * cos(pitch) + up_m * sin(pitch)
        above = up_m * cos(pitch) - ahead_m * sin(pitch)
        half = radians(self.field_deg) / 2.0
        if self.projection == "linear":
            if depth <= 1e-9:
                return None
            x, y = right_m / depth / tan(half), above / depth / tan(half)
        else:
            off = hypot(right_m, above)
            angle = atan2(off, depth)
            if off < 1e-12:
                x = y = 0.0
            else:
                x, y = (angle / half) * right_m / off, (angle / half) * above / off
        return (0.5 + x / 2.0, 0.5 - y * self.shape / 2.0)


class Crop(Frozen):
    """Where a cut of another shape falls: left, top, width, height. whole: whether the subject is in it whole."""

    shape: str
    box: tuple[float, float, float, float]
    whole: bool


class Sketch(Frozen):
    """A framing to scale. horizon: of level ground, down the frame at its middle; subject: its box, left, top, width, height, beyond
    the frame where it is cut; fills: share of the frame's height that it takes; cut: sides at which it leaves the frame; line: the ground
    at the subject; foreground: the ground at what stands in front; shadow: one's own, corner by corner; sharp: whether subject and
    foreground are."""

    field_deg: float
    shape: float
    horizon: tuple[Point, ...]
    ground: tuple[Point, ...]
    subject: tuple[float, float, float, float]
    fills: float
    cut: tuple[Literal["left", "right", "top", "bottom"], ...]
    crops: tuple[Crop, ...]
    foreground: tuple[Point, ...] = ()
    foreground_sharp: bool | None = None
    subject_sharp: bool = True
    shadow: tuple[Point, ...] = ()


def aimed(view: View, distance_m: float, height_m: float, stands_m: float = 0.0) -> View:
    """The same view aimed at the middle of what stands on the ground, or above it. Returns another."""
    pitch = atan2(stands_m + height_m / 2.0 - view.camera_m, distance_m) * 180.0 / pi
    return View(view.field_deg, view.projection, view.shape, view.camera_m, pitch)


def sketch_of(
    view: View,
    distance_m: float,
    size_m: tuple[float, float],
    across: float,
    shapes: tuple[str, ...],
    sharp_m: tuple[float, float | None],
    foreground_m: float | None = None,
    shadow: tuple[OwnShadow, float] | None = None,
    stands_m: float = 0.0,
) -> Sketch:
    """Draw a framing, in numbers.

    view: of the camera; distance_m: of the subject, along the ground; size_m: its width and height; stands_m: how high above the ground; across: where it
    stands in the frame, -1 to 1; shapes: of other cuts, such as 9:16; sharp_m: from where to where it is sharp, the far end None
    where it has none; foreground_m: of what stands in front; shadow: one's own, and the heading of the camera. Returns the sketch.
    """
    wide, high = size_m
    right = _right_of(view, distance_m, across)
    box = _box(view, right, wide, high, distance_m, stands_m)
    left, top, width, height = box
    far = sharp_m[1]

    def sharp(at: float) -> bool:
        return sharp_m[0] <= at and (far is None or at <= far)

    return Sketch(
        field_deg=view.field_deg,
        shape=view.shape,
        horizon=_line(view, FAR_M, 0.0),
        ground=_line(view, distance_m, -view.camera_m),
        subject=box,
        fills=height,
        cut=tuple(
            side
            for side, out in (
                ("left", left < 0.0),
                ("right", left + width > 1.0),
                ("top", top < 0.0),
                ("bottom", top + height > 1.0),
            )
            if out
        ),
        crops=tuple(crop_of(view.shape, shape, box) for shape in shapes),
        foreground=() if foreground_m is None else _line(view, foreground_m, -view.camera_m),
        foreground_sharp=None if foreground_m is None else sharp(foreground_m),
        subject_sharp=sharp(distance_m),
        shadow=() if shadow is None else _shadow(view, *shadow),
    )


def crop_of(shape: float, cut: str, subject: tuple[float, float, float, float]) -> Crop:
    """The largest cut of another shape that follows the subject. shape: of the frame; cut: such as 9:16; subject: its box. Returns it."""
    wide, _, high = cut.partition(":")
    other = int(wide) / int(high)
    width, height = min(1.0, other / shape), min(1.0, shape / other)
    middle = (subject[0] + subject[2] / 2.0, subject[1] + subject[3] / 2.0)
    left = min(max(middle[0] - width / 2.0, 0.0), 1.0 - width)
    top = min(max(middle[1] - height / 2.0, 0.0), 1.0 - height)
    # What the frame itself cuts off is not the crop's doing.
    there = (max(0.0, subject[0]), max(0.0, subject[1]))
    end = (min(1.0, subject[0] + subject[2]), min(1.0, subject[1] + subject[3]))
    whole = left <= there[0] + 1e-9 and top <= there[1] + 1e-9
    whole = whole and end[0] <= left + width + 1e-9 and end[1] <= top + height + 1e-9
    return Crop(shape=cut, box=(left, top, width, height), whole=whole)


def sideways_m(view: View, distance_m: float, wide_m: float) -> float:
    """How far somebody may step aside from the middle before the frame cuts him. Returns metres, 0 or more."""
    return max(0.0, _right_of(view, distance_m, 1.0) - wide_m / 2.0)


def _right_of(view: View, distance_m: float, across: float) -> float:
    half = radians(view.field_deg) / 2.0
    if view.projection == "linear":
        return distance_m * across * tan(half)
    return distance_m * tan(min(across * half, 1.5)) if across >= 0 else -_right_of(view, distance_m, -across)


def _box(
    view: View, right: float, wide: float, high: float, at: float, stands_m: float = 0.0
) -> tuple[float, float, float, float]:
    feet = stands_m - view.camera_m
    points = [
        view.point(right + wide * (across - 0.5), feet + high * up, at)
        for across in (0.0, 0.5, 1.0)
        for up in (0.0, 0.5, 1.0)
    ]
    seen = [point for point in points if point is not None] or [(0.5, 0.5)]
    left, top = min(x for x, _ in seen), min(y for _, y in seen)
    return (left, top, max(x for x, _ in seen) - left, max(y for _, y in seen) - top)


def _line(view: View, ahead: float, up: float) -> tuple[Point, ...]:
    """A level line across the view, at a distance, as far as the frame reaches."""
    reach = _right_of(view, ahead, 1.0) * 1.2
    found = [view.point(reach * (2.0 * step / STEPS - 1.0), up, ahead) for step in range(STEPS + 1)]
    return tuple(point for point in found if point is not None)


def _shadow(view: View, shadow: OwnShadow, heading_deg: float) -> tuple[Point, ...]:
    """The part of one's own shadow that is in the frame: along one edge, and back along the other."""
    if shadow.from_m is None or shadow.to_m is None:
        return ()
    beside = radians(shadow.heading_deg - heading_deg)
    edges = []
    for off in (-SHOULDERS_M / 2.0, SHOULDERS_M / 2.0):
        edge = []
        for step in range(STEPS + 1):
            along = shadow.from_m + (shadow.to_m - shadow.from_m) * step / STEPS
            ahead, right = along * cos(beside) - off * sin(beside), along * sin(beside) + off * cos(beside)
            point = view.point(right, -view.camera_m, ahead)
            if point is not None:
                edge.append(point)
        edges.append(edge)
    return (*edges[0], *reversed(edges[1]))
