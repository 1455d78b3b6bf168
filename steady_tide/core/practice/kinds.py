"""All kinds of questions: asking one, and judging what is answered."""

from __future__ import annotations

from math import isfinite
from random import Random
from typing import Any

from steady_tide.core.practice.arithmetic import ARITHMETIC
from steady_tide.core.practice.menus import MENUS
from steady_tide.core.practice.ordering import ORDERING
from steady_tide.core.practice.question import Judged, PracticeKind, Question, World
from steady_tide.core.practice.seeing import WHICH_WAS, WRONG
from steady_tide.core.practice.setting import SETTING
from steady_tide.core.quantities.errors import BadInput, Fault, NotFound

KINDS: dict[str, PracticeKind] = {kind.id: kind for kind in (ARITHMETIC, SETTING, WRONG, WHICH_WAS, ORDERING, MENUS)}


def topics(world: World, kinds: tuple[str, ...] = ()) -> tuple[str, ...]:
    """What can be asked, as "kind:topic". kinds: ids, all if none. Returns ids."""
    return tuple(
        f"{kind.id}:{topic}" for kind in KINDS.values() if not kinds or kind.id in kinds for topic in kind.topics(world)
    )


def ask(world: World, topic: str, seed: int) -> Question:
    """A question. topic: as `topics` names it; seed: the same makes the same. Raises NotFound where there is no such topic, or none of the deck's shots shows it, NoLegalPlan where the camera cannot film it."""
    kind_id, _, of_kind = topic.partition(":")
    kind = KINDS.get(kind_id)
    if kind is None or not kind.knows(world, of_kind):
        raise NotFound(f"There is nothing to practise called '{topic[:80]}'.")
    made = kind.ask(world, of_kind, Random(f"{topic}/{seed}"))
    if world.school is not None:
        made["facts"]["school"] = world.school.model_dump(exclude_none=True)
    return Question.model_validate({"kind": kind_id, "topic": topic, "seed": seed, **made})


def judge(world: World, question: Question, given: Any) -> Judged:
    """Judge an answer. question: as it was asked; given: in its form. Raises BadInput where it has another form."""
    _check(question, given)
    price, best, code, facts = KINDS[question.kind].judge(world, question, given)
    within = world.rules.kinds[question.kind].right_within_stops
    return Judged(right=price <= within, price_stops=price, best=best, code=code, facts=facts)


def _check(question: Question, given: Any) -> None:
    """Raise BadInput unless an answer has the form that is asked for."""
    sizes = [len(row.values) for row in question.rows]
    if question.form == "number":
        good = isinstance(given, int | float) and not isinstance(given, bool) and isfinite(given) and given > 0.0
        how = "Give a number above nought."
    elif question.form == "one":
        good = isinstance(given, int) and 0 <= given < sizes[0]
        how = f"Give a place from 0 to {sizes[0] - 1}."
    elif question.form == "each":
        good = (
            isinstance(given, tuple)
            and len(given) == len(sizes)
            and all(isinstance(place, int) and 0 <= place < size for place, size in zip(given, sizes, strict=True))
        )
        how = "Give one place for each row."
    else:
        good = isinstance(given, tuple) and sorted(given) == list(range(sizes[0]))
        how = "Give each place once."
    if not good:
        raise BadInput(Fault("answer", "is no answer to this question", how))
