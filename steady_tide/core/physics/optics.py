"""Field of view and how many pixels a degree gets."""

from __future__ import annotations

from typing import Literal

import numpy as np

from steady_tide.core.quantities.stops import Number

Projection = Literal["linear", "equidistant"]
WATER_INDEX = 1.34  # of refraction; things behind a flat window look nearer by about this


def kept_share(field_deg: float, widest_deg: float, lens: Projection, view: Projection) -> float:
    """Linear share of an image's width that a view uses: its angles against those of the whole.

    field_deg: of the view; widest_deg: of the widest view, which uses all; lens, view: how each is drawn. Returns a
    share. Behind a lens that bends, angles lie evenly along the width, also for a view that straightens them.
    """
    if lens == "linear" and view == "linear":
        return float(np.tan(np.radians(field_deg) / 2.0) / np.tan(np.radians(widest_deg) / 2.0))
    return field_deg / widest_deg


def cropped_field_deg(field_deg: Number, keeps: Number, projection: Projection) -> Number:
    """Field that is left after a crop about the centre.

    field_deg: field before the crop, degrees; keeps: linear share of the width that is left, 0 to 1;
    projection: linear keeps straight lines straight (r = f tan a), equidistant bends them (r = f a).
    Returns degrees. Valid below 180 degrees for linear.
    """
    if projection == "equidistant":
        return np.asarray(field_deg) * keeps
    return 2.0 * np.degrees(np.arctan(np.asarray(keeps) * np.tan(np.radians(field_deg) / 2.0)))


def behind_flat_port_deg(field_deg: Number) -> Number:
    """Field under water that is left of a field in air behind a flat window, sin(air) = n sin(water).

    field_deg: in air, across the frame, degrees, below 180. Returns degrees.
    """
    half = np.radians(np.asarray(field_deg, dtype=float) / 2.0)
    return 2.0 * np.degrees(np.arcsin(np.sin(half) / WATER_INDEX))


def in_air_deg(field_deg: Number) -> Number:
    """Field in air of what a flat window shows under water; the other way round of `behind_flat_port_deg`."""
    half = np.radians(np.asarray(field_deg, dtype=float) / 2.0)
    return 2.0 * np.degrees(np.arcsin(np.minimum(1.0, np.sin(half) * WATER_INDEX)))


def pixels_per_degree(width_px: Number, field_deg: Number, projection: Projection) -> Number:
    """Pixels across a degree in the centre of the frame.

    width_px: width of the frame, pixels; field_deg: field across that width, degrees; projection: as
    in `cropped_field_deg`. Returns pixels per degree.
    """
    if projection == "equidistant":
        return np.asarray(width_px) / field_deg
    return np.asarray(width_px) / 2.0 / np.tan(np.radians(field_deg) / 2.0) * (np.pi / 180.0)


def fitted_width_px(width_px: Number, height_px: Number, wide: float, high: float) -> Number:
    """Width of the largest frame of one shape inside another.

    width_px, height_px: the frame at hand, pixels; wide, high: the shape wanted, any unit.
    Returns pixels.
    """
    return np.minimum(width_px, np.asarray(height_px) * (wide / high))


def linear_shortfall_stops(wanted_px: Number, have_px: Number) -> Number:
    """How far a width falls short of the wanted one; a surplus counts as nothing.

    wanted_px, have_px: widths, pixels. Returns stops of linear ratio, 0 or more.
    """
    return np.maximum(0.0, np.log2(np.asarray(wanted_px) / have_px))


GREEN_M = 550e-9


def focal_length_mm(sensor_width_mm: float, field_deg: float, projection: Projection) -> float:
    """Focal length of a lens from the field that it shows.

    sensor_width_mm: width behind the lens, millimetres; field_deg: across it, degrees; projection: as in
    `cropped_field_deg`. Returns millimetres.
    """
    if projection == "equidistant":
        return float(sensor_width_mm / np.radians(field_deg))
    return float(sensor_width_mm / 2.0 / np.tan(np.radians(field_deg) / 2.0))


def blur_spot_deg(opening_mm: Number, focus_m: Number, distance_m: Number) -> Number:
    """Angle over which a point off the plane of focus spreads.

    opening_mm: focal length over f-number, millimetres; focus_m, distance_m: from the lens, metres.
    Returns degrees.
    """
    apart = np.abs(1.0 / np.asarray(focus_m, dtype=float) - 1.0 / np.asarray(distance_m, dtype=float))
    return np.degrees(np.asarray(opening_mm) / 1000.0 * apart)


def diffraction_deg(opening_mm: Number) -> Number:
    """Width at half height of the spot that a small opening makes of a point, 1.03 wavelengths over the opening.

    opening_mm: focal length over f-number, millimetres. Returns degrees.
    """
    return np.degrees(1.03 * GREEN_M / (np.asarray(opening_mm) / 1000.0))


def hyperfocal_m(focal_mm: float, f_number: float, circle_mm: float) -> float:
    """Nearest focus at which infinity is still sharp, f^2 / (N c) + f.

    focal_mm: focal length; circle_mm: circle of confusion, millimetres. Returns metres.
    """
    return (focal_mm**2 / (f_number * circle_mm) + focal_mm) / 1000.0


def hyperfocal_of_px_m(opening_mm: Number, focal_mm: Number, px_per_deg: Number, circle_px: float) -> Number:
    """Nearest focus at which infinity is still sharp in a delivered picture, opening / angle of the circle + f.

    opening_mm: focal length over f-number, millimetres; focal_mm: focal length, millimetres; px_per_deg: delivered pixels
    per degree; circle_px: circle of confusion, delivered pixels; arrays broadcast. Returns metres. It is `hyperfocal_m`
    for a circle that is given as an angle.
    """
    return (np.asarray(opening_mm) / np.radians(circle_px / np.asarray(px_per_deg)) + focal_mm) / 1000.0


def depth_of_field_m(focal_mm: float, f_number: float, circle_mm: float, focus_m: float) -> tuple[float, float]:
    """Nearest and farthest distance that are sharp.

    focal_mm: focal length; circle_mm: circle of confusion, millimetres; focus_m: where it is focused, metres.
    Returns metres, the far end infinite from the hyperfocal distance on. Valid for focus beyond the focal length.
    """
    hyperfocal, focal = hyperfocal_m(focal_mm, f_number, circle_mm), focal_mm / 1000.0
    near = focus_m * (hyperfocal - focal) / (hyperfocal + focus_m - 2.0 * focal)
    far = np.inf if focus_m >= hyperfocal else focus_m * (hyperfocal - focal) / (hyperfocal - focus_m)
    return float(near), float(far)


def width_at_m(distance_m: Number, field_deg: Number) -> Number:
    """How much a frame shows from side to side.

    distance_m: from the lens, metres; field_deg: across the frame, below 180 degrees. Returns metres, measured
    straight across at that distance.
    """
    return 2.0 * np.asarray(distance_m) * np.tan(np.radians(np.asarray(field_deg) / 2.0))


def distance_for_width_m(width_m: Number, field_deg: Number) -> Number:
    """From how far a width just fits into the frame. Parameters as in `width_at_m`. Returns metres."""
    return np.asarray(width_m) / (2.0 * np.tan(np.radians(np.asarray(field_deg) / 2.0)))
