"""One combination with its price, item by item, and the quantities behind that."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property


@dataclass(frozen=True)
class Choice:
    """One combination: a place in each block of a space."""

    places: tuple[tuple[str, int], ...]

    @classmethod
    def from_places(cls, places: Mapping[str, int]) -> Choice:
        """A choice from places by block."""
        return cls(tuple(sorted(places.items())))

    @cached_property
    def _by_block(self) -> dict[str, int]:
        return dict(self.places)

    def __getitem__(self, block: str) -> int:
        return self._by_block[block]


@dataclass(frozen=True)
class Priced:
    """A combination with what it gives up, in stops by item, and the quantities behind that."""

    choice: Choice
    stops: dict[str, float]
    iso_dim: float
    iso_bright: float
    shutter_dim_s: float
    shutter_bright_s: float
    wanted_shutter_s: float
    snr_dim: float
    smear_px: float
    field_deg: float
    usable_w_px: float
    bits_per_pixel: float
    reach_camera_ev: tuple[float, float]
    power_w: float
    needed_wh: float
    recorded_gb: float
    screen_s: float
    px_per_deg: float

    def given_up(self, weights: Mapping[str, float]) -> float:
        """Weighted sum. weights: by item. Returns stops."""
        return sum(weights[name] * stops for name, stops in self.stops.items())
