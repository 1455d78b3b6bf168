"""The field card as one self-contained HTML file: no network, ticks remembered, printable on a page."""

from __future__ import annotations

from base64 import b64encode
from functools import cache
from pathlib import Path
from typing import Literal

from jinja2 import Environment, FileSystemLoader, StrictUndefined, Template

from steady_tide.core.card import Card

HERE = Path(__file__).parent
Ground = Literal["day", "night", "red"]


@cache
def _template() -> Template:
    # Jinja for its escaping: titles are typed by people.
    return Environment(loader=FileSystemLoader(HERE), autoescape=True, undefined=StrictUndefined).get_template(
        "card.html"
    )


@cache
def _fonts() -> dict[str, str]:
    files = {
        "upright": "besley-latin-wght-normal.woff2",
        "italic": "besley-latin-wght-italic.woff2",
        "plain": "atkinson-hyperlegible-next-latin-wght-normal.woff2",
    }
    return {name: b64encode((HERE / "fonts" / file).read_bytes()).decode() for name, file in files.items()}


def write_card(card: Card, key: str, ground: Ground = "day") -> str:
    """Write a card as HTML.

    card: the card; key: under which a phone remembers its ticks; ground: the one it opens on. Returns the whole file as text.
    """
    return _template().render(
        card=card, key="".join(c for c in key if c.isalnum() or c in "-_"), ground=ground, fonts=_fonts()
    )
