"""From what a brief says of its light to what a take will meet: levels, colours, contrast, pulses."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from steady_tide.core.light.balance import apart_mireds, balance_through_k, mixed_balance_k, usual_balance_k
from steady_tide.core.light.roles import on_subject
from steady_tide.core.light.sky import (
    SkyStops,
    positions,
    sky_balance_k,
    sky_contrast_stops,
    sky_lux,
)
from steady_tide.core.light.sources import (
    HIGHEST_EV100,
    LOWEST_EV100,
    Lamp,
    LampLight,
    Place,
    PlaceLight,
    ReadingLight,
    SkyLight,
    Source,
    WaterLight,
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
from steady_tide.core.quantities.errors import BadBrief, Fault
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.moments import in_utc, in_zone
from steady_tide.core.quantities.stops import ev100_from_lux, lux_from_ev100, scene_ev100

# Below this a scene counts as dark; source: the place table.
DARK_BELOW_EV100 = 6.5
# The side of a lit thing that turns away from the lamp, against the side that faces it.
MODELLING_STOPS = 1.0
SUN_WARMS_DEG = 5.0  # lower it warms nothing


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
    surface_balance_k: tuple[int, int] | None = None  # under water: of the light from above, before the water
    lamp_balance_k: tuple[int, int] | None = None  # under water: of the lamps taken down
    veil_stops: float = 0.0  # of contrast that the water between takes
    contrast_stops: float = 9.0  # within one frame
    sudden: bool = False  # it jumps within its band
    sunlit: bool = False  # the sun shines on camera and subject
    night_dive: bool = False
    indoors: bool = False
    changes_stops: float | None = None  # by how much it changes; left out: all of its band
    mixed_mireds: float = 0.0  # how far its lamps, and the other light beside them, differ in colour

    @property
    def usual_contrast_stops(self) -> float:
        """Within one frame, as such light usually has it; water between takes of it. Returns stops."""
        return max(0.0, self.contrast_stops - self.veil_stops)

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
            indoors=place.indoors,
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


def _open_sky(light: SkyLight, world: World) -> Light:
    start = in_utc(light.start)
    now = positions(light.latitude, light.longitude, start, in_utc(light.end))
    low, high = sky_lux(now, light.cloud, light.shade, world.sky)
    ev100 = (_ev(low), _ev(high))
    return Light(
        ev100=ev100,
        balance_k=sky_balance_k(now, light.cloud, light.shade),
        ripple=0.0,
        dark=sum(ev100) / 2.0 < DARK_BELOW_EV100,
        source={
            "code": "sky",
            "start": in_zone(light.start, light.zone).isoformat(),
            "place": light.place,
            "zoned": light.zone is not None,
            "cloud": light.cloud,
            "shade": light.shade,
        },
        night_sky=max(now.sun_deg) < -12.0,
        contrast_stops=sky_contrast_stops(now, light.cloud, light.shade, world.sky),
        sunlit=light.cloud in ("clear", "haze") and light.shade != "full" and max(now.sun_deg) > SUN_WARMS_DEG,
    )


def _lit(light: LampLight, world: World) -> Light:
    """Lamps by inverse square, added up, on top of what else there is; the balance is that of their mix."""
    ambient = None if light.ambient is None else resolve(light.ambient, world)
    under = [0.0, 0.0] if ambient is None else [float(lux_from_ev100(ev)) for ev in ambient.ev100]
    lit = on_subject(light.lamps)
    lamps = sum(lamp.lux for lamp in lit)
    far = sum(lamp.far_lux for lamp in lit)
    # The side that turns away from the key gets the fill, where one is said to be there.
    fill = sum(lamp.far_lux for lamp in lit if lamp.role == "fill")
    turned_away = min(far, fill) if fill else far * 2.0**-MODELLING_STOPS
    total = lamps + under[1]
    ripple = (sum(lamp.lux * lamp.ripple for lamp in lit) + (under[1] * ambient.ripple if ambient else 0)) / total
    ev100 = (_ev(turned_away + under[0]), _ev(total))
    colours = [(lamp.lux, (lamp.kelvin, lamp.kelvin)) for lamp in lit]
    if ambient is not None:
        colours.append((under[1], ambient.balance_k))
    return Light(
        ev100=ev100,
        balance_k=mixed_balance_k(colours),
        ripple=ripple,
        dark=False,
        source={"code": "lamps", "count": len(light.lamps), "ambient": ambient.source if ambient else None},
        lamps=light.lamps,
        lamp_share=lamps / total,
        # The side that turns away is shadow; only what stands beside the lamps changes.
        changes_stops=float(np.log2(total / (lamps + under[0]))),
        indoors=ambient is not None and ambient.indoors,
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


def sun_on_water(light: WaterLight) -> tuple[float, float]:
    """Altitude of the sun that shines on some water, degrees, overhead where the sky alone lights it; and the share of
    light that the surface throws back."""
    sky = light.surface
    if not (isinstance(sky, SkyLight) and sky.cloud in ("clear", "haze")):
        return 90.0, DIFFUSE_REFLECTION
    now = positions(sky.latitude, sky.longitude, in_utc(sky.start), in_utc(sky.end))
    sun_deg = max(0.0, *now.sun_deg)
    return sun_deg, surface_reflection(90.0 - sun_deg)


def _under_water(light: WaterLight, world: World, distance_m: tuple[float, float]) -> Light:
    """Surface light less what surface and water take, by band, plus the lamps there and back."""
    water = water_type(light, world.waters)
    surface = resolve(light.surface, world)
    sun_deg, reflected = sun_on_water(light)
    near, far = distance_m
    seen = np.array([np.sqrt(near * far), near])  # the dim end is farther away, too
    depths = np.array([light.depth_m[1], light.depth_m[0]])
    passing = np.array([float(lux_from_ev100(ev)) for ev in surface.ev100])[:, None] * (1.0 - reflected)
    path = seen_through(world.waters, water, depths, seen, sun_deg)
    daylight = passing * path.bands
    lamps = np.zeros((2, 3))
    for lamp in light.lamps:
        for end, (lux_there, metres) in enumerate(((lamp.far_lux, lamp.farthest_m), (lamp.lux, lamp.distance_m))):
            lamps[end] += lux_there * passed(world.waters, water, np.array(2.0 * metres))
    bands = daylight + lamps
    lux = bands @ LUMINANCE
    share = float((lamps @ LUMINANCE / lux)[0]) if light.lamps else 0.0
    stops = np.log2(np.maximum(bands, 1e-9) / np.maximum(bands, 1e-9).max(axis=1, keepdims=True))
    white = mixed_balance_k((lamp.lux, (lamp.kelvin, lamp.kelvin)) for lamp in light.lamps) if light.lamps else None
    through = balance_through_k(surface.balance_k, stops[1][2] - stops[1][0])
    return Light(
        ev100=(_ev(float(lux[0])), _ev(float(lux[1]))),
        balance_k=through if white is None else mixed_balance_k([(1.0 - share, through), (share, white)]),
        ripple=surface.ripple * (1.0 - share) + _ripple_of(light.lamps) * share,
        dark=False,
        source={"code": "water", "name": water.name, "surface": surface.source},
        colour_stops=(_three(stops[0]), _three(stops[1])),
        red_left=(float(path.subject[0, 0]), float(path.subject[1, 0])),
        veil_stops=float(-np.log2(max(1e-6, path.contrast_left[0]))) * (1.0 - share),
        deepest_m=light.depth_m[1],
        red_gone_m=red_gone_m(world.waters, water),
        lamp_reach_m=lamps_reach_m(light, world) if light.lamps else None,
        lamps=light.lamps,
        lamp_share=share,
        lamp_balance_k=white,
        surface_balance_k=surface.balance_k,
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
