"""The log as a file: takes, ladders with what was said of them, notes and own numbers."""

from __future__ import annotations

from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from steady_tide.core.brief.own_numbers import OwnNumber
from steady_tide.core.log.judging import Answer
from steady_tide.core.log.ladder import Ladder
from steady_tide.core.log.notes import Note
from steady_tide.core.log.take import Short, TakeFields
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.rushes.clip_plan import ClipPlan
from steady_tide.core.rushes.measures import ClipMeasures


class TakeEntry(Frozen):
    """A take. shoot, shot: titles, by which it finds its shot where it is read; measures, planned: of its clip."""

    id: UUID
    shoot: Annotated[str, Field(max_length=200)] = ""
    shot: Annotated[str, Field(max_length=200)] = ""
    said: TakeFields
    measures: ClipMeasures | None = None
    planned: ClipPlan | None = None
    ladder: UUID | None = None
    rung: Annotated[int | None, Field(ge=0, le=5)] = None


class AnswerEntry(Frozen):
    """What somebody said of a ladder's frames."""

    id: UUID
    answer: Answer


class LadderEntry(Frozen):
    """A ladder with its answers."""

    id: UUID
    title: Short
    shoot: Annotated[str, Field(max_length=200)] = ""
    shot: Annotated[str, Field(max_length=200)] = ""
    ladder: Ladder
    answers: Annotated[tuple[AnswerEntry, ...], Field(max_length=sizes.ANSWERS)] = ()


class NoteEntry(Frozen):
    """A note of gear."""

    id: UUID
    note: Note


class LogFile(Frozen):
    """All of a log. own: numbers that are switched on; they are told, and not switched on where the file is read."""

    format: Literal["steady-tide/log"]
    version: Literal[1]
    takes: Annotated[tuple[TakeEntry, ...], Field(max_length=sizes.TAKES)] = ()
    ladders: Annotated[tuple[LadderEntry, ...], Field(max_length=sizes.LADDERS)] = ()
    notes: Annotated[tuple[NoteEntry, ...], Field(max_length=sizes.NOTES)] = ()
    own: Annotated[tuple[OwnNumber, ...], Field(max_length=2000)] = ()
