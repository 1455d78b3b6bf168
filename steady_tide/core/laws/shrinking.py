"""The smallest brief that still breaks a law."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

from steady_tide.core.brief.brief import Brief, read_brief
from steady_tide.core.quantities.errors import BadBrief

DEEPEST = 3


def shrunk(brief: Brief, breaks: Callable[[Brief], bool]) -> dict[str, Any]:
    """Leave out of a brief whatever it breaks a law without.

    brief: that breaks it; breaks: whether another one does. Returns what is left, as decoded JSON.
    """
    said = brief.model_dump(mode="json", exclude_defaults=True)
    smaller = True
    while smaller:
        smaller = False
        for other in _simpler(said):
            try:
                asked = read_brief(other)
            except BadBrief:
                continue
            if breaks(asked):
                said, smaller = other, True
                break
    return said


def _simpler(said: Any, depth: int = 0) -> Iterator[Any]:
    """The same with one field or one entry left out. said: decoded JSON. Yields others, the largest cut first."""
    if isinstance(said, dict):
        for name in said:
            if not (depth == 0 and name in ("light", "scenario")):
                yield {other: value for other, value in said.items() if other != name}
        if depth < DEEPEST:
            for name, value in said.items():
                for other in _simpler(value, depth + 1):
                    yield {**said, name: other}
    elif isinstance(said, list) and any(isinstance(entry, dict) for entry in said):
        for place in range(len(said)):
            if len(said) > 1:
                yield [entry for number, entry in enumerate(said) if number != place]
