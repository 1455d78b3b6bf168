"""Remembering what a pure function gave for the very same things: frozen values that are too large to compare."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache, wraps
from typing import Any, ParamSpec, TypeVar

P = ParamSpec("P")
T = TypeVar("T")
KEPT = 64


class Same:
    """A thing that equals only itself; it keeps the thing alive, so that nothing else can take its place."""

    __slots__ = ("thing",)

    def __init__(self, thing: Any) -> None:
        self.thing = thing

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Same) and other.thing is self.thing

    def __hash__(self) -> int:
        return id(self.thing)


def once_for_each(function: Callable[P, T]) -> Callable[P, T]:
    """Work a pure function out once for the very same arguments, the last few of them.

    function: without keyword arguments; its arguments and its result are never changed. Returns it, remembering.
    """

    @lru_cache(maxsize=KEPT)
    def remembered(*things: Same) -> T:
        return function(*(same.thing for same in things))  # type: ignore[call-arg]

    @wraps(function)
    def asked(*args: P.args, **kwargs: P.kwargs) -> T:
        assert not kwargs
        return remembered(*(Same(arg) for arg in args))

    return asked
