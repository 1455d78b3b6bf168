"""The demo is left with one call, and what is one's own stays; another call brings it back as it was."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import httpx
import pytest

from steady_tide.demo.film import load_film
from steady_tide.demo.load import load_trial
from steady_tide.demo.season import load_season
from steady_tide.launch.cluster import Cluster
from steady_tide.store.database import Database
from tests.service import own_database, serving


@pytest.fixture(scope="module")
def loaded(cluster: Cluster, tmp_path_factory: pytest.TempPathFactory) -> Iterator[Database]:
    with own_database(cluster, "demo_left") as database:
        load_trial(database, tmp_path_factory.mktemp("laid") / "demo-rushes")
        load_season(database)
        load_film(database)
        yield database


@pytest.fixture(scope="module")
def api(loaded: Database) -> Iterator[httpx.Client]:
    with serving(loaded) as at, httpx.Client(base_url=at, timeout=60) as client:
        yield client


def everything(api: httpx.Client) -> dict[str, Any]:
    """What stands in each station, by its names."""

    def get(path: str) -> Any:
        return api.get(path).raise_for_status().json()

    shoots = get("/api/shoots")["items"]
    return {
        "shoots": sorted(one["title"] for one in shoots),
        "shots": sum(one["shots"] for one in shoots),
        "crew": sorted({(one["crew"] or "", tuple(one["people"])) for one in shoots}),
        "takes": sorted(one["id"] for one in get("/api/log/takes?most=1000")["items"]),
        "ladders": sorted(one["title"] for one in get("/api/ladders")["items"]),
        "notes": sorted(one["id"] for one in get("/api/log/notes")["items"]),
        "clips": sorted(one["name"] for one in get("/api/rushes/clips")["items"]),
    }


def test_it_is_left_with_one_call_and_comes_back_as_it_was(api: httpx.Client) -> None:
    own = api.post("/api/shoots", json={"title": "Frost on the flats"}).raise_for_status().json()
    before = everything(api)
    state = api.get("/api/demo").json()
    assert state["shoots"] == 10
    assert not state["left"]
    assert all(before.values())
    listed = {one["id"]: one["demo"] for one in api.get("/api/shoots").json()["items"]}
    assert not listed.pop(own["id"])
    assert all(listed.values())

    assert api.post("/api/demo/leave").json() == {"shoots": 0, "left": True}
    assert everything(api) == {
        "shoots": ["Frost on the flats"], "shots": 0, "crew": [("", ())], "takes": [], "ladders": [], "notes": [], "clips": [],
    }  # fmt: skip
    assert api.get("/api/kit").json()["cameras"], "made-up cameras stay until one takes them off"
    again = api.post("/api/demo/leave")
    assert again.status_code == 404
    assert "no demo here any more" in again.json()["detail"]

    assert api.post("/api/demo/return").json() == {"shoots": 10, "left": False}
    assert everything(api) == before
    assert api.post("/api/demo/return").status_code == 404


def test_what_was_removed_before_it_was_left_stays_removed(api: httpx.Client) -> None:
    gone = next(one for one in api.get("/api/shoots").json()["items"] if one["title"] == "Driftwood")
    api.delete(f"/api/shoots/{gone['id']}").raise_for_status()
    api.post("/api/demo/leave").raise_for_status()
    api.post("/api/demo/return").raise_for_status()
    titles = [one["title"] for one in api.get("/api/shoots").json()["items"]]
    assert "Driftwood" not in titles
    assert "Geese on the wall" in titles
