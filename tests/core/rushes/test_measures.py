"""Measures against clips whose truth is known; what a clip cannot carry is not told."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import pytest

from steady_tide.core.rushes import collecting
from steady_tide.core.rushes.collecting import Collector, StreamFacts
from steady_tide.core.rushes.measures import ClipMeasures
from steady_tide.core.rushes.planes import Planes
from steady_tide.core.rushes.sound import RATE, loudness_lufs, true_peak, wind_share
from steady_tide.formats.rushes_worker import measured
from tests.footage import HEIGHT, WIDTH, coded, film, smeared, view

WHOLE = 1  # the texture


def measure_clip(path: Path, field_deg: float | None = None) -> ClipMeasures:
    """As the worker does it, in this process, which saves starting another."""
    with path.open("rb") as file:
        options = {"file": path.name, "form": "mov", "field_deg": field_deg}
        return ClipMeasures.model_validate(measured(file, options))


KINDS = [("libx264", False), ("libx265", True)]


def doubted(clip: ClipMeasures, field: str) -> bool:
    return any(doubt.field.startswith(field) for doubt in clip.doubts)


def pan(speed: float, share: float, count: int = 30, angle: float = 0.0) -> list[np.ndarray]:
    """A camera that turns. speed: pixels a frame; share: of the interval that is exposed; angle: of the way, degrees."""
    ux, uy = np.cos(np.radians(angle)), np.sin(np.radians(angle))
    start = (60.0, 60.0)
    return [
        smeared(WHOLE, start[0] + n * speed * ux, start[1] + n * speed * uy, (share * speed * ux, share * speed * uy))
        for n in range(count)
    ]


@pytest.mark.parametrize(("codec", "deep", "stops"), [(*KINDS[0], -2.0), (*KINDS[1], 0.0), (*KINDS[0], 1.0)])
def test_exposure_is_that_of_the_light(tmp_path: Path, codec: str, deep: bool, stops: float) -> None:
    light = np.clip(view(WHOLE, 100, 100) * 2.0**stops, 0, 1)
    clip = measure_clip(film(tmp_path / "a.mp4", [light] * 12, codec=codec, deep=deep))
    assert clip.exposure.median_stops == pytest.approx(np.log2(np.median(light) / 0.18), abs=0.1)
    assert clip.exposure.drift_stops == pytest.approx(0.0, abs=0.05)
    assert clip.frame_rate == pytest.approx(25.0, abs=0.01)
    assert (clip.width, clip.height, clip.bits) == (WIDTH, HEIGHT, 10 if deep else 8)


@pytest.mark.parametrize(("codec", "deep"), KINDS)
def test_blown_and_drowned_are_counted(tmp_path: Path, codec: str, deep: bool) -> None:
    light = view(WHOLE, 200, 50)
    light[: HEIGHT // 4, : WIDTH // 3] = 1.2
    light[-HEIGHT // 8 :, :] = 0.0
    clip = measure_clip(film(tmp_path / "a.mp4", [light] * 10, codec=codec, deep=deep, quality=4))
    assert clip.exposure.white_share == pytest.approx(1 / 12, rel=0.15, abs=0.004)
    assert clip.exposure.black_share == pytest.approx(1 / 8, rel=0.15, abs=0.004)


def test_drift_and_jumps_and_cuts_are_told_apart(tmp_path: Path) -> None:
    light = view(WHOLE, 100, 100) * 0.5
    drifting = [light * 2.0 ** (0.8 * n / 49) for n in range(50)]
    clip = measure_clip(film(tmp_path / "drift.mp4", drifting))
    assert clip.exposure.drift_stops == pytest.approx(0.8, abs=0.1)
    assert clip.exposure.jumps_at_s == ()
    jump = measure_clip(film(tmp_path / "jump.mp4", [light] * 20 + [light * 1.6] * 20))
    assert list(jump.exposure.jumps_at_s) == [pytest.approx(0.8, abs=0.001)]
    assert jump.cuts_at_s == ()
    cut = measure_clip(film(tmp_path / "cut.mp4", [light] * 20 + [view(9, 700, 900)] * 20))
    assert list(cut.cuts_at_s) == [pytest.approx(0.8, abs=0.001)]
    assert cut.exposure.jumps_at_s == ()
    assert cut.exposure.drift_stops is None
    assert doubted(cut, "exposure.drift")


@pytest.mark.parametrize(("codec", "deep", "snr"), [(*KINDS[0], 8.0), (*KINDS[1], 20.0), (*KINDS[0], 45.0)])
def test_noise_is_that_of_the_sensor(tmp_path: Path, codec: str, deep: bool, snr: float) -> None:
    rng = np.random.default_rng(5)
    rows = np.linspace(0.08, 0.4, HEIGHT)[:, None] * np.ones((1, WIDTH))
    # Shot noise: variance grows with the level; every band alike, so that luminance has it, too.
    frames = [rows + (0.18 / snr) * np.sqrt(rows / 0.18) * rng.standard_normal(rows.shape) for _ in range(24)]
    clip = measure_clip(film(tmp_path / "a.mp4", frames, codec=codec, deep=deep, quality=1, preset="veryfast"))
    assert clip.noise.snr_grey == pytest.approx(snr, rel=0.15)
    assert clip.noise.snr_error is not None
    assert clip.noise.snr_error < 0.1 * snr


@pytest.mark.parametrize("rms", [1.0, 3.0, 8.0])
def test_shake_is_found(tmp_path: Path, rms: float) -> None:
    rng = np.random.default_rng(7)
    steps = rng.normal(0.0, rms / np.sqrt(2.0), (50, 2))
    places = np.cumsum(steps, axis=0)
    places += np.array([450.0, 450.0]) - places.mean(axis=0)
    clip = measure_clip(film(tmp_path / "a.mp4", [view(WHOLE, x, y) for x, y in places]), field_deg=38.4)
    moves = np.diff(places, axis=0)
    about = moves - np.array([np.convolve(np.pad(m, 12, mode="reflect"), np.ones(25) / 25, "valid") for m in moves.T]).T
    truth = float(np.sqrt((about**2).sum(axis=1).mean()))
    assert clip.motion.shake_px == pytest.approx(truth, rel=0.10, abs=0.6)
    assert clip.motion.shake_deg_s == pytest.approx((clip.motion.shake_px or 0) * 25 / 10.0)
    # Random shake shows no exposure.
    assert clip.motion.shutter_share is None
    assert clip.sharpness.blur_px is None


@pytest.mark.parametrize(
    ("codec", "deep", "speed", "share", "angle"),
    [
        (*KINDS[0], 8.0, 0.5, 0.0),
        (*KINDS[1], 12.0, 0.9, 30.0),
        (*KINDS[0], 6.0, 0.1, 90.0),
        (*KINDS[0], 9.0, 0.5, 160.0),
    ],
)
def test_a_pan_tells_blur_and_shutter(
    tmp_path: Path, codec: str, deep: bool, speed: float, share: float, angle: float
) -> None:
    clip = measure_clip(film(tmp_path / "a.mp4", pan(speed, share, angle=angle), codec=codec, deep=deep))
    assert clip.motion.pan_px == pytest.approx(speed, rel=0.1)
    assert clip.sharpness.blur_px == pytest.approx(speed * share, rel=0.2, abs=0.8)
    # Of a slow pan a pixel of blur is a large share.
    assert clip.motion.shutter_share == pytest.approx(share, abs=max(0.08, 0.8 / speed))
    assert clip.motion.shake_px == pytest.approx(0.0, abs=0.6)


@pytest.mark.parametrize(("hz", "depth"), [(4.0, 0.06), (9.0, 0.15)])
def test_a_beat_is_found(tmp_path: Path, hz: float, depth: float) -> None:
    light = view(WHOLE, 300, 200)
    frames = [light * (1.0 + depth * np.sin(2 * np.pi * hz * n / 25.0)) for n in range(50)]
    clip = measure_clip(film(tmp_path / "a.mp4", frames))
    assert clip.flicker.hz == pytest.approx(hz, abs=0.4)
    assert clip.flicker.depth == pytest.approx(depth, rel=0.2)


@pytest.mark.parametrize(("rows", "depth"), [(54.0, 0.08), (90.0, 0.2)])
def test_bands_are_found(tmp_path: Path, rows: float, depth: float) -> None:
    light = view(WHOLE, 300, 200)
    down = np.arange(HEIGHT)[:, None]
    frames = [light * (1.0 + depth * np.sin(2 * np.pi * (down / rows - 0.13 * n))) for n in range(40)]
    clip = measure_clip(film(tmp_path / "a.mp4", frames))
    assert clip.flicker.band_rows == pytest.approx(rows, rel=0.05)
    assert clip.flicker.depth == pytest.approx(depth, rel=0.2)


def pulsed(row_s: float, hz: float, exposure_s: float, duty: float, frames: int, rate: float = 25.0) -> list[Any]:
    """A standing view under a lamp that is on for a part of each period, seen by a rolling shutter; by brute force."""
    light, inner = view(WHOLE, 300, 200), np.arange(200) / 200.0
    down = np.arange(HEIGHT)[:, None]
    made = []
    for n in range(frames):
        at_s = n / rate + down * row_s + inner[None, :] * exposure_s
        on = ((at_s * hz) % 1.0 < duty).mean(axis=1) / duty
        made.append(light * on[:, None])
    return made


@pytest.mark.parametrize("duty", [0.3, 0.6])
def test_pulsing_lamps_make_no_cuts_and_repeat_no_frame(tmp_path: Path, duty: float) -> None:
    """Deep bands that roll: every frame is lit otherwise, and not one of them is another picture, or the same again."""
    rng = np.random.default_rng(6)
    frames = pulsed(15e-3 / HEIGHT, 108.0, 1 / 400, duty, 50)
    noisy = [np.maximum(frame + 0.004 * rng.standard_normal(frame.shape), 0.0) for frame in frames]
    clip = measure_clip(film(tmp_path / "a.mp4", noisy, quality=8))
    assert clip.cuts_at_s == ()
    assert not clip.cadence.repeated_share
    assert clip.flicker.depth is not None
    assert clip.flicker.depth > 0.2
    other = [view(9, 700, 900) * (frame / view(WHOLE, 300, 200)) for frame in frames[25:]]
    cut = measure_clip(film(tmp_path / "b.mp4", [*frames[:25], *other], quality=8))
    assert list(cut.cuts_at_s) == [pytest.approx(1.0, abs=0.001)], "a cut under pulsing lamps is one all the same"


def test_a_beat_of_the_whole_picture_repeats_no_frame(tmp_path: Path) -> None:
    """Three frames to a beat: of each three one is as bright as the one before, and a hand's tremble is in all of them."""
    rng = np.random.default_rng(8)
    light = view(WHOLE, 300, 200)
    gains = [1.0, 1.6, 1.6]
    frames = [np.maximum(light * gains[n % 3] + 0.01 * rng.standard_normal(light.shape), 0.0) for n in range(48)]
    clip = measure_clip(film(tmp_path / "a.mp4", frames, quality=4, preset="veryfast"))
    assert clip.cuts_at_s == ()
    assert clip.cadence.repeated_share == pytest.approx(0.0, abs=0.03)


def test_bands_are_found_however_long_a_clip_goes_on(monkeypatch: pytest.MonkeyPatch) -> None:
    """Means of rows are kept of the first frames alone; those after them must not thin them out."""
    monkeypatch.setattr(collecting, "ROWS_KEPT", 60)
    facts = StreamFacts("a.mp4", 64, 360, 24.0, "h264", 8, 5.0, 600)
    collector, down = Collector(facts), np.arange(360)[:, None] / 360.0
    grey = np.full((180, 32), 128, dtype=np.uint8)
    for n in range(600):
        light = coded(0.2 * (1.0 + 0.1 * np.sin(2 * np.pi * (4.0 * down - 0.13 * n))) * np.ones((1, 64)))
        y = np.round(16.0 + 219.0 * light).astype(np.uint8)
        collector.add(Planes(y, grey, grey, bits=8, full_range=False, matrix="bt709"), n / 25.0)
    found = collector.done().flicker
    assert found.band_rows == pytest.approx(90.0, rel=0.05)
    assert found.depth == pytest.approx(0.1, rel=0.2)


@pytest.mark.parametrize("every", [0, 4, 2])
def test_repeated_frames_are_counted(tmp_path: Path, every: int) -> None:
    moved = [0] * 40
    for n in range(1, 40):
        moved[n] = moved[n - 1] + (0 if every and n % every == 0 else 1)
    clip = measure_clip(film(tmp_path / "a.mp4", [view(WHOLE, 100 + 3.0 * m, 80) for m in moved]))
    truth = sum(moved[n] == moved[n - 1] for n in range(1, 40)) / 39
    assert clip.cadence.repeated_share == pytest.approx(truth, abs=0.03)


def test_missing_time_stamps_are_told(tmp_path: Path) -> None:
    frames = [view(WHOLE, 100 + 2 * n, 100) for n in range(40)]
    clip = measure_clip(film(tmp_path / "a.mp4", frames, times=lambda n: n + (3 if n >= 20 else 0)))
    assert list(clip.cadence.gaps_at_s) == [pytest.approx(23 / 25)]
    assert clip.frame_rate == pytest.approx(25.0, abs=0.05)
    uneven = measure_clip(film(tmp_path / "b.mp4", frames, times=lambda n: n * 2 + (n * 7919) % 2))
    assert doubted(uneven, "frame_rate")
    assert uneven.flicker.hz is None


@pytest.mark.parametrize(
    ("codec", "deep", "red", "blue"), [(*KINDS[0], 0.0, 0.0), (*KINDS[1], 0.5, -0.4), (*KINDS[0], -0.8, 0.3)]
)
def test_a_cast_is_found_whatever_is_coloured(tmp_path: Path, codec: str, deep: bool, red: float, blue: float) -> None:
    grey = view(WHOLE, 50, 50) * 0.6
    light = np.stack([grey, grey, grey], axis=2)
    light[:, : WIDTH // 3] *= np.array([0.3, 1.0, 0.25])  # a green third
    light = light * np.array([2.0**red, 1.0, 2.0**blue])
    clip = measure_clip(film(tmp_path / "a.mp4", [light] * 8, codec=codec, deep=deep))
    assert clip.colour.red_stops == pytest.approx(red, abs=0.1)
    assert clip.colour.blue_stops == pytest.approx(blue, abs=0.1)
    assert clip.colour.kelvin_range is not None
    assert clip.colour.kelvin_range[0] <= (clip.colour.kelvin or 0) <= clip.colour.kelvin_range[1]


def test_what_stands_and_is_clean_has_no_motion_no_noise_and_no_repeats(tmp_path: Path) -> None:
    clip = measure_clip(film(tmp_path / "a.mp4", [view(WHOLE, 10, 10)] * 25))
    assert clip.motion.shutter_share is None
    assert clip.sharpness.blur_px is None
    assert clip.noise.snr_grey is None
    assert clip.cadence.repeated_share is None
    for field in ("noise", "cadence", "sharpness.blur_px"):
        assert doubted(clip, field), field


def test_one_colour_has_neither_motion_nor_cast_nor_edges(tmp_path: Path) -> None:
    even = np.ones((HEIGHT, WIDTH, 3)) * np.array([0.02, 0.4, 0.01])
    clip = measure_clip(film(tmp_path / "a.mp4", [even] * 25))
    assert clip.motion.shake_px is None
    assert clip.sharpness.edge_px is None
    assert clip.colour.red_stops is None
    assert clip.noise.snr_grey is None


def test_two_frames_have_nothing_temporal(tmp_path: Path) -> None:
    clip = measure_clip(film(tmp_path / "a.mp4", [view(WHOLE, 10, 10)] * 2))
    assert clip.flicker.hz is None
    assert clip.motion.shake_px is None
    assert clip.exposure.median_stops is not None


def test_edges_tell_focus(tmp_path: Path) -> None:
    import cv2

    board = np.where((np.indices((HEIGHT, WIDTH)) // 48).sum(axis=0) % 2, 0.6, 0.05).astype(float)
    widths = []
    for sigma in (1.0, 2.0, 3.5):
        blurred = cv2.GaussianBlur(board, (0, 0), sigma)
        clip = measure_clip(film(tmp_path / f"{sigma}.mp4", [blurred] * 6))
        assert clip.sharpness.edge_px is not None
        widths.append(clip.sharpness.edge_px)
    # 10 to 90 % of a blurred edge is 2.56 of its deviation; codes are no light, so it is somewhat more or less.
    assert widths == [pytest.approx(2.56 * sigma, rel=0.3) for sigma in (1.0, 2.0, 3.5)]


@pytest.mark.parametrize("lean", [-6.0, 0.0, 3.5])
def test_a_horizon_leans(tmp_path: Path, lean: float) -> None:
    rows, columns = np.indices((HEIGHT, WIDTH))
    line = HEIGHT / 2 + np.tan(np.radians(lean)) * (columns - WIDTH / 2)
    light = np.where(rows > line, 0.08, 0.55) + 0.01 * np.random.default_rng(1).standard_normal((HEIGHT, WIDTH))
    clip = measure_clip(film(tmp_path / "a.mp4", [light] * 8))
    assert clip.horizon.tilt_deg == pytest.approx(lean, abs=0.5)


def test_sound_is_measured(tmp_path: Path) -> None:
    time = np.arange(3 * RATE) / RATE
    tone = 0.25 * np.sin(2 * np.pi * 997 * time)
    clip = measure_clip(film(tmp_path / "a.mp4", [view(WHOLE, 10, 10)] * 10, sound=np.stack([tone, tone])))
    assert clip.sound is not None
    assert clip.sound.peak_dbfs == pytest.approx(20 * np.log10(0.25), abs=1.0)
    # A tone in both channels of this level is 3 dB over one channel's -15 LUFS.
    assert clip.sound.loudness_lufs == pytest.approx(20 * np.log10(0.25) - 3.01 + 3.01, abs=1.0)
    assert clip.sound.clipped_share == 0.0
    assert clip.sound.wind_share == pytest.approx(0.0, abs=0.02)


def test_mono_sound_is_as_loud_as_it_is_and_its_clipping_is_seen(tmp_path: Path) -> None:
    time = np.arange(3 * RATE) / RATE
    tone = np.sin(2 * np.pi * 997 * time) * np.clip(5 * np.minimum(time, 2.9 - time), 0, 1)  # a coder rings at steps
    frames = [view(WHOLE, 10, 10)] * 10
    one = measure_clip(film(tmp_path / "a.mp4", frames, sound=0.25 * tone[None, :]))
    assert one.sound is not None
    assert one.sound.peak_dbfs == pytest.approx(20 * np.log10(0.25), abs=0.3)
    assert one.sound.loudness_lufs == pytest.approx(20 * np.log10(0.25) - 3.01, abs=0.3), "one channel of the standard"
    square = np.clip(3 * tone, -1, 1)
    alone, twice = (
        measure_clip(film(tmp_path / f"{len(channels)}.mp4", frames, sound=channels)).sound
        for channels in (square[None, :], np.stack([square, square]))
    )
    assert alone is not None
    assert twice is not None
    assert twice.clipped_share
    assert (alone.clipped_share or 0.0) > 0.003, "coded sound is full in few of its samples"
    assert not doubted(one, "sound.loudness_lufs")


def test_peaks_between_the_samples_are_seen() -> None:
    """A quarter of the rate, half way between its samples: they read 3.01 dB low. source: bs1770, annex 2."""
    count = np.arange(2 * RATE)
    between = np.sin(2 * np.pi * count / 4 + np.pi / 4)
    assert np.abs(between).max() == pytest.approx(np.sqrt(0.5))
    inside = slice(RATE // 2, -RATE // 2)
    assert true_peak(between[None, :]) == pytest.approx(1.0, abs=0.08), "its beginning rings a little"
    fading = between * np.hanning(len(count))
    assert true_peak(fading[None, :]) == pytest.approx(1.0, abs=0.02)
    assert np.abs(fading[inside]).max() < 0.72


def test_loudness_of_the_standards_own_tone() -> None:
    """A full-scale sine of 997 Hz in one channel is -3.01 LUFS; source: bs1770."""
    time = np.arange(5 * RATE) / RATE
    tone = np.sin(2 * np.pi * 997 * time)
    assert loudness_lufs(np.stack([tone, np.zeros_like(tone)])) == pytest.approx(-3.01, abs=0.1)


def test_wind_comes_in_gusts() -> None:
    rng = np.random.default_rng(2)
    noise = rng.standard_normal(10 * RATE)
    low = np.fft.irfft(np.fft.rfft(noise) * (np.fft.rfftfreq(len(noise), 1 / RATE) < 90))
    gusts = low / low.std() * 0.3 * (np.sin(2 * np.pi * 0.5 * np.arange(len(noise)) / RATE) > 0)
    voice = 0.1 * np.sin(2 * np.pi * 400 * np.arange(len(noise)) / RATE)
    assert wind_share((gusts + voice)[None, :]) > 0.7
    steady = 0.1 * np.sin(2 * np.pi * 60 * np.arange(len(noise)) / RATE)
    assert wind_share((steady + voice)[None, :]) < 0.05


def test_noise_that_compression_smoothed_is_doubted(tmp_path: Path) -> None:
    rng = np.random.default_rng(5)
    frames = [np.clip(0.18 + 0.02 * rng.standard_normal((HEIGHT, WIDTH)), 0, 1) for _ in range(20)]
    whole = measure_clip(film(tmp_path / "whole.mp4", frames, quality=1, preset="veryfast"))
    thin = measure_clip(film(tmp_path / "thin.mp4", frames, quality=30, preset="veryfast"))
    assert not doubted(whole, "noise")
    assert doubted(thin, "noise.snr_grey")
