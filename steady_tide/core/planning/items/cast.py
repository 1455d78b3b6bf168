"""How far colours stand off behind a filter."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from steady_tide.core.light.balance import balance_through_k, mixed_balance_k
from steady_tide.core.planning.situation import Situation, ramp
from steady_tide.core.planning.space import Glass


def filter_works(at: Situation, red_left: float) -> float:
    """How far a filter, or red gain, has red to wait for, 0 to 1. red_left: share of the surface's. Returns a share."""
    limits = at.limits
    return float(np.clip(np.log2(red_left / limits.red_useless_share) / limits.red_works_stops, 0.0, 1.0))


def balance_behind_k(at: Situation, glass: Glass) -> tuple[int, int]:
    """Balance of the light that is left behind a colour filter or with red raised, warm and cool end, kelvin."""
    light = at.light
    if light.surface_balance_k is None or not (glass.colour or glass.red_gain_stops):
        return light.balance_k
    red, _, blue = light.colour_stops[1]
    works = filter_works(at, light.red_left[1])
    taken_red, _, taken_blue = glass.band_stops
    left = (blue - works * taken_blue) - (red + works * (glass.red_gain_stops - taken_red))
    through = balance_through_k(light.surface_balance_k, left)
    if light.lamp_balance_k is None:
        return through
    return mixed_balance_k([(1.0 - light.lamp_share, through), (light.lamp_share, light.lamp_balance_k)])


def cast_stops(at: Situation, glass: Glass) -> float:
    """How far colours stand off behind a filter, beyond what a balance mends for nothing.

    A balance turns red against blue; green against both it leaves. Averaged over both ends of the light.
    at: gives the light; glass: in front of the lens. Returns stops.
    """
    light, limits = at.light, at.limits
    if light.deepest_m is None and not glass.colour:
        return 0.0
    off, wasted = [], 0.0
    for bands, red_left in zip(light.colour_stops, light.red_left, strict=True):
        # A filter holds the others back for the red to catch up; deep down there is no red to wait for.
        works = filter_works(at, red_left)
        red, green, blue = (band - works * taken for band, taken in zip(bands, glass.band_stops, strict=True))
        red += works * glass.red_gain_stops  # gain lifts what red there is; deep down it lifts noise
        # Past some point red is noise, and a filter that leaves less of the rest mends nothing.
        red = max(red, green - limits.cast_most_stops)
        wasted += limits.filter_wasted_deep_share * (1.0 - works) * glass.colour_stops
        tint = max(0.0, abs(green - (red + blue) / 2.0) - limits.tint_allowed_stops)
        beyond = max(0.0, abs(red - blue) - limits.balance_reach_stops)
        off.append(tint + limits.red_against_blue_share * beyond)
    # Light that lamps bring white and near needs no filter, and is dearly bought.
    lit = ramp(light.lamp_share, limits.lamps_seen_share, limits.lamps_lead_share)
    if lit > 0.0:
        by_lamps = limits.filter_wasted_lamps_share * max(light.lamp_share, limits.lamps_lead_share)
        wasted = (1.0 - lit) * wasted + lit * by_lamps * glass.colour_stops
    return sum(off) / len(off) + wasted


def used_as_grey_stops(at: Situation, glass: Glass) -> float:
    """What a colour filter costs that brings the colours no nearer: it is no grey one, however bright the light.

    at: gives the light; glass: in front of the lens. Returns stops.
    """
    if not glass.colour:
        return 0.0
    limits = at.limits
    bare = replace(glass, colour=None, band_stops=(0.0, 0.0, 0.0), colour_stops=0.0)
    nearer = cast_stops(at, bare) - cast_stops(at, glass)
    return glass.colour_stops * (1.0 - ramp(nearer, 0.0, limits.filter_worth_stops))
