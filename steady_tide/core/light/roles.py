"""What lamps are there for: key, fill, separation, background; how bright each should be against the key."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Literal, Protocol, TypeVar

import numpy as np

from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.limits import Limits

Role = Literal["key", "fill", "separation", "background"]
# Lamps that light what is exposed for; the others light its edge, or what stands behind it.
ON_SUBJECT = ("key", "fill")
# Between what each should lie, stops above the key: names of numbers of judgement.
WANTED: Mapping[str, Callable[[Limits], tuple[float, float]]] = {
    "fill": lambda limits: (limits.fill_from_stops, limits.fill_to_stops),
    "separation": lambda limits: (limits.separation_from_stops, limits.separation_to_stops),
    "background": lambda limits: (limits.background_from_stops, limits.background_to_stops),
}


class Stands(Protocol):
    """A lamp as it stands."""

    @property
    def lux(self) -> float:
        """Light where it is aimed, lux."""

    @property
    def role(self) -> Role | None:
        """What it is there for, if that is said."""


T = TypeVar("T", bound=Stands)


class Ratio(Frozen):
    """One lamp against the key: what is wanted and what is reached, stops above it."""

    number: int  # of the lamp, from 1
    role: Role
    stops: float
    wanted: tuple[float, float]

    @property
    def off_stops(self) -> float:
        """How far it is from what is wanted: above as positive, below as negative numbers."""
        low, high = self.wanted
        return self.stops - high if self.stops > high else min(0.0, self.stops - low)


def key_of(lamps: Sequence[T]) -> T:
    """The key: the lamp that is said to be it, else the strongest that lights the subject. lamps: at least one."""
    said = [lamp for lamp in lamps if lamp.role == "key"]
    return max(said or on_subject(lamps), key=lambda lamp: lamp.lux)


def on_subject(lamps: Sequence[T]) -> list[T]:
    """Lamps that light what is exposed for; all of them where none is said to."""
    return [lamp for lamp in lamps if lamp.role is None or lamp.role in ON_SUBJECT] or list(lamps)


def ratios(lamps: Sequence[Stands], limits: Limits) -> tuple[Ratio, ...]:
    """Every lamp with a role against the key.

    lamps: as they stand; limits: what is wanted, stops above the key, by role. Returns ratios, in the order of the
    lamps; none for the key itself and for lamps without a role.
    """
    if not lamps:
        return ()
    key = key_of(lamps)
    return tuple(
        Ratio(
            number=number,
            role=lamp.role,
            stops=float(np.log2(lamp.lux / key.lux)),
            wanted=WANTED[lamp.role or ""](limits),
        )
        for number, lamp in enumerate(lamps, 1)
        if lamp.role in WANTED and lamp is not key
    )
