"""How exact Story and Edit are: shadows and the sun against another ephemeris, tables of colours against an independent engine and the exact way,
and how long a film of many framings takes to tell, beside planning its shots.

Run: python bench/story.py
"""

from __future__ import annotations

import sys
import time
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from math import cos, radians, tan
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np
import PyOpenColorIO
from astral import Observer
from astral.sun import azimuth, elevation

sys.path.insert(0, str(Path(__file__).parents[1]))

from steady_tide import library
from steady_tide.core.edit.correcting import Correction
from steady_tide.core.edit.display import developing
from steady_tide.core.edit.luts import error_of, looked_up, lut_of, shaped_lut_of
from steady_tide.core.planning.planner import plan
from steady_tide.core.shoot.film import Beat, Film
from steady_tide.core.story.shadow import own_shadow, sun_at
from steady_tide.core.story.telling import Here, StoryShot, film_facts
from steady_tide.formats.cube import write_cube
from tests.films import NOON, framed, sky

CORRECTED = Correction(mired=-40, tint_stops=0.1, exposure_stops=0.7, saturation=1.1)


def suns() -> None:
    """Where the sun stands, and how long a shadow is, against another ephemeris."""
    off, long = [], []
    for number in range(2000):
        at = datetime(1950, 1, 1, tzinfo=UTC) + timedelta(hours=997.3 * number)
        latitude, longitude = -60 + 130 * ((number * 0.37) % 1), -180 + 360 * ((number * 0.61) % 1)
        ours = sun_at(latitude, longitude, at)
        here = Observer(latitude, longitude, 0.0)
        high, towards = elevation(here, at, with_refraction=False), azimuth(here, at)
        turned = (ours.azimuth_deg - towards + 180.0) % 360.0 - 180.0
        off.append(max(abs(ours.altitude_deg - high), abs(turned) * cos(radians(high))))
        if high > 5.0:
            length = own_shadow(ours, 0.0, 1.75, (72.0, 44.0)).length_m
            assert length is not None
            long.append(abs(length / (1.75 / tan(radians(high))) - 1.0))
    print(f"sun, 2000 moments from 1950 to 2177: {max(off):.3f} deg off at most, {np.mean(off):.4f} on the mean")
    print(f"own shadow, sun above 5 deg: its length off by {100 * max(long):.2f} % at most")


def tables() -> None:
    """How far tables of colours are off, codes of 10 bit."""
    limits = library.knowledge().limits
    print("table of colours, codes of 10 bit: at most / on the mean; another engine beside ours")
    with TemporaryDirectory() as folder:
        for camera in library.demo_kit().cameras:
            for profile in camera.profiles:
                how = developing(profile, limits)
                done = replace(how, correction=CORRECTED)
                said = []
                for made, exact in ((lut_of(how, "a"), how), (shaped_lut_of(how, "a"), how), (lut_of(done, "a"), done)):
                    error = error_of(made, exact)
                    said.append(f"{error.most:5.2f} / {error.mean:.3f}")
                file = Path(folder) / f"{camera.id}-{profile.id}.cube"  # the engine remembers files by name
                lut = lut_of(done, "a")
                file.write_text(write_cube(lut))
                transform = PyOpenColorIO.FileTransform(src=str(file), interpolation=PyOpenColorIO.INTERP_TETRAHEDRAL)
                engine = PyOpenColorIO.Config.CreateRaw().getProcessor(transform).getDefaultCPUProcessor()
                colours = np.random.default_rng(1).random((5000, 3)).astype(np.float32)
                theirs = colours.copy()
                engine.apply(PyOpenColorIO.PackedImageDesc(theirs, 5000, 1, 3))
                apart = np.abs(np.clip(theirs, 0, 1) - looked_up(lut, colours.astype(float))).max() * 1023
                print(
                    f"  {camera.id:12} {profile.id:8} plain {said[0]}  shaped {said[1]}  corrected {said[2]}  engines {apart:.4f}"
                )


def films() -> None:
    """Telling a film of forty framings, beside planning one of its shots."""
    told = Film(
        title="Long", length_s=120, music_bpm=96, beats=tuple(Beat(id=f"b{n}", title=f"B{n}") for n in range(8))
    )
    kit, known, kinds = library.demo_kit(), library.knowledge(), library.framings()
    shots, planning = [], []
    for number in range(40):
        shot = framed(str(number), beat=f"b{number // 5}", of=told, heading_deg=float(9 * number % 360), subject="Wren")
        brief = shot.brief.model_copy(update={"light": sky(), "pins": {"camera": "yawl-12"}})
        begin = time.perf_counter()
        made = plan(brief, kit, known, schools=False)
        planning.append(time.perf_counter() - begin)
        shots.append(StoryShot(str(number), brief, shot.framing, made, kit.camera("yawl-12"), NOON))
    times = []
    for _ in range(7):
        begin = time.perf_counter()
        film_facts("f", told, shots, Here(52.06, 1.31), kinds, known)
        times.append(time.perf_counter() - begin)
    each, one = float(np.median(times)) / len(shots), float(np.median(planning))
    print(
        f"a film of 40 framings is told in {1000 * np.median(times):.0f} ms; a framing in {each / one:.3f} of the time that planning it takes ({1000 * one:.0f} ms)"
    )


if __name__ == "__main__":
    suns()
    tables()
    films()
