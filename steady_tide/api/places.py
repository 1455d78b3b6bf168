"""Where something is: towns by name, and positions as people write them, with their time zone."""

from __future__ import annotations

from typing import Annotated

from fastapi import Query
from pydantic import BaseModel

from steady_tide.api.station import station
from steady_tide.core.shoot.positions import LONGEST_TEXT, find_towns, position_words, read_position
from steady_tide.library.gazetteer import towns, zone_at

router = station("light")


class FoundPlace(BaseModel):
    """A place: a town of the gazetteer, or a position that was typed (its name is then empty)."""

    name: str
    country: str
    says: str  # the position as it is read
    latitude: float
    longitude: float
    zone: str


class FoundPlaces(BaseModel):
    """What was found, the likeliest first."""

    items: list[FoundPlace]
    total: int


@router.get("/places")
def places(
    asked: Annotated[str, Query(max_length=LONGEST_TEXT, description="a name or its beginning, or a position")],
    limit: Annotated[int, Query(ge=1, le=50, description="how many at most")] = 8,
) -> FoundPlaces:
    """Find where something is, without a network. A position comes with its zone, a name with all towns called so."""
    at = read_position(asked)
    if at is not None:
        found = [_place("", "", *at, zone_at(*at))]
    else:
        found = [_place(t.name, t.country, t.latitude, t.longitude, t.zone) for t in find_towns(asked, towns(), limit)]
    return FoundPlaces(items=found, total=len(found))


def _place(name: str, country: str, latitude: float, longitude: float, zone: str) -> FoundPlace:
    said = position_words(latitude, longitude)
    return FoundPlace(name=name, country=country, says=said, latitude=latitude, longitude=longitude, zone=zone)
