"""Starting and stopping as a person does it: twice, with the port taken, with SIGTERM, after a crash."""

from __future__ import annotations

import os
import re
import signal
import socket
import subprocess
import sys
import time
from collections.abc import Iterator
from pathlib import Path

import httpx
import pytest

from steady_tide.launch.cluster import Cluster, ClusterError

ROOT = Path(__file__).parents[2]


STARTED: list[subprocess.Popen[str]] = []


class Running:
    """A started service."""

    def __init__(self, data: Path, *options: str) -> None:
        self.process = subprocess.Popen(
            [sys.executable, "-m", "steady_tide.launch", "--data", str(data), *options],
            cwd=ROOT,
            stdout=subprocess.PIPE,
            stderr=subprocess.STDOUT,
            text=True,
        )
        self.said = ""
        STARTED.append(self.process)

    def address(self) -> str:
        """Wait for the printed address."""
        assert self.process.stdout
        for line in self.process.stdout:
            self.said += line
            if found := re.search(r"http://127\.0\.0\.1:\d+", line):
                return found.group(0)
        raise AssertionError(self.said)

    def stop(self, how: signal.Signals = signal.SIGINT) -> int:
        """Tell it to stop and wait. Returns its exit code."""
        self.process.send_signal(how)
        out, _ = self.process.communicate(timeout=30)
        self.said += out
        return self.process.returncode


@pytest.fixture
def data(scratch: Path, request: pytest.FixtureRequest) -> Iterator[Path]:
    folder = scratch / request.node.name
    yield folder
    for process in STARTED:
        if process.poll() is None:
            process.kill()
            process.wait()
        if process.stdout:
            process.stdout.close()
    STARTED.clear()
    left = Cluster(folder)
    if left._adopt():
        left.stop()


def servers_of(data: Path) -> list[int]:
    """PostgreSQL processes of a folder."""
    found = []
    for entry in Path("/proc").iterdir():
        try:
            if entry.name.isdigit() and f"{data.resolve()}/db".encode() in (entry / "cmdline").read_bytes():
                found.append(int(entry.name))
        except OSError:
            continue
    return found


@pytest.mark.parametrize(
    ("how", "options", "shoots_before"), [(signal.SIGINT, [], 2), (signal.SIGTERM, ["--no-demo"], 0)]
)
def test_everything_is_there_again_after_a_stop(
    data: Path, how: signal.Signals, options: list[str], shoots_before: int
) -> None:
    first = Running(data, "--port", "0", *options)
    at = first.address()
    assert len(httpx.get(f"{at}/api/shoots").json()["items"]) == shoots_before
    added = httpx.post(f"{at}/api/shoots", json={"title": "kept"}).json()["id"]
    assert first.stop(how) == 0
    assert "Stopped. Everything is saved." in first.said
    assert servers_of(data) == []
    began = time.monotonic()
    second = Running(data, "--port", "0", *options)
    at = second.address()
    assert time.monotonic() - began < 20
    shoots = httpx.get(f"{at}/api/shoots").json()["items"]
    assert added in [shoot["id"] for shoot in shoots]
    assert len(shoots) == shoots_before + 1, "the demo is loaded once"
    second.stop()


def test_a_second_start_on_the_same_data_is_refused(data: Path) -> None:
    first = Running(data, "--port", "0", "--no-demo")
    at = first.address()
    assert httpx.get(f"{at}/api/shoots").json() == {"items": [], "total": 0}
    second = Running(data, "--port", "0")
    out, _ = second.process.communicate(timeout=30)
    assert second.process.returncode == 1
    assert "already running on the data" in out
    assert first.stop() == 0


def test_a_taken_port_is_told_or_avoided(data: Path) -> None:
    taken = socket.socket()
    try:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = str(taken.getsockname()[1])
        asked = Running(data, "--port", port)
        out, _ = asked.process.communicate(timeout=30)
        assert asked.process.returncode == 1
        assert f"cannot listen on port {port}" in out
        assert servers_of(data) == []
        usual = socket.socket()
        usual.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            usual.bind(("127.0.0.1", 8420))
            usual.listen()
        except OSError:
            pass  # someone else holds it, which serves as well
        any_port = Running(data, "--no-demo")
        at = any_port.address()
        usual.close()
        assert not at.endswith(":8420")
        assert "Port 8420 is taken" in any_port.said
        assert any_port.stop() == 0
    finally:
        taken.close()


def test_after_a_crash_the_next_start_takes_over(data: Path) -> None:
    first = Running(data, "--port", "0", "--no-demo")
    at = first.address()
    added = httpx.post(f"{at}/api/shoots", json={"title": "before the crash"}).json()["id"]
    first.process.kill()
    first.process.wait()
    assert servers_of(data), "the database is still there, without its keeper"
    second = Running(data, "--port", "0", "--no-demo")
    at = second.address()
    assert httpx.get(f"{at}/api/shoots/{added}").json()["title"] == "before the crash"
    assert second.stop() == 0
    assert servers_of(data) == []


@pytest.mark.skipif(os.geteuid() != 0, reason="only root hands the cluster to another user")
def test_a_folder_that_postgresql_cannot_reach_is_told(tmp_path: Path) -> None:
    closed = tmp_path / "closed"
    closed.mkdir(mode=0o700)
    with pytest.raises(ClusterError, match="--data DIR"):
        Cluster(closed / "data").start()


def test_the_password_is_for_the_owner_only_and_the_server_for_loopback(cluster: Cluster) -> None:
    assert (cluster.folder / "password").stat().st_mode & 0o777 == 0o600
    listening = subprocess.run(["cat", "/proc/net/tcp"], capture_output=True, text=True).stdout
    lines = [line.split() for line in listening.splitlines()[1:]]
    at_port = {line[1].split(":")[0] for line in lines if line[1].endswith(f":{cluster.port:04X}") and line[3] == "0A"}
    assert at_port == {"0100007F"}
