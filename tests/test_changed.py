"""Choosing the tests that a change concerns."""

from __future__ import annotations

import json

from scripts.changed_tests import REACH_S, chosen, nearness
from scripts.durations import KEPT, ROOT


def test_what_imports_a_changed_module_is_concerned_and_the_nearest_first() -> None:
    graph = {
        "a.py": set(), "b.py": {"a.py"}, "c.py": {"b.py"}, "tests/test_b.py": {"b.py"}, "tests/test_c.py": {"c.py"},
        "tests/test_other.py": set(), "tests/test_a.py": {"a.py"},
    }  # fmt: skip
    assert nearness(["a.py"], graph) == {"tests/test_a.py": 1, "tests/test_b.py": 2, "tests/test_c.py": 3}
    assert nearness(["tests/test_other.py"], graph) == {"tests/test_other.py": 0}
    assert nearness(["no.py"], graph) == {}


def test_a_module_at_the_bottom_concerns_much_and_two_minutes_are_kept() -> None:
    taken, left = chosen(["steady_tide/core/quantities/stops.py"])
    assert "tests/core/test_stops.py" in taken
    assert left, "not all of it fits"
    kept = json.loads(KEPT.read_text())
    assert sum(kept.get(file, 0.0) for file in taken) <= REACH_S


def test_the_interface_asks_its_pure_parts_and_data_those_who_name_it() -> None:
    taken, _ = chosen(["web/src/changes/engine.ts"])
    assert {"tests/pure/test_engine.py", "tests/web/test_stations.py"} <= set(taken)
    taken, _ = chosen(["steady_tide/library/palette.yaml"])
    assert "tests/formats/test_palette.py" in taken


def test_every_kept_time_is_of_a_file_that_is_there() -> None:
    kept = json.loads(KEPT.read_text())
    assert len(kept) > 100
    assert [file for file in kept if not (ROOT / file).is_file()] == []
