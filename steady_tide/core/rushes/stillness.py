"""Noise by photon transfer: differences of parts that stand still from one frame to the next."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.measuring.transfer import Transfer, slope_at, to_light
from steady_tide.core.physics.noise import GREY_REFLECTANCE
from steady_tide.core.rushes.measures import Doubt, NoiseAt, NoiseMeasure

Array = NDArray[np.float32]
Floats = NDArray[np.float64]

BLOCK = 16
LEAST_BLOCKS = 24
SMOOTH_GRAIN = 1.15  # noise that is this much coarser than grain by grain was smoothed
FLATTEST, FLATTEST_DEVIATIONS = 15.0, 1.04  # percentile that counts while the camera moves, and where it lies
MOST_PATTERN = 1.6  # of a difference's coarse part over what white noise has: more is movement
LEVELS = np.geomspace(0.02, 0.7, 11)
LEAST_CODE = 0.0006  # deviation of codes below which there is no noise but rounding


@dataclass
class NoiseBlocks:
    """Blocks that stood still: their level and the variance of one frame, both in linear luminance."""

    levels: list[Floats] = field(default_factory=list)
    variances: list[Floats] = field(default_factory=list)
    stood: list[bool] = field(default_factory=list)  # whether the camera did, for each pair
    grains: list[float] = field(default_factory=list)  # how coarse the noise of a pair is, 1 for grain by grain
    looked: int = 0
    quiet: int = 0  # pairs without any difference

    def add(self, before: Array, after: Array, transfer: Transfer, still: bool) -> None:
        """Take a pair of frames in. before, after: luma as shares, of one shape; still: whether the camera stood."""
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
        chosen = (pattern < MOST_PATTERN) & (shifted < 4.0 * MOST_PATTERN) & (texture < 6.0 * deviation + 0.01)
        chosen &= (middle.min(axis=1) > 0.01) & (middle.max(axis=1) < 0.98) & (deviation >= LEAST_CODE)
        if not chosen.any():
            return
        codes = middle[chosen].mean(axis=1).astype(np.float64)
        slopes = np.array([slope_at(float(code), transfer) for code in codes])
        self.levels.append(np.asarray(to_light(codes, transfer)))
        self.variances.append((deviation[chosen].astype(np.float64) * slopes) ** 2 / 2.0)
        self.stood.append(still)
        self.grains.append(float(np.median(pattern[chosen])))


def _blocks(frame: Array, rows: int, columns: int) -> Array:
    whole = frame[: rows * BLOCK, : columns * BLOCK]
    return np.asarray(whole.reshape(rows, BLOCK, columns, BLOCK).transpose(0, 2, 1, 3).reshape(-1, BLOCK * BLOCK))


def _usable(blocks: NoiseBlocks, doubts: list[Doubt]) -> tuple[Floats, Floats, Callable[[Floats], float]]:
    """Levels and variances that count, and how their usual value is found.

    While the camera moves fine texture comes and goes as noise does. It only adds, so that the flattest blocks tell; the
    deviation of a variance of so many samples is known, and what the low place in their order takes off is given back.
    """
    if any(blocks.stood):
        kept = [number for number, stood in enumerate(blocks.stood) if stood]
        chosen = [blocks.levels[number] for number in kept], [blocks.variances[number] for number in kept]
        if sum(map(len, chosen[0])) >= LEAST_BLOCKS:
            return np.concatenate(chosen[0]), np.concatenate(chosen[1]), lambda values: float(np.median(values))
    doubts.append(Doubt(field="noise.by_level", why="the camera moves; noise is told from the flattest parts alone"))
    back = 1.0 + FLATTEST_DEVIATIONS * np.sqrt(2.0 / (BLOCK * BLOCK))
    return (
        np.concatenate(blocks.levels),
        np.concatenate(blocks.variances),
        lambda values: float(np.percentile(values, FLATTEST)) * back,
    )


def noise_of(blocks: NoiseBlocks, doubts: list[Doubt]) -> NoiseMeasure:
    """Signal to noise at grey, by a line through variance over level. Source: photon-transfer."""
    if blocks.looked and blocks.quiet == blocks.looked:
        doubts.append(Doubt(field="noise.snr_grey", why="frames do not differ at all; there is no noise to measure"))
        return NoiseMeasure()
    if not blocks.levels or sum(map(len, blocks.levels)) < LEAST_BLOCKS:
        doubts.append(Doubt(field="noise.snr_grey", why="too little of the picture stands still"))
        return NoiseMeasure()
    levels, variances, usual = _usable(blocks, doubts)
    found, at = [], []
    for low, high in pairwise(LEVELS):
        inside = (levels >= low) & (levels < high)
        if inside.sum() >= LEAST_BLOCKS / 3:
            found.append(usual(variances[inside]))
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
    variance = usual(scaled)
    snr = GREY_REFLECTANCE / float(np.sqrt(variance))
    if float(np.median(blocks.grains)) > SMOOTH_GRAIN:
        doubts.append(
            Doubt(
                field="noise.snr_grey",
                why="its noise is no longer grain by grain; the camera smoothed it, and the sensor's own ratio is lower",
            )
        )
    spread = float(np.median(np.abs(scaled - variance))) * 1.4826 / variance
    return NoiseMeasure(snr_grey=snr, snr_error=snr * 0.5 * spread / float(np.sqrt(near.sum())), by_level=by_level)
