"""Reads one media file in a process of its own, with little memory and time: what is in the file is not trusted.

Run as a script: `media_worker.py facts|frames|still FORMAT COUNT < file`; answers on standard output, JSON for
facts, an array for frames, a PNG for a still made smaller. Only demuxers of single files are used, and only on the bytes that were handed over.
"""

from __future__ import annotations

import contextlib
import io
import json
import resource
import sys
from fractions import Fraction
from typing import Any

MEMORY_BYTES, CPU_SECONDS = 3_000_000_000, 20
MOST_PIXELS = 60_000_000
MOST_STREAMS = 12
CROP_PX = 768
FULL_RANGE = 2  # of ISO/IEC 23091-2: codes go from end to end


class ClipRefused(ValueError):
    """Why a file is not read, in our own words."""


# What readers mean, by the name of their error.
MEANT = {
    "MemoryError": "reading it takes more memory than a clip needs",
    "DecompressionBombError": "the picture is too large",
    "EOFError": "it ends before it should",
    "DecoderNotFoundError": "it is in a codec that is not known here",
    "UnidentifiedImageError": "it is no picture of a kind that is known here",
}


def why_unread(error: Exception) -> str:
    """Why a file cannot be read. error: of ours, or of a library. Returns it in plain words."""
    if isinstance(error, ClipRefused):
        return str(error)
    damaged = "its content is damaged, or of a kind that is not known here"
    return MEANT.get(type(error).__name__, MEANT["EOFError"] if "truncated" in str(error).lower() else damaged)


def confine(memory_bytes: int, cpu_s: int) -> None:
    """Bound this process: so much memory and time, and nothing is written to any file."""
    resource.setrlimit(resource.RLIMIT_AS, (memory_bytes, memory_bytes))
    resource.setrlimit(resource.RLIMIT_CPU, (cpu_s, cpu_s))
    resource.setrlimit(resource.RLIMIT_FSIZE, (0, 0))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))


def tagged(metadata: dict[str, str], ending: str) -> str | None:
    """A tag whose name ends so, without what cannot be printed; None where there is none."""
    for name, value in metadata.items():
        if name.lower().endswith(ending):
            said = "".join(letter for letter in str(value) if letter.isprintable())[:80].strip()
            return said or None
    return None


def _number(value: Any) -> float | None:
    with contextlib.suppress(TypeError, ValueError, ZeroDivisionError, OverflowError):
        found = float(Fraction(value) if isinstance(value, str) else value)
        return found if found == found and abs(found) < 1e15 else None
    return None


def _still(file: Any) -> dict[str, Any]:
    from PIL import ExifTags, Image

    Image.MAX_IMAGE_PIXELS = MOST_PIXELS
    with Image.open(file, formats=("JPEG", "PNG", "TIFF", "MPO")) as image:
        wide, high = image.size
        exif = image.getexif()
        inner = exif.get_ifd(ExifTags.IFD.Exif)

        def tag(name: str) -> Any:
            key = ExifTags.Base[name]
            return inner.get(key, exif.get(key))

        # An array of values stands where a camera writes several: the first counts.
        iso = tag("ISOSpeedRatings")
        return {
            "kind": "still",
            "width": wide,
            "height": high,
            "name": " ".join(str(exif.get(ExifTags.Base[key], "")).strip("\0 ") for key in ("Model",))[:80],
            "f_number": _number(tag("FNumber")),
            "shutter_s": _number(tag("ExposureTime")),
            "iso": _number(iso[0] if isinstance(iso, tuple) and iso else iso),
            "focal_mm": _number(tag("FocalLength")),
            "equivalent_mm": _number(tag("FocalLengthIn35mmFilm")),
            "bits": {"I;16": 16, "I;16B": 16, "I": 16}.get(image.mode, 8),
        }


def _clip(file: Any, form: str) -> dict[str, Any]:
    import av

    with av.open(file, format=form, options={"enable_drefs": "0"}, metadata_errors="ignore") as box:
        if len(box.streams) > MOST_STREAMS:
            raise ClipRefused("too many streams")
        if not box.streams.video:
            raise ClipRefused("no picture in it")
        video = box.streams.video[0]
        codec = video.codec_context
        seconds = float(box.duration) / 1e6 if box.duration else None
        if seconds is None and video.duration and video.time_base:
            seconds = float(video.duration * video.time_base)
        turned, shape = 0, codec.format
        # The first frame knows how it is to be held; where only a part of the file is here it may be missing.
        with contextlib.suppress(Exception):
            first = next(iter(box.decode(video)))
            turned, shape = round(first.rotation), first.format
        return {
            "kind": "clip",
            "width": codec.width,
            "height": codec.height,
            "rate": _number(video.average_rate or video.guessed_rate),
            "codec": codec.name,
            "pixel_format": shape.name if shape else None,
            "bits": shape.components[0].bits if shape and shape.components else None,
            "bit_rate_mb_s": (video.bit_rate or 0) / 1e6 or None,
            "seconds": seconds,
            "primaries": int(getattr(codec, "color_primaries", 2) or 2),
            "transfer": int(getattr(codec, "color_trc", 2) or 2),
            "turned": turned,
            "sound": bool(box.streams.audio),
            "frames": int(video.frames or 0),
            "name": tagged({**video.metadata, **box.metadata}, "model") or "",
            "recorded_at": tagged({**video.metadata, **box.metadata}, "creation_time"),
        }


def _codes_of(frame: Any, bits: int) -> Any:
    """Red, green and blue of a frame, 0 to 65,535 from black to white. The converter alone leaves white below that."""
    import numpy as np

    if bits <= 8:
        return frame.to_ndarray(format="rgb24").astype(np.uint16) * 257
    whole = frame.to_ndarray(format="rgb48le")
    white = _white_of(frame, bits) if frame.format.name.startswith("yuv") else 65_535
    if white >= 65_535:
        return whole
    return np.minimum(np.rint(whole * (65_535.0 / white)), 65_535).astype(np.uint16)


def _white_of(frame: Any, bits: int) -> int:
    """Where the converter puts the white of such a frame."""
    import av
    import numpy as np

    plain = av.VideoFrame(16, 16, frame.format.name)
    plain.color_range, plain.colorspace = frame.color_range, frame.colorspace
    full = int(frame.color_range) == FULL_RANGE
    levels = ((2**bits - 1 if full else 235 << (bits - 8)), 1 << (bits - 1), 1 << (bits - 1))
    for plane, level in zip(plain.planes, levels, strict=False):
        plane.update(np.full(plane.buffer_size // 2, level, dtype="<u2").tobytes())
    return int(plain.to_ndarray(format="rgb48le")[8, 8, 1])


def _frames(file: Any, form: str, count: int) -> Any:
    """The middle of the first frames, as 16-bit codes, (frames, rows, columns, 3)."""
    import av
    import numpy as np

    found = []
    bits = 8
    with av.open(file, format=form, metadata_errors="ignore") as box:
        if not box.streams.video:
            raise ClipRefused("no picture in it")
        video = box.streams.video[0]
        for frame in box.decode(video):
            if frame.width * frame.height > MOST_PIXELS:
                raise ClipRefused("the picture is too large")
            bits = max(part.bits for part in frame.format.components)
            whole = _codes_of(frame, bits)
            high, wide = min(CROP_PX, whole.shape[0]), min(CROP_PX, whole.shape[1])
            top, left = (whole.shape[0] - high) // 2, (whole.shape[1] - wide) // 2
            found.append(np.ascontiguousarray(whole[top : top + high, left : left + wide]))
            if len(found) == count:
                break
    if not found:
        raise ClipRefused("no picture in it")
    return np.stack(found), bits


def _made_smaller(file: Any, widest: int) -> bytes:
    """A still, upright, in plain colours, at most so wide, as PNG."""
    from PIL import Image, ImageOps

    Image.MAX_IMAGE_PIXELS = MOST_PIXELS
    with Image.open(file, formats=("JPEG", "PNG", "MPO")) as image:
        if image.width * image.height > MOST_PIXELS:
            raise ClipRefused("the picture is too large")
        image.draft("RGB", (widest * 2, widest * 2))
        upright = ImageOps.exif_transpose(image).convert("RGB")
    share = min(1.0, widest / upright.width, widest / upright.height)
    size = max(1, round(upright.width * share)), max(1, round(upright.height * share))
    small = upright if size == upright.size else upright.resize(size, Image.Resampling.BOX)
    out = io.BytesIO()
    small.save(out, "PNG", compress_level=3)
    return out.getvalue()


def main() -> int:
    """Answer for the file on standard input."""
    what, form, count = sys.argv[1], sys.argv[2], int(sys.argv[3])
    data = io.FileIO(0, closefd=False)
    data.seek(0)
    # Libraries are loaded before the door is shut. The decoder is heard by nobody, as it is from the start: its threads would wait
    # for Python, which waits for them when a clip is closed.
    import av  # noqa: F401
    import numpy as np
    from PIL import Image, JpegImagePlugin, MpoImagePlugin, PngImagePlugin, TiffImagePlugin  # noqa: F401

    confine(MEMORY_BYTES, CPU_SECONDS)
    try:
        if what == "facts":
            answer = _still(data) if form == "still" else _clip(data, form)
            sys.stdout.write(json.dumps(answer))
        elif what == "still":
            sys.stdout.buffer.write(_made_smaller(data, count))
        else:
            frames, bits = _frames(data, form, count)
            head = np.array([bits, *frames.shape], dtype="<u4")
            sys.stdout.buffer.write(head.tobytes())
            sys.stdout.buffer.write(frames.astype("<u2").tobytes())
    except Exception as error:
        sys.stderr.write(why_unread(error))
        return 3
    return 0


if __name__ == "__main__":
    sys.exit(main())
