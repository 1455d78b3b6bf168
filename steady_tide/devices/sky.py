"""A service that knows the clouds to come: the interface, and what it answers."""

from __future__ import annotations

from datetime import datetime
from typing import Protocol

from steady_tide.core.light.day import HourOfSky
from steady_tide.core.quantities.frozen import Frozen


class Forecast(Frozen):
    """Clouds by the hour, who says so, and since when."""

    source: str
    made_at: datetime
    hours: tuple[HourOfSky, ...]


class SkyService(Protocol):
    """Whoever can be asked for a forecast."""

    def forecast(self, latitude: float, longitude: float, start: datetime, end: datetime) -> Forecast:
        """Clouds of a span. start, end: aware. Raises DeviceSilent where there is no answer."""
        ...
