"""A running service for a test."""

from __future__ import annotations

import socket
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager

import uvicorn

from steady_tide.api.app import make_app
from steady_tide.store.database import Database


@contextmanager
def serving(database: Database) -> Iterator[str]:
    """Serve on a free port of loopback while the block runs. database: migrated. Yields the address."""
    bound = socket.socket()
    bound.bind(("127.0.0.1", 0))
    server = uvicorn.Server(uvicorn.Config(make_app(database), log_level="error", timeout_graceful_shutdown=2))
    thread = threading.Thread(target=server.run, kwargs={"sockets": [bound]}, daemon=True)
    thread.start()
    deadline = time.monotonic() + 20
    while not server.started and time.monotonic() < deadline:
        time.sleep(0.02)
    yield f"http://127.0.0.1:{bound.getsockname()[1]}"
    server.should_exit = True
    thread.join(10)
    bound.close()
