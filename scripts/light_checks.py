"""Print the table of docs/light.md: published or independent values, ours, and the difference.

Usage: .venv/bin/python scripts/light_checks.py
"""

from __future__ import annotations

from collections.abc import Iterator
from datetime import UTC, date, datetime, timedelta

import numpy as np
from astral import Observer
from astral.sun import dawn, sunset

from steady_tide import library
from steady_tide.core.brief.brief import read_brief
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.light import flicker, sky, water
from steady_tide.core.light.day import day_of_light, local_day
from steady_tide.core.light.resolving import resolve
from steady_tide.core.light.sources import Lamp
from steady_tide.core.physics.endurance import cell_temperature_c
from steady_tide.core.physics.optics import behind_flat_port_deg, cropped_field_deg
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.situation import situation
from steady_tide.core.quantities.stops import ev100_from_lux, scene_ev100

Row = tuple[str, str, float, float, str]  # what, after whom, reference, ours, unit
PLACE = (52.06, 1.31)
SUN = {"kind": "place", "place": "full_sun"}
ON = date(2026, 10, 11)


def rows() -> Iterator[Row]:
    """Every check. Yields what is checked, after whom, the reference, ours, and the unit."""
    known = library.knowledge()
    for altitude, lux in ((90, 128_825), (60, 103_118), (20, 27_376), (5, 4_538), (0, 759), (-6, 3.41), (-12, 0.0081)):
        yield f"daylight, sun at {altitude} degrees", "usno171", lux, float(sky.sun_lux(altitude)), "lx"
    yield "full moon overhead", "usno171", 0.269, float(sky.moon_lux(90, 0)), "lx"
    yield "full moon at 40 degrees", "usno171", 0.143, float(sky.moon_lux(40, 0)), "lx"
    yield "EV of 81,920 lx", "iso2720", 15.0, float(ev100_from_lux(81_920)), "EV"
    yield "reading f/2.8, 1/240 s, ISO 100, ND 8", "iso2720", 13.88, float(scene_ev100(2.8, 1 / 240, 100, 3)), "EV"
    for zenith, share in ((0, 0.021), (60, 0.061), (75, 0.215)):
        yield f"thrown back by water, {zenith} degrees", "Fresnel", share, water.surface_reflection(zenith), "of 1"
    for kind, metres, losses in (("IB", 10, (3.94, 0.93, 0.49)), ("3C", 5, (2.58, 1.40, 2.38))):
        found = known.waters.types[kind]
        at = np.interp([610, 540, 465], known.waters.wavelengths_nm, found.kd_per_m) * metres / np.log(2)
        for colour, loss, ours in zip(("red", "green", "blue"), losses, at, strict=True):
            yield f"water {kind}, {metres} m, {colour} at one wavelength", "jerlov1976", loss, float(ours), "stops"
    for mains, seconds, ripple in ((60, 1 / 48, 0.127), (50, 1 / 60, 0.165), (50, 1 / 240, 0.738)):
        ours = float(flicker.ripple_left(1.0, seconds, mains))
        yield f"ripple left, 1/{round(1 / seconds)} s at {mains} Hz", "sine, averaged", ripple, ours, "of 1"
    yield "beat of 30 fps at 50 Hz", "sine, averaged", 10.0, float(flicker.beat_hz(30, 50)), "Hz"
    yield "lamp of 905 lx at 1 m, at 2 m", "inverse square", 226.25, Lamp(lux_at_1m=905, distance_m=2).lux, "lx"
    yield from _under_water(known)
    yield from _optics_and_heat(known)
    perigee = datetime(2025, 11, 5, 22, 27, tzinfo=UTC)
    yield "moon of 2025-11-05, distance", "almanac", 356_832, sky.positions(*PLACE, perigee, perigee).moon_km[0], "km"
    yield "facing a sun at 0 degrees, gain", "limit", 1.0, float(sky.facing_gain(0.0)), "times"
    day = day_of_light(*PLACE, *local_day(ON, UTC), known.sky)
    observer, noon = Observer(*PLACE, 0.0), datetime(2026, 10, 11, 12, tzinfo=UTC)
    civil = [window for window in day.windows if window.kind == "civil"]

    def minutes(moment: datetime) -> float:
        return (moment - noon) / timedelta(minutes=1)

    yield "dawn, from noon", "astral", minutes(dawn(observer, ON, depression=6)), minutes(civil[0].start), "min"
    yield "sunset, from noon", "astral", minutes(sunset(observer, ON)), minutes(civil[1].start), "min"


def _under_water(known: Knowledge) -> Iterator[Row]:
    above = {"kind": "meter", "ev100": [15, 15]}
    for metres, lost in ((1, 1.5), (2, 2.0), (6, 2.5), (9, 3.0), (15, 4.0), (30, 5.0)):
        light = {"kind": "water", "surface": above, "depth_m": [metres, metres], "water_type": "IB"}
        ours = 15.0 - resolve(read_brief({"light": light}).light, known.world, (1.0, 1.0)).ev100[1]
        yield f"clear sea, upright at {metres} m, lost", "old exposure tables", lost, ours, "stops"
    yield "red is a tenth in IB", "jerlov1976", 7.0, water.red_gone_m(known.waters, known.waters.types["IB"]), "m"
    for in_air, in_water in ((118, 79.5), (90, 63.7), (78, 56.0)):
        yield f"{in_air} degrees behind a flat port", "Snell", in_water, float(behind_flat_port_deg(in_air)), "degrees"


def _optics_and_heat(known: Knowledge) -> Iterator[Row]:
    passed = read_brief({"light": SUN, "subject": {"speed_m_s": 30, "distance_m": [2, 2]}})
    moved = float(np.radians(situation(passed, known, USUAL).subject_deg_s)) / 50.0
    yield "30 m/s passed at 2 m, in 1/50 s", "v/d", 0.3, moved, "rad"
    limpet = next(camera for camera in library.demo_kit().cameras if camera.id == "limpet-7")
    yield (
        "skew, 120 degrees a second in 13.5 ms",
        "rolling shutter",
        1.62,
        120 * limpet.lenses[0].sensor.readout_ms / 1e3,
        "degrees",
    )
    upright = float(cropped_field_deg(78.0, 9 / 16 * 3 / 4, "linear"))
    yield "upright cut of a 4:3 frame of 78 degrees", "tangent", 37.7, upright, "degrees"
    yield "0.15 kg at 13 K/W, time constant", "mass times heat", 1755, limpet.power.tau_s, "s"
    share = known.limits.cell_warmth_share
    cell = float(cell_temperature_c(-8, 3.5, 13, limpet.power.tau_s, 10 * limpet.power.tau_s, share))
    yield "cell at work at -8 \u00b0C, 3.5 W on 13 K/W", "two fifths of 45.5 K", 10.2, cell, "\u00b0C"
    sun_w = known.limits.sun_w_m2 * known.limits.sun_absorbed_share
    yield "sun on a small body", "700 W/m2", 1.5, float(limpet.power.warming_w(0.0, sun_w)), "W"


def table() -> str:
    """The checks as a table in Markdown."""
    lines = ["| what | after | reference | ours | difference |", "|---|---|---:|---:|---:|"]
    for what, source, reference, ours, unit in rows():
        lines.append(f"| {what} | {source} | {reference:.4g} {unit} | {ours:.4g} {unit} | {ours - reference:+.2g} |")
    return "\n".join(lines)


if __name__ == "__main__":
    print(table())
