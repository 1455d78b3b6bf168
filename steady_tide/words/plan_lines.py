"""A plan in one line: what a list of shots, the other cameras and the strip of the day show of it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from steady_tide.core.planning.dials.dial_kind import AT_SPEED, AUTOMATIC, NONE
from steady_tide.words.dial_values import word_and_value
from steady_tide.words.quantities import NARROW

GLASS = ("nd", "colour_filter", "housing")
SHORT = ("frame", "pace", "shutter", "iso", "glass")
WITH_VIEW = ("frame", "pace", "lens", "view", "shutter", "iso", "glass")


def sheet_line(chosen: Mapping[str, Any], values: Mapping[str, str], parts: tuple[str, ...] = SHORT) -> str:
    """The main settings in one line. chosen: value of each dial; values: the same in words; parts: which of them."""

    def said(part: str) -> str:
        if part == "pace":
            return values["frame_rate"] if chosen["interval_s"] == AT_SPEED else values["interval_s"]
        if part == "shutter":
            return "shutter automatic" if chosen["shutter_s"] == AUTOMATIC else values["shutter_s"]
        if part == "iso":
            return iso_words(chosen["iso_floor"], chosen["iso_ceiling"])
        if part == "glass":
            return " \u00b7 ".join([values[dial] for dial in GLASS if chosen.get(dial, NONE) != NONE] or [values["nd"]])
        return values.get(part, "")

    return " \u00b7 ".join(filter(None, map(said, parts)))


def iso_words(floor: int, ceiling: int) -> str:
    """A range of ISO. floor, ceiling: of it."""
    return f"ISO{NARROW}{floor}" + (f"\u2013{ceiling}" if ceiling > floor else "")


# Dials whose value alone tells what is meant.
_TELLING = ("nd", "colour_filter", "frame", "frame_rate")


def change_words(changes: Mapping[str, str], words: Mapping[str, str]) -> str:
    """What another way changes, in few words.

    changes: values in words by dial; words: what each of those dials is called, in the order of the sheet.
    """
    return ", ".join(
        changes[dial] if dial in _TELLING else word_and_value(word, changes[dial]) for dial, word in words.items()
    )
