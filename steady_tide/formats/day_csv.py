"""The light of a day as CSV."""

from __future__ import annotations

import csv
from datetime import timedelta, tzinfo
from io import StringIO

from steady_tide.core.light.day import DayOfLight

COLUMNS = ("time", "sun_deg", "moon_deg", "level_ev100", "facing_ev100", "kelvin")


def write_day_csv(day: DayOfLight, zone: tzinfo) -> str:
    """Write a day. day: the light; zone: of the place, for the times. Returns text with a heading line."""
    text = StringIO()
    rows = csv.writer(text, lineterminator="\n")
    rows.writerow(COLUMNS)
    for n, seconds in enumerate(day.seconds.tolist()):
        moment = (day.start + timedelta(seconds=seconds)).astimezone(zone)
        rows.writerow(
            (
                moment.isoformat(timespec="seconds"),
                f"{day.sun_deg[n]:.2f}",
                f"{day.moon_deg[n]:.2f}",
                f"{day.level_ev100[n]:.2f}",
                f"{day.facing_ev100[n]:.2f}",
                f"{day.kelvin[n]:.0f}",
            )
        )
    return text.getvalue()
