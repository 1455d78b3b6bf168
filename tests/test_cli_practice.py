"""Practice in the shell."""

from __future__ import annotations

import json
import subprocess
from pathlib import Path

import pytest

from tests.shell import COMMAND, answer


def practise(folder: Path, said: str, *words: str) -> subprocess.CompletedProcess[str]:
    """Practise with answers typed in advance."""
    asked = [str(COMMAND), "practice", *words]
    return subprocess.run(asked, input=said, capture_output=True, text=True, timeout=240, cwd=folder)


def test_a_session_is_remembered_and_asked_again_when_it_is_due(tmp_path: Path) -> None:
    told = answer(tmp_path, "practice", "--kind", "arithmetic", "--show", "6", "--seed", "9", "--json")
    questions = json.loads(told.stdout)["questions"]
    assert len(questions) == 6
    typed = [str(question["best"]) for question in questions[:2]] + ["what", "1000000"]
    words = ("--kind", "arithmetic", "--seed", "9", "--state", "mine.json")
    done = practise(tmp_path, "\n".join([*typed, "", ""]), *words)
    assert done.returncode == 0, done.stderr
    assert "0 known, 0 due, 6 not asked yet" in done.stdout
    assert done.stdout.count("Right: ") == 2
    assert "'what' cannot be read" in done.stdout
    assert "2 of 3 right. 2 known, 0 due, 3 not asked yet." in done.stdout
    assert set(json.loads((tmp_path / "mine.json").read_text())) == {question["topic"] for question in questions[:3]}
    assert "2 known, 0 due, 3 not asked yet" in practise(tmp_path, "\n", *words).stdout


def test_questions_with_their_answers_in_words(tmp_path: Path) -> None:
    said = answer(tmp_path, "practice", "--camera", "limpet-7", "--show", "8", "--seed", "3").stdout
    assert said.count("Right: ") == 8
    assert "set these dials" in said
    assert "on which page" in said


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("--kind", "juggling"), "there is no kind"),
        (("--camera", "nobody"), "there is no camera"),
        (("--state", "broken.json"), "is not what practice wrote"),
        (("--state", "list.json"), "it holds no topics"),
    ],
)
def test_what_cannot_be_is_said(tmp_path: Path, words: tuple[str, ...], says: str) -> None:
    (tmp_path / "broken.json").write_text("{")
    (tmp_path / "list.json").write_text("[]")
    done = answer(tmp_path, "practice", *words)
    assert done.returncode == 2
    assert says in done.stderr


def test_a_frame_is_told_by_its_measures_and_a_deck_that_is_none_is_refused(tmp_path: Path) -> None:
    said = answer(
        tmp_path,
        "practice",
        "--kind",
        "wrong",
        "--deck",
        "scenario:motion",
        "--camera",
        "limpet-7",
        "--show",
        "2",
        "--seed",
        "4",
    ).stdout
    assert said.count("what is wrong with this ") == 2
    assert said.count("Mid grey is exposed") >= 2
    refused = practise(tmp_path, "", "--deck", "juggling")
    assert refused.returncode != 0
    assert "there is no deck 'juggling'" in refused.stderr
    assert "scenario:underwater" in refused.stderr
