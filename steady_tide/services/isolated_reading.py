"""Reading large files in a process of its own, where the library that reads them would hold up everybody else."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar

from steady_tide.services.planning_pool import Desk, Turn

Read = TypeVar("Read")
ASIDE_FROM = 300_000  # bytes; less is read in a moment, and here


def read_aside(desk: Desk, read: Callable[..., Read], data: bytes, *more: Any) -> Read:
    """Read a file.

    desk: with the other process; read: a function of a module; data: the file; more: what it takes besides. Returns what
    was read. Raises what the reader raises, and DeskBusy.
    """
    if len(data) < ASIDE_FROM:
        return read(data, *more)
    found: Read = desk.ask(read, (data, *more), Turn.HAND).result()
    return found
