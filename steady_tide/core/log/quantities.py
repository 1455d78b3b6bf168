"""Quantities that ladders vary and people judge: which way is better, and by how much."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

SNR, SMEAR, LEFT, BITS = "snr", "smear_px", "left_deg", "bits_per_pixel"
LESS_IS_BETTER = (SMEAR, LEFT)  # of the others more is
# What pictures of different ladders have in common; bits buy more or less by codec and by what is filmed.
COMPARED = (SNR, SMEAR, LEFT)


def level_of(quantity: str, amount: float) -> float:
    """How good an amount is, in stops, more being better. quantity: of a ladder; amount: positive."""
    level = float(np.log2(amount))
    return -level if quantity in LESS_IS_BETTER else level


def amount_at(quantity: str, level: float) -> float:
    """The amount of a level: `level_of` turned about. level: stops. Returns it in the quantity's unit."""
    return float(2.0 ** (-level if quantity in LESS_IS_BETTER else level))


def better_first(quantity: str, amounts: Mapping[int, float]) -> tuple[int, ...]:
    """Rungs from the best picture to the worst. amounts: of the quantity, by rung; nought too. Returns rungs."""
    sign = 1.0 if quantity in LESS_IS_BETTER else -1.0
    return tuple(sorted(amounts, key=lambda rung: sign * amounts[rung]))
