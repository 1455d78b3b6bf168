"""What exposure gives up: both ends of the light, noise, gain that buys nothing, the meter's habit, glass, softness."""

from __future__ import annotations

from typing import Any

import numpy as np

from steady_tide.core.planning.comparison import Comparison
from steady_tide.core.planning.items.cast import cast_stops
from steady_tide.core.planning.items.item import Item
from steady_tide.core.planning.items.views import (
    EXPOSURE,
    FOCUS,
    FRONT,
    METER,
    NOISE,
    SPOT,
    FocusView,
    FrontView,
    MeterView,
    SpotView,
)
from steady_tide.core.planning.space import Floats


def _metering(v: MeterView) -> Floats:
    return np.abs(v.compensation + v.sheet.metering_bias_stops)


def _glass(v: FrontView) -> Floats:
    limits = v.at.limits
    stacked = limits["stacked_glass_stops"] * np.maximum(0.0, v.pieces - 1.0)
    return np.asarray(limits["glass_piece_stops"] * v.pieces + stacked + limits["housing_glass_stops"] * v.cased)


def _cast(v: FrontView) -> Floats:
    return np.array([cast_stops(v.at, glass) for glass in v.glasses])


def _softness(v: SpotView) -> Floats:
    limits = v.at.limits
    focus = v.focus_deg * v.px_per_deg / limits["focus_px"]
    spread = np.hypot(focus, v.diffraction_deg * v.px_per_deg / limits["diffraction_px"])
    return np.asarray(np.log2(np.maximum(1.0, spread)))


def _focus(v: FocusView) -> Floats:
    at, limits = v.at, v.at.limits
    near, far = at.brief.subject.distance_m
    moves = at.brief.subject.speed_m_s > 0 or at.brief.camera_move.travel_m_s > 0
    passed = min(limits["focus_lost_most_stops"], limits["focus_lost_share"] * float(np.log2(far / near)))
    hard = at.dark or at.lapse or at.brief.scenario in ("product", "underwater")
    price = {
        "fixed": 0.0,
        "automatic": limits["focus_hunts_hard_stops" if hard else "focus_hunts_stops"],
        "locked": passed + limits["focus_lost_least_stops"] if moves else 0.0,
    }
    return np.array([price[name] for name in v.focuses])


def _cast_facts(c: Comparison) -> dict[str, Any]:
    lit = c.at.light.lamp_share >= c.at.limits["lamps_lead_share"]
    case = "lamps" if lit else "filter" if c.dial == "colour_filter" else "other"
    return {"case": case, "left_stops": c.ours.stops["cast"]}


NOISE_BY = ("gates", "nd", "colour_filter", "iso_pairs", "compensations")
EXPOSURE_ITEMS = (
    Item(
        id="over", title="brightest part over", dial="nd", scope=EXPOSURE, cost=lambda v: v.over_stops,
        decided_by=(*NOISE_BY, "frame_rate", "interval_s", "lens"),
        sentence="With {rival} the highlights would be {theirs:stops} stops over.",
    ),
    Item(
        id="under", title="dimmest part under", dial="iso_ceiling", scope=EXPOSURE, cost=lambda v: v.under_stops,
        decided_by=(*NOISE_BY, "frame_rate", "interval_s", "lens"),
        sentence="With {rival} the dimmest part would be {theirs:stops} stops under.",
    ),
    Item(
        id="noise", title="noise past the limit", dial="iso_ceiling", scope=NOISE,
        cost=lambda v: np.maximum(0.0, v.shortfall + v.of_iso),
        decided_by=(*NOISE_BY, "frame", "frame_rate", "interval_s", "lens", "view", "stabilisation"),
        sentence="{rival} passes the noise limit by {theirs:stops} stops.",
    ),
    Item(
        id="gain_behind_glass", title="gain behind glass", dial="iso_ceiling", scope=EXPOSURE,
        cost=lambda v: np.minimum(v.density_stops, v.log2_ceiling - v.base), decided_by=("iso_pairs", "nd"),
        sentence="{rival} would need {more:stops} stops of gain only because of the ND.",
    ),
    Item(
        id="spare_gain", title="gain without need", dial="iso_ceiling", scope=EXPOSURE,
        cost=lambda v: np.maximum(0.0, v.log2_ceiling - v.used_dim), decided_by=("iso_pairs",),
        sentence="{rival} allows {more:stops} stops of gain that this light never asks for.",
    ),
    Item(
        id="raised_floor", title="floor above base", dial="iso_floor", scope=EXPOSURE,
        cost=lambda v: v.log2_floor - v.base, decided_by=("iso_pairs",),
        sentence="{rival} rules out the cleanest {more:stops} stops.",
    ),
    Item(
        id="unlocked", title="exposure may drift", dial="iso_floor", scope=EXPOSURE,
        cost=lambda v: np.minimum(1.0, v.log2_ceiling - v.log2_floor), decided_by=("iso_pairs",),
        sentence="{rival} lets the exposure drift within the take.",
    ),
    Item(
        id="metering", title="meter's habit", dial="exposure_compensation", scope=METER, cost=_metering,
        facts=lambda c: {"bias_stops": c.space.sheet.metering_bias_stops},
        sentence="The meter exposes {bias_stops:stops} stops too much; {rival} would be {theirs:stops} stops off.",
    ),
    Item(
        id="glass", title="glass in the way", dial="nd", scope=FRONT, cost=_glass,
        decided_by=("f_number", "colour_filter", "housing"),
        sentence="{rival} puts more in front of the lens.",
    ),
    Item(
        id="cast", title="colour cast", dial="colour_filter", scope=FRONT, cost=_cast, decided_by=("housing",),
        facts=_cast_facts,
        sentence={
            "lamps": "The lamps bring the colour; {rival} would only take their light.",
            "filter": "With {rival} the colours stand {theirs:stops} stops apart; this leaves {left_stops:stops} stops of cast.",
            "other": "{rival} leaves {theirs:stops} stops of cast.",
        },
    ),
    Item(
        id="softness", title="soft focus", dial="f_number", scope=SPOT, cost=_softness, decided_by=("lens", "shutter_s"),
        sentence="{rival} is {theirs:stops} stops soft, by its opening or its focus.",
    ),
    Item(
        id="focus", title="focus that may miss", dial="focus", scope=FOCUS, cost=_focus, decided_by=("lens",),
        facts=lambda c: {"case": "automatic" if c.rival == "automatic" else "other"},
        sentence={
            "automatic": "Automatic would hunt within the take.",
            "other": "Locked would lose what moves nearer or farther.",
        },
    ),
)  # fmt: skip
