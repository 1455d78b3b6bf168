"""How fast plans are seen: frames, loupes, strips and films, beside a pass over an array of the same size.

Run: python bench/look.py. Everything is drawn in this process, but for the last part: there a service draws while it plans,
and both are timed as whoever waits sees them.
"""

from __future__ import annotations

import statistics
import threading
import time
from collections.abc import Callable
from functools import partial
from typing import Any

import httpx
import numpy as np
from serving import service
from shots import DAY, NIGHT, WATER

from steady_tide import library
from steady_tide.core.brief.brief import School, read_brief
from steady_tide.core.look.exposure_of_plan import Taking
from steady_tide.services.look_frames import LookAsked, Looker

ROUNDS = 9
SHOTS = {
    "night": NIGHT,
    "day": {"light": DAY, "delivery": {"graded": True}},
    "ride": {
        "light": {"kind": "place", "place": "bright_cloud"},
        "scenario": "motion",
        "camera_move": {"mount": "chest", "travel_m_s": 8},
    },
    "water": WATER,
}


def timed(work: Callable[[], object], rounds: int = ROUNDS) -> list[float]:
    found = []
    for _ in range(rounds):
        began = time.perf_counter()
        work()
        found.append(1000.0 * (time.perf_counter() - began))
    return found


def said(name: str, found: list[float], wanted: float | None = None, baseline: float | None = None) -> None:
    middle = statistics.median(found)
    more = "" if wanted is None else f"  wanted {wanted:.0f}"
    more += "" if baseline is None else f"  x{middle / baseline:.0f} of the pass"
    print(f"  {name:<34} {middle:7.1f} ms  most {max(found):7.1f}{more}")


class Shot:
    """One of the shots, drawn in this process. looker: remembers, as the worker does."""

    def __init__(self, what: dict[str, Any]) -> None:
        self.brief = read_brief(what)
        self.kit, self.knowledge = library.demo_kit(), library.knowledge()
        self.looker = Looker()

    def draw(self, width: int = 960, **more: Any) -> None:
        asked = LookAsked(brief=self.brief, size=width, **more)
        self.looker.frame(asked, self.taking(asked))

    def taking(self, asked: LookAsked) -> Taking:
        return self.looker.taking(asked, School(), self.kit, self.knowledge, "kit")

    def first(self) -> None:
        self.looker = Looker()
        self.draw()

    def strip(self) -> None:
        """As it comes on the screen: planned anew for each value that the camera has."""
        camera = self.taking(LookAsked(brief=self.brief)).space.sheet
        self.looker.takings.clear()
        limits = camera.iso.ceilings[-6:]
        for iso in limits:
            self.draw(240, settings={"camera": camera.id, "iso_ceiling": iso})

    def film(self) -> None:
        moving = LookAsked(brief=self.brief, size=640)
        count = sum(1 for _ in self.looker.film(moving, self.taking(moving), 2.0, 0, 50))
        assert count == 50

    def lights(self, **more: Any) -> list[float]:
        """Each in another light, as the slider asks for them."""
        self.draw(**more)
        return [timed(partial(self.draw, at=float(share), **more), 1)[0] for share in np.linspace(0.03, 0.97, ROUNDS)]


def main() -> None:
    array = np.random.default_rng(1).random((540, 960, 3), dtype=np.float32)
    baseline = timed(lambda: np.exp2(array) * 0.5, 21)
    said("a pass over 960 x 540 x 3", baseline)
    one_pass = statistics.median(baseline)
    for name, what in SHOTS.items():
        print(name)
        shot = Shot(what)
        said("frame 960 x 540, first of a view", timed(shot.first, 3))
        said("frame 960 x 540, another light", shot.lights(), 200, one_pass)
        said("loupe 480 x 270", shot.lights(width=480, loupe=(0.0, 0.0)), 100)
        said("strip of up to six at 240", timed(shot.strip, 3), 1200)
        said("film of 2 s at 640 x 360", timed(shot.film, 3), 4000)
    beside_planning()


def beside_planning() -> None:
    """A change on the CameraProblem: the quick plan, and the small frame of it, by a service of its own."""
    print("a change on the CameraProblem, through the service")
    with service(8479) as (address, _), httpx.Client(base_url=address, timeout=60) as http:
        brief: dict[str, Any] = {**SHOTS["night"], "title": "bench"}
        camera = http.post("/api/bench", json=brief).json()["plan"]["camera"]["id"]
        for at in (0.0, 0.5):
            http.post("/api/look/frame", json={"brief": brief, "size": 400, "at": at})
        quick = {"only": camera, "whole": False}
        plans: list[float] = []
        frames: list[float] = []
        for number in range(12):
            brief["air_c"] = 5 + number
            began = time.perf_counter()
            made = http.post("/api/bench", json=brief, params=quick).json()
            plans.append(1000.0 * (time.perf_counter() - began))
            asked = {"brief": brief, "settings": made["plan"]["chosen"], "size": 400}
            frames += timed(partial(http.post, "/api/look/frame", json=asked), 1)
        said("the plan, nothing drawn", plans)
        beside = []
        for number in range(12):
            drawing = {"brief": {**brief, "air_c": 30 + 0.1 * number}, "size": 960}
            thread = threading.Thread(target=partial(httpx.post, f"{address}/api/look/frame", json=drawing, timeout=60))
            thread.start()
            time.sleep(0.03)
            changed = {**brief, "air_c": -number}
            beside += timed(partial(http.post, "/api/bench", json=changed, params=quick), 1)
            thread.join()
        said("the plan, while a frame is drawn", beside)
        said("the small frame after the plan", frames, 400)


if __name__ == "__main__":
    main()
