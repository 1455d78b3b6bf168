"""Practice with the crew's kit: what is asked next, and what an answer teaches."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime
from threading import Lock
from uuid import UUID

from cachetools import LRUCache
from sqlalchemy.orm import Session

from steady_tide import library
from steady_tide.core.brief.brief import School
from steady_tide.core.practice.decks import LOG, decks_of, in_deck, past_of
from steady_tide.core.practice.kinds import KINDS, ask, judge, topics
from steady_tide.core.practice.question import Judged, Past, Question, World
from steady_tide.core.practice.schedule import Memory, Standing, learned, next_topics, standing, went
from steady_tide.core.quantities.errors import BadInput, Fault, NoLegalPlan, NotFound
from steady_tide.services.crew_kit import CrewKit
from steady_tide.services.digests import digest_of
from steady_tide.services.plans import Plans
from steady_tide.services.takes import take_facts
from steady_tide.store import practice as store
from steady_tide.store.database import Database
from steady_tide.words.practice import read_answer

SESSION = 40  # topics of a session at most; five minutes take fewer


MOST_KEPT = 64


@dataclass(frozen=True)
class Begun:
    """A session that begins. topics: in their order; standing: how it stands; decks: that there are."""

    topics: tuple[str, ...]
    standing: Standing
    decks: tuple[str, ...]


@dataclass(frozen=True)
class Practised:
    """What is practised with. world: what questions are made of; past: what went wrong in one's own takes; key: of kit, camera and deck."""

    world: World
    past: Past
    key: str


class Asked:
    """What was asked lately, so that an answer does not wait for its question to be made again; and topics that none of a deck's shots shows."""

    def __init__(self) -> None:
        self._questions: LRUCache[tuple[str, str, int], Question] = LRUCache(MOST_KEPT)
        self._not_shown: LRUCache[str, frozenset[str]] = LRUCache(MOST_KEPT)
        self._lock = Lock()

    def not_shown(self, key: str) -> frozenset[str]:
        """Topics that are known to be shown by none of its shots. key: of kit, camera and deck."""
        with self._lock:
            return self._not_shown.get(key, frozenset())

    def question(self, with_: Practised, topic: str, seed: int) -> Question:
        """A question. topic: as `topics` names it; seed: the same makes the same. Raises NotFound, NoLegalPlan; what none of the shots shows is not asked again."""
        key = (with_.key, topic, seed)
        with self._lock:
            if key in self._questions:
                return self._questions[key]
        try:
            made = ask(with_.world, topic, seed)
        except (NotFound, NoLegalPlan):
            if topic in topics(with_.world, ("wrong", "which")):
                with self._lock:
                    self._not_shown[with_.key] = self._not_shown.get(with_.key, frozenset()) | {topic}
            raise
        with self._lock:
            self._questions[key] = made
        return made


def practised_with(
    database: Database, crew: School, gear: CrewKit, plans: Plans, camera: str | None, deck: str, listing: bool = False
) -> Practised:
    """What is practised with.

    camera: id of that one practises with, None for any; deck: id, empty for all; listing: whether its past is told, too, where the deck does not need it. No connection is held
    afterwards. Raises NotFound, BadInput.
    """
    if camera is not None:
        gear.camera(camera)
    past = Past(faults=(), scenarios=())
    if listing or deck == LOG:
        with database.session() as session:
            past = past_of([take.seen for take in take_facts(session)])
    world = World(
        gear.kit,
        gear.knowledge,
        library.uses(),
        library.practice(),
        plans.planner(crew, gear),
        plans.sighter(crew, gear),
        camera,
    )
    key = digest_of([gear.kit_digest, gear.knowledge_digest, crew.model_dump(mode="json"), camera, deck])
    return Practised(in_deck(world, deck, past), past, key)


def memory_of(session: Session) -> Memory:
    """What is remembered of all topics."""
    return {row.topic: row.entry for row in store.remembered(session) if row.entry}


def begin_session(session: Session, with_: Practised, asked: Asked, kinds: tuple[str, ...], seed: int) -> Begun:
    """What is asked now. asked: lately; kinds: ids, all if none; seed: of the mixing. Raises BadInput."""
    unknown = [kind for kind in kinds if kind not in KINDS]
    if unknown:
        raise BadInput(Fault("kind", f"there is no kind '{unknown[0][:40]}'", f"Use of {', '.join(KINDS)}."))
    world, not_shown = with_.world, asked.not_shown(with_.key)
    there = [topic for topic in topics(world, kinds) if topic not in not_shown]
    memory, now, rules = memory_of(session), datetime.now(UTC), world.rules
    return Begun(
        next_topics(memory, there, now, seed, SESSION, rules),
        standing(memory, there, now, rules),
        decks_of(library.uses(), world.knowledge, with_.past),
    )


def answered(
    session: Session, world: World, question: Question, said: str, took_s: float, counts: bool, answer: UUID
) -> tuple[Judged, Memory]:
    """Judge an answer and remember how it went.

    question: as it was asked; said: as it was typed; took_s: seconds; counts: whether it is scheduled by it, not where it is asked once more within its session;
    answer: its id: sent twice it counts once. Returns it judged, and what is remembered of its topic. Raises BadInput.
    """
    judged = judge(world, question, read_answer(question, said))
    if not counts:
        return judged, {}
    row = store.held_topic(session, question.topic)
    if row.answer != answer:
        memory = {question.topic: row.entry} if row.entry else {}
        how = went(judged, took_s, world.rules.kinds[question.kind].usual_s, world.rules)
        store.keep_entry(session, row, learned(memory, question.topic, how, datetime.now(UTC))[question.topic], answer)
    return judged, {question.topic: row.entry}
