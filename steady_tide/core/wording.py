"""How quantities are written: units always, fractions of a second as practitioners write them."""

from __future__ import annotations

from typing import Any

NARROW = "\u202f"
MINUS = "\u2212"
TIMES = "\u00d7"


def stops(value: float) -> str:
    """A number of stops with one decimal. value: stops. Returns text without the unit."""
    text = f"{value:.1f}"
    return "0.0" if text == "-0.0" else text.replace("-", MINUS)


def signed(value: float) -> str:
    """A compensation with its sign. value: stops. Returns text such as −0.5."""
    return "0" if value == 0 else f"{'+' if value > 0 else MINUS}{abs(value):g}"


def seconds(value: float) -> str:
    """An exposure time. value: seconds. Returns text such as 1/50 s or 2 s."""
    if value >= 0.3:
        return f"{value:.3g}{NARROW}s"
    return f"1/{round(1.0 / value)}{NARROW}s"


def frame(value: str) -> str:
    """A frame size. value: such as 3840x2160. Returns it with a times sign."""
    return value.replace("x", f"{NARROW}{TIMES}{NARROW}")


_PLAIN = {
    "ultra_wide": "ultra-wide",
    "linear_level": "linear, levelled",
    "auto": "automatic",
    "none": "none",
}


def dial_value(dial: str, value: Any, filter_names: dict[str, str] | None = None) -> str:
    """A dial's value as people read it, with its unit.

    dial: id; value: one that the dial offers; filter_names: names of filters by id. Returns text.
    """
    if value in ("auto", None):
        return "automatic"
    if dial == "frame":
        return frame(value)
    if dial == "frame_rate":
        return f"{value:g}{NARROW}fps"
    if dial == "shutter_s":
        return seconds(value)
    if dial in ("iso_floor", "iso_ceiling"):
        return f"ISO{NARROW}{value}"
    if dial == "exposure_compensation":
        return signed(value)
    if dial == "white_balance_k":
        return f"{value}{NARROW}K"
    if dial == "bit_depth":
        return f"{value}-bit"
    if dial == "bit_rate_mb_s":
        return f"{value:g}{NARROW}Mb/s"
    if dial == "high_dynamic_range":
        return "on" if value else "off"
    if dial == "nd":
        return (
            "no glass"
            if value == "none"
            else " + ".join((filter_names or {}).get(part, part) for part in value.split("+"))
        )
    return _PLAIN.get(str(value), str(value))
