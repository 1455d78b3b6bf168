"""The change engine of the front end: what a person says is never lost, and one field never holds back another."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.examples import examples_of

Ask = Callable[..., Any]
AWAY_MS = 5000

FIELDS = ["a", "b", "c"]
GOOD = st.integers(0, 9)
VALUES = GOOD | st.sampled_from(["bad", "worse"])
SAID = st.tuples(st.just("say"), st.dictionaries(st.sampled_from(FIELDS), VALUES, min_size=1, max_size=3))
SAID_WELL = st.tuples(st.just("say"), st.dictionaries(st.sampled_from(FIELDS), GOOD, min_size=1, max_size=3))
TIMES = st.sampled_from(
    [
        ("advance", 1), ("advance", 400), ("up",), ("down",), ("see",), ("reload",), ("flush",),
        ("slow", 0), ("slow", 90), ("unread", True), ("unread", False),
    ]
)  # fmt: skip
CALM = [("up",), ("slow", 0), ("unread", False), ("advance", 10_000), ("see",), ("advance", 10_000), ("see",)]


def last_said(script: list[Any]) -> dict[str, Any]:
    return {name: value for what, *said in script if what == "say" for name, value in said[0].items()}


@given(script=st.lists(SAID | TIMES, max_size=25), pause=st.sampled_from([0, 400]), one=st.booleans())
def test_what_is_said_last_stands_there_whatever_happens_on_the_way(
    ask: Ask, script: list[Any], pause: int, one: bool
) -> None:
    end = ask("simulated", [*script, *CALM], {"pauseMs": pause, "oneByOne": one})
    said = last_said(script)
    good = {name: value for name, value in said.items() if value not in ("bad", "worse")}
    assert {name: end["service"][name] for name in good if good[name] is not None} == good
    assert end["pending"] == {name: value for name, value in said.items() if name not in good}, "what is refused stays"
    assert end["now"] == {**end["service"], **end["pending"]}


@given(
    script=st.lists(
        SAID_WELL | TIMES | st.tuples(st.just("others"), st.dictionaries(st.sampled_from(FIELDS), GOOD, min_size=1)),
        max_size=25,
    )
)
def test_where_others_say_the_same_nothing_is_overwritten_unseen(ask: Ask, script: list[Any]) -> None:
    end = ask("simulated", [*script, *CALM])
    said = last_said(script)
    for name, value in said.items():
        others = {say[0][name] for what, *say in script if what == "others" and name in say[0]}
        stands = end["service"].get(name)
        # Mine, or theirs: and where it is theirs after I spoke last, I am asked.
        assert stands == value or stands in others
        if name in end["pending"]:
            assert end["pending"][name] == value
            assert end["status"] == "conflict"
    assert set(end["pending"]) <= set(said)


@given(script=st.lists(SAID_WELL, max_size=12))
def test_undo_takes_all_back_and_redo_brings_it_again(ask: Ask, script: list[Any]) -> None:
    steps = [action for said in script for action in (said, ("advance", 1))]
    there = ask("simulated", steps)["now"]
    back = ask("simulated", [*steps, *[("undo",)] * len(script), ("advance", 10)])
    assert {value for value in back["now"].values() if value is not None} == set()
    again = ask("simulated", [*steps, *[("undo",)] * len(script), *[("redo",)] * len(script), ("advance", 10)])
    assert again["now"] == there
    assert again["service"] == there


def test_a_refused_field_holds_back_no_other(ask: Ask) -> None:
    end = ask("simulated", [("say", {"a": 1, "b": "bad", "c": 3}), ("advance", 1)])
    assert end["service"] == {"a": 1, "c": 3}
    assert (end["pending"], end["status"]) == ({"b": "bad"}, "refused")
    assert end["refusals"] == [["b", "is bad. "]]
    mended = ask("simulated", [("say", {"b": "bad"}), ("advance", 1), ("say", {"b": 2}), ("advance", 1)])
    assert (mended["service"], mended["status"]) == ({"b": 2}, "saved")


def test_a_form_is_kept_whole_or_not_at_all(ask: Ask) -> None:
    script = [("say", {"a": 1, "b": "bad"}), ("advance", 1)]
    end = ask("simulated", script, {"whole": True})
    assert (end["service"], end["pending"]) == ({}, {"a": 1, "b": "bad"})
    both = [("say", {"a": 1, "b": 2}), ("advance", 1)]
    met = ask("simulated", [("others", {"b": 5}), *both], {"whole": True})
    assert (met["service"], met["pending"], met["status"]) == ({"b": 5}, {"a": 1, "b": 2}, "conflict")
    mine = ask("simulated", [("others", {"b": 5}), *both, ("keepMine",)], {"whole": True})
    assert mine["service"] == {"a": 1, "b": 2}


@pytest.mark.parametrize(("choice", "stands"), [("keepMine", 1), ("takeTheirs", 7)])
def test_the_same_field_said_by_two_is_asked(ask: Ask, choice: str, stands: int) -> None:
    meeting = [("others", {"a": 7}), ("say", {"a": 1, "b": 2}), ("advance", 1)]
    asked = ask("simulated", meeting)
    assert (asked["status"], asked["now"], asked["service"]) == ("conflict", {"a": 1, "b": 2}, {"a": 7, "b": 2})
    assert asked["meeting"] == {"change": {"a": 1}, "says": "a is 7 now."}
    end = ask("simulated", [*meeting, (choice,), ("advance", 1)])
    assert (end["now"]["a"], end["service"]["a"], end["status"]) == (stands, stands, "saved")
    back = ask("simulated", [*meeting, ("takeTheirs",), ("undo",), ("advance", 1)])
    assert back["service"]["a"] == 1, "what one left can be had back"


def test_what_could_not_be_sent_outlives_a_reload_and_goes_by_itself(ask: Ask) -> None:
    away = [("down",), ("say", {"a": 1}), ("advance", 1)]
    waiting = ask("simulated", away)
    assert (waiting["status"], waiting["stored"], waiting["now"]) == ("away", ["thing"], {"a": 1})
    end = ask("simulated", [*away, ("reload",), ("up",), ("advance", AWAY_MS)])
    assert (end["service"], end["status"], end["stored"]) == ({"a": 1}, "saved", [])


def test_a_copy_that_was_put_back_is_read_again(ask: Ask) -> None:
    end = ask(
        "simulated", [("say", {"a": 1}), ("advance", 1), ("put back",), ("say", {"a": 2}), ("advance", 1), ("see",)]
    )
    assert end["service"] == {"a": 2}


def test_what_is_typed_in_one_go_is_one_step(ask: Ask) -> None:
    typed = [("say", {"a": n}, "typing") for n in range(5)]
    end = ask("simulated", [*typed, ("undo",), ("advance", 500)], {"pauseMs": 400})
    assert (end["now"].get("a"), end["canUndo"], end["canRedo"], end["calls"]) == (None, False, True, 0)
    settled = [*typed, ("settle",), ("say", {"a": 9}, "typing"), ("undo",), ("advance", 500)]
    assert ask("simulated", settled, {"pauseMs": 400})["service"] == {"a": 4}


def test_undo_outlives_a_reload_of_the_window(ask: Ask) -> None:
    said = [("say", {"a": 1}), ("advance", 1), ("say", {"a": 2}), ("advance", 1), ("reload",)]
    end = ask("simulated", [*said, ("undo",), ("advance", 1)], {"keepUndo": True})
    assert (end["service"], end["canUndo"], end["canRedo"]) == ({"a": 1}, True, True)


@pytest.mark.parametrize(
    "before", [{"a": 1, "b": 2}, {"revision": 0, "change": {"a": 1, "b": 2}}], ids=["plain", "change"]
)
def test_what_a_version_before_kept_in_this_browser_is_handed_over(ask: Ask, before: dict[str, Any]) -> None:
    end = ask("simulated", [("advance", 1)], {}, before)
    assert (end["service"], end["stored"]) == ({"a": 1, "b": 2}, [])


def test_many_cases_take_no_time(ask: Ask) -> None:
    """Hundreds of cases a second, so that properties can be tried on many."""
    for _ in range(examples_of(200)):
        assert ask("simulated", [("say", {"a": 1}), ("advance", 1)])["service"] == {"a": 1}


def test_what_is_said_while_the_same_is_under_way_is_no_conflict_with_oneself(ask: Ask) -> None:
    for unread in (False, True):
        script = [
            ("unread", unread),
            ("slow", 90),
            ("say", {"a": 1}),
            ("advance", 10),
            ("say", {"a": 2}),
            ("advance", 500),
        ]
        end = ask("simulated", [*script, ("say", {"a": 3}), ("advance", 500)])
        assert (end["service"], end["now"], end["status"]) == ({"a": 3}, {"a": 3}, "saved")
