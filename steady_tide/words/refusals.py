"""Why there is no plan, or why a camera has none, in words."""

from __future__ import annotations

from typing import Any

from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.judgement import Judgement
from steady_tide.core.planning.plan import Apart, CameraWhy
from steady_tide.core.quantities.errors import NoLegalPlan
from steady_tide.words.dial_values import dial_word, value_and_unit
from steady_tide.words.quantities import NARROW, capital, stops
from steady_tide.words.reasons import item_title


def pins_words(pins: list[list[Any]], names: dict[str, str], judgement: Judgement = USUAL) -> str:
    """Pins named with their values. pins: pairs of dial and value. Returns such as 'rate 25 fps and frame ...'."""
    return " and ".join(_pin(dial, value, names, judgement) for dial, value in pins)


def _pin(dial: str, value: Any, names: dict[str, str], judgement: Judgement) -> str:
    text, unit = value_and_unit(dial, value, names, judgement)
    kind = judgement.dials[dial]
    if text == kind.nothing:  # "no filter" needs no noun before it
        return text
    return f"{dial_word(dial, judgement)} {text}{NARROW + unit if unit else ''}"


def refusal_words(error: NoLegalPlan, judgement: Judgement = USUAL) -> str:
    """Why there is no plan: where, what, and how to mend it."""
    return refused(error.code, error.facts, judgement)


def refused(code: str, facts: dict[str, Any], judgement: Judgement = USUAL) -> str:
    """The same from code and quantities."""
    if code == "no_plan_kept":
        return "This shot has no plan."
    if code == "camera_gone":
        return f"The camera '{facts['camera']}' is no longer in the kit."
    if code == "no_mode":
        return f"scenario: the {facts['camera']} has no mode for it."
    if code == "pins":
        said = pins_words(facts["pins"], facts["names"], judgement)
        if len(facts["pins"]) == 1:
            return f"pins: the {facts['camera']} does not offer {said} here. Release it."
        return f"pins: the {facts['camera']} does not offer {said} together. Release one of them."
    if code == "camera_cannot":
        why = camera_words(CameraWhy.model_validate(facts["why"]), judgement)
        return f"pins.camera: the {facts['camera']} cannot do this. {why}"
    said = " ".join(
        f"{entry['camera']}: {camera_words(CameraWhy.model_validate(entry['why']), judgement)}"
        for entry in facts["cameras"]
    )
    return f"kit: no camera in it can do this. {said}"


def camera_words(why: CameraWhy, judgement: Judgement = USUAL) -> str:
    """Why a camera stands where it stands among others. Returns a sentence or two."""
    facts = why.facts
    if why.code in ("no_mode", "pins"):
        return capital(refused(why.code, facts, judgement).partition(": ")[2])
    if why.code == "ahead":
        return f"The {facts['other']} gives up {stops(facts['more_stops'])} stops more. {_apart_words(why.apart, judgement)}"
    if why.code == "pinned_though_worse":
        return f"Pinned. The {facts['other']} gives up {stops(-facts['more_stops'])} stops less."
    if why.code == "behind":
        return _apart_words(why.apart, judgement)
    if why.code == "refused":
        return f"{capital(facts['what'])}."
    return {
        "mount": f"It cannot be used {facts.get('held', '')}.",
        "no_interval_mode": "It has no interval mode.",
        "interval_modes_only": "It only makes interval films.",
        "only_one_able": "No other camera of the kit can do this shot.",
        "alone": "No other camera was looked at.",
    }[why.code]


def _apart_words(apart: Apart | None, judgement: Judgement) -> str:
    """What a plan gives up more than another, and what less."""
    if apart is None:
        return ""
    more = ", ".join(f"{item_title(item, judgement)} {stops(by)} more" for item, by in apart.more)
    less = f"; {item_title(apart.less[0], judgement)} {stops(apart.less[1])} less" if apart.less else ""
    return f"{capital(more or 'Nothing much more')}{less}."
