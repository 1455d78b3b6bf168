"""Two who change the same thing from what they have seen: both survive, or one is asked; nobody is lost in silence."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from typing import Any
from uuid import uuid4

import httpx
import pytest

from steady_tide.launch.cluster import Cluster
from tests.briefs import SUN
from tests.service import own_database, serving

CELL = {"name": "A cell", "wh": 7, "fits": ["limpet-7"]}


@pytest.fixture(scope="module")
def own(cluster: Cluster) -> Iterator[httpx.Client]:
    with (
        own_database(cluster, "editors") as database,
        serving(database) as at,
        httpx.Client(base_url=at, timeout=30) as client,
    ):
        yield client


def shot_of(own: httpx.Client) -> tuple[str, str]:
    shoot = str(own.post("/api/shoots", json={"title": "two"}).json()["id"])
    body = {"brief": {"title": "a", "light": SUN}}
    return shoot, str(own.post(f"/api/shoots/{shoot}/shots", json=body).json()["id"])


Read, Send = Callable[[], dict[str, Any]], Callable[[int, dict[str, Any]], httpx.Response]


def doors(own: httpx.Client) -> dict[str, tuple[Read, Send, dict[str, Any], dict[str, Any]]]:
    """Each thing that several may change: how it is read, how changed, and two changes of different fields."""
    shoot, shot = shot_of(own)
    own.put("/api/kit/things/batteries/shared", json={"thing": CELL})

    def patch(at: str, part: str = "change") -> Send:
        return lambda revision, change: own.patch(at, json={"revision": revision, part: change})

    def kept(kind: str, name: str) -> Read:
        def read() -> dict[str, Any]:
            rows = own.get("/api/kit").json()[kind]
            row = next(row for row in rows if (row.get("thing") or row)["id"] == name)
            return {"revision": row["revision"], **row.get("thing", {}), "count": row.get("count"), **row["keeping"]}

        return read

    def asked() -> dict[str, Any]:
        return dict(own.get(f"/api/shoots/{shoot}/rules").json())

    def brief() -> dict[str, Any]:
        now = own.get(f"/api/shots/{shot}").json()
        pins = {f"pins.{dial}": [value] for dial, value in now["brief"]["pins"].items()}
        return {
            **now["brief"],
            **pins,
            "subject.speed_m_s": now["brief"]["subject"]["speed_m_s"],
            "revision": now["revision"],
        }

    def use() -> dict[str, Any]:
        return dict(next(one for one in own.get("/api/uses").json()["items"] if one["id"] == "stage"))

    draft = f"/api/sheets/drafts/{uuid4()}"
    own.put(draft, json={"rough": {"sheet": {"name": "a", "kind": "action"}}})

    def begun() -> dict[str, Any]:
        now = own.get(draft).json()
        return {"revision": now["revision"], **{f"sheet.{name}": said for name, said in now["rough"]["sheet"].items()}}

    return {
        "shot": (brief, patch(f"/api/shots/{shot}"), {"title": "mine"}, {"subject.speed_m_s": 2.0}),
        "pins": (brief, patch(f"/api/shots/{shot}"), {"pins.stabilisation": ["off"]}, {"pins.profile": ["log"]}),
        "use": (use, patch("/api/uses/stage"), {"per_year": 4.0}, {"chosen": True}),
        "draft": (begun, patch(draft), {"sheet.name": "mine"}, {"sheet.kind": "phone"}),
        "shoot": (
            lambda: dict(own.get(f"/api/shoots/{shoot}").json()),
            patch(f"/api/shoots/{shoot}"),
            {"note": "bring rope"},
            {"cloud": "storm"},
        ),
        "rules": (
            lambda: {"revision": asked()["revision"], **asked()["rules"]},
            patch(f"/api/shoots/{shoot}/rules"),
            {"housing_min": 20.0},
            {"battery_min": 5.0},
        ),
        "wishes": (
            lambda: {"revision": asked()["wish_revisions"][shot], **asked()["wishes"][shot]},
            patch(f"/api/shots/{shot}/wishes"),
            {"spot": "the bar"},
            {"setup_min": 9.0},
        ),
        "way": (
            lambda: {**own.get("/api/crew/school").json(), **own.get("/api/crew/school").json()["school"]},
            patch("/api/crew/school"),
            {"shutter": "free"},
            {"noise": "quiet"},
        ),
        "thing": (
            kept("batteries", "shared"),
            patch("/api/kit/things/batteries/shared", "thing"),
            {"wh": 8.0},
            {"name": "Our cell"},
        ),
        "place of a thing": (
            kept("batteries", "shared"),
            patch("/api/kit/things/batteries/shared", "keeping"),
            {"where": "the boat"},
            {"note": "tired"},
        ),
        "camera": (
            kept("cameras", "cockle-3"),
            patch("/api/kit/cameras/cockle-3/keeping"),
            {"where": "the shed"},
            {"count": 2},
        ),
    }


DOORS = ["shot", "pins", "use", "draft", "shoot", "rules", "wishes", "way", "thing", "place of a thing", "camera"]


@pytest.mark.parametrize("door", DOORS)
def test_two_editors_of_different_fields_both_survive(own: httpx.Client, door: str) -> None:
    read, send, mine, theirs = doors(own)[door]
    seen = read()["revision"]
    assert send(seen, theirs).status_code == 200
    late = send(seen, mine)
    assert late.status_code == 200, late.text
    assert read()["revision"] > seen
    assert {name: read()[name] for name in (*mine, *theirs)} == {**mine, **theirs}


@pytest.mark.parametrize("door", DOORS)
def test_of_two_editors_of_the_same_field_one_is_asked(own: httpx.Client, door: str) -> None:
    read, send, mine, _ = doors(own)[door]
    (name, value), start = next(iter(mine.items())), read()
    others = {"shutter": "half_turn", "pins.stabilisation": ["strong"]}
    other = others.get(name, "elsewhere" if isinstance(value, str) else 3.0)
    assert send(start["revision"], {name: other}).status_code == 200
    met = send(start["revision"], mine)
    assert met.status_code == 409
    assert met.json()["type"].endswith("changed-elsewhere")
    (fault,) = met.json()["faults"]
    assert fault["where"].split(".")[-1] == name.split(".")[-1]
    assert str(other[0] if isinstance(other, list) else other) in fault["what"]
    assert "[" not in fault["what"]
    assert read()[name] == other, "the other's stays until one has said so"
    assert send(read()["revision"], mine).status_code == 200
    assert read()[name] == value


@pytest.mark.parametrize("door", DOORS)
def test_a_revision_that_was_never_issued_is_refused(own: httpx.Client, door: str) -> None:
    read, send, mine, _ = doors(own)[door]
    before = read()
    refused = send(before["revision"] + 1, mine)
    assert refused.status_code == 422
    assert refused.json()["faults"][0]["where"] == "revision"
    assert read() == before


@pytest.mark.parametrize("door", DOORS)
def test_a_change_of_what_there_is_not_is_told(own: httpx.Client, door: str) -> None:
    _, send, _, _ = doors(own)[door]
    refused = send(0, {"no_such_field": 1})
    assert refused.status_code == 422
    assert "no_such_field" in refused.text


def test_many_at_once_lose_nothing(own: httpx.Client) -> None:
    shoot, _ = shot_of(own)
    names = ["title", "place", "note", "mains_hz", "latitude", "longitude", "cloud", "zone"]
    values = ["t", "p", "n", 60, 50.0, 1.0, "clear", "Europe/London"]

    def send(pair: tuple[str, Any]) -> int:
        return own.patch(f"/api/shoots/{shoot}", json={"revision": 0, "change": dict([pair])}).status_code

    with ThreadPoolExecutor(8) as crowd:
        codes = list(crowd.map(send, zip(names, values, strict=True)))
    assert set(codes) == {200}
    assert [own.get(f"/api/shoots/{shoot}").json()[name] for name in names] == values


def test_a_draft_that_two_write_is_asked_about(own: httpx.Client) -> None:
    at = f"/api/sheets/drafts/{uuid4()}"
    first = own.put(at, json={"rough": {"sheet": {"name": "a"}}}).json()["revision"]
    theirs = own.patch(at, json={"revision": first, "change": {"sheet.name": "b"}}).json()["revision"]
    mine = {"revision": first, "change": {"sheet.name": "c"}}
    assert own.patch(at, json=mine).status_code == 409
    assert own.get(at).json()["rough"]["sheet"]["name"] == "b"
    beside = own.patch(at, json={"revision": first, "change": {"known.weight_g": 90}})
    assert beside.json()["rough"] == {"sheet": {"name": "b"}, "known": {"weight_g": 90}}
    assert own.patch(at, json={**mine, "revision": theirs}).status_code == 200
    assert own.patch(at, json=mine).status_code == 200, "the same said twice is no conflict"
    emptied = own.patch(at, json={"revision": 4, "change": {"known.weight_g": None}})
    assert emptied.status_code == 422, "a revision that was never issued"


@pytest.mark.parametrize("kind", ["things", "drafts", "cameras"])
def test_first_saves_at_once_under_one_id_are_told_apart(own: httpx.Client, kind: str) -> None:
    name = uuid4()

    def send(n: int) -> int:
        if kind == "things":
            body: dict[str, Any] = {"thing": {**CELL, "name": f"Cell {n}"}}
            return own.put(f"/api/kit/things/batteries/{name}", json=body).status_code
        if kind == "drafts":
            return own.put(f"/api/sheets/drafts/{name}", json={"rough": {"sheet": {"name": str(n)}}}).status_code
        box = {"name": f"Whelk {name.hex[:6]}", "kind": "action", "modes": []}
        rough = own.get("/api/cameras/cockle-3/rough").json()["rough"]
        body = {"rough": {**rough, "sheet": {**rough["sheet"], **{"name": box["name"], "id": f"whelk-{name.hex[:6]}"}}}}
        return own.post("/api/cameras", json=body).status_code

    with ThreadPoolExecutor(8) as crowd:
        codes = sorted(crowd.map(send, range(8)))
    assert set(codes[:1]) <= {200, 201}
    assert set(codes[1:]) == {409}


def test_what_is_emptied_is_as_usual_and_what_is_needed_is_asked_for(own: httpx.Client) -> None:
    case = {"name": "Case", "fits": ["limpet-7"], "proof_depth_m": 30, "port": "flat", "filters": "port-52"}
    assert own.put("/api/kit/things/housings/case", json={"thing": case}).status_code == 201
    at = "/api/kit/things/housings/case"
    emptied = own.patch(at, json={"revision": 1, "thing": {"filters": None}})
    assert emptied.status_code == 200, emptied.text
    assert emptied.json()["thing"]["filters"] == ""
    needed = own.patch(at, json={"revision": 2, "thing": {"proof_depth_m": None}})
    assert (needed.status_code, needed.json()["faults"][0]["where"]) == (422, "thing.proof_depth_m")
    shoot, _ = shot_of(own)
    usual = own.patch(f"/api/shoots/{shoot}", json={"revision": 0, "change": {"zone": None, "day": None}})
    assert (usual.json()["zone"], usual.json()["day"]) == ("UTC", None)


def test_no_file_says_that_more_are_ready_than_there_are(own: httpx.Client) -> None:
    kit = {"format": "steady-tide/kit", "version": 1, "batteries": [{**CELL, "id": "odd", "name": "Odd"}]}
    kit["keeping"] = [{"kind": "batteries", "id": "odd", "ready": 5}]
    refused = own.post("/api/kit/import", json=kit)
    assert (refused.status_code, refused.json()["faults"][0]["where"]) == (422, "keeping.ready")
    assert "odd" not in {row["thing"]["id"] for row in own.get("/api/kit").json()["batteries"]}
