"""Everything in one file, by the database's own tools: made, read back, checked; and one every night, kept seven deep."""

from __future__ import annotations

import fcntl
import json
import os
import shutil
import subprocess
import sys
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path

import psycopg
from sqlalchemy.engine import make_url

from steady_tide.core.quantities.errors import StoreUnavailable, WrongVersion
from steady_tide.launch.cluster import DATABASE, Cluster, ClusterError, reachable

FOLDER = "backups"
STATE = "last.json"
KEPT = 7
NIGHT_H = 3  # from this hour on the day's own is due
LOOKS_EVERY_S = 600.0
COMING, BEFORE = f"{DATABASE}_coming", f"{DATABASE}_before"
CHECKED = "checked"  # folder of the cluster in which a backup is read back


class BackupError(Exception):
    """It could not be made or read; the message says why and what to do."""


@dataclass(frozen=True)
class Held:
    """What a backup holds."""

    shoots: int
    shots: int
    cameras: int

    def __str__(self) -> str:
        return f"{self.shoots} shoots with {self.shots} shots, {self.cameras} cameras"


def make_backup(cluster: Cluster, file: Path) -> None:
    """Write all of a running cluster into a file that only its owner may read; whole, or not at all.

    cluster: running; file: overwritten where it is there. Raises BackupError.
    """
    part = file.with_name(f".{file.name}.part")
    try:
        part.touch(0o600)
        _run(cluster, "pg_dump", "--format=custom", "--no-owner", "--no-privileges", "--file", str(part), DATABASE)
        part.replace(file)
    except OSError as error:
        raise BackupError(f"{file} cannot be written: {error.strerror}. Choose another place, or make room.") from None
    finally:
        part.unlink(missing_ok=True)


def restore_into(cluster: Cluster, file: Path) -> Held:
    """Put a backup in the place of what a running cluster holds; whole, or nothing is changed.

    cluster: running, and used by nobody else; file: made by `make_backup`. Returns what it holds. Raises BackupError
    where it is none, WrongVersion where a newer version made it.
    """
    with _administering(cluster) as connection:
        connection.execute(f"drop database if exists {COMING} with (force)")
        connection.execute(f"create database {COMING}")
        try:
            _run(
                cluster, "pg_restore", "--exit-on-error", "--no-owner", "--no-privileges", "--dbname", COMING, str(file)
            )
            held = _looked_over(cluster, COMING)
        except BaseException:
            connection.execute(f"drop database if exists {COMING} with (force)")
            raise
        connection.execute(f"drop database if exists {BEFORE} with (force)")
        connection.execute("select pg_terminate_backend(pid) from pg_stat_activity where datname = %s", (DATABASE,))
        with connection.transaction():  # at no moment neither is there
            connection.execute(f"alter database {DATABASE} rename to {BEFORE}")
            connection.execute(f"alter database {COMING} rename to {DATABASE}")
        connection.execute(f"drop database {BEFORE} with (force)")
    return held


def check_backup(folder: Path, file: Path) -> Held:
    """Read a backup back into a cluster of its own, which is thrown away. folder: where there is room for it. Returns what
    it holds. Raises as `restore_into`, ClusterError."""
    shutil.rmtree(folder / CHECKED, ignore_errors=True)
    scratch = Cluster(folder / CHECKED)
    try:
        scratch.start()
        return restore_into(scratch, file)
    finally:
        scratch.stop()
        shutil.rmtree(folder / CHECKED, ignore_errors=True)


@contextmanager
def visiting(folder: Path, alone: bool = False) -> Iterator[Cluster]:
    """The cluster of a data folder: of the service that runs on it, or started for the while.

    folder: as given to ./start; alone: refuse where a service runs. Raises BackupError, ClusterError.
    """
    folder, _ = reachable(folder)
    if not alone and not (folder / "db" / "PG_VERSION").exists():
        raise BackupError(f"There is no data in {folder}. Give its folder with --data DIR.")
    folder.mkdir(parents=True, exist_ok=True)
    cluster = Cluster(folder)
    with (folder / "lock").open("w") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            if alone:
                raise BackupError(f"Steady Tide runs on the data in {folder}. Stop it first.") from None
            if not cluster.adopt():
                raise BackupError("The database is just starting or stopping. Try again in a moment.") from None
            yield cluster
            return
        left = cluster.adopt()  # of a service that ended without a stop
        try:
            if not left:
                cluster.start()
            yield cluster
        finally:
            if not left:
                cluster.stop()


def _run(cluster: Cluster, program: str, *options: str) -> None:
    url = make_url(cluster.url)
    done = subprocess.run(
        [str(cluster.programs() / program), "-h", "127.0.0.1", "-p", str(cluster.port), "-U", "steady_tide", *options],
        cwd="/",
        env={"PATH": os.environ.get("PATH", ""), "PGPASSWORD": url.password or "", "LC_ALL": "C.UTF-8"},
        capture_output=True,
        text=True,
        errors="replace",
    )
    if done.returncode != 0:
        said = (done.stderr.strip().splitlines() or ["no reason given"])[-1]
        if "No space" in done.stderr:
            raise BackupError("The disk is full. Make room, or choose another place.")
        if program == "pg_restore":
            raise BackupError(f"This is no whole backup of Steady Tide ({said}). Nothing was changed.")
        raise BackupError(f"The database did not hand over its data ({said}).")


@contextmanager
def _administering(cluster: Cluster) -> Iterator[psycopg.Connection]:
    address = make_url(cluster.url).set(drivername="postgresql", database="postgres")
    with psycopg.connect(address.render_as_string(hide_password=False), autocommit=True) as connection:
        yield connection


def _looked_over(cluster: Cluster, name: str) -> Held:
    """What a database holds; it must be one of ours, of this version or an older one."""
    from steady_tide.store.database import Database

    database = Database(make_url(cluster.url).set(database=name).render_as_string(hide_password=False))
    try:
        database.check_known()
        with database.engine.connect() as connection:
            counts = [
                int(connection.exec_driver_sql(f"select count(*) from {table}").scalar_one())
                for table in ("shoots", "shots", "cameras")
            ]
        return Held(*counts)
    except WrongVersion:
        raise
    except Exception as error:
        raise BackupError(
            f"This is a backup of something else ({type(error).__name__}). Nothing was changed."
        ) from error
    finally:
        database.close()


AHEAD = timedelta(hours=1)  # of the clock, from which on a copy's time tells of a clock that was wrong


def due(newest: datetime | None, now: datetime) -> bool:
    """Whether the day's backup is to be made. newest: when the last was, None or later than now where that says nothing;
    now: both local times."""
    if newest is not None and newest > now + AHEAD:
        return True
    night = now.replace(hour=NIGHT_H, minute=0, second=0, microsecond=0)
    if now < night:
        night -= timedelta(days=1)
    return newest is None or newest < night


class Nightly:
    """A thread that makes the night's backup and reads it back, and keeps seven. Whatever goes wrong, it tries again."""

    def __init__(self, cluster: Cluster, looks_every_s: float = LOOKS_EVERY_S) -> None:
        self._cluster = cluster
        self.folder = cluster.folder / FOLDER
        self._looks_every_s = looks_every_s
        self._over = threading.Event()
        self._thread = threading.Thread(target=self._run, name="nightly", daemon=True)

    def start(self) -> None:
        """Begin."""
        self._thread.start()

    def stop(self) -> None:
        """End after the one at hand."""
        self._over.set()
        self._thread.join(timeout=60)

    def _run(self) -> None:
        while not self._over.wait(self._looks_every_s):
            try:
                if due(self.newest(), datetime.now()):
                    self.make()
            except Exception as error:  # a full disk, a right that was taken: the next look tries again
                _complain(error)

    def newest(self) -> datetime | None:
        """When the last was made that could be read back, local time; one with a time to come counts for nothing."""
        times = [datetime.fromtimestamp(file.stat().st_mtime) for file in self.folder.glob("*.backup")]
        return max((at for at in times if at <= datetime.now() + AHEAD), default=None)

    def make(self) -> None:
        """Make one, read it back, note how it went, and let the oldest go. One that cannot be read back is none: it is
        made again at the next look, and lets none go."""
        self.folder.mkdir(exist_ok=True, mode=0o700)
        now = datetime.now()
        file = self.folder / f"{now:%Y-%m-%d}.backup"
        unread = file.with_suffix(UNREAD)
        said: dict[str, str] = {"made_at": now.astimezone().isoformat(timespec="seconds"), "file": file.name}
        try:
            make_backup(self._cluster, unread)
            said["holds"] = str(check_backup(self._cluster.folder, unread))
            unread.replace(file)
        except Exception as error:  # the database may fail in many ways, and none of them may be the last night's
            said["problem"] = str(error) if isinstance(error, OUR_WORDS) else f"{type(error).__name__}: {error}"
            _complain(error)
        finally:
            unread.unlink(missing_ok=True)
        state = self.folder / f".{STATE}"
        state.write_text(json.dumps(said))
        state.replace(self.folder / STATE)
        if "problem" not in said:
            by_age = sorted(self.folder.glob("*.backup"), key=lambda one: min(one.stat().st_mtime, now.timestamp()))
            for old in [one for one in by_age if one != file][: -(KEPT - 1)]:
                old.unlink(missing_ok=True)


OUR_WORDS = (BackupError, ClusterError, StoreUnavailable, OSError)
UNREAD = ".unread"


def _complain(error: Exception) -> None:
    print(f"steady-tide: the night's backup failed: {error}", file=sys.stderr, flush=True)
