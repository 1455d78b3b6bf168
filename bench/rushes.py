"""How much measuring a clip costs beside decoding it alone, in the same run; processor time of all threads, the best of five.

Run: python bench/rushes.py. Clips at 720p and at 4K are encoded at a camera's bit rates. The quick look is timed on a minute of 4K
that repeats one of them, and held against decoding ten minutes: it looks at as many frames of either.
"""

from __future__ import annotations

import resource
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

import av
import numpy as np

from steady_tide.formats.rushes_worker import measured

ROUNDS = 5
CLIPS = ((1280, 720, 20_000_000, 150), (3840, 2160, 100_000_000, 50))


def clip(path: Path, width: int, height: int, bit_rate: int, count: int) -> Path:
    """A texture that goes by under noise, as a camera would write it."""
    rng = np.random.default_rng(1)
    base = np.kron(rng.random((height // 8 + 40, width // 8 + 60)), np.ones((8, 8))).astype(np.float32)
    with av.open(str(path), "w") as box:
        stream = box.add_stream("libx264", rate=Fraction(25), options={"preset": "veryfast"})
        stream.width, stream.height, stream.pix_fmt, stream.bit_rate = width, height, "yuv420p", bit_rate
        for number in range(count):
            part = base[number : number + height, 2 * number : 2 * number + width]
            noisy = part * 120 + 60 + 4 * rng.standard_normal((height, width), dtype=np.float32)
            grey = np.clip(noisy, 16, 235).astype(np.uint8)
            frame = av.VideoFrame.from_ndarray(np.repeat(grey[..., None], 3, axis=2), format="rgb24")
            for packet in stream.encode(frame):
                box.mux(packet)
        for packet in stream.encode(None):
            box.mux(packet)
    return path


def decoded(path: Path) -> None:
    with av.open(str(path)) as box:
        video = box.streams.video[0]
        video.thread_type = "AUTO"
        for _ in box.decode(video):
            pass


def measure(path: Path, quick: bool = False) -> None:
    with path.open("rb") as file:
        measured(file, {"file": path.name, "form": "mov", "field_deg": None, "quick": quick})


def repeated(source: Path, path: Path, times: int) -> Path:
    """A clip several times over, without encoding it again."""
    with av.open(str(source)) as box:
        stream = box.streams.video[0]
        packets = [(bytes(one), one.pts, one.dts, one.is_keyframe) for one in box.demux(stream) if one.dts is not None]
        assert stream.time_base is not None
        length = round(len(packets) / 25 / stream.time_base)
        with av.open(str(path), "w") as out:
            written = out.add_stream_from_template(stream)
            for turn in range(times):
                for data, pts, dts, key in packets:
                    packet = av.Packet(data)
                    packet.pts, packet.dts = pts + turn * length, dts + turn * length
                    packet.time_base, packet.is_keyframe, packet.stream = stream.time_base, key, written
                    out.mux(packet)
    return path


def cpu_s(work: Callable[[], None]) -> tuple[float, float]:
    """Least processor time and least time of some runs."""
    best = (np.inf, np.inf)
    for _ in range(ROUNDS):
        before, began = resource.getrusage(resource.RUSAGE_SELF), time.perf_counter()
        work()
        after = resource.getrusage(resource.RUSAGE_SELF)
        used = after.ru_utime + after.ru_stime - before.ru_utime - before.ru_stime
        best = (min(best[0], used), min(best[1], time.perf_counter() - began))
    return best


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        for width, height, bit_rate, count in CLIPS:
            path = clip(Path(folder) / f"{width}.mp4", width, height, bit_rate, count)
            decoded(path)
            measure(path)
            alone, whole = cpu_s(lambda path=path: decoded(path)), cpu_s(lambda path=path: measure(path))
            print(
                f"{width} x {height}, {count} frames: decoding {alone[0]:.2f} s of processor, measuring all frames "
                f"{whole[0]:.2f} s, x{whole[0] / alone[0]:.2f} (wanted 1.5); by the clock {alone[1]:.2f} and {whole[1]:.2f} s"
            )
        minute = repeated(path, Path(folder) / "minute.mp4", 30)
        began = time.process_time()
        measure(minute, quick=True)
        quick, ten_minutes = time.process_time() - began, alone[0] / count * 15_000
        print(
            f"quick look at 4K: {quick:.1f} s of processor; decoding ten minutes takes {ten_minutes:.0f} s, "
            f"x{quick / ten_minutes:.3f} (wanted 0.1)"
        )
        # A process counts what it was forked from: a small one starts the one that is looked at.
        asked = (
            "import resource, sys; from pathlib import Path; from steady_tide.formats.rushes_in import measure_clip; "
        )
        asked += "measure_clip(Path(sys.argv[1])); print(resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss / 1000)"
        told = subprocess.run([sys.executable, "-c", asked, str(path)], capture_output=True, text=True, check=True)
        most = float(told.stdout)
        print(f"most memory of the process that measures 4K: {most:.0f} MB (wanted 700)")


if __name__ == "__main__":
    main()
