"""A camera with what is put before its lenses: each attachment makes another lens of the one behind it."""

from __future__ import annotations

from math import atan, degrees, radians, tan

from steady_tide.core.gear.items import Attachment
from steady_tide.core.gear.sheet import CameraSheet, Lens, View
from steady_tide.core.quantities.identity_cache import once_for_each

BEFORE = "+"  # between a lens and what is put before it, in the id of both together
WIDEST_DEG = 179.0


def lens_behind(lens: str) -> str:
    """The camera's own lens of one that may have something before it. lens: id. Returns an id."""
    return lens.partition(BEFORE)[0]


def before_lens(lens: str) -> str:
    """What is put before a lens. lens: id. Returns an id, empty for nothing."""
    return lens.partition(BEFORE)[2]


def together(lens: str, attachment: str | None) -> str:
    """The id of a lens with what is put before it. lens, attachment: ids. Returns an id."""
    return f"{lens}{BEFORE}{attachment}" if attachment else lens


@once_for_each
def with_attachments(sheet: CameraSheet, attachments: tuple[Attachment, ...]) -> CameraSheet:
    """A camera whose lenses can have something put before them.

    sheet: the camera; attachments: that fit it. Returns a sheet in which each pair of lens and attachment is a lens of
    its own, with the modes of the lens behind it.
    """
    if not attachments:
        return sheet
    lenses, modes = list(sheet.lenses), list(sheet.modes)
    for piece in attachments:
        for lens in sheet.lenses:
            if lens.id in (piece.lenses or (sheet.lenses[0].id,)):
                made = _through(sheet, lens, piece)
                lenses.append(made)
                modes += [mode.model_copy(update={"lens": made.id}) for mode in sheet.modes if mode.lens == lens.id]
    return sheet.model_copy(update={"lenses": tuple(lenses), "modes": tuple(modes)})


def _through(sheet: CameraSheet, lens: Lens, piece: Attachment) -> Lens:
    """A lens with something before it. A close-up lens of D dioptres brings what is at infinity to 1/D; a converter
    scales the focal length and leaves the f-number. What it takes of the light is counted where glass is, in the
    exposure. Source: hecht-2017."""
    fields = {
        view.id: _field_deg(lens.fields_deg.get(view.id, view.field_deg), view, piece.factor) for view in sheet.views
    }
    near, far = lens.closest_m, lens.farthest_m
    if piece.dioptres > 0.0:
        near = 1.0 / (piece.dioptres + 1.0 / near) if near > 0.0 else 0.0
        far = 1.0 / (piece.dioptres + (1.0 / far if far else 0.0))
    return lens.model_copy(
        update={
            "id": together(lens.id, piece.id),
            "name": f"{lens.name}, {piece.name}",
            "fields_deg": fields,
            "closest_m": near,
            "farthest_m": far,
            "softer_stops": lens.softer_stops + piece.softer_stops,
        }
    )


def _field_deg(field_deg: float, view: View, factor: float) -> float:
    if view.projection == "linear":
        return degrees(2.0 * atan(tan(radians(field_deg) / 2.0) / factor))
    return min(WIDEST_DEG, field_deg / factor)
