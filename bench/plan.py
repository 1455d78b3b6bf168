"""How long a plan takes on the demo sheet, and how that grows with the sheet.

Usage: .venv/bin/python bench/plan.py
Prints legal combinations, milliseconds (least, median and most; then the median with the other schools,
which are further searches), combinations a second, and the ratio to one NumPy pass
(an addition and a minimum) over the joint array that the search evaluates, from the same run.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import Any

import numpy as np

from steady_tide import library
from steady_tide.core.brief import read_brief
from steady_tide.core.kit import Kit
from steady_tide.core.planning.dials import all_free
from steady_tide.core.planning.planner import plan
from steady_tide.core.planning.search import search
from steady_tide.core.planning.situation import situation
from steady_tide.core.planning.space import space_of
from steady_tide.core.sheet import CameraSheet

BUDGET_MS = 60.0
BRIEFS: dict[str, dict[str, Any]] = {
    "quay in full sun, walking": {
        "light": {"kind": "place", "place": "full_sun"},
        "camera_move": {"mount": "walking"},
        "delivery": {"graded": True},
    },
    "lantern punts, tripod": {
        "scenario": "low_light",
        "light": {"kind": "place", "place": "lantern_lit_yard"},
        "camera_move": {"mount": "tripod"},
    },
    "mud race, slowed twice": {
        "scenario": "motion",
        "light": {"kind": "place", "place": "full_sun"},
        "camera_move": {"mount": "chest"},
        "delivery": {"slow_factor": 2},
    },
}


def times_ms(call: Callable[[], object], runs: int = 15) -> list[float]:
    """Sorted durations of a call. Returns milliseconds."""
    found = []
    for _ in range(runs):
        began = time.perf_counter()
        call()
        found.append((time.perf_counter() - began) * 1000)
    return sorted(found)


def widened(sheet: CameraSheet, times: int) -> CameraSheet:
    """The sheet with its modes repeated under slightly other sizes, to measure growth."""
    modes = [
        mode.model_copy(update={"width": mode.width - 16 * n, "height": mode.height - 8 * n})
        for n in range(times)
        for mode in sheet.modes
    ]
    return sheet.model_copy(update={"modes": tuple(modes)})


def main() -> None:
    """Measure and print."""
    kit, known = library.demo_kit(), library.knowledge()
    sheet = kit.cameras[0]
    space = space_of(sheet, kit.filters)
    print(
        f"{sheet.name}: {sheet.mode_count} modes, {len(space.pictures)} pictures, {space.combinations:,} legal combinations with the glass\n"
    )
    print(
        f"{'brief':<28}{'plan, ms':>24}{'with schools':>14}{'search alone':>14}{'combinations/s':>17}{'x one pass':>12}"
    )
    for name, data in BRIEFS.items():
        brief = read_brief({"title": name, **data})
        at = situation(brief, known)
        whole = times_ms(lambda brief=brief: plan(brief, kit, known, schools=False))
        schools = times_ms(lambda brief=brief: plan(brief, kit, known))
        alone = times_ms(lambda at=at: search(at, space, all_free(space)))
        solution = search(at, space, all_free(space))
        joint = np.concatenate([group.joint.ravel() for group in solution.groups])
        one_pass = times_ms(lambda joint=joint: (joint + 1.0).min())
        per_second = space.combinations / (alone[len(alone) // 2] / 1000)
        print(
            f"{name:<28}{whole[0]:>8.1f} /{whole[len(whole) // 2]:>6.1f} /{whole[-1]:>6.1f}{schools[len(schools) // 2]:>14.1f}{alone[len(alone) // 2]:>14.1f}"
            f"{per_second:>17.2e}{alone[len(alone) // 2] / one_pass[len(one_pass) // 2]:>12.0f}"
        )
    print(f"(least / median / most; the budget for a plan is {BUDGET_MS:.0f} ms)\n")
    print("growth of the search with the sheet")
    at = situation(read_brief({"title": "growth", **BRIEFS["quay in full sun, walking"]}), known)
    base = 0.0
    for times in (1, 2, 4, 8):
        larger = space_of(widened(sheet, times), kit.filters)
        took = times_ms(lambda larger=larger: search(at, larger, all_free(larger)), runs=7)[3]
        base = base or took
        print(
            f"  {times} x modes: {larger.combinations:>18,} combinations {took:>8.1f} ms, {took / base:.2f} x the time"
        )
    assert isinstance(kit, Kit)


if __name__ == "__main__":
    main()
