"""A whole day worked out once, in words: budgets, presets, glass and packing for whoever shows a part of it."""

from __future__ import annotations

from steady_tide.core.brief.brief import School
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.kit import Kit
from steady_tide.core.outing.budget import budget_of
from steady_tide.core.outing.day import DayPlace, glass_of_day
from steady_tide.core.outing.packing import packing_of
from steady_tide.core.outing.planned import Outing
from steady_tide.core.outing.presets import PresetPlan
from steady_tide.words.day_cards import DayAround, DayCards, cards_of
from steady_tide.words.packing import packing_words


def subtitle_words(where: DayPlace) -> str:
    """Day and place in words."""
    said = f"{where.day:%A} {where.day.day} {where.day:%B %Y}" if where.day else ""
    return " \u00b7 ".join(part for part in (said, where.place) if part)


def whole_day(
    outing: Outing,
    where: DayPlace,
    kit: Kit,
    knowledge: Knowledge,
    crew: School,
    presets: tuple[PresetPlan, ...],
    camera: str | None = None,
    only: str | None = None,
) -> DayCards:
    """Cards for a day.

    outing: the planned day; where: the shoot; kit, knowledge, crew: as for planning; presets: of its cameras;
    camera: id, for one camera's day; only: key, for one shot's card. Returns the cards.
    """
    budget = budget_of(outing, kit, knowledge)
    wanted = Outing(tuple(shot for shot in outing.shots if only in (None, shot.key)))
    glass = glass_of_day(wanted, kit, knowledge, where.zone, crew)
    around = DayAround(where.zone, budget, presets, glass)
    packing = packing_words(packing_of(outing, budget, kit, knowledge)) if only is None and camera is None else ()
    made = cards_of(outing, where.title, subtitle_words(where), around, knowledge, camera, packing)
    if only is None:
        return made
    cards = tuple(entry for entry in made.cards if entry.key == only)
    return made.model_copy(update={"cards": cards, "presets": (), "title": cards[0].card.title if cards else ""})
