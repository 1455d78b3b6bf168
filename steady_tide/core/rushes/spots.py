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
SURE = 6.0  # of the error of a mean
BLIND_STOPS = 0.5  # a spot fainter than this must show, or nothing can be told
LEAST_STOPS = 0.12  # of code, against what is about it
FLOOR = 0.02  # of the code range, below which a picture is black
ALIKE = 0.9  # of the looks, in which a spot is darker, or brighter, than what is about it
COARSE_SHARE, FINE_SHARE = 0.06, 0.008  # of the width: what counts as about it, and what is smoothed away
LEAST_AREA, MOST_AREA = 0.00006, 0.02  # of the frame
LEAST_STEP = 0.06  # of the frame's width that the picture has to move from one look to the next


@dataclass
class SpotSeries:
    """Sums over the small frames that were looked at."""

    total: Array | None = None
    squares: Array | None = None
    darker: Array | None = None
    count: int = 0
    _at: tuple[float, float] | None = None

    def wants(self, at: tuple[float, float], wide: int) -> bool:
        """Whether the picture has moved on far enough for another look. at: where it is, pixels from where it began; wide:
        the frame."""
        return self._at is None or float(np.hypot(at[0] - self._at[0], at[1] - self._at[1])) >= LEAST_STEP * wide

    def add(self, small: Array, at: tuple[float, float]) -> None:
        """Take a frame in. small: luma of the whole frame as shares, made smaller; at: where the picture is."""
        self._at = at
        wide = small.shape[1]
        # A drop takes a share of whatever is behind it, so that ratios are compared.
        ratios = np.log2(np.maximum(small, 0.0) + FLOOR)
        smooth = cv2.GaussianBlur(ratios, (0, 0), max(0.8, FINE_SHARE * wide))
        local = smooth - cv2.GaussianBlur(ratios, (0, 0), COARSE_SHARE * wide)
        if self.total is None or self.squares is None or self.darker is None:
            self.total, self.squares, self.darker = np.zeros_like(local), np.zeros_like(local), np.zeros_like(local)
        self.total += local
        self.squares += local**2
        self.darker += local < 0.0
        self.count += 1

    def found(self) -> int | None:
        """How many spots there are. Returns None where the picture moved too little, or is too rough, to tell."""
        if self.total is None or self.squares is None or self.darker is None:
            return None
        if self.count < LEAST_LOOKS:
            return None
        mean = self.total / self.count
        error = np.sqrt(np.maximum(self.squares / self.count - mean**2, 1e-8) / self.count)
        if SURE * float(np.median(error)) > BLIND_STOPS:
            return None
        alike = np.maximum(self.darker, self.count - self.darker) >= ALIKE * self.count
        stays = (np.abs(mean) > LEAST_STOPS) & (np.abs(mean) > SURE * error) & alike
        # A frame's own edge has no surroundings.
        rim = max(1, round(COARSE_SHARE * mean.shape[1] / 2.0))
        stays[:rim], stays[-rim:], stays[:, :rim], stays[:, -rim:] = False, False, False, False
        many, _, facts, _ = cv2.connectedComponentsWithStats(stays.astype(np.uint8))
        areas = facts[1:many, cv2.CC_STAT_AREA] / mean.size
        return int(((areas >= LEAST_AREA) & (areas <= MOST_AREA)).sum())
