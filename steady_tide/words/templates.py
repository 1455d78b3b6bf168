"""Sentences with quantities in them, and what may stand behind the colon of a field.

A template is Python's format with our own words for units, such as `{depth_m:metres}`.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from string import Formatter
from typing import Any

from steady_tide.words import quantities as writing
from steady_tide.words.quantities import NARROW, TIMES

FORMS: dict[str, Callable[[Any], str]] = {
    "stops": writing.stops,
    "seconds": writing.seconds,
    "whole_s": lambda value: f"{value:.0f}{NARROW}s",
    "hours": writing.hours,
    "minutes": lambda value: f"{value:.0f}{NARROW}min",
    "celsius": writing.celsius,
    "metres": writing.metres,
    "degrees": lambda value: f"{value:.0f}\u00b0",
    "fps": lambda value: f"{value:g}{NARROW}fps",
    "times": lambda value: f"{value:g}{TIMES}",
    "kelvins": writing.kelvins,
    "whole": lambda value: f"{value:.0f}",
    "wh": lambda value: f"{writing.tenths(value)}{NARROW}Wh",
    "watts": lambda value: f"{value:.1f}{NARROW}W",
    "gb": lambda value: f"{writing.tenths(value)}{NARROW}GB",
    "mb_s": lambda value: f"{value:g}{NARROW}Mb/s",
    "speed": lambda value: f"{value:g}{NARROW}m/s",
    "share": lambda value: f"{100 * value:.0f}{NARROW}%",
    "pixels": lambda value: f"{value:.0f} px",
}


class _Sentences(Formatter):
    """Python's formatter, with our units."""

    def format_field(self, value: Any, format_spec: str) -> str:
        form = FORMS.get(format_spec)
        return str(form(value)) if form else str(super().format_field(value, format_spec))


_SENTENCES = _Sentences()


def say(template: str, facts: Mapping[str, Any] | None = None) -> str:
    """Say something. template: of the sentence; facts: quantities that stand in it. Returns text."""
    return template if facts is None else _SENTENCES.vformat(template, (), facts)
