"""The kinds of light a brief can name, and the band each comes to.

A kind is one model and one branch of `resolve`; the unions at the end are what a brief accepts.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Annotated, Any, Literal

import numpy as np
from pydantic import BeforeValidator, Discriminator, Field, Tag, model_validator

from steady_tide.core.errors import BadBrief, Fault
from steady_tide.core.frozen import Frozen
from steady_tide.core.light.balance import apart_mireds, balance_through_k, usual_balance_k
from steady_tide.core.light.roles import Role, key_of, on_subject
from steady_tide.core.light.sky import (
    LONGEST,
    Cloud,
    Shade,
    SkyStops,
    positions,
    sky_balance_k,
    sky_contrast_stops,
    sky_lux,
)
from steady_tide.core.light.water import (
    DIFFUSE_REFLECTION,
    LUMINANCE,
    Waters,
    WaterType,
    lamp_reach_m,
    passed,
    red_gone_m,
    seen_through,
    surface_reflection,
)
from steady_tide.core.moments import checked_moment
from steady_tide.core.stops import ev100_from_lux, lux_from_ev100, read_seconds, scene_ev100

LOWEST_EV100, HIGHEST_EV100 = -12.0, 20.0
Ev = Annotated[float, Field(ge=LOWEST_EV100, le=HIGHEST_EV100)]
Lux = Annotated[float, Field(ge=1e-4, le=2_000_000)]
Kelvin = Annotated[int, Field(ge=1500, le=20_000)]
Share = Annotated[float, Field(ge=0, le=1)]


class Place(Frozen):
    """A kind of place whose light is known from experience."""

    id: str
    name: str
    ev100: tuple[float, float]
    balance_k: tuple[int, int]
    ripple: Share = 0.0
    contrast_stops: Annotated[float, Field(ge=0, le=25)] = 9.0
    dark: bool = False
    sudden: bool = False
    sunlit: bool = False


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
    start: datetime
    end: datetime
    cloud: Cloud = "clear"
    shade: Shade = "open"

    @model_validator(mode="after")
    def _a_span_of_a_person(self) -> SkyLight:
        start, end = _in_utc(self.start), _in_utc(self.end)  # within reach both
        if end < start:
            raise ValueError("the span ends before it starts; give the earlier time as start")
        if end - start > LONGEST:
            raise ValueError("the span is longer than two days; give the hours of the take")
        return self


def _in_utc(at: datetime) -> datetime:
    """A time without a zone is read as UTC. Raises ValueError where it is out of reach."""
    return checked_moment(at if at.tzinfo else at.replace(tzinfo=UTC)).astimezone(UTC)


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


class Light(Frozen):
    """The light that a take will meet, from its dimmest to its brightest moment.

    colour_stops: red, green and blue against the strongest of them, at the dim and the bright end;
    red_left: share of the surface's red that is left there.
    """

    ev100: tuple[float, float]
    balance_k: tuple[int, int]
    ripple: float
    dark: bool
    source: Source
    colour_stops: tuple[tuple[float, float, float], tuple[float, float, float]] = ((0, 0, 0), (0, 0, 0))
    red_left: tuple[float, float] = (1.0, 1.0)
    night_sky: bool = False
    deepest_m: float | None = None
    red_gone_m: float | None = None
    lamp_reach_m: float | None = None
    lamps: tuple[Lamp, ...] = ()
    lamp_share: float = 0.0
    surface_balance_k: tuple[int, int] | None = None  # of water whose light comes from above
    veil_stops: float = 0.0  # of contrast that the water between takes
    contrast_stops: float = 9.0  # within one frame
    sudden: bool = False  # it jumps within its band
    sunlit: bool = False  # the sun shines on camera and subject
    night_dive: bool = False
    mixed_mireds: float = 0.0  # how far its lamps, and the other light beside them, differ in colour

    @property
    def cast_stops(self) -> float:
        """How far the bands stand apart at the dim end. Returns stops."""
        return max(self.colour_stops[0]) - min(self.colour_stops[0])

    @property
    def drift_stops(self) -> float:
        """How far the colour moves between the ends of the light. Returns stops."""
        return max(abs(dim - bright) for dim, bright in zip(*self.colour_stops, strict=True))


@dataclass(frozen=True)
class World:
    """What is known of places, skies and waters."""

    places: dict[str, Place]
    sky: SkyStops
    waters: Waters


# Below this a scene counts as dark; source: the place table.
DARK_BELOW_EV100 = 6.5
# The side of a lit thing that turns away from the lamp, against the side that faces it.
MODELLING_STOPS = 1.0


def resolve(light: Any, world: World, distance_m: tuple[float, float] = (1.0, 1.0)) -> Light:
    """Work out the band of a brief's light.

    light: the light token of a brief; world: places, skies and waters; distance_m: from subject to
    lens, nearest and farthest, metres (water takes light along it).
    Returns the band with the white balance that suits it, kelvin, lamp ripple and colour.
    Raises BadBrief where a place or a water is not known, or a reading comes to no light there is.
    """
    if isinstance(light, WaterLight):
        return _under_water(light, world, distance_m)
    if isinstance(light, LampLight):
        return _lit(light, world)
    if isinstance(light, SkyLight):
        return _open_sky(light, world)
    if isinstance(light, PlaceLight):
        place = world.places.get(light.place)
        if place is None:
            raise BadBrief(
                Fault(
                    "light.place", f"there is no place called '{light.place}'", f"Use one of {', '.join(world.places)}."
                )
            )
        return Light(
            ev100=place.ev100,
            balance_k=place.balance_k,
            ripple=place.ripple,
            dark=place.dark,
            source={"code": "place", "name": place.name},
            night_sky=place.id == "starlight",
            contrast_stops=place.contrast_stops,
            sudden=place.sudden,
            sunlit=place.sunlit,
        )
    if isinstance(light, ReadingLight):
        found = sorted(float(scene_ev100(r.f_number, r.shutter_s, r.iso, r.nd_stops)) for r in light.readings)
        low, high = found[0], found[-1]
        if low < LOWEST_EV100 or high > HIGHEST_EV100:
            wrong = low if low < LOWEST_EV100 else high
            raise BadBrief(
                Fault(
                    "light.readings",
                    f"a reading comes to EV {wrong:.1f}, which no scene has",
                    "Check aperture, exposure, ISO and glass.",
                )
            )
        return _measured(low, high, None, "reading", world.sky)
    low, high = light.ev100 if light.ev100 is not None else (_ev(value) for value in light.lux)
    return _measured(low, high, light.balance_k, "meter", world.sky)


def _ev(lux: float) -> float:
    return float(np.clip(ev100_from_lux(max(lux, 1e-6)), LOWEST_EV100, HIGHEST_EV100))


def _measured(low: float, high: float, kelvin: int | None, source: str, sky: SkyStops) -> Light:
    readings, contrast = np.array(sky.contrast_by_ev).T
    return Light(
        ev100=(low, high),
        balance_k=(kelvin, kelvin) if kelvin is not None else usual_balance_k(low, high),
        ripple=0.0,
        dark=(low + high) / 2.0 < DARK_BELOW_EV100,
        source={"code": source},
        contrast_stops=float(np.interp((low + high) / 2.0, readings, contrast)),
        sunlit=high >= sky.sunlit_from_ev100,
    )


SUN_WARMS_DEG = 5.0  # lower it warms nothing


def _open_sky(light: SkyLight, world: World) -> Light:
    start = _in_utc(light.start)
    now = positions(light.latitude, light.longitude, start, _in_utc(light.end))
    low, high = sky_lux(now, light.cloud, light.shade, world.sky)
    # Eyes and cameras find more under the stars than the horizontal figure says: the sky itself glows.
    floor = world.places["starlight"].ev100 if "starlight" in world.places else (LOWEST_EV100, LOWEST_EV100)
    ev100 = (max(_ev(low), floor[0]), max(_ev(high), floor[1]))
    return Light(
        ev100=ev100,
        balance_k=sky_balance_k(now, light.cloud, light.shade),
        ripple=0.0,
        dark=sum(ev100) / 2.0 < DARK_BELOW_EV100,
        source={
            "code": "sky",
            "start": (light.start if light.start.tzinfo else start).isoformat(),
            "cloud": light.cloud,
            "shade": light.shade,
        },
        night_sky=max(now.sun_deg) < -12.0,
        contrast_stops=sky_contrast_stops(now, light.cloud, light.shade, world.sky),
        sunlit=light.cloud in ("clear", "haze") and light.shade != "full" and max(now.sun_deg) > SUN_WARMS_DEG,
    )


def _lit(light: LampLight, world: World) -> Light:
    """Lamps by inverse square, added up, on top of what else there is; balance is matched to the key."""
    ambient = None if light.ambient is None else resolve(light.ambient, world)
    under = [0.0, 0.0] if ambient is None else [float(lux_from_ev100(ev)) for ev in ambient.ev100]
    key, lit = key_of(light.lamps), on_subject(light.lamps)
    lamps = sum(lamp.lux for lamp in lit)
    far = sum(lamp.far_lux for lamp in lit)
    # The side that turns away from the key gets the fill, where one is said to be there.
    fill = sum(lamp.far_lux for lamp in lit if lamp.role == "fill")
    turned_away = min(far, fill) if fill else far * 2.0**-MODELLING_STOPS
    total = lamps + under[1]
    ripple = (sum(lamp.lux * lamp.ripple for lamp in lit) + (under[1] * ambient.ripple if ambient else 0)) / total
    ev100 = (_ev(turned_away + under[0]), _ev(total))
    balance = (key.kelvin, key.kelvin) if lamps >= under[1] or ambient is None else ambient.balance_k
    colours = [(lamp.lux, (lamp.kelvin, lamp.kelvin)) for lamp in lit]
    if ambient is not None:
        colours.append((under[1], ambient.balance_k))
    return Light(
        ev100=ev100,
        balance_k=balance,
        ripple=ripple,
        dark=False,
        source={"code": "lamps", "count": len(light.lamps), "ambient": ambient.source if ambient else None},
        lamps=light.lamps,
        lamp_share=lamps / total,
        contrast_stops=world.sky.contrast_by_lamps,
        mixed_mireds=apart_mireds(colours, total),
    )


def water_type(light: WaterLight, waters: Waters) -> WaterType:
    """The type of water that a light names. Raises BadBrief where it is not known."""
    found = waters.types.get(light.water_type)
    if found is None:
        raise BadBrief(
            Fault(
                "light.water_type",
                f"there is no water type '{light.water_type}'",
                f"Use one of {', '.join(waters.types)}.",
            )
        )
    return found


def _under_water(light: WaterLight, world: World, distance_m: tuple[float, float]) -> Light:
    """Surface light less what surface and water take, by band, plus the lamps there and back."""
    water = water_type(light, world.waters)
    surface = resolve(light.surface, world)
    reflected, sun_deg = DIFFUSE_REFLECTION, 90.0
    if isinstance(light.surface, SkyLight) and light.surface.cloud in ("clear", "haze"):
        now = positions(
            light.surface.latitude, light.surface.longitude, _in_utc(light.surface.start), _in_utc(light.surface.end)
        )
        sun_deg = max(0.0, *now.sun_deg)
        reflected = surface_reflection(90.0 - sun_deg)
    near, far = distance_m
    seen = np.array([np.sqrt(near * far), near])  # the dim end is farther away, too
    depths = np.array([light.depth_m[1], light.depth_m[0]])
    passing = np.array([float(lux_from_ev100(ev)) for ev in surface.ev100])[:, None] * (1.0 - reflected)
    through = seen_through(world.waters, water, depths, seen, sun_deg)
    daylight = passing * through.bands
    lamps = np.zeros((2, 3))
    for lamp in light.lamps:
        for end, (lux_there, metres) in enumerate(((lamp.far_lux, lamp.farthest_m), (lamp.lux, lamp.distance_m))):
            lamps[end] += lux_there * passed(world.waters, water, np.array(2.0 * metres))
    bands = daylight + lamps
    lux = bands @ LUMINANCE
    share = float((lamps @ LUMINANCE / lux)[0]) if light.lamps else 0.0
    stops = np.log2(np.maximum(bands, 1e-9) / np.maximum(bands, 1e-9).max(axis=1, keepdims=True))
    if share >= 0.5:
        key = max(light.lamps, key=lambda lamp: lamp.lux)
        balance = (key.kelvin, key.kelvin)
    else:
        balance = balance_through_k(surface.balance_k, stops[1][2] - stops[1][0])
    return Light(
        ev100=(_ev(float(lux[0])), _ev(float(lux[1]))),
        balance_k=balance,
        ripple=surface.ripple * (1.0 - share) + _ripple_of(light.lamps) * share,
        dark=False,
        source={"code": "water", "name": water.name, "surface": surface.source},
        colour_stops=(_three(stops[0]), _three(stops[1])),
        red_left=(float(through.subject[0, 0]), float(through.subject[1, 0])),
        veil_stops=float(-np.log2(max(1e-6, through.contrast_left[0]))) * (1.0 - share),
        deepest_m=light.depth_m[1],
        red_gone_m=red_gone_m(world.waters, water),
        lamp_reach_m=lamps_reach_m(light, world) if light.lamps else None,
        lamps=light.lamps,
        lamp_share=share,
        surface_balance_k=None if share >= 0.5 else surface.balance_k,
        contrast_stops=world.sky.contrast_under_water,
        night_dive=surface.ev100[1] < DARK_BELOW_EV100 and surface.ripple == 0.0,
    )


def lamps_reach_m(light: WaterLight, world: World) -> float:
    """How far the lamps taken down are of use, metres. light: with lamps; world: the tables."""
    water = water_type(light, world.waters)
    return lamp_reach_m(world.waters, water, sum(lamp.lux_at_1m * lamp.output for lamp in light.lamps))


def _ripple_of(lamps: tuple[Lamp, ...]) -> float:
    """Ripple of lamps together, 0 without any."""
    lux = sum(lamp.lux for lamp in lamps)
    return sum(lamp.lux * lamp.ripple for lamp in lamps) / lux if lamps else 0.0


def _three(values: Any) -> tuple[float, float, float]:
    red, green, blue = (float(value) for value in values)
    return (red, green, blue)


def has_sky(light: LightSource | None) -> bool:
    """Whether the sky of the day lights a shot. light: of its brief."""
    if isinstance(light, WaterLight):
        return has_sky(light.surface)
    if isinstance(light, LampLight):
        return has_sky(light.ambient)
    return isinstance(light, SkyLight)


def lit_by_day(light: LightSource | None) -> bool:
    """Whether the day's own light falls on a shot: its sky, or a place in the sun. light: of its brief."""
    if isinstance(light, WaterLight):
        return lit_by_day(light.surface)
    if isinstance(light, LampLight):
        return lit_by_day(light.ambient)
    return has_sky(light) or (isinstance(light, PlaceLight) and light.place in DAYLIT_PLACES)


# Places that the day lights: their shots stand on the curve of the day.
DAYLIT_PLACES = ("full_sun", "snow_or_sand_in_sun", "open_shade", "bright_cloud", "dull_day", "sunset", "car_by_day")
