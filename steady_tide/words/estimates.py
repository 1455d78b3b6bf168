"""What of a plan rests on estimates, in words."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from steady_tide.core.planning.estimates import EstimateCheck, EstimatedDial, RestsOn
from steady_tide.words.dial_values import dial_word, value_words

# What each matter is called, and what would replace its estimates.
MATTER_WORDS = {
    "noise": ("the sensor's noise", "Measure it with a grey card, in Kit."),
    "readout": ("how fast the sensor is read", "Film a pan past an upright edge, and note the lean."),
    "heat": ("how the body sheds heat", "Let it run in still air, and note when it warns."),
    "power": ("what the body draws", "Time a charge in a mode you use."),
    "view": ("how wide the views are", "Film a ruler from one metre, and note what is in the frame."),
    "steadying": ("what stabilisation does", "Film one scene with and without it, and compare the frames."),
    "colour": ("what the colour profiles hold", "Film a scene with a window in it, in each profile."),
    "recording": ("what the codecs are worth", "Draft the sheet from clips; bit rates stand in them."),
    "aperture": ("the lens's f-number", "It is printed on the lens, or stands in a still's data."),
    "metering": ("what the meter does", "Film a grey card, and look where it lands."),
}
NO_PLAN = "no plan"


class EstimatedDialText(EstimatedDial):
    """A dial that an estimate decides, in words."""

    word: str
    now: str
    at_worst: str
    at_best: str


class RestsOnText(RestsOn):
    """One matter of which only estimates are known, and what would replace them."""

    title: str
    mend: str
    dials: tuple[EstimatedDialText, ...]


class CheckText(EstimateCheck):
    """What of a plan rests on estimates of its camera's sheet, in words."""

    matters: tuple[RestsOnText, ...]


def estimate_check_text(check: EstimateCheck) -> CheckText:
    """Put what rests on estimates into words. check: values. Returns its text."""
    said = check.model_dump()
    for matter in said["matters"]:
        matter["title"], matter["mend"] = MATTER_WORDS[matter["matter"]]
        matter["dials"] = [_dial(dial, check.names) for dial in matter["dials"]]
    return CheckText.model_validate(said)


def _dial(dial: dict[str, Any], names: Mapping[str, str]) -> dict[str, Any]:
    def said(value: Any, has_plan: bool = True) -> str:
        return value_words(dial["dial"], value, names) if has_plan else NO_PLAN

    return {
        **dial,
        "word": dial_word(dial["dial"]),
        "now": said(dial["now"]),
        "at_worst": said(dial["at_worst"], dial["worst_has_plan"]),
        "at_best": said(dial["at_best"], dial["best_has_plan"]),
    }
