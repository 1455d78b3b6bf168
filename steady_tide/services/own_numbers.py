"""One's own numbers as they stand: what takes, ladders and notes tell now, and which of them the planner uses."""

from __future__ import annotations

from dataclasses import dataclass, replace

from pydantic import TypeAdapter
from sqlalchemy.orm import Session

from steady_tide.core.brief.own_numbers import OwnNumber, key_of
from steady_tide.core.log.judging import Contradiction, contradictions
from steady_tide.core.log.notes import Note
from steady_tide.core.own.applying import names_of, read_number
from steady_tide.core.own.kinds import BY_ID
from steady_tide.core.own.own_kind import Clock, Evidence
from steady_tide.core.own.readings import Found, find_all
from steady_tide.core.quantities.errors import NotFound
from steady_tide.services.crew_kit import CrewKit
from steady_tide.services.ladders import read_ladders
from steady_tide.services.takes import take_facts, that_count
from steady_tide.store import ladders as store
from steady_tide.store import rushes as store_rushes
from steady_tide.store import takes as store_takes

NOTE: TypeAdapter[Note] = TypeAdapter(Note)


@dataclass(frozen=True)
class OwnStands:
    """An own number as it stands. found: what is told now; on: whether the planner uses it; counts: the edition that it uses, or
    used last; names: of what it is of."""

    found: Found
    on: bool
    counts: OwnNumber | None
    names: dict[str, str]

    @property
    def key(self) -> str:
        """Its name among all own numbers."""
        return key_of(self.found.kind.id, self.found.of)


def evidence_of(session: Session, gear: CrewKit) -> Evidence:
    """All that can tell own numbers. gear: the kit. Returns it."""
    seen = that_count(session, take_facts(session))
    read = read_ladders(session, store.list_ladders(session), seen)
    ids = {sheet.name: sheet.id for sheet in gear.kit.cameras}
    kit, knowledge = gear.bare
    return Evidence(
        takes=seen,
        judged=[judged for ladder in read for judged in ladder.filmed.judged],
        notes=[NOTE.validate_python(row.note) for row in store_takes.list_notes(session)],
        clocks=[
            Clock(ids.get(row.camera, row.camera), row.ahead_s, row.clips) for row in store_rushes.list_clocks(session)
        ],
        kit=kit,
        knowledge=knowledge,
    )


def own_numbers(session: Session, gear: CrewKit) -> tuple[list[OwnStands], tuple[Contradiction, ...]]:
    """All own numbers as they stand, those too that are switched on and have lost their evidence; and what contradicts."""
    evidence = evidence_of(session, gear)
    kept = store.list_own(session)
    editions = store.list_own_editions(session)
    found = list(find_all(evidence))
    told = {key_of(one.kind.id, one.of) for one in found}
    for key, row in kept.items():
        if key not in told and row.switched_on:
            number = read_number(editions[key][-1].number)
            if number.kind in BY_ID:
                kind = BY_ID[number.kind]
                usual = kind.usual(number.of, evidence.kit, evidence.knowledge)
                found.append(Found(kind, number.of, None, usual, 0, ()))
    stand = []
    for one in found:
        key = key_of(one.kind.id, one.of)
        kept_row = kept.get(key)
        counts = None
        if kept_row is not None:
            plain = next(row.number for row in editions[key] if row.edition == kept_row.edition)
            counts = read_number({**plain, "edition": kept_row.edition})
        on = kept_row is not None and kept_row.switched_on
        stand.append(OwnStands(one, on, counts, names_of(one.of, evidence.kit, evidence.knowledge)))
    return stand, contradictions(evidence.judged, evidence.limits)


def switch(session: Session, gear: CrewKit, key: str, on: bool, take_over: bool) -> OwnStands:
    """Switch an own number on or off. key: of it; take_over: take what is told now, as a new edition, instead of what counted
    before. Returns it as it stands. Raises NotFound where there is none, or too little tells it."""
    there, _ = own_numbers(session, gear)
    one = next((entry for entry in there if entry.key == key), None)
    if one is None or (on and one.found.number is None and one.counts is None):
        raise NotFound("There is no such own number yet. It needs three readings first.")
    number = one.found.number if on and (take_over or one.counts is None) else None
    row = store.switch(session, key, on, None if number is None else _plain(number))
    counts = store.own_edition(session, key, row.edition)
    return replace(one, on=on, counts=None if counts is None else read_number(counts))


def _plain(number: OwnNumber) -> dict[str, object]:
    return number.model_dump(mode="json", exclude={"edition", "names", "usual"})
