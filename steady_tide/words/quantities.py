"""How quantities are written: units always, fractions of a second as practitioners write them."""

from __future__ import annotations

from collections.abc import Sequence

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


def percent(share: float) -> str:
    """A share in per cent. Returns text such as 4.2 % or 12 %."""
    value = 100.0 * share
    return f"{value:.0f}{NARROW}%" if value >= 9.95 else f"{value:.1f}{NARROW}%"


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
    return f"{value:.3g}{NARROW}\u00b0C".replace("-", MINUS)


def metres(value: float) -> str:
    """A distance. value: metres. Returns text such as 0.8 m or 12 m."""
    return f"{value:.0f}{NARROW}m" if value >= 10 else f"{value:.2g}{NARROW}m"


def frame(value: str) -> str:
    """A frame size. value: such as 3840x2160. Returns it with a times sign."""
    return value.replace("x", f"{NARROW}{TIMES}{NARROW}")


def kelvins(band: Sequence[int]) -> str:
    """One colour temperature, or the span between two. Returns text."""
    warm, cool = band
    return f"{warm}{NARROW}K" if warm == cool else f"{warm} to {cool}{NARROW}K"


def capital(text: str) -> str:
    """A sentence begins with a capital, but an aperture does not."""
    return text if text.startswith("f/") else text[:1].upper() + text[1:]


def quoted(title: str) -> str:
    """A title as it stands in a sentence."""
    return f"\u201c{title}\u201d"


def tenths(value: float) -> str:
    """A quantity of a store, as the interface writes it: to a tenth below a hundred. value: any unit."""
    return f"{value:.0f}" if abs(value) >= 100.0 else f"{round(value, 1):g}"
