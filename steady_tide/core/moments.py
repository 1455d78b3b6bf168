"""Moments and days as they come in: from 1900 to 2200, beyond which calendars, skies and databases part ways."""

from __future__ import annotations

from datetime import UTC, date, datetime
from typing import Annotated

from pydantic import AfterValidator, AwareDatetime

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


Moment = Annotated[AwareDatetime, AfterValidator(checked_moment)]
Day = Annotated[date, AfterValidator(checked_day)]
