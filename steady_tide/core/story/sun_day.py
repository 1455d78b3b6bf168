"""The sun against a framing through a day: when the wanted light is there, and when one's own shadow is in the frame."""

from __future__ import annotations

from datetime import datetime, timedelta

from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.limits import Limits
from steady_tide.core.shoot.film import LightWish
from steady_tide.core.story.shadow import Side, SunOnFraming, sun_at, sun_on_framing

STEP = timedelta(minutes=5)


class SunSpan(Frozen):
    """A span of the day."""

    start: datetime
    end: datetime


class RosePoint(Frozen):
    """Where the sun stands at a moment of the day."""

    at: datetime
    altitude_deg: float
    azimuth_deg: float


class SunOfDay(Frozen):
    """A framing's sun through its day. now: at its own time; path: while it is up, each half hour; sides: from where it lights, span by
    span; shadow: while one's own is in the frame; wanted: while the wish holds; harsh: while it stands high."""

    now: SunOnFraming | None
    path: tuple[RosePoint, ...]
    sides: tuple[tuple[Side, SunSpan], ...]
    shadow: tuple[SunSpan, ...]
    wanted: tuple[SunSpan, ...]
    harsh: tuple[SunSpan, ...]


def sun_of_day(
    latitude: float,
    longitude: float,
    day: tuple[datetime, datetime],
    heading_deg: float,
    height_m: float,
    fields_deg: tuple[float, float],
    pitch_deg: float,
    at: datetime | None,
    wish: LightWish | None,
    limits: Limits,
) -> SunOfDay:
    """Follow the sun through a day against a heading.

    latitude, longitude: degrees; day: its two ends, aware; heading_deg, height_m, fields_deg, pitch_deg: as for `sun_on_framing`; at: of the shot;
    wish: the light that is wanted; limits: numbers of judgement. Steps of five minutes: spans are good to that. Returns it.
    """
    start, end = day
    moments, found = [], []
    moment = start
    while moment <= end:
        sun = sun_at(latitude, longitude, moment)
        moments.append(moment)
        found.append(sun_on_framing(sun, heading_deg, height_m, fields_deg, pitch_deg))
        moment += STEP
    now = None
    if at is not None:
        now = sun_on_framing(sun_at(latitude, longitude, at), heading_deg, height_m, fields_deg, pitch_deg)
    high = limits.story_harsh_sun_deg
    sides: list[tuple[Side, SunSpan]] = []
    for side in ("front", "side", "back", "against"):
        sides += [(side, span) for span in _spans(moments, [one.side == side for one in found])]
    sides.sort(key=lambda entry: entry[1].start)
    return SunOfDay(
        now=now,
        path=tuple(
            RosePoint(at=when, altitude_deg=one.sun.altitude_deg, azimuth_deg=one.sun.azimuth_deg)
            for place, (when, one) in enumerate(zip(moments, found, strict=True))
            if place % 6 == 0 and one.sun.altitude_deg > 0.0
        ),
        sides=tuple(sides),
        shadow=tuple(_spans(moments, [one.shadow.in_frame for one in found])),
        wanted=() if wish in (None, "shade") else tuple(_spans(moments, [one.side == wish for one in found])),
        harsh=tuple(_spans(moments, [one.sun.altitude_deg > high for one in found])),
    )


def _spans(moments: list[datetime], holds: list[bool]) -> list[SunSpan]:
    spans, since = [], None
    for when, is_so in zip(moments, holds, strict=True):
        if is_so and since is None:
            since = when
        elif not is_so and since is not None:
            spans.append(SunSpan(start=since, end=when))
            since = None
    if since is not None:
        spans.append(SunSpan(start=since, end=moments[-1]))
    return spans
