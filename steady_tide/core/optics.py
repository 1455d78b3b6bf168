"""Field of view and how many pixels a degree gets."""

from __future__ import annotations

from typing import Literal

import numpy as np

from steady_tide.core.stops import Number

Projection = Literal["linear", "equidistant"]


def cropped_field_deg(field_deg: Number, keeps: Number, projection: Projection) -> Number:
    """Field that is left after a crop about the centre.

    field_deg: field before the crop, degrees; keeps: linear share of the width that is left, 0 to 1;
    projection: linear keeps straight lines straight (r = f tan a), equidistant bends them (r = f a).
    Returns degrees. Valid below 180 degrees for linear.
    """
    if projection == "equidistant":
        return np.asarray(field_deg) * keeps
    return 2.0 * np.degrees(np.arctan(np.asarray(keeps) * np.tan(np.radians(field_deg) / 2.0)))


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
