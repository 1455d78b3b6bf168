"""Exposure arithmetic in stops.

EV at ISO 100 (``ev100``) says how much light a scene gives; every camera setting is a
number of stops against it. All functions take floats or NumPy arrays of any broadcastable
shape and return the same. They hold for positive arguments.
"""

from __future__ import annotations

from typing import Any

import numpy as np

# Incident-light calibration, flat receptor, lux times ISO; source: iso2720.
CALIBRATION_C = 250.0

Number = Any  # a float or a NumPy array; kept wide because both go through every function here


def ev100_from_lux(lux: Number) -> Number:
    """EV at ISO 100 of a scene lit by some illuminance.

    lux: incident illuminance, lux. Returns EV at ISO 100, stops. Source: iso2720.
    """
    return np.log2(np.asarray(lux, dtype=float) * (100.0 / CALIBRATION_C))


def lux_from_ev100(ev100: Number) -> Number:
    """Illuminance of a scene.

    ev100: EV at ISO 100, stops. Returns incident illuminance, lux. Source: iso2720.
    """
    return np.exp2(np.asarray(ev100, dtype=float)) * (CALIBRATION_C / 100.0)


def camera_ev(f_number: Number, shutter_s: Number) -> Number:
    """Exposure value of an aperture and a shutter, log2(N^2 / t).

    f_number: aperture, f-number; shutter_s: exposure, seconds. Returns stops. Source: iso2720.
    """
    return 2.0 * np.log2(f_number) - np.log2(shutter_s)


def scene_ev100(
    f_number: Number, shutter_s: Number, iso: Number, nd_stops: Number = 0.0, compensation_stops: Number = 0.0
) -> Number:
    """Light for which these settings expose correctly; also what a camera's reading says of the scene.

    f_number: aperture, f-number; shutter_s: exposure, seconds; iso: ISO speed;
    nd_stops: density of the glass, stops; compensation_stops: exposure compensation, stops.
    Returns EV at ISO 100, stops. Source: iso2720.
    """
    return camera_ev(f_number, shutter_s) - np.log2(np.asarray(iso) / 100.0) + nd_stops + compensation_stops


def iso_asked(
    ev100: Number, f_number: Number, shutter_s: Number, nd_stops: Number = 0.0, compensation_stops: Number = 0.0
) -> Number:
    """ISO that exposes a scene as wanted, before any floor or ceiling.

    ev100: light of the scene, stops; the others as in `scene_ev100`. Returns ISO speed.
    Negative compensation asks for less. Source: iso2720.
    """
    return 100.0 * np.exp2(camera_ev(f_number, shutter_s) - np.asarray(ev100) + nd_stops + compensation_stops)


def shutter_asked(
    ev100: Number, f_number: Number, iso: Number, nd_stops: Number = 0.0, compensation_stops: Number = 0.0
) -> Number:
    """Exposure time that exposes a scene as wanted.

    ev100: light of the scene, stops; the others as in `scene_ev100`. Returns seconds.
    Negative compensation asks for less. Source: iso2720.
    """
    stops = np.asarray(ev100) + np.log2(np.asarray(iso) / 100.0) - nd_stops - compensation_stops
    return np.asarray(f_number) ** 2 / np.exp2(stops)


def nd_asked(ev100: Number, f_number: Number, shutter_s: Number, iso: Number = 100.0) -> Number:
    """Density of glass that exposes a scene correctly.

    ev100: light of the scene, stops; the others as in `scene_ev100`. Returns stops, negative
    where light is missing. Source: iso2720.
    """
    return np.asarray(ev100) + np.log2(np.asarray(iso) / 100.0) - camera_ev(f_number, shutter_s)


def nd_stops_from_factor(factor: Number) -> Number:
    """Density of a filter from its factor. factor: how many times less light passes. Returns stops."""
    return np.log2(factor)


def nd_stops_from_density(optical_density: Number) -> Number:
    """Density of a filter from its optical density, log10 of the factor. Returns stops."""
    return np.asarray(optical_density) / np.log10(2.0)


def shutter_angle_deg(shutter_s: Number, frame_rate: Number) -> Number:
    """Share of the frame interval that is exposed, as an angle.

    shutter_s: exposure, seconds; frame_rate: frames per second. Returns degrees; 180 is half a turn.
    """
    return 360.0 * np.asarray(shutter_s) * frame_rate


def half_turn_s(frame_rate: Number) -> Number:
    """Exposure of half a frame interval. frame_rate: frames per second. Returns seconds."""
    return 0.5 / np.asarray(frame_rate)


def read_seconds(value: Any) -> Any:
    """Accept an exposure as people write it.

    value: seconds as a number, or text such as "1/50" or "0.02". Returns seconds as a float; anything
    else comes back as it was, for validation to refuse.
    """
    if not isinstance(value, str):
        return value
    above, slash, below = value.strip().removesuffix("s").strip().partition("/")
    try:
        return float(above) / float(below) if slash else float(above)
    except (ValueError, ZeroDivisionError):
        return value
