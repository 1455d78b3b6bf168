"""The sun and one's own shadow, in words."""

from __future__ import annotations

from steady_tide.core.story.shadow import SunOnFraming
from steady_tide.words.writing import NARROW

SIDES = {
    "none": "the sun is down",
    "front": "front light, the sun behind the camera",
    "side": "side light",
    "back": "back light, the sun behind what is filmed",
    "against": "against the sun, it shines into the lens",
}
# Compass points as they are said, every 22.5 degrees from north.
POINTS = ("N", "NNE", "NE", "ENE", "E", "ESE", "SE", "SSE", "S", "SSW", "SW", "WSW", "W", "WNW", "NW", "NNW")


def compass(heading_deg: float) -> str:
    """A heading in degrees and as a compass point. heading_deg: from north by east. Returns text such as 225° (SW)."""
    turned = heading_deg % 360.0
    return f"{turned:.0f}° ({POINTS[round(turned / 22.5) % 16]})"


def sun_lines(found: SunOnFraming) -> list[str]:
    """The sun against a framing, line by line."""
    sun, shadow = found.sun, found.shadow
    lines = [f"sun {sun.altitude_deg:.1f}° high at {compass(sun.azimuth_deg)}".replace("-", "\u2212")]
    where = "; it stands in the frame" if found.in_frame else ""
    lines.append(f"{SIDES[found.side]}, {found.apart_deg:.0f}° from the heading{where}")
    if shadow.length_m is None:
        lines.append("no shadow of your own")
        return lines
    long = f"{shadow.length_m:.1f}" if shadow.length_m < 100 else f"{shadow.length_m:.0f}"
    lines.append(f"your own shadow {long}{NARROW}m long towards {compass(shadow.heading_deg)}")
    if shadow.from_m is None or shadow.to_m is None:
        lines.append("it stays out of the frame")
    else:
        lines.append(f"it falls into the frame, from {shadow.from_m:.1f} to {shadow.to_m:.1f}{NARROW}m along it")
    return lines
