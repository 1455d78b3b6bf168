"""A shot at another time: what the sky gives then."""

from __future__ import annotations

from datetime import timedelta

from steady_tide.core.brief import Brief
from steady_tide.core.light.sources import LampLight, LightSource, SkyLight, WaterLight, has_sky


def moved_brief(brief: Brief, by: timedelta) -> Brief:
    """The same shot at another time: what the sky gives then. brief: of the shot; by: how much later. Returns another."""
    return brief.model_copy(update={"light": _moved(brief.light, by)}) if has_sky(brief.light) else brief


def _moved(light: LightSource, by: timedelta) -> LightSource:
    if isinstance(light, SkyLight):
        return light.model_copy(update={"start": light.start + by, "end": light.end + by})
    if isinstance(light, WaterLight):
        return light.model_copy(update={"surface": _moved(light.surface, by)})
    if isinstance(light, LampLight) and light.ambient is not None:
        return light.model_copy(update={"ambient": _moved(light.ambient, by)})
    return light
