"""The packaged gazetteer, and the time zone of any position."""

from __future__ import annotations

import lzma
from functools import cache
from pathlib import Path
from typing import TYPE_CHECKING

from steady_tide.core.shoot.positions import Town, plain_name

if TYPE_CHECKING:
    from timezonefinder import TimezoneFinder

FILE = Path(__file__).parent / "towns.tsv.xz"


@cache
def towns() -> tuple[Town, ...]:
    """Towns of 15,000 people and more, largest first. Returns the same value each time; the first takes a second."""
    found = []
    for line in lzma.decompress(FILE.read_bytes()).decode().splitlines():
        name, country, latitude, longitude, zone, others = line.split("\t")
        called = (plain_name(name), *(plain_name(other) for other in others.split("|") if other))
        found.append(Town(name, country, float(latitude), float(longitude), zone, called))
    return tuple(found)


@cache
def _finder() -> TimezoneFinder:
    from timezonefinder import TimezoneFinder  # loaded when the first zone is asked for

    return TimezoneFinder()


def zone_at(latitude: float, longitude: float) -> str:
    """The time zone of a position, also at sea. latitude, longitude: degrees. Returns its name."""
    return _finder().timezone_at(lat=latitude, lng=longitude) or "UTC"
