"""A dial and its values as people read them."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.dials.dial_kind import AT_SPEED, AUTOMATIC, NONE, DialKind
from steady_tide.core.planning.judgement import Judgement
from steady_tide.words import quantities as writing
from steady_tide.words.quantities import NARROW
from steady_tide.words.templates import say

Names = Mapping[str, str]
_PLAIN = {
    "rectilinear": "straight lines",
    "rectilinear_level": "straight and level",
    "auto": "automatic",
    "light_red": "light red",
}
CAMERA = "camera"


def _word(value: Any) -> str:
    return _PLAIN.get(str(value), str(value))


# How values are written, by the form that a dial names. Those with a unit keep it behind a narrow space.
FORMS: dict[str, Callable[[Any], str]] = {
    "frame": writing.frame,
    "rate": lambda value: f"{value:g}{NARROW}fps",
    "interval": lambda value: "off" if value == AT_SPEED else f"every {value:g}{NARROW}s",
    "spaced": lambda value: str(value).replace("_", " ").replace("-", " "),
    "word": _word,
    "plain": str,
    "aperture": lambda value: f"f/{value:g}",
    "seconds": writing.seconds,
    "iso": lambda value: f"ISO{NARROW}{value}",
    "signed": writing.signed,
    "kelvin": lambda value: f"{value}{NARROW}K" if isinstance(value, int) else _word(value),
    "bits": lambda value: f"{value}-bit",
    "stops": lambda value: f"{value:g}{NARROW}stops",
    "switch": lambda value: "on" if value else "off",
    "bit_rate": lambda value: f"{value:g}{NARROW}Mb/s",
    "early": lambda value: f"{value:g}{NARROW}s before" if value else "off",
}
UNIT_BESIDE = {"rate", "seconds", "kelvin", "bit_rate"}  # forms whose unit can stand beside the value


def dial_word(dial: str, judgement: Judgement = USUAL) -> str:
    """A dial as people call it. dial: id. Returns words."""
    if dial == CAMERA:
        return CAMERA
    return say(judgement.dials[dial].word)


def word_and_value(word: str, value: str) -> str:
    """A dial and its value on one line: "highest ISO 200".

    word: the dial's; value: in words. The end of the word is not said twice.
    """
    last = word.rsplit(" ", 1)[-1]
    return f"{word} {value.removeprefix(f'{last}{NARROW}')}"


def value_words(dial: str, value: Any, names: Names | None = None, judgement: Judgement = USUAL) -> str:
    """A dial's value as people read it, with its unit.

    dial: id; value: one that the dial offers; names: of glass, housings and cameras by id. Returns text.
    """
    if dial == CAMERA:
        return (names or {}).get(str(value), str(value))
    return kind_words(judgement.dials[dial], value, names)


def kind_words(kind: DialKind, value: Any, names: Names | None = None) -> str:
    """The same for a dial that is at hand."""
    if value in (AUTOMATIC, None):
        return "automatic"
    if kind.form == "things":
        known = names or {}
        return kind.nothing if value == NONE else " + ".join(known.get(part, part) for part in str(value).split("+"))
    return FORMS[kind.form](value)


def value_phrase(dial: str, value: Any, names: Names | None = None, judgement: Judgement = USUAL) -> str:
    """A value as it stands in a sentence, where its dial is not named beside it. Returns text."""
    text = value_words(dial, value, names, judgement)
    if dial == CAMERA:
        return text
    kind = judgement.dials[dial]
    return kind.off if kind.off and not value else kind.phrase.format(value=text)


def value_and_unit(dial: str, value: Any, names: Names | None = None, judgement: Judgement = USUAL) -> tuple[str, str]:
    """A value and its unit apart, as a card shows them. Returns two texts, the second empty where there is no unit."""
    text = value_words(dial, value, names, judgement)
    form = judgement.dials[dial].form
    if form == "iso":
        return str(value), ""
    if form in UNIT_BESIDE:
        number, _, unit = text.partition(NARROW)
        return number, unit
    return text, ""
