"""Routes of practice: a session, its questions, answers, and what is remembered."""

from __future__ import annotations

import json
from datetime import UTC, datetime
from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel, ConfigDict, Field

from steady_tide.api.shared import CrewKitOf, CrewWay, PlansOf, SessionOf
from steady_tide.core.practice.kinds import ask
from steady_tide.core.practice.schedule import Standing, next_time
from steady_tide.services.practice import answered, begin_session, memory_of, world_of
from steady_tide.store import practice as store
from steady_tide.words.practice import ToldJudged, ToldQuestion, standing_words, told_judged, told_question

router = APIRouter(tags=["practice"])

Topic = Annotated[str, Field(max_length=160)]
Seed = Annotated[int, Field(ge=0, le=2_000_000_000)]
CameraId = Annotated[str, Query(max_length=60, description="that one practises with; left out: any")]


class PracticeKindOut(BaseModel):
    """A kind of questions."""

    id: str
    name: str
    says: str


class PracticeSession(BaseModel):
    """What is asked now. topics: in their order, what is due first; says: how practice stands, in a sentence."""

    topics: list[str]
    standing: Standing
    says: str
    kinds: list[PracticeKindOut]


class PracticeAnswer(BaseModel):
    """An answer. id: made where it is given, so that one sent twice counts once; said: as typed, a number or places counted from one; took_s: how long it took;
    counts: whether it is scheduled by it, not where it is asked once more within its session."""

    model_config = ConfigDict(extra="forbid")

    id: UUID
    topic: Topic
    seed: Seed
    camera: Annotated[str, Field(max_length=60)] | None = None
    said: Annotated[str, Field(max_length=80)]
    took_s: Annotated[float, Field(ge=0, le=86_400)]
    counts: bool = True


@router.get("/practice")
def begin(
    session: SessionOf,
    crew: CrewWay,
    gear: CrewKitOf,
    plans: PlansOf,
    seed: Annotated[int, Query(ge=0, le=2_000_000_000)] = 0,
    kind: Annotated[list[str] | None, Query(max_length=10)] = None,
    camera: CameraId | None = None,
) -> PracticeSession:
    """What is asked now, and how practice stands."""
    world = world_of(crew, gear, plans, camera)
    begun = begin_session(session, world, tuple(kind or ()), seed)
    kinds = [PracticeKindOut(id=key, name=one.name, says=one.says) for key, one in world.kinds.items()]
    return PracticeSession(
        topics=list(begun.topics), standing=begun.standing, says=standing_words(begun.standing), kinds=kinds
    )


@router.get("/practice/question")
def question(
    crew: CrewWay,
    gear: CrewKitOf,
    plans: PlansOf,
    topic: Annotated[str, Query(max_length=160)],
    seed: Annotated[int, Query(ge=0, le=2_000_000_000)],
    camera: CameraId | None = None,
) -> ToldQuestion:
    """A question; the same seed makes the same."""
    world = world_of(crew, gear, plans, camera)
    return told_question(ask(world, topic, seed), world.knowledge, gear.names)


@router.post("/practice/answers")
def answer(session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, said: PracticeAnswer) -> ToldJudged:
    """Judge an answer, and remember how it went."""
    world = world_of(crew, gear, plans, said.camera)
    asked = ask(world, said.topic, said.seed)
    judged, memory = answered(session, world, asked, said.said, said.took_s, said.counts, said.id)
    again = next_time(memory, said.topic, datetime.now(UTC)) if said.counts else None
    return told_judged(asked, judged, gear.names, again)


@router.get("/practice/practice.json", response_class=Response)
def as_file(session: SessionOf) -> Response:
    """What is remembered, as a file; the shell goes on from it."""
    headers = {"Content-Disposition": 'attachment; filename="practice.json"'}
    return Response(json.dumps(memory_of(session), indent=1), media_type="application/json", headers=headers)


@router.delete("/practice", status_code=204)
def forget(session: SessionOf) -> None:
    """Begin practice anew."""
    store.forget_all(session)
