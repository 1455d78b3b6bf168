"""How warm a camera gets through its day."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from math import exp, isfinite

from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.outing.planned import PlannedShot
from steady_tide.core.physics.endurance import minutes_to_heat, warmth_after_k
from steady_tide.core.planning.power_and_cards import heat_kept, standby_w
from steady_tide.core.quantities.frozen import Frozen


class Heat(Frozen):
    """How warm a camera gets in a shot."""

    starts_k: float  # warmer than the air
    peak_c: float
    limit_c: float
    minutes_to_limit: float | None  # from the first take's begin, warm as it is; None where it never gets there
    minutes_still: float | None  # from cold, in still air
    minutes_wind: float | None
    minutes_water: float | None


@dataclass
class Body:
    """How warm a camera is, and since when."""

    warm_k: float = 0.0
    at: datetime | None = None


def heat_of(shot: PlannedShot, body: Body, knowledge: Knowledge) -> Heat:
    """Warm a camera through a shot.

    shot: what it films; body: as it was before, changed in place; knowledge: what wind and water carry off. Returns how
    warm it gets.
    """
    power, brief = shot.sheet.power, shot.brief
    limits = knowledge.limits
    shed = heat_kept(brief, knowledge)
    resistance, tau = power.heat_k_per_w * shed, power.tau_s * shed
    lasts = shot.plan.endurance
    draws = lasts.power_w if lasts.warming_w is None else lasts.warming_w
    # What warms it besides what it draws, such as the sun, warms it in the pauses, too.
    standby = (
        max(0.0, standby_w(power, limits) + draws - lasts.power_w + power.motors_w)
        if lasts.warming_w
        else standby_w(power, limits)
    )
    if shot.plan.settings.pre_record_s:
        standby = draws
    warm = body.warm_k
    if body.at is not None and shot.starts_at is not None:
        idle = max(0.0, (shot.starts_at - body.at).total_seconds())
        warm = float(warmth_after_k(warm, 0.0, power.heat_k_per_w, power.tau_s, idle))
    takes = shot.takes
    pause = 60.0 * brief.take.standby_min / takes
    run = brief.take.length_s
    # Each take and each pause move it a fixed share towards their own end: the starts of the takes form a
    # geometric sequence, whose highest member is the first or the last.
    keep_run, keep_pause = exp(-run / tau), exp(-pause / tau)
    hot, idle_rise = draws * resistance, standby * resistance
    share = keep_run * keep_pause
    step = hot * (1.0 - keep_run) * keep_pause + idle_rise * (1.0 - keep_pause)
    settles = step / (1.0 - share) if share < 1.0 else warm
    last_start = settles + (warm - settles) * share ** (takes - 1)
    peak = max(start + (hot - start) * (1.0 - keep_run) for start in (warm, last_start))
    peak = max(peak, warm)
    ends = hot + (last_start - hot) * keep_run
    body.warm_k = idle_rise + (ends - idle_rise) * keep_pause
    body.at = shot.ends_at

    def minutes(kept: float, start_k: float) -> float | None:
        found = float(
            minutes_to_heat(
                draws, power.heat_k_per_w * kept, power.tau_s * kept, brief.air_c, power.heat_limit_c, start_k
            )
        )
        return found if isfinite(found) else None

    return Heat(
        starts_k=warm,
        peak_c=brief.air_c + peak,
        limit_c=power.heat_limit_c,
        minutes_to_limit=minutes(shed, max(warm, last_start)),
        minutes_still=minutes(1.0, 0.0),
        minutes_wind=minutes(limits.heat_kept_in_wind, 0.0),
        minutes_water=minutes(limits.heat_kept_in_water, 0.0),
    )
