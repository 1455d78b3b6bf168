"""Field cards on paper: A6, A5 or letter, one page a shot."""

from __future__ import annotations

from typing import Any, Literal

from steady_tide.formats.settings_code import code_svg
from steady_tide.formats.sketch_svg import sketch_svg
from steady_tide.formats.typeset import typeset
from steady_tide.words.cards import Card
from steady_tide.words.day_cards import DayCards
from steady_tide.words.story_cards import CardStory, ListedFilm

Paper = Literal["a6", "a5", "letter"]


def write_card_pdf(cards: DayCards, paper: Paper = "a6") -> bytes:
    """Write cards as PDF.

    cards: of one shot or of a day; a first page with presets and packing comes before more than one.
    paper: a6, a5 or letter. Returns the file. Each shot is set as large as its page lets it.
    """
    cover = len(cards.cards) > 1 or bool(cards.packing)
    data = {
        "paper": paper,
        "title": cards.title,
        "subtitle": cards.subtitle,
        "cover": cover,
        "packing": list(cards.packing),
        "presets": [
            {
                **plan.model_dump(include={"name", "taps", "taps_by_menu"}),
                "buttons": [plan.labels[dial] for dial in plan.quick],
                "presets": [preset.model_dump(include={"number", "name"}) for preset in plan.presets],
            }
            for plan in cards.presets
        ],
        "cards": [_card(entry.card) for entry in cards.cards],
        "films": [_film(film) for film in cards.films],
    }
    return typeset("card.typ", data)


def _card(card: Card) -> dict[str, Any]:
    said = card.model_dump(mode="json", exclude={"settings_code", "warnings", "frames", "story"})
    return {
        **said,
        "stops": [warning.text for warning in card.warnings if warning.severity == "stop"],
        "notes": [warning.text for warning in card.warnings if warning.severity != "stop"],
        "code": code_svg(card.settings_code) if card.settings_code else None,
        "story": None if card.story is None else _story(card.story),
    }


def _story(story: CardStory) -> dict[str, Any]:
    said = story.model_dump(mode="json", exclude={"sketch"})
    return {**said, "drawing": None if story.sketch is None else sketch_svg(story.sketch, story.figure)}


def _film(film: ListedFilm) -> dict[str, Any]:
    said = film.model_dump(mode="json")
    for beat, told in zip(said["beats"], film.beats, strict=True):
        for line, framing in zip(beat["framings"], told.framings, strict=True):
            line["drawing"] = None if framing.sketch is None else sketch_svg(framing.sketch, framing.figure)
            del line["sketch"]
    return said
