"""Ladders as they are kept: made from a shot's plan, filmed, looked at, judged."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from uuid import UUID

from sqlalchemy.orm import Session

from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.log.filmed_ladder import FilmedLadder, check_answer, filmed_ladder
from steady_tide.core.log.judging import Answer
from steady_tide.core.log.ladder import Ladder, LadderBasis, rung_with
from steady_tide.core.log.take import TakeSeen
from steady_tide.core.planning.plan import Plan
from steady_tide.core.quantities.errors import NoLegalPlan, NotFound
from steady_tide.services.crew_kit import CrewKit
from steady_tide.services.days import NO_PLAN
from steady_tide.services.kept_plans import held_gear, standing_of
from steady_tide.services.planning_pool import Turn
from steady_tide.services.plans import Plans
from steady_tide.store import ladders as store
from steady_tide.store.shots import get_shot
from steady_tide.store.tables import LadderKept


def basis_of_shot(session: Session, shot_id: UUID, crew: School, gear: CrewKit, plans: Plans) -> LadderBasis:
    """What ladders of a shot are made from. Raises NotFound, and NoLegalPlan where the shot has no plan."""
    shot = get_shot(session, shot_id)
    now = standing_of(session, shot, crew, gear, plans)
    if now.plan is None:
        raise now.refusal or NoLegalPlan(NO_PLAN, {})
    plan, theirs = now.plan, held_gear(session, shot, gear)

    def planner(brief: Brief) -> Plan:
        return plans.plan(brief, crew, theirs, only=plan.camera.id, schools=False, turn=Turn.SAVING)

    return LadderBasis(now.brief, plan, theirs.camera(plan.camera.id), theirs.knowledge, planner)


@dataclass(frozen=True)
class LadderRead:
    """A ladder as it is kept, with what was filmed and said of it. ids: of its answers, in their order."""

    row: LadderKept
    filmed: FilmedLadder
    ids: list[UUID]


def read_ladders(session: Session, rows: Sequence[LadderKept], takes: Sequence[TakeSeen]) -> list[LadderRead]:
    """Ladders with all that belongs to them. takes: all, or those of these ladders. Returns them in the same order."""
    answers = store.answers_of(session, [row.id for row in rows])
    found = []
    for row in rows:
        said = [Answer.model_validate(answer.answer) for answer in answers[row.id]]
        filmed = filmed_ladder(str(row.id), row.title, Ladder.model_validate(row.ladder), said, takes)
        found.append(LadderRead(row, filmed, [answer.id for answer in answers[row.id]]))
    return found


def renew_old(session: Session, crew: School, gear: CrewKit, plans: Plans) -> int:
    """Bring ladders of before to today's form, in which each rung keeps what its takes are held against: planned again with its own pins,
    its place and its answers as they were. One whose shot is gone, or that no camera films any more, is put away. Returns how many were
    renewed."""
    renewed = 0
    for row in store.list_ladders(session):
        if "held" not in row.ladder:
            continue
        try:
            basis = basis_of_shot(session, row.shot_id, crew, gear, plans) if row.shot_id else None
        except (NotFound, NoLegalPlan):
            basis = None
        rungs = [] if basis is None else [rung_with(basis, rung["value"], rung["pins"]) for rung in row.ladder["rungs"]]
        if not rungs or any(rung is None for rung in rungs):
            row.deleted_at = datetime.now(UTC)
            continue
        kept = {name: row.ladder[name] for name in ("dial", "camera", "order", "take_s", "minutes")}
        row.ladder = Ladder.model_validate({**kept, "rungs": rungs}).model_dump(mode="json")
        renewed += 1
    return renewed


def keep_answer(session: Session, ladder_id: UUID, answer_id: UUID, said: Answer) -> LadderKept:
    """Keep what somebody said of a ladder's frames, once. answer_id: made where it was said. Returns the ladder. Raises NotFound,
    BadInput where the ladder has no such frame, or has too many answers."""
    row = store.get_ladder(session, ladder_id)
    check_answer(Ladder.model_validate(row.ladder), said)
    store.put_answer(session, ladder_id, answer_id, said.at, said.model_dump(mode="json"))
    return row
