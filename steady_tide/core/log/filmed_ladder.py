"""A ladder with what was filmed and said of it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from steady_tide.core.knowledge import Knowledge
from steady_tide.core.log.judging import Answer, JudgedRung, judged_of, level_of
from steady_tide.core.log.ladder import Ladder
from steady_tide.core.log.take import TakeSeen

# What each rung comes to in the ladder's quantity, and whether that was measured.
Amounts = dict[int, tuple[float, bool]]


@dataclass(frozen=True)
class FilmedLadder:
    """A ladder with its answers, its takes, what its rungs come to, and all that was accepted and refused."""

    key: str
    title: str
    ladder: Ladder
    answers: Sequence[Answer]
    takes: Sequence[TakeSeen]
    amounts: Amounts
    judged: list[JudgedRung]


def filmed_ladder(
    key: str, title: str, ladder: Ladder, answers: Sequence[Answer], takes: Sequence[TakeSeen]
) -> FilmedLadder:
    """Put together what belongs to a ladder. key, title: of it; answers: the oldest first; takes: any, its own are found among
    them. Returns it."""
    mine = sorted((take for take in takes if take.ladder == key), key=lambda take: take.at)
    amounts = amounts_of(ladder, mine)
    return FilmedLadder(key, title, ladder, answers, mine, amounts, judged_rungs(key, title, ladder, answers, amounts))


def amounts_of(ladder: Ladder, takes: Sequence[TakeSeen]) -> Amounts:
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


def judged_rungs(key: str, title: str, ladder: Ladder, answers: Sequence[Answer], amounts: Amounts) -> list[JudgedRung]:
    """All that was accepted and refused on a ladder whose rungs have amounts. key, title: of it; answers: in their order."""
    found = []
    order = best_first_of(ladder, amounts)
    for number, answer in enumerate(answers):
        for rung, accepted in judged_of(answer, order):
            if rung not in amounts:
                continue
            amount, measured = amounts[rung]
            says: dict[str, str | float] = {
                "ladder": title, "dial": ladder.dial, "value": str(ladder.rungs[rung].value), "who": answer.who,
            }  # fmt: skip
            found.append(
                JudgedRung(
                    who=answer.who,
                    ladder=key,
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


def best_first_of(ladder: Ladder, amounts: Amounts) -> tuple[int, ...]:
    """Rungs from the best picture to the worst, as measured where all are."""
    if len(amounts) == len(ladder.rungs) and ladder.quantity is not None and all(seen for _, seen in amounts.values()):
        return tuple(sorted(amounts, key=lambda rung: -level_of(ladder.quantity or "", amounts[rung][0])))
    return ladder.best_first


def usual_of(quantity: str, knowledge: Knowledge, ladder: Ladder, amounts: Amounts) -> float:
    """What is typically good enough of a quantity: the library's for noise, else the middle of the ladder."""
    if quantity == "snr":
        return knowledge.weights.noise_limit_snr["balanced"]
    values = [amount for amount, _ in amounts.values()] or [1.0]
    return float(np.exp(np.mean(np.log(values))))
