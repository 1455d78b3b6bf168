"""How long the light of a day takes, and what the instruments draw.

Usage: .venv/bin/python bench/light.py
Milliseconds (least, median and most) beside a baseline of the same run: one NumPy pass over a day of minutes.
"""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from zoneinfo import ZoneInfo

import numpy as np
from timing import times_ms

from steady_tide import library
from steady_tide.core.brief.brief import School, read_brief
from steady_tide.core.light.account import steps
from steady_tide.core.light.day import day_of_light, local_day
from steady_tide.core.light.pictures import lamps_picture, water_picture
from steady_tide.core.light.sources import LampLight, WaterLight
from steady_tide.core.planning.brief_cache import CachedBrief
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.glass_times import glass_times
from steady_tide.core.planning.ranking import entries_of, rank
from steady_tide.core.planning.situation import situation

BUDGET_MS = 30.0


def main() -> None:
    """Measure and print."""
    known, kit = library.knowledge(), library.demo_kit()
    start, end = local_day(date(2026, 10, 11), ZoneInfo("Europe/London"))
    day = day_of_light(52.06, 1.31, start, end, known.sky)
    sun = {"kind": "meter", "ev100": [14, 15]}
    wet = read_brief({"title": "w", "light": {"kind": "water", "surface": sun, "depth_m": [3, 7], "water_type": "3C"}})
    lit = read_brief({"title": "l", "light": {"kind": "lamps", "lamps": [{"lux_at_1m": 900}, {"lux_at_1m": 400}]}})
    walk = read_brief({"title": "g", "light": sun, "camera_move": {"mount": "walking"}}).in_school(School())
    assert isinstance(wet.light, WaterLight)
    assert isinstance(lit.light, LampLight)
    at = situation(walk, known, USUAL)
    best = rank(CachedBrief(at), entries_of(at, kit, known))[0]
    assert best.entry.problem is not None
    assert best.choice is not None
    bench, choice, water, lamps = best.entry.problem, best.choice, wet.light, lit.light
    filters = [(f.id, f.band_stops) for f in kit.filters if f.kind == "colour"]

    def pictures() -> None:
        water_picture(water, known.world, (1, 2), filters)
        lamps_picture(lamps, known.world, 1.0)
        steps(water, known.world, (1, 2))

    minutes = np.linspace(0, 1, len(day.seconds))
    rows: list[tuple[str, Callable[[], object]]] = [
        ("a day, every minute", lambda: day_of_light(52.06, 1.31, start, end, known.sky)),
        ("pictures of water, lamps, account", pictures),
        ("glass through that day", lambda: glass_times(at, bench.space, choice, day)),
        ("baseline: one pass over the minutes", lambda: np.exp2(minutes).sum()),
    ]
    total = 0.0
    for name, call in rows:
        low, middle, high = times_ms(call)
        total += middle if name != rows[-1][0] else 0.0
        print(f"{name:<38}{low:>8.2f} /{middle:>7.2f} /{high:>7.2f} ms")
    print(f"all of it, medians added: {total:.1f} ms (budget {BUDGET_MS:.0f} ms)")


if __name__ == "__main__":
    main()
