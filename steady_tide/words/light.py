"""The light of a brief in words: where it comes from, and what each step contributes."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any

from steady_tide.core.light.account import Step
from steady_tide.core.light.roles import key_of
from steady_tide.core.light.sources import Lamp
from steady_tide.words.quantities import NARROW
from steady_tide.words.templates import say

SKIES = {
    "clear": "clear sky",
    "haze": "hazy sun",
    "bright_cloud": "bright cloud",
    "overcast": "heavy overcast",
    "storm": "storm sky",
}
SHADES = {"open": "", "partial": ", partly in shade", "full": ", in the shade"}
STEPS = {
    "open_sky": "clear sky in the open",
    "cloud": "{sky}",
    "shade": "{shaded}",
    "lamp": "lamp {number}, {lux:.0f} lux",
    "surface": "thrown back by the surface",
    "overhead": "water overhead",
    "to_lens": "water to the lens",
    "lamps": "lamps",
}
SHADE_STEPS = {"open": "no shade", "partial": "partly in shade", "full": "in the shade"}


class StepText(Step):
    """One contribution, named."""

    name: str


def source_words(source: Mapping[str, Any]) -> str:
    """Where a light comes from. source: as resolved. Returns text without a stop."""
    code = source["code"]
    if code == "sky":
        start = datetime.fromisoformat(source["start"])
        # Where the place is known its clock is meant, and needs no name.
        form = "%H:%M" if source.get("zoned") else "%H:%M %Z"
        at = start.strftime(form).replace("UTC+", "+").strip()
        place = f", {source['place']}" if source.get("place") else ""
        return f"{SKIES[source['cloud']]}{SHADES[source['shade']]}{place} at {at}"
    if code == "lamps":
        lamps = "a lamp" if source["count"] == 1 else f"{source['count']} lamps"
        return f"{lamps} and {source_words(source['ambient'])}" if source["ambient"] else lamps
    if code == "water":
        return f"{source['name']}, {source_words(source['surface'])} above"
    if code == "place":
        return str(source["name"])
    return {"reading": "camera reading", "meter": "light meter"}[code]


def step_words(step: Step) -> str:
    """What contributes a step of the light."""
    facts = dict(step.facts)
    if step.code == "source":
        return source_words(facts)
    if step.code == "cloud":
        facts["sky"] = facts["cloud"].replace("_", " ")
    if step.code == "shade":
        facts["shaded"] = SHADE_STEPS[facts["shade"]]
    return say(STEPS[step.code], facts)


def steps_text(steps: tuple[Step, ...]) -> tuple[StepText, ...]:
    """Steps with their words."""
    return tuple(StepText(**step.model_dump(), name=step_words(step)) for step in steps)


def lamp_words(lamps: Sequence[Lamp]) -> tuple[str, ...]:
    """What each lamp throws on the subject. lamps: as they stand. Returns a clause for each."""
    key = key_of(lamps) if lamps else None
    aimed = {"separation": "on its edge", "background": "behind it"}
    return tuple(
        f"{'key lamp' if lamp is key else f'{lamp.role} lamp' if lamp.role else f'lamp {number}'}: "
        f"{lamp.lux:.0f}{NARROW}lx {aimed.get(lamp.role or '', 'on the subject')}"
        for number, lamp in enumerate(lamps, 1)
    )
