"""How long a camera lasts: energy, heat and the card."""

from __future__ import annotations

import numpy as np

from steady_tide.core.quantities.stops import Number


def cold_factor(cell_c: Number, left: tuple[tuple[float, float], ...]) -> Number:
    """Share of its charge that a cell gives in the cold.

    cell_c: temperature of the cell itself, degrees Celsius; left: of the cell's kind, pairs of temperature and share.
    Returns 0 to 1, held at the ends of the table.
    """
    rising = sorted(left)
    return np.interp(cell_c, [at for at, _ in rising], [share for _, share in rising])


def cell_temperature_c(
    air_c: float, power_w: Number, heat_k_per_w: float, tau_s: float, seconds: float, warmth_share: float
) -> Number:
    """How warm the cell in a body at work is, in the end: it takes a share of what the body has warmed by then.

    air_c: degrees Celsius; power_w: drawn on the average; heat_k_per_w: from the body's warmest part to the air,
    kelvin per watt; tau_s: time constant, seconds; seconds: how long it has been at work; warmth_share: how far the
    cell stands from the air towards that part, 0 to 1. Returns degrees Celsius.
    """
    return air_c + warmth_share * warmth_after_k(0.0, power_w, heat_k_per_w, tau_s, seconds)


def hours_of(energy_wh: Number, power_w: Number) -> Number:
    """How long some energy lasts. energy_wh: watt-hours; power_w: watts. Returns hours."""
    return np.asarray(energy_wh) / power_w


def minutes_to_heat(
    power_w: Number, heat_k_per_w: float, tau_s: float, air_c: float, limit_c: float, warm_k: Number = 0.0
) -> Number:
    """Time until a body reaches its limit: T = T_air + P R + (warm - P R) exp(-t / tau).

    power_w: watts; heat_k_per_w: thermal resistance, kelvin per watt; tau_s: time constant, seconds;
    air_c, limit_c: degrees Celsius; warm_k: how much warmer than the air it is to begin with, kelvin.
    Returns minutes, infinite where it never gets there.
    """
    rise = np.asarray(power_w, dtype=float) * heat_k_per_w
    room = max(limit_c - air_c, 0.0)
    with np.errstate(divide="ignore", invalid="ignore"):
        left = (rise - room) / np.maximum(rise - warm_k, 1e-12)
        seconds = -tau_s * np.log(np.clip(left, 1e-300, 1.0))
    return np.where(np.asarray(warm_k) >= room, 0.0, np.where(rise > room, seconds, np.inf)) / 60.0


def warmth_after_k(warm_k: Number, power_w: Number, heat_k_per_w: Number, tau_s: Number, seconds: Number) -> Number:
    """How much warmer than the air a body is after a while.

    warm_k: to begin with, kelvin; power_w: watts; heat_k_per_w: kelvin per watt; tau_s, seconds: seconds.
    Returns kelvin.
    """
    rise = np.asarray(power_w, dtype=float) * heat_k_per_w
    return rise + (np.asarray(warm_k) - rise) * np.exp(-np.asarray(seconds) / tau_s)


def gigabytes(bit_rate_mb_s: Number, seconds: Number) -> Number:
    """Size of a recording. bit_rate_mb_s: megabits per second; seconds: its length. Returns decimal gigabytes."""
    return np.asarray(bit_rate_mb_s) * seconds / 8000.0
