"""Memory of the service and its workers under many mixed requests, cards on paper and broken input among them.

Usage: .venv/bin/python bench/memory.py [--requests 10000]

Starts a service of its own on loopback; after a first tenth, which fills what is remembered, growth is counted.
"""

from __future__ import annotations

import argparse
import random
from collections import Counter
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

import httpx
from serving import service

TRACK = (
    b'<gpx version="1.1"><trk><trkseg>'
    + b"".join(
        f'<trkpt lat="{52 + n / 1e4}" lon="1"><time>2026-05-12T10:{n // 60:02d}:{n % 60:02d}Z</time></trkpt>'.encode()
        for n in range(600)
    )
    + b"</trkseg></trk></gpx>"
)


def tree_mb(pid: int) -> dict[str, float]:
    """Memory of a process and all below it, by kind, without the database. Returns megabytes."""
    found: Counter[str] = Counter()
    below, todo = set(), [pid]
    while todo:
        one = todo.pop()
        below.add(one)
        for task in Path(f"/proc/{one}/task").glob("*/children"):
            todo += [int(child) for child in task.read_text().split() if int(child) not in below]
    for one in below:
        try:
            status = Path(f"/proc/{one}/status").read_text()
            command = Path(f"/proc/{one}/cmdline").read_text().replace("\0", " ")
        except OSError:
            continue
        kb = next((int(line.split()[1]) for line in status.splitlines() if line.startswith("RssAnon")), 0)
        kind = "database" if "postgres" in command else "service" if one == pid else "workers"
        found[kind] += kb / 1024
    return dict(found)


def one_request(client: httpx.Client, shoot: str, shots: list[dict[str, Any]], changed: list[str]) -> int:
    """Anything that people and others do. Returns the status."""
    shot = random.choice(shots)
    brief = {**shot["brief"], "air_c": round(random.uniform(0, 30), 3)}
    quick = {"only": shot["plan"]["camera"]["id"], "whole": False}
    what = random.random()
    if what < 0.12:
        return client.post("/api/bench", json=brief, params=quick).status_code
    if what < 0.14:
        return client.post("/api/bench", json=brief).status_code
    if what < 0.20:
        mine = random.choice(changed)  # of another day: presets of a day that changes are worked out again each time
        revision = client.get(f"/api/shots/{mine}").json()["revision"]
        body = {"revision": revision, "change": {"air_c": brief["air_c"]}}
        return client.patch(f"/api/shots/{mine}", json=body).status_code
    if what < 0.22:
        return client.get(f"/api/shots/{shot['id']}/card.pdf").status_code
    if what < 0.26:
        return client.get(f"/api/shots/{shot['id']}/card.html").status_code
    if what < 0.28:
        return client.post("/api/tracks", content=TRACK).status_code
    if what < 0.34:
        return client.post("/api/bench", content=random.randbytes(500)).status_code
    if what < 0.40:
        return client.post("/api/kit/import", content=b"a: [" + b"{b: 1}," * 400).status_code
    if what < 0.44:
        return client.get(f"/api/shoots/{shoot}/shoot.json").status_code
    if what < 0.48:
        return client.post("/api/sheets/table", json={"text": "4K 3840x2160 25 50\n" * 40}).status_code
    doors = ("/api/shoots", f"/api/shoots/{shoot}/shots", "/api/kit", "/api/vocabulary", "/api/health", "/nowhere")
    return client.get(random.choice(doors)).status_code


def main() -> None:
    """Measure and print."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--requests", type=int, default=10_000)
    asked = parser.parse_args()
    random.seed(6)
    with service(8496) as (address, pid), httpx.Client(base_url=address, timeout=120) as client:
        shoot = client.get("/api/shoots").json()["items"][0]["id"]
        lines = client.get(f"/api/shoots/{shoot}/shots").json()["items"]
        shots = [client.get(f"/api/shots/{line['id']}").json() for line in lines]
        other = client.get("/api/shoots").json()["items"][1]["id"]
        changed = [line["id"] for line in client.get(f"/api/shoots/{other}/shots").json()["items"]]
        statuses: Counter[int] = Counter()
        first: dict[str, float] = {}
        for part in range(10):
            with ThreadPoolExecutor(4) as crowd:
                work = [crowd.submit(one_request, client, shoot, shots, changed) for _ in range(asked.requests // 10)]
                statuses.update(done.result() for done in work)
            now = tree_mb(pid)
            first = first or now
            grown = {kind: round(now[kind] - first.get(kind, 0.0), 1) for kind in ("service", "workers")}
            at = {kind: round(value) for kind, value in now.items()}
            print(f"{(part + 1) * asked.requests // 10:6d} requests: {at} MB, grown {grown}", flush=True)
        print("answers:", dict(sorted(statuses.items())))


if __name__ == "__main__":
    main()
