"""One's own gear: how near measured numbers come to a known truth, and how long reading and drawing take.

Usage: .venv/bin/python bench/kit.py
Deviations over many simulated ladders and pieces of glass: median and largest. Milliseconds (least, median, most)
beside a baseline of the same run: planning one shot on the largest sheet.
"""

from __future__ import annotations

import statistics
from collections.abc import Callable

import numpy as np
from timing import times_ms

from steady_tide import library
from steady_tide.core.brief.brief import read_brief
from steady_tide.core.cameras.completing import RoughSheet, complete
from steady_tide.core.cameras.mode_map import mode_map
from steady_tide.core.cameras.mode_table import read_mode_table, rough_modes
from steady_tide.core.measuring.glass import LUMINANCE, measure_glass
from steady_tide.core.measuring.noise_ladder import fit_noise, grey_step
from steady_tide.core.planning.estimates import check_estimates
from steady_tide.core.planning.planner import plan
from steady_tide.standins.grey_card import SimulatedSensor, grey_frame

KNOWN, KIT = library.knowledge(), library.demo_kit()
SENSORS = [(1.5, 3500.0), (2.5, 6000.0), (3.5, 9000.0), (5.0, 16_000.0)]
ISOS = (100, 400, 1600, 6400)
RATES = "24, 25, 30, 50, 60, 100"
ROWS = [f"{wide} x {high}\t{RATES}\twide, linear" for wide, high in ((5120, 2880), (3840, 2160), (2560, 1440), (1920, 1080), (1280, 720))]  # fmt: skip
TABLE = "\n".join(["Size\tFPS\tView", *ROWS])


def say(name: str, found: list[float], unit: str, wanted: str = "") -> None:
    """Print one line of deviations."""
    print(f"{name:<44} median {statistics.median(found):6.3f}  most {max(found):6.3f} {unit}   {wanted}")


def noise() -> None:
    """Ladders of simulated sensors, two frames a step."""
    read, well = [], []
    for seed in range(10):
        for read_e, well_e in SENSORS:
            rng = np.random.default_rng(seed)
            sensor = SimulatedSensor(read_e, well_e, unevenness=0.006)
            steps = [
                grey_step([grey_frame(sensor, iso, rng, tilt=0.1)[..., 1] for _ in range(2)], iso, "linear", 65_536)
                for iso in ISOS
            ]
            found = fit_noise(steps)
            read.append(abs(found.read_noise_e / read_e - 1) * 100)
            well.append(abs(found.full_well_e / well_e - 1) * 100)
    say("read noise, 40 ladders", read, "%", "wanted 5")
    say("full well, 40 ladders", well, "%", "wanted 5")


def glass() -> None:
    """Pairs of frames, eight bits with the usual curve of stills."""
    density, colour = [], []
    draw = np.random.default_rng(1)
    for _ in range(40):
        bands = float(draw.uniform(0.5, 6.5)) + draw.uniform(-0.15, 0.15, 3)
        opened = float(np.floor(bands.mean()))
        rng = np.random.default_rng(int(draw.integers(1 << 30)))
        sensor = SimulatedSensor(2.5, 7000.0)
        bare = grey_frame(sensor, 100, rng, level=0.4, transfer="srgb", codes=256)
        left = [float(share) for share in np.exp2(opened - bands)]
        behind = grey_frame(
            sensor, 100, rng, level=0.4, transfer="srgb", codes=256, bands=(left[0], left[1], left[2])
        )  # fmt: skip
        found = measure_glass(behind, bare, "srgb", 256, opened)
        density.append(abs(found.stops - float(-np.log2(LUMINANCE @ np.exp2(-bands)))))
        truth = np.exp2(bands[1] - bands[[0, 2]]) - 1
        colour += [abs(found.red_shift - truth[0]) * 100, abs(found.blue_shift - truth[1]) * 100]
    say("density, 40 pairs", density, "stops", "wanted 0.05")
    say("colour shift, 40 pairs", colour, "%", "wanted 2")


def times() -> None:
    """Reading, filling up, drawing, and asking what rests on estimates."""
    brief = read_brief({"title": "bench", "light": {"kind": "meter", "ev100": [1, 3]}, "delivery": {"graded": True}})
    largest = max(KIT.cameras, key=lambda sheet: sheet.mode_count)
    base = times_ms(lambda: plan(brief, KIT, KNOWN, schools=False, only=largest.id))
    rough = RoughSheet(sheet={"name": "Whelk", "modes": rough_modes(read_mode_table(TABLE).modes)})
    sheet = complete(rough, library.typical()).sheet
    assert sheet is not None
    own = KIT.model_copy(update={"cameras": (sheet,)})
    made = plan(brief, own, KNOWN, schools=False)
    lines: list[tuple[str, Callable[[], object]]] = [
        ("read a table of 30 modes", lambda: read_mode_table(TABLE)),
        ("fill a sheet up", lambda: complete(rough, library.typical())),
        (f"draw the map of {largest.name}", lambda: mode_map(largest)),
        ("find what rests on estimates", lambda: check_estimates(brief, own, KNOWN, made)),
    ]
    print(f"\n{'milliseconds':<44} {'least':>8} {'median':>8} {'most':>8}   to the baseline")
    print(f"{'plan one shot on the largest sheet':<44} {base[0]:8.1f} {base[1]:8.1f} {base[2]:8.1f}   1")
    for name, call in lines:
        ms = times_ms(call)
        print(f"{name:<44} {ms[0]:8.1f} {ms[1]:8.1f} {ms[2]:8.1f}   {ms[1] / base[1]:.2f}")


if __name__ == "__main__":
    noise()
    glass()
    times()
