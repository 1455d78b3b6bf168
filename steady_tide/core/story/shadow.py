"""The sun against a camera's heading: from where it lights, whether it stands in the frame, and where one's own shadow falls."""

from __future__ import annotations

from datetime import UTC, datetime
from math import atan2, cos, degrees, radians, sin, tan
from typing import Literal

import astronomy

from steady_tide.core.quantities.frozen import Frozen

Side = Literal["none", "front", "side", "back", "against"]
LOWEST_SUN_DEG = 0.5  # lower, shadows end nowhere, and the sun's disc is half set
FRONT_FROM_DEG, BACK_TO_DEG = 120.0, 60.0  # between the heading and the sun
EYES_SHARE = 0.93  # of a person's height: where a camera is held at the eye
SHOULDERS_M = 0.46  # width of a shadow


class SunAt(Frozen):
    """Where the sun stands: altitude above the horizon without refraction, azimuth from north by east, degrees."""

    altitude_deg: float
    azimuth_deg: float


class OwnShadow(Frozen):
    """One's own shadow on level ground. length_m: None where the sun is down; heading_deg: in which it falls, from north by
    east; from_m, to_m: the part of it that is in the frame, along it from the feet, None where none is."""

    length_m: float | None
    heading_deg: float
    from_m: float | None
    to_m: float | None

    @property
    def in_frame(self) -> bool:
        """Whether any of it is in the frame."""
        return self.from_m is not None


class SunOnFraming(Frozen):
    """The sun against a framing. side: from where it lights what is filmed, `against` where it stands in the frame or so near its edge
    that it shines into the lens; apart_deg: between heading and sun, 0 to 180."""

    sun: SunAt
    side: Side
    apart_deg: float
    in_frame: bool
    shadow: OwnShadow


def sun_at(latitude: float, longitude: float, at: datetime) -> SunAt:
    """Where the sun stands. latitude, longitude: degrees, north and east positive; at: aware. Returns degrees, good to a minute of arc
    from 1900 to 2200."""
    utc = at.astimezone(UTC)
    moment = astronomy.Time.Make(utc.year, utc.month, utc.day, utc.hour, utc.minute, utc.second + utc.microsecond / 1e6)
    here = astronomy.Observer(latitude, longitude, 0.0)
    seen = astronomy.Equator(astronomy.Body.Sun, moment, here, True, True)
    found = astronomy.Horizon(moment, here, seen.ra, seen.dec, astronomy.Refraction.Airless)
    return SunAt(altitude_deg=float(found.altitude), azimuth_deg=float(found.azimuth) % 360.0)


def sun_on_framing(
    sun: SunAt, heading_deg: float, height_m: float, field_deg: tuple[float, float], pitch_deg: float = 0.0
) -> SunOnFraming:
    """Hold the sun against a camera's heading.

    sun: where it stands; heading_deg: of the camera, from north by east; height_m: of who films, the camera at the eye; field_deg: across
    and up the frame, of a straight-lined view, each below 180; pitch_deg: of the camera, upwards positive. Returns from where it lights, and
    one's own shadow on level ground.
    """
    apart = abs(_turned(sun.azimuth_deg - heading_deg))
    within = sun.altitude_deg > 0.0 and _sees(_ray(sun, heading_deg, pitch_deg), field_deg)
    side: Side = "none"
    if sun.altitude_deg > 0.0:
        shines_in = apart <= field_deg[0] / 2.0 and sun.altitude_deg <= field_deg[1] + max(0.0, pitch_deg)
        if within or shines_in:
            side = "against"
        else:
            side = "front" if apart >= FRONT_FROM_DEG else "back" if apart < BACK_TO_DEG else "side"
    return SunOnFraming(
        sun=sun,
        side=side,
        apart_deg=apart,
        in_frame=within,
        shadow=own_shadow(sun, heading_deg, height_m, field_deg, pitch_deg),
    )


def own_shadow(
    sun: SunAt, heading_deg: float, height_m: float, field_deg: tuple[float, float], pitch_deg: float = 0.0
) -> OwnShadow:
    """One's own shadow on level ground, and whether it falls into the frame.

    sun, heading_deg, height_m, field_deg, pitch_deg: as for `sun_on_framing`. The shadow is as wide as shoulders are; each of its edges and
    its middle are held against the four planes of the view. Returns it.
    """
    falls = (sun.azimuth_deg + 180.0) % 360.0
    if sun.altitude_deg < LOWEST_SUN_DEG:
        return OwnShadow(length_m=None, heading_deg=falls, from_m=None, to_m=None)
    length = height_m / tan(radians(sun.altitude_deg))
    beside = radians(_turned(falls - heading_deg))
    seen: list[tuple[float, float]] = []
    for off in (-SHOULDERS_M / 2.0, 0.0, SHOULDERS_M / 2.0):
        span = _seen_span(beside, off, length, EYES_SHARE * height_m, field_deg, radians(pitch_deg))
        if span is not None:
            seen.append(span)
    return OwnShadow(
        length_m=length,
        heading_deg=falls,
        from_m=min(start for start, _ in seen) if seen else None,
        to_m=max(end for _, end in seen) if seen else None,
    )


def _seen_span(
    beside: float, off_m: float, length_m: float, camera_m: float, field_deg: tuple[float, float], pitch: float
) -> tuple[float, float] | None:
    """The part of a line of the shadow that a camera sees: every plane of its view bounds the way along the line by one linear
    inequality. beside: between heading and shadow, radians; off_m: of the line from the middle. Returns metres, None for nothing."""
    across, up = (tan(radians(field) / 2.0) for field in field_deg)
    # A point at d along the line: ahead and right of the feet, below the camera. Each is a + b d.
    ahead = (-off_m * sin(beside), cos(beside))
    right = (off_m * cos(beside), sin(beside))
    depth = (ahead[0] * cos(pitch) - camera_m * sin(pitch), ahead[1] * cos(pitch))
    above = (-ahead[0] * sin(pitch) - camera_m * cos(pitch), -ahead[1] * sin(pitch))
    low, high = 0.0, length_m
    for sign, side, reach in ((1, right, across), (-1, right, across), (1, above, up), (-1, above, up)):
        # side within reach of depth: sign side <= reach depth
        rest, slope = reach * depth[0] - sign * side[0], reach * depth[1] - sign * side[1]
        if abs(slope) < 1e-12:
            if rest < 0.0:
                return None
            continue
        at = -rest / slope
        low, high = (max(low, at), high) if slope > 0 else (low, min(high, at))
    return (low, high) if low < high else None


def _ray(sun: SunAt, heading_deg: float, pitch_deg: float) -> tuple[float, float, float]:
    """Towards the sun, in the camera's depth, right and above."""
    altitude, beside, pitch = radians(sun.altitude_deg), radians(sun.azimuth_deg - heading_deg), radians(pitch_deg)
    ahead, right, above = cos(altitude) * cos(beside), cos(altitude) * sin(beside), sin(altitude)
    return ahead * cos(pitch) + above * sin(pitch), right, above * cos(pitch) - ahead * sin(pitch)


def _sees(ray: tuple[float, float, float], field_deg: tuple[float, float]) -> bool:
    depth, right, above = ray
    across, up = (tan(radians(field) / 2.0) for field in field_deg)
    return depth > 0.0 and abs(right) <= across * depth and abs(above) <= up * depth


def _turned(by_deg: float) -> float:
    """An angle between -180 and 180."""
    return (by_deg + 180.0) % 360.0 - 180.0


def upright_field_deg(across_deg: float, shape: float) -> float:
    """The field up the frame of a straight-lined view. across_deg: across it; shape: width over height. Returns degrees."""
    return degrees(2.0 * atan2(tan(radians(across_deg) / 2.0), shape))
