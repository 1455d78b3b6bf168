"""Reasons in words."""

from __future__ import annotations

from typing import Any

from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.dials.dial_kind import DialKind
from steady_tide.core.planning.items.item import Item
from steady_tide.core.planning.judgement import Judgement
from steady_tide.core.planning.plan import Cited, Lead, Reason
from steady_tide.words.dial_values import Names, value_phrase
from steady_tide.words.quantities import capital, stops
from steady_tide.words.templates import say


def item_title(item: str, judgement: Judgement = USUAL) -> str:
    """What an item of the ledger is called. item: id. Returns words."""
    return say(judgement.items[item].title)


def reason_words(dial: str, reason: Reason, names: Names, judgement: Judgement = USUAL) -> str:
    """Why a dial has its value.

    dial: id; reason: as planned; names: of glass and housings. Returns a sentence or two.
    """
    if reason.kind == "only":
        return _only(dial, reason, judgement)
    if reason.kind == "at_speed":
        return "No interval: it is filmed as it happens."
    if reason.kind == "pins":
        return "The only value that fits the pins."
    if reason.kind == "mode":
        return "The only choice for this shot."
    rival = value_phrase(dial, reason.rival, names, judgement)
    more = reason.more_stops or 0.0
    if reason.kind == "pinned":
        chosen = value_phrase(dial, reason.chosen, names, judgement)
        why = f" {_cited(reason.cited, chosen, rival, names, judgement)}" if reason.cited else ""
        return f"Pinned. Free, it would be {rival}, and {stops(-more)} stops less given up.{why}"
    if reason.kind == "close":
        return _close(dial, rival, reason.cited, judgement)
    if reason.kind == "others":
        return _with_others(rival, more, reason, dial, names, judgement)
    if reason.kind == "tie":
        assert reason.lost is not None
        assert reason.gained is not None
        return (
            f"{capital(rival)} gives up {stops(reason.gained[1])} stops less for {item_title(reason.gained[0], judgement)}, "
            f"and {stops(reason.lost[1])} more for {item_title(reason.lost[0], judgement)}."
        )
    assert reason.cited is not None
    chosen = value_phrase(dial, reason.chosen, names, judgement)
    lead = _lead(dial, reason.lead, names, judgement) if reason.lead else ""
    cheaper = ""
    if reason.also and stops(more) != stops(reason.near_stops or 0.0):
        cheaper = f" With {_dials(reason.also, judgement)}, too, {_amount(more)}."
    return f"{lead} {_cited(reason.cited, rival, chosen, names, judgement)}{cheaper}".strip()


NAMED_MOST = 3


def _dials(ids: tuple[str, ...], judgement: Judgement) -> str:
    """Dials as words in a row; many are summed up."""
    words = [judgement.dials[dial].noun or judgement.dials[dial].word for dial in ids]
    if len(words) > NAMED_MOST:
        words = [*words[: NAMED_MOST - 1], f"{len(words) - NAMED_MOST + 1} others"]
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} and {words[-1]}"


def _amount(more: float) -> str:
    return "the price is the same" if stops(more) == "0.0" else f"{stops(more)} stops more"


def _with_others(rival: str, more: float, reason: Reason, dial: str, names: Names, judgement: Judgement) -> str:
    """A rival that goes only with other dials turned, which are named."""
    with_what = f"with another {_dials(reason.also, judgement)}" if reason.also else "with other settings"
    if stops(more) == "0.0":
        said = f"{capital(rival)} goes only {with_what}, at the same price."
    else:
        said = f"{capital(rival)} goes only {with_what}: {_amount(more)}."
    if reason.cited is None:
        return said
    chosen = value_phrase(dial, reason.chosen, names, judgement)
    return f"{said} {_cited(reason.cited, rival, chosen, names, judgement)}"


def _only(dial: str, reason: Reason, judgement: Judgement) -> str:
    said = judgement.dials[dial].only
    by_water = (f"{reason.chosen}, wet", "wet") if reason.wet else ()
    key = next((key for key in (*by_water, reason.chosen) if key in said), None)
    return say(said[key]) if key is not None else "The only value this camera has."


def _close(dial: str, rival: str, cited: Cited | None, judgement: Judgement) -> str:
    """Two values less apart than is worth a word. cited: what the dial is judged by; plans of earlier versions lack it."""
    kind = judgement.dials[dial]
    tied = kind.tied if cited or not kind.tied_item else DialKind.tied
    return capital(say(tied, {**(cited.facts if cited else {}), "rival": rival}))


def _lead(dial: str, lead: Lead, names: Names, judgement: Judgement) -> str:
    facts = dict(lead.facts)
    if "glass" in facts:
        worn = [*facts["glass"], *([facts["colour"]] if facts["colour"] else [])]
        facts["worn"] = " + ".join(names.get(piece, piece) for piece in worn)
    return say(judgement.dials[dial].leads[lead.case], facts)


def _cited(cited: Cited, rival: str, chosen: str, names: Names, judgement: Judgement) -> str:
    """The sentence of an item. rival: whose stops are `theirs`; chosen: whose are `ours`."""
    item: Item = judgement.items[cited.item]
    sentence = item.sentence
    key = f"item.{item.id}.sentence"
    if not isinstance(sentence, str):
        assert cited.case is not None, item.id
        key, sentence = f"{key}.{cited.case}", sentence[cited.case]
    facts: dict[str, Any] = {
        **cited.facts,
        "rival": rival,
        "chosen": chosen,
        "theirs": cited.theirs,
        "ours": cited.ours,
        "more": cited.theirs - cited.ours,
    }
    return capital(say(sentence, facts))
