"""Clips of known truth, made for tests by code that shares nothing with what measures them."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from fractions import Fraction
from functools import cache
from pathlib import Path

import av
import numpy as np
import scipy.fft
from numpy.typing import NDArray

Floats = NDArray[np.float64]
WIDTH, HEIGHT, SIZE = 384, 216, 448


def coded(light: Floats) -> Floats:
    """BT.709's own curve, by hand. light: linear, shares of white."""
    light = np.clip(light, 0.0, 1.0)
    return np.where(light < 0.018, 4.5 * light, 1.099 * np.maximum(light, 1e-9) ** 0.45 - 0.099)


def texture(seed: int, size: int = SIZE, softest: float = 1.2) -> Floats:
    """A natural-looking texture between 0.05 and 0.6, (size, size); its spectrum falls with frequency."""
    rng = np.random.default_rng(seed)
    fy, fx = np.fft.fftfreq(size)[:, None], np.fft.rfftfreq(size)[None, :]
    radius = np.hypot(fy, fx)
    radius[0, 0] = 1.0
    spectrum = np.exp(2j * np.pi * rng.random(radius.shape)) / radius**softest
    spectrum[0, 0] = 0.0
    made = np.fft.irfft2(spectrum, s=(size, size))
    return np.asarray(np.clip(0.25 * np.exp2(1.1 * made / made.std()), 0.02, 0.95))


@cache
def _spectrum_of(seed: int, size: int) -> tuple[NDArray[np.complex128], Floats, Floats]:
    whole = texture(seed, size)
    return np.fft.rfft2(whole), np.fft.fftfreq(size)[:, None], np.fft.rfftfreq(size)[None, :]


def smeared(
    seed: int, x: float, y: float, along: tuple[float, float] = (0.0, 0.0), width: int = WIDTH, height: int = HEIGHT
) -> Floats:
    """What a camera sees of a texture at a place, pixels, that goes along a way while it is exposed.

    The texture repeats itself, and is shifted and smeared by its frequencies, so that nothing is softened between pixels.
    along: the whole way, right and down.
    """
    spectrum, fy, fx = _spectrum_of(seed, SIZE)
    moved = spectrum * np.exp(2j * np.pi * fy * y) * np.exp(2j * np.pi * fx * x)
    if along != (0.0, 0.0):
        moved *= np.sinc(fx * along[0] + fy * along[1])
    made = scipy.fft.irfft2(moved.astype(np.complex64), s=(SIZE, SIZE))[:height, :width]
    return np.asarray(np.maximum(made, 0.002), dtype=np.float64)


def view(seed: int, x: float, y: float) -> Floats:
    """The same standing still."""
    return smeared(seed, x, y)


def film(
    path: Path,
    frames: Iterable[Floats],
    rate: str = "25",
    codec: str = "libx264",
    deep: bool = False,
    quality: int = 10,
    times: Callable[[int], int] | None = None,
    sound: Floats | None = None,
    transfer: int = 1,
    preset: str = "ultrafast",
    coder: Callable[[Floats], Floats] = coded,
    metadata: dict[str, str] | None = None,
    gop: int | None = None,
) -> Path:
    """Write frames as a clip. frames: linear light, (rows, columns) or with bands; times: of a frame, in ticks of the
    rate; sound: (channels, samples) at 48 kHz, one or two channels; coder: from light to codes; metadata: of the container; gop: frames from one that
    stands by itself to the next. Returns the path."""
    with av.open(str(path), "w", options={"movflags": "use_metadata_tags"} if metadata else {}) as box:
        for name, value in (metadata or {}).items():
            box.metadata[name] = value
        stream = box.add_stream(codec, rate=Fraction(rate))
        stream.pix_fmt = "yuv420p10le" if deep else "yuv420p"  # type: ignore[union-attr]
        options = {"crf": str(quality), "preset": preset}
        if codec == "libx265":
            options["x265-params"] = "log-level=none"
        if gop is not None:
            options["g"] = str(gop)
        stream.options = options
        layout = "mono" if sound is not None and len(sound) == 1 else "stereo"
        audio = box.add_stream("aac", rate=48_000, layout=layout) if sound is not None else None
        for number, light in enumerate(frames):
            colours = light if light.ndim == 3 else np.repeat(light[..., None], 3, axis=2)
            codes = coder(colours)
            if number == 0:
                stream.height, stream.width = codes.shape[:2]  # type: ignore[union-attr]
                context = stream.codec_context
                context.color_trc, context.colorspace, context.color_primaries = transfer, 1, 1  # type: ignore[union-attr]
                context.color_range = 1  # type: ignore[union-attr]
            frame = _frame(codes, deep)
            frame.pts = number if times is None else times(number)
            frame.time_base = 1 / Fraction(rate)
            for packet in stream.encode(frame):  # type: ignore[union-attr]
                box.mux(packet)
        for packet in stream.encode(None):  # type: ignore[union-attr]
            box.mux(packet)
        if audio is not None and sound is not None:
            for start in range(0, sound.shape[1] - 1023, 1024):
                part = av.AudioFrame.from_ndarray(
                    np.ascontiguousarray(sound[:, start : start + 1024], dtype=np.float32),
                    format="fltp",
                    layout=layout,
                )
                part.sample_rate, part.pts = 48_000, start
                for packet in audio.encode(part):  # type: ignore[union-attr]
                    box.mux(packet)
            for packet in audio.encode(None):  # type: ignore[union-attr]
                box.mux(packet)
    return path


def _frame(codes: Floats, deep: bool) -> av.VideoFrame:
    """Luma and chroma by BT.709, limited range, by hand: the converter rounds otherwise."""
    red, green, blue = codes[..., 0], codes[..., 1], codes[..., 2]
    luma = 0.2126 * red + 0.7152 * green + 0.0722 * blue
    u, v = (blue - luma) / 1.8556, (red - luma) / 1.5748
    unit, kind = (4.0, np.uint16) if deep else (1.0, np.uint8)

    def small(plane: Floats) -> Floats:
        return plane.reshape(plane.shape[0] // 2, 2, plane.shape[1] // 2, 2).mean(axis=(1, 3))

    planes = [
        np.round((16.0 + 219.0 * luma) * unit),
        *(np.round((128.0 + 224.0 * small(plane)) * unit) for plane in (u, v)),
    ]
    frame = av.VideoFrame(codes.shape[1], codes.shape[0], "yuv420p10le" if deep else "yuv420p")
    for plane, values in zip(frame.planes, planes, strict=True):
        width = plane.line_size // np.dtype(kind).itemsize
        padded = np.zeros((plane.height, width), dtype=kind)
        padded[:, : values.shape[1]] = values.astype(kind)
        plane.update(padded.tobytes())
    frame.color_range, frame.colorspace = 1, 1
    return frame
