"""Planning with the crew's kit, remembering the last plans: planning is a pure function of what it is made from."""

from __future__ import annotations

import pickle
from collections.abc import Callable
from concurrent.futures import CancelledError, Future
from dataclasses import dataclass, field
from threading import Lock

from cachetools import LRUCache

from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.own.changes import OwnChange
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.judgement import Judgement
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan
from steady_tide.core.practice.question import Sight, Tries
from steady_tide.core.quantities.errors import NoLegalPlan, Overtaken
from steady_tide.services import planning_tasks as desk_work
from steady_tide.services.crew_kit import CrewKit, packed
from steady_tide.services.digests import digest_of
from steady_tide.services.planning_pool import Desk, Turn

REMEMBERED = 256
Key = tuple[str, str, str, str, str | None, bool]
Made = Plan | NoLegalPlan
Packed = bytes  # a plan as a worker handed it over, unpacked when it is first asked for


@dataclass(frozen=True, eq=False)
class Plans:
    """The planner as the service uses it. judgement: the dials and items it judges by; desk: where it is done, in this
    process where there is none."""

    judgement: Judgement = USUAL
    desk: Desk | None = None
    _made: LRUCache[Key, Made | Packed] = field(default_factory=lambda: LRUCache(REMEMBERED))
    _doing: dict[Key, tuple[Future[object], Future[Made | Packed]]] = field(default_factory=dict)
    _lock: Lock = field(default_factory=Lock)

    def plan(
        self,
        brief: Brief,
        crew: School,
        gear: CrewKit,
        only: str | None = None,
        schools: bool = True,
        turn: Turn = Turn.SAVING,
    ) -> Plan:
        """Plan a brief with the crew's kit.

        brief: what will be filmed; crew: its way of working; gear: what it owns; only: id of a camera, to plan on it
        without ranking the others; schools: whether to say what other ways of working would change; turn: who goes
        first at the desk. Raises what the planner raises.
        """
        key = _key(brief, crew, gear, only, schools)
        found = self._without_waiting(key, brief, crew, gear, only, schools)
        if found is None:
            found = self._at_desk(key, brief, crew, gear, only, schools, turn)
        if isinstance(found, NoLegalPlan):
            raise NoLegalPlan(found.code, found.facts, found.pins)
        return found

    def planner(self, crew: School, gear: CrewKit) -> Callable[[Brief, str | None], Plan]:
        """What plans many briefs for one question, after whoever waits for a single one. Returns what takes a brief, and the id of a camera or None for the best."""
        return lambda brief, only: self.plan(brief, crew, gear, only=only, schools=False, turn=Turn.OTHERS)

    def sighter(self, crew: School, gear: CrewKit) -> Callable[[Brief, str, Tries], list[Sight | None]]:
        """What tells how a brief would look with several pins, after whoever waits for a single plan. Returns what takes a brief, the id of a camera, and the pins."""
        kit = packed(gear)

        def sights(brief: Brief, camera: str, tries: Tries) -> list[Sight | None]:
            given = (brief, camera, tries, crew, kit)
            if self.desk is None:
                return desk_work.sights_for(*given)
            found: list[Sight | None] = self.desk.ask(desk_work.sights_for, given, Turn.OTHERS).result()
            return found

        return sights

    def own_changes(self, brief: Brief, crew: School, gear: CrewKit, made: Plan) -> tuple[OwnChange, ...]:
        """What own numbers change of a plan. brief, crew, gear: that it was made with. It is planned again without each of them."""
        if not made.own:
            return ()
        given = (brief, crew, packed(gear), made)
        if self.desk is None:
            return desk_work.own_changes_of(*given)
        found: tuple[OwnChange, ...] = self.desk.ask(desk_work.own_changes_of, given, Turn.OTHERS).result()
        return found

    def at_hand(self, brief: Brief, crew: School, gear: CrewKit) -> Made | None:
        """A whole plan, or why there is none, where nobody has to wait at the desk for it. Returns None else."""
        return self._without_waiting(_key(brief, crew, gear, None, True), brief, crew, gear, None, True)

    def _without_waiting(
        self, key: Key, brief: Brief, crew: School, gear: CrewKit, only: str | None, schools: bool
    ) -> Made | None:
        found = self._remembered(key)
        if found is None and self.desk is None:
            found = self._here(brief, crew, gear, only, schools)
            self._remember(key, found)
        return found

    def bench(
        self, brief: Brief, crew: School, gear: CrewKit, only: str | None, whole: bool, editor: str | None
    ) -> Future[tuple[str, Packed] | NoLegalPlan]:
        """Have the Bench answered at the desk. editor: whose newest request it is. Returns what will be the answer."""
        assert self.desk is not None
        turn = Turn.OTHERS if whole else Turn.HAND
        given = (brief, crew, packed(gear), only, whole)
        asked = self.desk.ask(desk_work.bench_of, given, turn, editor)
        made: Future[Made | Packed] = Future()

        def told(done: Future[tuple[str, Packed] | NoLegalPlan]) -> None:
            if done.cancelled():
                made.set_exception(Overtaken())
            elif error := done.exception():
                made.set_exception(error)
            else:
                found = done.result()
                made.set_result(found if isinstance(found, NoLegalPlan) else found[1])

        asked.add_done_callback(told)
        self._do(_key(brief, crew, gear, only, whole), asked, made)
        return asked

    def _at_desk(
        self, key: Key, brief: Brief, crew: School, gear: CrewKit, only: str | None, schools: bool, turn: Turn
    ) -> Made:
        assert self.desk is not None
        with self._lock:
            doing = self._doing.get(key)
        if doing is not None:
            self.desk.hurry(doing[0], turn)
            try:
                return _unpacked(doing[1].result())
            except (Overtaken, CancelledError):
                pass  # whoever asked first does not want it any more
        asked = self.desk.ask(desk_work.plan_of, (brief, crew, packed(gear), only, schools), turn)
        self._do(key, asked, asked)
        made: Made = asked.result()
        return made

    def _do(self, key: Key, asked: Future[object], made: Future[Made | Packed]) -> None:
        """Remember what is being made, so that it is made once, and then what was."""
        with self._lock:
            self._doing.setdefault(key, (asked, made))

        def over(done: Future[Made | Packed]) -> None:
            with self._lock:
                if self._doing.get(key, (None, None))[1] is done:
                    del self._doing[key]
            if not done.cancelled() and done.exception() is None:
                self._remember(key, done.result())

        made.add_done_callback(over)

    def _remembered(self, key: Key) -> Made | None:
        with self._lock:
            found = self._made.get(key)
            if found is None:
                return None
            self._made[key] = made = _unpacked(found)
            return made

    def _remember(self, key: Key, found: Made | Packed) -> None:
        with self._lock:
            self._made[key] = found

    def _here(self, brief: Brief, crew: School, gear: CrewKit, only: str | None, schools: bool) -> Made:
        try:
            return plan(
                brief, gear.kit, gear.knowledge, crew=crew, only=only, schools=schools, judgement=self.judgement
            )
        except NoLegalPlan as refused:
            return refused


def _key(brief: Brief, crew: School, gear: CrewKit, only: str | None, schools: bool) -> Key:
    what, way = digest_of(brief.model_dump(mode="json")), digest_of(crew.model_dump(mode="json"))
    return (what, way, gear.kit_digest, gear.knowledge_digest, only, schools)


def _unpacked(found: Made | Packed) -> Made:
    if isinstance(found, bytes):
        made: Made = pickle.loads(found)  # our own, from a worker of the desk
        return made
    return found
