"""Practice with the crew's kit: what is asked next, and what an answer teaches."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime
from uuid import UUID

from sqlalchemy.orm import Session

from steady_tide import library
from steady_tide.core.brief import School
from steady_tide.core.errors import BadInput, Fault
from steady_tide.core.practice.kinds import KINDS, judge, topics
from steady_tide.core.practice.question import Judged, Question, World
from steady_tide.core.practice.schedule import Memory, Standing, learned, next_topics, standing, went
from steady_tide.services.crew_kit import CrewKit
from steady_tide.services.plans import Plans
from steady_tide.store import practice as store
from steady_tide.words.practice import read_answer

SESSION = 40  # topics of a session at most; five minutes take fewer


@dataclass(frozen=True)
class Begun:
    """A session that begins. topics: in their order; standing: how it stands."""

    topics: tuple[str, ...]
    standing: Standing


def world_of(crew: School, gear: CrewKit, plans: Plans, camera: str | None) -> World:
    """What questions are made of. camera: id of that one practises with, None for any. Raises NotFound where there is none."""
    if camera is not None:
        gear.camera(camera)
    return World(
        gear.kit,
        gear.knowledge,
        library.uses(),
        library.practice(),
        plans.planner(crew, gear),
        camera,
    )


def memory_of(session: Session) -> Memory:
    """What is remembered of all topics."""
    return {row.topic: row.entry for row in store.remembered(session) if row.entry}


def begin_session(session: Session, world: World, kinds: tuple[str, ...], seed: int) -> Begun:
    """What is asked now. kinds: ids, all if none; seed: of the mixing. Raises BadInput."""
    unknown = [kind for kind in kinds if kind not in KINDS]
    if unknown:
        raise BadInput(Fault("kind", f"there is no kind '{unknown[0][:40]}'", f"Use of {', '.join(KINDS)}."))
    there, memory, now = topics(world, kinds), memory_of(session), datetime.now(UTC)
    return Begun(next_topics(memory, there, now, seed, SESSION), standing(memory, there, now))


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
        how = went(judged, took_s, world.kinds[question.kind].usual_s)
        store.keep_entry(session, row, learned(memory, question.topic, how, datetime.now(UTC))[question.topic], answer)
    return judged, {question.topic: row.entry}
