"""A question, what is answered, and what a kind of questions is."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from random import Random
from typing import Any, Literal

from pydantic import Field

from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.brief.knowledge import Knowledge, Limit
from steady_tide.core.gear.kit import Kit
from steady_tide.core.log.take import FaultCode
from steady_tide.core.look.numbers import LookMeasures
from steady_tide.core.planning.plan import Plan
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.uses.use import Use


class KindOfPractice(Frozen):
    """What is judged of a kind. pictures: whether it shows any; usual_s: how long one thinks; right_within_stops: an answer that costs no more is right."""

    name: str
    says: str
    pictures: bool = False
    usual_s: float
    right_within_stops: float


class PracticeRules(Frozen):
    """How practice judges: its kinds by id, and numbers of judgement by name."""

    kinds: dict[str, KindOfPractice]
    numbers: dict[str, Limit]

    def __getitem__(self, name: str) -> float:
        """A number of judgement."""
        return self.numbers[name].value


class Sight(Frozen):
    """A plan as it would be seen. chosen: values of its dials; measures: what a frame of it comes to; strays: how far its scene leaves the frame within a clip, frames."""

    chosen: dict[str, Any]
    measures: LookMeasures
    strays: float = 0.0


class Past(Frozen):
    """What went wrong in one's own takes, the most frequent first. faults: with how many takes; scenarios: kinds of shot in which it did."""

    faults: tuple[tuple[FaultCode, int], ...]
    scenarios: tuple[str, ...]


class Row(Frozen):
    """Values of one dial to choose from. None: no dial, the values are what they are called."""

    dial: str | None
    values: tuple[Any, ...]


class Question(Frozen):
    """A question. topic: what is learned and asked again; code, facts: the sentence that asks; form: a number in `unit`, one place of the only row, one place of
    each row, or all places of the only row in order; frames: what is looked at, of the brief; moving: as a clip; brief: that it can be opened with on the Bench; pins: that it is opened with there; seed: that
    makes it again."""

    kind: str
    topic: str
    seed: int
    code: str
    facts: dict[str, Any]
    form: Literal["number", "one", "each", "order"]
    unit: str | None = None
    rows: tuple[Row, ...] = ()
    frames: tuple[Sight, ...] = ()
    moving: bool = False
    brief: Brief | None = None
    pins: dict[str, Any] = Field(default_factory=dict)


class Judged(Frozen):
    """An answer, judged. price_stops: what it costs against the best; best: in the form of an answer; code, facts: why."""

    right: bool
    price_stops: float
    best: Any
    code: str
    facts: dict[str, Any]


Tries = Sequence[Mapping[str, Any]]


@dataclass(frozen=True)
class World:
    """What questions are made of.

    planned: plans a brief on a camera of the kit, by id, or on the best of it; sights: what a brief would look like on a camera with each of several pins, None where these are not
    legal; camera: that one practises with, None for any; scenario, school, past: of the deck, see `decks`.
    """

    kit: Kit
    knowledge: Knowledge
    uses: Mapping[str, Use]
    rules: PracticeRules
    planned: Callable[[Brief, str | None], Plan]
    sights: Callable[[Brief, str, Tries], Sequence[Sight | None]]
    camera: str | None = None
    scenario: str | None = None
    school: School | None = None
    past: Past | None = None

    @cached_property
    def own_faults(self) -> frozenset[FaultCode]:
        """Faults of one's own takes."""
        return frozenset(fault for fault, _ in self.past.faults) if self.past is not None else frozenset()


@dataclass(frozen=True)
class PracticeKind:
    """A kind of questions. topics: ids of what can be asked; knows: whether an id is one of them, or would be with another camera; ask: a question on one of them, the same for the same chance; judge: the price of an answer in stops,
    the best answer, and why."""

    id: str
    topics: Callable[[World], tuple[str, ...]]
    knows: Callable[[World, str], bool]
    ask: Callable[[World, str, Random], dict[str, Any]]
    judge: Callable[[World, Question, Any], tuple[float, Any, str, dict[str, Any]]]
