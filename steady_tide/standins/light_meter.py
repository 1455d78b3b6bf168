"""A simulated light meter: noise, slow drift, and now and then no answer at all."""

from __future__ import annotations

import random
import socketserver
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from math import sin

from steady_tide.devices.light_meter import LightMeter, reading_line

DEVICE = "simulated light meter"


class _Line(socketserver.StreamRequestHandler):
    timeout = 2.0
    server: MeterStandIn

    def handle(self) -> None:
        """Answer lines until the other side hangs up."""
        while line := self.rfile.readline(64):
            if line.strip() != b"READ":
                self.wfile.write(b'{"error": "say READ"}\n')
                continue
            answer = self.server.answer()
            if answer is None:
                return
            self.wfile.write(answer)


class MeterStandIn(socketserver.ThreadingTCPServer):
    """The device. Listens on a free port of loopback."""

    allow_reuse_address = True
    daemon_threads = True

    def __init__(self, lux: float = 12_000.0, noise: float = 0.03, dropout: float = 0.15, seed: int = 1) -> None:
        """lux: of the scene; noise: relative, RMS; dropout: share of lines not answered; seed: of both."""
        super().__init__(("127.0.0.1", 0), _Line)
        self.lux, self.noise, self.dropout = lux, noise, dropout
        self._chance, self._asked, self._lock = random.Random(seed), 0, threading.Lock()

    def answer(self) -> bytes | None:
        """One line, or nothing."""
        with self._lock:
            self._asked += 1
            if self._chance.random() < self.dropout:
                return None
            drift = 1.0 + 0.1 * sin(self._asked / 5.0)
            lux = max(0.0, self.lux * drift * self._chance.gauss(1.0, self.noise))
        return reading_line(DEVICE, lux, datetime.now(UTC), simulated=True)


@contextmanager
def simulated_meter(**scene: float) -> Iterator[LightMeter]:
    """A meter that runs while the block does. scene: as MeterStandIn takes it. Yields the way to it."""
    with MeterStandIn(**scene) as device:  # type: ignore[arg-type]
        threading.Thread(target=device.serve_forever, kwargs={"poll_interval": 0.1}, daemon=True).start()
        try:
            yield LightMeter("127.0.0.1", int(device.server_address[1]))
        finally:
            device.shutdown()
