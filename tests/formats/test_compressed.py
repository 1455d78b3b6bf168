"""Frames that were really encoded: bits as asked, tones that come back, films that open."""

from __future__ import annotations

import io

import av
import numpy as np
import pytest

from steady_tide.formats.compressed import compressed, film, picture


def noisy(seed: int = 1, deep: float = 0.03) -> np.ndarray:
    rng = np.random.default_rng(seed)
    rows, columns = np.mgrid[0:180, 0:320]
    base = 0.5 + 0.3 * np.sin(columns / 23.0)[..., None] * np.cos(rows / 31.0)[..., None] * np.array([1.0, 0.8, 0.6])
    return np.clip(base + deep * rng.standard_normal((180, 320, 3)), 0, 1).astype(np.float32)


@pytest.mark.parametrize("bit_depth", [8, 10])
@pytest.mark.parametrize("bits", [0.1, 0.3, 1.0, 3.0])
def test_bits_are_as_asked(bits: float, bit_depth: int) -> None:
    found = compressed(noisy(), bits, bit_depth, 1.0)
    assert found.bits_per_pixel == pytest.approx(bits, rel=0.15)
    assert found.codes.shape == (180, 320, 3)
    assert found.codes.mean() == pytest.approx(float(noisy().mean()), abs=0.02)


def test_more_bits_lose_less_and_better_tools_lose_less_for_the_same() -> None:
    whole = noisy(deep=0.01)
    losses = [np.abs(compressed(whole, bits, 8, 1.0).codes - whole).mean() for bits in (0.1, 0.4, 1.6)]
    assert losses == sorted(losses, reverse=True)
    older = np.abs(compressed(whole, 0.4, 8, 0.65).codes - whole).mean()
    assert older > losses[1]


def test_what_is_even_needs_less_than_is_there() -> None:
    even = np.full((64, 64, 3), 0.4, np.float32)
    found = compressed(even, 2.0, 8, 1.0)
    assert found.bits_per_pixel < 2.0
    assert found.codes == pytest.approx(even, abs=0.02)


def test_films_and_pictures_open() -> None:
    frames = [np.full((36, 64, 3), 60 + 10 * number, np.uint8) for number in range(7)]
    *told, data = film(iter(frames), 30000 / 1001)
    assert told == [1, 2, 3, 4, 5, 6, 7]
    assert isinstance(data, bytes)
    with av.open(io.BytesIO(data)) as box:
        assert float(box.streams.video[0].average_rate or 0) == pytest.approx(29.97, abs=0.01)
        means = [frame.to_ndarray(format="rgb24").mean() for frame in box.decode(video=0)]
    assert means == pytest.approx([60 + 10 * number for number in range(7)], abs=3)
    assert picture(frames[0], "png").startswith(b"\x89PNG")
    assert picture(frames[0], "webp")[8:12] == b"WEBP"
