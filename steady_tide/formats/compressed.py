"""What compression makes of frames: they are really encoded, at the bits that a plan leaves a pixel, and decoded again."""

from __future__ import annotations

import io
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from fractions import Fraction

import av
import numpy as np
from numpy.typing import NDArray
from PIL import Image

Array = NDArray[np.float32]
WITHIN = 0.10  # of the bits that are asked for
TRIES = 7
NARROWEST = 0.2  # of the scale
FINEST, COARSEST = -12.0, 51.0  # of the encoder's scale; below 0 it has ten bits
FIRST, FIRST_BITS = 30.0, 0.3  # where the search begins, for so many bits a pixel
STEPS_PER_OCTAVE = 6.0  # by which bits about halve
EFFICIENT_FROM = 0.9


@dataclass(frozen=True)
class Compressed:
    """A frame as the file gives it back. codes: shares of the largest; bits_per_pixel: that it took; quality: the
    encoder's scale it ended at, where the next like it may begin."""

    codes: Array
    bits_per_pixel: float
    quality: float


def compressed(
    codes: Array,
    bits_per_pixel: float,
    bit_depth: int,
    efficiency: float,
    first: float | None = None,
    tries: int = TRIES,
) -> Compressed:
    """Encode a frame by itself and decode it.

    codes: shares of the largest, (rows, columns, 3), even numbers of both; bits_per_pixel: wanted; bit_depth: 8 or more;
    efficiency: of the format, an efficient one being 1: it is given the encoder's better tools; first: where to begin, by the bits where it is
    left out; tries: how
    often to try.
    Returns the frame; where even the finest has fewer bits, the finest.
    """
    deep = bit_depth > 8
    frame = _frame(codes, deep)
    tools = "veryfast" if efficiency >= EFFICIENT_FROM else "ultrafast"
    pixels = codes.shape[0] * codes.shape[1]
    if first is None:
        first = FIRST - STEPS_PER_OCTAVE * float(np.log2(bits_per_pixel / FIRST_BITS))
    quality, fine, coarse = float(np.clip(first, FINEST if deep else 0.0, COARSEST)), FINEST if deep else 0.0, COARSEST
    ends: dict[float, float] = {}  # how far off the bits were, octaves
    best: tuple[float, float, bytes] | None = None
    for _ in range(tries):
        data = _encoded(frame, quality, deep, tools)
        bits = _picture_bytes(data) * 8.0 / pixels
        off = ends[quality] = float(np.log2(bits / bits_per_pixel))
        if best is None or abs(off) < abs(float(np.log2(best[0] / bits_per_pixel))):
            best = (bits, quality, data)
        if abs(off) < np.log2(1.0 + WITHIN):
            break
        fine, coarse = (quality, coarse) if off > 0.0 else (fine, quality)
        if coarse - fine < NARROWEST:
            break
        step = quality + STEPS_PER_OCTAVE * off
        if fine in ends and coarse in ends:  # between both, on a straight line
            step = fine + (coarse - fine) * ends[fine] / (ends[fine] - ends[coarse])
            step = float(np.clip(step, fine + 0.15 * (coarse - fine), coarse - 0.15 * (coarse - fine)))
        quality = step if fine < step < coarse else (fine if off < 0.0 else coarse)
        if quality in ends:
            break
    assert best is not None
    return Compressed(_decoded(best[2], deep), best[0], best[1])


def _frame(codes: Array, deep: bool) -> av.VideoFrame:
    if deep:
        return av.VideoFrame.from_ndarray(
            (codes * np.float32(65535.0) + np.float32(0.5)).astype(np.uint16), format="rgb48le"
        ).reformat(format="yuv420p10le")
    return av.VideoFrame.from_ndarray(
        (codes * np.float32(255.0) + np.float32(0.5)).astype(np.uint8), format="rgb24"
    ).reformat(format="yuv420p")


def _encoded(frame: av.VideoFrame, quality: float, deep: bool, tools: str) -> bytes:
    context = av.CodecContext.create("libx264", "w")
    context.width, context.height = frame.width, frame.height
    context.pix_fmt = "yuv420p10le" if deep else "yuv420p"
    context.time_base = Fraction(1, 25)
    context.options = {"preset": tools, "crf": f"{quality:.2f}", "tune": "zerolatency"}
    return b"".join(bytes(packet) for packet in (*context.encode(frame), *context.encode(None)))


def _picture_bytes(data: bytes) -> int:
    """What the picture itself takes of a stream, without what the encoder says of itself. Source: h264."""
    parts = data.split(b"\x00\x00\x01")[1:]
    return sum(len(part) + 3 for part in parts if part and part[0] & 0x1F in (1, 5)) or len(data)


def _decoded(data: bytes, deep: bool) -> Array:
    context = av.CodecContext.create("h264", "r")
    frames = [frame for packet in (*context.parse(data), *context.parse(None)) for frame in context.decode(packet)]
    frames += list(context.decode(None))
    if deep:
        return np.asarray(frames[0].to_ndarray(format="rgb48le"), dtype=np.float32) / np.float32(65535.0)
    return np.asarray(frames[0].to_ndarray(format="rgb24"), dtype=np.float32) / np.float32(255.0)


def picture(frame: NDArray[np.uint8], form: str, quality: int = 88) -> bytes:
    """A picture as a file. frame: (rows, columns, 3), red first; form: webp or png; quality: of WebP. Returns bytes."""
    out = io.BytesIO()
    if form == "webp":
        Image.fromarray(frame).save(out, "WEBP", quality=quality, method=0)
    else:
        Image.fromarray(frame).save(out, "PNG", compress_level=3)
    return out.getvalue()


def film(frames: Iterable[NDArray[np.uint8]], fps: float) -> Iterator[int | bytes]:
    """A film of frames as MP4.

    frames: (rows, columns, 3) each, of one size; fps: of the timeline. Yields how many are in it, after each, and at last
    the file.
    """
    file = io.BytesIO()
    rate = Fraction(fps).limit_denominator(1001)
    with av.open(file, "w", format="mp4") as out:
        stream = out.add_stream("libx264", rate=rate, options={"preset": "veryfast", "crf": "16"})
        stream.pix_fmt = "yuv420p"
        for number, frame in enumerate(frames, 1):
            if number == 1:
                stream.height, stream.width = frame.shape[:2]
            for packet in stream.encode(av.VideoFrame.from_ndarray(frame, format="rgb24")):
                out.mux(packet)
            yield number
        for packet in stream.encode(None):
            out.mux(packet)
    yield file.getvalue()
