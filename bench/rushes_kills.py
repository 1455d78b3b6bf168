"""What a batch of clips does while workers, the service and the database are killed under it.

Run: python bench/rushes_kills.py [CLIPS]. A shared database, a service with one worker, and two workers of their own; every few
seconds one of them is killed and started again. Told: how long it took beside a batch that nobody disturbed, kills, and
how often each clip was measured with effect.
"""

from __future__ import annotations

import contextlib
import os
import random
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import httpx
import numpy as np
from rushes import clip

from steady_tide.launch.cluster import Cluster
from steady_tide.store.database import Database

EVERY_S, MOST_S = 6.0, 1500.0


def free_port() -> int:
    with socket.socket() as found:
        found.bind(("127.0.0.1", 0))
        return int(found.getsockname()[1])


class Batch:
    """A folder of clips, measured by a service and workers on a database of their own."""

    def __init__(self, folder: Path, count: int) -> None:
        self.folder, self.count, self.port = folder, count, free_port()
        self.cluster = Cluster(folder / "shared")
        self.cluster.start()
        self.running: dict[str, subprocess.Popen[bytes]] = {}
        self.kills = dict.fromkeys(("service", "worker", "database"), 0)
        card = folder / "card"
        card.mkdir()
        source = clip(folder / "source.mp4", 320, 180, 2_000_000, 60)
        for number in range(count):
            shutil.copy(source, card / f"{number:04}.mp4")

    def start(self, name: str) -> None:
        words = ["steady_tide.jobs", name, "rushes"]
        if name == "service":
            words = [
                "steady_tide.launch", "--database", self.cluster.url, "--data", str(self.folder / "data"),
                "--port", str(self.port), "--no-demo", "--rushes", str(self.folder / "card"),
            ]  # fmt: skip
        self.running[name] = subprocess.Popen(
            [sys.executable, "-m", *words],
            env={**os.environ, "STEADY_TIDE_DATABASE": self.cluster.url},
            stdin=subprocess.PIPE, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, start_new_session=True,
        )  # fmt: skip

    def kill(self, name: str) -> None:
        os.killpg(self.running[name].pid, signal.SIGKILL)
        self.running[name].wait()

    def disturb(self, chance: random.Random) -> None:
        what = chance.choice(["service", "two", "three", "database"])
        if what == "database":
            port = self.cluster.port
            self.cluster.stop()
            time.sleep(1.0)
            self.cluster.start(port)
        else:
            self.kill(what)
            self.start(what)
        self.kills[what if what in self.kills else "worker"] += 1

    def done(self) -> int:
        with contextlib.suppress(httpx.HTTPError, KeyError, ValueError):
            address = f"http://127.0.0.1:{self.port}/api/rushes/clips"
            return int(httpx.get(address, params={"limit": 1}, timeout=20).json()["counts"]["done"])
        return -1

    def run(self, disturbed: bool) -> float:
        chance, began = random.Random(1), time.monotonic()
        for name in ("service", "two", "three"):
            self.start(name)
        last = began
        while self.done() < self.count:
            if time.monotonic() - began > MOST_S:
                raise SystemExit("it did not come to its end")
            time.sleep(0.5)
            if disturbed and time.monotonic() - last > EVERY_S and 0 <= self.done() < self.count:
                self.disturb(chance)
                last = time.monotonic()
        return time.monotonic() - began

    def close(self) -> None:
        for name in self.running:
            with contextlib.suppress(ProcessLookupError):
                os.killpg(self.running[name].pid, signal.SIGTERM)
        for process in self.running.values():
            process.wait(30)
        self.cluster.stop()


def main() -> None:
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 200
    took = {}
    for disturbed in (False, True):
        with tempfile.TemporaryDirectory() as name:
            Path(name).chmod(0o755)
            batch = Batch(Path(name), count)
            try:
                took[disturbed] = batch.run(disturbed)
                database = Database(batch.cluster.url)
                with database.engine.connect() as connection:
                    rows = connection.exec_driver_sql("select state, measured_times from clips").all()
                database.close()
            finally:
                batch.close()
        times = np.bincount([times for _, times in rows])
        print(
            f"{count} clips, {'killed: ' + str(batch.kills) if disturbed else 'undisturbed'}: {took[disturbed]:.0f} s; "
            f"{sum(state == 'done' for state, _ in rows)} done, {len(rows)} kept; measured with effect "
            + ", ".join(f"{n} times: {many}" for n, many in enumerate(times) if many)
        )
    print(f"x{took[True] / took[False]:.2f} the time of the undisturbed batch")


if __name__ == "__main__":
    main()
