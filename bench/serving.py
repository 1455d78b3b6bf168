"""A service of one's own on loopback, for as long as it is measured."""

from __future__ import annotations

import subprocess
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

ROOT = Path(__file__).parents[1]


@contextmanager
def service(port: int) -> Iterator[tuple[str, int]]:
    """Start it with the demo data in a folder that is thrown away. Yields its address and the number of its process."""
    with tempfile.TemporaryDirectory(prefix="steady-tide-bench-") as folder:
        Path(folder).chmod(0o755)  # the database's own user must be able to walk there
        command = [sys.executable, "-m", "steady_tide.launch", "--data", f"{folder}/data", "--port", str(port)]
        process = subprocess.Popen(command, cwd=ROOT, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True)
        try:
            assert process.stdout is not None
            next(line for line in process.stdout if "http://" in line)
            yield f"http://127.0.0.1:{port}", process.pid
        finally:
            process.terminate()
            process.wait(30)
