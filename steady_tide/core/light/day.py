"""The light through a day at one place: how much, of which colour, and its windows."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta, tzinfo
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.light.sky import Cloud, Shade, SkyStops, altitudes, is_sunlit, level_and_facing_lux
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.stops import ev100_from_lux

Floats = NDArray[np.float64]
WindowKind = Literal["night", "astronomical", "nautical", "civil", "low_sun", "harsh", "moon"]
SUNRISE_DEG = -0.833  # of the sun's centre: half its disc, and what the air bends


class Window(Frozen):
    """A span of the day with a light of its own."""

    kind: WindowKind
    start: datetime
    end: datetime


class HourOfSky(Frozen):
    """Cloud from one moment until the next that is said."""

    start: datetime
    cloud: Cloud


@dataclass(frozen=True)
class DayOfLight:
    """Light through a day; arrays of shape (N,), one value a step from local midnight to the next."""

    start: datetime
    seconds: Floats
    sun_deg: Floats
    moon_deg: Floats
    moon_lit: Floats  # share of its disc
    level_ev100: Floats  # level ground
    facing_ev100: Floats  # a surface that faces the sun
    kelvin: Floats
    windows: tuple[Window, ...]

    @property
    def night_moon_lit(self) -> float:
        """Share of the moon's disc that is lit while it stands highest in the dark, or at all where there is no dark."""
        dark = self.sun_deg < SUNRISE_DEG
        highest = np.argmax(np.where(dark, self.moon_deg, -90.0) if dark.any() else self.moon_deg)
        return float(self.moon_lit[highest])

    def at(self, moment: datetime) -> int:
        """Place of the step nearest to a moment. moment: aware. Returns an index, held at both ends."""
        passed = (moment - self.start).total_seconds()
        return int(np.clip(np.searchsorted(self.seconds, passed), 0, len(self.seconds) - 1))

    def moment(self, place: float) -> datetime:
        """Moment of a step, or of a place between two. Returns it in UTC."""
        passed = float(np.interp(place, np.arange(len(self.seconds)), self.seconds))
        return self.start + timedelta(seconds=passed)


def local_day(day: date, zone: tzinfo) -> tuple[datetime, datetime]:
    """Midnight to midnight at a place. Returns both in UTC; 23 or 25 hours apart where clocks change."""
    start = datetime.combine(day, time(), zone)
    return start.astimezone(UTC), datetime.combine(day + timedelta(days=1), time(), zone).astimezone(UTC)


def day_of_light(
    latitude: float,
    longitude: float,
    start: datetime,
    end: datetime,
    stops: SkyStops,
    cloud: Cloud | Sequence[HourOfSky] = "clear",
    shade: Shade = "open",
    step_s: float = 60.0,
) -> DayOfLight:
    """Work out the light of a day.

    latitude, longitude: degrees, north and east positive; start, end: aware, as `local_day` gives them;
    stops: what clouds and shade take; cloud: of the whole day, or by the hour; shade: of the subject;
    step_s: seconds between two steps. Returns the day.
    """
    seconds = np.arange(0.0, (end - start).total_seconds() + 0.5, step_s)
    sky = altitudes(latitude, longitude, start, seconds)
    clouds = _clouds(start, seconds, cloud)
    sunlit = is_sunlit(clouds)
    level, facing = level_and_facing_lux(
        sky.sun_deg, sky.moon_deg, sky.moon_phase_deg, clouds, shade, stops, sky.moon_km
    )
    return DayOfLight(
        start=start,
        seconds=seconds,
        sun_deg=sky.sun_deg,
        moon_deg=sky.moon_deg,
        moon_lit=(1.0 + np.cos(np.radians(sky.moon_phase_deg))) / 2.0,
        level_ev100=np.asarray(ev100_from_lux(level)),
        facing_ev100=np.asarray(ev100_from_lux(facing)),
        kelvin=daylight_k(sky.sun_deg, sunlit, shade, stops),
        windows=_windows(start, seconds, sky.sun_deg, sky.moon_deg, sunlit, stops),
    )


def _clouds(start: datetime, seconds: Floats, cloud: Cloud | Sequence[HourOfSky]) -> NDArray[np.str_]:
    if isinstance(cloud, str):
        return np.full(len(seconds), cloud)
    if not cloud:
        return np.full(len(seconds), "clear")
    hours = sorted(cloud, key=lambda hour: hour.start)
    begins = np.array([(hour.start - start).total_seconds() for hour in hours])
    place = np.clip(np.searchsorted(begins, seconds, side="right") - 1, 0, len(hours) - 1)
    return np.array([hour.cloud for hour in hours])[place]


def daylight_k(sun_deg: Floats, sunlit: NDArray[np.bool_], shade: Shade, stops: SkyStops) -> Floats:
    """The light's own colour temperature.

    sun_deg: altitudes, degrees, (N,); sunlit: where no cloud hides the sun, (N,); shade: of the subject;
    stops: gives the table. Returns kelvin, (N,). Below twilight the last value is held; the eye sees none.
    """
    degrees, kelvin = np.array(stops.kelvin_by_sun).T
    clear = np.interp(sun_deg, degrees, kelvin)
    up = sun_deg > 0.0
    shaded = np.where(up, max(stops.kelvin_shade, 0.0), clear) if shade == "full" else clear
    return np.where(sunlit | ~up, shaded, np.maximum(stops.kelvin_cloud, shaded if shade == "full" else 0.0))


def _windows(
    start: datetime, seconds: Floats, sun: Floats, moon_deg: Floats, sunlit: NDArray[np.bool_], stops: SkyStops
) -> tuple[Window, ...]:
    low, high = stops.low_sun_deg

    def spans(kind: WindowKind, above: Callable[[Floats], Floats]) -> list[Window]:
        """Where a signed distance is positive, its ends found between two steps."""
        inside = above(sun if kind != "moon" else moon_deg)
        held = inside > 0.0
        edges = np.flatnonzero(np.diff(held.astype(int)))
        share = inside[edges] / (inside[edges] - inside[edges + 1])
        crossed = (seconds[edges] + share * (seconds[edges + 1] - seconds[edges])).tolist()
        moments = [start + timedelta(seconds=at) for at in crossed]
        if held[0]:
            moments.insert(0, start)
        if held[-1]:
            moments.append(start + timedelta(seconds=float(seconds[-1])))
        return [Window(kind=kind, start=a, end=b) for a, b in zip(moments[::2], moments[1::2], strict=True)]

    def band(bottom: float, top: float) -> Callable[[Floats], Floats]:
        return lambda degrees: np.minimum(degrees - bottom, top - degrees)

    found = [
        *spans("night", band(-90.1, -18.0)),
        *spans("astronomical", band(-18.0, -12.0)),
        *spans("nautical", band(-12.0, -6.0)),
        *spans("civil", band(-6.0, SUNRISE_DEG)),
        *spans("low_sun", band(low, high)),
        *spans("harsh", lambda degrees: np.where(sunlit, degrees - stops.harsh_above_deg, -1.0)),
        *spans("moon", lambda degrees: degrees),
    ]
    return tuple(sorted(found, key=lambda window: window.start))
