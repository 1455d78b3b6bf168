"""Exact posteriors on a grid: a robust mean of few values, the limit behind what was accepted and refused, a share."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
COVERED = 0.9  # of the truth, by an interval
TAILS = 4.0  # degrees of freedom: a value far off counts little
SIDES, SCALES, STEPS = 4.0, 40, 401
LAPSE = 0.03  # of judgements are slips of attention
SLOPE_STOPS, SLOPE_SPREAD = 0.22, 0.6  # of a person's judgement from refused to accepted, and its spread in logarithms


@dataclass(frozen=True)
class Estimated:
    """A number with the interval that holds it nine times in ten. spread: of single values about it; count: of them."""

    value: float
    low: float
    high: float
    spread: float
    count: int


@dataclass(frozen=True)
class Judged:
    """A level that somebody accepted or refused. level: in stops, more being better."""

    level: float
    accepted: bool


def robust_mean(values: Sequence[float], usual: float, usual_spread: float, scales: tuple[float, float]) -> Estimated:
    """The middle of a few values, of which some may be far off.

    Values lie about their middle as Student's t with four degrees of freedom; the middle's prior is normal, the scale's
    even in logarithms. values: at least one; usual, usual_spread: the prior's middle and standard deviation; scales: the
    least and the largest scale of one value, positive. Returns the posterior's mean and central interval.
    Source: lange1989. Valid for independent values.
    """
    return _robust_mean(tuple(values), usual, usual_spread, scales)


@lru_cache(maxsize=1024)  # after one more take all numbers but its own are as they were
def _robust_mean(
    values: tuple[float, ...], usual: float, usual_spread: float, scales: tuple[float, float]
) -> Estimated:
    seen = np.asarray(values, dtype=float)
    reach = max(scales[1], SIDES * usual_spread)
    middle = np.linspace(min(seen.min(), usual) - reach, max(seen.max(), usual) + reach, STEPS * 2)
    middle = _about(middle, seen, scales[0])
    scale = np.geomspace(*scales, SCALES)
    log = np.zeros((len(middle), len(scale))) - len(seen) * np.log(scale)
    for value in seen:  # one after the other: all at once they would fill the memory
        log -= 0.5 * (TAILS + 1.0) * np.log1p(((value - middle[:, None]) / scale) ** 2 / TAILS)
    log -= 0.5 * ((middle[:, None] - usual) / usual_spread) ** 2
    share = np.exp(log - log.max())
    of_middle = share.sum(axis=1) * np.gradient(middle)
    spread = float((share.sum(axis=0) * scale).sum() / share.sum())
    return _summed(middle, of_middle, spread, len(seen))


def _about(wide: Floats, seen: Floats, fine: float) -> Floats:
    """Places that are dense where the values lie."""
    near = np.linspace(seen.min() - 6.0 * fine, seen.max() + 6.0 * fine, STEPS)
    return np.unique(np.concatenate([wide, near]))


def limit_of(judged: Sequence[Judged], usual: float, usual_spread: float = 1.0) -> Estimated:
    """The level from which on a person accepts.

    The chance of accepting rises with the level as a logistic curve about the limit; slips are allowed for; the slope is
    as of people on the whole. judged: at least one; usual, usual_spread: the limit's prior, stops. Returns the posterior's
    mean and central interval, stops; spread: that of the slope. Sources: kuss2005, watson1983.
    """
    limit, slope, share = _limits(judged, usual, usual_spread)
    spread = float((share.sum(axis=0) * slope).sum() / share.sum())
    return _summed(limit, share.sum(axis=1), spread, len(judged))


def _limits(judged: Sequence[Judged], usual: float, usual_spread: float) -> tuple[Floats, Floats, Floats]:
    """Limits, slopes, and how likely each pair is, up to a factor."""
    limit = usual + np.linspace(-SIDES * usual_spread, SIDES * usual_spread, STEPS)
    slope = SLOPE_STOPS * np.exp(np.linspace(-2.5, 2.5, 21) * SLOPE_SPREAD)
    log = (
        -0.5 * ((limit[:, None] - usual) / usual_spread) ** 2 - 0.5 * (np.log(slope / SLOPE_STOPS) / SLOPE_SPREAD) ** 2
    )
    for one in judged:
        accepts = _accepts(one.level, limit[:, None], slope)
        log = log + np.log(accepts if one.accepted else 1.0 - accepts)
    return limit, slope, np.exp(log - log.max())


def _accepts(level: float, limit: Floats, slope: Floats) -> Floats:
    return np.asarray(LAPSE + (1.0 - 2.0 * LAPSE) / (1.0 + np.exp(-np.clip((level - limit) / slope, -50.0, 50.0))))


def chances(judged: Sequence[Judged], levels: Sequence[float], usual: float, usual_spread: float = 1.0) -> Floats:
    """How likely each level is to be accepted next. judged: so far; levels: stops; usual, usual_spread: as above. Returns
    shares, one for each level."""
    limit, slope, share = _limits(judged, usual, usual_spread)
    total = share.sum()
    return np.array([float((_accepts(level, limit[:, None], slope) * share).sum() / total) for level in levels])


def share_of(with_it: int, of: int) -> Estimated:
    """A share, from how many of how many. Returns the posterior's mean and central interval under Jeffreys' prior. Source:
    jeffreys1946."""
    share, weights = _shares(with_it, of)
    return _summed(share, weights, 0.0, of)


def chance_above(with_it: int, of: int, others_with_it: int, others: int) -> float:
    """How surely one share lies above another, each from how many of how many. Returns a share. Source: as of `share_of`."""
    _, mine = _shares(with_it, of)
    _, theirs = _shares(others_with_it, others)
    mine, theirs = mine / mine.sum(), theirs / theirs.sum()
    return float((mine * (np.cumsum(theirs) - theirs / 2.0)).sum())


def _shares(with_it: int, of: int) -> tuple[Floats, Floats]:
    share = (np.arange(STEPS * 4) + 0.5) / (STEPS * 4)
    log = (with_it - 0.5) * np.log(share) + (of - with_it - 0.5) * np.log1p(-share)
    return share, np.exp(log - log.max())


def _summed(places: Floats, weights: Floats, spread: float, count: int) -> Estimated:
    total = weights / weights.sum()
    below = np.cumsum(total) - total / 2.0
    low, high = np.interp([(1.0 - COVERED) / 2.0, (1.0 + COVERED) / 2.0], below, places)
    return Estimated(float((places * total).sum()), float(low), float(high), spread, count)
