"""Spots on the lens: what stays where it is in the frame while the picture moves.

Detail of what is filmed goes by and averages out over a clip; a drop or grain before the lens does not. Each place's mean
over its own deviation tells them apart.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float32]

LEAST_LOOKS = 10
SURE = 5.0  # of the error of a mean
LEAST_CODE = 0.015
ALIKE = 0.85  # of the looks, in which a spot is darker, or brighter, than what is about it
COARSE_SHARE, FINE_SHARE = 0.06, 0.008  # of the width: what counts as about it, and what is smoothed away
LEAST_AREA, MOST_AREA = 0.00006, 0.02  # of the frame
LEAST_WAY = 0.25  # of the frame's width that the picture has to move


@dataclass
class SpotSeries:
    """Sums over the small frames that were looked at."""

    total: Array | None = None
    squares: Array | None = None
    darker: Array | None = None
    count: int = 0

    def add(self, small: Array) -> None:
        """Take a frame in. small: luma of the whole frame as shares, made smaller."""
        wide = small.shape[1]
        smooth = cv2.GaussianBlur(small, (0, 0), max(0.8, FINE_SHARE * wide))
        local = smooth - cv2.GaussianBlur(small, (0, 0), COARSE_SHARE * wide)
        if self.total is None or self.squares is None or self.darker is None:
            self.total, self.squares, self.darker = np.zeros_like(local), np.zeros_like(local), np.zeros_like(local)
        self.total += local
        self.squares += local**2
        self.darker += local < 0.0
        self.count += 1

    def found(self, way_share: float) -> int | None:
        """How many spots there are. way_share: how far the picture moved in all, of the frame's width. Returns None where
        it moved too little, or was looked at too seldom, to tell."""
        if self.total is None or self.squares is None or self.darker is None:
            return None
        if self.count < LEAST_LOOKS or way_share < LEAST_WAY:
            return None
        mean = self.total / self.count
        error = np.sqrt(np.maximum(self.squares / self.count - mean**2, 1e-8) / self.count)
        alike = np.maximum(self.darker, self.count - self.darker) >= ALIKE * self.count
        stays = (np.abs(mean) > LEAST_CODE) & (np.abs(mean) > SURE * error) & alike
        # A frame's own edge has no surroundings.
        rim = max(1, round(COARSE_SHARE * mean.shape[1] / 2.0))
        stays[:rim], stays[-rim:], stays[:, :rim], stays[:, -rim:] = False, False, False, False
        many, _, facts, _ = cv2.connectedComponentsWithStats(stays.astype(np.uint8))
        areas = facts[1:many, cv2.CC_STAT_AREA] / mean.size
        return int(((areas >= LEAST_AREA) & (areas <= MOST_AREA)).sum())
