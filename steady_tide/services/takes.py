"""Takes as the Log tells them: each with its shot and its verdict, found by what they are of, and what recurs."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any
from uuid import UUID

from sqlalchemy.orm import Session

from steady_tide import library
from steady_tide.core.log.recurring import attribute
from steady_tide.core.log.take import TakeFields, TakeSeen, as_of, days_before
from steady_tide.core.log.take_verdicts import seen_takes
from steady_tide.core.quantities.errors import BadInput, Fault
from steady_tide.core.rushes.clip_plan import ClipPlan
from steady_tide.core.rushes.measures import ClipMeasures
from steady_tide.services.rush_matching import of_person
from steady_tide.store import takes as store
from steady_tide.store.database import row_cache
from steady_tide.store.ladders import get_ladder
from steady_tide.store.rushes import confirmed_clips
from steady_tide.store.shots import get_shot
from steady_tide.store.tables import Shot, TakeKept


@dataclass(frozen=True)
class ShotOfTake:
    """What the log tells of a take's shot."""

    id: UUID
    title: str
    shoot: str
    shoot_id: UUID
    zone: str


@dataclass(frozen=True)
class TakeFacts:
    """A take with what is known of it. number: which of its shot it is, by time, from 1; early_days: by how many days it
    comes before its shoot, where that is long."""

    row: TakeKept
    seen: TakeSeen
    shot: ShotOfTake | None
    number: int
    early_days: int | None = None


def take_facts(session: Session, rows: Sequence[TakeKept] | None = None) -> list[TakeFacts]:
    """Takes with all that is known of them, the newest first. rows: some of them, all of their shots among them; all where
    left out."""
    rows = store.list_takes(session) if rows is None else rows
    shots = store.shots_of_takes(session)
    numbers = _numbers(rows)
    read = _read_all(session, rows)
    seen = seen_takes([_seen(row, shots, *read[row.id]) for row in rows], library.knowledge().limits)
    found = []
    for row, take in zip(rows, seen, strict=True):
        shot = shots.get(row.shot_id) if row.shot_id is not None else None
        told = None
        if shot is not None and row.shot_id is not None:
            told = ShotOfTake(row.shot_id, shot["title"], shot["shoot"], shot["shoot_id"], shot["zone"])
        early = None if shot is None else days_before(row.at, shot["day"])
        found.append(TakeFacts(row, take, told, numbers[row.id], early))
    return found


Read = tuple[ClipMeasures | None, ClipPlan | None]


def _read_all(session: Session, rows: Sequence[TakeKept]) -> dict[UUID, Read]:
    """What was measured of takes, and what they are held against. A thousand of them take a second to read, so that those
    that did not change are remembered."""
    cache, keys = row_cache(session), {row.id: (row.id, row.updated_at) for row in rows}
    known = cache.found(keys.values())
    found: dict[UUID, Read] = {row_id: known[key] for row_id, key in keys.items() if key in known}
    missing = [row for row in rows if row.id not in found]
    plain = store.measured_of(session, [row.id for row in missing]) if missing else {}
    for row in missing:
        measures, planned = plain.get(row.id, (None, None))
        found[row.id] = (
            None if measures is None else ClipMeasures.model_validate(measures),
            None if planned is None else ClipPlan.model_validate(planned),
        )
    cache.keep({keys[row.id]: found[row.id] for row in missing})
    return found


def _seen(
    row: TakeKept, shots: dict[UUID, dict[str, Any]], measures: ClipMeasures | None, plan: ClipPlan | None
) -> TakeSeen:
    shot = (shots.get(row.shot_id) if row.shot_id is not None else None) or {}
    return TakeSeen(
        key=str(row.id),
        at=row.at,
        said=TakeFields.model_validate(row.said),
        shot=None if row.shot_id is None else str(row.shot_id),
        scenario=shot.get("scenario"),
        place=shot.get("place") or None,
        light=(None if plan is None else plan.light_kind) or shot.get("light"),
        measures=measures,
        plan=plan,
        ladder=None if row.ladder_id is None else str(row.ladder_id),
        rung=row.rung,
    )


def _numbers(rows: Sequence[TakeKept]) -> dict[UUID, int]:
    """Which of its shot each take is: by time, so that two phones without a connection count alike in the end."""
    counted: dict[UUID | None, int] = defaultdict(int)
    numbers = {}
    for row in sorted(rows, key=lambda one: (one.at, one.id)):
        counted[row.shot_id] += 1
        numbers[row.id] = counted[row.shot_id]
    return numbers


def takes_of_shot(session: Session, shot_id: UUID) -> list[TakeFacts]:
    """The takes of one shot, the newest first."""
    return take_facts(session, store.list_takes(session, [shot_id]))


def that_count(session: Session, takes: Sequence[TakeFacts]) -> list[TakeSeen]:
    """Takes as statistics count them: what was measured of a clip counts once a person has said of which shot it is."""
    confirmed = confirmed_clips(session)
    return [
        take.seen
        if take.row.clip_id is None or take.row.clip_id in confirmed
        else replace(take.seen, measures=None, plan=None, verdict=None)
        for take in takes
    ]


# By what takes are found, besides words.
FOUND_BY = ("shoot", "camera", "scenario", "place", "mount", "hands", "fault", "rating")


def value_of(take: TakeFacts, by: str) -> tuple[str, ...]:
    """What a take has of something that takes are found by. Returns none, one or several values."""
    if by == "shoot":
        return () if take.shot is None else (take.shot.shoot,)
    if by == "fault":
        return tuple(take.seen.faults)
    if by == "rating":
        return () if take.seen.said.rating is None else (take.seen.said.rating,)
    value = attribute(take.seen, by)
    return () if not value else (value,)


def found_takes(takes: Sequence[TakeFacts], wanted: dict[str, str], words: str) -> list[TakeFacts]:
    """The takes that have all that is wanted. wanted: by `FOUND_BY`; words: all of them stand in its texts. Returns them."""
    parts = words.casefold().split()
    return [
        take
        for take in takes
        if all(value in value_of(take, by) for by, value in wanted.items())
        and all(part in _text(take) for part in parts)
    ]


def _text(take: TakeFacts) -> str:
    said = take.seen.said
    shot = () if take.shot is None else (take.shot.title, take.shot.shoot)
    texts = (*shot, said.note, said.camera or "", said.hands or "", *said.settings.values())
    return " ".join(texts).casefold()


def counts_of(takes: Sequence[TakeFacts]) -> dict[str, dict[str, int]]:
    """How many takes have each value of what they are found by."""
    found: dict[str, dict[str, int]] = {}
    for by in FOUND_BY:
        counted: dict[str, int] = defaultdict(int)
        for take in takes:
            for value in value_of(take, by):
                counted[value] += 1
        found[by] = dict(sorted(counted.items(), key=lambda entry: (-entry[1], entry[0])))
    return found


def keep_take(
    session: Session, take_id: UUID, shot_id: UUID | None, said: TakeFields, ladder_id: UUID | None, rung: int | None
) -> TakeKept:
    """Keep a take that was logged, once. take_id: made where it was logged; shot_id: of which shot; said: of it;
    ladder_id, rung: on which step of which ladder. Returns it, whatever its time: a rehearsal comes before the shoot's day, and
    so does a wrong clock, of which the Log tells. Raises NotFound where the shot or the ladder is gone."""
    if shot_id is not None:
        said = _as_planned(get_shot(session, shot_id), said)
    fields = {"shot_id": shot_id, "at": said.at, "said": said.model_dump(mode="json"), "made_by": "card"}
    fields |= _on_ladder(session, ladder_id, rung)
    return store.put_take(session, take_id, fields)[0]


def move_take(session: Session, take: TakeKept, shot_id: UUID | None) -> None:
    """Put a take to another shot, its clip with it. take: held; shot_id: None for none. What it has of its old shot's plan
    it has of the new one's from now on. Raises NotFound."""
    before = None if take.shot_id is None else session.get(Shot, take.shot_id)
    shot = None if shot_id is None else get_shot(session, shot_id)
    old, new = (({} if one is None else _planned_of(one)) for one in (before, shot))
    said = as_of(take.said, old, new)
    if said != take.said:
        store.keep_said(take, said, take.at)
    take.shot_id = None if shot is None else shot.id
    session.flush()
    if take.clip_id is not None:
        of_person(session, take.clip_id, shot_id)


def _on_ladder(session: Session, ladder_id: UUID | None, rung: int | None) -> dict[str, Any]:
    """Columns of a take on a ladder: it is held against its rung. Raises NotFound, BadInput where the ladder has no such rung."""
    if ladder_id is None:
        return {}
    rungs = get_ladder(session, ladder_id).ladder["rungs"]
    if rung is None or rung >= len(rungs):
        last = len(rungs) - 1
        raise BadInput(Fault("rung", f"is {rung}, and the ladder has {len(rungs)}", f"Give one from 0 to {last}."))
    return {"ladder_id": ladder_id, "rung": rung, "planned": rungs[rung]["planned"]}


def _planned_of(shot: Shot) -> dict[str, Any]:
    """Camera, mount and hands as a shot is planned."""
    move = shot.brief.get("camera_move", {})
    camera = ((shot.plan or {}).get("camera") or {}).get("id")
    return {"camera": camera, "mount": move.get("mount"), "hands": move.get("hands")}


def _as_planned(shot: Shot, said: TakeFields) -> TakeFields:
    """What was not said of a take is as its shot was planned: camera, mount, whose hands."""
    planned = _planned_of(shot)
    return said.model_copy(update={name: value for name, value in planned.items() if getattr(said, name) is None})
