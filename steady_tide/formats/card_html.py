"""The field card as one self-contained HTML file: no network, ticks remembered, printable on a page."""

from __future__ import annotations

from base64 import b64encode
from collections.abc import Mapping, Sequence
from functools import cache
from hashlib import sha256
from pathlib import Path
from typing import TYPE_CHECKING, Literal

from steady_tide import library
from steady_tide.formats.settings_code import code_svg
from steady_tide.formats.sketch_svg import sketch_svg
from steady_tide.words.cards import Card, FrameOnCard
from steady_tide.words.day_cards import DayCards, KeyedCard

if TYPE_CHECKING:
    from jinja2 import Template

HERE = Path(__file__).parent
Ground = Literal["day", "night", "red"]


@cache
def _template() -> Template:
    from jinja2 import Environment, FileSystemLoader, StrictUndefined  # loaded when the first card is written

    # Jinja for its escaping: titles are typed by people.
    return Environment(loader=FileSystemLoader(HERE), autoescape=True, undefined=StrictUndefined).get_template(
        "card.html"
    )


@cache
def script_hash() -> str:
    """The one script of the page, as a policy names it: sha256 and its digest. It is the same in every card."""
    text = (HERE / "card.html").read_text()
    script = text[text.index("<script>") + len("<script>") : text.index("</script>")]
    return f"sha256-{b64encode(sha256(script.encode()).digest()).decode()}"


@cache
def _fonts() -> dict[str, str]:
    files = {
        "upright": "besley-latin-wght-normal.woff2",
        "italic": "besley-latin-wght-italic.woff2",
        "plain": "atkinson-hyperlegible-next-latin-wght-normal.woff2",
    }
    return {name: b64encode((HERE / "fonts" / file).read_bytes()).decode() for name, file in files.items()}


def write_card(card: Card, key: str, ground: Ground = "day") -> str:
    """Write one card as HTML.

    card: the card; key: under which a phone remembers its ticks; ground: the one it opens on. Returns the whole file as text.
    """
    alone = DayCards(title=card.title, subtitle="", cards=(KeyedCard(key=key, camera_id="", card=card),), presets=())
    return write_cards(alone, key, ground)


def write_cards(
    day: DayCards,
    key: str,
    ground: Ground = "day",
    ticks: Mapping[str, Mapping[str, bool]] | None = None,
    noted: Mapping[str, Mapping[str, str]] | None = None,
    frames: Mapping[str, Sequence[FrameOnCard]] | None = None,
) -> str:
    """Write the cards of a day as HTML, one shown at a time.

    day: the cards; key: under which a phone remembers its ticks; ground: the one it opens on; ticks: what is
    ticked already, by shot and check; noted: what was really set, by shot and dial; frames: drawn
    ones, by shot, their pictures within their addresses. Returns the whole file as text.
    """
    return _template().render(
        grounds={name: of for name, of in library.palette().grounds.items() if name != "print"},
        print=library.palette().grounds["print"],
        day=day,
        keys=[f"shot-{number}" for number in range(1, len(day.cards) + 1)],
        clocks=[entry.card.when[-5:] for entry in day.cards],
        codes=[
            code_svg(entry.card.settings_code, inline=True) if entry.card.settings_code else "" for entry in day.cards
        ],
        sketches=[_sketch(entry.card) for entry in day.cards],
        ticks=ticks or {},
        noted=noted or {},
        frames=frames or {},
        key_of_file="".join(c for c in key if c.isalnum() or c in "-_"),
        ground=ground,
        script=script_hash(),
        fonts=_fonts(),
    )


def _sketch(card: Card) -> str:
    """The framing's drawing within its address; empty where there is none."""
    if card.story is None or card.story.sketch is None:
        return ""
    return f"data:image/svg+xml;base64,{b64encode(sketch_svg(card.story.sketch, card.story.figure).encode()).decode()}"
