"""A worker that is told to stop ends quietly, while whoever started it is still there."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
from pathlib import Path

from steady_tide.jobs.worker import ADDRESS
from steady_tide.launch.cluster import Cluster
from tests.service import own_database
from tests.waiting import until


def listens(pid: int) -> bool:
    """Whether a process has its own answer to SIGTERM."""
    said = dict(line.split(":", 1) for line in Path(f"/proc/{pid}/status").read_text().splitlines())
    return bool(int(said["SigCgt"], 16) >> (signal.SIGTERM - 1) & 1)


def test_a_worker_that_is_told_to_stop_leaves_no_trace(cluster: Cluster) -> None:
    with own_database(cluster, "worker_stops", demo=False) as database:
        worker = subprocess.Popen(
            [sys.executable, "-m", "steady_tide.jobs", "test-0", "rushes"],
            env={**os.environ, ADDRESS: database.engine.url.render_as_string(hide_password=False)},
            stdin=subprocess.PIPE,
            stderr=subprocess.PIPE,
            text=True,
        )
        try:
            until(lambda: listens(worker.pid))
            worker.send_signal(signal.SIGTERM)
            code = worker.wait(timeout=30)
            assert worker.stderr is not None
            assert (code, worker.stderr.read()) == (0, "")
        finally:
            worker.kill()
            worker.wait()
            for stream in (worker.stdin, worker.stderr):
                assert stream is not None
                stream.close()
