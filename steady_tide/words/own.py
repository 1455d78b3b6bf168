"""One's own numbers in words: what they are, from what they come, what they change."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from steady_tide.core.brief.own_numbers import OwnUsed
from steady_tide.core.own.changes import OwnChange
from steady_tide.core.own.own_kind import Reading
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.words.dial_values import dial_word, value_words
from steady_tide.words.quantities import MINUS, NARROW, capital, percent
from steady_tide.words.quantities import stops as one_decimal

LIGHTS = {"day": "by day", "dark": "in the dark", "lamps": "under lamps", "water": "under water"}


def _plain(value: float) -> str:
    text = f"{value:.3g}" if abs(value) < 100 else f"{value:.0f}"
    return text.replace("-", MINUS)


def _unit(unit: str) -> Callable[[float], str]:
    return lambda value: f"{_plain(value)}{NARROW}{unit}" if unit else _plain(value)


def _signed_stops(value: float) -> str:
    sign = "+" if value >= 0.005 else MINUS if value <= -0.005 else ""
    return f"{sign}{abs(value):.2f}{NARROW}stops"


@dataclass(frozen=True)
class OwnWords:
    """How a kind of own number is told. title: with the names of what it is of; says: a value with its unit; what: it decides; source:
    what one reading of it is."""

    title: Callable[[Mapping[str, str]], str]
    says: Callable[[float], str]
    what: str
    source: str


def _who(names: Mapping[str, str]) -> str:
    return names.get("hands") or "the crew"


OWN_WORDS: dict[str, OwnWords] = {
    "noise": OwnWords(lambda of: f"noise limit of {_who(of)}", _unit("signal to noise"), "how much gain is taken", "judgement"),
    "metering": OwnWords(lambda of: f"meter of the {of['camera']} {LIGHTS.get(of['light'], of['light'])}", _signed_stops, "compensation", "clip"),
    "shake": OwnWords(lambda of: f"shake of {_who(of)}, {of['mount']}", _unit("°/s"), "stabilisation, frame rate and smear", "clip"),
    "leak": OwnWords(lambda of: f"what the {of['camera']} lets through on {of['level']}", percent, "stabilisation", "clip"),
    "keeps": OwnWords(lambda of: f"width that the {of['camera']} keeps on {of['level']}", percent, "view and stabilisation", "ruler"),
    "readout": OwnWords(lambda of: f"readout of the {of['camera']}", _unit("ms"), "lean in pans, bands of lamps", "pan"),
    "glass": OwnWords(lambda of: f"density of {of['filter']}", _unit("stops"), "which filter, and exposure", "reading"),
    "glass_red": OwnWords(lambda of: f"red cast of {of['filter']}", _signed_stops, "balance", "reading"),
    "glass_blue": OwnWords(lambda of: f"blue cast of {of['filter']}", _signed_stops, "balance", "reading"),
    "capacity": OwnWords(lambda of: f"a charge of the {of['camera']}", _unit("Wh"), "how long it lasts", "charge"),
    "draw": OwnWords(lambda of: f"draw of the {of['camera']} against its sheet", lambda value: f"{value:.2f}×", "how long it lasts", "charge"),
    "heat": OwnWords(lambda of: f"heat of the {of['camera']}", _unit("K/W"), "minutes to the heat stop", "heat stop"),
    "card": OwnWords(lambda of: f"room on {of['medium']}", _unit("GB"), "how much fits", "card"),
    "clock": OwnWords(lambda of: f"clock of the {of['camera']}", lambda value: _clock(value), "which clip is of which shot", "clip"),
}  # fmt: skip


def _clock(ahead_s: float) -> str:
    way = "ahead" if ahead_s >= 0 else "behind"
    minutes = abs(ahead_s) / 60.0
    return f"{minutes:.0f}{NARROW}min {way}" if minutes < 120 else f"{minutes / 60:.1f}{NARROW}h {way}"


def own_title(kind: str, names: Mapping[str, str]) -> str:
    """What an own number is. kind: of number; names: of what it is of. Returns a phrase."""
    return OWN_WORDS[kind].title(names)


def own_value(kind: str, value: float) -> str:
    """A value of an own number, with its unit."""
    return OWN_WORDS[kind].says(value)


def own_span(kind: str, low: float, high: float) -> str:
    """Between which values a number lies. Returns text with the unit once."""
    low_says, high_says = own_value(kind, low), own_value(kind, high)
    number, _, unit = low_says.partition(NARROW)
    return f"{number} to {high_says}" if unit and high_says.endswith(unit) else f"{low_says} to {high_says}"


def how_many(kind: str, count: int) -> str:
    """From how many of what a number of a kind comes. Returns text such as 6 clips."""
    return f"{count} {OWN_WORDS[kind].source}{'' if count == 1 else 's'}"


def used_line(used: OwnUsed) -> str:
    """An own number that a plan was made with. Returns a sentence's beginning, such as: your own shake of Wren, chest mount,
    28 °/s from 6 clips; typical 40 °/s."""
    line = f"your own {own_title(used.kind, used.names)}, {own_value(used.kind, used.value)} from {how_many(used.kind, used.count)}"
    return line if used.usual is None else f"{line}; typical {own_value(used.kind, used.usual)}"


class OwnText(Frozen):
    """An own number that a plan was made with."""

    key: str
    title: str
    says: str
    edition: int


def own_number_text(used: OwnUsed) -> OwnText:
    """The same in words."""
    return OwnText(
        key=used.key, title=own_title(used.kind, used.names), says=capital(used_line(used)), edition=used.edition
    )


class OwnChangeText(Frozen):
    """What an own number changes of a plan."""

    key: str
    says: str
    changes: tuple[str, ...]
    price: str


def own_change_text(change: OwnChange, given_up_stops: float, names: Mapping[str, str]) -> OwnChangeText:
    """What an own number changes. given_up_stops: of the plan with it; names: of glass and housings. Returns its text."""
    lines = tuple(
        f"{dial_word(one.dial)} {value_words(one.dial, one.now, dict(names))}, without it {value_words(one.dial, one.without, dict(names))}"
        for one in change.dials
    )
    if change.without_stops is None:
        price = "Without it there is no plan."
    elif abs(change.without_stops - given_up_stops) < 0.05 and not lines:
        price = "The plan is the same without it."
    else:
        price = f"{one_decimal(given_up_stops)} stops given up, without it {one_decimal(change.without_stops)}."
    return OwnChangeText(key=change.used.key, says=capital(used_line(change.used)), changes=lines, price=price)


def reading_line(kind: str, reading: Reading) -> str:
    """A reading that tells an own number. kind: of number. Returns a line."""
    value, says = own_value(kind, reading.value), reading.says
    if reading.accepted is not None:
        said = "good enough" if reading.accepted else "not good enough"
        how = "" if reading.source == "judged" else ", as planned"
        return f"{says.get('who', '')}: {value}{how}, {said} ({says.get('ladder', '')})"
    if reading.source == "run_down":
        return (
            f"{says['from']:g} to {says['to']:g}{NARROW}% in {says['minutes']:g}{NARROW}min at {says['air_c']:g}{NARROW}°C, "
            f"{says['width']:.0f}{NARROW}×{says['height']:.0f} at {says['frame_rate']:g}{NARROW}fps: {says['watts']:.2f}{NARROW}W, {value}"
        ).replace("-", MINUS)
    if reading.source == "charger":
        return f"{says['put_in_wh']:g}{NARROW}Wh put in for {says['from']:g} to {says['to']:g}{NARROW}%: {value}"
    if reading.source == "heat_stop":
        return f"stopped after {says['minutes']:g}{NARROW}min at {says['air_c']:g}{NARROW}°C: {value}".replace(
            "-", MINUS
        )
    if reading.source == "lean":
        return f"leans {says['lean_px']:g}{NARROW}px in a pan of {says['pan_px']:g}{NARROW}px a frame at {says['frame_rate']:g}{NARROW}fps: {value}"
    if reading.source == "ruler":
        return f"{says['with_cm']:g} of {says['without_cm']:g}{NARROW}cm: {value}"
    return value
