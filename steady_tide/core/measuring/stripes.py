"""Patterns over what is blown and what has drowned, which can be told apart without colour."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

STRIPES = 8  # pixels from one to the next
DARK, BRIGHT = 0, 235


def striped(
    image: NDArray[np.uint8], blown: NDArray[np.bool_], drowned: NDArray[np.bool_], apart_px: int = STRIPES
) -> NDArray[np.uint8]:
    """A picture with dark stripes falling to the right over what is blown, and bright ones rising over what has drowned.

    image: as shown, (rows, columns, 3); blown, drowned: (rows, columns); apart_px: from stripe to stripe. Returns another
    picture.
    """
    rows, columns = np.indices(image.shape[:2])
    falling = (columns - rows) % apart_px < apart_px // 3
    rising = (columns + rows) % apart_px < apart_px // 4
    found = image.copy()
    found[blown & falling] = DARK
    found[drowned & rising] = BRIGHT
    return found
