"""A question, what is answered, and what a kind of questions is."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from random import Random
from typing import Any, Literal

from steady_tide.core.brief import Brief
from steady_tide.core.frozen import Frozen
from steady_tide.core.kit import Kit
from steady_tide.core.knowledge import Knowledge
from steady_tide.core.planning.plan import Plan
from steady_tide.core.uses.use import Use


class KindOfPractice(Frozen):
    """What is judged of a kind. usual_s: how long one thinks; right_within_stops: an answer that costs no more is right."""

    name: str
    says: str
    usual_s: float
    right_within_stops: float


class Row(Frozen):
    """Values of one dial to choose from. None: no dial, the values are what they are called."""

    dial: str | None
    values: tuple[Any, ...]


class Question(Frozen):
    """A question. topic: what is learned and asked again; code, facts: the sentence that asks; form: a number in `unit`, one place of the only row, one place of
    each row, or all places of the only row in order; brief: that it can be opened with on the Bench; seed: that makes it again."""

    kind: str
    topic: str
    seed: int
    code: str
    facts: dict[str, Any]
    form: Literal["number", "one", "each", "order"]
    unit: str | None = None
    rows: tuple[Row, ...] = ()
    brief: Brief | None = None


class Judged(Frozen):
    """An answer, judged. price_stops: what it costs against the best; best: in the form of an answer; code, facts: why."""

    right: bool
    price_stops: float
    best: Any
    code: str
    facts: dict[str, Any]


@dataclass(frozen=True)
class World:
    """What questions are made of. planned: plans a brief on a camera of the kit, by id, or on the best of it; camera: that one practises with, None for any."""

    kit: Kit
    knowledge: Knowledge
    uses: Mapping[str, Use]
    kinds: Mapping[str, KindOfPractice]
    planned: Callable[[Brief, str | None], Plan]
    camera: str | None = None


@dataclass(frozen=True)
class PracticeKind:
    """A kind of questions. topics: ids of what can be asked; knows: whether an id is one of them, or would be with another camera; ask: a question on one of them, the same for the same chance; judge: the price of an answer in stops,
    the best answer, and why."""

    id: str
    topics: Callable[[World], tuple[str, ...]]
    knows: Callable[[World, str], bool]
    ask: Callable[[World, str, Random], dict[str, Any]]
    judge: Callable[[World, Question, Any], tuple[float, Any, str, dict[str, Any]]]
