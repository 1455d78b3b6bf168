"""Times at a place, against Python's own zones."""

from __future__ import annotations

import re
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from hypothesis import given
from hypothesis import strategies as st

Ask = Callable[..., Any]
ZONES = [
    "UTC", "Europe/London", "America/St_Johns", "Asia/Kathmandu", "Pacific/Auckland", "Pacific/Kiritimati",
    "America/New_York", "Australia/Lord_Howe", "Africa/Casablanca",
]  # fmt: skip
MOMENTS = st.datetimes(datetime(1970, 1, 2), datetime(2037, 12, 30)).map(
    lambda at: at.replace(second=0, microsecond=0, tzinfo=UTC)
)


def iso(at: datetime) -> str:
    return at.astimezone(UTC).strftime("%Y-%m-%dT%H:%M:%SZ")


@given(MOMENTS, st.sampled_from(ZONES))
def test_a_moment_is_told_on_the_clock_of_its_place(ask: Ask, at: datetime, zone: str) -> None:
    local = at.astimezone(ZoneInfo(zone))
    assert ask("localTime", iso(at), zone) == local.strftime("%Y-%m-%dT%H:%M")
    assert ask("hourOf", iso(at), zone) == local.strftime("%H:%M")
    assert ask("clock", iso(at), zone) == local.strftime("%H:%M")


@given(MOMENTS, st.sampled_from(ZONES))
def test_a_local_time_means_a_moment_that_is_told_so_again(ask: Ask, at: datetime, zone: str) -> None:
    local = ask("localTime", iso(at), zone)
    again = ask("momentOf", local, zone)
    # Where the clock was put back, the same time is there twice.
    assert ask("localTime", again, zone) == local
    assert abs(datetime.fromisoformat(again) - at) in (timedelta(0), timedelta(minutes=30), timedelta(hours=1))


@given(MOMENTS, st.sampled_from(ZONES), st.integers(0, 23))
def test_the_next_time_on_a_clock_is_later_and_within_a_day(ask: Ask, at: datetime, zone: str, hour: int) -> None:
    found = ask("nextAt", f"{hour:02}:00", iso(at), zone)
    after = datetime.fromisoformat(found) - at
    assert timedelta(0) < after <= timedelta(hours=26)


@given(MOMENTS, st.sampled_from(ZONES), st.sampled_from(ZONES))
def test_the_same_clock_at_another_place(ask: Ask, at: datetime, here: str, there: str) -> None:
    moved = ask("sameClock", iso(at), here, there)
    said = ask("localTime", iso(at), here)
    told = ask("localTime", moved, there)
    # An hour that a clock leaves out in spring is told as the one after it.
    gap = datetime.fromisoformat(told) - datetime.fromisoformat(said)
    assert gap in (timedelta(0), timedelta(minutes=30), timedelta(hours=1), timedelta(hours=-1))


@given(MOMENTS, st.integers(1, 60 * 60), st.sampled_from(ZONES))
def test_a_span_says_both_days_where_it_ends_on_another(ask: Ask, at: datetime, minutes: int, zone: str) -> None:
    end = at + timedelta(minutes=minutes)
    first, last = at.astimezone(ZoneInfo(zone)), end.astimezone(ZoneInfo(zone))
    told = ask("spanWords", iso(at), iso(end), zone)
    assert f"{first:%H:%M}" in told
    assert f"{last:%H:%M}" in told
    assert bool(re.search(rf"\b{last.day} [A-Z]", told)) == (first.date() != last.date())
