"""Exposure, cuts, jumps, flicker and colour, from a grid of pixels and from the means of rows."""

from __future__ import annotations

from dataclasses import dataclass, field
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.light.balance import blackbody_bands
from steady_tide.core.light.water import LUMINANCE
from steady_tide.core.measuring.frame_measures import most_of
from steady_tide.core.physics.noise import GREY_REFLECTANCE
from steady_tide.core.rushes.measures import ColourMeasure, Doubt, ExposureMeasure, FlickerMeasure

Array = NDArray[np.float32]
Floats = NDArray[np.float64]

WHITE, BLACK = 0.995, 0.005  # shares of the code range
JUMP_STOPS = 0.3
LEAST_LIGHT = 2.0**-12
# A cut: the coarse picture is another one.
CUT_ALIKE, CUT_STOPS = 0.5, 0.25
DARK_ROW, LEAST_SEEN = 2.0**-6, 0.2  # light of a row that shows nothing; share of the picture that must be lit twice
# Chromaticity is looked for about neutral, in steps of a tenth of a stop.
NEUTRAL_STOPS, NEUTRAL_STEP = 2.5, 0.1
SHADOW, HIGHLIGHT = 0.02, 0.85
LEAST_NEUTRAL = 0.02  # of the picture
LEAST_LIT = 0.25  # of the picture, for a cast that is not that of one thing
BANDS_NM = (600.0, 545.0, 450.0)
DAYLIGHT_K = 6500.0


@dataclass
class LightSeries:
    """What is kept of each frame: times, tenths, medians and nine tenths of luminance, shares, casts, coarse pictures
    and such with all rows made equally bright; means of rows; breaks: frames before which some were passed over."""

    times_s: list[float] = field(default_factory=list)
    lows: list[float] = field(default_factory=list)
    medians: list[float] = field(default_factory=list)
    highs: list[float] = field(default_factory=list)
    means: list[float] = field(default_factory=list)
    white: list[float] = field(default_factory=list)
    black: list[float] = field(default_factory=list)
    casts: list[tuple[float, float] | None] = field(default_factory=list)
    lit: list[float] = field(default_factory=list)
    coarse: list[Array] = field(default_factory=list)
    along_rows: list[Array] = field(default_factory=list)
    rows: list[Array] = field(default_factory=list)
    breaks: list[int] = field(default_factory=list)

    def add(self, time_s: float, codes: Array, light: Array, rows: Array | None, colour: bool) -> None:
        """Take a frame in. codes, light: of the grid, (rows, columns, 3); rows: mean linear luminance of each row, or of
        groups of rows, of the first frames alone; colour: whether its cast is looked at."""
        luminance = light @ LUMINANCE.astype(np.float32)
        self.times_s.append(time_s)
        flat = luminance.ravel()
        places = [flat.size // 10, flat.size // 2, flat.size * 9 // 10]
        low, middle, high = np.partition(flat, places)[places].tolist()
        self.lows.append(low)
        self.medians.append(middle)
        self.highs.append(high)
        self.means.append(float(luminance.mean()))
        most = most_of(codes)
        self.white.append(_share(most >= WHITE))
        self.black.append(_share(most <= BLACK))
        self.casts.append(neutral_cast(light, luminance) if colour else None)
        self.lit.append(_share(luminance > SHADOW))
        self.coarse.append(_coarse(luminance))
        self.along_rows.append(_along_rows(luminance))
        if rows is not None:
            self.rows.append(rows)


def _share(which: NDArray[np.bool_]) -> float:
    return np.count_nonzero(which) / which.size


def _coarse(luminance: Array) -> Array:
    """A picture of 9 by 16 in stops."""
    rows, columns = luminance.shape
    down, across = rows // 9, columns // 16
    blocks = luminance[: down * 9, : across * 16].reshape(9, down, 16, across).mean(axis=(1, 3))
    return np.asarray(np.log2(np.maximum(blocks, LEAST_LIGHT)))


def _along_rows(luminance: Array) -> Array:
    """A picture of 9 by 16 in stops, each of its rows made as bright as the others; NaN where no row is lit."""
    level = luminance.mean(axis=1, keepdims=True)
    lit = level > DARK_ROW
    equal = np.where(lit, luminance / np.maximum(level, DARK_ROW), 0.0)
    rows, columns = luminance.shape
    down, across = rows // 9, columns // 16
    sums = equal[: down * 9, : across * 16].reshape(9, down, 16, across).mean(axis=3).sum(axis=1)
    counts = lit[: down * 9].reshape(9, down).sum(axis=1)[:, None]
    blocks = sums / np.maximum(counts, 1)
    return np.where(counts > 0, np.log2(np.maximum(blocks, LEAST_LIGHT)), np.nan).astype(np.float32)


def neutral_cast(light: Array, luminance: Array) -> tuple[float, float] | None:
    """Red and blue against green of what looks neutral: the fullest place of chromaticity near grey.

    light: linear, (rows, columns, 3). Returns stops, None where nothing looks neutral.
    """
    usable = (luminance > SHADOW) & (luminance < HIGHLIGHT) & (-most_of(-light) > SHADOW / 8.0)
    if usable.mean() < LEAST_NEUTRAL:
        return None
    chosen = np.log2(light[usable].astype(np.float64))
    red, blue = chosen[:, 0] - chosen[:, 1], chosen[:, 2] - chosen[:, 1]
    near = (np.abs(red) < NEUTRAL_STOPS) & (np.abs(blue) < NEUTRAL_STOPS)
    if near.sum() < LEAST_NEUTRAL * light.shape[0] * light.shape[1]:
        return None
    red, blue = red[near], blue[near]
    edges = np.arange(-NEUTRAL_STOPS, NEUTRAL_STOPS + NEUTRAL_STEP, NEUTRAL_STEP)
    counts, _, _ = np.histogram2d(red, blue, bins=[edges, edges])
    smooth = counts.copy()
    smooth[1:-1, 1:-1] = sum(
        counts[1 + a : counts.shape[0] - 1 + a, 1 + b : counts.shape[1] - 1 + b] for a in (-1, 0, 1) for b in (-1, 0, 1)
    )
    # Of places that are nearly as full the one nearer to neutral counts: colours are elsewhere.
    centres = edges[:-1] + NEUTRAL_STEP / 2.0
    away = np.hypot(centres[:, None], centres[None, :])
    weight = smooth * np.exp(-0.5 * (away / 1.2) ** 2)
    top = np.unravel_index(int(np.argmax(weight)), weight.shape)
    at_red, at_blue = centres[top[0]], centres[top[1]]
    for _ in range(4):  # the mean of what lies about it
        close = np.hypot(red - at_red, blue - at_blue) < 2.5 * NEUTRAL_STEP
        if close.sum() < 20:
            return None
        at_red, at_blue = float(red[close].mean()), float(blue[close].mean())
    return at_red, at_blue


def cuts_of(series: LightSeries) -> list[int]:
    """Frames that begin after a hard cut: the coarse picture is another one. A step of exposure alone is none, nor are
    bands of pulsing lamps, which change whole rows: where they roll, only what lies along the rows counts."""
    coarse = np.array(series.along_rows if _has_bands(series) else series.coarse, dtype=np.float64)
    if len(coarse) < 2:
        return []
    coarse = coarse.reshape(len(coarse), -1)
    both = np.isfinite(coarse[:-1]) & np.isfinite(coarse[1:])
    both[both.mean(axis=1) < LEAST_SEEN] = False  # too little is lit in both frames
    before, after = (_about_middle(end, both) for end in (coarse[:-1], coarse[1:]))
    step = after - before
    counts = np.maximum(both.sum(axis=1), 1)
    middle = np.array([np.median(one[seen]) if seen.any() else 0.0 for one, seen in zip(step, both, strict=True)])
    apart = np.where(both, np.abs(step - middle[:, None]), 0.0).sum(axis=1) / counts
    size = np.sqrt((before**2).sum(axis=1) * (after**2).sum(axis=1))
    alike = (before * after).sum(axis=1) / np.maximum(size, 1e-12)
    other = (apart >= CUT_STOPS) & ((alike < CUT_ALIKE) | (size == 0.0))
    passed = set(series.breaks)
    return [int(number) + 1 for number in np.flatnonzero(other) if int(number) + 1 not in passed]


def _about_middle(pictures: Floats, seen: NDArray[np.bool_]) -> Floats:
    """Pictures less the mean of what counts of them, nothing elsewhere. pictures, seen: (N, blocks)."""
    held = np.where(seen, pictures, 0.0)
    mean = held.sum(axis=1, keepdims=True) / np.maximum(seen.sum(axis=1, keepdims=True), 1)
    return np.where(seen, held - mean, 0.0)


def _has_bands(series: LightSeries) -> bool:
    """Whether rows brighten and darken in waves, as under pulsing lamps."""
    if len(series.rows) < LEAST_FRAMES:
        return False
    return _bands(np.array(series.rows), series.rows[0].shape[0])[1] >= LEAST_DEPTH


def exposure_of(
    series: LightSeries, cuts: list[int], repeated: NDArray[np.bool_], doubts: list[Doubt]
) -> ExposureMeasure:
    """Exposure over a clip. cuts: frames after cuts; repeated: frames that repeat the one before."""
    medians = np.log2(np.maximum(np.array(series.medians), LEAST_LIGHT) / GREY_REFLECTANCE)
    white = np.array(series.white)
    worst = int(np.argmax(white))
    steps = np.diff(medians)
    jumps = [
        series.times_s[number + 1]
        for number in np.flatnonzero(np.abs(steps) > JUMP_STOPS)
        if number + 1 not in cuts and number + 1 not in series.breaks and not repeated[number + 1]
    ]
    drift: float | None = float(medians.max() - medians.min())
    if cuts:
        drift = None
        doubts.append(
            Doubt(field="exposure.drift_stops", why="the clip has cuts; light before and after is another one")
        )
    return ExposureMeasure(
        median_stops=float(np.median(medians)),
        white_share=float(white.mean()),
        worst_white_share=float(white[worst]),
        worst_white_at_s=series.times_s[worst],
        black_share=float(np.mean(series.black)),
        drift_stops=drift,
        jumps_at_s=tuple(jumps),
    )


def colour_of(series: LightSeries, doubts: list[Doubt]) -> ColourMeasure:
    """Cast over a clip, the median of its frames."""
    casts = np.array([cast for cast in series.casts if cast is not None])
    if len(casts) == 0:
        doubts.append(Doubt(field="colour", why="nothing in it looks neutral"))
        return ColourMeasure()
    if float(np.median(series.lit)) < LEAST_LIT:
        doubts.append(Doubt(field="colour", why="little of the picture is bright enough to tell its colour"))
    red, blue = (float(value) for value in np.median(casts, axis=0))
    spread = float(np.hypot(*casts.std(axis=0))) if len(casts) > 1 else 0.0
    kelvin = _kelvin_of(red - blue)
    # A tenth of a stop is what nobody knows of a neutral thing.
    ends = (_kelvin_of(red - blue + 0.1 + spread), _kelvin_of(red - blue - 0.1 - spread))
    moved = float(np.hypot(*(casts.max(axis=0) - casts.min(axis=0)))) if len(casts) > 1 else 0.0
    return ColourMeasure(
        red_stops=red, blue_stops=blue, kelvin=kelvin, kelvin_range=(min(ends), max(ends)), drift_stops=moved
    )


def _kelvin_of(apart_stops: float) -> float:
    """The black body that gives so many stops more red than blue, where the balance is set for daylight."""
    kelvins = np.geomspace(1800.0, 20_000.0, 200)
    day = blackbody_bands(DAYLIGHT_K, BANDS_NM)
    ratios = np.array([blackbody_bands(float(kelvin), BANDS_NM) for kelvin in kelvins])
    stops = np.log2(ratios[:, 0] / ratios[:, 2]) - np.log2(day[0] / day[2])
    return float(np.interp(-apart_stops, -stops, kelvins))


LEAST_FRAMES = 12
RIPPLE_OVER_NOISE = 5.0
LEAST_DEPTH = 0.004
MOST_PERIODS = 40.0  # bands in a frame
LEAST_PERIODS = 0.7


def flicker_of(
    series: LightSeries, rate: float | None, height: int, cuts: list[int], doubts: list[Doubt]
) -> FlickerMeasure:
    """Pulses: a beat from frame to frame, and bands that roll.

    rate: frames a second; height: of the frame, rows. A beat is told as it is seen, folded below half of the rate.
    """
    first, last = longest_piece(len(series.means), cuts, series.breaks)
    means = np.array(series.means[first:last])
    if len(means) < LEAST_FRAMES or rate is None:
        doubts.append(Doubt(field="flicker", why="too few frames, or at uneven times, for a beat"))
        return FlickerMeasure()
    hz, beat = _beat(means, rate)
    rows = series.rows[first:last]
    period_rows, band = _bands(np.array(rows), height) if len(rows) >= LEAST_FRAMES else (None, 0.0)
    depth = max(beat, band)
    if depth < LEAST_DEPTH:
        return FlickerMeasure(depth=0.0)
    return FlickerMeasure(hz=hz if beat >= LEAST_DEPTH else None, depth=depth, band_rows=period_rows)


def longest_piece(count: int, cuts: list[int], breaks: list[int]) -> tuple[int, int]:
    """The longest piece without a cut, all frames of which were looked at. Returns its first frame and the one after its
    last."""
    edges = sorted({0, *cuts, *breaks, count})
    return max(pairwise(edges), key=lambda ends: ends[1] - ends[0])


def _beat(means: Floats, rate: float) -> tuple[float | None, float]:
    """A line in the periodogram of the frames' light. Returns its frequency and amplitude over the mean."""
    count = len(means)
    x = np.linspace(-1.0, 1.0, count)
    trend = np.polynomial.polynomial.polyval(x, np.polynomial.polynomial.polyfit(x, means, 3))
    rest = means / np.maximum(trend, LEAST_LIGHT) - 1.0
    window = np.hanning(count + 2)[1:-1]
    padded = max(1024, 1 << int(np.ceil(np.log2(8 * count))))
    spectrum = np.abs(np.fft.rfft(rest * window, padded)) * 2.0 / window.sum()
    frequency = np.fft.rfftfreq(padded, 1.0 / rate)
    # Slower than two periods in the piece is the light that changes.
    usable = frequency > 2.0 * rate / count
    top = int(np.argmax(np.where(usable, spectrum, 0.0)))
    floor = float(np.median(spectrum[usable]))
    if spectrum[top] < RIPPLE_OVER_NOISE * floor:
        return None, 0.0
    half = spectrum[top] if frequency[top] < 0.98 * rate / 2.0 else spectrum[top] / 2.0
    return float(frequency[top]), float(half)


def _bands(rows: NDArray[np.float32], height: int) -> tuple[float | None, float]:
    """Bands that roll: a line in the rows' light once what stands is taken off. Returns rows a band, and amplitude."""
    places = rows.shape[1]
    light = rows.astype(np.float64)
    light = light / np.maximum(light.mean(axis=1, keepdims=True), LEAST_LIGHT)
    standing = np.median(light, axis=0)
    rest = light / np.maximum(standing, LEAST_LIGHT) - 1.0
    padded = max(2048, 1 << int(np.ceil(np.log2(8 * places))))
    window = np.hanning(places + 2)[1:-1]
    spectra = np.abs(np.fft.rfft(rest * window, padded, axis=1)) * 2.0 / window.sum()
    power = np.sqrt((spectra**2).mean(axis=0))
    cycles = np.fft.rfftfreq(padded, 1.0 / places)  # in a frame's height
    usable = (cycles >= LEAST_PERIODS) & (cycles <= min(MOST_PERIODS, places / 3.0))
    top = int(np.argmax(np.where(usable, power, 0.0)))
    if power[top] < RIPPLE_OVER_NOISE * float(np.median(power[usable])) or power[top] < LEAST_DEPTH:
        return None, 0.0
    return float(height / cycles[top]), float(power[top])
