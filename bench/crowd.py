"""Many people at once: each changes something every few seconds, and waits for the plan and for its being saved.

Usage: .venv/bin/python bench/crowd.py [--people 30] [--seconds 60] [--every 5]

Starts a service of its own on loopback. Beside it stands the baseline of the same run: one person alone.
"""

from __future__ import annotations

import argparse
import asyncio
import random
import statistics
import time
from typing import Any
from uuid import uuid4

import httpx
from serving import service

SAVES_AFTER_S = 0.6  # as the CameraProblem does
BRIEFS: tuple[dict[str, Any], ...] = (
    {"light": {"kind": "meter", "ev100": [14, 15]}, "scenario": "everyday"},
    {"light": {"kind": "place", "place": "lantern_lit_yard"}, "scenario": "low_light", "subject": {"distance_m": [1, 4]}},
    {
        "light": {"kind": "meter", "ev100": [12, 15]},
        "scenario": "motion",
        "camera_move": {"mount": "chest", "travel_m_s": 5},
        "delivery": {"slow_factor": 2},
    },
    {"light": {"kind": "place", "place": "starlight"}, "scenario": "lapse", "camera_move": {"mount": "tripod"}, "take": {"length_s": 7200}},
)  # fmt: skip


async def one_person(
    client: httpx.AsyncClient, shot: dict[str, Any], every_s: float, until: float, seen: dict[str, list[float]]
) -> None:
    """Change, wait for the quick and the whole answer, and save, again and again."""
    editor, revision, brief = uuid4().hex, shot["revision"], shot["brief"]
    headers = {"X-Editor": editor}
    camera = shot["plan"]["camera"]["id"]
    await asyncio.sleep(random.uniform(0, every_s))
    while time.monotonic() < until:
        began = time.monotonic()
        brief = {**brief, "air_c": round(random.uniform(5, 30), 2)}
        brief["subject"] = {**brief["subject"], "speed_m_s": round(random.uniform(0, 4), 3)}

        async def planned(brief: dict[str, Any] = brief, began: float = began) -> None:
            quick = await client.post(
                "/api/bench", json=brief, params={"only": camera, "whole": False}, headers=headers
            )
            seen["quick"].append(time.monotonic() - began)
            seen["refused"].append(float(quick.status_code != 200))
            whole = await client.post("/api/bench", json=brief, headers=headers)
            seen["whole"].append(time.monotonic() - began)
            seen["refused"].append(float(whole.status_code != 200))

        asking = asyncio.create_task(planned())
        await asyncio.sleep(SAVES_AFTER_S)
        at = time.monotonic()
        change = {"air_c": brief["air_c"], "subject.speed_m_s": brief["subject"]["speed_m_s"]}
        body = {"revision": revision, "change": change}
        kept = await client.patch(f"/api/shots/{shot['id']}", json=body, headers=headers)
        seen["save"].append(time.monotonic() - at)
        seen["refused"].append(float(kept.status_code != 200))
        revision = kept.json().get("revision", revision)
        await asyncio.sleep(max(0.0, began + every_s - time.monotonic()))
        if not asking.done():
            asking.cancel()
            seen["overtaken"].append(1.0)
        await asyncio.gather(asking, return_exceptions=True)


async def crowd(address: str, people: int, seconds: float, every_s: float) -> dict[str, list[float]]:
    """So many people for so long. Returns seconds of each kind of waiting."""
    seen: dict[str, list[float]] = {name: [] for name in ("quick", "whole", "save", "refused", "overtaken")}
    limits = httpx.Limits(max_connections=4 * people)
    async with httpx.AsyncClient(base_url=address, timeout=60, limits=limits) as client:
        shoot = (await client.post("/api/shoots", json={"title": f"crowd of {people}"})).json()["id"]
        shots = []
        for number in range(people):
            brief = {**BRIEFS[number % len(BRIEFS)], "title": f"of {number}"}
            shots.append((await client.post(f"/api/shoots/{shoot}/shots", json={"brief": brief})).json())
        until = time.monotonic() + seconds
        await asyncio.gather(*(one_person(client, shot, every_s, until, seen) for shot in shots))
    return seen


def told(seen: dict[str, list[float]]) -> str:
    """Median, p95 and most of each."""
    parts = []
    for name in ("quick", "whole", "save"):
        times = sorted(seen[name])
        if times:
            p95 = times[min(len(times) - 1, int(0.95 * len(times)))]
            parts.append(f"{name} {1e3 * statistics.median(times):5.0f} {1e3 * p95:6.0f} {1e3 * times[-1]:6.0f}")
    return (
        " | ".join(parts)
        + f" | {len(seen['save'])} changes, {int(sum(seen['refused']))} refused, {len(seen['overtaken'])} overtaken"
    )


def main() -> None:
    """Measure one person, then the crowd."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--people", type=int, default=30)
    parser.add_argument("--seconds", type=float, default=60)
    parser.add_argument("--every", type=float, default=5)
    asked = parser.parse_args()
    with service(8497) as (address, _):
        print("milliseconds: median, p95, most")
        for people, seconds in ((1, min(20.0, asked.seconds)), (asked.people, asked.seconds)):
            seen = asyncio.run(crowd(address, people, seconds, asked.every if people > 1 else 2))
            print(f"{people:3d} people: {told(seen)}", flush=True)


if __name__ == "__main__":
    main()
