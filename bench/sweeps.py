"""Whether plans jump: one quantity of a brief is moved in small steps, and what changes from step to step is counted.

Usage: .venv/bin/python bench/sweeps.py [--all]
For each sweep: steps; where more than two dials change at once; where a dial flips and flips back within three steps;
where a harder brief gets cheaper. With --all each place is told. Dials that serve one purpose count as one: glass,
shutter, aperture and gain hold the light between them; frame, format and bit rate record it.
"""

from __future__ import annotations

import sys
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from steady_tide import library
from steady_tide.core.brief.brief import read_brief
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan

TOGETHER = {
    "shutter_s": "exposure", "f_number": "exposure", "nd": "exposure", "iso_floor": "exposure",
    "iso_ceiling": "exposure", "exposure_compensation": "exposure", "codec": "recording", "bit_rate_mb_s": "recording",
    "bit_depth": "colour", "profile": "colour", "frame": "recording",
}  # fmt: skip
UNSEEN = {"camera"}
MOST_AT_ONCE = 2
BACK_WITHIN = 3
CHEAPER_STOPS = 0.05

SUN = {"kind": "place", "place": "full_sun"}
Make = Callable[[float], dict[str, Any]]


@dataclass(frozen=True)
class Sweep:
    """One quantity of a brief in small steps. harder: whether each step asks for more than the one before."""

    name: str
    values: tuple[float, ...]
    make: Make
    camera: str
    harder: bool = False


@dataclass
class Found:
    """Where a sweep jumps, flips back or gets cheaper."""

    steps: int = 0
    jumps: list[str] = field(default_factory=list)
    flips: list[str] = field(default_factory=list)
    cheaper: list[str] = field(default_factory=list)


def _steps(low: float, high: float, step: float) -> tuple[float, ...]:
    return tuple(np.arange(low, high + step / 2, step).round(6).tolist())


def _log(low: float, high: float, count: int) -> tuple[float, ...]:
    return tuple(np.geomspace(low, high, count).round(5).tolist())


def _meter(low: float, high: float) -> dict[str, Any]:
    return {"kind": "meter", "ev100": [low, high]}


def sweeps() -> Iterator[Sweep]:
    """All sweeps. Yields them."""
    light = _steps(-6, 16, 0.25)
    walking, tripod = {"mount": "walking"}, {"mount": "tripod"}
    for graded in (True, False):
        said = {"delivery": {"graded": graded}}
        name = "graded" if graded else "straight"
        yield Sweep(
            f"light, walking, {name}", light,
            lambda ev, said=said: {"light": _meter(ev - 0.5, ev + 0.5), "camera_move": walking, **said}, "limpet-7",
        )  # fmt: skip
        yield Sweep(
            f"light, tripod, {name}", light,
            lambda ev, said=said: {"light": _meter(ev - 0.5, ev + 0.5), "camera_move": tripod, **said}, "yawl-12",
        )  # fmt: skip
    yield Sweep(
        "light, chest, slowed twice", light,
        lambda ev: {"scenario": "motion", "light": _meter(ev - 0.5, ev + 0.5), "camera_move": {"mount": "chest"},
                    "delivery": {"slow_factor": 2}}, "limpet-7",
    )  # fmt: skip
    yield Sweep(
        "light, drone", light,
        lambda ev: {"light": _meter(ev - 0.5, ev + 0.5), "camera_move": {"mount": "drone_gimbal"},
                    "subject": {"distance_m": [20, 300]}, "delivery": {"graded": True}}, "sandpiper-2",
    )  # fmt: skip
    for middle in (13, 9, 4):
        yield Sweep(
            f"width of the band about EV {middle}", _steps(0, 8, 0.25),
            lambda w, middle=middle: {"light": _meter(middle - w / 2, middle + w / 2), "camera_move": walking,
                                      "delivery": {"graded": True}}, "limpet-7", harder=True,
        )  # fmt: skip
    for water in ("IB", "3C"):
        yield Sweep(
            f"depth, {water}", _steps(1, 40, 0.5),
            lambda m, water=water: {
                "scenario": "underwater", "camera_move": {"mount": "tray"}, "subject": {"distance_m": [0.5, 2]},
                "light": {"kind": "water", "surface": SUN, "depth_m": [m, m], "water_type": water},
                "delivery": {"graded": True}}, "limpet-7",
        )  # fmt: skip
    yield Sweep(
        "distance, a thing of half a metre", _log(0.05, 5000, 70),
        lambda m: {"light": SUN, "camera_move": tripod, "subject": {"distance_m": [m * 0.9, m * 1.1], "size_m": 0.5}},
        "yawl-12",
    )  # fmt: skip
    yield Sweep(
        "speed at four metres", (0.0, *_log(0.1, 60, 40)),
        lambda v: {"scenario": "motion", "light": _meter(11, 12), "camera_move": tripod,
                   "subject": {"distance_m": [4, 6], "speed_m_s": v, "size_m": 1.7}}, "limpet-7", harder=True,
    )  # fmt: skip
    yield Sweep(
        "speed, frozen", _log(0.1, 60, 40),
        lambda v: {"scenario": "motion", "light": _meter(14, 15), "camera_move": tripod,
                   "subject": {"distance_m": [4, 6], "speed_m_s": v, "motion_look": "frozen"}}, "limpet-7",
    )  # fmt: skip
    yield Sweep(
        "pan", _steps(0, 200, 4),
        lambda d: {"light": SUN, "camera_move": {"mount": "tripod", "turn_deg_s": d}}, "limpet-7", harder=True,
    )  # fmt: skip
    yield Sweep(
        "air", _steps(-25, 45, 1.5),
        lambda c: {"light": SUN, "camera_move": tripod, "air_c": c, "take": {"length_s": 900, "count": 3}}, "limpet-7",
    )  # fmt: skip
    yield Sweep(
        "distance of the lamp", _log(0.2, 5, 50),
        lambda m: {"scenario": "product", "camera_move": tripod, "subject": {"distance_m": [0.6, 0.8], "size_m": 0.2},
                   "light": {"kind": "lamps", "lamps": [{"lux_at_1m": 2200, "distance_m": m, "kelvin": 5500}]},
                   "delivery": {"graded": True}}, "yawl-12",
    )  # fmt: skip
    yield Sweep(
        "length of a take", _log(5, 20_000, 50),
        lambda s: {"light": _meter(12, 13), "camera_move": tripod, "take": {"length_s": s, "count": 1}}, "limpet-7",
        harder=True,
    )  # fmt: skip
    yield Sweep(
        "contrast", _steps(3, 16, 0.25),
        lambda c: {"light": _meter(11, 12), "contrast_stops": c, "camera_move": tripod, "delivery": {"graded": True}},
        "yawl-12", harder=True,
    )  # fmt: skip


def look(sweep: Sweep) -> Found:
    """Go through a sweep. Returns where plans jump."""
    kit, known, found = library.demo_kit(), library.knowledge(), Found()
    made = [
        plan(read_brief({"title": "sweep", **sweep.make(value)}), kit, known, schools=False, only=sweep.camera)
        for value in sweep.values
    ]
    found.steps = len(made)
    for n in range(1, len(made)):
        before, now = made[n - 1], made[n]
        turned = _turned(before, now)
        ideas = {TOGETHER.get(dial, dial) for dial in turned}
        at = f"{sweep.values[n - 1]:g} to {sweep.values[n]:g}"
        if len(ideas) > MOST_AT_ONCE:
            found.jumps.append(f"{at}: " + ", ".join(_change(dial, before, now) for dial in turned))
        if sweep.harder and now.given_up_stops < before.given_up_stops - CHEAPER_STOPS:
            found.cheaper.append(f"{at}: {before.given_up_stops:.2f} to {now.given_up_stops:.2f}")
    found.flips = list(_flips(sweep, made))
    return found


def _turned(before: Plan, now: Plan) -> list[str]:
    return [dial for dial, value in now.chosen.items() if dial not in UNSEEN and before.chosen.get(dial) != value]


def _change(dial: str, before: Plan, now: Plan) -> str:
    return f"{dial} {_short(before.chosen[dial])} -> {_short(now.chosen[dial])}"


def _short(value: Any) -> str:
    return f"1/{1 / value:.0f}" if isinstance(value, float) and 0 < value < 0.4 else str(value)


def _flips(sweep: Sweep, made: list[Plan]) -> Iterator[str]:
    """Dials that come back to a value that they left at most some steps before, though nothing turned round."""
    exposure = {dial for dial, idea in TOGETHER.items() if idea == "exposure"}
    for dial in made[0].chosen:
        if dial in UNSEEN or dial in exposure:
            continue  # which of the four holds the light goes round with each filter
        values = [entry.chosen.get(dial) for entry in made]
        for n in range(1, len(values)):
            if values[n] != values[n - 1] and values[n] in values[max(0, n - 1 - BACK_WITHIN) : n - 1]:
                yield f"{dial} back to {_short(values[n])} at {sweep.values[n]:g}"


def main() -> None:
    """Print the counts, and with --all each place."""
    whole = "--all" in sys.argv
    print(f"{'sweep':<36}{'steps':>7}{'jumps':>7}{'flips':>7}{'cheaper':>9}")
    total = Found()
    for sweep in sweeps():
        found = look(sweep)
        print(f"{sweep.name:<36}{found.steps:>7}{len(found.jumps):>7}{len(found.flips):>7}{len(found.cheaper):>9}")
        for name in ("jumps", "flips", "cheaper"):
            getattr(total, name).extend(getattr(found, name))
            if whole:
                for place in getattr(found, name):
                    print(f"    {name}: {place}")
        total.steps += found.steps
    print(f"{'all':<36}{total.steps:>7}{len(total.jumps):>7}{len(total.flips):>7}{len(total.cheaper):>9}")


if __name__ == "__main__":
    main()
