"""What is asked when: by price and time, the same for the same answers, over weeks."""

from __future__ import annotations

import json
from datetime import UTC, datetime, timedelta

import pytest

from steady_tide import library
from steady_tide.core.practice.question import Judged
from steady_tide.core.practice.schedule import (
    Memory,
    Went,
    chance_known,
    due_at,
    learned,
    next_topics,
    read_memory,
    standing,
    went,
)

RULES = library.practice()
NOON = datetime(2026, 10, 11, 12, tzinfo=UTC)
TOPICS = tuple(f"{kind}:{n}" for kind in ("arithmetic", "dials") for n in range(10))


def judged(right: bool) -> Judged:
    return Judged(right=right, price_stops=0.0 if right else 2.0, best=1.0, code="slow", facts={})


@pytest.mark.parametrize(
    ("right", "took", "how"),
    [(True, 4, "by_heart"), (True, 10, "known"), (True, 39, "known"), (True, 41, "slow"), (False, 4, "missed")],
)
def test_how_it_went_follows_from_price_and_time(right: bool, took: float, how: Went) -> None:
    assert went(judged(right), took, 20.0, RULES) == how


def after(*answers: Went) -> list[timedelta]:
    """How long until it is asked again, answer by answer, each given when it was due."""
    memory: Memory = {}
    at, found = NOON, []
    for how in answers:
        memory = learned(memory, "t", how, at)
        due = due_at(memory, "t")
        assert due is not None
        found.append(due - at)
        at = due
    return found


def test_what_is_known_is_asked_ever_more_seldom_and_what_was_missed_soon() -> None:
    known = after("known", "known", "known", "known")
    assert known == sorted(known)
    assert known[-1] > 10 * known[0] / 2
    missed = after("known", "known", "missed", "known")
    assert missed[2] < missed[1]
    assert after("by_heart")[0] > after("known")[0] > after("missed")[0] - timedelta(seconds=1)
    assert after("known", "slow")[1] < after("known", "known")[1] < after("known", "by_heart")[1]
    assert after("known", "missed", "known") == after("known", "missed", "known"), "nothing is left to chance"


def test_it_is_remembered_as_it_is_written() -> None:
    memory = learned(learned({}, "a", "known", NOON), "b", "missed", NOON)
    assert read_memory(json.loads(json.dumps(memory))) == memory
    for broken in (
        [],
        {"a": {}},
        {"a": 3},
        {"a": {**memory["a"], "went": "well"}},
        {"a": {"went": "known", "card": {**memory["a"]["card"], "due": "soon"}}},
    ):
        with pytest.raises(ValueError, match=r"topics|remembered|soon"):
            read_memory(broken)


def test_what_is_due_and_what_is_new_take_turns_and_so_do_kinds() -> None:
    memory = learned({}, "dials:3", "missed", NOON - timedelta(days=20))
    memory = learned(memory, "arithmetic:1", "known", NOON - timedelta(days=30))
    memory = learned(memory, "arithmetic:2", "by_heart", NOON)
    asked = next_topics(memory, TOPICS, NOON, 4, 12, RULES)
    due = [topic for topic in asked if topic in memory]
    assert due == [asked[0], asked[3]], "two new ones to each that is due"
    assert set(due) == {"dials:3", "arithmetic:1"}
    assert chance_known(memory, due[0], NOON) <= chance_known(memory, due[1], NOON)
    assert "arithmetic:2" not in asked
    kinds = [topic.partition(":")[0] for topic in asked if topic not in memory]
    assert kinds[:6] in (["arithmetic", "dials"] * 3, ["dials", "arithmetic"] * 3)
    assert next_topics(memory, TOPICS, NOON, 4, 12, RULES) == asked
    assert next_topics(memory, TOPICS, NOON, 5, 12, RULES) != asked


def test_progress_is_counted_honestly() -> None:
    assert standing({}, TOPICS, NOON, RULES).model_dump() == {"known": 0, "due": 0, "new": 20}
    memory = learned(learned({}, TOPICS[0], "known", NOON), TOPICS[1], "known", NOON)
    assert standing(memory, TOPICS, NOON, RULES).model_dump() == {"known": 2, "due": 0, "new": 18}
    assert standing(learned(memory, TOPICS[1], "missed", NOON), TOPICS, NOON, RULES).known == 1, (
        "what was missed is not known"
    )
    later = standing(memory, TOPICS, NOON + timedelta(days=60), RULES)
    assert later.model_dump() == {"known": 0, "due": 2, "new": 18}
