"""What exposure gives up: both ends of the light, noise, gain that buys nothing, the meter's habit, glass, softness."""

from __future__ import annotations

from typing import Any

import numpy as np

from steady_tide.core.planning.comparison import Comparison
from steady_tide.core.planning.items.cast import cast_stops, used_as_grey_stops
from steady_tide.core.planning.items.item import Item
from steady_tide.core.planning.items.views import (
    EXPOSURE,
    FOCUS,
    FRONT,
    METER,
    NOISE,
    SPOT,
    ExposureView,
    FocusView,
    FrontView,
    MeterView,
    SpotView,
)
from steady_tide.core.planning.situation import ramp
from steady_tide.core.planning.space import Floats


def _gain_allowed(v: ExposureView) -> Floats:
    free = v.at.limits.gain_step_free_stops
    return np.asarray(np.maximum(0.0, np.minimum(v.density_stops, v.log2_ceiling - v.base) - free))


def _needless_density(v: ExposureView) -> Floats:
    """Density that a shorter exposure would stand in for."""
    shorter = np.maximum(0.0, v.asked.camera_ev_fastest - v.asked.camera_ev_bright)
    return np.asarray(np.minimum(v.density_stops, shorter))


def _unlocked(v: ExposureView) -> Floats:
    # Over an interval film each stop of gain makes steps; within a take a stop is as bad as three.
    most = v.at.limits.lapse_gain_steps_stops if v.at.lapse else v.at.limits.gain_drift_stops
    return np.asarray(np.minimum(most, v.log2_ceiling - v.log2_floor))


def _metering(v: MeterView) -> Floats:
    return np.abs(v.compensation + v.at.meter_bias_stops(v.sheet))


def _glass(v: FrontView) -> Floats:
    limits = v.at.limits
    usual = np.array([glass.polarises and v.at.brief.glare for glass in v.glasses])
    each = np.where(usual, limits.stacked_polariser_stops, limits.stacked_glass_stops)
    stacked = each * np.maximum(0.0, v.pieces - 1.0)
    under_water = limits.wet_density_stops if v.at.light.deepest_m is not None else 0.0
    wet = under_water * np.array([float(len(glass.ids)) for glass in v.glasses])
    cased = limits.housing_glass_stops * v.cased
    return np.asarray(limits.glass_piece_stops * v.pieces + stacked + wet + cased)


def _cast(v: FrontView) -> Floats:
    return np.array([cast_stops(v.at, glass) for glass in v.glasses])


def _used_as_grey(v: FrontView) -> Floats:
    return np.array([used_as_grey_stops(v.at, glass) for glass in v.glasses])


def _red_gain(v: FrontView) -> Floats:
    return np.array([glass.red_gain_stops for glass in v.glasses])


def _softness(v: SpotView) -> Floats:
    limits = v.at.limits
    focus = v.focus_deg * v.px_per_deg / limits.focus_px
    spread = np.hypot(focus, v.diffraction_deg * v.px_per_deg / limits.diffraction_px)
    return np.asarray(np.log2(np.maximum(1.0, spread)))


def _aperture(v: SpotView) -> Floats:
    past = v.past_best_stops
    return np.asarray(past + v.at.limits.aperture_grows * past**2)


def _glare(v: FrontView) -> Floats:
    limits = v.at.limits
    seen = ramp(v.at.light.ev100[1], limits.glare_from_ev, limits.glare_whole_ev)
    price = (
        {True: 0.0, False: limits.glare_stops * seen}
        if v.at.brief.glare
        else {
            True: limits.polariser_needless_stops,
            False: 0.0,
        }
    )
    return np.array([price[glass.polarises] for glass in v.glasses])


def _focus(v: FocusView) -> Floats:
    at, limits = v.at, v.at.limits
    near, far = at.brief.subject.distance_m
    moves = at.brief.subject.speed_m_s > 0 or at.brief.camera_move.travel_m_s > 0
    distant = ramp(float(np.log2(near)), float(np.log2(limits.focus_near_m)), float(np.log2(limits.focus_far_m)))
    hard = 1.0 if at.lapse or at.mount.flying or at.brief.traits.brings_light else at.darkness
    by_day, in_the_dark = limits.focus_hunts_stops, limits.focus_hunts_hard_stops
    hunts = by_day + max(hard, distant) * (in_the_dark - by_day)
    passed = min(limits.focus_lost_most_stops, limits.focus_by_vergence * float(np.sqrt(1.0 / near - 1.0 / far)))
    # A distance of some metres must be found first; far away it is any.
    locked = passed + limits.focus_lost_least_stops if moves else limits.focus_easy_stops * (1.0 + distant)

    easy = limits.focus_easy_stops
    easy /= 1.0 if moves else limits.focus_preset_moving_share

    hyperfocal = v.hyperfocal_m
    beforehand = {
        # From where on it is sharp, and how unsharp the worse end of the subject is, as a share of what passes.
        "hyperfocal": (hyperfocal / 2.0, np.maximum(np.abs(1.0 - hyperfocal / near), np.abs(1.0 - hyperfocal / far))),
        "infinity": (hyperfocal, hyperfocal / near),
    }

    def price(focus: str) -> Floats:
        if focus in beforehand:
            closest, off = beforehand[focus]
            short = np.maximum(0.0, np.log2(np.maximum(closest / near, off if focus == "hyperfocal" else 0.0)))
            return np.asarray(easy + short + limits.focus_off_stops * np.minimum(1.0, off))
        return np.full(len(hyperfocal), {"fixed": 0.0, "automatic": hunts, "locked": locked}[focus])

    return np.stack([price(focus) for focus in v.focuses], axis=1)


def _cast_facts(c: Comparison) -> dict[str, Any]:
    lit = c.at.light.lamp_share >= c.at.limits.lamps_lead_share
    clean = c.ours.stops["cast"] < c.at.limits.seen_stops
    case = "lamps" if lit else "other" if c.dial != "colour_filter" else "clean" if clean else "filter"
    return {"case": case, "left_stops": c.ours.stops["cast"]}


_FOCUS_CASES = {"automatic": "automatic", "hyperfocal": "preset", "infinity": "preset"}
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
        id="gain_behind_glass", title="gain behind an ND filter", dial="iso_ceiling", scope=EXPOSURE,
        cost=lambda v: np.minimum(v.density_stops, v.used_bright - v.base), decided_by=("iso_pairs", "nd"),
        sentence="With {rival} the brightest moment would need {more:stops} stops of gain only because of the ND.",
    ),
    Item(
        id="gain_used", title="gain in use", dial="iso_ceiling", scope=EXPOSURE,
        cost=lambda v: v.used_dim - v.base, decided_by=(*NOISE_BY, "frame_rate", "interval_s", "lens"),
        sentence="{rival} would use {more:stops} stops more gain.",
    ),
    Item(
        id="gain_allowed", title="gain allowed behind an ND filter", dial="iso_ceiling", scope=EXPOSURE,
        cost=_gain_allowed, decided_by=("iso_pairs", "nd"),
        sentence="Behind an ND filter the exposure is held; {rival} would let gain follow by {more:stops} stops more.",
    ),
    Item(
        id="needless_density", title="a filter where a shorter exposure would do", dial="nd", scope=EXPOSURE,
        cost=_needless_density, decided_by=("gates",),
        sentence="The shutter is free to be shorter; {rival} would take {theirs:stops} stops for nothing.",
    ),
    Item(
        id="spare_gain", title="gain without need", dial="iso_ceiling", scope=EXPOSURE,
        cost=lambda v: np.minimum(v.at.limits.spare_gain_most_stops, v.log2_ceiling - v.used_dim),
        decided_by=("iso_pairs",),
        sentence="{rival} allows {more:stops} stops of gain that this light never asks for.",
    ),
    Item(
        id="raised_floor", title="floor above base", dial="iso_floor", scope=EXPOSURE,
        cost=lambda v: v.log2_floor - v.base, decided_by=("iso_pairs",),
        sentence="{rival} rules out the cleanest settings, by {more:stops} stops.",
    ),
    Item(
        id="unlocked", title="exposure may drift", dial="iso_floor", scope=EXPOSURE,
        cost=_unlocked, decided_by=("iso_pairs",),
        sentence="{rival} lets the exposure drift within the take.",
    ),
    Item(
        id="metering", title="meter's habit", dial="exposure_compensation", scope=METER, cost=_metering,
        facts=lambda c: {"bias_stops": c.at.meter_habit_stops(c.space.sheet)},
        sentence="The meter exposes {bias_stops:stops} stops too much; {rival} would be {theirs:stops} stops off.",
    ),
    Item(
        id="glass", title="a filter before the lens", dial="nd", scope=FRONT, cost=_glass,
        decided_by=("f_number", "colour_filter", "housing"),
        sentence="{rival} puts more in front of the lens.",
    ),
    Item(
        id="cast", title="colour cast", dial="colour_filter", scope=FRONT, cost=_cast, decided_by=("housing",),
        facts=_cast_facts,
        sentence={
            "lamps": "The lamps bring the colour; {rival} would only take their light.",
            "clean": "With {rival} the colours would stand {theirs:stops} stops apart.",
            "filter": "With {rival} the colours stand {theirs:stops} stops apart; this leaves {left_stops:stops} stops of cast.",
            "other": "{rival} leaves {theirs:stops} stops of cast.",
        },
    ),
    Item(
        id="grey_use", title="colour filter used as a grey one", dial="colour_filter", scope=FRONT, cost=_used_as_grey,
        decided_by=("housing",),
        sentence="{rival} brings the colours no nearer; it would only take their light.",
    ),
    Item(
        id="glare", title="glare", dial="nd", scope=FRONT, cost=_glare,
        facts=lambda c: {"case": "glare" if c.at.brief.glare else "none"},
        sentence={
            "glare": "Only a polariser takes glare off water and leaves; {rival} leaves it.",
            "none": "There is no glare here that a polariser could take.",
        },
    ),
    Item(
        id="aperture", title="past its best aperture", dial="f_number", scope=SPOT, cost=_aperture,
        sentence="{rival} is closed past the lens's best range.",
    ),
    Item(
        id="red_noise", title="red noise raised", dial="red_gain_stops", scope=FRONT, cost=_red_gain,
        sentence="{rival} raises the noise of red by {more:stops} stops more.",
    ),
    Item(
        id="softness", title="soft focus", dial="f_number", scope=SPOT, cost=_softness, decided_by=("lens", "shutter_s"),
        sentence="{rival} is {theirs:stops} stops soft, by its opening or its focus.",
    ),
    Item(
        id="focus", title="focus that may miss", dial="focus", scope=FOCUS, cost=_focus, decided_by=("lens",),
        facts=lambda c: {"case": _FOCUS_CASES.get(c.rival, "other")},
        sentence={
            "automatic": "Automatic would hunt within the take.",
            "preset": "{rival} is sharp only farther off than this subject comes.",
            "other": "{rival} would lose what moves nearer or farther.",
        },
    ),
)  # fmt: skip
