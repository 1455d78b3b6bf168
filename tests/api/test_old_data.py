"""What the version before kept and wrote opens: a database and files that were made by it.

Its plans were kept with their words, without a word of what they were made from. One shot has a pin, one is ticked, and
the Limpet 7 has a second edition while its plans keep the first.
"""

from __future__ import annotations

import gzip
import io
import json
import zipfile
from collections.abc import Iterator
from datetime import datetime
from pathlib import Path
from typing import Any

import httpx
import psycopg
import pytest

from steady_tide.core.light.sources import SkyLight
from steady_tide.launch.cluster import Cluster
from steady_tide.services.plan_refresh import Keeper
from steady_tide.services.plans import Plans
from steady_tide.store.database import Database
from tests.service import serving
from tests.waiting import until

OLD = Path(__file__).parents[1] / "old"


@pytest.fixture(scope="module")
def before(cluster: Cluster) -> tuple[str, dict[str, dict[str, Any]]]:
    """The old database, restored as its own, and the rows of its shots as they stand in it."""
    at = cluster.url.rsplit("/", 1)[0].replace("+psycopg", "")
    with psycopg.connect(f"{at}/postgres", autocommit=True) as server:
        server.execute("create database old")
    said = gzip.decompress((OLD / "database.sql.gz").read_bytes()).decode()
    with psycopg.connect(f"{at}/old", autocommit=True) as restored:
        restored.execute("\n".join(line for line in said.splitlines() if not line.startswith("\\")))
        restored.execute("set search_path to public")
        rows = restored.execute("select id::text, plan, brief, ticks, revision from shots").fetchall()
    names = ("plan", "brief", "ticks", "revision")
    return cluster.url.rsplit("/", 1)[0] + "/old", {row[0]: dict(zip(names, row[1:], strict=True)) for row in rows}


@pytest.fixture(scope="module")
def migrated(before: tuple[str, dict[str, dict[str, Any]]]) -> Iterator[Database]:
    database = Database(before[0])
    database.migrate()
    yield database
    database.close()


@pytest.fixture(scope="module")
def old(migrated: Database) -> Iterator[httpx.Client]:
    with serving(migrated) as at, httpx.Client(base_url=at, timeout=60) as client:
        yield client


def holds(new: Any, old: Any) -> bool:
    """Whether everything of an old value stands in a new one; fields that came later may stand beside."""
    if isinstance(old, dict):
        return isinstance(new, dict) and all(name in new and holds(new[name], value) for name, value in old.items())
    if isinstance(old, list):
        return isinstance(new, list) and len(new) == len(old) and all(map(holds, new, old))
    return bool(new == old)


def test_every_plan_is_made_anew_on_the_sheet_that_it_keeps(
    old: httpx.Client, before: tuple[str, dict[str, dict[str, Any]]]
) -> None:
    rows = before[1]
    assert len(rows) == 14
    pinned = on_first = 0
    for shot_id, row in rows.items():
        shot = old.get(f"/api/shots/{shot_id}").json()
        kept = row["plan"]
        # Judgement has changed since, so the plan is another; on a sheet that has no newer edition it is today's.
        if shot["sheet"]["edition"] == shot["sheet"]["latest"]:
            today = old.post("/api/plan", json=shot["brief"], params={"camera": shot["plan"]["camera"]["id"]}).json()
            assert shot["plan"]["settings"] == today["settings"], shot["summary"]["title"]
            assert shot["plan"]["given_up_stops"] == pytest.approx(today["given_up_stops"], abs=1e-9)
        now, then = shot["brief"]["light"], row["brief"]["light"]
        if now["kind"] == "water" and now["surface"]["kind"] == "sky":
            # Its sky was of another time than the shot; the start counts, and the light lasts as long as before.
            skies = [SkyLight.model_validate(light["surface"]) for light in (now, then)]
            assert skies[0].start == datetime.fromisoformat(shot["starts_at"])
            assert skies[0].end - skies[0].start == skies[1].end - skies[1].start
            for end in ("start", "end"):
                then["surface"][end] = now["surface"][end]
        assert holds(shot["brief"], row["brief"]), "nothing that was typed is lost"
        assert shot["revision"] == row["revision"]
        assert old.get(f"/api/shots/{shot_id}/outside").json()["ticks"] == row["ticks"]
        assert old.get(f"/api/shots/{shot_id}/card").status_code == 200
        pinned += bool(row["brief"]["pins"])
        if shot["plan"]["camera"]["id"] == kept["camera"]["id"] == "limpet-7":
            on_first += 1
            assert (shot["sheet"]["edition"], shot["sheet"]["latest"]) == (1, 2)
    assert pinned == 1
    assert on_first >= 5
    assert any(row["ticks"] for row in rows.values())


def test_the_lists_say_that_they_are_old_until_the_keeper_has_been_there(old: httpx.Client, migrated: Database) -> None:
    shoot = old.get("/api/shoots").json()["items"][0]["id"]

    def lines() -> list[dict[str, Any]]:
        return list(old.get(f"/api/shoots/{shoot}/shots").json()["items"])

    assert not any(line["as_it_was"] for line in lines())
    assert all(line["summary"]["title"] for line in lines())
    keeper = Keeper(migrated, Plans(), looks_every_s=0.05)
    keeper.start()
    until(lambda: all(line["as_it_was"] for line in lines()))
    keeper.stop()
    assert all(line["summary"]["sheet"] for line in lines())
    for what in ("budget", "presets", "packing", "rules", "light"):
        assert old.get(f"/api/shoots/{shoot}/{what}").status_code == 200, what


def test_its_files_are_read(old: httpx.Client) -> None:
    whole = (OLD / "shoot.zip").read_bytes()
    one = zipfile.ZipFile(io.BytesIO(whole)).read("shoot.json")
    for content in (whole, one):
        read = old.post("/api/shoots/import", content=content)
        assert read.status_code == 201, read.text
        shoot = read.json()["id"]
        assert len(old.get(f"/api/shoots/{shoot}/shots").json()["items"]) == len(json.loads(one)["shots"])
    listed = old.post(f"/api/shoots/{shoot}/shots/import", content=(OLD / "shots.csv").read_bytes())
    assert listed.json()["faults"] == []
    assert len(listed.json()["added"]) == 12
    kit = gzip.decompress((OLD / "kit.json.gz").read_bytes())
    brought = old.post("/api/kit/import", content=kit, params={"name": "kit.json"})
    assert brought.status_code in (200, 201), brought.text
    assert old.get("/api/kit").json()["cameras"]
