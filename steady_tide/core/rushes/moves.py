"""How the picture moves: shake, pan, blur along the movement, repeated frames."""

from __future__ import annotations

from dataclasses import dataclass, field

import cv2
import numpy as np
from numpy.typing import NDArray

from steady_tide.core.rushes.measures import CadenceMeasure, Doubt, MotionMeasure, SharpnessMeasure

Array = NDArray[np.float32]
Floats = NDArray[np.float64]

PATCH = 256  # side of what is correlated, pixels of a half-size picture
LEAST_RESPONSE = 0.06
LEAST_TEXTURE = 2e-3
BETTER = 0.92  # of the difference between two frames, that is left where one was shifted rightly
STILL_PX = 0.3  # of movement between two frames, below which they stand over each other
LEAST_FOLLOWED = 0.6  # of the frames, in which a part was followed, for it to tell of the whole
LEAST_CHANGE = 0.006  # usual mean difference between frames of a picture that is seen to move, of the code range
LEAST_SHARE_PX = 2.5  # of movement a frame, below which its streak says nothing of the exposure
SAME = 0.35  # of the usual difference between frames: less is the same frame again
LEAST_CODE = 2e-4  # mean difference of frames that are the same but for rounding
PAN_PX, PAN_SHARE = 1.0, 0.75  # movement that goes one way
LONGEST_BLUR = 100.0
WEDGE, FINEST = 0.25, 0.40  # half the width of what is compared, as a tangent; cycles a pixel
UNEVEN_COSTS = 0.004  # of a scene with more detail one way, an octave of it, squared


@dataclass
class MoveSeries:
    """What is kept of each frame: the shift of its parts from the one before, the middle first; how far they differ, and
    how far where every row was as bright as before; spectra of some."""

    parts: list[list[tuple[float, float] | None]] = field(default_factory=list)
    differs: list[float] = field(default_factory=list)
    differs_alike_lit: list[float] = field(default_factory=list)
    spectra: list[tuple[int, Array]] = field(default_factory=list)
    _before: list[Array] | None = None
    _windows: dict[int, Array] = field(default_factory=dict)

    def passed_over(self) -> None:
        """The next frame is not the next of the clip."""
        self._before = None

    def add(self, parts: list[Array], near: Array | None, step: float = 2.0) -> None:
        """Take a frame in. parts: luma of some parts of it made smaller, all of one shape; near: luma at full size about
        its middle, where its spectrum is wanted; step: by how much the parts were made smaller."""
        if self._before is None:
            self.parts.append([None] * len(parts))
            self.differs.append(np.nan)
            self.differs_alike_lit.append(np.nan)
        else:
            pairs = list(zip(self._before, parts, strict=True))
            self.differs.append(_apart(pairs))
            self.differs_alike_lit.append(_apart([(before, _lit_as(after, before)) for before, after in pairs]))
            self.parts.append([self._shift(before, after, step) for before, after in pairs])
        if near is not None:
            self.spectra.append((len(self.parts) - 1, _spectrum(near)))
        self._before = parts

    def stood(self) -> bool:
        """Whether most parts of the last frame stood over those of the one before, or none was seen to move."""
        speeds = [float(np.hypot(*shift)) for shift in self.parts[-1] if shift is not None]
        return not speeds or float(np.median(speeds)) < STILL_PX

    def shifts(self) -> Floats:
        """Shifts of each part from frame to frame, recorded pixels, NaN where there was nothing to follow. Returns (frames,
        parts, 2)."""
        nothing = (np.nan, np.nan)
        return np.array([[nothing if shift is None else shift for shift in frame] for frame in self.parts], dtype=float)

    def _shift(self, before: Array, after: Array, step: float) -> tuple[float, float] | None:
        """The shift of a part. A picture whose fine detail is smeared away is followed by what is left of it, made smaller."""
        if float(cv2.meanStdDev(before)[1][0, 0]) < LEAST_TEXTURE:
            return None
        one, other = before, after
        for coarser in (1, 2):
            if coarser > 1:
                one, other = (
                    np.asarray(cv2.resize(part, None, fx=0.5, fy=0.5, interpolation=cv2.INTER_AREA), dtype=np.float32)
                    for part in (before, after)
                )
            if coarser not in self._windows:
                size = (one.shape[1], one.shape[0])
                self._windows[coarser] = np.asarray(cv2.createHanningWindow(size, cv2.CV_32F))
            # The library windows what it is handed in place.
            (x, y), response = cv2.phaseCorrelate(one.copy(), other.copy(), self._windows[coarser])
            if response > LEAST_RESPONSE and _lies_over(one, other, x, y):
                return (coarser * step * x, coarser * step * y)
        return None


def _apart(pairs: list[tuple[Array, Array]]) -> float:
    """Mean difference of codes between parts of two frames."""
    return float(np.mean([cv2.norm(before, after, cv2.NORM_L1) / after.size for before, after in pairs]))


def _lit_as(after: Array, before: Array) -> Array:
    """A part with each of its rows as bright as it was in the frame before: what a pulsing lamp changes is taken off."""
    was, now = before.mean(axis=1, keepdims=True), after.mean(axis=1, keepdims=True)
    return np.asarray(after * (was / np.maximum(now, LEAST_CODE)), dtype=np.float32)


def _lies_over(before: Array, after: Array, x: float, y: float) -> bool:
    """Whether a frame lies better over the next once it is shifted: noise alone is no better for it. x, y: its pixels."""
    across, down = round(x), round(y)
    if across == 0 and down == 0:
        return True
    rows, columns = before.shape
    if 2 * abs(down) >= rows - 8 or 2 * abs(across) >= columns - 8:
        return False
    # By whole pixels: between them one would be smoothed, and lie better for that alone.
    over = after[max(0, down) : rows + min(0, down), max(0, across) : columns + min(0, across)]
    moved = before[max(0, -down) : rows + min(0, -down), max(0, -across) : columns + min(0, -across)]
    stood = before[max(0, down) : rows + min(0, down), max(0, across) : columns + min(0, across)]
    return bool(cv2.norm(moved, over, cv2.NORM_L1) < BETTER * cv2.norm(stood, over, cv2.NORM_L1))


def _spectrum(near: Array) -> Array:
    side = min(near.shape)
    top, left = (near.shape[0] - side) // 2, (near.shape[1] - side) // 2
    near = near[top : top + side, left : left + side]
    window = np.hanning(side).astype(np.float32)
    flat = (near - near.mean()) * window[:, None] * window[None, :]
    # In single precision, as the pixels are.
    found = np.asarray(cv2.dft(flat, flags=cv2.DFT_COMPLEX_OUTPUT))
    return np.asarray(np.fft.fftshift(found[..., 0] ** 2 + found[..., 1] ** 2), dtype=np.float32)


def repeated_frames(series: MoveSeries) -> NDArray[np.bool_] | None:
    """Which frames repeat the one before. Returns None where all of them are alike, so that nobody can tell."""
    differs = np.array(series.differs_alike_lit)  # a lamp that pulses makes no frame another one
    if len(differs) < 3:
        return None
    usual = float(np.nanpercentile(differs, 80))
    if usual < 2.0 * LEAST_CODE:
        return None
    found = np.nan_to_num(differs, nan=np.inf) < max(LEAST_CODE, SAME * usual * 0.25)
    return np.asarray(found)


def seen_to_move(series: MoveSeries) -> bool:
    """Whether frames differ by more than what compression leaves out."""
    differs = np.array(series.differs)
    return bool(np.isfinite(differs).any() and float(np.nanpercentile(differs, 80)) >= LEAST_CHANGE)


def cadence_of(
    series: MoveSeries, repeated: NDArray[np.bool_] | None, times_s: list[float], doubts: list[Doubt]
) -> CadenceMeasure:
    """Frames shown again, and time stamps that are missing. times_s: of all frames of the clip."""
    followed = ~np.isnan(np.array(series.differs))
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
    return CadenceMeasure(repeated_share=float(repeated[followed].mean()), gaps_at_s=gaps)


def motion_of(
    series: MoveSeries,
    repeated: NDArray[np.bool_] | None,
    rate: float | None,
    piece: tuple[int, int],
    px_per_deg: float | None,
    doubts: list[Doubt],
) -> tuple[MotionMeasure, SharpnessMeasure]:
    """Shake, pan and blur over a piece. piece: its first frame and the one after its last; px_per_deg: recorded pixels a
    degree, where known."""
    first, last = piece
    again = np.zeros(len(series.parts), dtype=bool) if repeated is None else repeated
    inside = np.arange(len(series.parts))
    inside = inside[(inside > first) & (inside < last) & ~again]
    shifts = series.shifts()[inside] if len(inside) else np.zeros((0, 1, 2))
    followed = [part for part in range(shifts.shape[1]) if _followed(shifts[:, part]) is not None]
    if not followed or rate is None:
        doubts.append(Doubt(field="motion", why="no texture to follow, or too few frames"))
        return MotionMeasure(), SharpnessMeasure()
    paths = [shifts[:, part][~np.isnan(shifts[:, part, 0])] for part in followed]
    # All parts tremble as the camera does; whatever crosses one of them only adds to it.
    shake = min(_shake(path, rate) for path in paths)
    pan = _pan(paths if followed[0] != 0 or len(paths) == 1 else paths[1:])
    blur, way, share = _streak(series, _followed(shifts[:, 0]), doubts)
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


def _followed(path: Floats) -> Floats | None:
    """The shifts of a part, where it was followed for long enough. path: (frames, 2)."""
    kept = path[~np.isnan(path[:, 0])]
    return kept if len(kept) >= max(4, LEAST_FOLLOWED * len(path)) else None


def _shake(path: Floats, rate: float) -> float:
    """RMS of shifts about their running mean over a second."""
    about = path - running_mean(path, max(1, round(rate)))
    return float(np.sqrt((about**2).sum(axis=1).mean()))


def _pan(paths: list[Floats]) -> float:
    """How far the picture goes a frame: of several parts the middle one by its speed. paths: of the parts about the middle,
    which a subject crosses seldomer."""
    speeds = sorted(float(np.hypot(*path.mean(axis=0))) for path in paths)
    return speeds[(len(speeds) - 1) // 2]


def steadiest(series: MoveSeries, rate: float) -> Floats:
    """Shifts of the part that trembles least, NaN where there was nothing to follow. Returns (frames, 2)."""
    shifts = series.shifts()
    followed = [part for part in range(shifts.shape[1]) if _followed(shifts[:, part]) is not None]
    if not followed:
        return np.full((len(shifts), 2), np.nan)
    paths = {part: shifts[:, part][~np.isnan(shifts[:, part, 0])] for part in followed}
    return shifts[:, min(followed, key=lambda part: _shake(paths[part], rate))]


def _streak(
    series: MoveSeries, middle: Floats | None, doubts: list[Doubt]
) -> tuple[float | None, float | None, float | None]:
    """What moves in the middle leaves a streak there. middle: its shifts. Returns the length of the streak, its direction,
    and the exposure as a share of the interval."""
    mean = np.zeros(2) if middle is None else middle.mean(axis=0)
    moved = float(np.hypot(*mean))
    coherent = 0.0 if middle is None else moved / max(1e-9, float(np.hypot(*middle.T).mean()))
    if moved < PAN_PX or coherent < PAN_SHARE:
        doubts.append(Doubt(field="sharpness.blur_px", why="nothing goes one way for long enough to leave a streak"))
        return None, None, None
    blur = blur_along(series, mean)
    if blur is None:
        doubts.append(Doubt(field="sharpness.blur_px", why="too little detail along and across the movement"))
        return None, None, None
    way = float(np.degrees(np.arctan2(-mean[1], mean[0])) % 180.0)
    if moved < LEAST_SHARE_PX:
        doubts.append(
            Doubt(field="motion.shutter_share", why="it moves too slowly for its streak to tell the exposure")
        )
        return blur, way, None
    return blur, way, min(1.0, blur / moved)


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
