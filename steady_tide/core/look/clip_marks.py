"""What is blown and what has drowned in a drawn frame, marked by pattern."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.look.tones import Curve
from steady_tide.core.measuring.frame_measures import FULL, Array, most_of
from steady_tide.core.measuring.stripes import striped


def darkest_code(curve: Curve) -> float:
    """Code of a profile's darkest usable tone."""
    return float(curve.record(np.array(curve.black)))


def marked(image: NDArray[np.uint8], codes: Array, curve: Curve) -> NDArray[np.uint8]:
    """A picture with stripes over what is blown and what has drowned. image: as shown; codes: of the file. Returns another."""
    most = most_of(codes)
    return striped(image, most >= FULL, most <= darkest_code(curve))
