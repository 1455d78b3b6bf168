"""How well the Log finds what is true: simulated people and gear over many seeds, beside the plainest way of doing it.

Run: python bench/log.py [SEEDS]. Each line: how far off, in the median and nine times in ten; how often the interval holds the truth; and
how far off the plain way is on the same readings (the mean; of judgements, halfway between the worst that was taken and the best that
was refused).
"""

from __future__ import annotations

import sys
from collections.abc import Callable

import numpy as np

from steady_tide.core.log.judging import JudgedRung, next_pair
from steady_tide.core.log.posterior import COVERED, Estimated, Judged, limit_of, robust_mean
from steady_tide.standins.crew import SLIPS, SLOPE

Case = tuple[float, Estimated, float]
USUAL = 11.0


def habit(rng: np.random.Generator) -> Case:
    """A meter's habit of half a stop, from five clips of which one in eight shows something else."""
    values = 0.5 + 0.07 * rng.standard_t(4, 5)
    values = np.where(rng.random(5) < 0.125, values + rng.normal(0.0, 1.0, 5), values)
    return 0.5, robust_mean(list(values), 0.0, 0.7, (0.03, 0.8)), float(values.mean())


def shake(rng: np.random.Generator) -> Case:
    """A hand, in stops of its speed, from six takes."""
    truth = rng.normal(np.log2(12.0), 0.6)
    values = truth + 0.18 * rng.standard_t(4, 6)
    return truth, robust_mean(list(values), float(np.log2(12.0)), 0.8, (0.05, 1.0)), float(values.mean())


def limit(rng: np.random.Generator, pairs: int = 12) -> Case:
    """The least signal to noise that somebody takes, in stops, from pairs of a ladder of six frames as they are asked."""
    truth = float(np.log2(USUAL) + 0.8 * rng.normal())
    slope = SLOPE * float(np.exp(0.4 * rng.normal()))
    levels = {rung: float(2.0 ** (np.log2(9.0) + (2.5 - rung) * 0.7)) for rung in range(6)}
    said: list[JudgedRung] = []
    for number in range(pairs):
        for rung in next_pair(said, "snr", levels, USUAL, 1.0):
            chance = 1.0 / (1.0 + np.exp(-(np.log2(levels[rung]) - truth) / slope))
            takes = bool(rng.random() < SLIPS + (1.0 - 2.0 * SLIPS) * chance)
            said.append(JudgedRung("", "", "snr", rung, levels[rung], takes, True, number, None, {}))  # type: ignore[arg-type]
    judged = [Judged(float(np.log2(one.amount)), one.accepted) for one in said]
    taken = [one.level for one in judged if one.accepted]
    refused = [one.level for one in judged if not one.accepted]
    worst = min(taken) if taken else max(one.level for one in judged) + 0.35
    best = max(refused) if refused else min(one.level for one in judged) - 0.35
    return truth, limit_of(judged, float(np.log2(USUAL))), (worst + best) / 2.0


CASES: tuple[tuple[str, Callable[[np.random.Generator], Case]], ...] = (
    ("habit of a meter, 5 clips, stops", habit),
    ("shake of a hand, 6 takes, stops", shake),
    ("limit of noise, 12 pairs, stops", limit),
    ("limit of noise, 4 pairs, stops", lambda rng: limit(rng, 4)),
)


def main() -> None:
    """Print a line for each case."""
    seeds = int(sys.argv[1]) if len(sys.argv) > 1 else 50
    print(f"{seeds} seeds; intervals are to hold {COVERED:.0%}")
    print(f"{'':36}{'median':>8}{'9 of 10':>9}{'holds':>8}{'plain way: median':>20}{'9 of 10':>9}")
    for says, case in CASES:
        found = [case(np.random.default_rng(seed)) for seed in range(seeds)]
        off = np.array([abs(one.value - truth) for truth, one, _ in found])
        holds = np.mean([one.low <= truth <= one.high for truth, one, _ in found])
        plain = np.array([abs(value - truth) for truth, _, value in found])
        ends = [np.percentile(errors, end) for errors in (off, plain) for end in (50, 90)]
        print(f"{says:36}{ends[0]:8.2f}{ends[1]:9.2f}{holds:8.0%}{ends[2]:20.2f}{ends[3]:9.2f}")


if __name__ == "__main__":
    main()
