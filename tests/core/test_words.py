"""Sentences are whole: each says its quantities in a form that there is, and codes of the core have their words."""

from __future__ import annotations

import importlib
import pkgutil
from collections.abc import Iterator, Mapping
from string import Formatter
from typing import Any

import pytest

import steady_tide.words
from steady_tide import library
from steady_tide.core.light.resolving import resolve
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.quantities.errors import BadBrief
from steady_tide.words.dial_values import FORMS as VALUE_FORMS
from steady_tide.words.dial_values import dial_word, word_and_value
from steady_tide.words.light import source_words
from steady_tide.words.templates import FORMS, say
from tests.briefs import NOON, brief
from tests.checks import at_least_one

KNOWN = library.knowledge()


def texts_in(value: Any) -> Iterator[str]:
    if isinstance(value, str):
        yield value
    elif isinstance(value, Mapping):
        for inner in value.values():
            yield from texts_in(inner)
    elif isinstance(value, (tuple, list)):
        for inner in value:
            yield from texts_in(inner)


def templates() -> dict[str, str]:
    """Every template of the words layer and of the definitions, by where it stands."""
    found = {}
    for module in pkgutil.iter_modules(steady_tide.words.__path__, "steady_tide.words."):
        for name, value in vars(importlib.import_module(module.name)).items():
            if name.isupper() or (name.startswith("_") and name[1:].isupper()):
                found.update({f"{module.name}.{name}.{n}": text for n, text in enumerate(texts_in(value))})
    for item in USUAL.item_kinds:
        found.update({f"item {item.id} {n}": text for n, text in enumerate(texts_in(item.sentence))})
    for kind in USUAL.dial_kinds:
        said = (kind.phrase, kind.leads, kind.only)
        found.update({f"dial {kind.id} {n}": text for n, text in enumerate(texts_in(said))})
    return found


TEMPLATES = templates()


def test_there_are_templates_to_look_at() -> None:
    assert len(TEMPLATES) > 250
    assert sum("{" in text for text in TEMPLATES.values()) > 120


@pytest.mark.parametrize("where", [where for where, text in TEMPLATES.items() if "{" in text])
def test_a_template_says_its_quantities_in_forms_that_there_are(where: str) -> None:
    facts = {}
    for _, name, form, _ in Formatter().parse(TEMPLATES[where]):
        if name is None:
            continue
        assert name.isidentifier(), "a template names plain facts alone"
        assert not form or form in FORMS or form[-1] in "fgd", f"{form} is no form"
        facts[name] = (3200, 4000) if form == "kelvins" else 1.5 if form and form[-1] != "d" else 1
    said = say(TEMPLATES[where], facts)
    assert "{" not in said
    assert "  " not in said


def test_every_dial_and_item_has_words_and_a_form() -> None:
    for kind in USUAL.dial_kinds:
        assert dial_word(kind.id)
        assert kind.form in {*VALUE_FORMS, "things"}, kind.id
    weights = library.knowledge().weights
    for item in at_least_one(USUAL.item_kinds):
        assert item.title == item.title.strip() != ""
        assert item.dial in {*USUAL.dials, "camera"}
        assert item.weight_key in weights.items
        for name in item.decided_by:
            assert name in {*USUAL.dials, *(kind.block for kind in USUAL.dial_kinds)}, item.id


def test_a_sky_is_told_by_the_clock_and_the_name_of_its_place() -> None:
    sky = {
        **NOON,
        "start": "2026-06-11T23:00:00Z",
        "end": "2026-06-12T00:00:00Z",
        "latitude": -41.29,
        "longitude": 174.78,
    }
    named = resolve(brief(light={**sky, "place": "Wellington", "zone": "Pacific/Auckland"}).light, KNOWN.world)
    assert source_words(named.source) == "bright cloud, Wellington at 11:00"
    bare = resolve(brief(light=sky).light, KNOWN.world)
    assert source_words(bare.source) == "bright cloud at 23:00 UTC"
    # A time that names no zone of its own is what the clock at the place shows.
    typed = brief(
        light={**sky, "zone": "Pacific/Auckland", "start": "2026-06-12T11:00:00", "end": "2026-06-12T12:00:00"}
    )
    assert resolve(typed.light, KNOWN.world).ev100 == named.ev100


def test_a_zone_that_does_not_exist_is_refused_where_it_stands() -> None:
    with pytest.raises(BadBrief, match="no time zone"):
        brief(light={**NOON, "zone": "Middle/Earth"})


@pytest.mark.parametrize(
    ("word", "value", "said"),
    [
        ("highest ISO", "ISO\u202f200", "highest ISO 200"),
        ("frame rate", "25\u202ffps", "frame rate 25\u202ffps"),
        ("shutter", "automatic", "shutter automatic"),
    ],
)
def test_a_dial_beside_its_value_says_no_word_twice(word: str, value: str, said: str) -> None:
    assert word_and_value(word, value) == said
