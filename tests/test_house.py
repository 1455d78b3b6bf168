"""The house itself: layers, documents, locks, and what must not stand in it."""

from __future__ import annotations

import json
import re
import subprocess
from pathlib import Path

import numpy as np
import pytest

from steady_tide import library
from steady_tide.core.kit import KINDS
from steady_tide.core.outing import day_task
from steady_tide.core.outing.schedule import LIGHT_WINDOWS
from steady_tide.core.planning.dials import dials_of
from steady_tide.core.planning.situation import situation
from steady_tide.core.sheet import DIALS
from steady_tide.formats.media_in import HEAD_BYTES, LARGEST_FILE_BYTES, TAIL_BYTES
from steady_tide.formats.shoot_zip import write_shoot_json
from steady_tide.formats.shots_csv import COLUMNS, SHOWN_ONLY
from steady_tide.standins.grey_card import SimulatedSensor
from tests.briefs import brief
from tests.days import demo_shoot
from tests.sample_media import clip, grey_card, picture, still
from tests.shell import answer, steady_tide
from tests.small_sheet import laid_out, small_sheet, small_sheet_data

ROOT = Path(__file__).parents[1]


def tracked(*patterns: str) -> list[Path]:
    listed = subprocess.run(
        ["git", "ls-files", "-co", "--exclude-standard", *patterns], cwd=ROOT, capture_output=True, text=True
    )
    return [ROOT / line for line in listed.stdout.splitlines() if (ROOT / line).is_file()]


@pytest.mark.parametrize("lock", ["requirements.lock", "requirements-dev.lock"])
def test_python_locks_are_pinned_with_hashes_and_name_no_host(lock: str) -> None:
    text = (ROOT / lock).read_text()
    assert "://" not in re.sub(r"#.*", "", text)
    for package in re.findall(r"^([a-z0-9-]+)(?:\[[^\]]*\])?==", text, re.M):
        assert re.search(rf"^{package}(?:\[[^\]]*\])?==[^\n]+\\\n\s+--hash=sha256:", text, re.M), package


def test_the_run_time_lock_agrees_with_the_test_lock() -> None:
    versions = [
        dict(re.findall(r"^([a-z0-9-]+)(?:\[[^\]]*\])?==(\S+)", (ROOT / lock).read_text(), re.M))
        for lock in ("requirements.lock", "requirements-dev.lock")
    ]
    assert versions[0].items() <= versions[1].items()


def test_the_front_end_lock_names_no_host() -> None:
    lock = (ROOT / "web" / "package-lock.json").read_text()
    assert '"resolved"' not in lock
    packages = json.loads(lock)["packages"]
    assert all("integrity" in entry for name, entry in packages.items() if name)


def test_every_dial_of_the_sheet_is_a_dial_of_the_planner() -> None:
    space = laid_out(small_sheet(), situation(brief(), library.knowledge()))
    listed = [dial.id for dial in dials_of(space).values() if dial.listed]
    assert sorted(listed) == sorted(DIALS)


def test_the_bench_shows_every_dial_once() -> None:
    rows = (ROOT / "web/src/stations/bench/rows.ts").read_text()
    shown = re.findall(r'"(\w+)"', " ".join(re.findall(r"dials: \[([^\]]*)\]", rows)))
    assert sorted(shown) == sorted(DIALS)


def test_shortcuts_do_not_clash_and_every_row_has_one() -> None:
    text = (ROOT / "web/src/app/shortcuts.ts").read_text()
    entries = re.findall(r'id: "([\w-]+)", key: "(.)", says: "[^"]+", where: "(\w+)"', text)
    assert len(entries) >= 20
    for where in ("bench", "shoots", "card", "kit"):
        keys = [key for _, key, station in entries if station in (where, "anywhere")]
        assert len(keys) == len(set(keys)), where
    rows = set(re.findall(r'key: "(row-\w+)"', (ROOT / "web/src/stations/bench/rows.ts").read_text()))
    assert rows == {name for name, _, _ in entries if name.startswith("row-")}


def test_every_public_function_of_the_core_says_what_it_does() -> None:
    for file in (ROOT / "steady_tide/core").rglob("*.py"):
        for found in re.finditer(r'^def ([a-z]\w*)\((?:.|\n)*?\) -> [^\n]*:\n(\s+""")?', file.read_text(), re.M):
            assert found.group(2), f"{file.name}: {found.group(1)} has no summary"


@pytest.mark.parametrize(
    "document",
    [
        "README.md",
        "CONTRIBUTING.md",
        "CHANGELOG.md",
        "docs/planning.md",
        "docs/light.md",
        "docs/light-meter.md",
        "docs/outside.md",
        "docs/kit.md",
    ],
)
def test_links_and_pictures_of_the_documents_exist(document: str) -> None:
    text = (ROOT / document).read_text()
    for target in re.findall(r"\]\(([^)#\s]+)\)", text):
        assert (ROOT / document).parent.joinpath(target).exists(), target


def own_gear(folder: Path) -> None:
    """The files that the examples of one's own gear name."""
    (folder / "modes.csv").write_text('Size,FPS,View\n4K 16:9,"60, 50, 30, 25",wide\n1080p,"240, 120",wide\n')
    clip(folder / "clip.mp4", 1920, 1080, "30")
    still(folder / "still.jpg")
    grey_card(folder, SimulatedSensor(read_noise_e=2.7, full_well_e=5600.0))
    for name, level in (("without.png", 0.4), ("with.png", 0.38)):
        (folder / name).write_bytes(picture(np.full((120, 160, 3), level)))


def test_every_field_of_every_kind_of_gear_stands_in_its_form() -> None:
    text = (ROOT / "web/src/stations/kit/kinds.ts").read_text()
    for kind, model in KINDS.items():
        part = text[text.index(f"\n  {kind}: {{") :]
        part = part[: part.index("\n  },\n")]
        shown = set(re.findall(r'path: "(\w+)"', part)) | ({"count"} if "COUNT" in part else set())
        assert shown == set(model.model_fields) - {"id", "name"}, kind


def test_every_source_that_is_named_stands_in_the_bibliography() -> None:
    named = {
        key
        for file in (ROOT / "steady_tide").rglob("*.py")
        for key in re.findall(r"\b[Ss]ource: ([a-z]+[0-9-][a-z0-9-]*)", file.read_text())
    }
    assert named >= {"photon-transfer", "iso2720", "sd-speed"}
    assert named <= set(library.knowledge().weights.sources)


def test_the_page_on_gear_says_the_limits_that_hold() -> None:
    text = (ROOT / "docs" / "kit.md").read_text()
    assert f"first {HEAD_BYTES // 1_000_000} MB and the last {TAIL_BYTES // 1_000_000} MB" in text
    assert f"above {LARGEST_FILE_BYTES // 1_000_000_000} GB" in text
    for word in ("ultra wide", "linear level", "strongest", "mezzanine"):
        assert word in text


def test_the_shell_examples_of_the_readme_run(tmp_path: Path) -> None:
    text = (ROOT / "README.md").read_text()
    brief = re.search(r"```json\n(.*?)```", text, re.S)
    shown = re.search(r"```text\n(.*?)```", text, re.S)
    commands = re.findall(r"^\.venv/bin/steady-tide (.+?)(?:\s+#.*)?$", text, re.M)
    assert brief
    assert shown
    assert len(commands) >= 7
    (tmp_path / commands[0].split()[-1]).write_text(brief.group(1))
    (tmp_path / "mine.json").write_text(json.dumps(small_sheet_data()))
    (tmp_path / "shoot.json").write_text(write_shoot_json(demo_shoot(1)))
    own_gear(tmp_path)
    printed = []
    for number, command in enumerate(commands):
        done = (steady_tide if number == 0 else answer)(tmp_path, *command.split())
        assert done.returncode == 0, (command, done.stderr)
        printed.append(done.stdout)
    for line in shown.group(1).splitlines():
        if line.strip() and not line.startswith("..."):
            assert line.rstrip() in printed[0], line


def test_the_checks_of_the_light_stand_in_its_page_as_they_come_out() -> None:
    made = subprocess.run(
        [str(ROOT / ".venv/bin/python"), "scripts/light_checks.py"],
        cwd=ROOT,
        capture_output=True,
        text=True,
        timeout=60,
    )
    assert made.returncode == 0, made.stderr
    assert made.stdout.strip() in (ROOT / "docs" / "light.md").read_text()


def test_the_page_on_going_outside_names_every_column_window_and_price() -> None:
    text = (ROOT / "docs" / "outside.md").read_text()
    for name in (*COLUMNS, *SHOWN_ONLY, *LIGHT_WINDOWS):
        assert f"`{name}`" in text, name
    prices = {
        "moved from where it stands": day_task.MOVED_STOPS_PER_H,
        "on the way, and changing over": day_task.ON_THE_WAY_STOPS_PER_H,
        "a housing opened or closed": day_task.OPENED_HOUSING_STOPS,
        "the day ends later": day_task.LATER_STOPS_PER_H,
    }
    for what, stops in prices.items():
        assert re.search(rf"\| {what} \| {stops:g}( |$)", text, re.M), what


def test_no_path_of_a_machine_and_no_registry_is_committed() -> None:
    forbidden = re.compile(r"/root/|/home/|/work/|pypi\.|npmjs\.|registry\.", re.I)
    for file in tracked():
        if file.suffix in {".woff2", ".ttf", ".png"} or file.name in {
            "package-lock.json",
            "test_house.py",
            "requirements.lock",
            "requirements-dev.lock",
        }:
            continue
        found = forbidden.search(file.read_text(errors="ignore"))
        assert not found, f"{file}: {found.group(0) if found else ''}"
