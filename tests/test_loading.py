"""What a process loads, and what it keeps: each takes what it needs."""

from __future__ import annotations

import subprocess
import sys

import pytest

# A clip is measured in a process of its own, plans in others: what they do not need makes everybody wait.
SPARED = [
    ("steady_tide.services.planning_tasks", ("sqlalchemy", "scipy", "fastapi")),
    ("steady_tide.core.rushes.collecting", ("scipy", "sqlalchemy", "steady_tide.core.planning.search")),
    ("steady_tide.jobs.worker", ("alembic", "scipy", "fastapi")),
    ("steady_tide.api.app", ("scipy", "alembic", "jinja2", "timezonefinder")),
]


def said(code: str) -> str:
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    return done.stdout.strip()


@pytest.mark.parametrize(("module", "spared"), SPARED, ids=[module for module, _ in SPARED])
def test_a_process_loads_no_more_than_it_needs(module: str, spared: tuple[str, ...]) -> None:
    loaded = said(f"import sys, {module}; print(*sorted(sys.modules))").split()
    assert module in loaded
    assert [name for name in spared if name in loaded] == []


FAULTS = """
import resource, numpy as np
from steady_tide.services.memory import keep_freed
{before}
def turn():
    for _ in range(50):
        kept = [np.ones(100_000) for _ in range(4)]
        del kept
turn()
began = resource.getrusage(resource.RUSAGE_SELF).ru_minflt
turn()
print(resource.getrusage(resource.RUSAGE_SELF).ru_minflt - began)
"""


@pytest.mark.skipif(sys.platform != "linux", reason="the switch is of the GNU C library")
def test_what_arrays_free_is_kept_for_the_next() -> None:
    """Counted in pages that the system had to hand out anew, in the same run."""
    usual, kept = int(said(FAULTS.format(before=""))), int(said(FAULTS.format(before="keep_freed()")))
    assert usual > 1000
    assert kept < usual / 10


SEARCHES = """
import gc
from steady_tide.services.memory import look_seldom
{before}
kept = [[] for _ in range(100_000)]
print(sum(of_age["collections"] for of_age in gc.get_stats()))
"""


def test_garbage_is_looked_for_seldom_but_is_found() -> None:
    usual, seldom = int(said(SEARCHES.format(before=""))), int(said(SEARCHES.format(before="look_seldom()")))
    assert usual > 100
    assert 1 <= seldom < usual / 5
