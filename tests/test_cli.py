"""The shell command, run as a person would: exit codes, messages, files."""

from __future__ import annotations

import json
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest

from tests.briefs import QUAY, SUN
from tests.small_sheet import small_sheet_data

COMMAND = Path(sys.executable).with_name("steady-tide")


def run(tmp_path: Path, brief: Any, *options: str) -> subprocess.CompletedProcess[str]:
    file = tmp_path / "brief.json"
    file.write_text(brief if isinstance(brief, str) else json.dumps(brief))
    return subprocess.run(
        [str(COMMAND), "plan", str(file), *options], capture_output=True, text=True, timeout=60, cwd=tmp_path
    )


def test_a_brief_becomes_a_sheet_with_reasons_and_a_price(tmp_path: Path) -> None:
    done = run(tmp_path, {"title": "Quay", "light": SUN, **QUAY})
    assert done.returncode == 0, done.stderr
    assert "Quay: Limpet 7" in done.stdout
    assert "ND 64" in done.stdout
    assert "stops given up" in done.stdout


def test_the_whole_plan_as_json(tmp_path: Path) -> None:
    done = run(tmp_path, {"light": SUN}, "--json")
    plan = json.loads(done.stdout)
    assert plan["settings"]["frame_rate"] == 25
    assert set(plan) >= {
        "camera",
        "settings",
        "exposure",
        "ledger",
        "given_up_stops",
        "reasons",
        "profiles",
        "warnings",
        "cautions",
        "schools",
    }


def test_another_camera_from_a_sheet(tmp_path: Path) -> None:
    sheet = tmp_path / "mine.json"
    sheet.write_text(json.dumps(small_sheet_data()))
    done = run(tmp_path, {"light": SUN, **QUAY}, "--sheet", str(sheet), "--json")
    plan = json.loads(done.stdout)
    assert plan["camera"]["id"] == "periwinkle-2"
    assert plan["settings"]["nd"], "the crew's glass is tried on this camera, too"


def test_a_card_to_take_along(tmp_path: Path) -> None:
    done = run(tmp_path, {"title": "Quay", "light": SUN}, "--card", str(tmp_path / "card.html"))
    assert done.returncode == 0
    assert "<h1>Quay</h1>" in (tmp_path / "card.html").read_text()


@pytest.mark.parametrize(
    ("brief", "code", "says"),
    [
        ("{", 2, "is not JSON"),
        ("[]", 2, "a brief is a JSON object"),
        ({"light": SUN, "delivery": {"fps": 0}}, 2, "delivery.fps"),
        ({"light": {"kind": "meter", "ev100": [9, 3]}}, 2, "upside down"),
        ({"light": SUN, "camera_move": {"mount": "kite"}}, 2, "no mount called 'kite'"),
        ({"light": SUN, "scenario": "lapse"}, 2, "an interval film cannot be planned by this version"),
        ({"light": SUN, "pins": {"frame_rate": 7}}, 2, "does not offer 7"),
        (
            {"light": SUN, "pins": {"frame_rate": 240, "frame": "5312x4648"}},
            3,
            "frame rate 240 fps and frame 5312",
        ),
    ],
)
def test_what_cannot_be_planned_says_why_without_a_traceback(tmp_path: Path, brief: Any, code: int, says: str) -> None:
    done = run(tmp_path, brief)
    assert done.returncode == code
    assert says in done.stderr
    assert "Traceback" not in done.stderr
    assert done.stdout == ""


def test_a_sheet_that_contradicts_itself_names_file_and_path(tmp_path: Path) -> None:
    data = small_sheet_data()
    data["modes"][0]["rates"] = [25, 300]
    sheet = tmp_path / "mine.json"
    sheet.write_text(json.dumps(data))
    done = run(tmp_path, {"light": SUN}, "--sheet", str(sheet))
    assert done.returncode == 2
    assert "mine.json.modes[0].rates[1]" in done.stderr


def test_a_missing_file(tmp_path: Path) -> None:
    done = subprocess.run(
        [str(COMMAND), "plan", str(tmp_path / "none.json")], capture_output=True, text=True, timeout=60
    )
    assert done.returncode == 2
    assert "cannot be read" in done.stderr
