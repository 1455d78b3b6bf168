"""Look in the shell: a frame and a film as files, their numbers, and what is refused."""

from __future__ import annotations

import json
from pathlib import Path

import av
import pytest
from PIL import Image

from tests.briefs import LANTERNS
from tests.shell import answer, steady_tide

NIGHT = {"title": "Punts", "light": LANTERNS, "scenario": "low_light"}


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    (tmp_path / "brief.json").write_text(json.dumps(NIGHT))
    return tmp_path


def test_a_frame_is_written_and_told(folder: Path) -> None:
    done = steady_tide(folder, "look", "brief.json", "--out", "frame.png", "--at", "dim")
    assert done.returncode == 0, done.stderr
    with Image.open(folder / "frame.png") as image:
        assert image.size == (960, 540)
    assert "signal to noise, grey" in done.stdout
    assert "A drawn scene through your camera's numbers" in done.stdout


def test_numbers_are_printed_as_json(folder: Path) -> None:
    said = json.loads(answer(folder, "look", "brief.json", "--json", "--width", "320", "--at", "dim").stdout)
    (frame,) = said["frames"]
    assert frame["file"] is None
    assert frame["snr_grey"] == pytest.approx(frame["snr_plan"], rel=0.1)
    assert frame["blur_px"] == pytest.approx(frame["blur_plan_px"], abs=0.3)
    assert frame["bits_per_pixel"] == pytest.approx(frame["bits_plan"], rel=0.15)
    assert 0.0 <= frame["white_share"] < 0.1
    assert 0.0 <= frame["black_share"] <= 1.0
    assert len(frame["cast_stops"]) == 2


def test_pins_limits_and_seeds(folder: Path) -> None:
    def frame(*more: str) -> dict[str, float]:
        done = answer(folder, "look", "brief.json", "--json", "--width", "160", "--at", "dim", *more)
        assert done.returncode == 0, done.stderr
        found: dict[str, float] = json.loads(done.stdout)["frames"][0]
        return found

    low, high = (frame("--pin", "camera=limpet-7", "--pin", f"iso_ceiling={iso}") for iso in (800, 1600))
    assert high["over_stops"] == pytest.approx(low["over_stops"] + 1.0)
    assert low["snr_grey"] < high["snr_grey"], "as much light in both, and less noise of reading at the higher gain"
    briefly, long = (frame("--pin", "camera=limpet-7", "--pin", f"shutter_s={shutter}") for shutter in (0.005, 0.02))
    assert long["snr_grey"] > 1.9 * briefly["snr_grey"]
    before, now = (frame("--pin", "camera=limpet-7", "--pin", f"view={view}") for view in ("narrow", "tight"))
    assert before == now, "views by the names of earlier versions"
    one, other = frame("--seed", "1"), frame("--seed", "2")
    assert one["snr_grey"] != other["snr_grey"]
    assert one["snr_grey"] == pytest.approx(other["snr_grey"], rel=0.1)
    assert {key: one[key] for key in ("iso", "shutter_s", "over_stops", "snr_plan")} == {
        key: other[key] for key in ("iso", "shutter_s", "over_stops", "snr_plan")
    }


def test_a_loupe_and_a_film_are_written(folder: Path) -> None:
    done = answer(
        folder,
        "look",
        "brief.json",
        "--out",
        "near.webp",
        "--loupe",
        "--recorded",
        "--clip",
        "two.mp4",
        "--width",
        "96",
    )
    assert done.returncode == 0, done.stderr
    with Image.open(folder / "near.webp") as image:
        assert (image.format, image.size) == ("WEBP", (96, 54))
    with av.open(str(folder / "two.mp4")) as box:
        assert sum(1 for _ in box.decode(video=0)) == 50


@pytest.mark.parametrize(
    ("more", "code", "says"),
    [
        ([], 2, "nothing would be drawn"),
        (["--out", "frame.gif"], 2, "Use .png or .webp"),
        (["--out", "no/such/frame.png", "--width", "96"], 2, "cannot be written"),
        (["--json", "--pin", "iso_ceiling"], 2, "DIAL=VALUE"),
        (["--json", "--pin", "iso_ceiling=77"], 2, "offers 77"),
        (["--json", "--scene", "castle"], 2, "no scene called 'castle'"),
        (["--json", "--pin", "camera=limpet-7", "--pin", "frame_rate=50", "--pin", "shutter_s=0.04"], 3, "shutter"),
    ],
)
def test_what_cannot_be_is_refused(folder: Path, more: list[str], code: int, says: str) -> None:
    done = answer(folder, "look", "brief.json", *more)
    assert done.returncode == code, (done.stdout, done.stderr)
    assert says in done.stderr
