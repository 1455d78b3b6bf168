"""Measures one clip in a process of its own, with bounded memory and time: what is in the file is not trusted.

Run as a script: `rushes_worker.py OPTIONS < file`; OPTIONS is JSON; answers on standard output with JSON, and tells how far it
is on standard error, one share a line. Only the bytes that were handed over are read.
"""

from __future__ import annotations

import contextlib
import io
import json
import sys
from collections.abc import Callable
from typing import Any

MEMORY_BYTES = 4_000_000_000
CPU_SECONDS = 4 * 3600
MOST_PIXELS = 60_000_000
MOST_STREAMS = 60
TOLD_EVERY = 25
TRANSFERS = {1: "rec709", 6: "rec709", 14: "rec709", 15: "rec709", 13: "srgb", 8: "linear"}
UNKNOWN_TRANSFER = 2
MATRICES = {1: "bt709", 5: "bt601", 6: "bt601", 9: "bt2020", 10: "bt2020"}
FULL_RANGE = 2
PLANAR = {
    "yuv420p", "yuvj420p", "yuv422p", "yuvj422p", "yuv444p", "yuvj444p",
    "yuv420p10le", "yuv422p10le", "yuv444p10le", "yuv420p12le", "yuv422p12le",
}  # fmt: skip


def _plane(plane: Any, rows: int, columns: int, deep: bool) -> Any:
    import numpy as np

    kind = np.dtype("<u2") if deep else np.dtype("u1")
    width = plane.line_size // kind.itemsize
    return np.frombuffer(plane, dtype=kind)[: plane.height * width].reshape(plane.height, width)[:rows, :columns]


def _planes(frame: Any, matrix: str | None) -> Any:
    """Luma and chroma of a frame, as they are; other forms are turned into these first."""
    from steady_tide.core.rushes.planes import Planes

    if frame.format.name not in PLANAR:
        deep = max(part.bits for part in frame.format.components) > 8
        frame = frame.reformat(format="yuv444p10le" if deep else "yuv444p")
    bits = max(part.bits for part in frame.format.components)
    full = int(frame.color_range) == FULL_RANGE or frame.format.name.startswith("yuvj")
    usual = "bt709" if frame.height >= 720 or frame.width >= 1280 else "bt601"
    y, u, v = (_plane(plane, plane.height, plane.width, bits > 8) for plane in frame.planes[:3])
    found: Any = matrix or MATRICES.get(int(frame.colorspace), usual)
    return Planes(y, u, v, bits=bits, full_range=full, matrix=found)


def _facts(box: Any, video: Any, options: dict[str, Any], doubts: list[Any]) -> Any:
    from steady_tide.core.rushes.collecting import StreamFacts
    from steady_tide.core.rushes.measures import Doubt

    context = video.codec_context
    if context.width * context.height > MOST_PIXELS:
        raise ValueError("the picture is too large")
    seconds = float(video.duration * video.time_base) if video.duration else (box.duration or 0) / 1e6
    rate = float(video.average_rate or video.guessed_rate or 25)
    code = int(context.color_trc)
    transfer: Any = options.get("transfer") or TRANSFERS.get(code)
    if transfer is None:
        transfer = "rec709"
        if code not in (0, UNKNOWN_TRANSFER):
            doubts.append(
                Doubt(field="exposure.median_stops", why="its curve is one that is not known here; taken as BT.709")
            )
    bit_rate = video.bit_rate or context.bit_rate or box.bit_rate
    return StreamFacts(
        file=options["file"],
        width=context.width,
        height=context.height,
        seconds=max(0.0, seconds),
        codec=context.name,
        bits=max((part.bits for part in context.format.components), default=8) if context.format else 8,
        bit_rate_mb_s=None if not bit_rate else bit_rate / 1e6,
        frames=int(video.frames or seconds * rate or 1),
        transfer=transfer,
        field_deg=options.get("field_deg"),
    )


def measured(data: Any, options: dict[str, Any], tell: Callable[[float], None] = lambda share: None) -> dict[str, Any]:
    """Measure what an open file holds. options: its name, its form, the field where it is known. Returns the measures as JSON."""
    import av

    from steady_tide.core.rushes.collecting import Collector
    from steady_tide.core.rushes.measures import Doubt

    doubts: list[Any] = []
    with av.open(data, format=options["form"], metadata_errors="ignore") as box:
        if len(box.streams) > MOST_STREAMS:
            raise ValueError(f"it has {len(box.streams)} streams")
        if not box.streams.video:
            raise ValueError("no picture in it")
        video = box.streams.video[0]
        video.thread_type = "AUTO"
        collector = Collector(_facts(box, video, options, doubts))
        sound = _Sound() if box.streams.audio else None
        streams = [video, *box.streams.audio[:1]]
        told = 0
        try:
            for packet in box.demux(streams):
                for frame in packet.decode():
                    if isinstance(frame, av.VideoFrame):
                        if (frame.height, frame.width) != (collector.facts.height, collector.facts.width):
                            raise ValueError("its frames change their size")
                        collector.add(_planes(frame, None), float(frame.time or 0.0))
                        told += 1
                        if told % TOLD_EVERY == 0:
                            tell(min(1.0, told / max(1, collector.facts.frames)))
                    elif sound is not None:
                        sound.add(frame)
        except av.error.FFmpegError as error:
            if told == 0:
                raise
            doubts.append(Doubt(field="seconds", why=f"it ends early or is damaged: {str(error)[:80]}"))
        heard = None if sound is None else sound.done(doubts)
        return collector.done(heard, doubts).model_dump(mode="json")


def _tell(share: float) -> None:
    sys.stderr.write(f"{share:.4f}\n")
    sys.stderr.flush()


class _Sound:
    """Gathers samples, a bounded number of them."""

    MOST = 48_000 * 60 * 20

    def __init__(self) -> None:
        import av

        self.parts: list[Any] = []
        self.count = 0
        self.resampler = av.AudioResampler(format="fltp", layout="stereo", rate=48_000)

    def add(self, frame: Any) -> None:
        if self.count >= self.MOST:
            return
        with contextlib.suppress(ValueError):
            for part in self.resampler.resample(frame):
                self.parts.append(part.to_ndarray())
                self.count += part.samples

    def done(self, doubts: list[Any]) -> Any:
        import numpy as np

        from steady_tide.core.rushes.sound import sound_of

        samples = np.concatenate(self.parts, axis=1).astype(np.float64) if self.parts else np.zeros((2, 0))
        return sound_of(samples, doubts)


def main() -> int:
    """Answer for the file on standard input."""
    options = json.loads(sys.argv[1])
    data = io.FileIO(0, closefd=False)
    data.seek(0)
    # Libraries are loaded before the door is shut.
    import av

    from steady_tide.core.rushes import collecting, sound  # noqa: F401
    from steady_tide.formats.media_worker import confine

    av.logging.set_level(av.logging.PANIC)
    confine(MEMORY_BYTES, CPU_SECONDS)
    try:
        answer = measured(data, options, _tell)
    except Exception as error:
        sys.stderr.write(f"{type(error).__name__}: {error}"[:300])
        return 3
    sys.stdout.write(json.dumps(answer))
    return 0


if __name__ == "__main__":
    sys.exit(main())
