"""The order of a day in words: windows of the light, and wishes that exclude each other."""

from __future__ import annotations

from typing import Any

from steady_tide.core.outing.order import Clash, DayOrder
from steady_tide.words.quantities import quoted
from steady_tide.words.templates import say

# What a shot may ask of the light of the day.
LIGHT_WINDOWS = {
    "daylight": "by daylight",
    "low_sun": "in the low sun",
    "not_harsh": "by day, not harsh",
    "twilight": "in the twilight",
    "dark": "in the dark",
    "moonlight": "by moonlight",
}
CLASHES = {
    "begins": "{title} begins at {at}",
    "window": "{title} is filmed {windows_said}",
    "light": "{title} is filmed {light} ({hours_said})",
    "no_such_light": "{title} is filmed {light}, and this day has no such light",
    "light_too_short": "{title} takes {takes_min} min {light}, and this day has {there_min} of such light at most",
    "window_too_short": "{title} takes {takes_min} min; {window} there are {there_min}",
    "day_too_short": "{title} takes {takes_min} min, and the day has {there_min}",
    "shots_too_long": "the shots take {takes_min} min with their setting up, and the day has {there_min}",
}
UNSEEN = "Nobody said where the shoot is, so the hours of light for {title}{more} were not looked at."


class OrderText(DayOrder):
    """An order of the day, or why there is none, in words."""

    says: tuple[str, ...]  # the wishes that cannot all be had
    left_out_says: tuple[str, ...]  # shots that were not placed, and why
    unseen_says: str  # empty where nothing was left unseen


def _named(window: dict[str, Any]) -> str:
    said = f"within {window['name']}" if window["typed"] else LIGHT_WINDOWS.get(window["name"], "within a window")
    return said if window["from"] is not None else f"{said} (the day has none)"


def clash_words(clash: Clash) -> str:
    """A wish that cannot be had beside the others."""
    facts: dict[str, Any] = {**clash.facts, "title": quoted(clash.title)}
    if "light" in facts:
        facts["light"] = facts["light"] or "in light as it was measured"
    if "hours" in facts:
        facts["hours_said"] = ", ".join(f"{hour['from']} to {hour['to']}" for hour in facts["hours"])
    windows = facts.get("windows", [])
    if windows:
        facts["window"] = _named(windows[0])
        by_name: dict[str, list[str]] = {}
        for window in windows:
            spans = by_name.setdefault(_named(window), [])
            if window["from"] is not None:
                spans.append(f"{window['from']} to {window['to']}")
        said = [f"{name} ({', '.join(spans)})" if spans else name for name, spans in by_name.items()]
        facts["windows_said"] = " or ".join(said)
    return say(CLASHES[clash.code], facts)


def order_text(order: DayOrder) -> OrderText:
    """Put an order into words. order: places and codes. Returns its text."""
    return OrderText(
        **order.model_dump(),
        says=tuple(clash_words(clash) for clash in order.clash),
        left_out_says=tuple(clash_words(clash) for clash in order.left_out),
        unseen_says=_unseen_words(order.unseen),
    )


def _unseen_words(titles: tuple[str, ...]) -> str:
    if not titles:
        return ""
    others = len(titles) - 1
    more = "" if not others else f" and {others} {'other' if others == 1 else 'others'}"
    return say(UNSEEN, {"title": quoted(titles[0]), "more": more})
