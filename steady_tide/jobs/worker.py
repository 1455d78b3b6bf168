"""A worker: takes jobs from the queue until it is told to stop, and outlives the database."""

from __future__ import annotations

import asyncio
import contextlib
import logging
import os
import signal
import sys
import time
from threading import Event, Thread

import procrastinate
from psycopg import Error as PostgresError
from sqlalchemy.engine import make_url

from steady_tide.core.quantities.errors import SteadyTideError
from steady_tide.jobs.tasks import app_of, sweep
from steady_tide.store.database import Database

ADDRESS = "STEADY_TIDE_DATABASE"  # in the environment, where it is not seen among the commands
NICE = 10  # saving, reading and planning go first
SWEEPS_EVERY_S = 5.0
TRIES_AGAIN_S = 1.0
ENDS_WITHIN_S = 8.0
POLLS_EVERY_S = 3.0


def work(url: str, lanes: list[str], name: str, stopping: Event, wait: bool = True) -> None:
    """Take jobs until told to stop.

    url: of the database; lanes: queues that are taken from; name: of this worker; stopping: set to stop it; wait: whether
    to wait for more where there is none.
    """
    logging.getLogger("procrastinate").setLevel(logging.CRITICAL)
    logging.getLogger("psycopg.pool").setLevel(logging.CRITICAL)
    database = Database(url)
    plain = make_url(url).set(drivername="postgresql").render_as_string(hide_password=False)
    sweeping = Thread(target=_sweep_until, args=(database, stopping), name="rush-sweep", daemon=True)
    sweeping.start()
    while not stopping.is_set():
        try:
            asyncio.run(_taking(plain, database, lanes, name, stopping, wait))
        except (procrastinate.exceptions.ProcrastinateException, PostgresError, OSError, RuntimeError) as error:
            if not stopping.is_set():
                print(
                    f"steady-tide worker: the database is away ({type(error).__name__}); trying again", file=sys.stderr
                )
        if not wait:
            break
        stopping.wait(TRIES_AGAIN_S)
    stopping.set()
    sweeping.join(timeout=ENDS_WITHIN_S)
    database.close()


async def _taking(url: str, database: Database, lanes: list[str], name: str, stopping: Event, wait: bool) -> None:
    app = app_of(url, database, stopping)
    async with app.open_async():
        running = asyncio.create_task(
            app.run_worker_async(
                queues=lanes,
                name=name,
                wait=wait,
                concurrency=1,
                fetch_job_polling_interval=POLLS_EVERY_S,
                install_signal_handlers=False,
                shutdown_graceful_timeout=ENDS_WITHIN_S,
            )
        )
        while not running.done():
            await asyncio.wait({running}, timeout=0.2)
            if stopping.is_set() and not running.done():
                running.cancel()
                with contextlib.suppress(asyncio.CancelledError):
                    await running
                return
        await running


def _sweep_until(database: Database, stopping: Event) -> None:
    while not stopping.wait(SWEEPS_EVERY_S):
        with contextlib.suppress(SteadyTideError):
            sweep(database)


def _until_parent_ends(stopping: Event) -> None:
    # Below Python's own buffer: a thread that waits in that holds its lock, over which Python cannot end.
    while os.read(sys.stdin.fileno(), 1024):
        pass
    stopping.set()


def main(url: str, lanes: list[str], name: str, with_parent: bool = False, wait: bool = True) -> int:
    """Run as a process.

    with_parent: end when standard input does, which whoever started it holds; wait: for more where nothing waits; the rest
    as `work`. Returns the exit code.
    """
    stopping = Event()
    for told in (signal.SIGTERM, signal.SIGINT):
        signal.signal(told, lambda *_: stopping.set())
    with contextlib.suppress(OSError):
        os.nice(NICE)
    if with_parent:
        Thread(target=_until_parent_ends, args=(stopping,), name="parent", daemon=True).start()
    started = Thread(target=work, args=(url, lanes, name, stopping, wait), name="rush-worker", daemon=True)
    started.start()
    while started.is_alive():
        time.sleep(0.1)
        if stopping.is_set():
            started.join(timeout=ENDS_WITHIN_S + 4.0)
            break
    return 0
