"""What colour and recording give up: range, tones, bits, storage, editing."""

from __future__ import annotations

from typing import Any

import numpy as np

from steady_tide.core.planning.comparison import Comparison
from steady_tide.core.planning.items.item import Item
from steady_tide.core.planning.items.views import LOOK, LookView
from steady_tide.core.planning.quantities import bits_a_pixel, recorded_gb
from steady_tide.core.planning.space import Floats


def _latitude(v: LookView) -> Floats:
    holds = np.array([v.space.holds_stops(look) for look in v.looks])
    return np.asarray(v.every + np.maximum(0.0, v.at.range_wanted_stops - holds))


def _grading(v: LookView) -> Floats:
    """A grade wants a profile that was made for it, by day at least, even where the range alone would do."""
    made_for_it = v.unfinished > v.at.limits.flat_from_stops
    return np.asarray(v.every + v.at.limits.graded_unflat_stops * v.at.wants_flat * ~made_for_it)


def _finish(v: LookView) -> Floats:
    return np.asarray(v.every + (0.0 if v.at.graded else v.unfinished))


def _lifted(v: LookView) -> Floats:
    return np.asarray(v.every + np.array([look.profile.shadow_lift_stops for look in v.looks]))


def _tones(v: LookView) -> Floats:
    limits = v.at.limits
    deep = np.array([look.bit_depth > 8 for look in v.looks], dtype=float)
    if v.at.graded:
        flat = v.unfinished > limits.flat_from_stops
        return np.asarray(v.every + (1.0 - deep) * np.where(flat, 1.0, limits.eight_bits_contrasty_stops))
    return np.asarray(v.every + deep * (limits.ten_bits_phone_stops if v.phone else limits.ten_bits_straight_stops))


def _bits(v: LookView) -> Floats:
    limits = v.at.limits
    efficiency = np.array([look.codec.efficiency for look in v.looks])
    per_pixel = bits_a_pixel(v.bits, v.pictures) * efficiency
    wanted = limits.bits_graded if v.at.graded else limits.bits_straight
    return np.asarray(np.maximum(0.0, np.log2(wanted / per_pixel)))


def _storage(v: LookView) -> Floats:
    least = min(rate for codec in v.space.sheet.codecs for rate in codec.bit_rates_mb_s)
    return np.asarray(v.every + np.log2(v.bits / least))


def _editing(v: LookView) -> Floats:
    if not v.phone:
        return v.every
    limits = v.at.limits
    slow = np.array([look.codec.efficiency >= 1.0 for look in v.looks], dtype=float)
    too_large = np.log2(np.maximum(1.0, v.pixels / limits.phone_edits_px)) / 2.0
    return np.asarray(v.every + too_large + limits.efficient_on_phone_stops * slow)


def _range_mode(v: LookView) -> Floats:
    limits = v.at.limits
    moving = v.at.brief.subject.speed_m_s > 0 or v.at.mount.shake_deg_s > limits.ghosts_shake_deg_s
    by_day = limits.ghosts_moving_stops if moving else limits.ghosts_still_stops
    ghosts = by_day + v.at.darkness * (limits.ghosts_dark_stops - by_day)
    return np.asarray(v.every + v.wide * ghosts)


def _card(v: LookView) -> Floats:
    supplies = v.space.supplies
    if not supplies.has_card:
        return v.every
    return np.asarray(np.log2(np.maximum(1.0, recorded_gb(v.at, v.bits, v.pictures) / max(supplies.capacity_gb, 1e-6))))


def _drive(v: LookView) -> Floats:
    codecs = list(dict.fromkeys(look.codec.id for look in v.looks))
    of_mode = np.array([[codec in mode.drive_codecs for codec in codecs] for mode in v.space.sheet.modes], dtype=float)
    return np.asarray(of_mode[:, [codecs.index(look.codec.id) for look in v.looks]][v.pictures.mode])


def _bits_facts(c: Comparison) -> dict[str, Any]:
    theirs, ours = c.theirs.bits_per_pixel, c.ours.bits_per_pixel
    if theirs < ours * (1.0 - c.at.limits.bits_alike_share):
        return {"case": "fewer", "theirs_bits": theirs, "ours_bits": ours}
    return {"case": "coarser", "times": 2.0 ** (c.theirs.stops["bits"] - c.ours.stops["bits"])}


def _finish_facts(c: Comparison) -> dict[str, Any]:
    return {"case": "flat" if c.theirs.stops["finish"] > c.at.limits.flat_from_stops else "near"}


def _range_facts(c: Comparison) -> dict[str, Any]:
    return {"case": "other_dial" if c.dial != "high_dynamic_range" else "dark" if c.at.dark else "light"}


def _graded(c: Comparison) -> dict[str, Any]:
    return {"case": "graded" if c.at.graded else "straight"}


RECORDING_ITEMS = (
    Item(
        id="latitude", title="range short", dial="profile", scope=LOOK, cost=_latitude, decided_by=("looks",),
        facts=_graded,
        sentence={
            "graded": "{rival} holds {theirs:stops} stops less range than the grade wants.",
            "straight": "{rival} holds {theirs:stops} stops less range than the picture wants.",
        },
    ),
    Item(
        id="grading", title="harder to grade", dial="profile", scope=LOOK, cost=_grading, decided_by=("looks",),
        sentence="{rival} is made to be shown, and grades less well.",
    ),
    Item(
        id="finish", title="left ungraded", dial="profile", scope=LOOK, cost=_finish, decided_by=("looks",),
        facts=_finish_facts,
        sentence={
            "flat": "{rival} needs a grade, and none is planned.",
            "near": "{rival} is {more:stops} stops farther from a finished picture.",
        },
    ),
    Item(
        id="lifted_shadows", title="lifted dark noise", dial="profile", scope=LOOK, cost=_lifted,
        decided_by=("looks",), sentence="{rival} lifts dark noise by {more:stops} stops.",
    ),
    Item(
        id="tones", title="tones", dial="bit_depth", scope=LOOK, cost=_tones, decided_by=("looks",), facts=_graded,
        sentence={
            "graded": "{rival} bands when it is graded.",
            "straight": "{rival} asks more of the editing machine for nothing.",
        },
    ),
    Item(
        id="bits", title="thin on bits", dial="bit_rate_mb_s", scope=LOOK, cost=_bits,
        decided_by=("looks", "frame", "frame_rate"),
        facts=_bits_facts,
        sentence={
            "fewer": "{rival} would have fewer bits a pixel: {theirs_bits:.2f}, not {ours_bits:.2f}.",
            "coarser": "{rival} makes {times:.1f} times less of its bits.",
        },
    ),
    Item(
        id="storage", title="card filled", dial="bit_rate_mb_s", scope=LOOK, cost=_storage, decided_by=("looks",),
        facts=lambda c: {"times": 2.0 ** max(0.0, c.theirs.stops["storage"] - c.ours.stops["storage"])},
        sentence="{rival} fills the card {times:.1f} times as fast.",
    ),
    Item(
        id="editing", title="heavy to edit", dial="codec", scope=LOOK, cost=_editing, decided_by=("looks", "frame"),
        sentence="{rival} is heavier to edit on a phone.",
    ),
    Item(
        id="range_mode", title="joined exposures", dial="high_dynamic_range", scope=LOOK, cost=_range_mode,
        decided_by=("looks",), facts=_range_facts,
        sentence={
            "other_dial": "{rival} would need HDR, several exposures joined in a frame.",
            "light": "HDR joins several exposures in a frame: what moves gets ghosts.",
            "dark": "HDR joins several exposures in a frame, and fails in the dark.",
        },
    ),
    Item(
        id="card", title="card too small", dial="bit_rate_mb_s", scope=LOOK, cost=_card, decided_by=("looks",),
        facts=lambda c: {"theirs_gb": c.theirs.recorded_gb, "fits_gb": c.space.supplies.capacity_gb},
        sentence="{rival} records {theirs_gb:gb}; {fits_gb:whole} fit.",
    ),
    Item(
        id="drive", title="external drive", dial="codec", scope=LOOK, cost=_drive, decided_by=("looks",),
        sentence="{rival} needs an external drive.",
    ),
)  # fmt: skip
