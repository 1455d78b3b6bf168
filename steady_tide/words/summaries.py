"""The one line that a list of shots shows of a plan."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from steady_tide.core.quantities.frozen import Frozen
from steady_tide.words.dial_values import value_words
from steady_tide.words.plan_lines import sheet_line
from steady_tide.words.refusals import refused

OF_BRIEF = ("title", "daylight", "sky", "zone", "lasts_s")


class SummaryText(Frozen):
    """What a list of shots shows of one; without a plan only its title and the problem."""

    title: str
    camera: str | None = None
    ev100: tuple[float, float] | None = None
    daylight: bool = False
    sky: bool = False  # its light follows the hour
    zone: str | None = None  # of the place of its own sky
    lasts_s: float | None = None
    sheet: str | None = None
    given_up_stops: float | None = None
    pins: int = 0
    warnings: int = 0
    problem: str | None = None


def summary_text(kept: Mapping[str, Any]) -> SummaryText:
    """Put the summary of a shot into words. kept: values. Returns its text."""
    if "refusal" in kept:
        problem = refused(kept["refusal"]["code"], kept["refusal"]["facts"])
        return SummaryText(**{name: kept[name] for name in OF_BRIEF if name in kept}, problem=problem)
    shown = (*OF_BRIEF, "camera", "ev100", "given_up_stops", "pins", "warnings")
    return SummaryText(**{name: kept[name] for name in shown if name in kept}, sheet=_sheet(kept))


def _sheet(kept: Mapping[str, Any]) -> str | None:
    chosen, names = kept.get("chosen"), kept.get("names", {})
    if chosen is None:
        return None
    return sheet_line(chosen, {dial: value_words(dial, value, names) for dial, value in chosen.items()})
