"""Routes of test ladders: offered, made, filmed, looked at, judged."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any
from uuid import UUID

from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.orm import Session

from steady_tide import library
from steady_tide.api.shared import CrewKitOf, CrewWay, PlansOf, SessionOf
from steady_tide.api.station import station
from steady_tide.core.brief.brief import Brief
from steady_tide.core.log.filmed_ladder import FilmedLadder, best_first_of, limits_by_person, pair_to_ask
from steady_tide.core.log.judging import Answer, contradictions, rung_facts
from steady_tide.core.log.ladder import DIALS, Ladder, changed_since, ladder_of, not_held, offered, visible
from steady_tide.services.crew_kit import CrewKit
from steady_tide.services.ladders import basis_of_shot, keep_answer, read_ladders
from steady_tide.services.takes import take_facts
from steady_tide.store import ladders as store
from steady_tide.store import rushes as store_rushes
from steady_tide.store import takes as store_takes
from steady_tide.store.shots import find
from steady_tide.store.tables import LadderKept
from steady_tide.words.dial_values import value_words
from steady_tide.words.log import (
    amount_words,
    changed_words,
    contradiction_words,
    ladder_title,
    ladder_word,
    limit_words,
    not_held_words,
    rung_label,
    statement,
    step_words,
)

router = station("log")


class RungOut(BaseModel):
    """A rung. amount: of what is judged, in words, and as a number; pins: all dials of its plan; frames: of its takes' clips."""

    value: Any
    label: str
    amount: str
    level: float | None
    measured: bool
    pins: dict[str, Any]
    given_up_stops: float
    takes: int
    frames: list[str]


class LadderPlan(BaseModel):
    """A ladder as it would be filmed."""

    dial: str
    word: str
    camera: str
    rungs: list[RungOut]
    order: list[int]
    steps: list[str]
    minutes: float
    not_held: list[str]
    quantity: str | None
    visible: bool


class OfferedValue(BaseModel):
    """A value that a ladder may have."""

    value: Any
    label: str


class Offers(BaseModel):
    """Ladders worth filming, and all values from which one can be made."""

    items: list[LadderPlan]
    values: dict[str, list[OfferedValue]]
    words: dict[str, str]


class LadderAsked(BaseModel):
    """A ladder to be made."""

    model_config = ConfigDict(extra="forbid")

    dial: Annotated[str, Field(max_length=60)]
    values: Annotated[tuple[str | float | bool, ...], Field(min_length=2, max_length=6)]
    passes: Annotated[int, Field(ge=1, le=4)] = 2


class AnswerOut(BaseModel):
    """What somebody said, and under which id it can be taken back."""

    id: UUID
    answer: Answer


class Limit(BaseModel):
    """From where on somebody accepts. enough: whether it may become an own number."""

    who: str
    says: str
    enough: bool


class LadderOut(LadderPlan):
    """A ladder with what was filmed and said of it.

    best_first: rungs from the best picture to the worst; next: the pair that is most worth asking, by person; told: statements;
    changed: what the shot's plan has otherwise by now; gone: whether the shot was removed.
    """

    id: UUID
    title: str
    shot_id: UUID | None
    shot: str
    brief: Brief | None
    made_at: datetime
    best_first: list[int]
    answers: list[AnswerOut]
    next: dict[str, tuple[int, int]]
    first: tuple[int, int]
    told: list[str]
    limits: list[Limit]
    contradictions: list[str]
    changed: list[str]
    gone: bool


class LadderLine(BaseModel):
    """A ladder in a list. order: rungs as they are filmed; steps: the same in words; takes: how many of them are filmed."""

    id: UUID
    title: str
    shot_id: UUID | None
    shot: str
    order: list[int]
    steps: list[str]
    made_at: datetime
    rungs: int
    takes: int
    answers: int
    told: list[str]


class LadderList(BaseModel):
    """All ladders, the newest first."""

    items: list[LadderLine]
    total: int


def _plan(
    ladder: Ladder,
    gear: CrewKit,
    names: dict[str, str],
    read: FilmedLadder | None = None,
    frames: dict[int, list[str]] | None = None,
) -> dict[str, Any]:
    amounts = {} if read is None else read.amounts
    limits = library.knowledge().limits
    rungs = []
    for place, rung in enumerate(ladder.rungs):
        amount, measured = amounts.get(place, (None, False))
        if amount is None and ladder.quantity is not None:
            amount = rung.amount(ladder.quantity)
        rungs.append(
            RungOut(
                value=rung.value,
                label=rung_label(ladder, place),
                amount=amount_words(ladder.quantity, amount, measured),
                level=amount,
                measured=measured,
                pins=rung.pins,
                given_up_stops=rung.given_up_stops,
                takes=0 if read is None else sum(take.rung == place for take in read.takes),
                frames=(frames or {}).get(place, []),
            )
        )
    return {
        "dial": ladder.dial,
        "word": ladder_word(ladder.dial),
        "camera": gear.camera(ladder.camera).name if gear.has(ladder.camera) else ladder.camera,
        "rungs": rungs,
        "order": list(ladder.order),
        "steps": step_words(ladder),
        "minutes": ladder.minutes,
        "not_held": [not_held_words(one, names) for one in not_held(ladder, limits)],
        "quantity": ladder.quantity,
        "visible": visible(ladder, limits),
    }


@router.get("/shots/{shot_id}/ladders")
def offers(session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, shot_id: UUID) -> Offers:
    """Ladders worth filming of a shot: their pictures differ visibly, and the rest can stay the same. Takes a few seconds."""
    basis = basis_of_shot(session, shot_id, crew, gear, plans)
    names = gear.names
    values = {
        dial: [
            OfferedValue(value=entry.value, label=value_words(dial, entry.value))
            for entry in basis.plan.profiles.get(dial, ())
            if entry.legal and entry.value is not None
        ]
        for dial in DIALS
    }
    values = {dial: entries for dial, entries in values.items() if len(entries) > 1}
    return Offers(
        items=[LadderPlan(**_plan(ladder, gear, names)) for ladder in offered(basis)],
        values=values,
        words={dial: ladder_word(dial) for dial in values},
    )


@router.post("/shots/{shot_id}/ladders", status_code=201)
def make(
    session: SessionOf, crew: CrewWay, gear: CrewKitOf, plans: PlansOf, shot_id: UUID, asked: LadderAsked
) -> LadderOut:
    """Make a ladder of a shot: one dial varies, all else stays as far as it can."""
    basis = basis_of_shot(session, shot_id, crew, gear, plans)
    made = ladder_of(basis, asked.dial, asked.values, asked.passes)
    title = ladder_title(made, basis.sheet.name, basis.brief.title)
    kept = store.add_ladder(session, shot_id, title, made.model_dump(mode="json"))
    session.refresh(kept, ["made_at"])
    return _out(session, kept, gear)


@router.get("/ladders")
def list_all(session: SessionOf, shot: UUID | None = None) -> LadderList:
    """All ladders, or those of one shot."""
    rows = store.list_ladders(session, shot)
    shots = store_takes.shots_of_takes(session)
    seen = [take.seen for take in take_facts(session, store_takes.takes_on_ladders(session, [row.id for row in rows]))]
    items = [
        LadderLine(
            id=read.row.id,
            title=read.row.title,
            shot_id=read.row.shot_id,
            order=list(read.filmed.ladder.order),
            steps=step_words(read.filmed.ladder),
            shot=shots[read.row.shot_id]["title"] if read.row.shot_id in shots else "",
            made_at=read.row.made_at,
            rungs=len(read.filmed.ladder.rungs),
            takes=len(read.filmed.takes),
            answers=len(read.filmed.answers),
            told=[limit.says for limit in _limits(read.filmed)],
        )
        for read in read_ladders(session, rows, seen)
    ]
    return LadderList(items=items, total=len(items))


def _limits(read: FilmedLadder) -> list[Limit]:
    quantity, known = read.ladder.quantity, library.knowledge()
    if quantity is None:
        return []
    least = int(known.limits.own_least_count)
    found = []
    for who, limit in limits_by_person(read, known).items():
        enough = limit.count >= least
        says = limit_words(quantity, limit, who) if enough else f"{who}: {limit.count} of {least} answers so far."
        found.append(Limit(who=who, says=says, enough=enough))
    return found


@router.get("/ladders/{ladder_id}")
def get(session: SessionOf, gear: CrewKitOf, ladder_id: UUID) -> LadderOut:
    """A ladder with what was filmed and said of it."""
    return _out(session, store.get_ladder(session, ladder_id), gear)


def _out(session: Session, row: LadderKept, gear: CrewKit) -> LadderOut:
    takes = take_facts(session, store_takes.takes_on_ladders(session, [row.id]))
    (kept,) = read_ladders(session, [row], [take.seen for take in takes])
    read = kept.filmed
    ladder, known = read.ladder, library.knowledge()
    shot = None if row.shot_id is None else find(session, row.shot_id)
    names = gear.names
    frames: dict[int, list[str]] = {}
    for take in takes:
        if take.row.clip_id is not None and take.row.rung is not None:
            there = len(store_rushes.frames_at(session, [take.row.clip_id]).get(take.row.clip_id, []))
            paths = [f"/api/rushes/clips/{take.row.clip_id}/frames/{place}" for place in range(there)]
            frames.setdefault(take.row.rung, []).extend(paths)
    answers = read.answers
    light = None if shot is None else (shot.plan or {}).get("light_kind")
    camera = gear.camera(ladder.camera).name if gear.has(ladder.camera) else ladder.camera
    chosen = {} if shot is None else (shot.plan or {}).get("chosen", {})
    against = contradictions(read.judged, known.limits)
    return LadderOut(
        **_plan(ladder, gear, names, read, frames),
        id=row.id,
        title=row.title,
        shot_id=None if shot is None else shot.id,
        shot="" if shot is None else Brief.model_validate(shot.brief).title,
        brief=None if shot is None else Brief.model_validate(shot.brief),
        made_at=row.made_at,
        best_first=list(best_first_of(ladder, read.amounts)),
        answers=[AnswerOut(id=answer_id, answer=answer) for answer_id, answer in zip(kept.ids, answers, strict=True)],
        next={who: pair_to_ask(read, who, known) for who in {answer.who for answer in answers}},
        first=pair_to_ask(read, "", known),
        told=[statement(ladder, one, read.amounts.get(one.rung), camera, light) for one in rung_facts(read.judged)],
        limits=_limits(read),
        contradictions=[contradiction_words(one, {str(row.id): "here"}) for one in against],
        changed=changed_words(changed_since(ladder, chosen), names),
        gone=shot is None,
    )


@router.delete("/ladders/{ladder_id}", status_code=204)
def remove(session: SessionOf, ladder_id: UUID) -> None:
    """Remove a ladder; it can be brought back."""
    store.remove_ladder(session, ladder_id)


@router.post("/ladders/{ladder_id}/restore")
def restore(session: SessionOf, gear: CrewKitOf, ladder_id: UUID) -> LadderOut:
    """Bring a removed ladder back."""
    return _out(session, store.restore_ladder(session, ladder_id), gear)


@router.put("/ladders/{ladder_id}/answers/{answer_id}")
def answer(session: SessionOf, gear: CrewKitOf, ladder_id: UUID, answer_id: UUID, said: Answer) -> LadderOut:
    """Say which frames are good enough, under an id that is made where it is said. Said again, it counts once."""
    return _out(session, keep_answer(session, ladder_id, answer_id, said), gear)


@router.delete("/ladders/{ladder_id}/answers/{answer_id}")
def take_back(session: SessionOf, gear: CrewKitOf, ladder_id: UUID, answer_id: UUID) -> LadderOut:
    """Take back what was said."""
    row = store.get_ladder(session, ladder_id)
    store.take_answer_back(session, ladder_id, answer_id)
    return _out(session, row, gear)
