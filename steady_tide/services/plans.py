"""Planning with the crew's kit, remembering the last plans: planning is a pure function of what it is made from."""

from __future__ import annotations

from collections import OrderedDict
from dataclasses import dataclass, field
from threading import Lock

from steady_tide.core.brief import Brief, School
from steady_tide.core.errors import NoLegalPlan
from steady_tide.core.planning.judgement import Judgement
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan
from steady_tide.core.planning.usual import USUAL
from steady_tide.services.crew_kit import CrewKit
from steady_tide.services.digests import digest_of

REMEMBERED = 256
Key = tuple[str, str, str, str, str | None, bool]


@dataclass(frozen=True, eq=False)
class Plans:
    """The planner as the service uses it. judgement: the dials and items it judges by."""

    judgement: Judgement = USUAL
    _made: OrderedDict[Key, Plan | NoLegalPlan] = field(default_factory=OrderedDict)
    _lock: Lock = field(default_factory=Lock)

    def plan(self, brief: Brief, crew: School, gear: CrewKit, only: str | None = None, schools: bool = True) -> Plan:
        """Plan a brief with the crew's kit.

        brief: what will be filmed; crew: its way of working; gear: what it owns; only: id of a camera, to plan on it
        without ranking the others; schools: whether to say what other ways of working would change.
        Raises what the planner raises.
        """
        what, way = digest_of(brief.model_dump(mode="json")), digest_of(crew.model_dump(mode="json"))
        key = (what, way, gear.kit_digest, gear.knowledge_digest, only, schools)
        with self._lock:
            found = self._made.get(key)
            if found is not None:
                self._made.move_to_end(key)
        if found is None:
            found = self._plan(brief, crew, gear, only, schools)
            with self._lock:
                self._made[key] = found
                while len(self._made) > REMEMBERED:
                    self._made.popitem(last=False)
        if isinstance(found, NoLegalPlan):
            raise NoLegalPlan(found.code, found.facts, found.pins)
        return found

    def _plan(self, brief: Brief, crew: School, gear: CrewKit, only: str | None, schools: bool) -> Plan | NoLegalPlan:
        try:
            return plan(
                brief,
                gear.kit,
                gear.knowledge,
                crew=crew,
                only=only,
                schools=schools,
                judgement=self.judgement,
            )
        except NoLegalPlan as refused:
            return refused
