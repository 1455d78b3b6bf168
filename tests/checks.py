"""What keeps tests from checking nothing."""

from __future__ import annotations

from collections.abc import Iterable
from typing import TypeVar

T = TypeVar("T")


def at_least_one(things: Iterable[T]) -> list[T]:
    """The things, of which there must be some: a check on each of none is no check."""
    found = list(things)
    assert found, "there is nothing to check"
    return found
