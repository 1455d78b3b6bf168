"""One's own numbers as they travel: what they are of, what they come to, from how many; and those that are switched on."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated
from urllib.parse import quote

from pydantic import Field

from steady_tide.core.quantities.frozen import Frozen

ANYBODY = ""  # in place of a person's name: the crew's


class OwnNumber(Frozen):
    """A number that one's own footage, ladders or notes taught.

    kind: one of the own kinds; of: what it is of, such as a person and a mount, in the kind's order; value, low, high: with
    the interval that holds it nine times in ten; spread: of single values; count: from how many; edition: counts up when
    the value is taken over anew; usual: what stood in its place, and names: of what it is of, both
    set where it enters.
    """

    kind: Annotated[str, Field(min_length=1, max_length=30)]
    of: dict[str, str]
    value: float
    low: float
    high: float
    spread: float
    count: Annotated[int, Field(ge=1)]
    edition: Annotated[int, Field(ge=1)] = 1
    usual: float | None = None
    names: dict[str, str] = Field(default_factory=dict)

    @property
    def key(self) -> str:
        """Its name among all own numbers."""
        return key_of(self.kind, self.of)


def key_of(kind: str, of: Mapping[str, str]) -> str:
    """The name of a number among all own ones. kind: of own numbers; of: what it is of. Returns a text."""
    return "/".join((kind, *(quote(part, safe="") for part in of.values())))


class Own(Frozen):
    """The own numbers that are switched on."""

    numbers: tuple[OwnNumber, ...] = ()

    def find(self, kind: str, *of: str) -> OwnNumber | None:
        """The number of a kind for something. of: in the kind's order. Returns None where there is none."""
        return next((one for one in self.numbers if one.kind == kind and tuple(one.of.values()) == of), None)

    def noise(self, hands: str | None) -> OwnNumber | None:
        """The least signal to noise that is good enough for a person, else for the crew. hands: the person."""
        theirs = None if not hands else self.find("noise", hands)
        return theirs or self.find("noise", ANYBODY)

    def shake(self, hands: str | None, mount: str) -> OwnNumber | None:
        """How a person shakes on a mount, else how the crew does, degrees a second. hands: the person."""
        theirs = None if not hands else self.find("shake", hands, mount)
        return theirs or self.find("shake", ANYBODY, mount)

    def without(self, kind: str, *of: str) -> Own:
        """The same without the numbers of a kind. of: what they are of, as far as it is named, from the end. Returns others."""
        keep = [
            one for one in self.numbers if one.kind != kind or tuple(one.of.values())[len(one.of) - len(of) :] != of
        ]
        return Own(numbers=tuple(keep))

    def metering(self, camera: str, light: str) -> OwnNumber | None:
        """How far a camera's meter exposes too much in a kind of light, stops."""
        return self.find("metering", camera, light)


class OwnUsed(Frozen):
    """An own number that a plan was made with, and what would have stood in its place."""

    key: str
    kind: str
    of: dict[str, str]
    names: dict[str, str]
    value: float
    low: float
    high: float
    usual: float | None
    count: int
    edition: int


def used(number: OwnNumber) -> OwnUsed:
    """A number as a plan tells it. number: laid in. Returns it."""
    return OwnUsed(
        key=number.key,
        kind=number.kind,
        of=number.of,
        names=number.names,
        value=number.value,
        low=number.low,
        high=number.high,
        usual=number.usual,
        count=number.count,
        edition=number.edition,
    )
