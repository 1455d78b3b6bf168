"""Laws on briefs that nobody wrote: how often each applies, how often it is broken, and the smallest brief that shows it.

Usage: .venv/bin/python bench/laws.py [--briefs 10000] [--seed 1] [--workers 2] [--only LAW,LAW] [--out FILE.json]
A law that never applies, or that is broken in more than one of two hundred cases, ends the run with 1.
"""

from __future__ import annotations

import argparse
import json
import sys
from collections import Counter, defaultdict
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from steady_tide import library
from steady_tide.core.brief.brief import Brief
from steady_tide.core.laws.all_laws import LAWS
from steady_tide.core.laws.drawing import draw
from steady_tide.core.laws.law import Case, Law
from steady_tide.core.laws.shrinking import shrunk
from steady_tide.core.quantities.errors import BadBrief, NoLegalPlan

MOST = 1 / 200
WANTED = 1 / 1000
SHRUNK = 1  # of each law, as many broken cases are made smaller


@dataclass
class Tally:
    """What some briefs came to."""

    planned: int = 0
    without_plan: int = 0
    applied: Counter[str] = field(default_factory=Counter)
    broken: dict[str, list[tuple[int, str]]] = field(default_factory=lambda: defaultdict(list))

    def add(self, other: Tally) -> None:
        """Count another's, too."""
        self.planned += other.planned
        self.without_plan += other.without_plan
        self.applied += other.applied
        for law, found in other.broken.items():
            self.broken[law] += found


def drawn(seed: int, number: int) -> Brief:
    """One brief of a run. seed: of the run; number: which. The same pair gives the same brief."""
    return draw(np.random.default_rng([seed, number]), number, library.demo_kit(), library.knowledge())


def tally(seed: int, numbers: range, laws: tuple[str, ...]) -> Tally:
    """Hold some briefs of a run to laws. seed: of the run; numbers: of the briefs; laws: ids. Returns what was found."""
    kit, known = library.demo_kit(), library.knowledge()
    held, said = [law for law in LAWS if law.id in laws], Tally()
    for number in numbers:
        case = Case(drawn(seed, number), kit, known)
        try:
            _ = case.plan
        except (NoLegalPlan, BadBrief):
            said.without_plan += 1
            continue
        said.planned += 1
        for law in held:
            if law.applies(case):
                said.applied[law.id] += 1
                if why := law.broken(case):
                    said.broken[law.id].append((number, why))
    return said


def smallest(law: Law, brief: Brief) -> dict[str, Any]:
    """The smallest brief that breaks a law as another does."""
    kit, known = library.demo_kit(), library.knowledge()

    def breaks(asked: Brief) -> bool:
        case = Case(asked, kit, known)
        try:
            return law.applies(case) and bool(law.broken(case))
        except (NoLegalPlan, BadBrief):
            return False

    return shrunk(brief, breaks)


def main() -> int:
    """Print the table of laws. Returns 1 where one is broken too often, or never applies."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--briefs", type=int, default=10_000)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--workers", type=int, default=2)
    parser.add_argument("--only", default="")
    parser.add_argument("--examples", type=int, default=3)
    parser.add_argument("--out", default="")
    given = parser.parse_args()
    laws = tuple(given.only.split(",")) if given.only else tuple(law.id for law in LAWS)
    step = 25
    parts = [range(first, min(first + step, given.briefs)) for first in range(0, given.briefs, step)]
    whole = Tally()
    with ProcessPoolExecutor(given.workers) as pool:
        for part in pool.map(tally, [given.seed] * len(parts), parts, [laws] * len(parts)):
            whole.add(part)
    print(f"{whole.planned} briefs planned, {whole.without_plan} without a plan, seed {given.seed}")
    print(f"{'law':18} {'applies':>8} {'broken':>7} {'of 1,000':>9}")
    failed = False
    for law in (law for law in LAWS if law.id in laws):
        applied, found = whole.applied[law.id], whole.broken[law.id]
        share = len(found) / applied if applied else 1.0
        failed = failed or share > MOST
        print(f"{law.id:18} {applied:8} {len(found):7} {1000 * share:9.1f}{'' if share < WANTED else '  !'}")
        for number, why in found[: given.examples]:
            print(f"    {number}: {why}")
        for number, _ in found[:SHRUNK] if given.examples else ():
            print(f"    smallest: {json.dumps(smallest(law, drawn(given.seed, number)))}")
    if given.out:
        kept = {law: found for law, found in whole.broken.items()}
        with open(given.out, "w") as file:
            json.dump({"applied": whole.applied, "broken": kept}, file, indent=1)
    return int(failed)


if __name__ == "__main__":
    sys.exit(main())
