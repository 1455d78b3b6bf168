"""The set-up card on paper: presets side by side in the menu's order, and what is set once."""

from __future__ import annotations

from collections.abc import Mapping

from steady_tide.formats.typeset import typeset
from steady_tide.words.uses import SetUpCard


def write_set_up_pdf(card: SetUpCard, ticks: Mapping[str, bool]) -> bytes:
    """Write a set-up card as PDF, A5. card: of a camera; ticks: what is done already, by row. Returns the file."""
    return typeset("set_up.typ", {**card.model_dump(mode="json"), "ticks": dict(ticks)})
