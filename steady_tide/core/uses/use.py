"""A use: a brief with a name, when it fits, and how often it is filmed."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Annotated, Any

from pydantic import Field

from steady_tide.core.brief.brief import Brief, Id
from steady_tide.core.light.sources import LampLight, LightSource, PlaceLight, SkyLight, WaterLight
from steady_tide.core.quantities.frozen import Frozen

UseId = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9_-]{0,59}$")]
PerYear = Annotated[float, Field(ge=0, le=10_000, description="how often it is filmed in a year")]
Name = Annotated[str, Field(min_length=1, max_length=80, pattern=r"^[^\x00]*$")]


class Use(Frozen):
    """What somebody usually films. asks: places whose light is offered when a shot begins with it."""

    id: UseId
    name: Name
    says: Annotated[str, Field(max_length=200, pattern=r"^[^\x00]*$")] = ""
    per_year: PerYear = 10.0
    asks: Annotated[tuple[Id, ...], Field(max_length=12)] = ()
    brief: Brief


def brief_for(use: Use, title: str, light: LightSource | None, mains_hz: int) -> Brief:
    """The brief of a shot that begins with a use. title: of the shot; light: where it is filmed, None as the use has it; mains_hz: there. Water and
    lamps of the use stay: light then falls on the water, or stands beside the lamps. Returns it."""
    changes: dict[str, Any] = {"title": title, "mains_hz": mains_hz}
    if light is not None:
        changes["light"] = _lit(use.brief.light, light)
    return use.brief.model_copy(update=changes)


def _lit(usual: LightSource, light: LightSource) -> LightSource:
    if isinstance(usual, WaterLight) and not isinstance(light, WaterLight):
        return usual.model_copy(update={"surface": light})
    if isinstance(usual, LampLight) and not isinstance(light, LampLight):
        return usual  # one's own lamps are what lights it
    return light


def light_here(
    place: str | None, latitude: float | None, longitude: float | None, at: datetime | None, lasts_s: float
) -> LightSource | None:
    """The light where a shot begins. place: that was chosen; else the sky over a shoot at a time. Returns None where neither is known."""
    if place is not None:
        return PlaceLight(kind="place", place=place)
    if latitude is None or longitude is None or at is None:
        return None
    end = at + timedelta(seconds=min(172_800.0, max(600.0, lasts_s)))
    return SkyLight(kind="sky", latitude=latitude, longitude=longitude, start=at, end=end)
