"""Kinds of shot, and what a brief becomes when it turns into one. What was known of it is kept where it can be."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Annotated, Any, Literal

from pydantic import Field

from steady_tide.core.brief.brief import Brief
from steady_tide.core.brief.traits import Trait
from steady_tide.core.gear.kit import Kit
from steady_tide.core.light.sky import LONGEST
from steady_tide.core.light.sources import (
    Lamp,
    LampLight,
    LightSource,
    Place,
    PlaceLight,
    SkyLight,
    WaterLight,
    lit_by_day,
)
from steady_tide.core.quantities.errors import BadBrief, Fault
from steady_tide.core.quantities.frozen import Frozen


class Scenario(Frozen):
    """A kind of shot as data. What is left out stays as it is in the brief."""

    id: str
    name: str
    hint: str
    traits: tuple[Trait, ...] = ()
    mount: str | None = None
    still: bool = False
    distance_m: tuple[float, float] | None = None
    slow_factor: float | None = None
    least_length_s: float | None = None
    light: Literal["dry", "water", "lamps"] = "dry"
    depth_m: tuple[float, float] = (2.0, 5.0)
    water_type: str = "1C"
    lamp_m: Annotated[float, Field(gt=0)] = 1.0
    dark_place: Annotated[
        str | None, Field(description="the place it begins with where the light at hand is not dark")
    ] = None
    scenes: Annotated[tuple[str, ...], Field(description="scenes of Look that stand for it")] = ()
    telling: Annotated[tuple[str, ...], Field(description="dials that are told apart best, the best first")] = ()
    cares: Annotated[
        dict[str, float], Field(description="how much each kind of fault matters in a take; 1 where it is not named")
    ] = Field(default_factory=dict)


@dataclass(frozen=True)
class SkyHere:
    """What is known of the sky over a shot: where it is, and when it begins."""

    latitude: float
    longitude: float
    starts_at: datetime


def turned(
    brief: Brief,
    scenario: str,
    kit: Kit,
    scenarios: dict[str, Scenario],
    places: dict[str, Place],
    here: SkyHere | None = None,
) -> Brief:
    """What a brief becomes in another scenario, with a light that fits it.

    brief: as it is; scenario: id; kit: lamps to put on a table; scenarios: all that there are; places: whose light is
    known; here: the sky over it, for a film so long that its light changes. Returns another brief. Raises BadBrief where
    there is no such scenario.
    """
    kind = scenarios.get(scenario)
    if kind is None:
        raise BadBrief(Fault("scenario", f"there is no scenario '{scenario}'", f"Use one of {', '.join(scenarios)}."))
    length = max(brief.take.length_s, kind.least_length_s or 0.0)
    changes: dict[str, Any] = {"scenario": scenario, "light": _light(brief.light, kind, kit, places, here, length)}
    if kind.mount is not None:
        travel = {"travel_m_s": 0.0} if kind.still else {}
        changes["camera_move"] = brief.camera_move.model_copy(update={"mount": kind.mount, **travel})
    if kind.distance_m is not None:
        changes["subject"] = brief.subject.model_copy(update={"distance_m": kind.distance_m})
    if kind.slow_factor is not None:
        changes["delivery"] = brief.delivery.model_copy(update={"slow_factor": kind.slow_factor})
    if kind.least_length_s is not None:
        changes["take"] = brief.take.model_copy(update={"length_s": length})
    return brief.model_copy(update=changes)


def _dry(light: LightSource) -> LightSource:
    """The light above water, or besides lamps."""
    if isinstance(light, WaterLight):
        return _dry(light.surface)
    if isinstance(light, LampLight):
        return light.ambient or PlaceLight(kind="place", place="full_sun")
    return light


def _light(
    light: LightSource, kind: Scenario, kit: Kit, places: dict[str, Place], here: SkyHere | None, length_s: float
) -> LightSource:
    if kind.light == "water" and not isinstance(light, WaterLight):
        water = {"surface": _above(_dry(light), places), "depth_m": kind.depth_m, "water_type": kind.water_type}
        return WaterLight.model_validate({"kind": "water", **water, "lamps": ()})
    if kind.light == "lamps" and not isinstance(light, LampLight):
        owned = sorted(kit.lamps, key=lambda lamp: lamp.proof_depth_m > 0)  # those for the dry first
        if not owned:
            return light
        lamp = owned[0]
        standing = Lamp(
            lux_at_1m=lamp.lux_at_1m, distance_m=kind.lamp_m, output=1.0, kelvin=lamp.kelvin, ripple=lamp.ripple
        )
        return LampLight(kind="lamps", lamps=(standing,), ambient=None)
    if kind.light != "dry":
        return light
    dry = _dry(light)
    if kind.dark_place is not None and lit_by_day(dry):
        return PlaceLight(kind="place", place=kind.dark_place)
    if kind.least_length_s is not None and isinstance(dry, PlaceLight) and lit_by_day(dry):
        if here is None:
            return PlaceLight(kind="place", place=CHANGING_PLACE)
        return SkyLight(
            kind="sky",
            latitude=here.latitude,
            longitude=here.longitude,
            start=here.starts_at,
            end=here.starts_at + min(LONGEST, timedelta(seconds=length_s)),
        )
    return dry


CHANGING_PLACE = "sunset"  # a long film is for light that goes; where the sky is not known, the usual one


def _above(light: LightSource, places: dict[str, Place]) -> LightSource:
    """What may fall on open water: no room's light."""
    place = places.get(light.place) if isinstance(light, PlaceLight) else None
    indoors = place is not None and place.sun_deg is None and place.id != "pool_hall"
    return PlaceLight(kind="place", place="full_sun") if indoors else light
