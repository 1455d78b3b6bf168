"""A scene from a still: a picture that was made to be looked at stands before the camera as a flat view."""

from __future__ import annotations

from functools import lru_cache

import cv2
import numpy as np

from steady_tide.core.look.drawing import Array, Sheet
from steady_tide.core.look.scene import Layer, Scene
from steady_tide.core.measuring.transfer import to_light
from steady_tide.core.quantities.errors import BadFile, Fault

STOPS = 8.0  # that a finished picture holds from its darks to white
KEPT = 4


@lru_cache(maxsize=KEPT)
def _light_of(data: bytes) -> Array:
    found = cv2.imdecode(np.frombuffer(data, dtype=np.uint8), cv2.IMREAD_COLOR)
    if found is None:
        raise BadFile(Fault("scene", "the kept still cannot be read", "Hand it over again."))
    return np.asarray(to_light(found[:, :, ::-1].astype(np.float64) / 255.0, "srgb"), dtype=np.float32)


def still_scene(id: str, name: str, data: bytes, distance_m: float) -> Scene:
    """A scene of a still. id, name: of it; data: PNG as it was kept, display-referred; distance_m: of what it shows. Returns a scene of one layer."""
    light = _light_of(data)

    def draw(sheet: Sheet) -> None:
        canvas = sheet.canvas
        rows, columns = light.shape[:2]
        x = (canvas.x + np.float32(0.5)) * np.float32(columns) - np.float32(0.5)
        y = (np.float32(0.5 * rows / columns) - canvas.y) * np.float32(columns) - np.float32(0.5)
        sheet.light[:] = cv2.remap(light, x, y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REFLECT)
        sheet.cover[:] = 1.0

    return Scene(
        id=id,
        name=name,
        stops=STOPS,
        shows="What you know already. It was exposed once before: what it has lost, no setting brings back.",
        neutral="whatever was grey",
        layers=(Layer(f"still {id}", "subject", draw, fills=True, at_m=distance_m),),
    )
