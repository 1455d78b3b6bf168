"""Noise by photon transfer: differences of parts that stand still from one frame to the next."""

from __future__ import annotations

from dataclasses import dataclass, field
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.measuring.transfer import Transfer, slope_at, to_light
from steady_tide.core.noise import GREY_REFLECTANCE
from steady_tide.core.rushes.measures import Doubt, NoiseAt, NoiseMeasure

Array = NDArray[np.float32]
Floats = NDArray[np.float64]

BLOCK = 16
LEAST_BLOCKS = 24
MOST_PATTERN = 1.6  # of a difference's coarse part over what white noise has: more is movement
LEVELS = np.geomspace(0.02, 0.7, 11)
LEAST_CODE = 0.0006  # deviation of codes below which there is no noise but rounding


@dataclass
class NoiseBlocks:
    """Blocks that stood still: their level and the variance of one frame, both in linear luminance."""

    levels: list[Floats] = field(default_factory=list)
    variances: list[Floats] = field(default_factory=list)
    looked: int = 0
    quiet: int = 0  # pairs without any difference

    def add(self, before: Array, after: Array, transfer: Transfer) -> None:
        """Take a pair of frames in. before, after: luma as shares, of one shape."""
        self.looked += 1
        rows, columns = before.shape[0] // BLOCK, before.shape[1] // BLOCK
        if rows == 0 or columns == 0:
            return
        one, other = (_blocks(frame, rows, columns) for frame in (before, after))
        apart = other - one
        deviation = apart.std(axis=1)
        if float(np.median(deviation)) < LEAST_CODE:
            self.quiet += 1
            return
        # What moves leaves a coarse pattern in the difference, noise does not.
        coarse = apart.reshape(-1, 4, 4, 4, 4).mean(axis=(2, 4)).reshape(len(apart), 16).std(axis=1)
        pattern = 4.0 * coarse / np.maximum(deviation, 1e-9)
        shifted = np.abs(apart.mean(axis=1)) * BLOCK / np.maximum(deviation, 1e-9)
        middle = (one + other) / 2.0
        # Texture is told from noise by what both frames share; flat parts stand still however the camera moves.
        texture = np.sqrt(np.maximum(middle.var(axis=1) - deviation**2 / 4.0, 0.0))
        still = (pattern < MOST_PATTERN) & (shifted < 4.0 * MOST_PATTERN) & (texture < 6.0 * deviation + 0.01)
        still &= (middle.min(axis=1) > 0.01) & (middle.max(axis=1) < 0.98)
        if not still.any():
            return
        codes = middle[still].mean(axis=1).astype(np.float64)
        slopes = np.array([slope_at(float(code), transfer) for code in codes])
        self.levels.append(np.asarray(to_light(codes, transfer)))
        self.variances.append((deviation[still].astype(np.float64) * slopes) ** 2 / 2.0)


def _blocks(frame: Array, rows: int, columns: int) -> Array:
    whole = frame[: rows * BLOCK, : columns * BLOCK]
    return np.asarray(whole.reshape(rows, BLOCK, columns, BLOCK).transpose(0, 2, 1, 3).reshape(-1, BLOCK * BLOCK))


def noise_of(blocks: NoiseBlocks, doubts: list[Doubt]) -> NoiseMeasure:
    """Signal to noise at grey, by a line through variance over level. Source: photon-transfer."""
    if blocks.looked and blocks.quiet == blocks.looked:
        doubts.append(Doubt(field="noise.snr_grey", why="frames do not differ at all; there is no noise to measure"))
        return NoiseMeasure()
    if not blocks.levels or sum(map(len, blocks.levels)) < LEAST_BLOCKS:
        doubts.append(Doubt(field="noise.snr_grey", why="too little of the picture stands still"))
        return NoiseMeasure()
    levels, variances = np.concatenate(blocks.levels), np.concatenate(blocks.variances)
    found, at = [], []
    for low, high in pairwise(LEVELS):
        inside = (levels >= low) & (levels < high)
        if inside.sum() >= LEAST_BLOCKS / 3:
            found.append(float(np.median(variances[inside])))
            at.append(float(np.median(levels[inside])))
    if not found:
        doubts.append(Doubt(field="noise.snr_grey", why="nothing of a usable brightness stands still"))
        return NoiseMeasure()
    near = (levels > GREY_REFLECTANCE / 2.5) & (levels < GREY_REFLECTANCE * 2.5)
    by_level = tuple(
        NoiseAt(level=level, snr=level / float(np.sqrt(variance))) for level, variance in zip(at, found, strict=True)
    )
    if near.sum() < LEAST_BLOCKS:
        doubts.append(Doubt(field="noise.snr_grey", why="nothing near mid grey stands still; see the levels"))
        return NoiseMeasure(by_level=by_level)
    # Variance at grey from those about it, scaled along shot noise, which grows with the level.
    scaled = variances[near] * GREY_REFLECTANCE / levels[near]
    variance = float(np.median(scaled))
    snr = GREY_REFLECTANCE / float(np.sqrt(variance))
    spread = float(np.median(np.abs(scaled - variance))) * 1.4826 / variance
    return NoiseMeasure(snr_grey=snr, snr_error=snr * 0.5 * spread / float(np.sqrt(near.sum())), by_level=by_level)
