"""What lights a layer of a scene, and what lies between it and the lens, in the camera's three bands."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from steady_tide.core.light.balance import blackbody_bands
from steady_tide.core.light.resolving import resolve, sun_on_water, water_type
from steady_tide.core.light.sources import WaterLight
from steady_tide.core.light.water import LUMINANCE, Bands, passed, seen_through
from steady_tide.core.look.exposure_of_plan import Taking
from steady_tide.core.physics.noise import GREY_REFLECTANCE
from steady_tide.core.quantities.stops import lux_from_ev100

DAYLIGHT_K = 5500.0


@dataclass(frozen=True)
class Lit:
    """What becomes of a reflectance: light times `by`, and `veil` over it, times metered grey; by band."""

    by: Bands
    veil: Bands


def lit(taking: Taking, distance_m: float, share: float) -> Lit:
    """How a layer is lit at a moment, so that a grey card at the subject comes out as metered.

    taking: of the plan; distance_m: of the layer; share: of the way from the dim to the bright end. Returns it.
    """
    light = taking.at.brief.light
    if not isinstance(light, WaterLight):
        return Lit(np.full(3, 1.0 / GREY_REFLECTANCE), np.zeros(3))
    subject = _in_water(taking, light, taking.distance_m("subject", share), share)
    here = _in_water(taking, light, distance_m, share)
    metered = float((subject.by + subject.veil) @ LUMINANCE)
    return Lit(here.by / metered / GREY_REFLECTANCE, here.veil / metered)


def _in_water(taking: Taking, light: WaterLight, distance_m: float, share: float) -> Lit:
    waters = taking.world.waters
    water = water_type(light, waters)
    sun_deg, reflected = sun_on_water(light)
    shallow, deep = light.depth_m
    low, high = resolve(light.surface, taking.world).ev100
    passing = float(lux_from_ev100(low + share * (high - low))) * (1.0 - reflected)
    seen = seen_through(waters, water, deep + share * (shallow - deep), distance_m, sun_deg)
    lamps = np.zeros(3)
    for lamp in light.lamps:
        reach = max(distance_m, 0.05)
        lamps += lamp.lux_at_1m * lamp.output / reach**2 * passed(waters, water, np.array(2.0 * reach))
    return Lit(passing * seen.subject + lamps, passing * seen.veil)


def through_filter(taking: Taking, share: float) -> Bands:
    """What a colour filter leaves of the bands, beside what it takes from all, which the meter makes up. Returns shares."""
    glass = taking.glass
    return np.asarray(2.0 ** (glass.colour_stops - taking.filter_share(share) * np.array(glass.band_stops)))


def balance_gains(taking: Taking, share: float, graded: bool) -> Bands:
    """What the camera's white balance, and its red gain, make of the bands, green being 1.

    A balance in kelvins sets the light's black body against its own; an automatic one mends red against blue as far as
    balances reach; the sensor's own is daylight's as recorded and mended when it is graded. Returns factors.
    """
    centres = tuple(centre for centre, _ in taking.world.waters.bands_nm)
    of_light = np.array(blackbody_bands(taking.balance_k(share), centres))
    balance = taking.balance
    gain = np.array([2.0 ** (taking.glass.red_gain_stops * taking.filter_share(share)), 1.0, 1.0])
    if balance is None or (balance == "raw" and graded):
        grey = grey_card(taking, share) * gain
        apart = float(np.log2(grey[0] / grey[2]))
        reach = taking.at.limits.balance_reach_stops
        mend = float(np.clip(apart, -reach, reach)) / 2.0
        middle = float(np.log2(np.sqrt(grey[0] * grey[2]) / grey[1]))
        # With red and blue alike again, green follows them a little, as far as an automatic balance tints.
        tint = float(np.clip(middle, -0.3, 0.3)) if taking.at.light.deepest_m is not None else middle
        return np.asarray(gain * np.array([2.0 ** (-mend - tint), 1.0, 2.0 ** (mend - tint)]))
    kelvin = DAYLIGHT_K if balance == "raw" else float(balance)
    return np.asarray(gain * of_light / np.array(blackbody_bands(kelvin, centres)))


def grey_card(taking: Taking, share: float) -> Bands:
    """What a grey card at the subject gives in the bands before any balance, its luminance about 1. Returns times grey."""
    here = lit(taking, taking.distance_m("subject", share), share)
    return np.asarray((GREY_REFLECTANCE * here.by + here.veil) * through_filter(taking, share))
