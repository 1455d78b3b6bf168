"""Takes with the verdicts on them: what fills the frames of a shot is told by all of its takes together."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import replace

from steady_tide.core.log.take import TakeSeen
from steady_tide.core.quantities.limits import Limits
from steady_tide.core.rushes.clip_plan import ClipPlan
from steady_tide.core.rushes.content import content_stops
from steady_tide.core.rushes.measures import ClipMeasures
from steady_tide.core.rushes.verdict import verdict


def seen_takes(takes: Sequence[TakeSeen], limits: Limits) -> list[TakeSeen]:
    """The same takes with verdicts on those that were measured. takes: all of a shot together; limits: of judgement."""
    of_shot: dict[str | None, list[tuple[ClipMeasures, ClipPlan]]] = defaultdict(list)
    for take in takes:
        if take.measures is not None and take.plan is not None:
            of_shot[take.shot].append((take.measures, take.plan))
    contents = {shot: content_stops(measured, limits) for shot, measured in of_shot.items()}
    return [
        take
        if take.measures is None
        else replace(take, verdict=verdict(take.measures, take.plan, limits, contents.get(take.shot, 0.0)))
        for take in takes
    ]
