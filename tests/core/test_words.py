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
from steady_tide.core.planning.usual import USUAL
from steady_tide.words.templates import FORMS, say
from steady_tide.words.values import FORMS as VALUE_FORMS
from steady_tide.words.values import dial_word


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
    said = say(where, TEMPLATES[where], facts)
    assert "{" not in said
    assert "  " not in said


def test_every_dial_and_item_has_words_and_a_form() -> None:
    for kind in USUAL.dial_kinds:
        assert dial_word(kind.id)
        assert kind.form in {*VALUE_FORMS, "things"}, kind.id
    weights = library.knowledge().weights
    for item in USUAL.item_kinds:
        assert item.title == item.title.strip() != ""
        assert item.dial in {*USUAL.dials, "camera"}
        assert item.weight_key in weights.items
        for name in item.decided_by:
            assert name in {*USUAL.dials, *(kind.block for kind in USUAL.dial_kinds)}, item.id


def test_another_language_says_what_it_has_and_english_says_the_rest() -> None:
    other = {"item.over.title": "d\u00e9bord"}
    assert say("item.over.title", "brightest part over", None, other) == "d\u00e9bord"
    assert say("item.under.title", "dimmest part under", None, other) == "dimmest part under"
