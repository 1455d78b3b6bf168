"""When a day's sky can give the light that a brief says: full sun, dusk, night or stars, by place or by meter."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.brief.brief import Brief
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.light.day import DayOfLight
from steady_tide.core.light.resolving import resolve
from steady_tide.core.light.sources import (
    LampLight,
    LightSource,
    MeterLight,
    Place,
    PlaceLight,
    ReadingLight,
    WaterLight,
)
from steady_tide.core.quantities.errors import BadInput

Spans = tuple[tuple[datetime, datetime], ...]
Bools = NDArray[np.bool_]


@dataclass(frozen=True)
class LightHours:
    """The hours of a day in which a light is to be had; phrase: "in full sun", empty of one that was measured."""

    phrase: str
    spans: Spans


def hours_of(brief: Brief, day: DayOfLight, knowledge: Knowledge) -> LightHours | None:
    """When the day can give what a brief says of its light.

    brief: of the shot; day: under a clear sky, which gives the most; knowledge: places and limits. Returns hours, UTC;
    None where the light is there at any time (a room, a stage), where the sky's own hour counts (a sky, whose light
    follows its time), or where nobody can tell.
    """
    light = _open(brief.light)
    if isinstance(light, PlaceLight):
        place = knowledge.places.get(light.place)
        there = None if place is None else _of_place(place, day, knowledge)
        return None if there is None or place is None else LightHours(place.phrase, _spans(there, day))
    if isinstance(light, MeterLight | ReadingLight) and knowledge.scenarios[brief.scenario].light != "lamps":
        there = _of_band(light, day, knowledge)
        return None if there is None else LightHours("", _spans(there, day))
    return None


def by_the_hour(brief: Brief, knowledge: Knowledge) -> bool:
    """Whether a kind of place names light that hangs on the hour. brief: of the shot; knowledge: places."""
    light = _open(brief.light)
    place = knowledge.places.get(light.place) if isinstance(light, PlaceLight) else None
    return place is not None and place.sun_deg is not None


def _open(light: LightSource | None) -> LightSource | None:
    """What of a light the day may give: above water, and besides lamps."""
    if isinstance(light, WaterLight):
        return _open(light.surface)
    return _open(light.ambient) if isinstance(light, LampLight) else light


def _of_place(place: Place, day: DayOfLight, knowledge: Knowledge) -> Bools | None:
    if place.sun_deg is None:
        return None
    low, high = place.sun_deg
    there = (day.sun_deg >= low) & (day.sun_deg <= high)
    if place.evening:
        there = there & (np.gradient(day.sun_deg) < 0.0)
    if place.moon is None:
        return there
    least_deg, least_lit = knowledge.limits.moonlit_from_deg, knowledge.limits.moonlit_from_share
    moonlit = (day.moon_deg >= least_deg) & (day.moon_lit >= least_lit)
    dark = (day.moon_deg <= 0.0) | (day.moon_lit <= 1.0 - least_lit)
    return there & (moonlit if place.moon == "up" else dark)


def _of_band(light: MeterLight | ReadingLight, day: DayOfLight, knowledge: Knowledge) -> Bools | None:
    """Of a measured light that lamps hardly give, or that no lit place is as dark as; None of one in between."""
    limits = knowledge.limits
    try:
        low, high = resolve(light, knowledge.world).ev100
    except BadInput:
        return None
    slack = limits.measured_sky_slack_stops
    if low >= limits.only_day_from_ev100:
        return np.asarray(day.facing_ev100 >= high - slack)
    if high <= limits.only_night_below_ev100:
        return np.asarray(day.level_ev100 <= high + slack)
    return None


def _spans(there: Bools, day: DayOfLight) -> Spans:
    """Where it holds, from step to step."""
    step = timedelta(seconds=float(day.seconds[1] - day.seconds[0])) if len(day.seconds) > 1 else timedelta(0)
    edges = np.flatnonzero(np.diff(np.concatenate(([False], there, [False])).astype(int)))
    end = day.moment(len(day.seconds) - 1)
    return tuple(
        (day.moment(int(first)), min(end, day.moment(int(after) - 1) + step))
        for first, after in zip(edges[::2], edges[1::2], strict=True)
    )
