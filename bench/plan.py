"""How long plans take with the demo kit, how many combinations that covers, and how it grows with the sheet.

Usage: .venv/bin/python bench/plan.py [--against FOLDER]
With a folder that holds another checkout, such as the commit before: both plan the same briefs in turn, and the ratio
of their medians is told; nothing else is measured then.
Each plan is of a brief that was never asked before (the air is a hair warmer each time), unless said otherwise: a pin that is
turned is of the same brief as the one before.
For the largest demo sheet: legal combinations, milliseconds of a plan (least, median and most), of the
search alone, combinations a second, and the ratio to one NumPy pass (an addition and a minimum) over the
arrays of pictures, exposures and glass that the search is about, from the same run. Then all cameras ranked, with and without the other
schools; then synthetic sheets with 1, 2, 4 and 8 times the modes.
"""

from __future__ import annotations

import json
import os
import statistics
import subprocess
import sys
import time
from collections.abc import Callable
from itertools import count
from pathlib import Path
from typing import Any

import numpy as np

from steady_tide import library
from steady_tide.core.brief.brief import Brief, School, read_brief
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.kit import Kit
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.planning.camera_problem import CameraProblem
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.planner import plan
from steady_tide.core.planning.ranking import entries_of
from steady_tide.core.planning.search import search
from steady_tide.core.planning.situation import situation
from steady_tide.services.memory import keep_freed

PLAN_MS, RANKING_MS = 25.0, 150.0
SUN = {"kind": "place", "place": "full_sun"}
BRIEFS: dict[str, dict[str, Any]] = {
    "quay in full sun, walking": {"light": SUN, "camera_move": {"mount": "walking"}, "delivery": {"graded": True}},
    "lantern punts, tripod": {
        "scenario": "low_light",
        "light": {"kind": "place", "place": "lantern_lit_yard"},
        "camera_move": {"mount": "tripod"},
    },
    "mud race, slowed twice": {
        "scenario": "motion",
        "light": SUN,
        "camera_move": {"mount": "chest"},
        "delivery": {"slow_factor": 2},
    },
    "eelgrass, 3 to 7 m down": {
        "scenario": "underwater",
        "light": {"kind": "water", "surface": SUN, "depth_m": [3, 7], "water_type": "3C"},
        "camera_move": {"mount": "tray"},
    },
    "stars, six hours": {
        "scenario": "lapse",
        "light": {"kind": "place", "place": "starlight"},
        "camera_move": {"mount": "tripod"},
        "take": {"length_s": 21_600},
    },
    "quay with three pins": {
        "light": SUN,
        "camera_move": {"mount": "walking"},
        "pins": {"view": "rectilinear", "frame_rate": 25, "profile": "natural"},
    },
}


_turns = count(1)


def new_brief(name: str, pins: dict[str, Any] | None = None, same: bool = False) -> Brief:
    """A brief of the table. pins: instead of its own; same: as it stands there. Returns it, one that was never asked before
    unless it is to be the same."""
    data = BRIEFS[name] if pins is None else {**BRIEFS[name], "pins": pins}
    return read_brief({"title": name, **data, "air_c": 15.0 + (0 if same else next(_turns) * 1e-6)})


def times_ms(call: Callable[[], object], runs: int = 11) -> list[float]:
    """Sorted durations of a call. Returns milliseconds."""
    found = []
    for _ in range(runs):
        began = time.perf_counter()
        call()
        found.append((time.perf_counter() - began) * 1000)
    return sorted(found)


def median(times: list[float]) -> float:
    """The middle one. times: sorted. Returns it."""
    return times[len(times) // 2]


def bench_of(brief: Brief, kit: Kit, known: Knowledge, camera: CameraSheet) -> CameraProblem:
    """One camera laid out for a brief. Returns its bench."""
    at = situation(brief.in_school(School()), known, USUAL)
    bench = entries_of(at, kit, known, camera.id)[0].bench
    assert bench is not None, f"the {camera.name} cannot do it"
    return bench


def widened(sheet: CameraSheet, times: int) -> CameraSheet:
    """The sheet with its modes repeated under slightly other sizes, to measure growth."""
    modes = [
        mode.model_copy(update={"width": mode.width - 16 * n, "height": mode.height - 8 * n})
        for n in range(times)
        for mode in sheet.modes
    ]
    return sheet.model_copy(update={"modes": tuple(modes)})


def one_camera(kit: Kit, known: Knowledge, sheet: CameraSheet) -> None:
    """Plans on the largest sheet."""
    print(
        f"{'brief':<28}{'combinations':>14}{'plan, ms':>23}{'search, ms':>12}{'combinations/s':>16}{'x one pass':>12}"
    )
    for name, data in BRIEFS.items():
        brief = read_brief({"title": name, **data})
        bench = bench_of(brief, kit, known, sheet)
        free = bench.free_but()
        whole = times_ms(lambda name=name: plan(new_brief(name), kit, known, schools=False, only=sheet.id))
        alone = median(times_ms(lambda bench=bench, free=free: search(bench.at, bench.space, free)))
        cells = [
            (len(group.pictures), *group.of_rung.shape[:2]) for group in search(bench.at, bench.space, free).groups
        ]
        joint = np.ones(sum(pictures * rows * glasses for pictures, rows, glasses in cells))
        one_pass = median(times_ms(lambda joint=joint: (joint + 1.0).min()))
        print(
            f"{name:<28}{bench.space.combinations:>14.2e}{whole[0]:>8.1f} /{median(whole):>5.1f} /{whole[-1]:>6.1f}"
            f"{alone:>12.1f}{bench.space.combinations / (alone / 1000):>16.2e}{alone / one_pass:>12.0f}"
        )
    print(f"(plan: least / median / most; the budget is {PLAN_MS:.0f} ms)\n")


def all_cameras(kit: Kit, known: Knowledge) -> None:
    """Plans with all cameras ranked."""
    print(f"{'all ' + str(len(kit.cameras)) + ' cameras':<28}{'ranked, ms':>23}{'with schools':>14}")
    for name in BRIEFS:
        ranked = times_ms(lambda name=name: plan(new_brief(name), kit, known, schools=False), runs=7)
        schools = times_ms(lambda name=name: plan(new_brief(name), kit, known), runs=7)
        print(f"{name:<28}{ranked[0]:>8.0f} /{median(ranked):>5.0f} /{ranked[-1]:>6.0f}{median(schools):>14.0f}")
    print(f"(least / median / most; the budget is {RANKING_MS:.0f} ms)\n")


def _median_of_each(briefs: list[Brief], kit: Kit, known: Knowledge, only: str | None) -> float:
    took = [times_ms(lambda brief=brief: plan(brief, kit, known, schools=False, only=only), 1)[0] for brief in briefs]
    return median(sorted(took))


def turned(kit: Kit, known: Knowledge, sheet: CameraSheet) -> None:
    """A pin turned in a brief that was asked before: the same briefs, each value of some dials."""
    print(f"{'a pin turned':<28}{'one camera, ms':>16}{'all cameras, ms':>17}{'ratio':>8}")
    for name in BRIEFS:
        free = plan(new_brief(name, {}, same=True), kit, known, schools=False, only=sheet.id)
        pins = [
            {dial: value.value}
            for dial in ("nd", "shutter_s", "frame_rate", "view", "profile")
            for value in free.profiles[dial]
            if value.legal
        ][:24]
        briefs = [new_brief(name, pin, same=True) for pin in pins]
        one, every = (_median_of_each(briefs, kit, known, only) for only in (sheet.id, None))
        print(f"{name:<28}{one:>16.1f}{every:>17.1f}{every / one:>8.2f}")
    print()


def growth(kit: Kit, known: Knowledge, sheet: CameraSheet) -> None:
    """The search on sheets with more and more modes."""
    brief = read_brief({"title": "growth", **BRIEFS["quay in full sun, walking"]})
    base, combinations = 0.0, 0
    for times in (1, 2, 4, 8):
        larger = widened(sheet, times)
        bench = bench_of(brief, kit.model_copy(update={"cameras": (larger,)}), known, larger)
        free = bench.free_but()
        took = median(times_ms(lambda bench=bench, free=free: search(bench.at, bench.space, free), runs=7))
        base, combinations = base or took, combinations or bench.space.combinations
        print(
            f"  {times} x modes: {bench.space.combinations / combinations:.1f} x the combinations, {took:6.1f} ms, {took / base:.2f} x the time"
        )


ROUNDS = 3
PAIRED = """
import json, sys, time
sys.path.insert(0, sys.argv[1])
from bench.plan import BRIEFS
from steady_tide import library
from steady_tide.core.brief.brief import read_brief
from steady_tide.core.planning.planner import plan
try:  # as whoever plans in the service of that checkout does
    from steady_tide.services.memory import keep_freed
    keep_freed()
except ImportError:
    pass
kit, known = library.demo_kit(), library.knowledge()
largest = max(kit.cameras, key=lambda camera: camera.mode_count).id
told = {}
for name, data in BRIEFS.items():
    for what, more in (("one", {"only": largest, "schools": False}), ("all", {"schools": False}), ("whole", {})):
        took = []
        for turn in range(12):
            # Never asked before: a checkout may remember what it was asked.
            brief = read_brief({"title": name, **data, "air_c": 15 + turn * 1e-6 + 1e-4 * len(told)})
            began = time.process_time()
            plan(brief, kit, known, **more)
            took.append((time.process_time() - began) * 1000)
        told[f"{name}|{what}"] = sorted(took[1:])[5]
print(json.dumps(told))
"""


def against(other: Path) -> None:
    """Both checkouts in turn, each in a process of its own. other: its folder. Prints medians and ratios."""
    here = Path(__file__).parents[1]
    found: dict[Path, list[dict[str, float]]] = {other: [], here: []}
    for _ in range(ROUNDS):
        for folder, rounds in found.items():
            environment = {**os.environ, "PYTHONPATH": str(folder)}
            said = subprocess.run(
                [sys.executable, "-c", PAIRED, str(folder)],
                cwd=folder,
                env=environment,
                capture_output=True,
                text=True,
                check=True,
            )
            rounds.append(json.loads(said.stdout))
    print(
        f"{'median of ' + str(ROUNDS) + ' rounds, ms of CPU':<32}{'one camera':>24}{'all cameras':>24}{'with schools':>24}"
    )
    for name in BRIEFS:
        cells = []
        for what in ("one", "all", "whole"):
            then, now = (statistics.median(round_[f"{name}|{what}"] for round_ in found[at]) for at in (other, here))
            cells.append(f"{then:8.1f} {now:6.1f}  x{now / then:4.2f}")
        print(f"{name:<32}{cells[0]:>24}{cells[1]:>24}{cells[2]:>24}")


def main() -> None:
    """Measure and print."""
    keep_freed()  # as whoever plans in the service does
    if "--against" in sys.argv:
        against(Path(sys.argv[sys.argv.index("--against") + 1]).resolve())
        return
    kit, known = library.demo_kit(), library.knowledge()
    sheet = max(kit.cameras, key=lambda camera: camera.mode_count)
    print(f"{sheet.name}: {sheet.mode_count} modes\n")
    one_camera(kit, known, sheet)
    all_cameras(kit, known)
    turned(kit, known, sheet)
    print("growth of the search with the sheet")
    growth(kit, known, sheet)


if __name__ == "__main__":
    main()
