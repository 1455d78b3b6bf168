"""The packing list in words."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from steady_tide.core.outing.packing import Group, Packing, PackLine, Said
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.words.quantities import NARROW, TIMES, quoted
from steady_tide.words.refusals import refused
from steady_tide.words.templates import say

NAMES = {
    "named": "{name}",
    "lamp_like": "lamp of {lux_at_1m:g}\u202flx at 1\u202fm, {kelvin}\u202fK",
    "own_cell": "{camera} cell, charged, in the camera",
    "spare_cell": "{camera} spare cell",
    "card": "card",
    "drive": "external drive with its cable",
    "cloth": "lens cloth, blower",
    "inserts": "dry inserts, seal grease, a bucket of fresh water",
    "tether": "tether",
    "foam": "foam for the microphone",
    "torch": "torch, red light",
    "weights": "weight for the tripod",
    "warm": "warm pocket for the spare cells",
    "flags": "tape, flags, a black ground",
}
NOTES = {
    "charged_now": "{ready} of {owned} charged now",
    "formatted_now": "{ready} of {owned} formatted now",
    "lies": "{where}",
    "deep": "to {proof_m:g}\u202fm",
    "for_cameras": "for the {cameras_said}",
    "strength": "{lux_at_1m:g}\u202flx at 1\u202fm, {kelvin}\u202fK",
    "drawn": "{wh:.1f}\u202fWh drawn in all",
    "charged": "charged",
    "formatted": "formatted in its camera",
}
MISSING = {
    "more": "{count} more {what}{for_shots}",
    "charge": (
        "{short:wh} of charge for the {camera}, for {title}: spare cells, or a bank of {bank_wh}\u202fWh where it "
        "stands still"
    ),
    "room": "{short:gb} of room for the {camera}, for {title}",
    "pack": "another charged pack for the {camera}, for {title}",
    "density": "{stops:.0f} more stops of ND for the {camera}, for {title}",
    "no_plan": "{title} has no plan: {why}",
}


class LineText(Frozen):
    """One thing to pack, in words."""

    id: str
    group: Group
    name: str
    count: int
    have: int | None
    shots: tuple[str, ...]
    note: str


class PackingText(Frozen):
    """The packing list of a day, in words."""

    lines: tuple[LineText, ...]
    missing: tuple[str, ...]


def name_words(said: Said) -> str:
    """What a thing to pack is called."""
    return say(NAMES[said.code], said.facts)


def _note(said: Said) -> str:
    facts = {**said.facts, "cameras_said": ", ".join(said.facts.get("cameras", ()))}
    return say(NOTES[said.code], facts)


def _titles(titles: Sequence[str]) -> str:
    return ", ".join(quoted(title) for title in titles)


def _missing(said: Said) -> str:
    facts: dict[str, Any] = {**said.facts, "title": quoted(said.facts.get("shot", ""))}
    if said.code == "more":
        facts["what"] = name_words(Said.model_validate(facts["name"]))
        facts["for_shots"] = f", for {_titles(facts['shots'])}" if facts["shots"] else ""
    if said.code == "no_plan":
        facts["why"] = refused(facts["code"], facts["facts"])
    return say(MISSING[said.code], facts)


def packing_text(packing: Packing) -> PackingText:
    """Put a packing list into words. packing: codes and quantities. Returns its text."""
    return PackingText(
        lines=tuple(_line(line) for line in packing.lines), missing=tuple(_missing(said) for said in packing.missing)
    )


def _line(line: PackLine) -> LineText:
    return LineText(
        id=line.id,
        group=line.group,
        name=name_words(line.name),
        count=line.count,
        have=line.have,
        shots=line.shots,
        note="; ".join(_note(said) for said in line.notes),
    )


def packing_words(packing: Packing) -> tuple[str, ...]:
    """A packing list to tick, a line each."""
    return tuple(
        (f"{line.count}{NARROW}{TIMES}{NARROW}{line.name}" if line.count > 1 else line.name)
        + (" (not in the kit)" if line.have is not None and line.have < line.count else "")
        for line in packing_text(packing).lines
    )
