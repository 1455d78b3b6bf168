"""Waiting for what has to come, without waiting longer than it takes."""

from __future__ import annotations

import time
from collections.abc import Callable


def until(holds: Callable[[], bool], at_most_s: float = 30.0) -> None:
    """Ask again and again until something holds. Fails where it does not come."""
    end = time.monotonic() + at_most_s
    while not holds():
        assert time.monotonic() < end, "it did not come"
        time.sleep(0.05)
