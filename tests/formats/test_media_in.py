"""Clips and stills: what they say, from the whole and from their ends; broken and hostile ones."""

from __future__ import annotations

import os
import struct
import time
import zlib
from pathlib import Path

import numpy as np
import pytest

from steady_tide.core.cameras.clips import draft_of
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadFile
from steady_tide.formats.frames_in import exposure_between, iso_of, usual_transfer
from steady_tide.formats.media_in import (
    Part,
    facts_of_bytes,
    facts_of_file,
    facts_of_part,
    frames_of_bytes,
    frames_of_file,
)
from tests.sample_media import clip, picture, still


@pytest.fixture(scope="module")
def folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    at = tmp_path_factory.mktemp("media")
    clip(at / "wide.mp4", 1920, 1080, "30000/1001", frames=12)
    clip(at / "deep.mp4", 1280, 720, "50", codec="libx265", deep=True)
    clip(at / "box.mkv", 640, 360, "25")
    still(at / "still.jpg")
    return at


def part_of(path: Path, head: int = 2_000, tail: int = 6_000) -> Part:
    data = path.read_bytes()
    head, tail = min(head, len(data)), min(tail, max(0, len(data) - head))
    return Part(path.name, len(data), data[:head], data[len(data) - tail :] if tail else b"", len(data) - tail)


def test_a_clip_says_its_size_rate_codec_and_depth(folder: Path) -> None:
    facts = facts_of_file(folder / "wide.mp4")
    assert (facts.kind, facts.width, facts.height, facts.codec, facts.bits) == ("clip", 1920, 1080, "h264", 8)
    assert facts.rate == pytest.approx(30000 / 1001)
    assert facts.written_rate == 29.97
    assert facts.seconds == pytest.approx(12 * 1001 / 30000, rel=0.1)
    deep = facts_of_file(folder / "deep.mp4")
    assert (deep.codec, deep.bits, deep.rate) == ("hevc", 10, 50)
    assert facts_of_file(folder / "box.mkv").rate == pytest.approx(25)


def test_a_still_says_its_lens_and_exposure(folder: Path) -> None:
    facts = facts_of_file(folder / "still.jpg")
    assert (facts.kind, facts.width, facts.height, facts.name) == ("still", 640, 480, "Periwinkle 2")
    assert facts.f_number == pytest.approx(2.8)
    assert facts.shutter_s == pytest.approx(1 / 200)
    assert (facts.iso, facts.equivalent_mm) == (400, 16)


def test_the_ends_of_a_file_say_the_same_as_the_whole(folder: Path) -> None:
    for name in ("wide.mp4", "deep.mp4"):
        whole, ends = facts_of_file(folder / name), facts_of_part(part_of(folder / name))
        for field in ("width", "height", "rate", "codec", "size_bytes", "frames"):
            assert getattr(whole, field) == getattr(ends, field), (name, field)


def test_a_draft_is_made_of_what_the_files_say(folder: Path) -> None:
    draft = draft_of([facts_of_file(folder / name) for name in ("wide.mp4", "deep.mp4", "still.jpg")])
    modes = {(mode["width"], mode["height"]): mode for mode in draft.sheet["modes"]}
    assert modes[1920, 1080]["rates"] == [29.97]
    assert modes[1920, 1080]["codecs"] == ["older"]
    assert modes[1280, 720]["bit_depths"] == [10]
    assert modes[1280, 720]["codecs"] == ["efficient"]
    assert draft.sheet["lenses"] == [{"id": "main", "f_numbers": [2.8]}]
    assert draft.sheet["name"] == "Periwinkle 2"
    assert draft.known.equivalent_mm == 16
    # 16 mm on 36 mm of film is 2.7 mm on 6.075 mm.
    assert draft.known.sensor_width_mm == pytest.approx(36 * 2.7 / 16, abs=0.01)
    assert any("View, stabilisation and profile" in text for _, text in draft.notes)


def test_frames_come_as_shares_of_the_largest_code(folder: Path) -> None:
    ramp = np.broadcast_to(np.linspace(0, 1, 300)[None, :, None], (80, 300, 3))
    eight, codes = frames_of_bytes("ramp.png", picture(ramp), 4)
    assert codes == 256
    assert eight.shape == (1, 80, 300, 3)
    assert eight[0] == pytest.approx(ramp, abs=0.003)
    sixteen, codes = frames_of_bytes("ramp16.png", picture(ramp, 16), 4)
    assert codes == 65_536
    assert sixteen[0] == pytest.approx(ramp, abs=1e-4)
    white, _ = frames_of_bytes("white.png", picture(np.ones((60, 60, 3))), 1)
    assert white.min() == 1.0, "clipped codes are seen as clipped"
    moving, _ = frames_of_file(folder / "wide.mp4", 5)
    assert len(moving) == 5
    assert moving.shape[1:] == (768, 768, 3), "the middle of the frame"


def test_ten_bits_of_a_clip_reach_from_black_to_white(tmp_path: Path) -> None:
    for level, share in ((255, 1.0), (128, 128 / 255), (0, 0.0)):
        path = tmp_path / f"level-{level}.mp4"
        clip(path, 128, 96, "25", codec="libx265", frames=6, deep=True, level=level)
        found, codes = frames_of_file(path, 1)
        assert codes == 1024
        assert found.mean() == pytest.approx(share, abs=0.004)


def test_what_files_say_of_iso_curve_and_exposure(folder: Path) -> None:
    shot = facts_of_file(folder / "still.jpg")
    longer = shot.model_copy(update={"shutter_s": 1 / 25, "iso": 800})
    assert exposure_between(longer, shot) == pytest.approx(4.0)
    assert exposure_between(longer, shot.model_copy(update={"iso": None})) is None
    assert iso_of(shot) == 400
    named = shot.model_copy(update={"iso": None, "file": "card_ISO-1600_2.png"})
    assert iso_of(named) == 1600
    assert iso_of(named.model_copy(update={"file": "a.png"})) is None
    assert [usual_transfer(shot, codes) for codes in (256, 65_536)] == ["srgb", "linear"]
    assert usual_transfer(facts_of_file(folder / "wide.mp4"), 256) == "rec709"


def bomb() -> bytes:
    """A PNG that says it is 60,000 x 60,000: a few kilobytes that would fill 10 GB."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    head = struct.pack(">IIBBBBB", 60_000, 60_000, 8, 2, 0, 0, 0)
    body = zlib.compress(b"\0" * 3_000_000)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", body) + chunk(b"IEND", b"")


PLAYLIST = b"#EXTM3U\n#EXTINF:1,\nfile:///etc/passwd\n"
HOSTILE = {
    "a playlist that names other files": PLAYLIST,
    "a list of files to join": b"ffconcat version 1.0\nfile '/etc/passwd'\n",
    "a page": b"<html><svg xmlns='http://www.w3.org/2000/svg'/></html>",
    "a program": b"\x7fELF" + b"\0" * 200,
    "an archive": b"PK\x03\x04" + b"\0" * 200,
    "an empty box": b"\0\0\0\x18ftypisom" + b"\0" * 12,
    "a box that says it is endless": b"\0\0\0\x18ftypisom" + b"\0" * 12 + b"\xff\xff\xff\xffmoov" + b"\xff" * 400,
    "a box within a box within a box": b"\0\0\0\x18ftypisom" + b"\0" * 12 + b"\0\0\x10\0moov" * 400,
    "a still cut off": b"\xff\xd8\xff\xe0" + b"\0" * 50,
    "a still with tags that go in circles": b"II*\0\x08\0\0\0\x01\0\x69\x87\x04\0\x01\0\0\0\x08\0\0\0\x08\0\0\0",
    "noise that begins like a stream": b"G" + bytes(range(256)) * 40,
    "a PNG that would fill the memory": bomb(),
}


@pytest.mark.parametrize("name", HOSTILE)
def test_hostile_and_broken_files_are_refused_in_time(name: str, tmp_path: Path) -> None:
    started = time.monotonic()
    path = tmp_path / "take.mp4"
    path.write_bytes(HOSTILE[name])
    refusals = []
    for read in (
        lambda: facts_of_file(path),
        lambda: facts_of_bytes(path.name, HOSTILE[name]),
        lambda: facts_of_part(Part(path.name, len(HOSTILE[name]), HOSTILE[name])),
        lambda: frames_of_bytes(path.name, HOSTILE[name], 2),
    ):
        with pytest.raises(BadFile) as refused:
            read()
        fault = refused.value.faults[0]
        assert fault.where == "take.mp4"
        assert fault.mend
        assert "Traceback" not in fault.what
        assert "/etc" not in fault.what
        refusals.append(fault)
    assert time.monotonic() - started < 60


@pytest.mark.parametrize("kept", [0.2, 0.6, 0.95])
def test_a_clip_that_was_cut_off_is_refused(folder: Path, kept: float, tmp_path: Path) -> None:
    data = (folder / "wide.mp4").read_bytes()
    path = tmp_path / "cut.mp4"
    path.write_bytes(data[: int(len(data) * kept)])
    with pytest.raises(BadFile, match=r"cut\.mp4"):
        facts_of_file(path)


def test_ten_gigabytes_are_refused_before_they_are_read(tmp_path: Path) -> None:
    path = tmp_path / "long.mp4"
    with path.open("wb") as file:
        file.truncate(10_000_000_000)  # a hole: it takes no room
    started = time.monotonic()
    with pytest.raises(BadFile, match=r"10\.0 GB; 8 GB is the most"):
        facts_of_file(path)
    with pytest.raises(BadFile, match="is the most"):
        frames_of_file(path, 1)
    with pytest.raises(BadFile, match="is the most"):
        facts_of_part(Part("long.mp4", 10_000_000_000, b"\0\0\0\x18ftypisom"))
    assert time.monotonic() - started < 1


def test_parts_that_do_not_fit_and_what_is_no_file_are_refused(tmp_path: Path) -> None:
    with pytest.raises(BadFile, match="shorter than its parts"):
        facts_of_part(Part("a.mp4", 10, b"\0\0\0\x18ftypisom" * 4))
    with pytest.raises(BadFile, match="is empty"):
        facts_of_part(Part("a.mp4", 0, b""))
    with pytest.raises(BadFile, match="cannot be read"):
        facts_of_file(tmp_path / "missing.mp4")
    with pytest.raises(BadFile):
        facts_of_file(tmp_path)


def test_reading_leaves_nothing_behind(folder: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("TMPDIR", str(tmp_path))
    facts_of_bytes("still.jpg", (folder / "still.jpg").read_bytes())
    with pytest.raises(BadFile):
        facts_of_bytes("x.mp4", HOSTILE["an empty box"])
    assert os.listdir(tmp_path) == []
    assert sizes.BODY_OF["/api/sheets/clips"] > sizes.CLIP_HEAD + sizes.CLIP_TAIL, "what the service takes at once"
