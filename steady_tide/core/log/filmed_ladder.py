"""A ladder with what was filmed and said of it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.log.judging import Answer, JudgedRung, judged_of, least_asked, limit_in, next_pair
from steady_tide.core.log.ladder import LEAST_RUNGS, Ladder
from steady_tide.core.log.posterior import Estimated
from steady_tide.core.log.quantities import LEFT, SMEAR, SNR, better_first
from steady_tide.core.log.take import TakeSeen
from steady_tide.core.quantities.errors import BadInput, Fault

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

    @property
    def by_person(self) -> dict[str, list[JudgedRung]]:
        """All that was accepted and refused, by person."""
        found: dict[str, list[JudgedRung]] = {}
        for one in self.judged:
            found.setdefault(one.who, []).append(one)
        return found


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
        amount = float(np.median(seen)) if seen else plan.amount(ladder.quantity)
        if amount > 0.0:
            found[rung] = (amount, bool(seen))
    return found


def _amount(take: TakeSeen, quantity: str) -> float | None:
    """What was measured of a take in a quantity, at delivered pixels; None where nothing tells."""
    clip, plan = take.measures, take.plan
    if clip is None:
        return None
    scale = 1.0 if plan is None else plan.delivered_px / clip.width
    if quantity == SNR and clip.noise.snr_grey is not None and not clip.doubted("noise.snr_grey"):
        return clip.noise.snr_grey / scale
    if quantity == SMEAR and clip.sharpness.blur_px is not None and not clip.doubted("sharpness.blur_px"):
        return clip.sharpness.blur_px * scale
    if quantity == LEFT and plan is not None and plan.settle_s and clip.motion.shake_deg_s:
        return clip.motion.shake_deg_s * plan.settle_s
    return None


def judged_rungs(key: str, title: str, ladder: Ladder, answers: Sequence[Answer], amounts: Amounts) -> list[JudgedRung]:
    """All that was accepted and refused on a ladder. key, title: of it; answers: in their order; amounts: of its rungs, where it
    has a quantity: then those that come to nothing are passed over. Returns it."""
    found = []
    order = best_first_of(ladder, amounts)
    for number, answer in enumerate(answers):
        for rung, accepted in judged_of(answer, order):
            if ladder.quantity is not None and rung not in amounts:
                continue
            amount, measured = amounts.get(rung, (None, False))
            says: dict[str, str | float] = {
                "ladder": title, "dial": ladder.dial, "value": str(ladder.rungs[rung].value), "who": answer.who,
            }  # fmt: skip
            found.append(
                JudgedRung(
                    who=answer.who, ladder=key, quantity=ladder.quantity, rung=rung, amount=amount, accepted=accepted,
                    measured=measured, answer=number, at=answer.at, says=says,
                )
            )  # fmt: skip
    return found


def best_first_of(ladder: Ladder, amounts: Amounts) -> tuple[int, ...]:
    """Rungs from the best picture to the worst, as measured where all are."""
    if ladder.quantity is None or len(amounts) < len(ladder.rungs) or not all(seen for _, seen in amounts.values()):
        return ladder.best_first
    return better_first(ladder.quantity, {rung: amount for rung, (amount, _) in amounts.items()})


def usual_of(quantity: str, knowledge: Knowledge, amounts: Amounts) -> float:
    """What is typically good enough of a quantity: the library's for noise, else the middle of the ladder."""
    if quantity == SNR:
        return knowledge.weights.noise_limit_snr["balanced"]
    values = [amount for amount, _ in amounts.values()] or [1.0]
    return float(np.exp(np.mean(np.log(values))))


def limits_by_person(filmed: FilmedLadder, knowledge: Knowledge) -> dict[str, Estimated]:
    """From where on each person accepts, by person; none where nothing is measured."""
    quantity = filmed.ladder.quantity
    if quantity is None:
        return {}
    usual, spread = usual_of(quantity, knowledge, filmed.amounts), knowledge.limits.own_noise_spread_stops
    return {who: limit_in(judged, usual, spread) for who, judged in filmed.by_person.items()}


def pair_to_ask(filmed: FilmedLadder, who: str, knowledge: Knowledge) -> tuple[int, int]:
    """The pair of frames that is most worth asking somebody. who: a person, maybe one who said nothing yet. Returns rungs."""
    quantity, amounts = filmed.ladder.quantity, filmed.amounts
    if quantity is None or len(amounts) < LEAST_RUNGS:
        mine = [answer for answer in filmed.answers if answer.who == who]
        return least_asked(mine, range(len(filmed.ladder.rungs)))
    levels = {rung: amount for rung, (amount, _) in amounts.items()}
    usual, spread = usual_of(quantity, knowledge, amounts), knowledge.limits.own_noise_spread_stops
    return next_pair(filmed.by_person.get(who, []), quantity, levels, usual, spread)


def check_answer(ladder: Ladder, answer: Answer) -> None:
    """Raise BadInput where an answer is about frames that a ladder does not have."""
    last = len(ladder.rungs) - 1
    for name in ("left", "right", "up_to"):
        rung = getattr(answer, name)
        if rung is not None and rung > last:
            raise BadInput(Fault(name, f"is {rung}, and the ladder's last frame is {last}", f"Give at most {last}."))
