"""What the instruments draw of a light: colours by depth, lamps on the subject, pulses in an exposure."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from steady_tide.core.light.flicker import beat_hz, is_clean, ripple_left, ripple_stops, rows_per_band
from steady_tide.core.light.resolving import Light, World, lamps_reach_m, resolve, water_type
from steady_tide.core.light.roles import key_of, on_subject
from steady_tide.core.light.sources import Lamp, LampLight, WaterLight
from steady_tide.core.light.water import FilterRange, filter_range, red_gone_m, seen_through
from steady_tide.core.quantities.frame_rates import recorded_rate
from steady_tide.core.quantities.frozen import Frozen

DEPTHS = 41
SHALLOWEST_PICTURE_M = 12.0
SAME_COLOUR_MIREDS = 15.0
SHOWN_S = (1 / 4000, 1 / 20)  # exposures between which a flicker verdict is worth drawing


class WaterPicture(Frozen):
    """Colours by depth. Stops of each band against the surface, on the way down and to the lens."""

    water: str
    depth_m: tuple[float, ...]
    red: tuple[float, ...]
    green: tuple[float, ...]
    blue: tuple[float, ...]
    shot_m: tuple[float, float]
    red_gone_m: float
    filters: tuple[FilterRange, ...]
    lamp_reach_m: float | None
    lamps_at_m: float | None


class LampPicture(Frozen):
    """One lamp as the subject sees it."""

    lux: float
    below_key_stops: float
    distance_m: float
    kelvin: int
    ripple: float
    off_colour: bool  # visibly another colour than the key
    distance_wanted_m: float | None  # where it would have to stand, all lamps moved alike
    output_wanted: float | None  # or how far it would have to be turned up or down


class LampsPicture(Frozen):
    """Lamps on the subject: key, fill, and what they come to."""

    lamps: tuple[LampPicture, ...]
    ambient_lux: float
    key_to_fill_stops: float | None
    ev100: tuple[float, float]
    missing_stops: float | None


class PulsePicture(Frozen):
    """What one exposure leaves of pulsing lamps."""

    shutter_s: float
    left_stops: float
    clean: bool


class FlickerPicture(Frozen):
    """What exposures leave of pulsing lamps, and the bands of a rolling shutter."""

    ripple: float
    mains_hz: int
    exposures: tuple[PulsePicture, ...]
    rows_per_band: float
    height_px: int
    beat_hz: float


def water_picture(
    light: WaterLight,
    world: World,
    distance_m: tuple[float, float],
    filters: Sequence[tuple[str, tuple[float, float, float]]],
) -> WaterPicture:
    """Draw a water. light: of a brief; world: the tables; distance_m: to the lens; filters: id and bands."""
    water = water_type(light, world.waters)
    path = float(np.sqrt(distance_m[0] * distance_m[1]))
    depths = np.linspace(0.0, max(SHALLOWEST_PICTURE_M, 1.4 * light.depth_m[1]), DEPTHS)
    red, green, blue = np.log2(
        np.maximum(seen_through(world.waters, water, depths, np.full(DEPTHS, path)).bands, 1e-12)
    ).T
    return WaterPicture(
        water=water.name,
        depth_m=tuple(depths.tolist()),
        red=tuple(red.tolist()),
        green=tuple(green.tolist()),
        blue=tuple(blue.tolist()),
        shot_m=light.depth_m,
        red_gone_m=red_gone_m(world.waters, water),
        filters=tuple(filter_range(world.waters, water, id, bands, path) for id, bands in filters),
        lamp_reach_m=lamps_reach_m(light, world) if light.lamps else None,
        lamps_at_m=max(lamp.farthest_m for lamp in light.lamps) if light.lamps else None,
    )


def lamp_factor(lamp_share: float, missing_stops: float) -> float | None:
    """How many times the lamps must give for some stops more in all.

    lamp_share: of the lamps in the light, above 0 to 1; missing_stops: wanted, negative for less. Returns
    the factor; None where the other light alone is too much.
    """
    factor = (2.0**missing_stops - (1.0 - lamp_share)) / max(lamp_share, 1e-6)
    return factor if factor > 0.0 else None


def lamps_picture(light: LampLight, world: World, missing_stops: float | None) -> LampsPicture:
    """Draw lamps. light: of a brief; world: for what else there is; missing_stops: that the exposure lacks."""
    band = resolve(light, world).ev100
    ambient = 0.0 if light.ambient is None else 2.5 * 2.0 ** resolve(light.ambient, world).ev100[1]
    key = key_of(light.lamps)
    fill = sum(lamp.lux for lamp in on_subject(light.lamps)) - key.lux + ambient
    factor = (
        None if missing_stops is None else lamp_factor((key.lux + fill - ambient) / (key.lux + fill), missing_stops)
    )
    return LampsPicture(
        lamps=tuple(_lamp(lamp, key, factor) for lamp in light.lamps),
        ambient_lux=ambient,
        # On the lit side both fall, on the other the fill alone.
        key_to_fill_stops=float(np.log2((key.lux + fill) / fill)) if fill > 0 else None,
        ev100=band,
        missing_stops=missing_stops,
    )


def _lamp(lamp: Lamp, key: Lamp, factor: float | None) -> LampPicture:
    return LampPicture(
        lux=lamp.lux,
        below_key_stops=float(np.log2(key.lux / lamp.lux)),
        distance_m=lamp.distance_m,
        kelvin=lamp.kelvin,
        ripple=lamp.ripple,
        off_colour=abs(1e6 / lamp.kelvin - 1e6 / key.kelvin) > SAME_COLOUR_MIREDS,
        distance_wanted_m=None if factor is None else float(lamp.distance_m / np.sqrt(factor)),
        output_wanted=None if factor is None or lamp.output * factor > 1.0 else float(lamp.output * factor),
    )


def flicker_picture(
    light: Light,
    mains_hz: int,
    exposures: Sequence[float],
    frame_rate: float,
    readout_s: float,
    height_px: int,
    timeline_fps: float,
) -> FlickerPicture | None:
    """Draw pulses. light: resolved; exposures: that a camera offers, seconds; timeline_fps: frames per second of the
    timeline; the rest: of the camera's mode.

    Returns None where nothing pulses.
    """
    if light.ripple <= 0.0:
        return None
    low, high = SHOWN_S
    shown = [t for t in sorted(exposures) if low <= t <= high and t <= 1.0 / frame_rate * (1 + 1e-9)]
    return FlickerPicture(
        ripple=light.ripple,
        mains_hz=mains_hz,
        exposures=tuple(
            PulsePicture(
                shutter_s=t,
                left_stops=float(ripple_stops(ripple_left(light.ripple, t, mains_hz))),
                clean=bool(is_clean(t, mains_hz)),
            )
            for t in shown
        ),
        rows_per_band=rows_per_band(readout_s, height_px, 2.0 * mains_hz),
        height_px=height_px,
        beat_hz=float(beat_hz(recorded_rate(frame_rate, timeline_fps), mains_hz)),
    )
