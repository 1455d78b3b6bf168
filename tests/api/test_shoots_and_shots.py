"""Shoots and shots over HTTP, on a real PostgreSQL."""

from __future__ import annotations

from typing import Any
from uuid import UUID, uuid4

import httpx
import pytest

from steady_tide.demo.load import load_demo
from steady_tide.launch.cluster import Cluster
from steady_tide.store.database import Database
from steady_tide.store.shots import get_shot
from tests.briefs import PUNTS, QUAY, SUN
from tests.changing import changed, shot_change
from tests.service import own_database, serving

SHOOT = {"title": "Low springs", "place": "the creek", "day": "2026-12-01", "zone": "Europe/London"}


@pytest.fixture
def shoot(http: httpx.Client) -> dict[str, Any]:
    return dict(http.post("/api/shoots", json=SHOOT).json())


def add(http: httpx.Client, shoot: dict[str, Any], **brief: Any) -> dict[str, Any]:
    answer = http.post(f"/api/shoots/{shoot['id']}/shots", json={"brief": {"light": SUN, **brief}})
    assert answer.status_code == 201, answer.text
    return dict(answer.json())


def test_the_demo_is_there_once(cluster: Cluster) -> None:
    with own_database(cluster, "once") as fresh, serving(fresh) as at, httpx.Client(base_url=at, timeout=20) as http:
        assert not load_demo(fresh), "it is not loaded again"
        shoots = http.get("/api/shoots").json()
        demo = [entry for entry in shoots["items"] if entry["crew"] == "The Sluice Crew"]
        assert shoots["total"] == len(shoots["items"]) == 2
        assert [entry["title"] for entry in demo] == ["Harrow Fleet, first flood", "Frost on the flats"]
        shots = http.get(f"/api/shoots/{demo[0]['id']}/shots").json()
        assert shots["total"] >= 5
        starts = [line["starts_at"] for line in shots["items"]]
        assert starts == sorted(starts)
        assert all(line["summary"]["given_up_stops"] > 0 for line in shots["items"])


def test_a_shoot_is_kept_changed_removed_and_brought_back(http: httpx.Client, shoot: dict[str, Any]) -> None:
    at = f"/api/shoots/{shoot['id']}"
    assert http.get(at).json()["place"] == "the creek"
    assert changed(http, at, mains_hz=60).json()["mains_hz"] == 60
    assert http.delete(at).status_code == 204
    assert http.get(at).status_code == 404
    assert shoot["id"] not in [entry["id"] for entry in http.get("/api/shoots").json()["items"]]
    assert http.post(f"{at}/restore").json()["title"] == "Low springs"
    assert http.get(at).status_code == 200


def test_a_shot_is_kept_with_its_plan(http: httpx.Client, shoot: dict[str, Any]) -> None:
    shot = add(http, shoot, title="Quay", **QUAY)
    kept = http.get(f"/api/shots/{shot['id']}").json()
    assert kept == shot
    assert kept["plan"]["settings"]["nd"] == ["nd64"]
    assert kept["brief"]["camera_move"]["mount"] == "walking"
    line = http.get(f"/api/shoots/{shoot['id']}/shots").json()["items"][0]
    assert "ND 64" in line["summary"]["sheet"]
    assert line["summary"]["given_up_stops"] == pytest.approx(kept["plan"]["given_up_stops"])


def test_a_change_plans_again_and_counts_revisions(http: httpx.Client, shoot: dict[str, Any]) -> None:
    shot = add(http, shoot, **QUAY)
    changed = http.patch(f"/api/shots/{shot['id']}", json=shot_change({"light": SUN, **PUNTS})).json()
    assert changed["revision"] == shot["revision"] + 1
    assert changed["plan"]["settings"]["nd"] == []
    assert http.get(f"/api/shots/{shot['id']}").json()["plan"] == changed["plan"]


def test_a_change_on_an_old_revision_is_refused_and_changes_nothing(http: httpx.Client, shoot: dict[str, Any]) -> None:
    shot = add(http, shoot, title="first")
    at = f"/api/shots/{shot['id']}"
    assert http.patch(at, json={"revision": 0, "change": {"title": "second"}}).status_code == 200
    late = http.patch(at, json={"revision": 0, "change": {"title": "third"}})
    assert late.status_code == 409
    assert late.json()["type"].endswith("changed-elsewhere")
    assert http.get(at).json()["brief"]["title"] == "second"


def test_pins_that_exclude_each_other_are_kept_with_the_reason(http: httpx.Client, shoot: dict[str, Any]) -> None:
    shot = add(http, shoot, pins={"frame_rate": 240, "frame": "5120x3840"})
    assert shot["plan"] is None
    assert "240" in shot["summary"]["problem"]
    card = http.get(f"/api/shots/{shot['id']}/card")
    assert card.status_code == 409
    assert card.headers["content-type"] == "application/problem+json"


def test_a_shot_is_removed_and_brought_back(http: httpx.Client, shoot: dict[str, Any]) -> None:
    shot = add(http, shoot)
    assert http.delete(f"/api/shots/{shot['id']}").status_code == 204
    assert http.get(f"/api/shots/{shot['id']}").status_code == 404
    assert http.get(f"/api/shoots/{shoot['id']}").json()["shots"] == 0
    assert http.post(f"/api/shots/{shot['id']}/restore").status_code == 200
    assert http.get(f"/api/shoots/{shoot['id']}").json()["shots"] == 1


@pytest.mark.parametrize(
    "path",
    [
        "/api/shoots/{id}",
        "/api/shoots/{id}/shots",
        "/api/shots/{id}",
        "/api/shots/{id}/card",
        "/api/cameras/none",
        "/api/nothing",
    ],
)
def test_what_is_not_there_is_a_problem(http: httpx.Client, path: str) -> None:
    answer = http.get(path.format(id=uuid4()))
    assert answer.status_code == 404
    assert answer.headers["content-type"] == "application/problem+json"
    assert answer.json()["detail"]


@pytest.mark.parametrize(
    ("fields", "where"),
    [
        ({"title": ""}, "title"),
        ({"zone": "Mars/Olympus"}, "zone"),
        ({"mains_hz": 55}, "mains_hz"),
        ({"latitude": 91}, "latitude"),
        ({"day": "soon"}, "day"),
        ({"title": "a\x00b"}, "title"),
    ],
)
def test_a_shoot_that_cannot_be(http: httpx.Client, fields: dict[str, Any], where: str) -> None:
    answer = http.post("/api/shoots", json={**SHOOT, **fields})
    assert answer.status_code == 422
    assert answer.json()["faults"][0]["where"] == where


def test_a_bad_brief_stores_nothing(http: httpx.Client, shoot: dict[str, Any]) -> None:
    for brief in ({"light": SUN, "subject": {"distance_m": [3, 1]}}, {"light": SUN, "camera_move": {"mount": "kite"}}):
        answer = http.post(f"/api/shoots/{shoot['id']}/shots", json={"brief": brief})
        assert answer.status_code == 422
        assert answer.json()["faults"]
    assert http.get(f"/api/shoots/{shoot['id']}/shots").json()["total"] == 0


def test_the_card_in_two_forms(http: httpx.Client, shoot: dict[str, Any]) -> None:
    shot = add(http, shoot, title="Punts & lanterns", **PUNTS)
    assert http.get(f"/api/shots/{shot['id']}/card").json()["title"] == "Punts & lanterns"
    file = http.get(f"/api/shots/{shot['id']}/card.html", params={"download": "true", "ground": "night"})
    assert 'filename="punts-lanterns.html"' in file.headers["content-disposition"]
    assert "<h1>Punts &amp; lanterns</h1>" in file.text
    assert "default-src 'none'" in file.headers["content-security-policy"]


def test_a_plan_that_an_older_version_kept_is_made_again(http: httpx.Client, database: Database) -> None:
    shoot = http.post("/api/shoots", json={"title": "last year"}).json()["id"]
    shot = http.post(f"/api/shoots/{shoot}/shots", json={"brief": {"title": "old", "light": SUN}}).json()
    for path in (f"/api/shots/{shot['id']}", f"/api/shots/{shot['id']}/card"):
        with database.session() as session:
            kept = get_shot(session, UUID(shot["id"]))
            kept.plan = {"camera": {"id": "limpet-7", "name": "Limpet 7"}, "settings": {"width": 3840}}
            kept.summary = {"title": "old"}
        assert http.get(path).status_code == 200
        again = http.get(f"/api/shots/{shot['id']}").json()
        assert again["plan"] == shot["plan"]
        assert again["summary"]["sheet"] == shot["summary"]["sheet"]


def test_a_shot_is_duplicated_with_its_wishes_and_recipes_but_not_its_ticks(
    http: httpx.Client, shoot: dict[str, Any]
) -> None:
    body = {"brief": {"title": "Quay", "light": SUN, **QUAY}, "starts_at": "2026-10-11T09:00:00Z"}
    shot = http.post(f"/api/shoots/{shoot['id']}/shots", json=body).json()
    changed(http, f"/api/shots/{shot['id']}/wishes", spot="quay")
    http.put(f"/api/shots/{shot['id']}/recipes/a", json={"id": "a", "name": "darker", "pins": {"nd": "nd8"}})
    http.post(f"/api/shots/{shot['id']}/outside", json={"ticks": {"lens": True}})
    copy = http.post(f"/api/shots/{shot['id']}/duplicate")
    assert copy.status_code == 201
    made = copy.json()
    assert made["summary"]["title"] == "Quay (copy)"
    assert made["starts_at"] == shot["starts_at"]
    assert made["plan"]["settings"] == shot["plan"]["settings"]
    assert http.get(f"/api/shoots/{shoot['id']}/rules").json()["wishes"][made["id"]]["spot"] == "quay"
    assert http.get(f"/api/shots/{made['id']}/recipes").json()["items"][0]["name"] == "darker"
    assert http.get(f"/api/shots/{made['id']}/outside").json()["ticks"] == {}
    assert http.post(f"/api/shots/{shoot['id']}/duplicate").status_code == 404


def test_recipes_are_kept_changed_compared_and_go_out_and_in(http: httpx.Client, shoot: dict[str, Any]) -> None:
    brief = {"title": "Quay", "light": SUN, **QUAY}
    shot = http.post(f"/api/shoots/{shoot['id']}/shots", json={"brief": brief}).json()
    at = f"/api/shots/{shot['id']}/recipes"

    def recipe(name: str, **fields: Any) -> dict[str, Any]:
        return {"id": name, "name": name, **fields}

    for name, fields in {"glass": {"pins": {"nd": "nd8"}}, "free": {"school": {"shutter": "free"}}}.items():
        assert http.put(f"{at}/{name}", json=recipe(name, **fields)).status_code == 200
    assert http.put(f"{at}/never", json=recipe("never", pins={"nd": "nd8", "frame_rate": 7})).json()["total"] == 3
    assert http.put(f"{at}/fourth", json=recipe("fourth")).status_code == 422
    assert http.put(f"{at}/other", json=recipe("glass")).status_code == 422
    assert http.put(f"{at}/glass", json=recipe("glass", pins={"nd": "nd16"})).json()["total"] == 3
    kept = http.get(at).json()["items"]
    assert [entry["id"] for entry in kept] == ["glass", "free", "never"]
    priced = http.post("/api/bench/recipes", json={"brief": brief, "recipes": kept}).json()["items"]
    for entry, fields in zip(priced[:2], ({"pins": {"nd": "nd16"}}, {"school": {"shutter": "free"}}), strict=True):
        alone = http.post("/api/plan", json={**brief, **fields}).json()
        assert entry["plan"]["chosen"] == alone["chosen"]
        assert entry["plan"]["given_up_stops"] == pytest.approx(alone["given_up_stops"])
    assert priced[2]["plan"] is None
    assert "pin" in priced[2]["problem"]
    out = http.get(f"/api/shoots/{shoot['id']}/shoot.json").json()
    assert [entry["id"] for entry in out["shots"][-1]["recipes"]] == ["glass", "free", "never"]
    read = http.post("/api/shoots/import", content=http.get(f"/api/shoots/{shoot['id']}/shoot.json").content).json()
    again = http.get(f"/api/shoots/{read['id']}/shots").json()["items"]
    mine = next(line["id"] for line in again if line["summary"]["title"] == "Quay")
    assert http.get(f"/api/shots/{mine}/recipes").json()["items"] == kept
    assert http.delete(f"{at}/never").json()["total"] == 2
    assert http.delete(f"{at}/never").status_code == 404
