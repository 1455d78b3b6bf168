"""Times of calls, for the benchmarks beside it."""

from __future__ import annotations

import time
from collections.abc import Callable


def times_ms(call: Callable[[], object], runs: int = 15) -> tuple[float, float, float]:
    """Least, median and most of some calls. Returns milliseconds."""
    found = []
    for _ in range(runs):
        began = time.perf_counter()
        call()
        found.append((time.perf_counter() - began) * 1000)
    found.sort()
    return found[0], found[len(found) // 2], found[-1]
