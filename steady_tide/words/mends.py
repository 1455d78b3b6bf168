"""Ways out of a failure, in words."""

from __future__ import annotations

from collections.abc import Mapping

from steady_tide.core.outing.mends import Mend
from steady_tide.words.dial_values import dial_word, value_words
from steady_tide.words.templates import say

MENDS = {
    "dial": "{word} {new} instead of {old}",
    "more_cells": "{count} more {cells} of {wh:g}\u202fWh",
    "cold_rated": "{best} in their place: {best_share:share} of a charge at {cells_c:celsius} in the body instead of {now:.0f}",
    "bank": "a power bank of {wh:wh} or more, its losses counted",
    "card": "another card of {gb:g}\u202fGB that holds {mb_s:.0f}\u202fMb/s",
    "pause": "{minutes}\u202fmin of waiting among the takes instead of {now_minutes:g}",
    "camera": "film it with the {camera}",
}


class MendText(Mend):
    """One way out, in words."""

    text: str


def mend_words(mend: Mend, names: Mapping[str, str]) -> str:
    """One way out as a clause. names: of glass and housings."""
    facts = dict(mend.facts)
    if mend.code == "dial":
        dial = facts["dial"]
        facts["word"] = dial_word(dial)
        facts["new"], facts["old"] = (value_words(dial, facts[key], names) for key in ("value", "now"))
    if mend.code == "more_cells":
        facts["cells"] = "cell" if facts["count"] == 1 else "cells"
    if mend.code == "cold_rated":
        facts |= {"now": 100 * facts["now_share"], "cells_c": round(facts["cells_c"])}
    return say(MENDS[mend.code], facts)


def mend_text(mend: Mend, names: Mapping[str, str]) -> MendText:
    """A way out with its words."""
    return MendText(**mend.model_dump(), text=mend_words(mend, names))
