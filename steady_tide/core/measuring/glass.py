"""What a piece of glass takes from the light: two frames of one scene, with it and without."""

from __future__ import annotations

from typing import Annotated

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from steady_tide.core.measuring.transfer import Transfer, to_light
from steady_tide.core.quantities.errors import BadFile, Fault
from steady_tide.core.quantities.frozen import Frozen

Floats = NDArray[np.float64]
LUMINANCE = np.array([0.2126, 0.7152, 0.0722])  # of red, green, blue; source: bt709
TILES = 8
MOST_CLIPPED = 0.002
FEWEST_CODES = 12.0  # mean codes below which a frame is too dark to be told
UNEVEN_STOPS = 0.3


class GlassMeasured(Frozen):
    """Density and colour of a piece of glass."""

    stops: float
    error_stops: Annotated[float, Field(description="one standard error, from tile to tile")]
    band_stops: Annotated[tuple[float, float, float], Field(description="taken from red, green, blue")]
    red_shift: Annotated[float, Field(description="change of red against green, share")]
    blue_shift: Annotated[float, Field(description="change of blue against green, share")]
    uneven_stops: Annotated[float, Field(description="densest tile less the thinnest")]
    exposure_stops: Annotated[float, Field(description="how much more the frame with the glass was exposed")]
    doubts: tuple[str, ...]


def measure_glass(
    with_glass: Floats, without: Floats, transfer: Transfer, codes: int, exposure_stops: float = 0.0
) -> GlassMeasured:
    """Compare two frames of one scene under steady light.

    with_glass, without: shares of the largest code, (rows, columns, 3); transfer: of the files; codes: how many
    codes they have; exposure_stops: how much more the frame with the glass was exposed. Returns the glass.
    Raises BadFile where the frames differ in size, or one is clipped or too dark.
    """
    if with_glass.shape != without.shape:
        raise BadFile(Fault("the frames", "differ in size", "Take both in one mode."))
    for name, frame in (("the frame with the glass", with_glass), ("the frame without it", without)):
        clipped = float((frame >= 1.0 - 0.5 / codes).mean())
        if clipped > MOST_CLIPPED:
            raise BadFile(Fault(name, f"is clipped in {clipped:.1%} of its codes", "Take both again, less exposed."))
        if float(frame.mean()) * (codes - 1) < FEWEST_CODES:
            raise BadFile(
                Fault(name, "is too dark to be told from black", "Expose that frame longer, and say by how many stops.")
            )
    behind, bare = _tiles(to_light(with_glass, transfer)), _tiles(to_light(without, transfer))
    lost = np.log2(np.maximum(bare @ LUMINANCE, 1e-9) / np.maximum(behind @ LUMINANCE, 1e-9)) + exposure_stops
    means_behind, means_bare = behind.mean(axis=0), bare.mean(axis=0)
    bands = np.log2(means_bare / means_behind) + exposure_stops
    stops = float(np.log2((means_bare @ LUMINANCE) / (means_behind @ LUMINANCE)) + exposure_stops)
    kept = means_behind / means_bare
    uneven = float(lost.max() - lost.min())
    doubts = []
    if stops < 0.05:
        doubts.append("The glass takes no light. Are the frames the right way round?")
    if uneven > UNEVEN_STOPS:
        doubts.append(
            f"It is uneven by {uneven:.1f} stops across the frame: a variable ND past its useful range, a vignette, or light that moved."
        )
    return GlassMeasured(
        stops=stops,
        error_stops=float(lost.std() / np.sqrt(lost.size)),
        band_stops=(float(bands[0]), float(bands[1]), float(bands[2])),
        red_shift=float(kept[0] / kept[1] - 1.0),
        blue_shift=float(kept[2] / kept[1] - 1.0),
        uneven_stops=uneven,
        exposure_stops=exposure_stops,
        doubts=tuple(doubts),
    )


def _tiles(light: Floats) -> Floats:
    """Means of tiles. light: (rows, columns, 3). Returns (tiles, 3)."""
    rows, columns = light.shape[0] // TILES * TILES, light.shape[1] // TILES * TILES
    if not rows or not columns:
        raise BadFile(Fault("the frames", f"are smaller than {TILES} pixels", "Use whole frames."))
    cut = light[:rows, :columns].reshape(TILES, rows // TILES, TILES, columns // TILES, 3)
    return np.asarray(cut.mean(axis=(1, 3)).reshape(-1, 3))
