"""The shell command, run as a person would: exit codes, messages, files."""

from __future__ import annotations

import json
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest

from tests.briefs import EELGRASS, QUAY, SUN
from tests.shell import answer, steady_tide
from tests.small_sheet import small_sheet_data


def run(tmp_path: Path, brief: Any, *options: str) -> subprocess.CompletedProcess[str]:
    file = tmp_path / "brief.json"
    file.write_text(brief if isinstance(brief, str) else json.dumps(brief))
    return answer(tmp_path, "plan", str(file), *options)


def test_a_brief_becomes_a_sheet_with_reasons_and_a_price(tmp_path: Path) -> None:
    (tmp_path / "brief.json").write_text(json.dumps({"title": "Quay", "light": SUN, **QUAY}))
    done = steady_tide(tmp_path, "plan", "brief.json")
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
        ({"light": SUN, "scenario": "regatta"}, 2, "there is no scenario called 'regatta'"),
        ({"light": SUN, "pins": {"frame_rate": 7}}, 2, "no camera here offers 7"),
        ({"light": SUN, "pins": {"camera": "my-own"}}, 2, "there is no camera 'my-own' in the kit"),
        ({"light": SUN, "scenario": "lapse", "camera_move": {"mount": "fpv"}}, 3, "no camera in it can do this"),
        (
            {"light": SUN, "pins": {"frame_rate": 240, "frame": "5120x3840"}},
            3,
            "does not offer",
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
    done = steady_tide(tmp_path, "plan", "none.json")
    assert done.returncode == 2
    assert "cannot be read" in done.stderr


def shell(tmp_path: Path, *words: str) -> subprocess.CompletedProcess[str]:
    return answer(tmp_path, *words)


def test_cameras_are_listed_and_ranked_for_a_shot(tmp_path: Path) -> None:
    listed = json.loads(shell(tmp_path, "cameras", "--json").stdout)
    assert listed["total"] == 7
    (tmp_path / "brief.json").write_text(json.dumps({"light": SUN, **QUAY}))
    ranked = json.loads(shell(tmp_path, "cameras", "brief.json", "--json").stdout)["items"]
    able = [camera["given_up_stops"] for camera in ranked if camera["given_up_stops"] is not None]
    assert able == sorted(able)
    assert ranked[0]["id"] == "limpet-7"
    assert ranked[0]["values"]["nd"] == "ND 64"
    said = shell(tmp_path, "cameras", "brief.json").stdout.splitlines()
    assert said[0].split()[:3] == [f"{ranked[0]['given_up_stops']:.1f}", "Limpet", "7"]
    assert "stops more" in said[0]
    assert any(line.startswith("  no") and "It cannot be used in the hand" in line for line in said)


def test_one_dial_is_explained_with_all_its_values(tmp_path: Path) -> None:
    done = run(tmp_path, {"light": SUN, **QUAY}, "--explain", "nd")
    assert done.returncode == 0
    assert done.stdout.startswith("ND filter: ND 64")
    assert "> " in next(line for line in done.stdout.splitlines()[2:] if line.endswith(" ND 64"))
    as_json = json.loads(run(tmp_path, {"light": SUN, **QUAY}, "--explain", "shutter_s", "--json").stdout)
    assert as_json["value"] == "1/50 s"
    illegal = next(value for value in as_json["profile"] if value["value"] == 1)
    assert illegal["why_not"] == "Longer than a frame lasts."
    wrong = run(tmp_path, {"light": SUN}, "--explain", "colour")
    assert wrong.returncode == 2
    assert "there is no dial 'colour'" in wrong.stderr


def test_sheets_are_checked_with_every_fault_named(tmp_path: Path) -> None:
    good = tmp_path / "good.json"
    good.write_text(json.dumps(small_sheet_data()))
    assert "good. " in shell(tmp_path, "check-sheet", "good.json").stdout
    data = small_sheet_data()
    data["modes"][0]["lens"] = "third"
    data["iso"]["floors"] = [100, 100]
    (tmp_path / "bad.json").write_text(json.dumps(data))
    done = shell(tmp_path, "check-sheet", "good.json", "bad.json", "--json")
    assert done.returncode == 2
    faults = {fault["where"] for fault in json.loads(done.stdout)["faults"]}
    assert {"bad.json.modes[0].lens", "bad.json.iso.floors[1]"} <= faults
    assert "Traceback" not in done.stderr


def test_light_is_told_in_steps_that_add_up(tmp_path: Path) -> None:
    (tmp_path / "brief.json").write_text(json.dumps({"title": "Eelgrass", **EELGRASS}))
    said = json.loads(shell(tmp_path, "light", "brief.json", "--json").stdout)
    for end in (0, 1):
        assert sum(step["stops"][end] for step in said["steps"]) == pytest.approx(said["light"]["ev100"][end])
    plain = shell(tmp_path, "light", "brief.json").stdout
    assert "water overhead" in plain
    assert "red, green, blue" in plain


def test_a_day_is_told_and_printed_as_csv(tmp_path: Path) -> None:
    plain = shell(tmp_path, "day", "52.06", "1.31", "2026-10-11", "--tz", "Europe/London")
    assert "sun highest 30.8 degrees at 12:4" in plain.stdout
    assert "low sun" in plain.stdout
    table = shell(tmp_path, "day", "52.06", "1.31", "2026-10-25", "--tz", "Europe/London", "--csv").stdout.splitlines()
    assert len(table) == 1 + 25 * 60 + 1, "the clocks go back that night"
    south = shell(tmp_path, "day", "--", "-78", "15", "2026-06-21")
    assert "low sun" not in south.stdout
    for words, says in (
        (["52", "1", "2026-13-01"], "DATE"),
        (["52", "1", "2026-10-11", "--tz", "Sea/Bottom"], "--tz"),
        (["52", "1", "2026-10-11", "--cloud", "frogs"], "there is no sky 'frogs'"),
        (["52", "1", "3026-10-11"], "out of reach"),
    ):
        done = shell(tmp_path, "day", *words)
        assert done.returncode == 2
        assert says in done.stderr
        assert "Traceback" not in done.stderr


def test_a_water_is_told(tmp_path: Path) -> None:
    said = json.loads(shell(tmp_path, "water", "3C", "--depth", "3:7", "--json").stdout)
    assert said["shot_m"] == [3, 7]
    assert said["red_gone_m"] == pytest.approx(5.45, abs=0.1)
    magenta = next(entry for entry in said["filters"] if entry["id"] == "magenta")
    assert magenta["depth_m"][0] < 7 < magenta["depth_m"][1]
    assert "magenta" in shell(tmp_path, "water", "IB", "--depth", "10").stdout
    for words, says in (
        (["tea", "--depth", "1:2"], "no water type"),
        (["II", "--depth", "7:3"], "upside down"),
        (["II", "--depth", "deep"], "no pair of depths"),
    ):
        done = shell(tmp_path, "water", *words)
        assert (done.returncode, says in done.stderr) == (2, True), done.stderr


def outside(tmp_path: Path, *options: str, shoot: str | None = None) -> subprocess.CompletedProcess[str]:
    from steady_tide.formats.shoot_zip import write_shoot_json
    from tests.days import demo_shoot

    file = tmp_path / "shoot.json"
    file.write_text(write_shoot_json(demo_shoot(1)) if shoot is None else shoot)
    command, *rest = options
    return answer(tmp_path, command, str(file), *rest)


def test_a_budget_in_the_shell_and_what_would_mend_it(tmp_path: Path) -> None:
    done = outside(tmp_path, "budget", "--mend")
    assert done.returncode == 0, done.stderr
    assert "x Three hours of frost" in done.stdout
    assert "would do: cold-rated cells" in done.stdout
    said = json.loads(outside(tmp_path, "budget", "--json").stdout)
    assert said["cameras"][0]["first_fail"] == "2"


def test_presets_in_the_shell(tmp_path: Path) -> None:
    said = json.loads(outside(tmp_path, "presets", "--json").stdout)
    assert said["items"][0]["proven"]


def test_an_order_in_the_shell(tmp_path: Path) -> None:
    done = outside(tmp_path, "order", "--seconds", "5", "--json")
    assert done.returncode == 0, done.stderr
    said = json.loads(done.stdout)
    assert said["proven"]
    assert [place["title"] for place in said["shots"]] == ["Reed heads in the frost", "Three hours of frost"]


def test_an_impossible_day_in_the_shell(tmp_path: Path) -> None:
    from steady_tide.formats.shoot_zip import write_shoot_json
    from tests.days import demo_shoot

    shoot = json.loads(write_shoot_json(demo_shoot(1)))
    shoot["shots"][1]["wishes"] = {"within": ["low_sun"]}
    done = outside(tmp_path, "order", shoot=json.dumps(shoot))
    assert done.returncode == 3
    assert "cannot be had" in done.stdout
    assert "in the low sun" in done.stdout


def test_cards_in_the_shell(tmp_path: Path) -> None:
    done = outside(tmp_path, "card", "--pdf", "c.pdf", "--html", "c.html", "--paper", "a5")
    assert done.returncode == 0, done.stderr
    assert (tmp_path / "c.pdf").read_bytes().startswith(b"%PDF")
    assert (tmp_path / "c.html").read_text().count("<article ") == 2
    one = outside(tmp_path, "card", "--html", "one.html", "--shot", "2")
    assert "1 card written" in one.stdout


@pytest.mark.parametrize(
    ("shoot", "options", "says"),
    [
        ("{}", ("budget",), "is not a shoot"),
        ('{"format": "steady-tide/shoot", "version": 2}', ("presets",), "newer Steady Tide"),
        (None, ("card",), "nowhere to go"),
        (None, ("card", "--pdf", "x.pdf", "--paper", "a0"), "there is no 'a0'"),
        (None, ("card", "--pdf", "x.pdf", "--shot", "9"), "no planned shot 9"),
        (None, ("card", "--pdf", "x.pdf", "--camera", "kite"), "films nothing"),
        ('{"format": "steady-tide/shoot", "version": 1, "title": "x"}', ("order",), "the shoot its day"),
    ],
)
def test_what_cannot_be_done_outside_is_told(
    tmp_path: Path, shoot: str | None, options: tuple[str, ...], says: str
) -> None:
    done = outside(tmp_path, *options, shoot=shoot)
    assert done.returncode == 2
    assert says in done.stderr
    assert "Traceback" not in done.stderr


def test_the_panel_tells_what_an_operator_would_say_and_what_another_number_does(tmp_path: Path) -> None:
    env_free = shell(tmp_path, "panel", "polariser-river", "--all")
    assert env_free.returncode == 0, env_free.stderr
    assert "accepted whole: everyday/polariser-river" in env_free.stdout
    told = json.loads(shell(tmp_path, "panel", "polariser-river", "--set", "items.glare=0", "--json").stdout)
    assert told["shares"] == {"whole": 0, "changed": 1, "refused": 0}
    assert told["briefs"][0]["wanted"][0]["of"] == "polarised"
    briefs = tmp_path / "briefs"
    briefs.mkdir()
    (briefs / "mine.yaml").write_text(
        "- {id: quay, title: Quay, brief: {light: {kind: place, place: full_sun}},"
        " accepts: [{of: frame_rate, is: [25], why: The timeline.}]}\n"
    )
    own = shell(tmp_path, "panel", "--briefs", str(briefs), "--all")
    assert "accepted whole: mine/quay" in own.stdout


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("no-such-brief",), "no brief has such a name"),
        (("--briefs", "nowhere"), "is no folder"),
        (("--set", "items.nothing=2"), "names no number"),
        (("--set", "items.over=much"), "names no number"),
    ],
)
def test_the_panel_refuses_with_a_sentence(tmp_path: Path, words: tuple[str, ...], says: str) -> None:
    done = shell(tmp_path, "panel", *words)
    assert done.returncode == 2
    assert says in done.stderr


def test_a_brief_of_the_panel_that_is_wrong_is_named(tmp_path: Path) -> None:
    briefs = tmp_path / "briefs"
    briefs.mkdir()
    (briefs / "mine.yaml").write_text("- {id: quay, title: Quay, brief: {}, accepts: [{of: frame_rate, like: 2}]}\n")
    done = shell(tmp_path, "panel", "--briefs", str(briefs))
    assert done.returncode == 2
    assert "mine.yaml" in done.stderr
    assert "like" in done.stderr


def test_every_command_is_found_in_its_module_and_needs_no_other() -> None:
    from typer.main import get_command

    from steady_tide.cli import MODULE_OF, app, load

    load(None)
    commands = get_command(app).commands  # type: ignore[attr-defined]
    assert set(commands) == set(MODULE_OF)
    for name, command in commands.items():
        of = (
            command
            if command.callback is not None and not hasattr(command, "commands")
            else next(iter(command.commands.values()))
        )
        assert of.callback.__module__ == f"steady_tide.cli.{MODULE_OF[name]}", name


def test_the_planner_starts_without_what_the_service_needs() -> None:
    asked = (
        "import sys; from steady_tide.cli import load; load('plan');"
        "print([m for m in ('sqlalchemy', 'psycopg', 'alembic', 'fastapi', 'av', 'steady_tide.store') if m in sys.modules])"
    )
    told = subprocess.run([sys.executable, "-c", asked], capture_output=True, text=True, timeout=60)
    assert told.stdout.strip() == "[]", told.stderr
