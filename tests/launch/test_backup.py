"""Everything into one file and out of it: on another machine, over what is there, broken, newer; and every night."""

from __future__ import annotations

import json
import os
import re
import subprocess
import sys
from collections.abc import Iterator
from datetime import datetime, timedelta
from pathlib import Path

import httpx
import psycopg
import pytest
from sqlalchemy import text

from steady_tide.core.quantities.errors import WrongVersion
from steady_tide.demo.load import load_demo
from steady_tide.launch import backup
from steady_tide.launch.backup import KEPT, BackupError, Nightly, check_backup, due, make_backup, restore_into
from steady_tide.launch.cluster import Cluster
from steady_tide.store.database import Database
from tests.service import serving
from tests.waiting import until

ROOT = Path(__file__).parents[2]


@pytest.fixture(scope="module")
def filled(scratch: Path) -> Iterator[Cluster]:
    """A cluster of its own with the demo in it."""
    made = Cluster(scratch / "for-backups")
    made.start()
    database = Database(made.url)
    database.migrate()
    load_demo(database)
    database.close()
    yield made
    made.stop()


def told(cluster: Cluster) -> dict[str, str]:
    """Everything that can be seen of a database, as its files."""
    database = Database(cluster.url)
    database.migrate()
    try:
        with serving(database) as at, httpx.Client(base_url=at, timeout=60) as client:
            shoots = client.get("/api/shoots").json()["items"]
            files = {shoot["title"]: client.get(f"/api/shoots/{shoot['id']}/shoot.json").text for shoot in shoots}
            return {**files, "kit": client.get("/api/kit").text}
    finally:
        database.close()


def shell(*options: str) -> subprocess.CompletedProcess[str]:
    command = [str(Path(sys.executable).with_name("steady-tide")), *options]
    return subprocess.run(command, cwd=ROOT, capture_output=True, text=True, timeout=120)


def test_a_backup_is_the_way_to_another_machine(filled: Cluster, scratch: Path) -> None:
    page = (ROOT / "docs/keeping.md").read_text()
    saving, restoring = re.findall(r"^\.venv/bin/steady-tide (.+?)\s+#", page, re.M)
    file = scratch / "all.backup"
    saved = shell(*saving.replace("all.backup", str(file)).split(), "--data", str(filled.folder), "--no-check")
    assert saved.returncode == 0, saved.stderr
    assert file.stat().st_mode & 0o077 == 0, "nobody else reads it"
    before = told(filled)
    there = scratch / "another-machine"
    done = shell(*restoring.replace("all.backup", str(file)).split(), "--data", str(there))
    assert done.returncode == 0, done.stderr
    assert "shoots with" in done.stdout
    other = Cluster(there)
    other.start()
    try:
        assert told(other) == before
    finally:
        other.stop()
    assert not list(there.glob("checked*"))


def test_what_is_there_is_kept_where_a_backup_is_none(filled: Cluster, scratch: Path) -> None:
    file = scratch / "whole.backup"
    make_backup(filled, file)
    whole = file.read_bytes()
    before = told(filled)
    for broken in (b"", b"PGDMP", whole[: len(whole) // 2], b"\x00" * 500, whole[:200] + b"\xff" * 300 + whole[500:]):
        file.write_bytes(broken)
        with pytest.raises(BackupError, match="Nothing was changed"):
            restore_into(filled, file)
    assert told(filled) == before
    file.write_bytes(whole)
    held = restore_into(filled, file)
    assert held.shots > 5
    assert told(filled) == before


def test_a_backup_of_a_newer_version_is_told(filled: Cluster, scratch: Path) -> None:
    file = scratch / "newer.backup"
    database = Database(filled.url)
    with database.engine.begin() as connection:
        stands = connection.execute(text("select version_num from alembic_version")).scalar_one()
        connection.execute(text("update alembic_version set version_num = '9999'"))
    make_backup(filled, file)
    with database.engine.begin() as connection:
        connection.execute(text("update alembic_version set version_num = :stands"), {"stands": stands})
    database.close()
    with pytest.raises(WrongVersion, match="newer version"):
        restore_into(filled, file)


def test_nothing_is_restored_under_a_running_service(filled: Cluster, scratch: Path) -> None:
    import fcntl

    with (filled.folder / "lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        file = scratch / "while-it-runs.backup"
        saved = shell("backup", str(file), "--data", str(filled.folder), "--no-check")
        assert saved.returncode == 0, saved.stderr
        refused = shell("restore", str(file), "--data", str(filled.folder))
        assert (refused.returncode, "Stop it first" in refused.stderr) == (1, True)


def test_a_place_that_cannot_be_written_is_told(filled: Cluster) -> None:
    told = shell("backup", "/proc/nowhere/x.backup", "--data", str(filled.folder))
    assert (told.returncode, "cannot be written" in told.stderr) == (1, True)
    none = shell("restore", "/proc/nowhere/x.backup", "--data", str(filled.folder))
    assert (none.returncode, "there is no file" in none.stderr) == (1, True)


def test_seven_nights_are_kept_and_the_last_was_read_back(filled: Cluster) -> None:
    nightly = Nightly(filled)
    nightly.folder.mkdir(exist_ok=True)
    for day in range(1, 11):
        old = nightly.folder / f"2026-01-{day:02d}.backup"
        old.write_bytes(b"old")
        os.utime(old, (day, day))
    assert due(nightly.newest(), datetime.now())
    nightly.make()
    kept = sorted(nightly.folder.glob("*.backup"))
    assert len(kept) == KEPT
    assert not due(nightly.newest(), datetime.now())
    state = json.loads((nightly.folder / "last.json").read_text())
    assert state["file"] == kept[-1].name
    assert "shoots with" in state["holds"]
    assert check_backup(filled.folder, kept[-1]).cameras == 7
    database = Database(filled.url)
    with serving(database, backups=nightly.folder) as at:
        assert httpx.get(f"{at}/api/health").json()["backup"]["holds"] == state["holds"]
    database.close()


@pytest.mark.parametrize(
    ("newest_h_ago", "hour", "is_due"), [(None, 12, True), (5, 4, True), (1, 4, False), (30, 2, True), (20, 2, False)]
)
def test_when_a_nights_backup_is_due(newest_h_ago: int | None, hour: int, is_due: bool) -> None:
    now = datetime(2026, 10, 11, hour)
    assert due(None if newest_h_ago is None else now - timedelta(hours=newest_h_ago), now) == is_due


def test_a_copy_that_cannot_be_read_back_counts_for_nothing(
    filled: Cluster, scratch: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """It is due again at the next look, it is not left lying as if it were whole, and lets no older one go."""
    nightly = Nightly(filled)
    nightly.folder = scratch / "nightly"
    nightly.folder.mkdir()
    for day in range(1, KEPT + 1):
        good = nightly.folder / f"2026-01-{day:02d}.backup"
        good.write_bytes(b"good")
        os.utime(good, (day, day))

    def unreadable(*_: object) -> None:
        raise psycopg.OperationalError("the scratch database died")

    monkeypatch.setattr(backup, "check_backup", unreadable)
    nightly.make()
    assert "scratch database died" in json.loads((nightly.folder / "last.json").read_text())["problem"]
    assert len(list(nightly.folder.glob("*.backup"))) == KEPT
    assert not list(nightly.folder.glob("*unread*"))
    assert due(nightly.newest(), datetime.now())
    monkeypatch.undo()
    nightly.make()
    assert not due(nightly.newest(), datetime.now())
    assert len(list(nightly.folder.glob("*.backup"))) == KEPT


def test_a_clock_that_jumped_holds_no_nights_copy_back(filled: Cluster, scratch: Path) -> None:
    nightly = Nightly(filled)
    nightly.folder = scratch / "jumped"
    nightly.folder.mkdir()
    ahead = nightly.folder / "2031-01-01.backup"
    ahead.write_bytes(b"of a clock that was five years fast")
    later = datetime.now().timestamp() + 5 * 365 * 86_400
    os.utime(ahead, (later, later))
    assert due(nightly.newest(), datetime.now())
    nightly.make()
    assert not due(nightly.newest(), datetime.now())


def test_nights_go_on_after_any_error(filled: Cluster, scratch: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    nightly = Nightly(filled, looks_every_s=0.01)
    nightly.folder = scratch / "erring"
    tries: list[int] = []

    def fails() -> None:
        tries.append(1)
        raise (PermissionError(13, "Permission denied"), psycopg.OperationalError("gone"), ValueError("odd"))[
            len(tries) % 3
        ]

    monkeypatch.setattr(nightly, "make", fails)
    nightly.start()
    until(lambda: len(tries) >= 6, 20)
    nightly.stop()
