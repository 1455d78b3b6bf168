"""How long a camera lasts: energy, heat and the card."""

from __future__ import annotations

import numpy as np

from steady_tide.core.stops import Number


def cold_factor(air_c: float, left: tuple[tuple[float, float], ...]) -> float:
    """Share of its charge that a cell gives in the cold.

    air_c: temperature, degrees Celsius; left: of the cell's kind, pairs of temperature and share.
    Returns 0 to 1, held at the ends of the table.
    """
    rising = sorted(left)
    return float(np.interp(air_c, [at for at, _ in rising], [share for _, share in rising]))


def hours_of(energy_wh: Number, power_w: Number) -> Number:
    """How long some energy lasts. energy_wh: watt-hours; power_w: watts. Returns hours."""
    return np.asarray(energy_wh) / power_w


def minutes_to_heat(power_w: Number, heat_k_per_w: float, tau_s: float, air_c: float, limit_c: float) -> Number:
    """Time until a body reaches its limit: T = T_air + P R (1 - exp(-t / tau)).

    power_w: watts; heat_k_per_w: thermal resistance, kelvin per watt; tau_s: time constant, seconds;
    air_c, limit_c: degrees Celsius. Returns minutes, infinite where it never gets there.
    """
    rise = np.asarray(power_w, dtype=float) * heat_k_per_w
    room = max(limit_c - air_c, 0.0)
    with np.errstate(divide="ignore", invalid="ignore"):
        seconds = -tau_s * np.log1p(-room / np.maximum(rise, 1e-12))
    return np.where(rise > room, seconds, np.inf) / 60.0


def gigabytes(bit_rate_mb_s: Number, seconds: Number) -> Number:
    """Size of a recording. bit_rate_mb_s: megabits per second; seconds: its length. Returns decimal gigabytes."""
    return np.asarray(bit_rate_mb_s) * seconds / 8000.0
