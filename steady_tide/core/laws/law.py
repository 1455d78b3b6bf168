"""A law: a sentence that an operator would say aloud, where it applies, and what breaks it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from functools import cached_property

from steady_tide.core.brief.brief import Brief
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.kit import Kit
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.planning.brief_cache import cached_brief
from steady_tide.core.planning.camera_problem import CameraProblem
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.ledger import price_all
from steady_tide.core.planning.nearest import nearest, turned_besides
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan
from steady_tide.core.planning.priced_choice import Choice, Priced
from steady_tide.core.planning.ranking import entries_of, rank
from steady_tide.core.planning.search import solve
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.space import Bools, Space
from steady_tide.core.quantities.errors import BadBrief, NoLegalPlan


@dataclass(frozen=True)
class Case:
    """A brief with its plan, as laws look at it. kit: what the crew owns; knowledge: places, weights and limits."""

    brief: Brief
    kit: Kit
    knowledge: Knowledge
    _beside: dict[str, Bools] = field(default_factory=dict, compare=False, repr=False)

    @cached_property
    def plan(self) -> Plan:
        """The plan of the best camera. Raises NoLegalPlan, BadBrief."""
        return plan(self.brief, self.kit, self.knowledge, schools=False)

    @cached_property
    def problem(self) -> CameraProblem:
        """The planned camera, laid out for the brief."""
        return self._solved[0]

    @cached_property
    def choice(self) -> Choice:
        """The planned combination."""
        return self._solved[1]

    @cached_property
    def ours(self) -> Priced:
        """The planned combination with its price and quantities."""
        return price_all(self.at, self.space, [self.choice])[0]

    @property
    def at(self) -> Situation:
        """What the brief asks for."""
        return self.problem.at

    @property
    def space(self) -> Space:
        """What the planned camera offers here."""
        return self.problem.space

    @property
    def sheet(self) -> CameraSheet:
        """Of the planned camera."""
        return self.space.sheet

    @cached_property
    def _solved(self) -> tuple[CameraProblem, Choice]:
        known = cached_brief(self.brief.in_school(self.brief.school), self.kit, self.knowledge, USUAL)
        best = rank(known, entries_of(known.at, self.kit, self.knowledge, self.plan.camera.id))[0]
        assert best.entry.problem is not None
        assert best.prepared is not None
        solution = best.solution or solve(best.prepared)
        return best.entry.problem, solution.best()

    def rivals(self, dial: str) -> dict[str, Priced]:
        """Plans that differ from this one in one dial and in nothing else. dial: id. Returns them priced, by
        the dial's value in words."""
        turned = self.problem.dials.get(dial)
        if turned is None or dial in self.problem.pins:
            return {}
        own = int(turned.of_candidate[self.choice[turned.block]])
        found = {
            value: other
            for value in range(len(turned.values))
            if value != own
            and (other := nearest(self.problem, self.choice, turned, value, self._beside)) is not None
            and not turned_besides(self.problem, self.choice, other, dial)
        }
        priced = price_all(self.at, self.space, list(found.values()))
        return {str(turned.values[value]): one for value, one in zip(found, priced, strict=True)}

    def changed(self, **fields: object) -> Plan | None:
        """The plan of the brief with other fields. Returns None where it has none."""
        try:
            return plan(self.brief.model_copy(update=fields), self.kit, self.knowledge, schools=False)
        except (NoLegalPlan, BadBrief):
            return None

    def changed_on_camera(self, **fields: object) -> Plan | None:
        """The same on the camera of this plan. Returns None where it has none."""
        try:
            other = self.brief.model_copy(update=fields)
            return plan(other, self.kit, self.knowledge, schools=False, only=self.plan.camera.id)
        except (NoLegalPlan, BadBrief):
            return None


@dataclass(frozen=True)
class Law:
    """One law.

    id: its name; says: the sentence, with its exceptions; applies: whether it has anything to say of a case; broken: what
    breaks it, in words, empty where it is kept.
    """

    id: str
    says: str
    applies: Callable[[Case], bool]
    broken: Callable[[Case], str]
