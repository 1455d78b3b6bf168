"""Small clips and stills as a camera would write them, made for tests: sizes, rates, codecs and tags that are known."""

from __future__ import annotations

import io
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
from PIL import Image

from steady_tide.standins.grey_card import SimulatedSensor, grey_frame


def clip(
    path: Path,
    width: int,
    height: int,
    rate: str,
    codec: str = "libx264",
    frames: int = 6,
    deep: bool = False,
    level: int | None = None,
) -> Path:
    """Write a clip. rate: as a fraction, such as 30000/1001; deep: ten bits a value; level: of all frames. Returns its path."""
    with av.open(str(path), "w") as box:
        stream = box.add_stream(codec, rate=Fraction(rate))
        stream.width, stream.height = width, height  # type: ignore[union-attr]
        stream.pix_fmt = "yuv420p10le" if deep else "yuv420p"  # type: ignore[union-attr]
        if codec == "libx265":
            stream.options = {"x265-params": "log-level=none"}
        for index in range(frames):
            picture = np.full((height, width, 3), 90 + index if level is None else level, dtype=np.uint8)
            for packet in stream.encode(av.VideoFrame.from_ndarray(picture, format="rgb24")):  # type: ignore[union-attr]
                box.mux(packet)
        for packet in stream.encode(None):  # type: ignore[union-attr]
            box.mux(packet)
    return path


def still(path: Path, width: int = 640, height: int = 480) -> Path:
    """Write a still with the tags of a small camera. Returns its path."""
    exif = Image.Exif()
    exif[0x0110] = "Periwinkle 2"
    inner = exif.get_ifd(0x8769)
    inner.update({0x829D: 2.8, 0x829A: 1 / 200, 0x8827: 400, 0x920A: 2.7, 0xA405: 16})
    Image.new("RGB", (width, height), (90, 110, 120)).save(path, exif=exif)
    return path


def picture(frame: np.ndarray, bits: int = 8) -> bytes:
    """A frame as the bytes of a PNG. frame: shares of the largest code, (rows, columns, 3)."""
    out = io.BytesIO()
    if bits == 8:
        Image.fromarray(np.round(frame * 255).astype(np.uint8)).save(out, "PNG")
        return out.getvalue()
    values = np.round(frame * 65535).astype(np.uint16)
    with av.open(out, "w", format="image2pipe") as box:
        stream = box.add_stream("png", rate=1)
        stream.width, stream.height, stream.pix_fmt = frame.shape[1], frame.shape[0], "rgb48be"  # type: ignore[union-attr]
        for packet in stream.encode(av.VideoFrame.from_ndarray(values, format="rgb48le")):  # type: ignore[union-attr]
            box.mux(packet)
        for packet in stream.encode(None):  # type: ignore[union-attr]
            box.mux(packet)
    return out.getvalue()


def grey_card(folder: Path, sensor: SimulatedSensor, isos: tuple[int, ...] = (100, 400, 1600)) -> list[Path]:
    """Two frames of a grey card at each ISO, as 16-bit PNG whose names say it. Returns their paths."""
    rng = np.random.default_rng(11)
    made = []
    for iso in isos:
        for number in (1, 2):
            path = folder / f"card-iso{iso}-{number}.png"
            path.write_bytes(picture(grey_frame(sensor, iso, rng, shape=(240, 320)), 16))
            made.append(path)
    return made
