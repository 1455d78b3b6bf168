"""Ladders as they are kept: made from a shot's plan, filmed, looked at, judged."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from uuid import UUID

import numpy as np
from sqlalchemy.orm import Session

from steady_tide.core.brief import Brief, School
from steady_tide.core.errors import NoLegalPlan
from steady_tide.core.knowledge import Knowledge
from steady_tide.core.log.judging import Answer, JudgedRung, judged_of, level_of
from steady_tide.core.log.ladder import Ladder, LadderBasis
from steady_tide.core.log.take import TakeSeen
from steady_tide.core.planning.plan import Plan
from steady_tide.services.crew_kit import CrewKit
from steady_tide.services.days import NO_PLAN
from steady_tide.services.desk import Turn
from steady_tide.services.kept_plans import held_gear, standing_of
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
    mount = theirs.knowledge.mounts.get(now.brief.camera_move.mount)
    own = theirs.knowledge.own.shake(now.brief.camera_move.hands, now.brief.camera_move.mount)
    if mount is not None and own is not None:
        mount = mount.model_copy(update={"shake_deg_s": own.value})

    def planner(brief: Brief) -> Plan:
        return plans.plan(brief, crew, theirs, only=plan.camera.id, schools=False, turn=Turn.SAVING)

    return LadderBasis(now.brief, plan, theirs.camera(plan.camera.id), mount, theirs.knowledge.limits, planner)


@dataclass(frozen=True)
class LadderRead:
    """A ladder with what was filmed and said of it. amounts: of its quantity by rung, and whether measured."""

    row: LadderKept
    ladder: Ladder
    answers: list[tuple[UUID, Answer]]
    takes: list[TakeSeen]
    amounts: dict[int, tuple[float, bool]]
    judged: list[JudgedRung]


def read_ladders(session: Session, rows: Sequence[LadderKept], takes: Sequence[TakeSeen]) -> list[LadderRead]:
    """Ladders with all that belongs to them. takes: all, or those of these ladders. Returns them in the same order."""
    answers = store.answers_of(session, [row.id for row in rows])
    of_ladder: dict[str, list[TakeSeen]] = defaultdict(list)
    for take in takes:
        if take.ladder is not None:
            of_ladder[take.ladder].append(take)
    found = []
    for row in rows:
        ladder = Ladder.model_validate(row.ladder)
        mine = sorted(of_ladder[str(row.id)], key=lambda take: take.at)
        said = [(answer.id, Answer.model_validate(answer.answer)) for answer in answers[row.id]]
        amounts = amounts_of(ladder, mine)
        found.append(LadderRead(row, ladder, said, mine, amounts, judged_rungs(row, ladder, said, amounts)))
    return found


def amounts_of(ladder: Ladder, takes: Sequence[TakeSeen]) -> dict[int, tuple[float, bool]]:
    """What each rung comes to in the ladder's quantity: as measured on its takes, else as planned. Returns amounts, and whether
    they are measured; none where the ladder has no quantity."""
    if ladder.quantity is None:
        return {}
    found = {}
    for rung, plan in enumerate(ladder.rungs):
        seen = [
            amount for take in takes if take.rung == rung and (amount := _amount(take, ladder.quantity)) is not None
        ]
        amount = float(np.median(seen)) if seen else float(getattr(plan, ladder.quantity))
        if amount > 0.0:
            found[rung] = (amount, bool(seen))
    return found


def _amount(take: TakeSeen, quantity: str) -> float | None:
    """What was measured of a take in a quantity, at delivered pixels; None where nothing tells."""
    clip, plan = take.measures, take.plan
    if clip is None:
        return None
    scale = 1.0 if plan is None else plan.delivered_px / clip.width
    if quantity == "snr" and clip.noise.snr_grey is not None and not clip.doubted("noise.snr_grey"):
        return clip.noise.snr_grey / scale
    if quantity == "smear_px" and clip.sharpness.blur_px is not None and not clip.doubted("sharpness.blur_px"):
        return clip.sharpness.blur_px * scale
    if quantity == "left_deg" and plan is not None and plan.settle_s and clip.motion.shake_deg_s:
        return clip.motion.shake_deg_s * plan.settle_s
    return None


def judged_rungs(
    row: LadderKept, ladder: Ladder, answers: Sequence[tuple[UUID, Answer]], amounts: dict[int, tuple[float, bool]]
) -> list[JudgedRung]:
    """All that was accepted and refused on a ladder whose rungs have amounts."""
    found = []
    order = best_first_of(ladder, amounts)
    for number, (_, answer) in enumerate(answers):
        for rung, accepted in judged_of(answer, order):
            if rung not in amounts:
                continue
            amount, measured = amounts[rung]
            says: dict[str, str | float] = {
                "ladder": row.title, "dial": ladder.dial, "value": str(ladder.rungs[rung].value), "who": answer.who,
            }  # fmt: skip
            found.append(
                JudgedRung(
                    who=answer.who,
                    ladder=str(row.id),
                    quantity=ladder.quantity or "",
                    rung=rung,
                    amount=amount,
                    accepted=accepted,
                    measured=measured,
                    answer=number,
                    at=answer.at,
                    says=says,
                )
            )
    return found


def best_first_of(ladder: Ladder, amounts: dict[int, tuple[float, bool]]) -> tuple[int, ...]:
    """Rungs from the best picture to the worst, as measured where all are."""
    if len(amounts) == len(ladder.rungs) and ladder.quantity is not None and all(seen for _, seen in amounts.values()):
        return tuple(sorted(amounts, key=lambda rung: -level_of(ladder.quantity or "", amounts[rung][0])))
    return ladder.best_first


def usual_of(quantity: str, knowledge: Knowledge, ladder: Ladder, amounts: dict[int, tuple[float, bool]]) -> float:
    """What is typically good enough of a quantity: the library's for noise, else the middle of the ladder."""
    if quantity == "snr":
        return knowledge.weights.noise_limit_snr["balanced"]
    values = [amount for amount, _ in amounts.values()] or [1.0]
    return float(np.exp(np.mean(np.log(values))))
