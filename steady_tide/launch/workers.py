"""The workers that a service starts beside itself: they end with it, and are started again where they die."""

from __future__ import annotations

import contextlib
import os
import subprocess
import sys
import threading

from steady_tide.jobs.worker import ADDRESS

BEGINS_AFTER_S = 3.0
LOOKS_EVERY_S = 1.0
ENDS_WITHIN_S = 15.0


class Workers:
    """Some worker processes and who looks after them."""

    def __init__(self, url: str, lanes: list[str], count: int) -> None:
        """url: of the database; lanes: queues that they take from; count: how many."""
        self._environment = {**os.environ, ADDRESS: url}
        self._lanes, self._count = lanes, count
        self._running: list[subprocess.Popen[bytes]] = []
        self._over = threading.Event()
        self._thread = threading.Thread(target=self._look_after, name="workers", daemon=True)

    def start(self) -> None:
        """Begin."""
        self._thread.start()

    def _begun(self, number: int) -> subprocess.Popen[bytes]:
        # Standard input is held open: where this process ends however it may, they do, too.
        return subprocess.Popen(
            [sys.executable, "-m", "steady_tide.jobs", f"{os.getpid()}-{number}", *self._lanes],
            stdin=subprocess.PIPE,
            env=self._environment,
            start_new_session=True,
        )

    def _look_after(self) -> None:
        # Who plans loads first; clips have waited for hours already.
        if self._over.wait(BEGINS_AFTER_S):
            return
        self._running = [self._begun(number) for number in range(self._count)]
        while not self._over.wait(LOOKS_EVERY_S):
            for number, process in enumerate(self._running):
                if process.poll() is not None and not self._over.is_set():
                    self._running[number] = self._begun(number)

    def stop(self) -> None:
        """End them after what can be put back is put back."""
        self._over.set()
        self._thread.join(timeout=BEGINS_AFTER_S)
        for process in self._running:
            process.terminate()
        for process in self._running:
            try:
                process.wait(timeout=ENDS_WITHIN_S)
            except subprocess.TimeoutExpired:
                process.kill()
                process.wait()
            with contextlib.suppress(OSError):
                assert process.stdin is not None
                process.stdin.close()
