"""Routes of one's own numbers, as the Log tells them."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated
from uuid import UUID

from pydantic import BaseModel, ConfigDict, Field

from steady_tide import library
from steady_tide.api.shared import CrewKitOf, SessionOf
from steady_tide.api.station import station
from steady_tide.services.own_numbers import OwnStands, own_numbers, switch
from steady_tide.store.ladders import list_ladders
from steady_tide.words.log import contradiction_words
from steady_tide.words.own import OWN_WORDS, how_many, own_span, own_title, own_value, reading_line
from steady_tide.words.quantities import capital

router = station("log", "/log")
READINGS_TOLD = 40


class ReadingOut(BaseModel):
    """One thing that tells an own number."""

    at: datetime | None
    value: float
    says: str
    take: UUID | None
    accepted: bool | None


class OwnOut(BaseModel):
    """An own number. value, low, high: as told now, None while too little tells it; usual: what stands in its place; counts: what
    the planner uses; newer: whether what is told now is another value than that."""

    key: str
    kind: str
    title: str
    decides: str
    value: float | None
    says: str | None
    span: str | None
    low: float | None
    high: float | None
    usual: float | None
    usual_says: str | None
    count: int
    needs: int
    how_many: str
    on: bool
    enters: bool
    edition: int | None
    counts_says: str | None
    newer: bool
    readings: list[ReadingOut]


class OwnNumbers(BaseModel):
    """All own numbers, and what people said that does not go together."""

    items: list[OwnOut]
    contradictions: list[str]


def _own(stands: OwnStands) -> OwnOut:
    found, number, counts = stands.found, stands.found.number, stands.counts
    kind = found.kind.id
    newer = number is not None and counts is not None and own_value(kind, number.value) != own_value(kind, counts.value)
    return OwnOut(
        key=stands.key,
        kind=kind,
        title=capital(own_title(kind, stands.names)),
        decides=OWN_WORDS[kind].what,
        value=None if number is None else number.value,
        says=None if number is None else own_value(kind, number.value),
        span=None if number is None else own_span(kind, number.low, number.high),
        low=None if number is None else number.low,
        high=None if number is None else number.high,
        usual=found.usual,
        usual_says=None if found.usual is None else own_value(kind, found.usual),
        count=found.count,
        needs=max(0, int(library.knowledge().limits.own_least_count) - found.count),
        how_many=how_many(kind, found.count),
        on=stands.on,
        enters=found.kind.enters,
        edition=None if counts is None else counts.edition,
        counts_says=None if counts is None else own_value(kind, counts.value),
        newer=newer,
        readings=[
            ReadingOut(
                at=reading.at,
                value=reading.value,
                says=reading_line(kind, reading),
                take=None if reading.take is None else UUID(reading.take),
                accepted=reading.accepted,
            )
            for reading in found.readings[:READINGS_TOLD]
        ],
    )


@router.get("/numbers")
def numbers(session: SessionOf, gear: CrewKitOf) -> OwnNumbers:
    """One's own numbers, each with how many, its span, from what, and whether the planner uses it."""
    stands, against = own_numbers(session, gear)
    titles = {str(row.id): row.title for row in list_ladders(session)}
    return OwnNumbers(
        items=[_own(one) for one in stands], contradictions=[contradiction_words(one, titles) for one in against]
    )


class Switch(BaseModel):
    """An own number switched on or off. take_over: use what is told now, as a new edition, instead of what counted before."""

    model_config = ConfigDict(extra="forbid")

    key: Annotated[str, Field(min_length=1, max_length=400)]
    on: bool
    take_over: bool = False


@router.post("/numbers")
def switch_number(session: SessionOf, gear: CrewKitOf, said: Switch) -> OwnOut:
    """Switch an own number on or off. Plans are made anew at once; off, they are what they were before."""
    return _own(switch(session, gear, said.key, said.on, said.take_over))
