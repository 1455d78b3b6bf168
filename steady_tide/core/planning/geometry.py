"""What each picture sees for one delivery: fields, pixels, and the share of the sensor that is used."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from steady_tide.core.brief.brief import Delivery
from steady_tide.core.gear.sheet import CameraSheet, Lens
from steady_tide.core.physics.optics import (
    WATER_INDEX,
    behind_flat_port_deg,
    cropped_field_deg,
    fitted_width_px,
    focal_length_mm,
    hyperfocal_of_px_m,
    pixels_per_degree,
)
from steady_tide.core.planning.space import Bools, Floats, Ints, Offer, Pictures, Space


def focal_mm(sheet: CameraSheet, lens: Lens) -> float:
    """Focal length behind the widest field that a lens shows. Returns millimetres."""
    views = sheet.views_through(lens)
    widest = max(views, key=lambda view: lens.fields_deg.get(view.id, view.field_deg))
    width_mm = lens.sensor.width_px * lens.sensor.pixel_pitch_um / 1000.0
    return focal_length_mm(width_mm, lens.fields_deg.get(widest.id, widest.field_deg), widest.projection)


@dataclass(frozen=True)
class Geometry:
    """What each picture sees, for one delivery; arrays of shape (P,)."""

    wide_px: int
    full_deg: Floats
    field_deg: Floats
    px_per_deg: Floats
    margin_deg: Floats
    usable_w_px: Floats
    sensor_share: Floats
    photosites: Floats

    def take(self, index: Ints | Bools) -> Geometry:
        """That of some pictures. index: places or a mask, (P,). Returns fewer."""
        arrays = {name: values[index] for name, values in vars(self).items() if name != "wide_px"}
        return Geometry(wide_px=self.wide_px, **arrays)


def geometry(pictures: Pictures, sheet: CameraSheet, wide: int, high: int, flat_port: bool = False) -> Geometry:
    """Work out fields, pixels and the share of the sensor that is used.

    pictures: P of them; sheet: of the camera; wide, high: delivered frame, pixels; a phone is turned upright for an
    upright one; flat_port: whether water stands before a flat window. Returns the geometry; fields are those of the
    delivered cut: degrees, pixels per degree (delivered) at the centre, shares of the sensor's area.
    """
    if high > wide and sheet.kind == "phone":
        wide, high = high, wide
    lenses = sheet.lenses
    sensor_w = np.array([lens.sensor.width_px for lens in lenses], dtype=float)[pictures.lens]
    sensor_h = np.array([lens.sensor.height_px for lens in lenses], dtype=float)[pictures.lens]
    window = pictures.window_w_px / sensor_w
    # Of a frame that is taller or wider than the delivery only the cut is seen.
    cut = fitted_width_px(pictures.width_px, pictures.height_px, wide, high) / pictures.width_px

    def field(keeps: Floats) -> Floats:
        straight = cropped_field_deg(pictures.field_deg, keeps, "linear")
        return np.asarray(
            np.where(pictures.straight, straight, cropped_field_deg(pictures.field_deg, keeps, "equidistant"))
        )

    full, left = field(window * cut), field(window * cut * pictures.keeps_steady)
    keeps = pictures.keeps_view * pictures.keeps_steady
    captured_w = np.minimum(pictures.width_px, pictures.window_w_px * keeps * np.sqrt(pictures.sampling))
    captured_h = np.minimum(pictures.height_px, pictures.window_h_px * keeps * np.sqrt(pictures.sampling))
    fitted = fitted_width_px(pictures.window_w_px, pictures.window_h_px, wide, high) * keeps
    largest = fitted_width_px(sensor_w, sensor_h, wide, high)
    per_degree = np.asarray(
        np.where(
            pictures.straight, pixels_per_degree(wide, left, "linear"), pixels_per_degree(wide, left, "equidistant")
        ),
        dtype=float,
    )
    if flat_port:  # at the centre small angles shrink by the index
        full, left = behind_flat_port_deg(full), behind_flat_port_deg(left)
        per_degree = per_degree * WATER_INDEX
    return Geometry(
        wide_px=wide,
        full_deg=np.asarray(full),
        field_deg=np.asarray(left),
        px_per_deg=per_degree,
        margin_deg=np.asarray((full - left) / 2.0),
        usable_w_px=fitted_width_px(captured_w, captured_h, wide, high),
        sensor_share=(fitted / largest) ** 2 * pictures.sampling,
        photosites=fitted**2 * (high / wide) * pictures.sampling,
    )


def hyperfocal_of_plan_m(space: Space, delivery: Delivery, picture: int, gate: int, circle_px: float) -> float:
    """Nearest focus at which infinity is still sharp in a plan's own picture, at its own f-number.

    space: of the camera; delivery: of the brief; picture, gate: that are chosen; circle_px: delivered pixels over which a
    point may spread. Returns metres.
    """
    offer = space.offer
    seen = geometry_of(offer, delivery.width, delivery.height, space.flat_port)
    lens = int(offer.pictures.lens[picture])
    opening_mm, focal = float(offer.openings_mm[gate]), float(offer.focal_mm[lens])
    return float(hyperfocal_of_px_m(opening_mm, focal, float(seen.px_per_deg[picture]), circle_px))


MOST_SEEN = 64


@lru_cache(maxsize=MOST_SEEN)
def geometry_of(offer: Offer, wide: int, high: int, flat_port: bool) -> Geometry:
    """That of all pictures of a camera, worked out once for each delivered frame. offer: of it; the rest as in
    `geometry`."""
    return geometry(offer.pictures, offer.sheet, wide, high, flat_port)
