"""What a dial is: everything that anyone needs to know of it stands in one definition.

The planner's search, the pins, the reasons, the words, the card and the interface's rows are made from these.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

AUTOMATIC = "auto"
AT_SPEED = "off"  # no interval: film at speed
NONE = "none"
NOT_OFFERED = object()
NEAR_ENOUGH = 5e-3  # of a number that a person writes shorter than the camera has it

Reads = Callable[[Sequence[Any], Any], Any]
Writes = Callable[[Any, Any, Any], dict[str, Any]]


def as_offered(values: Sequence[Any], given: Any) -> Any:
    """Match what a person wrote with a camera's values: as it is, automatic, or a number near enough.

    values: that the camera has; given: as written. Returns the camera's own value, or NOT_OFFERED.
    """
    if given is None or (isinstance(given, str) and given in ("automatic", AUTOMATIC)):
        return next((value for value in (AUTOMATIC, "automatic", NONE, AT_SPEED) if value in values), NOT_OFFERED)
    if isinstance(given, bool):
        return NOT_OFFERED
    if given in values:
        return values[values.index(given)]
    if isinstance(given, (int, float)):
        near = [v for v in values if isinstance(v, (int, float)) and abs(v - given) <= NEAR_ENOUGH * abs(v)]
        return min(near, key=lambda v: abs(v - given)) if near else NOT_OFFERED
    return NOT_OFFERED


def in_words_order(value: Any) -> Any:
    """Values as they are: numbers by size, words by letter."""
    return value


@dataclass(frozen=True)
class DialKind:
    """One dial: where its values come from, how they are read, written and named, and where it is shown.

    block: of the search, that holds its candidates; the dial's own id where it stands alone, and then `offers` gives
    its values on a camera. read: the value of a candidate (of pictures: of all, from sheet and pictures).
    word: what people call it; form: how its values are written; phrase: a value in a sentence; noun: the dial in a sentence, its word where that
    serves; off: what is said in its
    place where the value is nothing; nothing: the word for
    none. row: of the sheet, where it stands beside others. reads: what a person may write for a value; writes: what
    a value comes to in a plan's settings, from the camera laid out, the whole choice and the value. settled: whether
    something else decides it, from situation and space. leads: what its value achieves, by case; lead: which case
    holds, and its quantities. only: what is said where there is no choice, by value. by_hand: put on by hand, in no
    menu. tied: what is said where the runner-up gives up no more than is worth a word, with `rival`, and the quantities of
    `tied_item`, the item whose quantities decided. tied_by_rules: the values of a sheet that its rules may tie to others'.
    """

    id: str
    block: str
    word: str
    form: str
    read: Callable[..., Any]
    offers: Callable[[Any], Sequence[Any]] | None = None
    order: Callable[[Any], Sequence[Any]] | None = None
    key: Callable[[Any], Any] = in_words_order
    phrase: str = "{value}"
    noun: str = ""
    off: str = ""
    nothing: str = "none"
    row: str = ""
    reads: Reads = as_offered
    writes: Writes | None = None
    settled: Callable[[Any, Any], bool] | None = None
    leads: Mapping[str, str] = field(default_factory=dict)
    lead: Callable[[Any, str], tuple[str, dict[str, Any]] | None] | None = None
    only: Mapping[Any, str] = field(default_factory=dict)
    tied: str = "{rival} gives up as much, to a tenth of a stop."
    tied_item: str = ""
    by_hand: bool = False
    listed: bool = True
    tied_by_rules: Callable[[Any], set[Any]] | None = None

    @property
    def alone(self) -> bool:
        """Whether it touches no other dial."""
        return self.offers is not None


@dataclass(frozen=True)
class Row:
    """A row of the setting sheet: dials that people think of together. The first of its dials in use is its main one."""

    id: str
    label: str
    main: str  # dial whose reason stands in the row


ROWS = (
    Row("frame", "Resolution", "frame"),
    Row("recorder", "Recording app", "recorder"),
    Row("rate", "Frame rate", "frame_rate"),
    Row("view", "Field of view", "view"),
    Row("steadying", "Stabilisation", "stabilisation"),
    Row("shutter", "Shutter", "shutter_s"),
    Row("aperture", "Aperture", "f_number"),
    Row("iso", "ISO range", "iso_ceiling"),
    Row("glass", "ND filter", "nd"),
    Row("exposure", "Exposure compensation", "exposure_compensation"),
    Row("balance", "White balance", "white_balance_k"),
    Row("focus", "Focus", "focus"),
    Row("colour", "Colour profile", "profile"),
    Row("sharpness", "Sharpness", "sharpness"),
    Row("stream", "Bit rate", "bit_rate_mb_s"),
    Row("sound", "Sound", "wind_reduction"),
    Row("power", "Power", "screen"),
)
