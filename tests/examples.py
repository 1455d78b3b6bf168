"""How many made-up cases a property is tried with: few in every run, many with STEADY_TIDE_EXAMPLES=large."""

from __future__ import annotations

import os

from hypothesis import settings

MANY = os.environ.get("STEADY_TIDE_EXAMPLES") == "large"
TIMES = 10


def examples_of(few: int) -> int:
    """few: for every run. Returns how many this run tries."""
    return few * TIMES if MANY else few


def examples(few: int) -> settings:
    """Settings of a property that is tried with some other number of cases than usual. few: for every run."""
    return settings(max_examples=examples_of(few), deadline=None)
