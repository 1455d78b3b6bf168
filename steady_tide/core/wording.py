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
    fraction = round(1.0 / value)
    return f"1/{fraction if fraction < 1000 else round(fraction, -1)}{NARROW}s"


def hours(value: float) -> str:
    """A duration. value: hours. Returns text such as 2.4 h or 35 min."""
    return f"{value:.1f}{NARROW}h" if value >= 1.5 else f"{value * 60:.0f}{NARROW}min"


def celsius(value: float) -> str:
    """A temperature. value: degrees Celsius. Returns text such as −8 °C."""
    return f"{value:g}{NARROW}\u00b0C".replace("-", MINUS)


def metres(value: float) -> str:
    """A distance. value: metres. Returns text such as 0.8 m or 12 m."""
    return f"{value:.0f}{NARROW}m" if value >= 10 else f"{value:.2g}{NARROW}m"


def frame(value: str) -> str:
    """A frame size. value: such as 3840x2160. Returns it with a times sign."""
    return value.replace("x", f"{NARROW}{TIMES}{NARROW}")


_PLAIN = {
    "ultra_wide": "ultra-wide",
    "linear_level": "linear, levelled",
    "auto": "automatic",
    "none": "none",
    "light_red": "light red",
}


def dial_value(dial: str, value: Any, filter_names: dict[str, str] | None = None) -> str:
    """A dial's value as people read it, with its unit.

    dial: id; value: one that the dial offers; filter_names: names of filters by id. Returns text.
    """
    if value in ("auto", None):
        return "automatic"
    if dial == "interval_s":
        return "at speed" if value == "off" else f"every {value:g}{NARROW}s"
    if dial == "f_number":
        return f"f/{value:g}"
    if dial == "pre_record_s":
        return "off" if not value else f"{value:g}{NARROW}s before"
    if dial == "lens":
        return str(value).replace("_", " ").replace("-", " ")
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
        return str(value) if value == "raw" else f"{value}{NARROW}K"
    if dial == "bit_depth":
        return f"{value}-bit"
    if dial == "bit_rate_mb_s":
        return f"{value:g}{NARROW}Mb/s"
    if dial == "high_dynamic_range":
        return "on" if value else "off"
    if dial in ("nd", "colour_filter", "housing", "camera"):
        nothing = {"nd": "no glass", "colour_filter": "no filter", "housing": "no housing"}
        names = filter_names or {}
        return nothing[dial] if value == "none" else " + ".join(names.get(part, part) for part in value.split("+"))
    return _PLAIN.get(str(value), str(value))
