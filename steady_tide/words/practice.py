"""Questions, answers and how practice stands, in words."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import timedelta
from typing import Any

from steady_tide.core.brief.brief import Brief, PinValue
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.practice.question import Judged, Past, Question
from steady_tide.core.practice.schedule import Standing
from steady_tide.core.quantities.errors import BadInput, Fault
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.stops import camera_ev, half_turn_s, read_seconds
from steady_tide.words.dial_values import dial_word, value_words
from steady_tide.words.log import FAULT_WORDS
from steady_tide.words.looks import measures_words
from steady_tide.words.quantities import NARROW, quoted, seconds, stops
from steady_tide.words.reasons import reason_words
from steady_tide.words.schools import RIVALS

WRITTEN = {"s": "1/50", "stops": "6", "times": "4", "min": "90", "m": "1.5"}  # an answer, as it may be typed


class RowText(Frozen):
    """Values to choose from. word: of the dial; empty where there is none."""

    word: str
    values: tuple[str, ...]


class FrameText(Frozen):
    """A frame to look at. brief, settings: of which it is drawn; says: what it shows, for whoever cannot see it."""

    brief: Brief
    settings: dict[str, PinValue]
    says: str


class QuestionText(Frozen):
    """A question in words. hint: what is typed; unit: of a number; frames: what is looked at; moving: as a clip."""

    kind: str
    topic: str
    seed: int
    says: str
    form: str
    unit: str | None
    rows: tuple[RowText, ...]
    hint: str
    frames: tuple[FrameText, ...] = ()
    moving: bool = False


def question_text(question: Question, knowledge: Knowledge, gear: Mapping[str, str]) -> QuestionText:
    """Put a question into words. knowledge: for places; gear: names of glass, by id. Returns it."""
    return QuestionText(
        kind=question.kind,
        topic=question.topic,
        seed=question.seed,
        says=question_words(question, knowledge),
        form=question.form,
        unit=question.unit,
        rows=tuple(
            RowText(
                word=dial_word(row.dial) if row.dial and question.form == "each" else "",
                values=tuple(choice_words(question, n, place, gear) for place in range(len(row.values))),
            )
            for n, row in enumerate(question.rows)
        ),
        hint=hint_words(question),
        frames=tuple(
            FrameText(brief=question.brief, settings=frame.chosen, says=measures_words(frame.measures))
            for frame in question.frames
            if question.brief is not None
        ),
        moving=question.moving,
    )


def hint_words(question: Question) -> str:
    """What is typed. Returns text."""
    if question.form == "number":
        return f"in {question.unit}, such as {WRITTEN[question.unit or 's']}"
    if question.form == "each":
        return "one number for each row, such as " + " ".join("1" for _ in question.rows)
    return "the number" if question.form == "one" else "the numbers in order"


def read_answer(question: Question, text: str) -> Any:
    """An answer as it was typed. question: that was asked; text: a number, or places counted from one. Returns it in the question's form. Raises BadInput."""
    said = text.replace(",", " ").split() if question.form != "number" else [text.strip()]
    try:
        if question.form == "number":
            plain = said[0].replace(",", ".")
            return float(read_seconds(plain) if question.unit == "s" else plain)
        places = tuple(int(word) - 1 for word in said)
    except (ValueError, TypeError):
        how = "Type the numbers of your choice."
        if question.form == "number":
            how = f"Type such as {WRITTEN[question.unit or 's']}."
        raise BadInput(Fault("answer", f"'{text.strip()[:40]}' cannot be read", how)) from None
    return places[0] if question.form == "one" and len(places) == 1 else places


def question_words(question: Question, knowledge: Knowledge) -> str:
    """What is asked, in a sentence or two. question: to be asked; knowledge: for the words of places. Returns text."""
    return f"{_way(question)}{_asked_words(question, knowledge)}"


def _asked_words(question: Question, knowledge: Knowledge) -> str:
    facts = question.facts
    match question.code:
        case "half_turn":
            return f"Which shutter is half a turn at {facts['rate']} fps?"
        case "density":
            return (
                f"EV {facts['ev100']}, f/{facts['f_number']:g}, ISO 100, half a turn at {facts['rate']} fps: "
                "how many stops of ND does it take?"
            )
        case "slow":
            return f"Recorded at {facts['rate']} fps, shown at {facts['timeline']}: how many times slower is it?"
        case "minutes":
            return f"A card of {facts['card_gb']} GB at {facts['stream_mb_s']} Mb/s: how many minutes?"
        case "lamp":
            return f"A lamp gives {facts['lux_at_1m']} lux at 1 m: from how far does it give {facts['lux']} lux?"
        case "red":
            return f"In {facts['water']}, at which depth is a tenth of the red left?"
        case "dials":
            end = "graded afterwards" if facts["graded"] else "not graded"
            return (
                f"{_scene_words(facts, knowledge)}, {end}, on the {facts['camera_name']}: set these dials. "
                f"({facts['says']})"
            )
        case "price":
            low, high = facts["light"]
            return (
                f"{quoted(facts['use'])}, EV {low:.0f} to {high:.0f}, on the {facts['camera_name']}: "
                f"order {dial_word(facts['dial'])} by what it costs, the cheapest first."
            )
        case "wrong":
            return f"{_scene_words(facts, knowledge)}, on the {facts['camera_name']}: what is wrong with this {'clip' if question.moving else 'frame'}?"
        case "which":
            word = dial_word(facts["dial"])
            usual, other = (value_words(facts["dial"], facts[which], {}) for which in ("usual", "spoilt"))
            asked = value_words(facts["dial"], facts["value"], {})
            return (
                f"{_scene_words(facts, knowledge)}, on the {facts['camera_name']}: one was filmed with {word} {usual}, the other "
                f"with {other}. Which is the one with {asked}?"
            )
        case "range":
            return "Order these by the range that they hold, the largest first."
        case "menu":
            return f"On the {facts['camera_name']}, on which page is {quoted(facts['label'])}?"
    raise KeyError(question.code)


def _scene_words(facts: Mapping[str, Any], knowledge: Knowledge) -> str:
    """What is filmed, where and in which light. Returns a clause."""
    where = f", {knowledge.places[facts['place']].phrase}" if facts["place"] else ""
    low, high = facts["light"]
    light = f"EV {low:.0f}" if round(low) == round(high) else f"EV {low:.0f} to {high:.0f}"
    return f"{quoted(facts['use'])}{where}, {light}"


def _way(question: Question) -> str:
    """The way of working that a question asks for, where it asks for one. Returns a sentence."""
    said = question.facts.get("school") or {}
    ways = [RIVALS.get((axis, side), f"take {axis} {side}".replace("_", " ")) for axis, side in said.items()]
    return f"You {' and '.join(ways)}. " if ways else ""


def choice_words(question: Question, row: int, place: int, gear: Mapping[str, str]) -> str:
    """A value to choose. row, place: which; gear: names of glass, by id. Returns text."""
    of = question.rows[row]
    value = of.values[place]
    if of.dial is not None:
        return value_words(of.dial, value, gear)
    if question.kind == "wrong":
        return FAULT_WORDS[value]
    if question.kind == "which":
        return f"the {value}"
    return f"{value['camera']}, {value['profile']}" if isinstance(value, Mapping) else str(value)


def answer_words(question: Question, given: Any, gear: Mapping[str, str]) -> str:
    """An answer as people write it. given: in the form of the question; gear: names of glass. Returns text."""
    if question.form == "number":
        if question.unit == "s":
            return seconds(given)
        unit = "" if question.unit == "times" else f"{NARROW}{question.unit}"
        return f"{given:.3g}{unit}"
    if question.form == "one":
        return choice_words(question, 0, given, gear)
    if question.form == "order":
        return ", ".join(choice_words(question, 0, place, gear) for place in given)
    return ", ".join(
        f"{dial_word(row.dial or '')} {choice_words(question, n, place, gear)}"
        for n, (row, place) in enumerate(zip(question.rows, given, strict=True))
    )


def judged_words(question: Question, judged: Judged, gear: Mapping[str, str]) -> list[str]:
    """What is said of an answer: whether it is right, the best, what it costs, why. Returns lines."""
    best = answer_words(question, judged.best, gear)
    price = f"{stops(judged.price_stops)} stops"
    if judged.price_stops < 0.05:
        first = f"Right: {best}." if question.form != "number" else f"Right: {_worked(question, best)}"
    elif question.form == "number":
        first = f"{'Near enough' if judged.right else 'No'}, {price} off: {_worked(question, best)}"
    elif question.form == "one":
        first = f"No: {best}."
    elif judged.code == "not_together":
        first = f"Together that cannot be set. The best is {best}."
    elif question.form == "order":
        first = f"{'Near enough' if judged.right else 'No'}, a pair stands the wrong way round by {price}: {best}."
    else:
        first = f"{'Near enough' if judged.right else 'No'}, {price} more than the best: {best}."
    lines = [first]
    if question.form == "each":
        for row in question.rows:
            alone = judged.facts["alone"][row.dial]
            reason = judged.facts["reasons"][row.dial]
            why = "" if reason is None else reason_words(row.dial or "", reason, gear)
            cost = f" ({stops(alone)} stops alone)" if alone is not None and alone >= 0.05 else ""
            lines.append(f"{dial_word(row.dial or '')}{cost}: {why}".rstrip(": "))
    if question.code in ("wrong", "which"):
        facts = question.facts
        usual, other = (value_words(facts["dial"], facts[which], gear) for which in ("usual", "spoilt"))
        lines.append(
            f"{dial_word(facts['dial'])} {other} instead of {usual}: {stops(facts['price'])} stops more are given up"
        )
    if question.form == "order":
        sign = -1.0 if question.code == "range" else 1.0
        costs = question.facts["costs"]
        told = [f"{choice_words(question, 0, place, gear)} {stops(sign * costs[place])}" for place in judged.best]
        lines.append(f"{'; '.join(told)} stops")
    return lines


def _worked(question: Question, best: str) -> str:
    """The arithmetic of an answer, as it is done in the head."""
    facts = question.facts
    match question.code:
        case "half_turn":
            return f"{best}, half of 1/{facts['rate']} s."
        case "density":
            shutter = float(half_turn_s(facts["rate"]))
            held = float(camera_ev(facts["f_number"], shutter))
            return f"{best}: EV {facts['ev100']} less {held:.1f} of f/{facts['f_number']:g} and {seconds(shutter)}."
        case "slow":
            return f"{best} times, {facts['rate']} by {facts['timeline']}."
        case "minutes":
            rate = facts["stream_mb_s"]
            return (
                f"{best}: {facts['card_gb']} GB are {facts['card_gb'] * 8000} Mb, and {rate} Mb/s {rate * 60} a minute."
            )
        case "lamp":
            times = facts["lux_at_1m"] / facts["lux"]
            return f"{best}: {times:.3g} times less light is {times**0.5:.3g} times the distance."
        case "red":
            return f"{best}; half of that leaves about a third of it."
    raise KeyError(question.code)


def standing_words(found: Standing) -> str:
    """How practice stands, in a sentence. Returns text."""
    return f"{found.known} known, {found.due} due, {found.new} not asked yet"


def until_words(left: timedelta) -> str:
    """When something is asked again. Returns text such as in 3 days."""
    days = round(left / timedelta(days=1))
    return "tomorrow" if days <= 1 else f"in {days} days"


class JudgedText(Frozen):
    """An answer, judged, in words. best: places counted from one, or none; again: when it is asked again, empty where it is not counted; brief: that it is
    opened with on the Bench; camera: in whose sheet it stands, where there is no brief."""

    right: bool
    price_stops: float
    lines: tuple[str, ...]
    best: tuple[int, ...]
    again: str
    brief: Brief | None
    camera: str | None


def judged_text(
    question: Question, judged: Judged, knowledge: Knowledge, gear: Mapping[str, str], again: timedelta | None
) -> JudgedText:
    """Put a judged answer into words. knowledge: for places; gear: names of glass, by id; again: until it is asked again. Returns it."""
    brief, camera = question.brief, question.facts.get("camera")
    if brief is not None and camera is not None:  # on the camera that it was judged on
        brief = brief.model_copy(update={"pins": {**brief.pins, **question.pins, "camera": camera}})
    elif brief is not None:
        brief = brief.model_copy(update={"title": question_words(question, knowledge)[:200]})
    places = () if question.form == "number" else (judged.best,) if question.form == "one" else judged.best
    return JudgedText(
        right=judged.right,
        price_stops=judged.price_stops,
        lines=tuple(judged_words(question, judged, gear)),
        best=tuple(place + 1 for place in places),
        again="" if again is None else f"asked again {until_words(again)}",
        brief=brief,
        camera=None if brief is not None or not isinstance(camera, str) else camera,
    )


def deck_words(deck: str, scenarios: Mapping[str, str]) -> str:
    """What a deck is called. deck: id; scenarios: names of kinds of shot, by id. Returns text, empty where there are no words for it."""
    kind, _, of = deck.partition(":")
    if kind == "scenario":
        return (
            f"shots {scenarios[of]}"
            if scenarios[of].startswith(("under", "in ", "on ", "as "))
            else f"{scenarios[of]} shots"
        )
    if kind == "school":
        axis, _, side = of.partition(":")
        return RIVALS.get((axis, side), "")
    return "what went wrong in your takes"


def past_words(past: Past) -> str:
    """What went wrong in one's own takes. Returns a sentence."""
    said = [f"{FAULT_WORDS[fault]} {times}" for fault, times in past.faults]
    return f"takes of your Log: {', '.join(said)}" if said else "nothing went wrong in your takes"
