"""A simulated forecast: clouds that come and go by the hour, the same each time for the same place and day."""

from __future__ import annotations

import random
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from steady_tide.core.light.day import HourOfSky
from steady_tide.core.light.sky import Cloud
from steady_tide.core.quantities.errors import DeviceSilent
from steady_tide.devices.sky import Forecast

SKIES: tuple[Cloud, ...] = ("clear", "haze", "bright_cloud", "overcast", "storm")
RENEWED_EVERY = timedelta(hours=6)
FARTHEST = timedelta(days=400)


@dataclass(frozen=True)
class SimulatedSky:
    """Answers like a forecast service would. away: as if it could not be reached."""

    away: bool = False

    def forecast(self, latitude: float, longitude: float, start: datetime, end: datetime) -> Forecast:
        """Clouds of a span, as the interface says."""
        if self.away:
            raise DeviceSilent("The sky service does not answer. Choose the sky yourself, or try later.")
        now = datetime.now(UTC)
        if abs(start - now) > FARTHEST:
            raise DeviceSilent("The sky service knows nothing of a day so far away. Choose the sky yourself.")
        chance = random.Random(f"{latitude:.1f} {longitude:.1f} {start:%Y-%m-%d}")
        sky, hours, moment = chance.choice((0, 0, 1, 2, 2)), [], start
        while moment < end:
            hours.append(HourOfSky(start=moment, cloud=SKIES[sky]))
            sky = min(max(sky + chance.choice((-1, 0, 0, 0, 1)), 0), len(SKIES) - 2)
            moment += timedelta(hours=1)
        # As a service would, it renews its forecast a few times a day.
        made = now - timedelta(seconds=(now.timestamp() % RENEWED_EVERY.total_seconds()))
        return Forecast(source="simulated forecast", made_at=made, hours=tuple(hours))
