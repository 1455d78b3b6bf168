"""What an exposure makes of what moves: the spot of a point that goes along a path, or lies off the plane of focus."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float32]
Floats = NDArray[np.float64]
LONGEST_PX = 400.0  # a longer path is but a haze
LEAST_PX = 0.05
DENSE = 3  # points of a path for each pixel


def path_spot(path_px: Floats) -> Array | None:
    """The spot of a point that goes along a path at the pace of its places.

    path_px: (places, 2), right and down. Returns its share of light around its middle, an odd number of rows and columns,
    of sum 1; None where it stands.
    """
    path = path_px - (path_px.max(axis=0) + path_px.min(axis=0)) / 2.0
    reach = float(np.abs(path).max())
    if reach < LEAST_PX:
        return None
    if reach > LONGEST_PX:
        path, reach = path * (LONGEST_PX / reach), LONGEST_PX
    right, down = (int(np.ceil(side)) + 1 for side in np.abs(path).max(axis=0))
    spot = np.zeros((2 * down + 1, 2 * right + 1))
    x, y = path[:, 0] + right, path[:, 1] + down
    left, top = np.floor(x).astype(int), np.floor(y).astype(int)
    dx, dy = x - left, y - top
    for across, share_x in ((0, 1.0 - dx), (1, dx)):
        for along, share_y in ((0, 1.0 - dy), (1, dy)):
            np.add.at(
                spot,
                (np.minimum(top + along, 2 * down), np.minimum(left + across, 2 * right)),
                share_x * share_y / len(path),
            )
    return np.asarray(_trimmed(spot), dtype=np.float32)


def _trimmed(spot: Floats) -> Floats:
    """Without rows and columns at its edge that hold nothing; it stays about its middle."""
    while spot.shape[0] > 1 and not spot[[0, -1]].any():
        spot = spot[1:-1]
    while spot.shape[1] > 1 and not spot[:, [0, -1]].any():
        spot = spot[:, 1:-1]
    return spot


def disc_spot(diameter_px: float) -> Array | None:
    """The spot of a point off the plane of focus. diameter_px: of its disc. Returns as `path_spot`, None where it is sharp."""
    if diameter_px < 0.7:
        return None
    radius = min(diameter_px / 2.0, LONGEST_PX)
    reach = int(np.ceil(radius))
    rows, columns = np.mgrid[-reach : reach + 1, -reach : reach + 1]
    spot = np.clip(radius + 0.5 - np.hypot(rows, columns), 0.0, 1.0)
    return np.asarray(spot / spot.sum(), dtype=np.float32)


def spread(image: Array, spot: Array | None) -> Array:
    """An image whose every point is spread to a spot. image: (rows, columns) or with bands. Returns the same shape."""
    if spot is None:
        return image
    # The library correlates; a path turned round is what a point leaves.
    return np.asarray(cv2.filter2D(image, -1, spot[::-1, ::-1].copy(), borderType=cv2.BORDER_REFLECT), dtype=np.float32)


def softened(image: Array, sigma_px: float) -> Array:
    """An image behind a soft lens. sigma_px: of its spot. Returns the same shape."""
    if sigma_px < 0.2:
        return image
    return np.asarray(cv2.GaussianBlur(image, (0, 0), sigma_px, borderType=cv2.BORDER_REFLECT), dtype=np.float32)
