"""Sun, moon and sky: how much light the open sky gives, and of which colour.

Positions come from a library; illuminance from the published polynomials of the altitude.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Literal

import astronomy
import numpy as np
from astral import Observer
from astral.sun import elevation
from numpy.typing import NDArray

from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.stops import Number, lux_from_ev100

Cloud = Literal["clear", "haze", "bright_cloud", "overcast", "storm"]
Shade = Literal["open", "partial", "full"]

# log10 lux as a polynomial of altitude / 90 degrees, from and to degrees; source: usno171.
_SUN = (
    (20.0, 90.0, (3.74, 3.97, -4.07, 1.47)),
    (5.0, 20.0, (3.05, 13.28, -45.98, 64.33)),
    (-0.8, 5.0, (2.88, 22.26, -207.64, 1034.30)),
    (-5.0, -0.8, (2.88, 21.81, -258.11, -858.36)),
    (-12.0, -5.0, (2.70, 12.17, -431.69, -1899.83)),
    (-18.0, -12.0, (13.84, 262.72, 1447.42, 2797.93)),
)
_MOON = (
    (20.0, 90.0, (-1.95, 4.06, -4.24, 1.56)),
    (5.0, 20.0, (-2.58, 12.58, -42.58, 59.06)),
    (-0.8, 5.0, (-2.79, 24.27, -252.95, 1321.29)),
)
STARLIGHT_LUX = 0.0005
STEP = timedelta(minutes=5)
LONGEST = timedelta(days=2)
# The library is asked this often; between, altitudes follow a cubic, true to a few thousandths of a degree.
ASKED_EVERY = timedelta(minutes=30)


def _polynomial(altitude_deg: Number, pieces: Sequence[tuple[float, float, tuple[float, ...]]]) -> NDArray[np.float64]:
    altitude = np.asarray(altitude_deg, dtype=float)
    x = altitude / 90.0
    found = np.zeros_like(altitude)
    for low, high, factors in pieces:
        here = (altitude >= low) & ((altitude < high) | (high == 90.0))
        inside = np.clip(x, low / 90.0, high / 90.0)
        found = np.where(here, 10.0 ** np.polynomial.polynomial.polyval(inside, np.array(factors)), found)
    return found


def sun_lux(altitude_deg: Number) -> Number:
    """Horizontal illuminance that the sun and its sky give when it is clear.

    altitude_deg: of the sun, degrees; any shape. Returns lux, never less than starlight.
    Source: usno171. Valid from -90 to 90 degrees.
    """
    return np.maximum(STARLIGHT_LUX, _polynomial(altitude_deg, _SUN))


MOON_MEAN_KM = 384_400.0


def moon_lux(altitude_deg: Number, phase_deg: Number, distance_km: Number = MOON_MEAN_KM) -> Number:
    """Horizontal illuminance that the moon gives when it is clear.

    altitude_deg: of the moon, degrees; phase_deg: phase angle, 0 full to 180 new; distance_km: how far it
    is, whose square counts; all broadcast. Returns lux, 0 below the horizon. Source: usno171.
    """
    phase = np.abs(np.asarray(phase_deg, dtype=float))
    nearer = (MOON_MEAN_KM / np.asarray(distance_km, dtype=float)) ** 2
    return nearer * _polynomial(altitude_deg, _MOON) * 10.0 ** (-0.00868 * phase - 2.2e-9 * phase**4)


class SkyStops(Frozen):
    """What clouds and shade take from the clear value, in stops, and how kelvin follows the sky."""

    cloud: dict[Cloud, float]
    shade: dict[Shade, tuple[float, float]]
    shade_under_cloud: float
    shade_by_sun: tuple[tuple[float, float], ...]
    kelvin_by_sun: tuple[tuple[float, float], ...]
    kelvin_cloud: float
    kelvin_shade: float
    contrast_by_cloud: dict[Cloud, float]
    contrast_by_sun: tuple[tuple[float, float], ...]
    contrast_in_shade: float
    contrast_by_ev: tuple[tuple[float, float], ...]
    contrast_by_lamps: float
    contrast_under_water: float
    sunlit_from_ev100: float
    starlit_ev100: tuple[float, float]
    low_sun_deg: tuple[float, float]
    harsh_above_deg: float


class SkyNow(Frozen):
    """Sun and moon at one place at some moments of a span: what the light of the sky follows from.

    Each field holds one value a moment. moon_phase_deg: phase angle, 0 full; moon_km: distance.
    """

    sun_deg: tuple[float, ...]
    moon_deg: tuple[float, ...]
    moon_phase_deg: tuple[float, ...]
    moon_km: tuple[float, ...]


def positions(latitude: float, longitude: float, start: datetime, end: datetime) -> SkyNow:
    """Altitudes of sun and moon over a span, every five minutes and at its end.

    latitude, longitude: degrees, north and east positive; start, end: aware times, at most two days apart.
    Returns altitudes in degrees, the moon's phase angle and its distance at each of these moments.
    """
    start, end = start.astimezone(UTC), min(end.astimezone(UTC), start.astimezone(UTC) + LONGEST)
    seconds = np.append(
        np.arange(0.0, (end - start).total_seconds(), STEP.total_seconds()), (end - start).total_seconds()
    )
    found = altitudes(latitude, longitude, start, seconds)
    return SkyNow(
        sun_deg=tuple(found.sun_deg.tolist()),
        moon_deg=tuple(found.moon_deg.tolist()),
        moon_phase_deg=tuple(found.moon_phase_deg.tolist()),
        moon_km=tuple(found.moon_km.tolist()),
    )


@dataclass(frozen=True)
class Altitudes:
    """Where sun and moon stand at some moments, with the moon's phase angle, all degrees, and its distance, kilometres;
    each of shape (N,)."""

    sun_deg: NDArray[np.float64]
    moon_deg: NDArray[np.float64]
    moon_phase_deg: NDArray[np.float64]
    moon_km: NDArray[np.float64]


def altitudes(latitude: float, longitude: float, start: datetime, seconds: NDArray[np.float64]) -> Altitudes:
    """Altitudes of sun and moon.

    latitude, longitude: degrees, north and east positive; start: aware; seconds: after it, rising, (N,).
    Returns degrees without refraction, as seen from the place; the moon's phase angle, 0 full to 180 new, and its
    distance, kilometres, at each moment: within a night both move the light by up to half a stop.
    """
    observer = Observer(latitude, longitude, 0.0)
    start, step = start.astimezone(UTC), ASKED_EVERY.total_seconds()
    # One moment before the first and two after the last, for the cubic to lean on.
    asked = [start + ASKED_EVERY * n for n in range(-1, int(seconds[-1] / step) + 3)]
    sun = [float(elevation(observer, at, with_refraction=False)) for at in asked]
    here = astronomy.Observer(latitude, longitude, 0.0)
    moons = [_moon_deg(here, at) for at in asked]
    shown = [astronomy.Illumination(astronomy.Body.Moon, _moment(at)) for at in asked]
    places = seconds / step + 1.0  # the first that was asked lies one step before the start
    numbers = np.arange(len(asked))
    return Altitudes(
        sun_deg=_between(np.array(sun), seconds / step),
        moon_deg=_between(np.array(moons), seconds / step),
        moon_phase_deg=np.interp(places, numbers, [one.phase_angle for one in shown]),
        moon_km=np.interp(places, numbers, [one.geo_dist for one in shown]) * ASTRONOMICAL_UNIT_KM,
    )


ASTRONOMICAL_UNIT_KM = 149_597_870.7


def _moment(at: datetime) -> astronomy.Time:
    return astronomy.Time.Make(at.year, at.month, at.day, at.hour, at.minute, at.second + at.microsecond / 1e6)


def _moon_deg(here: astronomy.Observer, at: datetime) -> float:
    """Altitude of the moon from a place, with its parallax, degrees."""
    moment = _moment(at)
    seen = astronomy.Equator(astronomy.Body.Moon, moment, here, True, True)
    return float(astronomy.Horizon(moment, here, seen.ra, seen.dec, astronomy.Refraction.Airless).altitude)


def _between(asked_deg: NDArray[np.float64], at: NDArray[np.float64]) -> NDArray[np.float64]:
    """Lagrange's cubic through the two moments before and the two after, of the sine, which is smooth."""
    sines = np.sin(np.radians(asked_deg))
    place = np.floor(at).astype(int)
    u = at - place
    before, here, after, later = (sines[place + n] for n in range(4))
    sine = (
        -u * (u - 1.0) * (u - 2.0) / 6.0 * before
        + (u + 1.0) * (u - 1.0) * (u - 2.0) / 2.0 * here
        - (u + 1.0) * u * (u - 2.0) / 2.0 * after
        + (u + 1.0) * u * (u - 1.0) / 6.0 * later
    )
    return np.asarray(np.degrees(np.arcsin(np.clip(sine, -1.0, 1.0))))


def facing_gain(altitude_deg: Number) -> Number:
    """How much more light a surface that faces the sun gets than level ground does, clear sky.

    altitude_deg: of the sun, degrees. Returns a ratio, 1 where the sun is down.
    The direct share of the light is 0.8 from 15 degrees up and fades to nothing at the horizon; it grows by
    1 / sin(altitude), the sky's share stays. A choice of ours: subjects stand, they do not lie.
    """
    altitude = np.asarray(altitude_deg, dtype=float)
    direct = np.interp(altitude, [0.0, 15.0], [0.0, 0.8])
    tilt = 1.0 / np.sin(np.radians(np.clip(altitude, 4.0, 90.0)))
    return np.asarray(1.0 + direct * (tilt - 1.0))


def is_sunlit(clouds: NDArray[np.str_]) -> NDArray[np.bool_]:
    """Where no cloud hides the sun. clouds: names, (N,). Returns truths, (N,)."""
    return np.isin(clouds, ["clear", "haze"])


def level_and_facing_lux(
    sun_deg: NDArray[np.float64],
    moon_deg: NDArray[np.float64],
    moon_phase_deg: NDArray[np.float64],
    clouds: NDArray[np.str_],
    shade: Shade,
    stops: SkyStops,
    moon_km: NDArray[np.float64],
) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Light of the sky on level ground in the deepest shade, and on what faces the sun in the lightest.

    sun_deg, moon_deg: altitudes, degrees, (N,); moon_phase_deg: 0 full, (N,); clouds: names, (N,); shade: of the
    subject; stops: what they take; moon_km: the moon's distance, kilometres, (N,). Returns lux, both (N,), never
    below what eyes and cameras find under the stars: the sky itself glows more than its horizontal figure says.
    """
    sunlit = is_sunlit(clouds)
    deep, light = stops.shade[shade]
    # Under cloud, and once the sun is down, all light is the sky's, and shade takes but a part of that.
    suns, share = np.array(stops.shade_by_sun).T
    easing = np.minimum(np.where(sunlit, 1.0, stops.shade_under_cloud), np.interp(sun_deg, suns, share))
    taken = np.array([stops.cloud[name] for name in clouds.tolist()])
    total = np.asarray(sun_lux(sun_deg) + moon_lux(moon_deg, moon_phase_deg, moon_km))
    gain = np.where(sunlit & (shade != "full"), facing_gain(sun_deg), 1.0)
    dim, bright = lux_from_ev100(np.array(stops.starlit_ev100))
    level, facing = total * np.exp2(taken + deep * easing), total * gain * np.exp2(taken + light * easing)
    return np.maximum(level, dim), np.maximum(facing, bright)


def sky_lux(now: SkyNow, cloud: Cloud, shade: Shade, stops: SkyStops) -> tuple[float, float]:
    """Least and most light of a span, under cloud and in shade.

    now: altitudes; cloud, shade: as chosen; stops: what they take. Returns lux, dimmest and brightest:
    level ground at the dim end, a surface that faces the sun at the bright end.
    """
    sun, moons = np.array(now.sun_deg), np.array(now.moon_deg)
    level, facing = level_and_facing_lux(
        sun, moons, np.array(now.moon_phase_deg), np.full(len(sun), cloud), shade, stops, np.array(now.moon_km)
    )
    return float(level.min()), float(facing.max())


def sky_balance_k(now: SkyNow, cloud: Cloud, shade: Shade) -> tuple[int, int]:
    """White balance that keeps the mood of the sky: what people set, not the light's own temperature.

    now: altitudes; cloud, shade: as chosen. Returns kelvin, from and to.
    """
    highest = max(now.sun_deg)
    if highest < -6.0:
        return (3200, 4300)
    if highest < -0.8:
        return (5500, 7500)
    if shade == "full":
        return (6500, 7500)
    if cloud not in ("clear", "haze"):
        return (6000, 6500)
    return (5300, 5800) if highest >= 20.0 else (5600, 6500)


def sky_contrast_stops(now: SkyNow, cloud: Cloud, shade: Shade, stops: SkyStops) -> float:
    """What one frame under the sky holds from its darkest to its brightest part.

    now: altitudes; cloud, shade: as chosen; stops: what is usual. Returns stops.
    """
    if shade == "full":
        return stops.contrast_in_shade
    usual = stops.contrast_by_cloud[cloud]
    if not is_sunlit(np.array([cloud]))[0]:
        return usual
    suns, contrast = np.array(stops.contrast_by_sun).T
    low = np.interp(np.array(now.sun_deg), suns, contrast)
    high = np.array(now.sun_deg) >= suns[-1]
    return float(np.where(high, usual, low).max())
