"""Starting and stopping as a person does it: twice, with the port taken, with SIGTERM, after a crash."""

from __future__ import annotations

import contextlib
import os
import re
import shutil
import signal
import socket
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from pathlib import Path

import httpx
import pytest
from sqlalchemy import create_engine, text
from sqlalchemy.pool import NullPool

from steady_tide.launch.cluster import STANDS_FOR, Cluster, ClusterError, reachable
from steady_tide.store.database import Database
from tests.waiting import until

ROOT = Path(__file__).parents[2]


STARTED: list[subprocess.Popen[str]] = []


class Running:
    """A started service."""

    def __init__(self, data: Path, *options: str) -> None:
        self.process = subprocess.Popen(
            [sys.executable, "-m", "steady_tide.launch", "--data", str(data), "--workers", "0", *options],
            cwd=ROOT,
            stdout=subprocess.PIPE,
            stderr=subprocess.STDOUT,
            text=True,
            start_new_session=True,
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
        """Tell it to stop and wait; Ctrl-C goes to all of its processes, and comes twice, as from an impatient person.
        Returns its exit code."""
        if how == signal.SIGINT:
            os.killpg(self.process.pid, how)
            time.sleep(0.1)
            os.killpg(self.process.pid, how)
        else:
            self.process.send_signal(how)
        out, _ = self.process.communicate(timeout=30)
        self.said += out
        assert "Traceback" not in self.said, self.said
        return self.process.returncode


def ended(folder: Path) -> None:
    """End what still runs of a test."""
    for process in STARTED:
        if process.poll() is None:
            process.kill()
            process.wait()
        if process.stdout:
            process.stdout.close()
    STARTED.clear()
    left = Cluster(folder)
    if left.adopt():
        left.stop()


@pytest.fixture
def empty(scratch: Path, request: pytest.FixtureRequest) -> Iterator[Path]:
    """A folder in which nothing is."""
    folder = scratch / request.node.name
    yield folder
    ended(folder)


@pytest.fixture(scope="session")
def prepared(scratch: Path) -> Path:
    """A folder with a database that was migrated and holds nothing yet."""
    folder = scratch / "prepared"
    made = Cluster(folder)
    made.start()
    database = Database(made.url)
    database.migrate()
    database.close()
    made.stop()
    return folder


@pytest.fixture
def data(prepared: Path, scratch: Path, request: pytest.FixtureRequest) -> Iterator[Path]:
    """A folder as a first start without the demo leaves it, nothing running."""
    folder = scratch / request.node.name
    subprocess.run(["cp", "-a", str(prepared), str(folder)], check=True)
    yield folder
    ended(folder)


def command_of(pid: int) -> bytes:
    """Of a living process; empty for one that has ended, reaped or not."""
    try:
        return Path(f"/proc/{pid}/cmdline").read_bytes()
    except OSError:
        return b""


def below(pid: int) -> set[int]:
    """All processes that a process has started, and theirs."""
    found: set[int] = set()
    todo = [pid]
    while todo:
        for tasks in Path(f"/proc/{todo.pop()}/task").glob("*/children"):
            new = {int(child) for child in tasks.read_text().split()} - found
            found |= new
            todo += new
    return found


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
    ("how", "options", "shoots_before"), [(signal.SIGINT, [], 10), (signal.SIGTERM, ["--no-demo"], 0)]
)
def test_everything_is_there_again_after_a_stop(
    empty: Path, how: signal.Signals, options: list[str], shoots_before: int
) -> None:
    first = Running(empty, "--port", "0", *options)
    at = first.address()
    assert len(httpx.get(f"{at}/api/shoots", timeout=30).json()["items"]) == shoots_before
    added = httpx.post(f"{at}/api/shoots", json={"title": "kept"}, timeout=30).json()["id"]
    assert first.stop(how) == 0
    assert "Stopped. Everything is saved." in first.said
    assert servers_of(empty) == []
    began = time.monotonic()
    second = Running(empty, "--port", "0", *options)
    at = second.address()
    assert time.monotonic() - began < 20
    shoots = httpx.get(f"{at}/api/shoots", timeout=30).json()["items"]
    assert added in [shoot["id"] for shoot in shoots]
    assert len(shoots) == shoots_before + 1, "the demo is loaded once"
    second.stop()


def test_a_second_start_on_the_same_data_is_refused(data: Path) -> None:
    first = Running(data, "--port", "0", "--no-demo")
    at = first.address()
    assert httpx.get(f"{at}/api/shoots", timeout=30).json() == {"items": [], "total": 0}
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
    added = httpx.post(f"{at}/api/shoots", json={"title": "before the crash"}, timeout=30).json()["id"]
    brief = {"light": {"kind": "meter", "ev100": [12, 13]}}
    assert httpx.post(f"{at}/api/bench", json=brief, timeout=60).status_code == 200
    helpers = {pid for pid in below(first.process.pid) if b"multiprocessing" in command_of(pid)}
    assert len(helpers) > 2, "who plans"
    first.process.kill()
    first.process.wait()
    assert servers_of(data), "the database is still there, without its keeper"
    until(lambda: not any(command_of(pid) for pid in helpers))
    second = Running(data, "--port", "0", "--no-demo")
    at = second.address()
    assert httpx.get(f"{at}/api/shoots/{added}", timeout=30).json()["title"] == "before the crash"
    sockets = Path((data / "sockets").read_text())
    assert sockets.exists()
    assert second.stop() == 0
    assert servers_of(data) == []
    assert not sockets.exists(), "nothing is left behind, though the first start could not clear up"


@pytest.mark.skipif(os.geteuid() != 0, reason="only root mounts a small disk")
def test_a_full_disk_is_told_at_every_moment(tmp_path: Path) -> None:
    small = tmp_path / "small"
    small.mkdir()
    if subprocess.run(["mount", "-t", "tmpfs", "-o", "size=150m,mode=755", "tmpfs", str(small)]).returncode != 0:
        pytest.skip("this place mounts nothing")
    for parent in small.parents:  # the server must be able to walk there
        if parent.stat().st_uid == os.geteuid() and str(parent).startswith("/tmp/"):
            parent.chmod(parent.stat().st_mode | 0o011)
    filler, folder = small / "filler", small / "data"

    def fill() -> None:
        with contextlib.suppress(OSError), filler.open("wb") as file:
            while True:
                file.write(b"x" * 100_000)

    try:
        fill()
        first = Running(folder, "--port", "0", "--no-demo")
        assert first.process.wait(60) == 1
        assert "No space left" in (first.process.stdout.read() if first.process.stdout else "")
        filler.unlink()
        second = Running(folder, "--port", "0", "--no-demo")
        at = second.address()
        fill()
        full = httpx.post(f"{at}/api/shoots", json={"title": "x", "note": "y" * 4000}, timeout=60)
        tries = 0
        while full.status_code == 201 and (tries := tries + 1) < 200:
            full = httpx.post(f"{at}/api/shoots", json={"title": "x", "note": "y" * 4000}, timeout=60)
        assert (full.status_code, full.json()["type"].endswith("store-full")) == (507, True)
        filler.unlink()
        assert httpx.post(f"{at}/api/shoots", json={"title": "room"}, timeout=60).status_code == 201
        assert second.stop() == 0
        fill()
        third = Running(folder, "--port", "0", "--no-demo")
        assert third.process.wait(60) == 1
        said = third.process.stdout.read() if third.process.stdout else ""
        assert "full. Make room" in said
        filler.unlink()
    finally:
        subprocess.run(["umount", "-l", str(small)])


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


@pytest.mark.skipif(os.geteuid() != 0, reason="only root hands the cluster to another user")
def test_root_starts_below_a_folder_that_only_root_may_enter(tmp_path: Path) -> None:
    closed = tmp_path / "closed"
    closed.mkdir(mode=0o700)
    wanted = closed / "data"
    lies, says = reachable(wanted)
    try:
        assert lies.parent == STANDS_FOR
        assert str(closed) in says
        assert str(lies) in says
        first = Running(wanted, "--port", "0", "--no-demo")
        at = first.address()
        assert says in first.said
        added = httpx.post(f"{at}/api/shoots", json={"title": "kept"}, timeout=30).json()["id"]
        assert first.stop() == 0
        closed.chmod(0o755)  # opened later on: what was kept is still found
        second = Running(wanted, "--port", "0", "--no-demo")
        assert httpx.get(f"{second.address()}/api/shoots/{added}", timeout=30).json()["title"] == "kept"
        assert second.stop() == 0
    finally:
        for process in STARTED:
            process.kill()
            process.wait()
        STARTED.clear()
        shutil.rmtree(lies, ignore_errors=True)


@pytest.mark.parametrize("after_s", [0.3, 0.9])
def test_a_kill_in_the_first_second_leaves_nothing_half_made(empty: Path, after_s: float) -> None:
    first = Running(empty, "--port", "0", "--no-demo")
    time.sleep(after_s)
    first.process.kill()
    first.process.wait()
    for pid in servers_of(empty):  # an initdb that goes on by itself
        with contextlib.suppress(ProcessLookupError):
            os.kill(pid, signal.SIGKILL)
    second = Running(empty, "--port", "0", "--no-demo")
    assert httpx.get(f"{second.address()}/api/shoots", timeout=30).status_code == 200
    assert second.stop() == 0


@pytest.fixture
def stopped(data: Path) -> Path:
    """A folder with data, nothing running."""
    return data


def test_the_note_of_a_server_that_is_gone_is_no_hindrance(stopped: Path) -> None:
    note = stopped / "db" / "postmaster.pid"
    words = "\n".join(["{pid}", str(stopped.resolve() / "db"), "1", "5432", "/tmp", "127.0.0.1", "1 2", "ready"])

    def starts() -> bool:
        again = Cluster(stopped)
        again.start()
        again.stop()
        return True

    note.write_text(words.format(pid=os.getpid()))  # its number belongs to somebody else by now
    assert starts()
    dead = subprocess.Popen(["true"])
    time.sleep(0.2)  # dead, and not reaped
    note.write_text(words.format(pid=dead.pid))
    assert starts()
    dead.wait()
    note.write_text("nonsense")
    assert starts()


def test_a_database_that_dies_is_started_again(data: Path) -> None:
    running = Running(data, "--port", "0", "--no-demo")
    at = running.address()
    added = httpx.post(f"{at}/api/shoots", json={"title": "kept"}, timeout=30).json()["id"]
    os.kill(int((data / "db" / "postmaster.pid").read_text().splitlines()[0]), signal.SIGKILL)
    began = time.monotonic()
    while time.monotonic() - began < 30:
        answer = httpx.get(f"{at}/api/shoots/{added}", timeout=20)
        if answer.status_code == 200:
            break
        assert answer.status_code == 503, answer.text
        time.sleep(0.2)
    assert answer.json()["title"] == "kept"
    assert running.stop() == 0
    assert servers_of(data) == []


@pytest.mark.parametrize(
    ("change", "says"),
    [
        (lambda data: (data / "password").write_text("wrong\n"), "is not the one that this data was made with"),
        (lambda data: (data / "db" / "PG_VERSION").write_text("9\n"), "made by PostgreSQL 9"),
        (lambda data: (data / "password").unlink(), "cannot be read"),
    ],
    ids=["password", "major", "no password"],
)
def test_what_cannot_be_started_says_why_and_what_to_do(
    stopped: Path, change: Callable[[Path], object], says: str
) -> None:
    change(stopped)
    refused = Running(stopped, "--port", "0", "--no-demo")
    out, _ = refused.process.communicate(timeout=60)
    assert refused.process.returncode == 1
    assert says in out
    assert "Traceback" not in out
    assert servers_of(stopped) == []


@pytest.mark.skipif(os.geteuid() != 0, reason="only root can give a folder away")
def test_data_of_another_user_is_told(stopped: Path) -> None:
    shutil.chown(stopped / "db", "nobody")
    with pytest.raises(ClusterError, match="belongs to the user nobody"):
        Cluster(stopped).start()


def test_data_of_a_newer_version_is_told(data: Path) -> None:
    cluster = Cluster(data)
    cluster.start()
    with create_engine(cluster.url, poolclass=NullPool).begin() as connection:
        connection.execute(text("update alembic_version set version_num = '9999_from_the_future'"))
    cluster.stop()
    refused = Running(data, "--port", "0", "--no-demo")
    out, _ = refused.process.communicate(timeout=60)
    assert refused.process.returncode == 1
    assert "made by a newer version" in out
    assert "9999_from_the_future" in out
    assert "Traceback" not in out


def workers_of(service: int) -> list[int]:
    """Processes that measure for a service."""
    found = []
    for entry in Path("/proc").iterdir():
        if entry.name.isdigit() and f"steady_tide.jobs\0{service}-".encode() in command_of(int(entry.name)):
            found.append(int(entry.name))
    return found


@pytest.mark.parametrize("how", [signal.SIGTERM, signal.SIGKILL])
def test_workers_come_again_when_they_die_and_end_with_the_service(data: Path, how: signal.Signals) -> None:
    running = Running(data, "--port", "0", "--no-demo", "--workers", "2")
    running.address()
    until(lambda: len(workers_of(running.process.pid)) == 2)
    dead = workers_of(running.process.pid)[0]
    os.kill(dead, signal.SIGKILL)
    until(lambda: len(workers_of(running.process.pid)) == 2 and dead not in workers_of(running.process.pid))
    running.stop(how)
    until(lambda: workers_of(running.process.pid) == [], 25)
