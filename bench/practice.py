"""A week and a month of practice, simulated: what a learner carries in the head, asked as it is due and, beside it in the same run, asked at random, as many
each day.

Run: python bench/practice.py [learners]
The learner forgets by a law of his own (half-lives that double where he knew it and begin anew where not), not by the scheduler's. Each day has a sitting
of twelve questions; a topic that was never asked is guessed right one time in four.
"""

from __future__ import annotations

import sys
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from pathlib import Path
from random import Random

sys.path.insert(0, str(Path(__file__).parents[1]))

from steady_tide import library
from steady_tide.core.practice.kinds import topics
from steady_tide.core.practice.question import Judged
from steady_tide.core.practice.schedule import Memory, learned, next_topics, standing, went
from tests.core.practice.worlds import world

DAYS, EACH, GUESSED, USUAL_S = 28, 12, 0.25, 30.0
RULES = library.practice()
BEGIN = datetime(2026, 10, 1, 18, tzinfo=UTC)


@dataclass
class Learner:
    """Who forgets. half_days: after how many days each topic is half forgotten; last: when it was asked last."""

    chance: Random
    half_days: dict[str, float] = field(default_factory=dict)
    last: dict[str, datetime] = field(default_factory=dict)

    def knows(self, topic: str, at: datetime) -> float:
        """Chance that he knows a topic. Returns 0 to 1."""
        if topic not in self.half_days:
            return 0.0
        return float(2.0 ** (-((at - self.last[topic]) / timedelta(days=1)) / self.half_days[topic]))

    def answers(self, topic: str, at: datetime) -> tuple[bool, float]:
        """Whether he is right, and in how many seconds. He learns by it."""
        known = self.knows(topic, at)
        right = self.chance.random() < known + (1.0 - known) * GUESSED
        before = self.half_days.get(topic, 0.0)
        self.half_days[topic] = max(2.0, 2.0 * before) if right else 2.0
        self.last[topic] = at
        return right, USUAL_S * (0.4 if known > 0.9 else 1.0) * self.chance.uniform(0.6, 1.6)


def month(topics: tuple[str, ...], seed: int, as_many: list[int] | None) -> list[tuple[float, int, int, int]]:
    """A month. as_many: questions of each day, at random; None: what is due. Returns for each day the share that he knows, what the scheduler counts as known and
    as due, and how many were asked."""
    learner, told = Learner(Random(seed)), []
    kept: Memory = {}
    mixing = Random(seed + 1)
    for day in range(DAYS):
        at = BEGIN + timedelta(days=day)
        asked = (
            next_topics(kept, topics, at, seed + day, EACH, RULES)
            if as_many is None
            else tuple(mixing.sample(topics, as_many[day]))
        )
        for topic in asked:
            right, took = learner.answers(topic, at)
            judged = Judged(right=right, price_stops=0.0 if right else 1.0, best=0, code="menu", facts={})
            kept = learned(kept, topic, went(judged, took, USUAL_S, RULES), at)
        now = at + timedelta(hours=1)
        stands = standing(kept, topics, now, RULES)
        told.append(
            (sum(learner.knows(topic, now) for topic in topics) / len(topics), stands.known, stands.due, len(asked))
        )
    return told


def main() -> None:
    """Simulate, and say what was carried."""
    learners = int(sys.argv[1]) if len(sys.argv) > 1 else 20
    every = world("limpet-7")
    there = topics(every)
    due = [month(there, seed, None) for seed in range(learners)]
    mixed = [month(there, seed, [day[3] for day in due[seed]]) for seed in range(learners)]
    print(
        f"{len(there)} topics of one camera, {EACH} questions a day at most, {learners} learners: share known, as due beside at random"
    )
    for day in (1, 3, 7, 14, 28):
        mine = sum(one[day - 1][0] for one in due) / learners
        other = sum(one[day - 1][0] for one in mixed) / learners
        counted = sum(one[day - 1][1] for one in due) / learners / len(there)
        waiting = sum(one[day - 1][2] for one in due) / learners
        asked = sum(sum(days[3] for days in one[:day]) for one in due) / learners
        print(
            f"day {day:2}: {100 * mine:3.0f} % beside {100 * other:3.0f} %, ratio {mine / max(other, 1e-9):.2f}; "
            f"the scheduler counts {100 * counted:3.0f} % as known, {waiting:.1f} topics due; {asked:.0f} questions so far"
        )


if __name__ == "__main__":
    main()
