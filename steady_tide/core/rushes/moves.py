"""How the picture moves: shake, pan, blur along the movement, repeated frames."""

from __future__ import annotations

from dataclasses import dataclass, field

import cv2
import numpy as np
from numpy.typing import NDArray

from steady_tide.core.rushes.light import longest_piece
from steady_tide.core.rushes.measures import CadenceMeasure, Doubt, MotionMeasure, SharpnessMeasure

Array = NDArray[np.float32]
Floats = NDArray[np.float64]

PATCH = 256  # side of what is correlated, pixels of a half-size picture
LEAST_RESPONSE = 0.06
SAME = 0.35  # of the usual difference between frames: less is the same frame again
LEAST_CODE = 2e-4  # mean difference of frames that are the same but for rounding
PAN_PX, PAN_SHARE = 1.0, 0.75  # movement that goes one way
LONGEST_BLUR = 100.0
WEDGE, FINEST = 0.25, 0.40  # half the width of what is compared, as a tangent; cycles a pixel
UNEVEN_COSTS = 0.004  # of a scene with more detail one way, an octave of it, squared


@dataclass
class MoveSeries:
    """What is kept of each frame: its shift from the one before, and how far they differ; spectra of some."""

    shifts: list[tuple[float, float] | None] = field(default_factory=list)
    differs: list[float] = field(default_factory=list)
    spectra: list[tuple[int, Array]] = field(default_factory=list)
    _before: Array | None = None
    _window: Array | None = None

    def add(self, small: Array, near: Array | None) -> None:
        """Take a frame in. small: half-size luma about its middle, (PATCH, PATCH); near: luma at full size about its
        middle, where its spectrum is wanted."""
        if self._window is None:
            self._window = np.asarray(cv2.createHanningWindow((small.shape[1], small.shape[0]), cv2.CV_32F))
        if self._before is None:
            self.shifts.append(None)
            self.differs.append(np.nan)
        else:
            self.differs.append(float(np.abs(small - self._before).mean()))
            self.shifts.append(self._shift(self._before, small))
        if near is not None:
            self.spectra.append((len(self.shifts) - 1, _spectrum(near)))
        self._before = small

    def _shift(self, before: Array, after: Array) -> tuple[float, float] | None:
        if float(before.std()) < 2e-3:
            return None
        assert self._window is not None
        # The library windows what it is handed in place.
        (x, y), response = cv2.phaseCorrelate(before.copy(), after.copy(), self._window)
        return (2.0 * x, 2.0 * y) if response > LEAST_RESPONSE else None


def _spectrum(near: Array) -> Array:
    side = min(near.shape)
    top, left = (near.shape[0] - side) // 2, (near.shape[1] - side) // 2
    near = near[top : top + side, left : left + side]
    window = np.hanning(side).astype(np.float32)
    flat = (near - near.mean()) * window[:, None] * window[None, :]
    return np.asarray(np.abs(np.fft.fftshift(np.fft.fft2(flat))) ** 2, dtype=np.float32)


def repeated_frames(series: MoveSeries) -> NDArray[np.bool_] | None:
    """Which frames repeat the one before. Returns None where all of them are alike, so that nobody can tell."""
    differs = np.array(series.differs)
    if len(differs) < 3:
        return None
    usual = float(np.nanpercentile(differs, 80))
    if usual < 2.0 * LEAST_CODE:
        return None
    found = np.nan_to_num(differs, nan=np.inf) < max(LEAST_CODE, SAME * usual * 0.25)
    return np.asarray(found)


def cadence_of(repeated: NDArray[np.bool_] | None, times_s: list[float], doubts: list[Doubt]) -> CadenceMeasure:
    """Frames shown again, and time stamps that are missing."""
    apart = np.diff(np.array(times_s))
    gaps: tuple[float, ...] = ()
    if len(apart) > 2:
        usual = float(np.median(apart))
        gaps = tuple(float(times_s[number + 1]) for number in np.flatnonzero(apart > 1.6 * usual))
    if repeated is None:
        doubts.append(
            Doubt(
                field="cadence.repeated_share",
                why="nothing moves and nothing is noisy, so no frame can be told from the next",
            )
        )
        return CadenceMeasure(gaps_at_s=gaps)
    return CadenceMeasure(repeated_share=float(repeated[1:].mean()), gaps_at_s=gaps)


def motion_of(
    series: MoveSeries,
    repeated: NDArray[np.bool_] | None,
    rate: float | None,
    cuts: list[int],
    px_per_deg: float | None,
    doubts: list[Doubt],
) -> tuple[MotionMeasure, SharpnessMeasure]:
    """Shake, pan and blur over the longest piece without a cut. px_per_deg: recorded pixels a degree, where known."""
    first, last = longest_piece(len(series.shifts), cuts)
    again = np.zeros(len(series.shifts), dtype=bool) if repeated is None else repeated
    kept = [
        shift
        for number, shift in enumerate(series.shifts)
        if first < number < last and shift is not None and not again[number]
    ]
    if len(kept) < 4 or rate is None:
        doubts.append(Doubt(field="motion", why="no texture to follow, or too few frames"))
        return MotionMeasure(), SharpnessMeasure()
    shifts = np.array(kept)
    about = shifts - running_mean(shifts, max(1, round(rate)))
    shake = float(np.sqrt((about**2).sum(axis=1).mean()))
    mean = shifts.mean(axis=0)
    pan = float(np.hypot(*mean))
    coherent = pan / max(1e-9, float(np.hypot(*shifts.T).mean()))
    blur: float | None = None
    way: float | None = None
    share: float | None = None
    if pan >= PAN_PX and coherent >= PAN_SHARE:
        way = float(np.degrees(np.arctan2(-mean[1], mean[0])) % 180.0)
        blur = blur_along(series, mean)
        if blur is None:
            doubts.append(Doubt(field="sharpness.blur_px", why="too little detail along and across the movement"))
        else:
            share = min(1.0, blur / pan)
    else:
        doubts.append(Doubt(field="sharpness.blur_px", why="nothing goes one way for long enough to leave a streak"))
    per_s = None if px_per_deg is None else rate / px_per_deg
    return (
        MotionMeasure(
            shake_px=shake,
            shake_deg_s=None if per_s is None else shake * per_s,
            pan_px=pan,
            pan_deg_s=None if per_s is None else pan * per_s,
            shutter_share=share,
        ),
        SharpnessMeasure(blur_px=blur, blur_deg=way if blur is not None else None),
    )


def running_mean(values: Floats, length: int) -> Floats:
    """Mean over a window about each place, ends reflected. values: (places, 2); length: of the window, places."""
    half = min(length // 2, len(values) - 1)
    padded = np.pad(values, ((half, half), (0, 0)), mode="reflect")
    kernel = np.ones(2 * half + 1) / (2 * half + 1)
    return np.stack([np.convolve(padded[:, axis], kernel, mode="valid") for axis in range(values.shape[1])], axis=1)


def blur_along(series: MoveSeries, mean: Floats) -> float | None:
    """Length of motion blur from the power along the movement against that across it.

    A streak of length L takes sinc(L f) squared of the power at frequency f along it, and nothing across. Returns
    pixels, None where there is too little power to compare.
    """
    if not series.spectra:
        return None
    power = np.mean([spectrum for _, spectrum in series.spectra], axis=0)
    side = power.shape[0]
    at = (np.arange(side) - side // 2) / side
    fx, fy = np.meshgrid(at, at)
    unit = mean / float(np.hypot(*mean))
    along, across = np.abs(fx * unit[0] + fy * unit[1]), np.abs(fy * unit[0] - fx * unit[1])
    corner = (np.hypot(fx, fy) > 0.45) & (np.hypot(fx, fy) < 0.5)
    noise = float(np.median(power[corner]))

    def by_frequency(way: Floats, off: Floats) -> tuple[Floats, Floats]:
        """Mean power in a wedge about a way, by frequency, and how many places that is."""
        inside = (off < WEDGE * way) & (way >= 1.5 / side) & (way < FINEST)
        bins = (way[inside] * side).astype(np.intp)
        count = np.bincount(bins, minlength=int(FINEST * side) + 1).astype(float)
        return np.bincount(bins, weights=power[inside], minlength=len(count)) / np.maximum(count, 1.0), count

    (mine, few), (theirs, many) = by_frequency(along, across), by_frequency(across, along)
    usable = (few >= 2) & (many >= 2) & (theirs - noise >= 3.0 * noise)
    ratios = (np.maximum(mine - noise, 0.0)[usable] / (theirs - noise)[usable]).tolist()
    centres = (np.flatnonzero(usable) + 0.5) / side
    if len(ratios) < 6:
        return None
    found, f = np.minimum(np.array(ratios), 4.0), centres
    lengths = np.concatenate([np.arange(0.0, 12.0, 0.1), np.arange(12.0, LONGEST_BLUR, 0.25)])
    model = np.sinc(lengths[:, None] * f[None, :]) ** 2
    # The scene may have more detail one way: a factor is fitted, within reason.
    scale = np.clip((model * found).sum(axis=1) / np.maximum((model**2).sum(axis=1), 1e-9), 0.4, 2.5)
    errors = ((np.sqrt(scale[:, None] * model) - np.sqrt(found)) ** 2).mean(axis=1)
    errors += UNEVEN_COSTS * np.log2(scale) ** 2
    return float(lengths[int(np.argmin(errors))])
