"""Kills at random moments, while several people write: what was acknowledged must be there, and how long it takes to go on.

Usage: .venv/bin/python bench/kills.py [--kills 200] [--seed 1]

Starts a service of its own on loopback, and kills with SIGKILL its own processes only: the service, the database, one of the
database's backends, one of the planner's workers, in turn by chance.
"""

from __future__ import annotations

import argparse
import contextlib
import os
import random
import signal
import statistics
import subprocess
import sys
import tempfile
import threading
import time
from collections import defaultdict
from pathlib import Path
from typing import Any

import httpx

ROOT = Path(__file__).parents[1]
PORT = 8494
ADDRESS = f"http://127.0.0.1:{PORT}"
WRITERS = 3
PATIENCE_S = 60.0


class Service:
    """The service, started again whenever it was killed."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.process = self._started()

    def _started(self) -> subprocess.Popen[bytes]:
        command = [sys.executable, "-m", "steady_tide.launch", "--data", str(self.folder), "--port", str(PORT)]
        return subprocess.Popen(command, cwd=ROOT, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)

    def again(self) -> None:
        """Start it again."""
        self.process.wait()
        self.process = self._started()

    def below(self, *words: str) -> list[int]:
        """Living processes of this service whose command holds the words. Returns their numbers."""
        found = []
        for entry in Path("/proc").glob("[0-9]*"):
            try:
                command = (entry / "cmdline").read_bytes().replace(b"\0", b" ").decode("utf-8", "replace")
                parent = int((entry / "stat").read_text().rpartition(")")[2].split()[1])
            except (OSError, ValueError):
                continue
            if all(word in command for word in words) and (
                str(self.folder) in command or self._ours(int(entry.name), parent)
            ):
                found.append(int(entry.name))
        return found

    def _ours(self, pid: int, parent: int) -> bool:
        mine = {self.process.pid}
        postmaster = self.folder / "db" / "postmaster.pid"
        with contextlib.suppress(OSError, ValueError, IndexError):
            mine.add(int(postmaster.read_text().split()[0]))
        for _ in range(4):
            if parent in mine:
                return True
            try:
                parent = int(Path(f"/proc/{parent}/stat").read_text().rpartition(")")[2].split()[1])
            except (OSError, ValueError):
                return False
        return False

    def database(self) -> list[int]:
        """The database's first process."""
        try:
            return [int((self.folder / "db" / "postmaster.pid").read_text().split()[0])]
        except (OSError, ValueError, IndexError):
            return []


class Writer(threading.Thread):
    """One person who writes without pause, and knows what was acknowledged."""

    def __init__(self, number: int) -> None:
        super().__init__(daemon=True)
        self.number = number
        self.over = threading.Event()
        self.notes: dict[str, str] = {}  # by shoot
        self.shots: dict[str, tuple[str, int]] = {}  # title and revision, by shot
        self.acknowledged = 0
        self.unsure: set[str] = set()  # asked for, and no answer came: either is right

    def run(self) -> None:
        with httpx.Client(base_url=ADDRESS, timeout=20) as client:
            while not self.over.is_set():
                try:
                    self._write(client)
                except httpx.HTTPError:
                    time.sleep(0.05)

    def _write(self, client: httpx.Client) -> None:
        if not self.notes or random.random() < 0.05:
            answer = client.post("/api/shoots", json={"title": f"of {self.number}"})
            if answer.status_code == 201:
                self.notes[answer.json()["id"]] = ""
                self.acknowledged += 1
            return
        shoot = random.choice(list(self.notes))
        if random.random() < 0.5:
            text = f"note {random.random()}"
            self.unsure.add(shoot)
            answer = client.patch(
                f"/api/shoots/{shoot}", json={"revision": self._latest(client, shoot), "change": {"note": text}}
            )
            if answer.status_code == 200:
                self.notes[shoot] = text
                self.acknowledged += 1
                self.unsure.discard(shoot)
            return
        brief: dict[str, Any] = {"title": f"shot {random.random()}", "light": {"kind": "meter", "ev100": [12, 13]}}
        answer = client.post(f"/api/shoots/{shoot}/shots", json={"brief": brief})
        if answer.status_code == 201:
            said = answer.json()
            self.shots[said["id"]] = (brief["title"], said["revision"])
            self.acknowledged += 1

    def _latest(self, client: httpx.Client, shoot: str) -> int:
        return int(client.get(f"/api/shoots/{shoot}").json().get("revision", 0))

    def lost(self, client: httpx.Client) -> list[str]:
        """What was acknowledged and is not there."""
        gone = []
        for shoot, note in self.notes.items():
            answer = client.get(f"/api/shoots/{shoot}")
            if answer.status_code != 200 or (shoot not in self.unsure and answer.json()["note"] != note):
                gone.append(f"shoot {shoot}")
        for shot, (title, _) in self.shots.items():
            answer = client.get(f"/api/shots/{shot}")
            if answer.status_code != 200 or answer.json()["brief"]["title"] != title:
                gone.append(f"shot {shot}")
        return gone


def answers(client: httpx.Client) -> bool:
    """Whether the service reads, plans and saves."""
    try:
        plan = client.post(
            "/api/bench", json={"title": f"{random.random()}", "light": {"kind": "meter", "ev100": [9, 9]}}
        )
        made = client.post("/api/shoots", json={"title": "probe"})
        return plan.status_code == 200 and made.status_code == 201
    except httpx.HTTPError:
        return False


def main() -> None:
    """Kill, wait, compare."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--kills", type=int, default=200)
    parser.add_argument("--seed", type=int, default=1)
    asked = parser.parse_args()
    random.seed(asked.seed)
    with tempfile.TemporaryDirectory(prefix="steady-tide-bench-") as name:
        Path(name).chmod(0o755)
        service = Service(Path(name) / "data")
        recovery: dict[str, list[float]] = defaultdict(list)
        with httpx.Client(base_url=ADDRESS, timeout=30) as client:
            deadline = time.monotonic() + PATIENCE_S
            while not answers(client) and time.monotonic() < deadline:
                time.sleep(0.1)
            writers = [Writer(number) for number in range(WRITERS)]
            for writer in writers:
                writer.start()
            for number in range(asked.kills):
                time.sleep(random.uniform(0.0, 0.8))
                kind = random.choices(("service", "database", "backend", "worker"), (1, 1, 1, 1.5))[0]
                found = {
                    "service": [service.process.pid],
                    "database": service.database(),
                    "backend": service.below("postgres:", "steady_tide"),
                    "worker": service.below("multiprocessing"),
                }[kind]
                if not found:
                    continue
                began = time.monotonic()
                try:
                    os.kill(random.choice(found), signal.SIGKILL)
                except ProcessLookupError:
                    continue
                if kind == "service":
                    service.again()
                while not answers(client):
                    if time.monotonic() - began > PATIENCE_S:
                        raise SystemExit(f"after kill {number} ({kind}) it did not come back")
                    time.sleep(0.05)
                recovery[kind].append(time.monotonic() - began)
                if (number + 1) % 20 == 0:
                    print(f"{number + 1} kills, {sum(w.acknowledged for w in writers)} writes acknowledged", flush=True)
            for writer in writers:
                writer.over.set()
            for writer in writers:
                writer.join(30)
            lost = [gone for writer in writers for gone in writer.lost(client)]
        for kind, times in sorted(recovery.items()):
            print(
                f"{kind:9s} {len(times):3d} kills, goes on after {statistics.median(times):5.2f} s, most {max(times):5.2f}"
            )
        print(f"{sum(w.acknowledged for w in writers)} writes acknowledged, {len(lost)} lost", lost[:5])
        service.process.terminate()
        service.process.wait(60)


if __name__ == "__main__":
    main()
