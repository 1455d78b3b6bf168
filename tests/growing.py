"""How long something takes, as little disturbed as can be: what other tests hold in memory must not count."""

from __future__ import annotations

import gc
import time
from collections.abc import Callable


def least_seconds(call: Callable[[], object], runs: int = 3) -> float:
    """The least time of some runs, CPU of this process, without collecting garbage. Returns seconds."""
    found = []
    gc.disable()
    try:
        for _ in range(runs):
            began = time.process_time()
            call()
            found.append(time.process_time() - began)
    finally:
        gc.enable()
    return min(found)
