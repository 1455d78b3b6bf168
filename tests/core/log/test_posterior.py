"""Learning from few values: against closed forms and brute force, and over many simulated people."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from steady_tide.core.log.posterior import COVERED, Judged, chance_above, chances, limit_of, robust_mean, share_of

SEEDS = range(50)
USUAL = math.log2(11.0)


def test_a_share_is_that_of_jeffreys_beta() -> None:
    # Beta(7.5, 5.5): its mean in closed form, its ends by drawing from it.
    found = share_of(7, 12)
    assert found.value == pytest.approx(7.5 / 13.0, abs=1e-4)
    drawn = np.random.default_rng(1).beta(7.5, 5.5, 400_000)
    assert (found.low, found.high) == pytest.approx(np.percentile(drawn, [5, 95]), abs=0.003)
    other = np.random.default_rng(2).beta(3.5, 20.5, 400_000)
    assert chance_above(7, 12, 3, 23) == pytest.approx((drawn > other).mean(), abs=0.003)
    assert share_of(0, 3).low < 0.01 < share_of(0, 3).value


def test_many_even_values_come_to_their_mean_with_the_usual_interval() -> None:
    rng = np.random.default_rng(5)
    values = rng.normal(2.0, 0.3, 400)
    found = robust_mean(list(values), 0.0, 2.0, (0.01, 2.0))
    assert found.value == pytest.approx(values.mean(), abs=0.02)
    # For normal values Student's t with four degrees has an efficiency of about 0.9 (source: lange1989).
    half = (found.high - found.low) / 2.0
    assert half == pytest.approx(1.645 * 0.3 / math.sqrt(400.0), rel=0.25)


def test_one_wild_value_moves_little() -> None:
    calm = robust_mean([0.48, 0.52, 0.5, 0.51, 0.49], 0.0, 0.7, (0.03, 0.6))
    wild = robust_mean([0.48, 0.52, 0.5, 0.51, 3.0], 0.0, 0.7, (0.03, 0.6))
    assert abs(wild.value - calm.value) < 0.05
    assert np.mean([0.48, 0.52, 0.5, 0.51, 3.0]) - calm.value > 0.4


def test_a_habit_of_half_a_stop_is_found_after_five_clips() -> None:
    errors, covered = [], 0
    for seed in SEEDS:
        rng = np.random.default_rng(seed)
        found = robust_mean(list(0.5 + 0.07 * rng.standard_t(4, 5)), 0.0, 0.7, (0.03, 0.6))
        errors.append(abs(found.value - 0.5))
        covered += found.low <= 0.5 <= found.high
    assert np.mean(np.array(errors) < 0.1) >= 0.9
    assert covered / len(SEEDS) >= COVERED - 0.08


def judged_pairs(seed: int, pairs: int) -> tuple[float, list[Judged]]:
    """A person of unknown limit answers pairs of frames, as they are asked. Returns the limit, and what was said."""
    rng = np.random.default_rng(seed)
    truth, slope = math.log2(9.0) + 0.8 * rng.normal(), 0.22 * math.exp(0.4 * rng.normal())
    levels = math.log2(9.0) + (np.arange(6) - 2.5) * 0.7
    judged: list[Judged] = []
    for _ in range(pairs):
        chance = chances(judged, list(levels), USUAL)
        asked = np.array([sum(one.level == level for one in judged) for level in levels])
        for place in np.argsort(-chance * (1.0 - chance) / (1.0 + 0.15 * asked))[:2]:
            accepts = 0.02 + 0.96 / (1.0 + math.exp(-(levels[place] - truth) / slope))
            judged.append(Judged(float(levels[place]), bool(rng.random() < accepts)))
    return truth, judged


def test_a_limit_is_found_within_half_a_stop_after_twelve_pairs_and_its_interval_holds() -> None:
    errors, covered = [], 0
    for seed in SEEDS:
        truth, judged = judged_pairs(seed, 12)
        found = limit_of(judged, USUAL)
        errors.append(abs(found.value - truth))
        covered += found.low <= truth <= found.high
    assert np.mean(np.array(errors) < 0.5) >= 0.96
    assert np.median(errors) < 0.15
    assert covered / len(SEEDS) >= COVERED - 0.06  # 50 seeds: one standard error is 0.042


def test_more_answers_make_the_interval_narrower() -> None:
    _, judged = judged_pairs(3, 12)
    few, many = limit_of(judged[:6], USUAL), limit_of(judged, USUAL)
    assert many.high - many.low < few.high - few.low


def test_without_judgements_of_use_the_prior_stays() -> None:
    found = limit_of([Judged(USUAL + 6.0, True), Judged(USUAL - 6.0, False)], USUAL)
    assert found.value == pytest.approx(USUAL, abs=0.05)
    assert found.high - found.low == pytest.approx(2 * 1.645, rel=0.05)


@given(st.lists(st.floats(-3, 3), min_size=1, max_size=12), st.floats(-2, 2))
def test_a_mean_moves_with_its_values(values: list[float], by: float) -> None:
    one = robust_mean(values, 0.0, 1.0, (0.05, 1.0))
    other = robust_mean([value + by for value in values], by, 1.0, (0.05, 1.0))
    assert other.value == pytest.approx(one.value + by, abs=0.02)
    assert one.low <= one.value <= one.high


@given(st.lists(st.tuples(st.floats(-3, 3), st.booleans()), min_size=1, max_size=14))
def test_a_limit_falls_with_what_is_accepted(said: list[tuple[float, bool]]) -> None:
    before = [Judged(USUAL + level, accepted) for level, accepted in said]
    lowered = limit_of([*before, Judged(USUAL - 1.0, True)], USUAL)
    raised = limit_of([*before, Judged(USUAL - 1.0, False)], USUAL)
    assert lowered.value < raised.value
