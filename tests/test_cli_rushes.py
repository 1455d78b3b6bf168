"""Footage in the shell: measured, or refused with its name; one bad file never stops the others."""

from __future__ import annotations

import json
import os
from pathlib import Path

import numpy as np
import pytest

from steady_tide.core.quantities.errors import BadFile
from steady_tide.formats.rushes_in import Stopped, measure_clip
from tests.briefs import SUN
from tests.footage import film, view
from tests.shell import answer, steady_tide


@pytest.fixture(scope="module")
def clip(tmp_path_factory: pytest.TempPathFactory) -> Path:
    return film(tmp_path_factory.mktemp("clips") / "walk.mp4", [view(1, 20 + 3 * n, 40) for n in range(20)])


def test_a_clip_is_told_and_printed_as_json(clip: Path) -> None:
    told = steady_tide(clip.parent, "rushes", "walk.mp4", "--field", "60")
    assert told.returncode == 0, told.stderr
    assert "walk.mp4: 384" in told.stdout
    assert "median brightness" in told.stdout
    said = json.loads(answer(clip.parent, "rushes", "walk.mp4", "--field", "60", "--json").stdout)
    (one,) = said["clips"]
    assert one["motion"]["pan_px"] == pytest.approx(3.0, abs=0.3)
    assert one["motion"]["pan_deg_s"] == pytest.approx(3.0 * 25 / (384 / 60), rel=0.1)
    assert one["sound"] is None
    assert all(set(doubt) == {"field", "why"} for doubt in one["doubts"])


def test_bad_files_are_named_and_the_others_are_measured(clip: Path, tmp_path: Path) -> None:
    whole = clip.read_bytes()
    bad = {
        "text.mp4": b"this is no clip" * 40,
        "cut.mp4": whole[: len(whole) // 3],
        "empty.mp4": b"",
        "still.mp4": b"\x89PNG\r\n\x1a\n" + bytes(200),
        "noise\nin a name.mp4": whole[:40] + os.urandom(4000),
    }
    for name, data in bad.items():
        (tmp_path / name).write_bytes(data)
    (tmp_path / "folder.mp4").mkdir()
    names = [*bad, "folder.mp4", "gone.mp4"]
    done = answer(tmp_path, "rushes", *names[:4], str(clip), *names[4:], "--json")
    assert done.returncode == 2
    assert len(json.loads(done.stdout)["clips"]) == 1
    said = done.stderr.strip().splitlines()
    assert len(said) >= len(names)
    for name in names:
        assert name.split("\n")[0] in done.stderr
    assert "Traceback" not in done.stderr


def test_a_clip_that_ends_early_is_measured_as_far_as_it_goes(clip: Path, tmp_path: Path) -> None:
    # Its index comes first, and then a part of its frames.
    import av

    whole = tmp_path / "whole.mkv"
    with av.open(str(clip)) as box, av.open(str(whole), "w", format="matroska") as out:
        source = box.streams.video[0]
        stream = out.add_stream_from_template(source)
        for packet in box.demux(source):
            if packet.dts is not None:
                packet.stream = stream
                out.mux(packet)
    cut = tmp_path / "cut.mkv"
    cut.write_bytes(whole.read_bytes()[: whole.stat().st_size * 2 // 3])
    found = measure_clip(cut).measures
    assert 2 < found.frames_measured < 20
    assert found.exposure.median_stops is not None


def test_measuring_can_be_stopped(tmp_path: Path) -> None:
    from threading import Event

    stopped = Event()
    path = film(tmp_path / "a.mp4", [view(1, n, 0) for n in range(20)])
    stopped.set()
    with pytest.raises(Stopped):
        measure_clip(path, stopped=stopped)
    shares: list[float] = []
    assert (
        measure_clip(
            film(tmp_path / "b.mp4", [view(1, n, 0) for n in range(30)]), tell=shares.append
        ).measures.frames_measured
        == 30
    )
    assert shares
    assert max(shares) <= 1.0


def test_a_clip_without_a_picture_is_refused(tmp_path: Path) -> None:
    import av

    path = tmp_path / "sound.mp4"
    with av.open(str(path), "w") as box:
        audio = box.add_stream("aac", rate=48_000)
        part = av.AudioFrame.from_ndarray(np.zeros((2, 1024), dtype=np.float32), format="fltp", layout="stereo")
        part.sample_rate = 48_000
        for packet in (*audio.encode(part), *audio.encode(None)):  # type: ignore[union-attr]
            box.mux(packet)
    with pytest.raises(BadFile, match="no picture"):
        measure_clip(path)


def test_a_clip_is_held_against_its_plan(clip: Path) -> None:
    brief = {"light": SUN, "delivery": {"width": 384, "height": 216, "fps": 25}}
    (clip.parent / "brief.json").write_text(json.dumps(brief))
    (clip.parent / "plan.json").write_text(answer(clip.parent, "plan", "brief.json", "--json").stdout)
    told = answer(clip.parent, "rushes", "walk.mp4", "--plan", "plan.json")
    assert told.returncode == 0, told.stderr
    assert "otherwise: width 384" in told.stdout
    said = json.loads(answer(clip.parent, "rushes", "walk.mp4", "--plan", "plan.json", "--json").stdout)["clips"][0]
    assert {"width", "height", "frame_rate"} <= {entry["item"] for entry in said["against"]}
    assert said["motion"]["pan_deg_s"] is not None
    refused = answer(clip.parent, "rushes", "walk.mp4", "--plan", "brief.json")
    assert refused.returncode == 2
    assert "is no plan" in refused.stderr


def test_a_profile_is_undone_by_the_sheets_curve_or_a_typical_one(clip: Path) -> None:
    def median(*words: str) -> tuple[float, list[str]]:
        done = answer(clip.parent, "rushes", "walk.mp4", *words, "--json")
        assert done.returncode == 0, done.stderr
        (one,) = json.loads(done.stdout)["clips"]
        return one["exposure"]["median_stops"], [doubt["why"] for doubt in one["doubts"]]

    plain, why = median()
    assert not any("typical" in said for said in why)
    flat, why = median("--camera", "limpet-7", "--profile", "flat")
    assert any("typical" in said for said in why)
    assert abs(flat - plain) > 0.1
    natural, _ = median("--camera", "limpet-7", "--profile", "natural")
    assert natural == pytest.approx(plain, abs=0.01)


@pytest.mark.parametrize(
    "words", [("--profile", "flat"), ("--camera", "none"), ("--camera", "limpet-7", "--profile", "sepia")]
)
def test_a_camera_or_profile_that_is_not_there_is_refused(clip: Path, words: tuple[str, ...]) -> None:
    done = answer(clip.parent, "rushes", "walk.mp4", *words)
    assert done.returncode == 2
    assert words[-2] in done.stderr or words[0] in done.stderr


def test_a_quick_look_says_so_where_it_is_one(clip: Path) -> None:
    done = answer(clip.parent, "rushes", "walk.mp4", "--quick", "--json")
    (one,) = json.loads(done.stdout)["clips"]
    assert one["quick"] is False
    assert one["frames_measured"] == 20


def test_a_worker_needs_a_database(tmp_path: Path) -> None:
    done = answer(tmp_path, "worker")
    assert done.returncode == 2
    assert "--database" in done.stderr
