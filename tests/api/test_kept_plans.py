"""One rule for kept plans: as it was where all it was made from is as it was, made anew at once where not, and asked
about only where its camera's sheet has a newer edition."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import httpx
import psycopg
import pytest

from steady_tide.launch.cluster import Cluster
from steady_tide.store.database import Database
from tests.briefs import QUAY, STARS, SUN
from tests.changing import changed
from tests.service import own_database, serving
from tests.waiting import until

BANK = {"name": "Night bank", "kind": "bank", "wh": 74.0}


@pytest.fixture(scope="module")
def database(cluster: Cluster) -> Iterator[Database]:
    with own_database(cluster, "kept") as made:
        yield made


@pytest.fixture(scope="module")
def service(database: Database) -> Iterator[httpx.Client]:
    with serving(database) as at, httpx.Client(base_url=at, timeout=60) as client:
        yield client


@pytest.fixture(scope="module")
def shoot(service: httpx.Client) -> str:
    return str(service.post("/api/shoots", json={"title": "kept"}).json()["id"])


def kept(service: httpx.Client, shoot: str, **brief: Any) -> str:
    made = service.post(f"/api/shoots/{shoot}/shots", json={"brief": {"title": "x", **brief}})
    assert made.status_code == 201, made.text
    return str(made.json()["id"])


def line(service: httpx.Client, shoot: str, shot: str) -> dict[str, Any]:
    items = service.get(f"/api/shoots/{shoot}/shots").json()["items"]
    return next(dict(item) for item in items if item["id"] == shot)


def plan_of(service: httpx.Client, shot: str) -> dict[str, Any]:
    return dict(service.get(f"/api/shots/{shot}").json()["plan"])


def said(plan: dict[str, Any]) -> str:
    return " ".join(warning["text"] for warning in plan["warnings"])


def test_a_power_bank_put_into_the_kit_is_in_every_answer_at_once(service: httpx.Client, shoot: str) -> None:
    night = {**STARS, "pins": {"camera": "limpet-7"}}
    shot = kept(service, shoot, **night)
    before = plan_of(service, shot)
    assert "There is none in the kit" in said(before)
    assert line(service, shoot, shot)["as_it_was"]
    service.put("/api/kit/things/batteries/night-bank", json={"thing": BANK}).raise_for_status()
    assert not line(service, shoot, shot)["as_it_was"], "the list shows old figures, and says so"
    after = plan_of(service, shot)
    assert "There is none in the kit" not in said(after)
    assert after["endurance"]["available_wh"] > before["endurance"]["available_wh"] + 50
    assert after == service.post("/api/plan", json={"title": "x", **night}).json()
    budget = service.get(f"/api/shoots/{shoot}/budget").json()
    limpet = next(camera for camera in budget["cameras"] if camera["id"] == "limpet-7")
    assert [entry["fails"] for entry in limpet["shots"] if entry["key"] == shot] == [[]]
    service.delete("/api/kit/things/batteries/night-bank").raise_for_status()
    assert plan_of(service, shot) == before, "put away again, it is as it was"


def test_the_crews_way_is_in_kept_plans_and_an_own_way_stays(service: httpx.Client, shoot: str) -> None:
    ours = kept(service, shoot, light=SUN, **QUAY)
    own = kept(service, shoot, light=SUN, **{**QUAY, "school": {"shutter": "half_turn"}})
    usual = service.get("/api/crew/school").json()["school"]
    before = plan_of(service, own)
    assert plan_of(service, ours)["chosen"]["shutter_s"] == 0.02
    changed(service, "/api/crew/school", shutter="free").raise_for_status()
    try:
        assert plan_of(service, ours)["chosen"]["shutter_s"] == "auto"
        assert plan_of(service, own)["chosen"] == before["chosen"]
    finally:
        changed(service, "/api/crew/school", **usual).raise_for_status()
    assert line(service, shoot, ours)["as_it_was"]


def test_asking_changes_nothing_that_is_kept(service: httpx.Client, shoot: str, database: Database) -> None:
    shot = kept(service, shoot, light=SUN, **QUAY)
    at = database.url.replace("+psycopg", "")

    def row() -> tuple[Any, ...] | None:
        with psycopg.connect(at) as looked:
            return looked.execute(
                "select xmin::text, plan, summary, made_from from shots where id = %s", (shot,)
            ).fetchone()

    service.put("/api/kit/things/batteries/other-bank", json={"thing": BANK}).raise_for_status()
    before = row()
    for path in ("", "/card", "/outside", "/glass-times", "/replanned"):
        service.get(f"/api/shots/{shot}{path}")
    for path in ("shots", "budget", "presets", "packing", "light", "rules", "cards", "shoot.zip", "shots.csv"):
        service.get(f"/api/shoots/{shoot}/{path}")
    assert row() == before
    service.delete("/api/kit/things/batteries/other-bank").raise_for_status()


def test_a_newer_edition_is_asked_about_and_not_taken(service: httpx.Client, shoot: str) -> None:
    shot = kept(service, shoot, light=SUN, **QUAY, pins={"camera": "cockle-3"})
    before = plan_of(service, shot)
    rough = service.get("/api/cameras/cockle-3/rough").json()
    sheet = {**rough["rough"]["sheet"], "sharpness": ["medium"]}
    changed = service.put(
        "/api/cameras/cockle-3", json={"made_on": rough["edition"], "rough": {**rough["rough"], "sheet": sheet}}
    )
    assert changed.status_code == 200, changed.text
    shown = service.get(f"/api/shots/{shot}").json()
    assert shown["plan"] == before
    assert shown["as_it_was"]
    assert (shown["sheet"]["edition"], shown["sheet"]["latest"]) == (1, 2)


def test_the_keeper_makes_old_plans_anew_by_itself(database: Database) -> None:
    with serving(database, keeps_fresh=True) as at, httpx.Client(base_url=at, timeout=60) as own:
        shoot = str(own.post("/api/shoots", json={"title": "kept fresh"}).json()["id"])
        shot = kept(own, shoot, **{**STARS, "pins": {"camera": "limpet-7"}})
        revision = line(own, shoot, shot)["revision"]
        own.put("/api/kit/things/batteries/third-bank", json={"thing": BANK}).raise_for_status()
        until(lambda: bool(line(own, shoot, shot)["as_it_was"]))
        assert line(own, shoot, shot)["revision"] == revision, "nobody who edits it is in conflict"
        assert "There is none in the kit" not in said(plan_of(own, shot))
