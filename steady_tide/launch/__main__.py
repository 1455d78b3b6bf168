"""Serve Steady Tide: start the database, migrate, load the demo once, listen on loopback."""

from __future__ import annotations

import argparse
import errno
import fcntl
import socket
import sys
import threading
from collections.abc import Iterator
from contextlib import contextmanager, nullcontext
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from steady_tide.core.quantities.errors import BadInput, WrongVersion
from steady_tide.launch.backup import Nightly
from steady_tide.launch.cluster import Cluster, ClusterError, reachable
from steady_tide.launch.given import BadAddress, address_of, reached
from steady_tide.launch.logs import LEVELS, log_lines
from steady_tide.launch.stopping import Stopping
from steady_tide.launch.workers import Workers
from steady_tide.services.memory import look_seldom
from steady_tide.services.rush_folders import real_folder
from steady_tide.store.database import Database

DEFAULT_PORT = 8420
TRIED_PORTS = 20
WATCHED_EVERY_S = 0.5
MOST_WORKERS = 32


def arguments(given: list[str]) -> argparse.Namespace:
    """Read the command line."""
    parser = argparse.ArgumentParser(
        prog="./start", description="Set up what is missing, then serve Steady Tide on this machine alone."
    )
    parser.add_argument(
        "--port", type=int, help=f"listen here and nowhere else (without it: {DEFAULT_PORT}, or the next free one)"
    )
    parser.add_argument(
        "--data", type=Path, default=Path(".data"), metavar="DIR", help="folder of the database (default: .data)"
    )
    parser.add_argument(
        "--rushes",
        type=Path,
        action="append",
        default=[],
        metavar="DIR",
        help="a folder whose clips are measured; may be given more than once",
    )
    parser.add_argument("--workers", type=int, default=1, metavar="N", help="how many measure clips here (default: 1)")
    parser.add_argument(
        "--database", metavar="URL", help="use this PostgreSQL database instead of a private one in the data folder"
    )
    parser.add_argument("--no-demo", action="store_true", help="do not load the demo shoot into a new database")
    parser.add_argument(
        "--log-level", choices=LEVELS, default="warning", help="what is logged, as lines of JSON (default: warning)"
    )
    parser.add_argument("--docs", action="store_true", help="show the API's documentation at /api/docs")
    options = parser.parse_args(given)
    if not 0 <= options.workers <= MOST_WORKERS:
        parser.error(f"--workers takes 0 to {MOST_WORKERS}")
    return options


def listening(port: int | None) -> socket.socket:
    """Bind to loopback. port: wanted, None for the usual one or the next. Raises SystemExit where taken."""
    for candidate in [port] if port is not None else range(DEFAULT_PORT, DEFAULT_PORT + TRIED_PORTS):
        bound = socket.socket()
        bound.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            bound.bind(("127.0.0.1", candidate))
            bound.listen(128)  # from now on a browser waits instead of being refused
        except (OSError, OverflowError) as error:
            bound.close()
            if port is not None:
                raise SystemExit(
                    f"steady-tide: cannot listen on port {port}: {error}. Choose another with --port, or leave --port away."
                ) from None
            continue
        if candidate != DEFAULT_PORT and port is None:
            print(f"Port {DEFAULT_PORT} is taken; using {candidate}.")
        return bound
    raise SystemExit(
        f"steady-tide: no free port from {DEFAULT_PORT} to {DEFAULT_PORT + TRIED_PORTS - 1}. Choose one with --port."
    )


def hold(folder: Path) -> Any:
    """Keep a second start out of the same folder. Returns the lock to hold on to."""
    folder.mkdir(parents=True, exist_ok=True)
    lock = (folder / "lock").open("w")
    try:
        fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        raise SystemExit(
            f"steady-tide: already running on the data in {folder}. Stop that one first, or give another folder with --data DIR."
        ) from None
    return lock


def main() -> int:
    """Run until Ctrl-C or SIGTERM. Returns the exit code."""
    options = arguments(sys.argv[1:])
    log_lines(options.log_level)
    look_seldom()
    stopping = Stopping()  # a stop must unwind, so that the database is stopped too
    stopping.listen()
    try:
        address = None if options.database is None else address_of(options.database)
        rushes = [real_folder(str(named)) for named in options.rushes]
    except (BadAddress, BadInput) as error:
        print(f"steady-tide: {error}", file=sys.stderr)
        return 1
    # With a database of one's own nobody else has to enter the folder.
    folder, says = reachable(options.data) if address is None else (options.data.resolve(), "")
    if says:
        print(says, flush=True)
    try:
        lock = hold(folder)
    except OSError as error:
        raise SystemExit(f"steady-tide: cannot use {folder}: {error.strerror}.") from None
    bound = listening(options.port)
    cluster = None if address is not None else Cluster(folder)
    serving = Serving(folder, bound, stopping, not options.no_demo, rushes, options.workers, options.docs)
    try:
        if cluster is None:
            assert address is not None
            serve(reached(address), None, serving)
        else:
            cluster.start()
            stopping.check()
            with kept_alive(cluster):
                serve(Database(cluster.url), Nightly(cluster), serving)
    except (ClusterError, WrongVersion, BadAddress) as error:
        print(f"steady-tide: {error}", file=sys.stderr)
        return 1
    except OSError as error:
        if error.errno not in (errno.ENOSPC, errno.EROFS, errno.EACCES, errno.EDQUOT):
            raise
        print(
            f"steady-tide: nothing can be written in {folder}: {error.strerror}. Make room or give the right to write "
            "there, or choose another folder with --data DIR.",
            file=sys.stderr,
        )
        return 1
    except KeyboardInterrupt:
        pass  # told to stop
    finally:
        if cluster is not None:
            cluster.stop()
        bound.close()
        lock.close()
    print("Stopped. Everything is saved.")
    return 0


@contextmanager
def kept_alive(cluster: Cluster) -> Iterator[None]:
    """While serving, start the database again where it dies. cluster: of the service."""
    over = threading.Event()

    def watch() -> None:
        told = ""
        while not over.wait(WATCHED_EVERY_S):
            try:
                if cluster.revive():
                    told = ""
                    print("The database had stopped; it was started again.", file=sys.stderr, flush=True)
            except Exception as error:  # a full disk, a right that was taken: it is tried again
                said = str(error) if isinstance(error, (ClusterError, OSError)) else f"{type(error).__name__}: {error}"
                if said != told:
                    print(f"steady-tide: {said}", file=sys.stderr, flush=True)
                told = said

    watching = threading.Thread(target=watch, name="database-watch", daemon=True)
    watching.start()
    try:
        yield
    finally:
        over.set()
        watching.join()


@dataclass(frozen=True)
class Serving:
    """How is served. folder: of data beside the database; bound: the socket; stopping: tells the end; demo: whether to load
    it once; rushes: folders named at the start; workers: how many measure; docs_page: whether the API documents itself."""

    folder: Path
    bound: socket.socket
    stopping: Stopping
    demo: bool
    rushes: list[str]
    workers: int
    docs_page: bool


def serve(database: Database, nightly: Nightly | None, serving: Serving) -> None:
    """Serve until told to stop. database: reachable; nightly: who makes backups, where it is ours to do."""
    import uvicorn

    from steady_tide.api.app import make_app
    from steady_tide.api.services import services_of
    from steady_tide.demo.film import load_film
    from steady_tide.demo.load import load_demo, load_trial
    from steady_tide.demo.season import load_season
    from steady_tide.services.crew_kit import read_crew_kit
    from steady_tide.services.ladders import renew_old
    from steady_tide.services.planning_pool import Desk
    from steady_tide.services.plans import Plans
    from steady_tide.services.rush_folders import FOLDERS_QUEUE, lane_of
    from steady_tide.services.rushes import begin_folders
    from steady_tide.standins.light_meter import simulated_meter
    from steady_tide.store.shoots import crew_school

    database.migrate()
    if serving.demo:
        load_demo(database)
        load_trial(database, serving.folder / "demo-rushes")
        load_season(database)
        load_film(database)
    with database.session() as session:
        renew_old(session, crew_school(session), read_crew_kit(session), Plans())
    serving.stopping.check()
    port = serving.bound.getsockname()[1]
    drops = begin_folders(database, serving.folder / "rushes", serving.rushes)
    workers = Workers(database.url, [FOLDERS_QUEUE, lane_of(drops)], serving.workers)
    with simulated_meter() as meter:
        app = make_app(
            database,
            meter=meter,
            keeps_fresh=True,
            desk=Desk(),
            backups=None if nightly is None else nightly.folder,
            looks=serving.folder / "look",
            drops=Path(drops.path),
            docs_page=serving.docs_page,
        )
        config = uvicorn.Config(app, log_level="warning", timeout_graceful_shutdown=5, server_header=False)
        server = uvicorn.Server(config)
        # The signals are ours: a second Ctrl-C must not break into the orderly stop that the first began.
        server.capture_signals = nullcontext  # type: ignore[method-assign,assignment]
        services_of(app).is_ending = lambda: server.should_exit
        serving.stopping.hand_to(server)
        print(f"Steady Tide: http://127.0.0.1:{port}\nStop with Ctrl-C.", flush=True)
        if nightly is not None:
            nightly.start()
        workers.start()
        try:
            server.run(sockets=[serving.bound])
        finally:
            workers.stop()
            if nightly is not None:
                nightly.stop()
    database.close()


if __name__ == "__main__":
    sys.exit(main())
