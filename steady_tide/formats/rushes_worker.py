"""Measures one clip in a process of its own, with bounded memory and time: what is in the file is not trusted.

Run as a script: `rushes_worker.py OPTIONS < file`; OPTIONS is JSON; answers on standard output with JSON, and tells how far it
is on standard error, one share a line. Only the bytes that were handed over are read.
"""

from __future__ import annotations

import base64
import contextlib
import dataclasses
import io
import json
import sys
from collections.abc import Callable, Iterator
from typing import Any

from steady_tide.formats.media_worker import ClipRefused, confine, why_unread

MEMORY_BYTES = 4_000_000_000
CPU_SECONDS = 4 * 3600
MOST_PIXELS = 60_000_000
MOST_STREAMS = 60
TOLD_EVERY = 25
THREADS = 2  # of the decoder: each holds frames
MOST_STAMPS = 4_000_000
# A quick look: so many bursts, of so many frames, and one long enough for a beat and for shake.
BURSTS, BURST, LONG_S, LONG_LEAST, LONG_MOST = 24, 8, 2.0, 48, 120
PICTURE_QUALITY = 70
TRANSFERS = {1: "rec709", 6: "rec709", 14: "rec709", 15: "rec709", 13: "srgb", 8: "linear"}
UNKNOWN_TRANSFER = 2
MATRICES = {1: "bt709", 5: "bt601", 6: "bt601", 9: "bt2020", 10: "bt2020"}
FULL_RANGE = 2
PLANAR = {
    "yuv420p", "yuvj420p", "yuv422p", "yuvj422p", "yuv444p", "yuvj444p",
    "yuv420p10le", "yuv422p10le", "yuv444p10le", "yuv420p12le", "yuv422p12le",
}  # fmt: skip


def _plane(plane: Any, deep: bool) -> Any:
    import numpy as np

    kind = np.dtype("<u2") if deep else np.dtype("u1")
    width = plane.line_size // kind.itemsize
    return np.frombuffer(plane, dtype=kind)[: plane.height * width].reshape(plane.height, width)[:, : plane.width]


def _planes(frame: Any) -> Any:
    """Luma and chroma of a frame, as they are; other forms are turned into these first."""
    from steady_tide.core.rushes.planes import Planes

    if frame.format.name not in PLANAR:
        deep = max(part.bits for part in frame.format.components) > 8
        frame = frame.reformat(format="yuv444p10le" if deep else "yuv444p")
    bits = max(part.bits for part in frame.format.components)
    full = int(frame.color_range) == FULL_RANGE or frame.format.name.startswith("yuvj")
    usual = "bt709" if frame.height >= 720 or frame.width >= 1280 else "bt601"
    y, u, v = (_plane(plane, bits > 8) for plane in frame.planes[:3])
    matrix: Any = MATRICES.get(int(frame.colorspace), usual)
    return Planes(y, u, v, bits=bits, full_range=full, matrix=matrix)


def _facts(box: Any, video: Any, options: dict[str, Any], doubts: list[Any]) -> Any:
    from steady_tide.core.measuring.transfer import Table
    from steady_tide.core.rushes.collecting import StreamFacts
    from steady_tide.core.rushes.measures import Doubt
    from steady_tide.formats.media_worker import tagged

    context = video.codec_context
    if context.width * context.height > MOST_PIXELS:
        raise ClipRefused("the picture is too large")
    seconds = float(video.duration * video.time_base) if video.duration else (box.duration or 0) / 1e6
    rate = float(video.average_rate or video.guessed_rate or 25)
    code = int(context.color_trc)
    transfer: Any = TRANSFERS.get(code)
    if options.get("curve"):
        transfer = Table(tuple(options["curve"]))
        if options.get("curve_doubt"):
            doubts.append(Doubt(field="exposure.median_stops", why=options["curve_doubt"]))
    elif transfer is None:
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
        recorded_at=tagged({**video.metadata, **box.metadata}, "creation_time"),
        camera=tagged({**video.metadata, **box.metadata}, "model"),
    )


def measured(data: Any, options: dict[str, Any], tell: Callable[[float], None] = lambda share: None) -> dict[str, Any]:
    """Measure what an open file holds. options: its name, its form, the field where it is known. Returns the measures as JSON."""
    found: dict[str, Any] = looked_over(data, options, tell)["measures"]
    return found


def looked_over(
    data: Any, options: dict[str, Any], tell: Callable[[float], None] = lambda share: None
) -> dict[str, Any]:
    """Measure what an open file holds, and keep what shows it.

    options: its name, its form, the field and the curve where they are known, whether a quick look is enough. Returns the
    measures, the timeline, and small frames, plain and marked, as JPEG in base64.
    """
    import av

    from steady_tide.core.rushes.collecting import Collector
    from steady_tide.core.rushes.measures import Doubt

    doubts: list[Any] = []
    with av.open(data, format=options["form"], options={"enable_drefs": "0"}, metadata_errors="ignore") as box:
        if len(box.streams) > MOST_STREAMS:
            raise ClipRefused(f"it has {len(box.streams)} streams")
        if not box.streams.video:
            raise ClipRefused("no picture in it")
        video = box.streams.video[0]
        video.thread_type = "AUTO"
        video.codec_context.thread_count = THREADS
        facts = _facts(box, video, options, doubts)
        sound = _Sound() if box.streams.audio else None
        if options.get("quick"):
            stamps = _stamps(box, video, sound)
            facts = _quick_facts(facts, stamps)
            if facts.quick:
                frames = _bursts(box, video, facts)
            else:  # so short that a look at all of them is as quick
                box.seek(0)
                frames = _all_frames(box, video, None)
        else:
            frames = _all_frames(box, video, sound)
        collector = Collector(facts)
        told = 0
        try:
            for frame in frames:
                if frame is None:
                    collector.passed_over()
                    continue
                if (frame.height, frame.width) != (facts.height, facts.width):
                    raise ClipRefused("its frames change their size")
                if told == 0:
                    collector.facts = dataclasses.replace(facts, turned_deg=round(frame.rotation) % 360)
                collector.add(_planes(frame), float(frame.time or 0.0))
                told += 1
                if told % TOLD_EVERY == 0:
                    tell(min(1.0, told / max(1, facts.frames)))
        except av.error.FFmpegError:
            if told == 0:
                raise
            doubts.append(Doubt(field="seconds", why="it ends early or is damaged"))
        heard = None if sound is None else sound.done(doubts)
        if facts.quick:
            doubts.append(
                Doubt(field="frames_measured", why=f"a quick look: {told} of {len(facts.times_s or ())} frames")
            )
        return {
            "measures": collector.done(heard, doubts).model_dump(mode="json"),
            "timeline": collector.timeline().model_dump(mode="json"),
            "frames": [_shown(picture) for picture in collector.pictures],
        }


def _all_frames(box: Any, video: Any, sound: Any) -> Iterator[Any]:
    """Every frame, one after the other; sound is heard on the way, where it is wanted."""
    import av

    for packet in box.demux([video, *(box.streams.audio[:1] if sound is not None else ())]):
        for frame in packet.decode():
            if isinstance(frame, av.VideoFrame):
                yield frame
            elif sound is not None:
                sound.add(frame)


def _stamps(box: Any, video: Any, sound: Any) -> list[float]:
    """When each frame is shown, without decoding any; sound is heard on the way."""
    import av

    found: list[float] = []
    with contextlib.suppress(av.error.FFmpegError):
        for packet in box.demux([video, *box.streams.audio[:1]]):
            if packet.stream.type == "video":
                if packet.pts is not None and len(found) < MOST_STAMPS:
                    found.append(float(packet.pts * packet.time_base))
            elif sound is not None:
                for frame in packet.decode():
                    sound.add(frame)
    return sorted(found)


def _quick_facts(facts: Any, stamps: list[float]) -> Any:
    rate = (len(stamps) - 1) / (stamps[-1] - stamps[0]) if len(stamps) > 1 and stamps[-1] > stamps[0] else 25.0
    looked = (BURSTS - 1) * BURST + min(LONG_MOST, max(LONG_LEAST, round(LONG_S * rate)))
    quick = len(stamps) > looked
    return dataclasses.replace(
        facts, quick=quick, times_s=tuple(stamps) or None, frames=looked if quick else max(1, len(stamps))
    )


def _bursts(box: Any, video: Any, facts: Any) -> Iterator[Any]:
    """Frames of evenly spread bursts, with None between them; the middle one is long. Each begins where a picture stands by
    itself in the file, so that little is decoded in vain."""
    import av

    stamps = facts.times_s
    if not stamps:
        return
    starts = [stamps[round(part * (len(stamps) - 1) / BURSTS)] for part in range(BURSTS)]
    after = float("-inf")
    for number, start in enumerate(starts):
        wanted = facts.frames - (BURSTS - 1) * BURST if number == BURSTS // 2 else BURST
        box.seek(int(max(start, after) / video.time_base), stream=video)
        given = 0
        try:
            for frame in box.decode(video):
                at = float(frame.time or 0.0)
                if at <= after:
                    continue  # of the burst before
                if given == 0:
                    yield None
                yield frame
                given, after = given + 1, at
                if given >= wanted:
                    break
        except av.error.EOFError:
            continue


def _shown(picture: Any) -> dict[str, Any]:
    """A small frame, plain and marked."""
    import cv2
    import numpy as np

    from steady_tide.core.measuring.frame_measures import most_of
    from steady_tide.core.measuring.stripes import striped
    from steady_tide.core.rushes.light import BLACK, WHITE

    plain = np.rint(picture.codes * 255.0).astype(np.uint8)
    most = most_of(picture.codes)
    both = (plain, striped(plain, most >= WHITE, most <= BLACK, 6))
    made = [
        base64.b64encode(
            cv2.imencode(".jpg", one[:, :, ::-1], [cv2.IMWRITE_JPEG_QUALITY, PICTURE_QUALITY])[1].tobytes()
        ).decode()
        for one in both
    ]
    return {"at_s": picture.at_s, "plain": made[0], "marked": made[1]}


def _tell(share: float) -> None:
    sys.stderr.write(f"{share:.4f}\n")
    sys.stderr.flush()


class _Sound:
    """Gathers samples, a bounded number of them. Channels stay as they were recorded: mixing mono into two would lower
    it by 3 dB, and mixing many into two would hide which of them clips."""

    MOST = 48_000 * 60 * 20 * 2

    def __init__(self) -> None:
        import av

        self.parts: list[Any] = []
        self.count = 0
        self.resampler = av.AudioResampler(format="fltp", rate=48_000)

    def add(self, frame: Any) -> None:
        if self.count >= self.MOST:
            return
        with contextlib.suppress(ValueError):
            for part in self.resampler.resample(frame):
                samples = part.to_ndarray()
                if self.parts and samples.shape[0] != self.parts[0].shape[0]:
                    return  # another layout from here on: what was gathered tells enough
                self.parts.append(samples)
                self.count += samples.size

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
    # Libraries are loaded before the door is shut. The decoder is heard by nobody, as it is from the start: its threads would wait
    # for Python, which waits for them when a clip is closed.
    import av  # noqa: F401

    from steady_tide.core.rushes import collecting, sound  # noqa: F401

    confine(MEMORY_BYTES, CPU_SECONDS)
    try:
        answer = looked_over(data, options, _tell)
    except Exception as error:
        sys.stderr.write(why_unread(error))
        return 3
    sys.stdout.write(json.dumps(answer))
    return 0


if __name__ == "__main__":
    sys.exit(main())
