"""Light windows of a day as iCalendar."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, datetime
from uuid import NAMESPACE_URL, uuid5

from icalendar import Calendar, Event

from steady_tide.core.light.day import Window

NAMES = {
    "civil": "Civil twilight",
    "low_sun": "Low sun",
    "harsh": "Harsh sun",
    "moon": "Moon up",
}


def write_windows_ics(title: str, place: str, windows: Sequence[Window], made_at: datetime) -> bytes:
    """Write the windows that people plan by.

    title, place: of the shoot; windows: of its day; made_at: aware, the stamp of the file. Returns the
    file. Times are written in UTC, which every calendar turns into its own zone.
    """
    calendar = Calendar()
    calendar.add("prodid", "-//Steady Tide//light windows//EN")
    calendar.add("version", "2.0")
    for window in windows:
        if window.kind not in NAMES:
            continue
        event = Event()
        event.add("summary", f"{NAMES[window.kind]}, {title}")
        event.add("dtstart", window.start.astimezone(UTC).replace(microsecond=0))
        event.add("dtend", window.end.astimezone(UTC).replace(microsecond=0))
        event.add("dtstamp", made_at.astimezone(UTC).replace(microsecond=0))
        event.add("uid", str(uuid5(NAMESPACE_URL, f"{title}/{window.kind}/{window.start.isoformat()}")))
        if place:
            event.add("location", place)
        calendar.add_component(event)
    return bytes(calendar.to_ical())
