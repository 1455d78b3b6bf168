"""A running service for a test."""

from __future__ import annotations

import socket
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import uvicorn
from sqlalchemy import create_engine, text
from sqlalchemy.pool import NullPool

from steady_tide.api.app import make_app
from steady_tide.api.services import services_of
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.judgement import Judgement
from steady_tide.demo.load import load_demo
from steady_tide.devices.sky import SkyService
from steady_tide.jobs.worker import work
from steady_tide.launch.cluster import Cluster
from steady_tide.services.planning_pool import Desk
from steady_tide.standins.light_meter import simulated_meter
from steady_tide.store.database import Database

METER_LUX = 8000.0


@contextmanager
def own_database(cluster: Cluster, name: str, demo: bool = True) -> Iterator[Database]:
    """A migrated database that no other test looks into, with the demo or empty."""
    made = _copied(cluster, _filled(cluster, demo), name)
    yield made
    made.close()


def _copied(cluster: Cluster, template: str | None, name: str) -> Database:
    with create_engine(cluster.url, isolation_level="AUTOCOMMIT", poolclass=NullPool).connect() as connection:
        connection.execute(text(f"create database {name}" + (f" template {template}" if template else "")))
    return Database(cluster.url.rsplit("/", 1)[0] + f"/{name}")


_templates: dict[tuple[str, bool], str] = {}


def _filled(cluster: Cluster, demo: bool) -> str:
    """The name of a database that others are copied of: migrated, and with the demo if asked for; made once in each cluster."""
    key = (cluster.url, demo)
    if key not in _templates:
        made = _copied(cluster, None, name := "filled" if demo else "migrated")
        made.migrate()
        if demo:
            load_demo(made)
        made.close()  # nobody may be on a database that is copied
        _templates[key] = name
    return _templates[key]


@contextmanager
def serving(
    database: Database,
    sky: SkyService | None = None,
    judgement: Judgement = USUAL,
    keeps_fresh: bool = False,
    desk: Desk | None = None,
    backups: Path | None = None,
    drops: Path | None = None,
) -> Iterator[str]:
    """Serve on a free port of loopback while the block runs, with a simulated meter that never misses a line.

    database: migrated; sky: who knows the clouds, the stand-in unless said otherwise; judgement: dials
    and items; keeps_fresh: whether plans are made anew by themselves; desk: where is planned; backups: folder of the
    night's; drops: of clips handed over. Yields the address.
    """
    bound = socket.socket()
    bound.bind(("127.0.0.1", 0))
    with simulated_meter(lux=METER_LUX, dropout=0.0) as meter:
        app = make_app(
            database, meter=meter, sky=sky, judgement=judgement, keeps_fresh=keeps_fresh, desk=desk, backups=backups,
            drops=drops,
        )  # fmt: skip
        server = uvicorn.Server(uvicorn.Config(app, log_level="error", timeout_graceful_shutdown=2))
        services_of(app).is_ending = lambda: server.should_exit
        thread = threading.Thread(target=server.run, kwargs={"sockets": [bound]}, daemon=True)
        thread.start()
        deadline = time.monotonic() + 20
        while not server.started and time.monotonic() < deadline:
            time.sleep(0.02)
        yield f"http://127.0.0.1:{bound.getsockname()[1]}"
        server.should_exit = True
        thread.join(10)
        bound.close()


@contextmanager
def measuring(database: Database, lanes: list[str]) -> Iterator[threading.Event]:
    """A worker in this process while the block runs. lanes: queues it takes from. Yields what stops it."""
    stopping = threading.Event()
    thread = threading.Thread(target=work, args=(database.url, lanes, "test", stopping), daemon=True)
    thread.start()
    yield stopping
    stopping.set()
    thread.join(20)
