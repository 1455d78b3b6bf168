"""Own numbers that judging ladders taught: how noisy a picture may be for a person."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence

from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.brief.own_numbers import ANYBODY
from steady_tide.core.gear.kit import Kit
from steady_tide.core.log.judging import limit_at
from steady_tide.core.log.posterior import Estimated, Judged
from steady_tide.core.log.quantities import SNR, level_of
from steady_tide.core.own.own_kind import Evidence, Of, OwnKind, Reading, Readings
from steady_tide.core.quantities.limits import Limits


def _noise_readings(evidence: Evidence) -> Readings:
    found: Readings = defaultdict(list)
    for one in evidence.judged:
        if one.quantity != SNR or not one.amount:
            continue
        reading = Reading(
            one.amount, "judged" if one.measured else "judged_planned", one.says, at=one.at,
            group=f"{one.ladder}/{one.who}/{one.answer}", accepted=one.accepted,
        )  # fmt: skip
        found[(one.who,)].append(reading)
        found[(ANYBODY,)].append(reading)
    return found


def _noise_limit(readings: Sequence[Reading], usual: float | None, limits: Limits) -> Estimated:
    assert usual is not None
    levels = [Judged(level_of(SNR, one.value), bool(one.accepted)) for one in readings]
    return limit_at(SNR, levels, len({one.group for one in readings}), usual, limits.own_noise_spread_stops)


def _noise_usual(of: Of, kit: Kit, knowledge: Knowledge) -> float | None:
    return knowledge.weights.noise_limit_snr["balanced"]


NOISE = OwnKind(id="noise", parts=("hands",), gather=_noise_readings, estimate=_noise_limit, usual=_noise_usual)
