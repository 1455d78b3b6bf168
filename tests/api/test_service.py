"""The service as a whole: plans, guards, fuzzing, and a database that goes away."""

from __future__ import annotations

import json
import time
from pathlib import Path
from typing import Any

import httpx
import pytest

from steady_tide.launch.cluster import Cluster
from steady_tide.store.database import Database
from tests.briefs import ALL_KINDS, QUAY, SUN, planned
from tests.changing import changed
from tests.service import serving

ROOT = Path(__file__).parents[2]


@pytest.mark.parametrize("name", ALL_KINDS)
def test_the_service_plans_as_the_core_does(http: httpx.Client, name: str) -> None:
    answer = http.post("/api/plan", json={"title": "test", "light": SUN, **ALL_KINDS[name]})
    assert answer.status_code == 200
    assert answer.json() == json.loads(planned(**ALL_KINDS[name]).model_dump_json())


@pytest.mark.parametrize(
    ("body", "status", "where"),
    [
        ("{", 422, "the body"),
        ('{"light": NaN}', 422, "light"),
        ('{"light": {"kind": "meter", "ev100": [NaN, 3]}}', 422, "light.ev100[0]"),
        ('{"light": {"kind": "meter", "ev100": [1e999, 3]}}', 422, "light.ev100[0]"),
        ("null", 422, ""),
        ('{"light": {"kind": "place", "place": "full_sun"}, "delivery": {"fps": 0}}', 422, "delivery.fps"),
        (
            '{"light": {"kind": "place", "place": "full_sun"}, "camera_move": {"mount": "kite"}}',
            422,
            "camera_move.mount",
        ),
        ('{"light": {"kind": "place", "place": "full_sun"}, "pins": {"frame_rate": 1}}', 422, "pins.frame_rate"),
    ],
)
def test_bad_briefs_are_problems_with_a_path(http: httpx.Client, body: str, status: int, where: str) -> None:
    answer = http.post("/api/plan", content=body, headers={"Content-Type": "application/json"})
    assert answer.status_code == status
    assert answer.headers["content-type"] == "application/problem+json"
    problem = answer.json()
    assert where in [fault["where"] for fault in problem["faults"]]
    assert problem["detail"]


def test_exclusive_pins_are_named(http: httpx.Client) -> None:
    answer = http.post(
        "/api/plan", json={"light": SUN, "pins": {"frame_rate": 400, "stabilisation": "strong", "sharpness": "low"}}
    )
    assert answer.status_code == 409
    assert sorted(answer.json()["pins"]) == ["frame_rate", "stabilisation"]


def test_foreign_hosts_and_origins_are_refused(http: httpx.Client) -> None:
    assert http.get("/api/health", headers={"Host": "tide.example"}).status_code == 400
    foreign = {"Origin": "http://tide.example"}
    assert http.post("/api/plan", json={"light": SUN}, headers=foreign).status_code == 403
    assert (
        http.post("/api/plan", json={"light": SUN}, headers={"Origin": str(http.base_url).rstrip("/")}).status_code
        == 200
    )
    for odd in ("http://[", "http://[::1", "//[", "http://[x]", "http://a:b:c", "null", "[", ""):
        answer = http.post("/api/plan", json={"light": SUN}, headers={"Origin": odd})
        assert (answer.status_code, answer.headers["content-type"]) == (403, "application/problem+json"), odd
    assert "access-control-allow-origin" not in http.get("/api/health", headers=foreign).headers


def test_overlong_bodies_are_refused(http: httpx.Client) -> None:
    answer = http.post("/api/plan", content=b" " * 2_000_000, headers={"Content-Type": "application/json"})
    assert answer.status_code == 413

    def endless() -> Any:
        for _ in range(30):
            yield b" " * 100_000

    with pytest.raises(httpx.HTTPError):
        http.post("/api/plan", content=endless(), headers={"Content-Type": "application/json"}).raise_for_status()


def test_pages_carry_a_policy_and_escape_nothing(http: httpx.Client) -> None:
    page = http.get("/shots/anything")
    assert page.status_code == 200
    assert "script-src 'self'" in page.headers["content-security-policy"]
    assert page.headers["x-content-type-options"] == "nosniff"
    assert page.headers["cache-control"] == "no-cache"
    escaped = http.get("/..%2f..%2fpyproject.toml")
    assert "[project]" not in escaped.text


def test_vocabulary_and_cameras(http: httpx.Client) -> None:
    words = http.get("/api/vocabulary").json()
    assert {mount["id"] for mount in words["mounts"]} >= {"tripod", "gimbal", "two_hands", "chest", "fpv"}
    assert "full_sun" in {place["id"] for place in words["places"]}
    cameras = http.get("/api/cameras").json()
    assert cameras["total"] == len(cameras["items"]) == 7
    assert http.get("/api/cameras/limpet-7").json() in cameras["items"]
    assert {kind: len(words[kind]) for kind in ("waters", "cameras", "housings")} == {
        "waters": 10,
        "cameras": 7,
        "housings": 2,
    }
    assert http.get("/api/camera-sheet.schema.json").json()["title"] == "CameraSheet"


def test_a_plan_on_one_camera_only(http: httpx.Client) -> None:
    body = {"light": SUN, **QUAY}
    ranked = http.post("/api/plan", json=body).json()
    alone = http.post("/api/plan", params={"only": "cockle-3"}, json=body).json()
    assert alone["camera"]["id"] == "cockle-3"
    assert [camera["id"] for camera in alone["cameras"]] == ["cockle-3"]
    among_others = next(camera for camera in ranked["cameras"] if camera["id"] == "cockle-3")
    assert alone["given_up_stops"] == pytest.approx(among_others["given_up_stops"], abs=1e-9)
    assert http.post("/api/plan", params={"only": "my-own"}, json=body).status_code == 404


def test_the_crews_way_is_followed_where_a_brief_says_nothing(http: httpx.Client) -> None:
    usual = http.get("/api/crew/school").json()["school"]
    body = {"light": SUN, **QUAY}
    try:
        kept = changed(http, "/api/crew/school", shutter="free").json()
        assert kept["school"]["shutter"] == "free"
        assert http.get("/api/vocabulary").json()["school"]["shutter"] == "free"
        assert http.post("/api/plan", json=body).json()["settings"]["shutter_mode"] == "auto"
        own = {**body, "school": {"shutter": "half_turn"}}
        assert http.post("/api/plan", json=own).json()["settings"]["shutter_mode"] == "fixed"
        assert changed(http, "/api/crew/school", shutter="sideways").status_code == 422
    finally:
        changed(http, "/api/crew/school", **usual)


def test_the_published_document_is_what_is_served(http: httpx.Client) -> None:
    served = http.get("/api/openapi.json").json()
    same = served == json.loads((ROOT / "docs" / "openapi.json").read_text())
    assert same, "docs/openapi.json is of another time: python -m scripts.documents writes it"


def test_a_database_that_stops_and_comes_back(scratch: Path) -> None:
    cluster = Cluster(scratch / "failing")
    cluster.start()
    database = Database(cluster.url)
    try:
        database.migrate()
        with serving(database) as at, httpx.Client(base_url=at, timeout=20) as http:
            shoot = http.post("/api/shoots", json={"title": "before"}).json()
            port = cluster.port
            cluster.stop()
            away = http.post("/api/shoots", json={"title": "lost?"})
            assert away.status_code == 503
            assert away.json()["type"].endswith("store-unavailable")
            assert away.headers["retry-after"]
            assert http.get("/api/health").json()["database"] is False
            assert http.post("/api/plan", json={"light": SUN}).status_code == 200, "planning needs no database"
            cluster.start(port=port)
            assert [entry["id"] for entry in http.get("/api/shoots").json()["items"]] == [shoot["id"]]
    finally:
        database.close()
        cluster.stop()


def test_a_list_of_a_thousand_shots_is_read_without_their_plans(http: httpx.Client, database: Database) -> None:
    from sqlalchemy import insert

    from steady_tide.store.tables import Shot

    shoot = http.post("/api/shoots", json={"title": "a long day"}).json()["id"]
    row = {"shoot_id": shoot, "brief": {}, "plan": {"large": "x" * 20_000}, "summary": {"title": "t"}, "revision": 1}
    with database.session() as session:
        session.execute(insert(Shot), [{**row, "position": n} for n in range(1000)])
    began = time.perf_counter()
    answer = http.get(f"/api/shoots/{shoot}/shots", params={"limit": 100})
    assert (answer.json()["total"], len(answer.json()["items"])) == (1000, 100)
    assert time.perf_counter() - began < 1.0, "it must not read 20 MB of plans"
    last = http.get(f"/api/shoots/{shoot}/shots", params={"offset": 950}).json()["items"]
    assert len(last) == 50
    http.delete(f"/api/shoots/{shoot}")
