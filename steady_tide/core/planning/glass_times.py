"""A shot held through a day: which density serves from when to when, and when the light is out of reach."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

import numpy as np

from steady_tide.core.light.day import DayOfLight
from steady_tide.core.planning.items.views import ExposureView
from steady_tide.core.planning.metering import meter
from steady_tide.core.planning.priced_choice import Choice
from steady_tide.core.planning.situation import Situation
from steady_tide.core.planning.space import Bools, Floats, Glass, Space
from steady_tide.core.quantities.frozen import Frozen

NoGlassWhy = Literal["too_dark", "too_bright", "between"]


class GlassSpan(Frozen):
    """A span of the day with the density that serves it; none serves where `nd` is absent."""

    start: datetime
    end: datetime
    nd: tuple[str, ...] | None
    why_not: NoGlassWhy | None
    off_stops: float  # the most by which the middle of the light is off; negative is too dark


def glass_times(
    at: Situation, space: Space, choice: Choice, day: DayOfLight, own: tuple[datetime, datetime] | None = None
) -> tuple[GlassSpan, ...]:
    """Find the fewest changes of glass that hold a shot through a day.

    at, space, choice: the shot as planned, of which all but the density is held; day: the light; own: when the shot's own
    light begins and ends, in which it is as planned, and its density the planned one.
    Returns spans from the first step of the day to the last. Among densities that serve at a moment the
    one that serves longest is taken, which makes the changes fewest.
    """
    held = space.glasses[choice["glasses"]]
    # Only the density is changed: housing, colour filter, polariser and red gain stay as they are.
    lens = space.gates[choice["gates"]][0]
    candidates = [
        glass
        for place, glass in enumerate(space.glasses)
        if _but_density(glass) == _but_density(held) and space.glass_allowed[lens, place]
    ]
    ev100 = (day.level_ev100 + day.facing_ev100) / 2.0
    mine = slice(0, 0)
    if own is not None and day.start <= own[0] <= day.moment(len(day.seconds) - 1):
        mine = slice(day.at(own[0]), day.at(own[1]) + 1)
        # What lies between the sky and the subject, such as water, takes as much at other hours.
        ev100 = ev100 + sum(at.light.ev100) / 2.0 - float(ev100[mine].mean())
    off = off_stops(at, space, choice, candidates, ev100)
    serves = np.abs(off) <= at.limits.glass_serves_stops
    serves[:, mine] = np.array([[glass.ids == held.ids] for glass in candidates])
    spans = []
    place, last = 0, len(day.seconds) - 1
    while place < last:
        lasts = [_run(row, place) for row in serves]
        longest = max(lasts)
        if longest > place:
            # Of those that last as long, the lightest piece is the least trouble.
            best = next(index for index, end in enumerate(lasts) if end == longest)
            end = min(longest, last)
            spans.append(_span(day, place, end, candidates[best], off[best]))
        else:
            why = _why(off[:, place])
            end = place + 1
            while end < last and not serves[:, end].any() and _why(off[:, end]) == why:
                end += 1
            nearest = int(np.argmin(np.abs(off[:, place:end]).min(axis=1)))
            spans.append(_span(day, place, end, None, off[nearest], why))
        place = end
    return tuple(spans)


def _but_density(glass: Glass) -> tuple[object, ...]:
    return glass.colour, glass.housing, glass.polarises, glass.red_gain_stops


def off_stops(at: Situation, space: Space, choice: Choice, glasses: list[Glass], ev100: Floats) -> Floats:
    """How far the light is off what each density lets the camera hold.

    ev100: (T,). Returns stops over, or under as negative numbers, (G, T).
    """
    lens, f_number, fixed_s = space.gates[choice["gates"]]
    floor, ceiling = np.log2(np.array(space.iso_pairs[choice["iso_pairs"]], dtype=float))
    longest = np.array(space.paces[int(space.pictures.pace[choice["pictures"]])].automatic_s)
    compensation = np.array(space.compensations[choice["compensations"]])
    nd = np.array([glass.stops for glass in glasses])[:, None] + space.lost_stops[lens]
    asked = meter(
        (ev100, ev100),
        space.sheet,
        np.array(f_number),
        np.array(fixed_s),
        nd,
        compensation,
        longest,
        at.meter_bias_stops(space.sheet),
    )
    view = ExposureView(at, (ev100, ev100), space.sheet, asked, nd, nd, floor, ceiling)
    return np.asarray(np.maximum(0.0, view.bright_stops) - np.maximum(0.0, view.dark_stops))


def _run(serves: Bools, place: int) -> int:
    """First step from a place on at which a density no longer serves."""
    ends = np.flatnonzero(~serves[place:])
    return place + (int(ends[0]) if len(ends) else len(serves) - place)


def _why(off: Floats) -> NoGlassWhy:
    """Why no density serves at a moment: the light is below the least, above the most, or between two of them."""
    if off.max() < 0:
        return "too_dark"
    return "too_bright" if off.min() > 0 else "between"


def _span(
    day: DayOfLight, place: int, end: int, glass: Glass | None, off: Floats, why: NoGlassWhy | None = None
) -> GlassSpan:
    within = off[place : max(end, place + 1)]
    worst = float(within[int(np.argmax(np.abs(within)))])
    return GlassSpan(
        start=day.moment(place),
        end=day.moment(end),
        nd=None if glass is None else glass.ids,
        why_not=why,
        off_stops=worst,
    )
