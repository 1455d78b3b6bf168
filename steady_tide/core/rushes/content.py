"""How far from grey that is which fills the frames of a shot: a picture's brightness is its light and its content.

Both are known beforehand only so far: light about its planned band, content about grey. Of the takes of one shot the content
is one and the same, so that each adds to what is known (a normal prior on both; source: gelman-bda).
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from steady_tide.core.quantities.limits import Limits
from steady_tide.core.rushes.clip_plan import ClipPlan
from steady_tide.core.rushes.measures import ClipMeasures

FIXED_STOPS = 0.1  # a reach narrower than this is one exposure


def is_fixed(plan: ClipPlan) -> bool:
    """Whether a plan leaves the camera no choice of exposure."""
    low, high = plan.exposure.reach_ev100
    return high - low < FIXED_STOPS


def content_stops(takes: Sequence[tuple[ClipMeasures, ClipPlan]], limits: Limits) -> float:
    """How much brighter than grey that is which fills the frames of a shot.

    takes: of one shot, with their plans; limits: of judgement. Returns stops, 0 where nothing tells.
    """
    apart, spreads = [], []
    for clip, plan in takes:
        if clip.exposure.median_stops is None:
            continue
        low, high = plan.exposure.ev100
        expected = plan.target_stops
        if is_fixed(plan):
            expected = (low + high) / 2.0 - plan.exposure.reach_ev100[1]
        apart.append(clip.exposure.median_stops - expected)
        spreads.append((high - low) / 2.0 + limits.rushes_light_stops)
    if not apart:
        return 0.0
    wide = limits.rushes_own_contrast_stops if takes[0][1].own_contrast else limits.rushes_content_stops
    weights = 1.0 / np.square(np.array(spreads))
    # One wild take must not count for what all the others show.
    middle = float(np.median(apart)) if len(apart) > 2 else float(np.mean(apart))
    return float(weights.sum() * middle / (weights.sum() + 1.0 / wide**2))
