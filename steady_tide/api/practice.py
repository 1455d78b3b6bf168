"""Routes of practice: a session, its questions, answers, and what is remembered."""

from __future__ import annotations

import json
from datetime import UTC, datetime
from typing import Annotated
from uuid import UUID

from fastapi import Query, Request, Response
from pydantic import BaseModel, ConfigDict, Field

from steady_tide.api.services import services_at
from steady_tide.api.shared import CrewKitOf, CrewWay, PlansOf, SessionOf
from steady_tide.api.station import station
from steady_tide.core.practice.question import Question
from steady_tide.core.practice.schedule import Standing, next_time
from steady_tide.services.practice import answered, begin_session, memory_of, practised_with
from steady_tide.store import practice as store
from steady_tide.words.practice import (
    JudgedText,
    QuestionText,
    deck_words,
    judged_text,
    past_words,
    question_text,
    standing_words,
)

router = station("practice")

Topic = Annotated[str, Field(max_length=160)]
Seed = Annotated[int, Field(ge=0, le=2_000_000_000)]
CameraId = Annotated[str, Query(max_length=60, description="that one practises with; left out: any")]
DeckId = Annotated[str, Query(max_length=80, description="as a session lists them; empty: all questions")]


class PracticeKindOut(BaseModel):
    """A kind of questions."""

    id: str
    name: str
    says: str
    pictures: bool


class DeckOut(BaseModel):
    """A deck of questions."""

    id: str
    name: str


class PracticeSession(BaseModel):
    """What is asked now. topics: in their order, what is due first; says: how practice stands, in a sentence; past: what went wrong in one's own takes."""

    topics: list[str]
    standing: Standing
    says: str
    kinds: list[PracticeKindOut]
    decks: list[DeckOut]
    past: str


class PracticeAnswer(BaseModel):
    """An answer. id: made where it is given, so that one sent twice counts once; said: as typed, a number or places counted from one; took_s: how long it took;
    counts: whether it is scheduled by it, not where it is asked once more within its session."""

    model_config = ConfigDict(extra="forbid")

    id: UUID
    topic: Topic
    seed: Seed
    camera: Annotated[str, Field(max_length=60)] | None = None
    deck: Annotated[str, Field(max_length=80)] = ""
    said: Annotated[str, Field(max_length=80)]
    took_s: Annotated[float, Field(ge=0, le=86_400)]
    counts: bool = True


@router.get("/practice")
def begin(
    request: Request,
    session: SessionOf,
    crew: CrewWay,
    gear: CrewKitOf,
    plans: PlansOf,
    camera: CameraId | None = None,
    deck: DeckId = "",
    seed: Annotated[int, Query(ge=0, le=2_000_000_000)] = 0,
    kind: Annotated[list[str] | None, Query(max_length=10)] = None,
) -> PracticeSession:
    """What is asked now, and how practice stands."""
    practised = practised_with(services_at(request).database, crew, gear, plans, camera, deck, listing=True)
    begun = begin_session(session, practised, services_at(request).questions, tuple(kind or ()), seed)
    kinds = practised.world.rules.kinds.items()
    names = {key: scenario.name for key, scenario in gear.knowledge.scenarios.items()}
    decks = [DeckOut(id=deck, name=deck_words(deck, names)) for deck in begun.decks]
    return PracticeSession(
        topics=list(begun.topics),
        standing=begun.standing,
        says=standing_words(begun.standing),
        kinds=[PracticeKindOut(id=key, name=one.name, says=one.says, pictures=one.pictures) for key, one in kinds],
        decks=[deck for deck in decks if deck.name],
        past=past_words(practised.past),
    )


@router.get("/practice/question")
def question(
    request: Request,
    crew: CrewWay,
    gear: CrewKitOf,
    plans: PlansOf,
    topic: Annotated[str, Query(max_length=160)],
    seed: Annotated[int, Query(ge=0, le=2_000_000_000)],
    camera: CameraId | None = None,
    deck: DeckId = "",
) -> QuestionText:
    """A question; the same seed makes the same."""
    practised = practised_with(services_at(request).database, crew, gear, plans, camera, deck)
    return question_text(services_at(request).questions.question(practised, topic, seed), gear.knowledge, gear.names)


@router.post("/practice/answers")
def answer(
    request: Request, session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, said: PracticeAnswer
) -> JudgedText:
    """Judge an answer, and remember how it went."""
    practised = practised_with(services_at(request).database, crew, gear, plans, said.camera, said.deck)
    asked: Question = services_at(request).questions.question(practised, said.topic, said.seed)
    judged, memory = answered(session, practised.world, asked, said.said, said.took_s, said.counts, said.id)
    again = next_time(memory, said.topic, datetime.now(UTC)) if said.counts else None
    return judged_text(asked, judged, gear.knowledge, gear.names, again)


@router.get("/practice/practice.json", response_class=Response)
def as_file(session: SessionOf) -> Response:
    """What is remembered, as a file; the shell goes on from it."""
    headers = {"Content-Disposition": 'attachment; filename="practice.json"'}
    return Response(json.dumps(memory_of(session), indent=1), media_type="application/json", headers=headers)


@router.delete("/practice", status_code=204)
def forget(session: SessionOf) -> None:
    """Begin practice anew."""
    store.forget_all(session)
