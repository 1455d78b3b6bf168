"""From answers about a ladder's frames to what was accepted, to its statement, and to what contradicts."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from itertools import combinations
from typing import Annotated, Literal

import numpy as np
from pydantic import Field, model_validator

from steady_tide.core.log.posterior import Estimated, Judged, chances, limit_of
from steady_tide.core.log.quantities import COMPARED, amount_at, level_of
from steady_tide.core.log.take import Short
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.limits import Limits
from steady_tide.core.quantities.moments import Moment

Rung = Annotated[int, Field(ge=0, le=5)]
ASKED_AGAIN = 0.15  # how much less a rung is worth asking for each time that it was asked


class Answer(Frozen):
    """What a person said of a ladder's frames.

    how: `pair`, two frames side by side, of which each is good enough or not; `row`, all in a row, good up to one of them;
    left, right: rungs; good: those of them that are good enough; up_to: the last good one, -1 for none, in the order from
    best to worst; blind: whether the labels were hidden.
    """

    at: Moment
    who: Annotated[Short, Field(min_length=1)]
    how: Literal["pair", "row"]
    left: Rung | None = None
    right: Rung | None = None
    good: Annotated[tuple[Rung, ...], Field(max_length=2)] = ()
    up_to: Annotated[int | None, Field(ge=-1, le=5)] = None
    blind: bool = True

    @model_validator(mode="after")
    def _whole(self) -> Answer:
        if self.how == "pair":
            if self.left is None or self.right is None or self.left == self.right:
                raise ValueError("a pair has two frames; name the left and the right one")
            if not set(self.good) <= {self.left, self.right}:
                raise ValueError("only a frame of the pair can be good enough")
        elif self.up_to is None:
            raise ValueError("a row needs the last frame that is good enough; give -1 for none")
        return self


@dataclass(frozen=True)
class JudgedRung:
    """One frame, accepted or not by one person in one answer. amount: of the ladder's quantity, None where it has none;
    measured: whether it was measured on footage, else it is the plan's."""

    who: str
    ladder: str
    quantity: str | None
    rung: int
    amount: float | None
    accepted: bool
    measured: bool
    answer: int
    at: datetime
    says: dict[str, str | float]


def judged_of(answer: Answer, best_first: Sequence[int]) -> list[tuple[int, bool]]:
    """Rungs that an answer accepts or refuses. best_first: all rungs of the ladder from best to worst. Returns pairs."""
    if answer.how == "pair":
        return [
            (rung, rung in answer.good)
            for rung in (answer.left, answer.right)
            if rung is not None and rung in best_first
        ]
    assert answer.up_to is not None
    return [(rung, place <= answer.up_to) for place, rung in enumerate(best_first)]


class RungFacts(Frozen):
    """How often a rung was good enough for somebody."""

    who: str
    rung: int
    good: int
    of: int


class Contradiction(Frozen):
    """Somebody took a worse frame and refused a better one. apart: how much better the refused one was, in stops of its
    quantity."""

    who: str
    quantity: str
    accepted_ladder: str
    accepted: float
    refused_ladder: str
    refused: float
    apart: float


def rung_facts(judged: Sequence[JudgedRung]) -> tuple[RungFacts, ...]:
    """How often each rung was good enough for each person. judged: of one ladder. Returns them by person and rung."""
    found: dict[tuple[str, int], list[bool]] = {}
    for one in judged:
        found.setdefault((one.who, one.rung), []).append(one.accepted)
    return tuple(
        RungFacts(who=who, rung=rung, good=sum(said), of=len(said)) for (who, rung), said in sorted(found.items())
    )


def as_levels(judged: Sequence[JudgedRung]) -> list[Judged]:
    """Judgements as stops of their quantity, more being better. judged: those without an amount are passed over."""
    return [Judged(level_of(one.quantity, one.amount), one.accepted) for one in judged if one.quantity and one.amount]


def limit_in(judged: Sequence[JudgedRung], usual: float, usual_spread: float) -> Estimated:
    """The amount from which on it is good enough. judged: of one quantity, at least one; usual: what is typical, in its unit;
    usual_spread: stops. Returns it in its unit, with its interval. Sources: as of `limit_of`."""
    answers = len({(one.ladder, one.who, one.answer) for one in judged})
    return limit_at(judged[0].quantity or "", as_levels(judged), answers, usual, usual_spread)


def limit_at(quantity: str, levels: Sequence[Judged], answers: int, usual: float, usual_spread: float) -> Estimated:
    """The same of levels, however they were told. levels: stops of the quantity; answers: in how many they were given; usual:
    in its unit."""
    found = limit_of(levels, level_of(quantity, usual), usual_spread)
    value, *ends = (amount_at(quantity, level) for level in (found.value, found.low, found.high))
    return Estimated(value, min(ends), max(ends), found.spread, answers)


def contradictions(judged: Sequence[JudgedRung], limits: Limits) -> tuple[Contradiction, ...]:
    """What people said that does not go together: the plainest for each person and pair of ladders.

    judged: of any ladders; those are held together that have a quantity in common, see `COMPARED`; limits: of judgement. Returns
    them, the plainest first.
    """
    found: dict[tuple[str, str, str, str], Contradiction] = {}
    refused_by: dict[tuple[str, str], list[JudgedRung]] = {}
    for one in judged:
        if one.quantity and one.amount and not one.accepted:
            refused_by.setdefault((one.who, one.quantity), []).append(one)
    for taken in judged:
        if not (taken.quantity and taken.amount and taken.accepted):
            continue
        for refused in refused_by.get((taken.who, taken.quantity), ()):
            if taken.ladder != refused.ladder and taken.quantity not in COMPARED:
                continue
            assert refused.amount is not None
            apart = level_of(taken.quantity, refused.amount) - level_of(taken.quantity, taken.amount)
            key = (taken.who, taken.quantity, taken.ladder, refused.ladder)
            if apart >= limits.contradicts_stops and (key not in found or found[key].apart < apart):
                found[key] = Contradiction(
                    who=taken.who, quantity=taken.quantity, accepted_ladder=taken.ladder, accepted=taken.amount,
                    refused_ladder=refused.ladder, refused=refused.amount, apart=apart,
                )  # fmt: skip
    return tuple(sorted(found.values(), key=lambda one: -one.apart))


def next_pair(
    judged: Sequence[JudgedRung], quantity: str, levels: dict[int, float], usual: float, usual_spread: float
) -> tuple[int, int]:
    """The pair that is most worth asking: the two frames of which it is least known whether they are good enough.

    judged: by this person so far; quantity: of the ladder; levels: amount of each rung, at least two; usual, usual_spread: as above. Returns rungs.
    """
    rungs = sorted(levels)
    places = [level_of(quantity, levels[rung]) for rung in rungs]
    chance = chances(as_levels(judged), places, level_of(quantity, usual), usual_spread)
    asked = np.array([sum(one.rung == rung for one in judged) for rung in rungs])
    worth = chance * (1.0 - chance) / (1.0 + ASKED_AGAIN * asked)
    first, second = (rungs[place] for place in np.argsort(-worth, kind="stable")[:2])
    return first, second


def least_asked(answers: Sequence[Answer], rungs: Sequence[int]) -> tuple[int, int]:
    """The pair that was asked least: for ladders without a quantity. rungs: at least two. Returns rungs."""
    asked = {pair: 0 for pair in combinations(sorted(rungs), 2)}
    for answer in answers:
        if answer.how == "pair" and answer.left is not None and answer.right is not None:
            pair = (min(answer.left, answer.right), max(answer.left, answer.right))
            if pair in asked:
                asked[pair] += 1
    return min(asked, key=lambda pair: asked[pair])
