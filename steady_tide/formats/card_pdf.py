"""Field cards on paper: A6, A5 or letter, one page a shot."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any, Literal

from steady_tide.formats.settings_code import code_svg
from steady_tide.words.cards import Card
from steady_tide.words.day_cards import DayCards

HERE = Path(__file__).parent
Paper = Literal["a6", "a5", "letter"]


def write_card_pdf(cards: DayCards, paper: Paper = "a6") -> bytes:
    """Write cards as PDF.

    cards: of one shot or of a day; a first page with presets and packing comes before more than one.
    paper: a6, a5 or letter. Returns the file. Each shot is set as large as its page lets it.
    """
    # A typesetting library with its fonts beside it; it takes a moment to load, so it is loaded when it is needed.
    import typst

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
    }
    return typst.compile(
        HERE / "card.typ",
        root=HERE,
        font_paths=[HERE / "fonts"],
        ignore_system_fonts=False,  # titles may be in letters that our faces lack
        sys_inputs={"data": json.dumps(data)},
        format="pdf",
        pdf_tags=False,
    )


def _card(card: Card) -> dict[str, Any]:
    said = card.model_dump(mode="json", exclude={"settings_code", "warnings", "frames"})
    return {
        **said,
        "stops": [warning.text for warning in card.warnings if warning.severity == "stop"],
        "notes": [warning.text for warning in card.warnings if warning.severity != "stop"],
        "code": code_svg(card.settings_code) if card.settings_code else None,
    }
