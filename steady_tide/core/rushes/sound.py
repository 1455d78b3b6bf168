"""Sound of a clip: peaks, loudness, clipping, wind."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.rushes.measures import Doubt, SoundMeasure

Floats = NDArray[np.float64]

RATE = 48_000  # at which samples are handed over
# K-weighting at 48 kHz, a shelf and a high pass; source: bs1770.
SHELF = ([1.53512485958697, -2.69169618940638, 1.19839281085285], [1.0, -1.69065929318241, 0.73248077421585])
HIGH_PASS = ([1.0, -2.0, 1.0], [1.0, -1.99004745483398, 0.99007225036621])
BLOCK_S, STEP_S = 0.4, 0.1
ABSOLUTE_LUFS, RELATIVE_LU = -70.0, -10.0
FULL = 0.999
WIND_HZ, WINDOW_S = 120.0, 0.1
LEAST_S = 0.5
SILENT = 1e-6
OVERSAMPLED = 4
PEAK_MARGIN = 64  # samples about a block, for the filter to begin and end in
PEAK_NEAR = 0.5
MOST_ALIKE = 2  # channels; of more, those behind count for more in the standard


def sound_of(samples: Floats, doubts: list[Doubt]) -> SoundMeasure:
    """Measure sound. samples: (channels, count) at RATE, -1 to 1. Returns the measures."""
    if samples.size == 0 or samples.shape[1] < LEAST_S * RATE:
        doubts.append(Doubt(field="sound", why="too short to be measured"))
        return SoundMeasure()
    if float(np.abs(samples).max()) < SILENT:
        doubts.append(Doubt(field="sound", why="it is silent"))
        return SoundMeasure(clipped_share=0.0)
    if len(samples) > MOST_ALIKE:
        doubts.append(Doubt(field="sound.loudness_lufs", why="of more than two channels each counts alike"))
    return SoundMeasure(
        peak_dbfs=20.0 * float(np.log10(true_peak(samples))),
        loudness_lufs=loudness_lufs(samples),
        clipped_share=float((np.abs(samples).max(axis=0) >= FULL).mean()),
        wind_share=wind_share(samples),
    )


def true_peak(samples: Floats) -> float:
    """Highest value of the sound between the samples, too. samples: (channels, count) at RATE. Returns a share of full
    scale, which may be above 1. Source: bs1770 (annex 2, four times as many samples)."""
    from scipy import signal  # as in `loudness_lufs`

    block, margin = RATE, PEAK_MARGIN
    peak = float(np.abs(samples).max())
    highest = peak
    for start in range(0, samples.shape[1], block):
        first = max(0, start - margin)
        part = samples[:, first : start + block + margin]
        if float(np.abs(part).max()) < PEAK_NEAR * peak:  # what lies between is hardly twice as high
            continue
        between = signal.resample_poly(part, OVERSAMPLED, 1, axis=1)
        # The margins are only there for the filter: where a part is cut off, it rings.
        own = slice(OVERSAMPLED * (start - first), OVERSAMPLED * (start - first + block))
        highest = max(highest, float(np.abs(between[:, own]).max()))
    return highest


def loudness_lufs(samples: Floats) -> float | None:
    """Integrated loudness with both gates. samples: (channels, count) at RATE. Returns LUFS. Source: bs1770."""
    from scipy import signal  # takes longer to load than a short clip to measure, and most clips have no sound

    weighted = signal.lfilter(*HIGH_PASS, signal.lfilter(*SHELF, samples, axis=1), axis=1)
    block, step = int(BLOCK_S * RATE), int(STEP_S * RATE)
    power = np.concatenate([np.zeros((len(weighted), 1)), np.cumsum(weighted**2, axis=1)], axis=1)
    starts = np.arange(0, weighted.shape[1] - block + 1, step)
    if len(starts) == 0:
        return None
    blocks = ((power[:, starts + block] - power[:, starts]) / block).sum(axis=0)
    loud = -0.691 + 10.0 * np.log10(np.maximum(blocks, 1e-12))
    over = loud > ABSOLUTE_LUFS
    if not over.any():
        return None
    gate = -0.691 + 10.0 * np.log10(blocks[over].mean()) + RELATIVE_LU
    kept = blocks[over & (loud > gate)]
    return float(-0.691 + 10.0 * np.log10(kept.mean()))


def wind_share(samples: Floats) -> float:
    """Share of the energy that comes below 120 Hz in gusts. samples: (channels, count) at RATE."""
    mono = samples.mean(axis=0)
    window = int(WINDOW_S * RATE)
    parts = mono[: len(mono) // window * window].reshape(-1, window)
    spectra = np.abs(np.fft.rfft(parts * np.hanning(window), axis=1)) ** 2
    low = spectra[:, np.fft.rfftfreq(window, 1.0 / RATE) < WIND_HZ].sum(axis=1)
    gusts = np.maximum(0.0, low - np.percentile(low, 20))
    return float(gusts.sum() / max(float(spectra.sum()), 1e-12))
