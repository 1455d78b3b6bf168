"""Where something is: positions as people write them, and towns found by what they are called."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Sequence
from dataclasses import dataclass

LONGEST_TEXT, SHORTEST_NAME = 120, 2
_SIGNS = str.maketrans(
    {"\u2032": "'", "\u2019": "'", "\u00b4": "'", "\u2033": '"', "\u201d": '"', "\u00ba": "\u00b0", "\u2212": "-"}
)
_TOKEN = re.compile(r"(?P<number>-?\d+(?:\.\d+)?)|(?P<side>[nsew])(?![a-z])|(?P<mark>[\u00b0'\"])|(?P<other>[a-z]+)")
_WORDS = {"north": "n", "south": "s", "east": "e", "west": "w", "lat": "", "latitude": "", "lon": "", "longitude": ""}
_SIXTIETHS = (1.0, 60.0, 3600.0)


@dataclass(frozen=True)
class Town:
    """A town with its position, degrees, north and east positive, and its time zone; by size, largest first."""

    name: str
    country: str
    latitude: float
    longitude: float
    zone: str
    called: tuple[str, ...]  # all its names, plain, its own first


@dataclass
class _Part:
    """One coordinate while it is read."""

    numbers: list[float]
    side: str = ""


def plain_name(name: str) -> str:
    """A name without accents, capitals and marks, as it is searched. name: as written. Returns it plain."""
    bare = (c for c in unicodedata.normalize("NFKD", name) if not unicodedata.combining(c))
    return " ".join("".join(c if c.isalnum() else " " for c in bare).lower().split())


def read_position(text: str) -> tuple[float, float] | None:
    """Read a position in any usual form: 38.72, -9.14; 38,72 N 9,14 W; 38\u00b043'N 9\u00b008'24"W; N38 43.2 W9 8.4.

    text: as typed. Returns latitude and longitude, degrees, north and east positive; None where it is no position.
    """
    if len(text) > LONGEST_TEXT:
        return None
    plain = text.translate(_SIGNS).lower()
    if "." in plain:
        return _position(plain.replace(",", " "))
    # Without a point, a comma between two figures is most likely a decimal one.
    return _position(re.sub(r"(?<=\d),(?=\d)", ".", plain).replace(",", " ")) or _position(plain.replace(",", " "))


def _position(text: str) -> tuple[float, float] | None:
    parts = _parts(text)
    if parts is None or len(parts) != 2:
        return None
    degrees = [_degrees(part) for part in parts]
    sides = [part.side for part in parts]
    if None in degrees:
        return None
    first, second = (float(value or 0.0) for value in degrees)
    if sides[0] in ("e", "w") and sides[1] in ("n", "s", ""):
        first, second = second, first
    elif sides[0] in ("e", "w") or sides[1] in ("n", "s"):
        return None
    return (first, second) if abs(first) <= 90.0 and abs(second) <= 180.0 else None


def _parts(text: str) -> list[_Part] | None:
    """The numbers of the two coordinates, told apart by their sides, their degree signs, or by halves."""
    tokens: list[tuple[str, str]] = []
    for found in _TOKEN.finditer(text):
        kind, said = str(found.lastgroup), found.group()
        if kind == "other":
            if said not in _WORDS:
                return None
            kind, said = "side", _WORDS[said]
        if said:
            tokens.append((kind, said))
    if re.sub(_TOKEN, "", text).strip(" \t;/()") != "":
        return None
    numbers = [float(said) for kind, said in tokens if kind == "number"]
    sides = [n for n, (kind, _) in enumerate(tokens) if kind == "side"]
    if sides:
        return _by_sides(tokens, leading=sides[0] == 0)
    if any(said == "\u00b0" for _, said in tokens):
        starts = [
            n - 1 for n, (_, said) in enumerate(tokens) if said == "\u00b0" and n and tokens[n - 1][0] == "number"
        ]
        parts = [_Part([]) for _ in starts]
        for n, (kind, said) in enumerate(tokens):
            mine = sum(start <= n for start in starts) - 1
            if kind == "number":
                if mine < 0:
                    return None
                parts[mine].numbers.append(float(said))
        return parts
    if len(numbers) not in (2, 4, 6):
        return None
    half = len(numbers) // 2
    return [_Part(numbers[:half]), _Part(numbers[half:])]


def _by_sides(tokens: list[tuple[str, str]], leading: bool) -> list[_Part]:
    """Each side with the numbers before it, or after it where the first thing said is a side."""
    parts: list[_Part] = []
    waiting = _Part([])
    for kind, said in tokens:
        if kind == "number":
            (parts[-1] if leading and parts else waiting).numbers.append(float(said))
        elif kind == "side":
            if leading:
                parts.append(_Part([], said))
            else:
                waiting.side = said
                parts.append(waiting)
                waiting = _Part([])
    return [*parts, waiting] if waiting.numbers else parts


def _degrees(part: _Part) -> float | None:
    """Degrees, minutes and seconds as one number of degrees; None where they are none."""
    numbers = part.numbers
    if not 1 <= len(numbers) <= 3 or any(value % 1 for value in numbers[:-1]):
        return None
    if any(not 0 <= value < 60 for value in numbers[1:]) or (part.side and numbers[0] < 0):
        return None
    size = abs(numbers[0]) + sum(value / by for value, by in zip(numbers[1:], _SIXTIETHS[1:], strict=False))
    return -size if numbers[0] < 0 or part.side in ("s", "w") else size


def find_towns(asked: str, towns: Sequence[Town], most: int) -> list[Town]:
    """Towns by name: those that are called so, then those whose name begins so, then those with a word that does; of
    each, those by their own name before those by another of theirs.

    asked: a name or its beginning, after a comma a country; towns: largest first; most: how many. Returns them.
    """
    name, _, country = asked[:LONGEST_TEXT].partition(",")
    name, country = plain_name(name), plain_name(country)
    if len(name) < SHORTEST_NAME:
        return []
    ranks: tuple[list[Town], ...] = ([], [], [], [], [])
    for town in towns:
        rank = _rank(name, town.called)
        if rank is not None and (not country or any(w.startswith(country) for w in _tails(plain_name(town.country)))):
            ranks[rank].append(town)
    return [town for rank in ranks for town in rank][:most]


def _rank(name: str, called: tuple[str, ...]) -> int | None:
    own = called[0]
    if name in called:
        return 0 if name == own else 1
    if any(other.startswith(name) for other in called):
        return 2 if own.startswith(name) else 3
    return 4 if any(f" {name}" in other for other in called) else None


def _tails(name: str) -> list[str]:
    """A name, and what of it begins at each further word."""
    words = name.split()
    return [" ".join(words[n:]) for n in range(len(words))]


def position_words(latitude: float, longitude: float) -> str:
    """A position as it is read on a chart. Returns such as 38.7251\u00b0 N, 9.1498\u00b0 W."""
    north, east = "N" if latitude >= 0 else "S", "E" if longitude >= 0 else "W"
    return f"{abs(latitude):.4f}\u00b0 {north}, {abs(longitude):.4f}\u00b0 {east}"
