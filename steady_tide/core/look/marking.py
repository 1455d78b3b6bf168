"""Patterns over what is blown and what has drowned, which can be told apart without colour."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.look.tones import Curve
from steady_tide.core.measuring.frame_measures import FULL, Array, most_of

STRIPES = 8  # pixels from one to the next
DARK, BRIGHT = 0, 235


def darkest_code(curve: Curve) -> float:
    """Code of a profile's darkest usable tone."""
    return float(curve.record(np.array(curve.black)))


def marked(image: NDArray[np.uint8], codes: Array, curve: Curve) -> NDArray[np.uint8]:
    """A picture with dark stripes falling to the right over what is blown, and bright ones rising over what has drowned.

    image: as shown; codes: of the file. Returns another picture.
    """
    rows, columns = np.indices(image.shape[:2])
    falling, rising = (columns - rows) % STRIPES < STRIPES // 3, (columns + rows) % STRIPES < STRIPES // 4
    found = image.copy()
    most = most_of(codes)
    found[(most >= FULL) & falling] = DARK
    found[(most <= darkest_code(curve)) & rising] = BRIGHT
    return found
