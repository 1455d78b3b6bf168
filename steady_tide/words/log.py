"""Takes, ladders, notes and what recurs, in words."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from steady_tide.core.log.judging import Contradiction, RungFacts
from steady_tide.core.log.ladder import Ladder, NotHeld
from steady_tide.core.log.notes import CardNote, ChargeNote, GlassNote, HeatNote, Note, ReadoutNote, SteadyingNote
from steady_tide.core.log.posterior import Estimated
from steady_tide.core.log.quantities import BITS, LEFT, LESS_IS_BETTER, SMEAR, SNR
from steady_tide.core.log.recurring import Recurring
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.words.dial_values import dial_word, value_words
from steady_tide.words.quantities import NARROW, capital, celsius, seconds, signed
from steady_tide.words.quantities import stops as one_decimal
from steady_tide.words.verdicts import MENDS

FAULT_WORDS: dict[str, str] = {
    "blown": "blown", "under": "under", "noise": "noisy", "colour": "colour off", "blur": "smeared", "shake": "shaky",
    "stutter": "stutters", "bands": "flicker bands", "tilt": "tilted", "fog": "fog or drops", "focus": "out of focus",
    "sound": "sound spoilt", "framing": "framing",
}  # fmt: skip
LIGHT_WORDS = {"day": "daylight", "dark": "dark", "lamps": "lamp-lit", "water": "underwater"}
_MENDED = {
    "blown": "blown", "under": "exposure_stops", "noise": "noise_stops", "colour": "cast_stops", "blur": "smear_px",
    "shake": "shake_share", "stutter": "repeated", "bands": "flicker", "tilt": "tilt_deg", "fog": "haze", "focus": "edge_px",
    "sound": "wind",
}  # fmt: skip
# What is likely behind a fault that recurs, where the group itself tells it.
_LIKELY = {
    ("under", "mount"): "the meter reads the sky",
    ("under", "camera"): "its meter gives too little",
    ("blown", "light"): "the meter reads the dark around",
    ("blown", "camera"): "its meter gives too much",
    ("shake", "mount"): "that mount shakes more than stabilisation holds",
    ("shake", "hands"): "that hand shakes more than stabilisation holds",
    ("noise", "light"): "the light asks for more gain than is good",
    ("blur", "mount"): "what moves asks for a faster shutter",
}


def recurring_line(one: Recurring, names: Mapping[str, str]) -> str:
    """What recurs. names: of cameras and mounts by id. Returns a sentence such as: 7 of 12 chest mount takes under: the meter
    reads the sky."""
    groups: dict[str, Callable[[], str]] = {
        "light": lambda: f"{LIGHT_WORDS.get(one.of, one.of)} takes",
        "place": lambda: f"takes at {one.of}",
        "scenario": lambda: f"{one.of.replace('_', ' ')} takes",
    }
    of = groups.get(one.by, lambda: f"{names.get(one.of, one.of)} takes")()
    fault = FAULT_WORDS[one.fault]
    said = f"{one.with_it} of {one.count} {of} {fault}"
    if one.by == "hands":
        said = f"{one.with_it} of {one.of}\u2019s {one.count} takes {fault}"
    likely = _LIKELY.get((one.fault, one.by))
    return f"{said}: {likely}" if likely else said


def recurring_more(one: Recurring) -> str:
    """Beside what recurs: how it is elsewhere, and what would mend it."""
    elsewhere = f"{100.0 * one.others_share:.0f}{NARROW}% of all other takes"
    mend = MENDS.get(_MENDED.get(one.fault, ""))
    return f"{elsewhere}; {mend}" if mend else elsewhere


QUANTITIES: dict[str, Callable[[float], str]] = {
    SNR: lambda value: f"{value:.1f} signal to noise",
    SMEAR: lambda value: f"{value:.1f}{NARROW}px of smear",
    LEFT: lambda value: f"{value:.2f}° of wander left",
    BITS: lambda value: f"{value:.2f} bits a pixel",
}


def amount_words(quantity: str | None, amount: float | None, measured: bool) -> str:
    """What a rung comes to. quantity, amount: of its ladder; measured: else as planned. Returns text, empty where nothing is
    judged."""
    if quantity is None or amount is None:
        return ""
    return f"{QUANTITIES[quantity](amount)}{'' if measured else ', as planned'}"


def _said(dial: str, value: Any, names: Mapping[str, str] | None = None) -> str:
    """A dial's value in words; as it stands where it came with a file and is none that the dial has."""
    try:
        return value_words(dial, value, names)
    except (AttributeError, KeyError, TypeError, ValueError):
        return str(value)


def _dial(dial: str) -> str:
    return dial_word(dial) if dial in USUAL.dials else dial.replace("_", " ")


def ladder_word(dial: str) -> str:
    """What a ladder of a dial is about, in a word."""
    return "ISO" if dial == "iso_ceiling" else _dial(dial)


def ladder_title(ladder: Ladder, camera: str, shot: str) -> str:
    """What a ladder is called. camera, shot: their names."""
    return f"{capital(ladder_word(ladder.dial))} on the {camera}, {shot}"


def rung_label(ladder: Ladder, rung: int) -> str:
    """A rung's value as people read it, with its dial where the value is a bare number."""
    value = _said(ladder.dial, ladder.rungs[rung].value)
    return f"ISO {value}" if ladder.dial == "iso_ceiling" and not value.startswith("ISO") else value


def not_held_words(one: NotHeld, names: Mapping[str, str]) -> str:
    """What cannot stay the same. names: of glass. Returns a sentence."""
    facts = one.facts
    if one.what == "exposure_time":
        return (
            f"The camera chooses the exposure time: it moves from {seconds(facts['low'])} to {seconds(facts['high'])}."
        )
    if one.what == "gain":
        return f"The camera chooses the gain: it moves from ISO {facts['low']:.0f} to {facts['high']:.0f}."
    if one.what == "brightness":
        return (
            f"Brightness moves by {one_decimal(facts['stops'])} stops, for exposure is fixed. Judge what the ladder is about, "
            "not the light."
        )
    if one.what == "field":
        return f"The field moves from {facts['low']:.0f} to {facts['high']:.0f}°: stand so that the subject stays as large."
    values = ", ".join(_said(facts["dial"], value, names) for value in facts["values"])
    return f"{capital(_dial(facts['dial']))} cannot stay: {values}."


def step_words(ladder: Ladder) -> list[str]:
    """The steps of a ladder, one for each take."""
    word = ladder_word(ladder.dial)
    steps = []
    for number, rung in enumerate(ladder.order):
        label = _said(ladder.dial, ladder.rungs[rung].value)
        same = number > 0 and ladder.order[number - 1] == rung
        named = label if label.startswith(word) else f"{word} {label}"
        steps.append(f"{'leave' if same else 'set'} {named}, film {ladder.take_s:.0f}{NARROW}s")
    return steps


def changed_words(changed: Mapping[str, tuple[Any, Any]], names: Mapping[str, str]) -> list[str]:
    """What the shot's plan has otherwise than the ladder held."""
    return [
        f"{_dial(dial)} {_said(dial, before, names)} → {_said(dial, after, names)}"
        for dial, (before, after) in changed.items()
    ]


def statement(
    ladder: Ladder, told: RungFacts, amount: tuple[float, bool] | None, camera: str, light: str | None
) -> str:
    """What somebody said of a rung, with its evidence. amount: of the ladder's quantity, and whether measured. Returns a sentence
    such as: ISO 1600 on the Limpet 7 in the dark, 8.3 signal to noise: good enough for Wren, 3 of 3."""
    where = {"day": " in daylight", "dark": " in the dark", "lamps": " under lamps", "water": " under water"}.get(
        light or "", ""
    )
    said = "" if amount is None else f", {amount_words(ladder.quantity, *amount)}"
    verdict = "good enough" if told.good * 2 > told.of else "not good enough" if told.good * 2 < told.of else "in doubt"
    count = told.good if verdict != "not good enough" else told.of - told.good
    return (
        f"{rung_label(ladder, told.rung)} on the {camera}{where}{said}: {verdict} for {told.who}, {count} of {told.of}."
    )


def limit_words(quantity: str, limit: Estimated, who: str) -> str:
    """From where on somebody accepts. Returns a sentence."""
    say = QUANTITIES[quantity]
    worst = "up to" if quantity in LESS_IS_BETTER else "from"
    span = f"{say(limit.low).split(' ')[0].split(NARROW)[0]} to {say(limit.high)}"
    return (
        f"Good enough for {who} {worst} {say(limit.value)}, by {limit.count} answers; nine times in ten it is {span}."
    )


def contradiction_words(one: Contradiction, ladders: Mapping[str, str]) -> str:
    """What does not go together. ladders: their titles by id. Returns a sentence."""
    say = QUANTITIES[one.quantity]
    return (
        f"{one.who} took {say(one.accepted)} ({ladders.get(one.accepted_ladder, '')}) and refused {say(one.refused)} "
        f"({ladders.get(one.refused_ladder, '')}), which is {one_decimal(one.apart)} stops better."
    )


NOTE_TITLES = {
    "charge": "Charge", "heat": "Heat stop", "readout": "Readout", "glass": "Filter", "card": "Card", "steadying": "Stabilisation",
}  # fmt: skip


def note_words(note: Note, names: Mapping[str, str]) -> str:
    """A note of gear in one line. names: of cameras, glass and cards by id."""
    if isinstance(note, ChargeNote):
        put = "" if note.put_in_wh is None else f"; {note.put_in_wh:g}{NARROW}Wh put in"
        return (
            f"{names.get(note.camera, note.camera)}, {note.width}{NARROW}×{NARROW}{note.height} at {note.frame_rate:g}{NARROW}fps: "
            f"from {note.from_percent:g} to {note.to_percent:g}{NARROW}% in {note.minutes:g}{NARROW}min at {celsius(note.air_c)}{put}"
        )
    if isinstance(note, HeatNote):
        return f"{names.get(note.camera, note.camera)}: hot after {note.minutes:g}{NARROW}min at {celsius(note.air_c)}"
    if isinstance(note, ReadoutNote):
        return (
            f"{names.get(note.camera, note.camera)}: leans {note.lean_px:g}{NARROW}px in a pan of {note.pan_px:g}{NARROW}px a frame "
            f"at {note.frame_rate:g}{NARROW}fps"
        )
    if isinstance(note, GlassNote):
        cast = "".join(
            f", {band} {signed(value)}"
            for band, value in (("red", note.red_stops), ("blue", note.blue_stops))
            if value is not None
        )
        return f"{names.get(note.filter, note.filter)}: takes {note.stops:g}{NARROW}stops{cast}"
    if isinstance(note, CardNote):
        return f"{names.get(note.medium, note.medium)}: full at {note.recorded_gb:g}{NARROW}GB"
    assert isinstance(note, SteadyingNote)
    return f"{names.get(note.camera, note.camera)} on {note.level}: {note.with_cm:g} of {note.without_cm:g}{NARROW}cm of the ruler"


class TakeRow(Frozen):
    """One dial of a take: as planned, and as it was set where that was otherwise."""

    dial: str
    word: str
    planned: str
    really: str | None


def take_rows(chosen: Mapping[str, Any], really: Mapping[str, str], names: Mapping[str, str]) -> list[TakeRow]:
    """A take's settings beside its plan: those that were set otherwise first. chosen: of the plan; really: words by dial."""
    rows = [
        TakeRow(dial=dial, word=_dial(dial), planned=_said(dial, value, names), really=really.get(dial))
        for dial, value in chosen.items()
        if dial in SHOWN or dial in really
    ]
    rows += [
        TakeRow(dial=dial, word=_dial(dial), planned="", really=said)
        for dial, said in really.items()
        if dial not in chosen
    ]
    return sorted(rows, key=lambda row: row.really is None)


SHOWN = (
    "frame", "frame_rate", "view", "stabilisation", "shutter_s", "iso_floor", "iso_ceiling", "nd", "exposure_compensation",
    "white_balance_k", "profile", "bit_rate_mb_s",
)  # fmt: skip
