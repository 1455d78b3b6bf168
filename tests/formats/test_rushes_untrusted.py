"""Files that are not what they say: each is measured as far as it goes, or refused; none brings the reader down."""

from __future__ import annotations

import json
import struct
import subprocess
import sys
from pathlib import Path

import av
import numpy as np
import pytest

from steady_tide.core.quantities.errors import BadFile
from steady_tide.formats.rushes_in import measure_clip
from steady_tide.formats.rushes_worker import MOST_STREAMS, measured
from tests.footage import film, view

FRAMES = 12


@pytest.fixture(scope="module")
def whole(tmp_path_factory: pytest.TempPathFactory) -> bytes:
    path = film(tmp_path_factory.mktemp("whole") / "a.mp4", [view(1, 20 + 3 * n, 40) for n in range(FRAMES)])
    return path.read_bytes()


def test_a_clip_that_is_to_be_turned_is_measured_as_it_was_recorded(whole: bytes, tmp_path: Path) -> None:
    data = bytearray(whole)
    at = data.index(b"tkhd") + 44
    data[at : at + 36] = struct.pack(">9i", 0, 1 << 16, 0, -(1 << 16), 0, 0, 0, 0, 1 << 30)
    (tmp_path / "turned.mp4").write_bytes(bytes(data))
    clip = measure_clip(tmp_path / "turned.mp4").measures
    assert (clip.width, clip.height) == (384, 216)
    assert clip.turned_deg in (90, 270)
    assert clip.motion.pan_px == pytest.approx(3.0, abs=0.3)


def test_sound_alone_is_refused(tmp_path: Path) -> None:
    path = tmp_path / "sound.mp4"
    with av.open(str(path), "w") as box:
        stream = box.add_stream("aac", rate=48_000)
        frame = av.AudioFrame.from_ndarray(np.zeros((2, 1024), dtype=np.float32), format="fltp", layout="stereo")
        frame.sample_rate, frame.pts = 48_000, 0
        for packet in [*stream.encode(frame), *stream.encode(None)]:
            box.mux(packet)
    with pytest.raises(BadFile, match="no picture"):
        measure_clip(path)


def test_more_streams_than_any_camera_writes_are_refused(tmp_path: Path) -> None:
    path = tmp_path / "many.mp4"
    with av.open(str(path), "w") as box:
        streams = [box.add_stream("aac", rate=48_000) for _ in range(MOST_STREAMS + 10)]
        for stream in streams:
            frame = av.AudioFrame.from_ndarray(np.zeros((2, 1024), dtype=np.float32), format="fltp", layout="stereo")
            frame.sample_rate, frame.pts = 48_000, 0
            for packet in [*stream.encode(frame), *stream.encode(None)]:
                box.mux(packet)
    with pytest.raises(BadFile, match="streams"):
        measure_clip(path)


def written(path: Path, width: int, height: int, form: str, count: int = 3) -> Path:
    with av.open(str(path), "w") as box:
        stream = box.add_stream("libx264", rate=25, options={"preset": "ultrafast", "crf": "30"})
        stream.width, stream.height, stream.pix_fmt = width, height, form
        grey = np.full((height, width, 3), 110, dtype=np.uint8)
        grey[: height // 2] = 180
        for _ in range(count):
            for packet in stream.encode(av.VideoFrame.from_ndarray(grey, format="rgb24")):
                box.mux(packet)
        for packet in stream.encode(None):
            box.mux(packet)
    return path


@pytest.mark.parametrize(
    ("width", "height", "form"),
    [(383, 215, "yuv444p"), (64, 36, "yuv420p"), (2160, 16, "yuv420p"), (16, 1080, "yuv420p"), (7680, 4320, "yuv420p")],
)
def test_odd_small_narrow_and_very_large_frames_are_measured(
    tmp_path: Path, width: int, height: int, form: str
) -> None:
    path = written(tmp_path / "a.mp4", width, height, form, count=2 if width > 4000 else 6)
    with path.open("rb") as file:
        found = measured(file, {"file": "a.mp4", "form": "mov"})
    assert (found["width"], found["height"]) == (width, height)
    assert found["exposure"]["median_stops"] is not None


def test_damaged_files_are_measured_or_refused(whole: bytes, tmp_path: Path) -> None:
    """Bytes turned at random: in the index, in the pictures, at the end."""
    rng = np.random.default_rng(4)
    index = whole.index(b"moov")
    for number in range(6):
        data = bytearray(whole)
        first, last = (index, len(data)) if number % 2 else (40, index)
        for place in rng.integers(first, last, 12):
            data[place] ^= int(rng.integers(1, 256))
        path = tmp_path / f"{number}.mp4"
        path.write_bytes(bytes(data))
        try:
            found = measure_clip(path).measures
        except BadFile as error:
            assert error.faults[0].mend
        else:
            assert found.frames_measured <= FRAMES


def test_what_a_box_says_of_its_length_is_not_believed(whole: bytes, tmp_path: Path) -> None:
    at = whole.index(b"stsz")
    data = bytearray(whole)
    data[at + 12 : at + 16] = struct.pack(">I", 0x7FFFFFFF)
    (tmp_path / "lies.mp4").write_bytes(bytes(data))
    try:
        found = measure_clip(tmp_path / "lies.mp4").measures
    except BadFile as error:
        assert "cannot be" in str(error)
    else:
        assert found.frames_measured <= FRAMES


OFTEN = """
import contextlib, sys
from steady_tide.formats import rushes_worker
once = rushes_worker.looked_over
def often(data, options, tell):
    for _ in range(40):
        data.seek(0)
        with contextlib.suppress(Exception):
            once(data, options, lambda share: None)
    return {}
rushes_worker.looked_over = often
sys.exit(rushes_worker.main())
"""


def test_a_decoder_that_complains_of_damage_holds_nobody_up(tmp_path: Path) -> None:
    """It complains from threads of its own; where Python was asked to listen, both waited for each other for ever."""
    frames = [view(1, 20 + 3 * n, 40) for n in range(FRAMES)]
    data = bytearray(film(tmp_path / "a.mp4", frames, codec="libx265").read_bytes())
    begins = data.index(b"mdat") + 4
    ends = begins + int.from_bytes(data[begins - 8 : begins - 4], "big") - 8
    middle = slice(begins + (ends - begins) // 3, ends)
    data[middle] = np.random.default_rng(3).bytes(middle.stop - middle.start)
    (tmp_path / "damaged.mp4").write_bytes(bytes(data))
    asked = {
        "file": "damaged.mp4",
        "form": "mov",
        "field_deg": None,
        "quick": False,
        "curve": None,
        "curve_doubt": None,
    }
    with (tmp_path / "damaged.mp4").open("rb") as file:
        command = [sys.executable, "-c", OFTEN, json.dumps(asked)]
        done = subprocess.run(command, stdin=file, capture_output=True, timeout=120)
    assert (done.returncode, done.stdout) == (0, b"{}"), done.stderr
