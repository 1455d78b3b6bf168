"""A shot has one time: where the sky lights it, its light begins when it does."""

from __future__ import annotations

from datetime import datetime, timedelta

from steady_tide.core.brief.brief import Brief
from steady_tide.core.light.sources import LampLight, LightSource, SkyLight, WaterLight, has_sky, sky_of
from steady_tide.core.quantities.errors import BadInput, Fault
from steady_tide.core.quantities.moments import checked_moment, in_utc


def moved_brief(brief: Brief, by: timedelta) -> Brief:
    """The same shot at another time: what the sky gives then. brief: of the shot; by: how much later. Returns another."""
    return brief.model_copy(update={"light": _moved(brief.light, by)}) if has_sky(brief.light) and by else brief


def brief_at(brief: Brief, starts_at: datetime) -> Brief:
    """The same shot as it begins at a time: its sky begins then and lasts as long as before.

    brief: of the shot; starts_at: aware. Returns another, or the same where no sky lights it. Raises BadInput where its
    light would end beyond the years that there are.
    """
    sky = sky_of(brief.light)
    if sky is None:
        return brief
    by = in_utc(starts_at) - in_utc(sky.start)
    try:
        checked_moment(in_utc(sky.end) + by)
    except (ValueError, OverflowError):
        raise BadInput(Fault("starts_at", "is so late that its light would end out of reach", LATEST)) from None
    return moved_brief(brief, by)


LATEST = "Give a time before the year 2200, with all of its light."


def one_time(
    brief: Brief, starts_at: datetime | None, kept: tuple[Brief, datetime | None] | None = None
) -> tuple[Brief, datetime | None]:
    """Bring a shot and its sky to one time.

    brief, starts_at: as they are said; kept: both as they were before a change. The start counts; where it was not
    changed but the sky was, or where there is none, the sky's own begin becomes the start. Returns both.
    """
    sky = sky_of(brief.light)
    if sky is None:
        return brief, starts_at
    only_the_sky = kept is not None and starts_at == kept[1] and sky != sky_of(kept[0].light)
    if starts_at is None or only_the_sky:
        return brief, in_utc(sky.start)
    return brief_at(brief, starts_at), starts_at


def _moved(light: LightSource, by: timedelta) -> LightSource:
    if isinstance(light, SkyLight):
        return light.model_copy(update={"start": light.start + by, "end": light.end + by})
    if isinstance(light, WaterLight):
        return light.model_copy(update={"surface": _moved(light.surface, by)})
    if isinstance(light, LampLight) and light.ambient is not None:
        return light.model_copy(update={"ambient": _moved(light.ambient, by)})
    return light
