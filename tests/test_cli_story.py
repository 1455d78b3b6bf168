"""Story and edit in the shell: films, notes, tables and assemblies from a shoot's file alone, and with a log."""

from __future__ import annotations

import json
from pathlib import Path

import opentimelineio as otio
import pytest

from steady_tide.formats.shoot_zip import write_shoot_json
from tests.films import mill_shoot
from tests.shell import answer, steady_tide


@pytest.fixture(scope="module")
def folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    made = tmp_path_factory.mktemp("story")
    shoot = mill_shoot()
    (made / "mill.json").write_text(write_shoot_json(shoot))
    (made / "bare.json").write_text(write_shoot_json(shoot.model_copy(update={"films": (), "shots": ()})))
    title = shoot.shots[0].brief.title
    take = {
        "id": "0b1f5a1e-3a55-4d62-9c7e-5f0e6a0f2b18",
        "shoot": "Mill",
        "shot": title,
        "said": {"at": "2026-10-18T11:02:00Z", "rating": "keep", "seconds": 15.0},
    }
    log = {"format": "steady-tide/log", "version": 1, "takes": [take]}
    (made / "log.json").write_text(json.dumps(log))
    return made


def test_the_command_itself_prints_a_film(folder: Path) -> None:
    done = steady_tide(folder, "story", "mill.json")
    assert done.returncode == 0, done.stderr
    assert "The mill wakes: a film of 20" in done.stdout
    assert "16 cut lengths" in done.stdout
    assert "Before it cuts" in done.stdout


def test_films_as_json_and_with_the_takes_of_a_log(folder: Path) -> None:
    bare = json.loads(answer(folder, "story", "mill.json", "--json").stdout)["films"][0]
    logged = json.loads(answer(folder, "story", "mill.json", "--log", "log.json", "--json").stdout)["films"][0]
    assert (bare["told"]["filmed"], logged["told"]["filmed"]) == (0, 1)
    assert bare["told"]["strip"]["frames"] == 500
    assert [one["state"] for one in logged["told"]["framings"]].count("kept") == 1


def test_a_shoot_without_a_film_says_where_to_begin_one(folder: Path) -> None:
    assert "Begin one under Story" in answer(folder, "story", "bare.json").stdout


def test_everything_that_the_edit_takes_along(folder: Path) -> None:
    done = answer(
        folder, "edit", "mill.json", "--log", "log.json", "--luts", "luts", "--otio", "a.otio", "--edl", "a.edl", "--notes", "n.md", "--csv", "n.csv",
        "--look", "morning",
    )  # fmt: skip
    assert done.returncode == 0, done.stderr
    assert "Group A" in done.stdout
    shots = len(mill_shoot().shots)
    names = {path.name for path in (folder / "luts").iterdir()}
    assert {f"shot-{number}.cube" for number in range(1, shots + 1)} <= names
    assert any(name.startswith("display-") for name in names)
    timeline = otio.adapters.read_from_file(str(folder / "a.otio"))
    assert timeline.duration().value == 500
    assert timeline.tracks[0][0].metadata["steady_tide"]["take"] is not None
    assert otio.adapters.read_from_file(str(folder / "a.edl"), rate=25).duration().value == 500
    assert (folder / "n.md").read_text().startswith("# Edit notes: Mill")
    assert len((folder / "n.csv").read_text().splitlines()) == 1 + shots
    assert json.loads(answer(folder, "edit", "mill.json", "--json").stdout)["groups"]


def test_a_table_says_how_exact_it_is(folder: Path) -> None:
    done = answer(folder, "lut", "display", "--camera", "yawl-12", "--profile", "log", "--out", "log.cube")
    assert done.returncode == 0, done.stderr
    assert "codes of 10 bit at most" in done.stdout
    assert "LUT_3D_SIZE 33" in (folder / "log.cube").read_text()[:200]
    answer(folder, "lut", "display", "--camera", "yawl-12", "--profile", "log", "--out", "s.cube", "--shaped")
    assert "LUT_1D_SIZE 4096" in (folder / "s.cube").read_text()[:200]


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("story", "nothing.json"), "cannot be read"),
        (("edit", "mill.json", "--film", "3", "--otio", "x.otio"), "Give one from 1 to 1"),
        (("edit", "mill.json", "--look", "tartan"), "there is no look"),
        (("edit", "bare.json", "--otio", "x.otio"), "nothing to assemble"),
        (("edit", "mill.json", "--notes", "no/such/folder.md"), "cannot be written"),
        (("lut", "display", "--camera", "nobody", "--profile", "log", "--out", "x.cube"), "there is no camera"),
        (("lut", "display", "--camera", "yawl-12", "--profile", "sepia", "--out", "x.cube"), "has no profile"),
        (("edit", "mill.json", "--log", "mill.json"), "log"),
    ],
)
def test_bad_input_is_told_plainly(folder: Path, words: tuple[str, ...], says: str) -> None:
    done = answer(folder, *words)
    assert done.returncode == 2
    assert says in done.stderr
