"""The call sheet of a day as iCalendar: one event a shot."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, datetime, timedelta
from uuid import NAMESPACE_URL, uuid5

from icalendar import Calendar, Event

from steady_tide.core.quantities.frozen import Frozen


class Call(Frozen):
    """One shot of the call sheet."""

    title: str
    starts_at: datetime
    lasts_s: float
    spot: str = ""
    camera: str = ""
    sheet: str = ""
    people: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()


def write_call_sheet(title: str, place: str, calls: Sequence[Call], made_at: datetime) -> bytes:
    """Write a call sheet.

    title, place: of the shoot; calls: its shots that have a start; made_at: aware, the stamp of the file.
    Returns the file, times in UTC, which every calendar turns into its own zone.
    """
    calendar = Calendar()
    calendar.add("prodid", "-//Steady Tide//call sheet//EN")
    calendar.add("version", "2.0")
    for number, call in enumerate(calls):
        event = Event()
        event.add("summary", f"{call.title} ({call.camera})" if call.camera else call.title)
        start = call.starts_at.astimezone(UTC).replace(microsecond=0)
        event.add("dtstart", start)
        event.add("dtend", start + timedelta(seconds=max(60.0, call.lasts_s)))
        event.add("dtstamp", made_at.astimezone(UTC).replace(microsecond=0))
        event.add("uid", str(uuid5(NAMESPACE_URL, f"{title}/{number}/{call.title}/{start.isoformat()}")))
        where = ", ".join(part for part in (call.spot, place) if part)
        if where:
            event.add("location", where)
        told = [call.sheet, ", ".join(call.people), *(f"Safety. {caution}" for caution in call.cautions)]
        event.add("description", "\n".join(part for part in told if part))
        calendar.add_component(event)
    return bytes(calendar.to_ical())
