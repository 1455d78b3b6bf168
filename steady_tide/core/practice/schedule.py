"""When each topic is asked again: spaced by how well it went, which follows from its price and its time."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta
from random import Random
from typing import Any, Literal

from fsrs import Card, Rating, Scheduler

from steady_tide.core.practice.question import Judged, PracticeRules
from steady_tide.core.quantities.frozen import Frozen

Memory = dict[str, dict[str, Any]]  # of each topic: how it went last, and `card`, as the scheduler keeps it

# The same answers lead to the same days: nothing is left to chance. What was missed comes again within its session, so that days alone are scheduled.
SCHEDULER = Scheduler(learning_steps=(), relearning_steps=(), enable_fuzzing=False)
RATED = {"missed": Rating.Again, "slow": Rating.Hard, "known": Rating.Good, "by_heart": Rating.Easy}

Went = Literal["missed", "slow", "known", "by_heart"]


class Standing(Frozen):
    """How practice stands. known: topics that went well the last time and are still known; due: that were learned and are due; new: never asked."""

    known: int
    due: int
    new: int


def went(judged: Judged, took_s: float, usual_s: float, rules: PracticeRules) -> Went:
    """How well it went. judged: the answer; took_s, usual_s: seconds; rules: of practice. Nobody is asked to rate himself. Returns a code."""
    if not judged.right:
        return "missed"
    if took_s > rules["slow_times"] * usual_s:
        return "slow"
    return "by_heart" if took_s < rules["fast_times"] * usual_s else "known"


def learned(memory: Memory, topic: str, how: Went, at: datetime) -> Memory:
    """What is remembered after an answer. at: when, with its zone. Returns a new memory."""
    card = _card(memory, topic) if topic in memory else Card(card_id=0, due=at)
    after, _ = SCHEDULER.review_card(card, RATED[how], review_datetime=at)
    return {**memory, topic: {"went": how, "card": dict(after.to_dict())}}


def _card(memory: Memory, topic: str) -> Card:
    return Card.from_dict(memory[topic]["card"])


def due_at(memory: Memory, topic: str) -> datetime | None:
    """When a topic is asked again; None where it never was."""
    return _card(memory, topic).due if topic in memory else None


def chance_known(memory: Memory, topic: str, at: datetime) -> float:
    """Chance that a topic is still known. Returns 0 to 1, 0 for what was never asked. Source: ye2022."""
    if topic not in memory:
        return 0.0
    return float(SCHEDULER.get_card_retrievability(_card(memory, topic), at))


def standing(memory: Memory, topics: Sequence[str], at: datetime, rules: PracticeRules) -> Standing:
    """How practice stands over some topics. at: now; rules: of practice. Returns counts."""
    least = rules["known_chance"]
    asked = [topic for topic in topics if topic in memory]
    return Standing(
        known=sum(memory[topic]["went"] != "missed" and chance_known(memory, topic, at) >= least for topic in asked),
        due=sum((due_at(memory, topic) or at) <= at for topic in asked),
        new=len(topics) - len(asked),
    )


def next_topics(
    memory: Memory, topics: Sequence[str], at: datetime, seed: int, most: int, rules: PracticeRules
) -> tuple[str, ...]:
    """What is asked next: what is due, the least known first, and among it what is new, mixed, so that kinds alternate.

    topics: that may be asked; at: now; seed: of the mixing; most: how many; rules: of practice. Returns topics.
    """
    due = [topic for topic in topics if topic in memory and (due_at(memory, topic) or at) <= at]
    due.sort(key=lambda topic: (chance_known(memory, topic, at), topic))
    new = [topic for topic in topics if topic not in memory]
    Random(seed).shuffle(new)
    by_kind: dict[str, list[str]] = {}
    for topic in new:
        by_kind.setdefault(topic.partition(":")[0], []).append(topic)
    mixed: list[str] = []
    while any(by_kind.values()):
        mixed += [waiting.pop() for waiting in by_kind.values() if waiting]
    found: list[str] = []
    owed = 0.0
    while due or mixed:
        take_new = bool(mixed) and (not due or owed >= 1.0)
        found.append((mixed if take_new else due).pop(0))
        owed = owed - 1.0 if take_new else owed + rules["new_each_due"]
    return tuple(found[:most])


def next_time(memory: Memory, topic: str, at: datetime) -> timedelta:
    """How long until a topic is asked again. Returns it, zero where it is due."""
    due = due_at(memory, topic)
    return max(timedelta(0), due - at) if due is not None else timedelta(0)


def read_memory(said: Any) -> Memory:
    """What is remembered, as it was written. said: by topic. Raises ValueError where it is something else."""
    if not isinstance(said, dict):
        raise ValueError("it holds no topics")
    for topic, entry in said.items():
        try:
            Card.from_dict(entry["card"])
            RATED[entry["went"]]
        except (KeyError, TypeError, AttributeError) as error:
            raise ValueError(f"'{str(topic)[:60]}' is not remembered in a way that can be read") from error
    return said
