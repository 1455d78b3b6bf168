"""The kinds of light a brief can name.

A kind is one model here and one branch of `resolve`; the unions at the end are what a brief accepts.
"""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import BeforeValidator, Discriminator, Field, Tag, model_validator

from steady_tide.core.light.roles import Role
from steady_tide.core.light.sky import (
    LONGEST,
    Cloud,
    Shade,
)
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.moments import Zone, in_utc, in_zone
from steady_tide.core.quantities.stops import read_seconds

LOWEST_EV100, HIGHEST_EV100 = -12.0, 20.0
Ev = Annotated[float, Field(ge=LOWEST_EV100, le=HIGHEST_EV100)]
Lux = Annotated[float, Field(ge=1e-4, le=2_000_000)]
Kelvin = Annotated[int, Field(ge=1500, le=20_000)]
Share = Annotated[float, Field(ge=0, le=1)]


class Place(Frozen):
    """A kind of place whose light is known from experience."""

    id: str
    name: str
    phrase: Annotated[str, Field(description="the name as a sentence says it")]
    ev100: tuple[float, float]
    balance_k: tuple[int, int]
    ripple: Share = 0.0
    contrast_stops: Annotated[float, Field(ge=0, le=25)] = 9.0
    dark: bool = False
    sudden: bool = False
    sunlit: bool = False
    indoors: bool = False
    sun_deg: Annotated[tuple[float, float] | None, Field(description="the sun's altitudes with such light")] = None
    evening: Annotated[bool, Field(description="only while the sun sinks, from noon to midnight")] = False
    moon: Annotated[Literal["up", "down"] | None, Field(description="of light that the moon makes, or would spoil")] = (
        None
    )


class Reading(Frozen):
    """What a camera on automatic shows when pointed at the scene."""

    f_number: Annotated[float, Field(gt=0.5, le=64)]
    shutter_s: Annotated[float, BeforeValidator(read_seconds), Field(ge=1e-5, le=3600)]
    iso: Annotated[float, Field(ge=1, le=1_000_000)]
    nd_stops: Annotated[float, Field(ge=0, le=20)] = 0.0


class MeterLight(Frozen):
    """A measured band, from a light meter: lux or EV at ISO 100, dimmest first."""

    kind: Literal["meter"]
    lux: tuple[Lux, Lux] | None = None
    ev100: tuple[Ev, Ev] | None = None
    balance_k: Kelvin | None = None

    @model_validator(mode="after")
    def _one_band_the_right_way_up(self) -> MeterLight:
        if (self.lux is None) == (self.ev100 is None):
            raise ValueError("give either lux or ev100, the dimmest first")
        low, high = self.lux or self.ev100 or (0.0, 0.0)
        if low > high:
            raise ValueError(f"the band is upside down: {low:g} is more than {high:g}; give the dimmest first")
        return self


class ReadingLight(Frozen):
    """One reading, or two for the dimmest and the brightest part, in any order."""

    kind: Literal["reading"]
    readings: Annotated[tuple[Reading, ...], Field(min_length=1, max_length=2)]


class PlaceLight(Frozen):
    """A named place."""

    kind: Literal["place"]
    place: Annotated[str, Field(min_length=1, max_length=60)]


class SkyLight(Frozen):
    """The open sky at a place, over a span of time."""

    kind: Literal["sky"]
    latitude: Annotated[float, Field(ge=-90, le=90)]
    longitude: Annotated[float, Field(ge=-180, le=180)]
    place: Annotated[
        str | None, Field(max_length=120, pattern=r"^[^\x00]*$", description="what it is called, such as a town")
    ] = None
    zone: Annotated[Zone | None, Field(description="time zone of the place, in which its times are told")] = None
    start: datetime
    end: datetime
    cloud: Cloud = "clear"
    shade: Shade = "open"

    @model_validator(mode="after")
    def _a_span_of_a_person(self) -> SkyLight:
        if self.zone is not None:  # what names no zone of its own is what the clock there shows
            for name in ("start", "end"):
                object.__setattr__(self, name, in_zone(getattr(self, name), self.zone))
        start, end = in_utc(self.start), in_utc(self.end)  # within reach both
        if end < start:
            raise ValueError("the span ends before it starts; give the earlier time as start")
        if end - start > LONGEST:
            raise ValueError("the span is longer than two days; give the hours of the take")
        return self


class Lamp(Frozen):
    """A lamp as it stands: its light at a metre, how far from the subject, and how much of it is on."""

    lux_at_1m: Annotated[float, Field(ge=0.01, le=10_000_000)]
    distance_m: Annotated[float, Field(gt=0.01, le=1000)] = 1.0
    output: Annotated[float, Field(ge=0.001, le=1)] = 1.0
    far_m: Annotated[
        float | None,
        Field(gt=0.01, le=1000, description="of a lamp that travels with the camera: from the farthest subject"),
    ] = None
    kelvin: Kelvin = 5500
    ripple: Share = 0.0
    role: Annotated[
        Role | None,
        Field(description="what it is there for; left out: the strongest is the key, the others fill"),
    ] = None

    ours: Annotated[
        bool | None,
        Field(
            description="whether the crew may move it and turn it; left out: at a lit table, under water, and where the kit "
            "has such a lamp"
        ),
    ] = None

    @model_validator(mode="after")
    def _near_before_far(self) -> Lamp:
        if self.far_m is not None and self.far_m < self.distance_m:
            raise ValueError(f"far_m ({self.far_m:g} m) is nearer than distance_m ({self.distance_m:g} m)")
        return self

    @property
    def lux(self) -> float:
        """Light that reaches the subject through air, lux: inverse square of the distance."""
        return self.lux_at_1m * self.output / self.distance_m**2

    @property
    def farthest_m(self) -> float:
        """How far it is from what it lights least."""
        return self.distance_m if self.far_m is None else self.far_m

    @property
    def far_lux(self) -> float:
        """Light on what it lights least, lux."""
        return self.lux_at_1m * self.output / self.farthest_m**2


Lamps = Annotated[tuple[Lamp, ...], Field(max_length=20)]


def _tag(value: object) -> str | None:
    kind = value.get("kind") if isinstance(value, dict) else getattr(value, "kind", None)
    return f"kind:{kind}"


_Meter = Annotated[MeterLight, Tag("kind:meter")]
_Reading = Annotated[ReadingLight, Tag("kind:reading")]
_Place = Annotated[PlaceLight, Tag("kind:place")]
_Sky = Annotated[SkyLight, Tag("kind:sky")]
# What lamps may stand upon, and what may fall on water: no lamps in lamps, no water in water.
DryLight = Annotated[_Meter | _Reading | _Place | _Sky, Discriminator(_tag)]


class LampLight(Frozen):
    """Lamps, alone or with another light besides."""

    kind: Literal["lamps"]
    lamps: Annotated[tuple[Lamp, ...], Field(min_length=1, max_length=20)]
    ambient: DryLight | None = None


_Lamps = Annotated[LampLight, Tag("kind:lamps")]
SurfaceLight = Annotated[_Meter | _Reading | _Place | _Sky | _Lamps, Discriminator(_tag)]


class WaterLight(Frozen):
    """Under water: what falls on the surface, how deep, which water, and the lamps taken down."""

    kind: Literal["water"]
    surface: SurfaceLight
    depth_m: tuple[Annotated[float, Field(ge=0, le=300)], Annotated[float, Field(ge=0, le=300)]]
    water_type: Annotated[str, Field(min_length=1, max_length=20)]
    lamps: Lamps = ()

    @model_validator(mode="after")
    def _shallow_before_deep(self) -> WaterLight:
        if self.depth_m[0] > self.depth_m[1]:
            raise ValueError(
                f"depth_m is upside down: {self.depth_m[0]:g} m is deeper than {self.depth_m[1]:g} m; give the shallower first"
            )
        return self


# What a brief accepts as its light.
LightSource = Annotated[
    _Meter | _Reading | _Place | _Sky | _Lamps | Annotated[WaterLight, Tag("kind:water")], Discriminator(_tag)
]


# Where light comes from: its code and what names it.
Source = dict[str, Any]


def sky_of(light: LightSource | None) -> SkyLight | None:
    """The sky that lights a shot, alone, on water or besides lamps. light: of its brief. Returns None without one."""
    if isinstance(light, WaterLight):
        return sky_of(light.surface)
    if isinstance(light, LampLight):
        return sky_of(light.ambient)
    return light if isinstance(light, SkyLight) else None


def has_sky(light: LightSource | None) -> bool:
    """Whether the sky of the day lights a shot. light: of its brief."""
    return sky_of(light) is not None


def has_lamps(light: LightSource) -> bool:
    """Whether lamps light a shot, too. light: of its brief."""
    return isinstance(light, LampLight) or (
        isinstance(light, WaterLight) and (bool(light.lamps) or has_lamps(light.surface))
    )


def lit_by_day(light: LightSource | None) -> bool:
    """Whether the day's own light falls on a shot: its sky, or a place in the sun. light: of its brief."""
    if isinstance(light, WaterLight):
        return lit_by_day(light.surface)
    if isinstance(light, LampLight):
        return lit_by_day(light.ambient)
    return has_sky(light) or (isinstance(light, PlaceLight) and light.place in DAYLIT_PLACES)


# Places that the day lights: their shots stand on the curve of the day.
DAYLIT_PLACES = ("full_sun", "snow_or_sand_in_sun", "open_shade", "bright_cloud", "dull_day", "sunset", "car_by_day")
