"""One's own gear in the shell: drafts, tables, noise and glass; and what is refused with its place."""

from __future__ import annotations

import json
from pathlib import Path

import numpy as np
import pytest

from steady_tide.formats.kit_file import load_sheet
from steady_tide.standins.grey_card import SimulatedSensor, grey_frame
from tests.briefs import QUAY, SUN
from tests.sample_media import clip, grey_card, picture, still
from tests.shell import answer, steady_tide

TABLE = 'Size,FPS,View\n3840x2160,"60,50,30,25","wide,linear"\n1920x1080,"240,120",wide\n'


def test_a_table_becomes_a_sheet_that_can_be_planned_with(tmp_path: Path) -> None:
    (tmp_path / "modes.csv").write_text(TABLE)
    done = steady_tide(
        tmp_path, "sheet", "table", "modes.csv", "--name", "Whelk 4", "--sensor", "1/2.3", "--out", "whelk.yaml"
    )
    assert done.returncode == 0, done.stderr
    assert "Whelk 4 (whelk-4): 6 modes" in done.stdout
    assert "of its numbers are estimates" in done.stdout
    sheet = load_sheet(tmp_path / "whelk.yaml")
    assert sheet.mode_count == 6
    assert steady_tide(tmp_path, "check-sheet", "whelk.yaml").returncode == 0
    (tmp_path / "brief.json").write_text(json.dumps({"light": SUN, **QUAY, "pins": {"camera": "whelk-4"}}))
    planned = steady_tide(tmp_path, "plan", "brief.json", "--sheet", "whelk.yaml")
    assert planned.returncode == 0, planned.stderr
    assert "Whelk 4" in planned.stdout
    assert "estimate" in planned.stdout


def test_clips_and_stills_become_a_sheet(tmp_path: Path) -> None:
    clip(tmp_path / "a.mp4", 1920, 1080, "30000/1001")
    still(tmp_path / "s.jpg")
    done = steady_tide(tmp_path, "sheet", "draft", "a.mp4", "s.jpg", "--json")
    assert done.returncode == 0, done.stderr
    sheet = json.loads(done.stdout)
    assert sheet["name"] == "Periwinkle 2"
    assert [(mode["width"], mode["rates"]) for mode in sheet["modes"]] == [(1920, [29.97])]
    assert sheet["lenses"][0]["f_numbers"] == [2.8]


def test_noise_and_density_are_measured(tmp_path: Path) -> None:
    frames = grey_card(tmp_path, SimulatedSensor(read_noise_e=2.7, full_well_e=5600.0))
    said = json.loads(answer(tmp_path, "measure", "noise", *(path.name for path in frames), "--json").stdout)
    assert said["read_noise_e"] == pytest.approx(2.7, rel=0.05)
    assert said["full_well_e"] == pytest.approx(5600, rel=0.05)

    rng = np.random.default_rng(4)
    sensor = SimulatedSensor(read_noise_e=2.0, full_well_e=8000.0)
    for name, level in (("bare.png", 0.4), ("behind.png", 0.4 * 2**-0.9)):
        (tmp_path / name).write_bytes(picture(grey_frame(sensor, 100, rng, level=level, transfer="srgb", codes=256)))
    told = steady_tide(tmp_path, "measure", "nd", "behind.png", "bare.png", "--exposure", "2")
    assert told.returncode == 0, told.stderr
    assert told.stdout.startswith("density 2.9")
    alike = answer(tmp_path, "measure", "nd", "behind.png", "bare.png")
    assert "taken to be exposed alike" in alike.stdout


@pytest.mark.parametrize(
    ("command", "says"),
    [
        (("sheet", "table", "missing.csv"), "missing.csv"),
        (("sheet", "table", "diary.txt"), "no line of it names a frame size"),
        (("sheet", "table", "modes.csv", "--kind", "balloon"), "there is no 'balloon'"),
        (("sheet", "table", "modes.csv", "--sensor", "large"), "known.sensor_type"),
        (("sheet", "draft", "diary.txt"), "neither a clip nor a still"),
        (("sheet", "draft", "long.mp4"), "10.0 GB"),
        (("measure", "noise", "diary.txt"), "neither a clip nor a still"),
        (("measure", "noise", "card.png"), "does not say its ISO"),
        (("measure", "noise", "card.png", "--iso", "100"), "usable ISO steps"),
        (("measure", "noise", "card.png", "--iso", "low"), "--iso"),
        (("measure", "nd", "card.png", "card.png", "--transfer", "log"), "there is no 'log'"),
    ],
)
def test_what_cannot_be_done_is_told(tmp_path: Path, command: tuple[str, ...], says: str) -> None:
    (tmp_path / "modes.csv").write_text(TABLE)
    (tmp_path / "diary.txt").write_text("It rained, and the tide was late.\n")
    (tmp_path / "card.png").write_bytes(picture(np.full((64, 64, 3), 0.5)))
    with (tmp_path / "long.mp4").open("wb") as file:
        file.truncate(10_000_000_000)
    done = answer(tmp_path, *command)
    assert done.returncode == 2, done.stdout
    assert says in done.stderr
    assert "Traceback" not in done.stderr
