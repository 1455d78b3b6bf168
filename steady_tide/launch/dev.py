"""Serve for whoever changes the code: a private database with the demo, the service with reload, the front end with reload.

The front end's server answers the browser and hands `/api` to the service. Plans are made in the service's own process.
"""

from __future__ import annotations

import argparse
import os
import subprocess
import sys
from pathlib import Path

from fastapi import FastAPI

from steady_tide.launch.cluster import Cluster
from steady_tide.launch.logs import LEVELS, log_lines
from steady_tide.launch.stopping import Stopping

ROOT = Path(__file__).parents[2]
DATABASE, LEVEL = "STEADY_TIDE_DATABASE", "STEADY_TIDE_LOG_LEVEL"


def app() -> FastAPI:
    """The application, made anew whenever the code has changed. The database's address comes in the environment."""
    from steady_tide.api.app import make_app
    from steady_tide.store.database import Database

    log_lines(os.environ.get(LEVEL, "info"))
    return make_app(Database(os.environ[DATABASE]), docs_page=True)


def main() -> int:
    """Run until Ctrl-C. Returns the exit code."""
    parser = argparse.ArgumentParser(prog="./dev", description="Serve with reload on both sides.")
    parser.add_argument("--port", type=int, default=5173, help="of the page (default: 5173)")
    parser.add_argument("--service-port", type=int, default=8421, help="of the service behind it (default: 8421)")
    parser.add_argument("--data", type=Path, default=Path(".data-dev"), metavar="DIR", help="folder of the database")
    parser.add_argument("--log-level", choices=LEVELS, default="info")
    options = parser.parse_args()
    Stopping().listen()  # a stop must unwind, so that the database is stopped too
    cluster = Cluster(options.data)
    cluster.start()
    try:
        _fill(cluster.url)
        at = f"http://127.0.0.1:{options.service_port}"
        environment = {
            **os.environ, DATABASE: cluster.url, LEVEL: options.log_level, "STEADY_TIDE_SERVICE": at,
        }  # fmt: skip
        service = [
            sys.executable, "-m", "uvicorn", "steady_tide.launch.dev:app", "--factory", "--reload", "--reload-dir",
            "steady_tide", "--port", str(options.service_port), "--log-level", "warning",
        ]  # fmt: skip
        page = ["node_modules/.bin/vite", "--port", str(options.port), "--strictPort", "--host", "127.0.0.1"]
        running = [
            subprocess.Popen(service, cwd=ROOT, env=environment),
            subprocess.Popen(page, cwd=ROOT / "web", env=environment),
        ]
        print(f"Steady Tide: http://127.0.0.1:{options.port}\nIts API: {at}/api/docs\nStop with Ctrl-C.", flush=True)
        try:
            running[0].wait()
        except KeyboardInterrupt:
            pass
        finally:
            for process in running:
                process.terminate()
            for process in running:
                process.wait()
    finally:
        cluster.stop()
    return 0


def _fill(url: str) -> None:
    """Migrate a database, and load the demo once. url: of it."""
    from steady_tide.demo.film import load_film
    from steady_tide.demo.load import load_demo
    from steady_tide.demo.season import load_season
    from steady_tide.store.database import Database

    database = Database(url)
    database.migrate()
    load_demo(database)
    load_season(database)
    load_film(database)
    database.close()


if __name__ == "__main__":
    sys.exit(main())
