"""Moments and days as they come in: from 1900 to 2200, beyond which calendars, skies and databases part ways."""

from __future__ import annotations

from datetime import UTC, date, datetime
from typing import Annotated
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from pydantic import AfterValidator, AwareDatetime, Field

FIRST_YEAR, LAST_YEAR = 1900, 2199  # of coordinated universal time


def is_within(moment: datetime | date) -> bool:
    """Whether a moment, aware, or a day lies within reach."""
    if not FIRST_YEAR - 1 <= moment.year <= LAST_YEAR + 1:
        return False  # so near the ends of the calendar not even the zone can be taken off
    year = moment.astimezone(UTC).year if isinstance(moment, datetime) else moment.year
    return FIRST_YEAR <= year <= LAST_YEAR


def checked_moment(moment: datetime) -> datetime:
    """A moment that is within reach. Raises ValueError."""
    if not is_within(moment):
        raise ValueError(f"the year {moment.year} is out of reach; give one from {FIRST_YEAR} to {LAST_YEAR}")
    return moment


def checked_day(day: date) -> date:
    """A day that is within reach. Raises ValueError."""
    if not is_within(day):
        raise ValueError(f"the year {day.year} is out of reach; give one from {FIRST_YEAR} to {LAST_YEAR}")
    return day


def known_zone(value: str) -> str:
    """Check a time zone. value: its name. Returns it. Raises ValueError where there is none of that name."""
    try:
        ZoneInfo(value)
    except (ZoneInfoNotFoundError, ValueError, OSError):
        raise ValueError(f"there is no time zone '{value}'; give one such as Europe/London") from None
    return value


def in_utc(at: datetime) -> datetime:
    """A time without a zone is read as UTC. Raises ValueError where it is out of reach."""
    return checked_moment(at if at.tzinfo else at.replace(tzinfo=UTC)).astimezone(UTC)


def in_zone(at: datetime, zone: str | None) -> datetime:
    """A moment as a clock at a place has it. at: without a zone of its own it is what that clock shows, else UTC; zone:
    of the place, None where nobody said. Returns it aware, in that zone or in its own."""
    there = ZoneInfo(zone) if zone is not None else None
    if at.tzinfo is None:
        return at.replace(tzinfo=there or UTC)
    return at.astimezone(there) if there is not None else at


Moment = Annotated[AwareDatetime, AfterValidator(checked_moment)]
Day = Annotated[date, AfterValidator(checked_day)]
Zone = Annotated[str, Field(max_length=64), AfterValidator(known_zone)]
