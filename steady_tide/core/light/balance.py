"""Colour of light as white balances: what a light of known level usually has, and how far two lie apart."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

LAMPS_BELOW_EV100, DAY_FROM_EV100 = 5.0, 8.0  # between these a reading may be either
DAYLIGHT_K = (5300, 5800)
TUNGSTEN_K = (3200, 4000)
MIXED_SHARE = 0.1  # of the light, from which on a colour is seen


def mired(kelvin: float) -> float:
    """Reciprocal megakelvins, in which equal steps look alike. kelvin: colour temperature, above 0."""
    return 1e6 / kelvin


MIREDS_PER_STOP_OF_RED = 45.0
BLUEST_STOPS, COOLEST_K = 2.0, 9000  # past these no camera's balance follows


def balance_through_k(surface_k: tuple[int, int], bluer_stops: float) -> tuple[int, int]:
    """Balance of light that has come through water, and glass. surface_k: before, warm and cool end, kelvin;
    bluer_stops: by how much blue leads red where it is brightest. Returns warm and cool end, kelvin."""
    warm, cool = surface_k
    bluer = MIREDS_PER_STOP_OF_RED * float(np.clip(bluer_stops, 0.0, BLUEST_STOPS))
    return warm, max(warm, int(round(1e6 / max(mired(cool) - bluer, mired(COOLEST_K)), -2)))


def usual_balance_k(low: float, high: float) -> tuple[int, int]:
    """Balance of a light of which only the level is known: lamps in the dark, the day in the bright, and between the
    two where a band reaches from one to the other; the bright end counts twice.

    low, high: ends of the band, EV at ISO 100. Returns warm and cool end, kelvin.
    """
    by_day = (_day_share(low) + 2.0 * _day_share(high)) / 3.0
    warm, cool = (
        mired(lamps) + by_day * (mired(day) - mired(lamps)) for lamps, day in zip(TUNGSTEN_K, DAYLIGHT_K, strict=True)
    )
    return int(round(1e6 / warm, -1)), int(round(1e6 / cool, -1))


def _day_share(ev100: float) -> float:
    return float(np.clip((ev100 - LAMPS_BELOW_EV100) / (DAY_FROM_EV100 - LAMPS_BELOW_EV100), 0.0, 1.0))


def mixed_balance_k(lights: Iterable[tuple[float, tuple[float, float]]]) -> tuple[int, int]:
    """Balance of several lights on one subject, mixed in reciprocal kelvins by how much each of them gives.

    lights: illuminance, lux or any unit alike, and balance from warm to cool, kelvin, of each; one at least gives some.
    Returns warm and cool end, kelvin; it moves smoothly from one light to the other as their levels do.
    """
    known = list(lights)
    total = sum(lux for lux, _ in known)
    warm, cool = (sum(lux * mired(ends[end]) for lux, ends in known) / total for end in (0, 1))
    return round(1e6 / warm), round(1e6 / cool)


def apart_mireds(lights: Iterable[tuple[float, tuple[int, int]]], total_lux: float) -> float:
    """How far the colours of what lights a subject differ, reciprocal megakelvins; 0 where fewer than two are seen.

    lights: illuminance, lux, and balance from warm to cool, kelvin, of each; total_lux: of all together.
    """
    seen = [balance for lux, balance in lights if lux >= MIXED_SHARE * total_lux]
    if len(seen) < 2:
        return 0.0
    return max(0.0, max(mired(cool) for _, cool in seen) - min(mired(warm) for warm, _ in seen))


SECOND_RADIATION_UM_K = 14_388.0  # source: codata2018


def blackbody_bands(kelvin: float, centres_nm: tuple[float, ...]) -> tuple[float, ...]:
    """What a black body gives in some bands, against the middle one. kelvin: its temperature; centres_nm: of the bands.

    Returns ratios, by Planck's law. Source: codata2018.
    """

    def radiance(nm: float) -> float:
        return float((nm / 1000.0) ** -5 / (np.exp(SECOND_RADIATION_UM_K / (nm / 1000.0 * kelvin)) - 1.0))

    middle = radiance(centres_nm[len(centres_nm) // 2])
    return tuple(radiance(nm) / middle for nm in centres_nm)
