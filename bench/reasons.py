"""The reasons of the whole panel of briefs, read for what a reason must never be.

Usage: .venv/bin/python bench/reasons.py [--all]
Counts reasons by kind, and looks for: a change of 0.0 that is cited; an item that the plan itself gives up more than
the rival; a price that another planning does not find; rivals that turn other dials without naming them; sentences
that say one thing twice. With --all every fault is told.
"""

from __future__ import annotations

import re
import sys
from collections import Counter
from collections.abc import Iterator

from steady_tide import library
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan
from steady_tide.words.plans import plan_text

SMALL = 0.05


def faults(made: Plan) -> Iterator[str]:
    """What is wrong with the reasons of a plan. Yields sentences."""
    words = plan_text(made)
    for dial, reason in made.reasons.items():
        said = words.reasons[dial]
        if re.search(r"(?<![\d.])0\.0 stops", said):
            yield f"{dial}: a change of 0.0: {said}"
        cited = reason.cited
        if cited is not None and reason.kind == "decided" and cited.theirs - cited.ours < SMALL - 1e-9:
            yield f"{dial}: {cited.item} does not rise: {said}"
        if reason.kind == "decided" and reason.near_stops is not None and reason.more_stops is not None:
            if reason.near_stops < reason.more_stops - 1e-6:
                yield f"{dial}: the nearest rival is cheaper than the cheapest: {said}"
            if reason.near_stops - reason.more_stops > SMALL and not reason.also:
                yield f"{dial}: other dials are turned and not named: {said}"
        if reason.kind == "others" and not reason.also:
            yield f"{dial}: needs other settings that are not named: {said}"
        runner_up = made.runner_up_stops[dial]
        if reason.more_stops is not None and runner_up is not None:
            gap = runner_up - made.given_up_stops
            if abs(gap - reason.more_stops) > 1e-6:
                yield f"{dial}: tells {reason.more_stops:.3f} where the profile has {gap:.3f}"
        first, _, second = said.partition(". ")
        if second and first.strip(".") == second.strip("."):
            yield f"{dial}: says one thing twice: {said}"


def main() -> None:
    """Print kinds of reasons and faults."""
    kinds: Counter[str] = Counter()
    found = []
    kit, known = library.demo_kit(), library.knowledge()
    for entry in library.panel():
        made = plan(entry.read(), kit, known, schools=False)
        kinds.update(reason.kind for reason in made.reasons.values())
        found += [f"{entry.id}: {fault}" for fault in faults(made)]
    print(
        f"{len(library.panel())} briefs, {sum(kinds.values())} reasons: "
        + ", ".join(f"{k} {n}" for k, n in kinds.most_common())
    )
    print(f"{len(found)} faults")
    if "--all" in sys.argv:
        print("\n".join(found))


if __name__ == "__main__":
    main()
