"""Usual uses in the shell."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from tests.shell import answer, steady_tide


def test_the_shelf_and_its_presets(tmp_path: Path) -> None:
    done = steady_tide(tmp_path, "uses")
    assert done.returncode == 0, done.stderr
    assert len(done.stdout.splitlines()) == 25
    told = json.loads(
        answer(
            tmp_path, "uses", "everyday_walk", "night_street=90", "over_land", "--camera", "limpet-7", "--json"
        ).stdout
    )
    assert told["without"] == ["flight over land"]
    assert {preset["use"] for preset in told["standing"]["presets"]} <= {"everyday_walk", "night_street"}
    assert {use["id"]: use["per_year"] for use in told["standing"]["uses"]} == {"everyday_walk": 60, "night_street": 90}
    assert "taps in a year" in answer(tmp_path, "uses", "everyday_walk", "snow", "--camera", "limpet-7").stdout


def test_two_uses_side_by_side(tmp_path: Path) -> None:
    said = answer(tmp_path, "uses", "everyday_walk", "night_street", "--camera", "limpet-7", "--beside")
    assert "shutter          1/50 s" in said.stdout
    assert "With the settings of “everyday walk”, “street at night” gives up" in said.stdout
    told = json.loads(answer(tmp_path, "uses", "snow", "snorkel", "--camera", "limpet-7", "--beside", "--json").stdout)
    assert told["titles"] == ["snow in the sun", "snorkel"]
    for words in (("snow", "--camera", "limpet-7"), ("snow", "snorkel")):
        assert "takes two uses and a camera" in steady_tide(tmp_path, "uses", *words, "--beside").stderr


def test_the_card_of_a_set_up(tmp_path: Path) -> None:
    done = answer(tmp_path, "setup", "limpet-7", "--use", "everyday_walk", "--use", "pov_ride=100", "--pdf", "card.pdf")
    assert done.returncode == 0, done.stderr
    assert "point of view ride" in done.stdout
    assert "all round" in done.stdout
    assert (tmp_path / "card.pdf").read_bytes().startswith(b"%PDF")
    assert json.loads(answer(tmp_path, "setup", "yawl-12", "--use", "night_sky", "--json").stdout)["habits"]


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("uses", "juggling"), "there is no use"),
        (("uses", "snow=often"), "no number of times"),
        (("uses", "snow", "--camera", "nobody"), "there is no camera"),
        (("setup", "nobody"), "there is no camera"),
        (("setup", "limpet-7", "--use", "snow", "--pdf", "no/such/card.pdf"), "cannot be written"),
    ],
)
def test_bad_input_is_told_plainly(tmp_path: Path, words: tuple[str, ...], says: str) -> None:
    done = answer(tmp_path, *words)
    assert done.returncode == 2
    assert says in done.stderr
