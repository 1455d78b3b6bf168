"""The private cluster: a server that was killed leaves processes behind that hold its memory for a while."""

from __future__ import annotations

import os
import signal
import threading
from pathlib import Path

import pytest

from steady_tide.launch.cluster import Cluster


def children_of(pid: int) -> list[int]:
    """Processes of a server."""
    return [int(part) for part in Path(f"/proc/{pid}/task/{pid}/children").read_text().split()]


def test_what_is_left_of_a_killed_server_is_waited_for(scratch: Path, capfd: pytest.CaptureFixture[str]) -> None:
    """A child that is still at it holds the shared memory: a new server refuses to start until it has gone."""
    folder = scratch / "killed"
    first = Cluster(folder)
    first.start()
    assert first.pid is not None
    held = children_of(first.pid)[0]
    os.kill(held, signal.SIGSTOP)  # it does not see that its server dies
    os.kill(first.pid, signal.SIGKILL)
    assert first._process is not None
    first._process.wait()
    going_on = threading.Timer(3.0, os.kill, (held, signal.SIGCONT))
    going_on.start()
    again = Cluster(folder)
    try:
        again.start()
    finally:
        going_on.join()
        again.stop()
    assert "waiting for the rest of it to end" in capfd.readouterr().err


def test_a_server_that_cannot_start_says_why_at_once(scratch: Path) -> None:
    folder = scratch / "broken"
    first = Cluster(folder)
    first.start()
    first.stop()
    (first.data / "postgresql.conf").write_text("no_such_setting = 1\n")
    with pytest.raises(Exception, match="no_such_setting"):
        Cluster(folder).start()
