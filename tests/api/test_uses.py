"""Usual uses over the service: the shelf, one's own, shots that begin with one, standing presets, the set-up pass."""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Iterator
from typing import Any

import httpx
import pypdf
import pytest

from steady_tide.launch.cluster import Cluster
from steady_tide.services.plans import Plans
from tests.service import own_database, serving
from tests.waiting import until


def changed_use(client: httpx.Client, use_id: str, **fields: Any) -> httpx.Response:
    shelf = client.get("/api/uses").json()["items"]
    revision = next(one["revision"] for one in shelf if one["id"] == use_id)
    return client.patch(f"/api/uses/{use_id}", json={"revision": revision, "change": fields})


@pytest.fixture(scope="module")
def api(cluster: Cluster) -> Iterator[httpx.Client]:
    with (
        own_database(cluster, "uses") as database,
        serving(database) as at,
        httpx.Client(base_url=at, timeout=60) as client,
    ):
        yield client


def use(api: httpx.Client, use_id: str) -> dict[str, Any]:
    return next(dict(one) for one in api.get("/api/uses").json()["items"] if one["id"] == use_id)


@pytest.fixture
def shoot(api: httpx.Client) -> str:
    return str(api.post("/api/shoots", json={"title": "Anywhere", "mains_hz": 60}).json()["id"])


def test_two_choices_and_a_plan_stands(api: httpx.Client, shoot: str) -> None:
    made = api.post(f"/api/shoots/{shoot}/shots/from-use", json={"use": "night_street", "place": "lamp_lit_road"})
    assert made.status_code == 201, made.text
    shot = api.get(f"/api/shots/{made.json()['id']}").json()
    assert shot["plan"] is not None
    assert shot["brief"]["light"] == {"kind": "place", "place": "lamp_lit_road"}
    assert shot["brief"]["mains_hz"] == 60
    assert shot["brief"]["title"] == "street at night"


def test_a_shot_may_begin_under_the_sky_of_its_day(api: httpx.Client) -> None:
    fields = {"title": "There", "day": "2026-10-18", "zone": "Europe/London", "latitude": 52.06, "longitude": 1.31}
    shoot = api.post("/api/shoots", json=fields).json()["id"]
    said = {"use": "everyday_walk", "starts_at": "2026-10-18T09:30:00Z"}
    shot = api.get(f"/api/shots/{api.post(f'/api/shoots/{shoot}/shots/from-use', json=said).json()['id']}").json()
    assert shot["brief"]["light"]["kind"] == "sky"
    assert shot["starts_at"].startswith("2026-10-18T09:30:00")


@pytest.mark.parametrize(
    ("said", "status"),
    [({"use": "juggling"}, 404), ({"use": "snow", "place": "the moon"}, 422), ({"use": "snow", "depth": 3}, 422)],
)
def test_what_there_is_not_is_refused(api: httpx.Client, shoot: str, said: dict[str, Any], status: int) -> None:
    assert api.post(f"/api/shoots/{shoot}/shots/from-use", json=said).status_code == status
    assert api.get(f"/api/shoots/{shoot}/shots").json()["total"] == 0


def test_a_shot_becomes_a_use_of_ones_own_and_begins_others(api: httpx.Client, shoot: str) -> None:
    made = api.post(f"/api/shoots/{shoot}/shots/from-use", json={"use": "stage"}).json()["id"]
    kept = api.post("/api/uses", json={"shot_id": made, "name": "Our choir", "per_year": 12})
    assert kept.status_code == 201, kept.text
    mine = next(one for one in kept.json()["items"] if one["own"])
    assert (mine["name"], mine["per_year"], mine["chosen"]) == ("Our choir", 12, True)
    again = api.post(f"/api/shoots/{shoot}/shots/from-use", json={"use": mine["id"]}).json()
    assert again["title"] == "Our choir"
    changed_use(api, mine["id"], name="The choir", per_year=20)
    assert (use(api, mine["id"])["name"], use(api, mine["id"])["per_year"]) == ("The choir", 20)
    assert api.delete(f"/api/uses/{mine['id']}").status_code == 204
    assert mine["id"] not in {one["id"] for one in api.get("/api/uses").json()["items"]}
    api.post(f"/api/uses/{mine['id']}/restore")
    assert use(api, mine["id"])["name"] == "The choir"
    assert changed_use(api, "stage", name="Theatre").status_code == 422, "the shelf keeps its names"
    assert api.delete("/api/uses/stage").status_code == 404
    api.delete(f"/api/uses/{mine['id']}")


def standing(api: httpx.Client, camera: str) -> dict[str, Any]:
    def counted() -> bool:
        return not api.get(f"/api/uses/standing/{camera}").json()["counting"]

    until(counted, 40)
    return dict(api.get(f"/api/uses/standing/{camera}").json())


def test_presets_follow_from_what_is_chosen_and_how_often(api: httpx.Client) -> None:
    assert standing(api, "limpet-7")["standing"] is None
    for name in ("everyday_walk", "night_street", "over_land"):
        changed_use(api, name, chosen=True)
    changed_use(api, "night_street", per_year=300)
    out = standing(api, "limpet-7")
    assert out["chosen"] == 3
    assert [one["id"] for one in out["without"]] == ["over_land"]
    assert out["without"][0]["why"]
    assert out["standing"]["taps"] < out["standing"]["by_menu"]
    assert {one["id"]: one["per_year"] for one in out["standing"]["uses"]} == {"everyday_walk": 60, "night_street": 300}
    assert {one["id"] for one in standing(api, "sandpiper-2")["standing"]["uses"]} == {"over_land"}
    assert api.get("/api/uses/standing/nobody").status_code == 404


def test_the_set_up_card_is_ticked_through_and_named(api: httpx.Client) -> None:
    for name in ("everyday_walk", "night_street"):  # one alone needs none: the camera stays as it was left
        changed_use(api, name, chosen=True)
    standing(api, "limpet-7")
    out = api.get("/api/uses/set-up/limpet-7").json()
    assert out["card"]["presets"]
    rows = [row["id"] for page in out["card"]["pages"] for row in page["rows"]]
    said = {"ticks": {rows[0]: True, "habit.clock": True}, "names": {"everyday_walk": "Walks"}, "checked": True}
    noted = api.post("/api/uses/set-up/limpet-7", json=said).json()
    assert noted["ticks"] == {rows[0]: True, "habit.clock": True}
    assert "Walks" in noted["card"]["presets"]
    assert noted["checked_at"]
    back = api.post(
        "/api/uses/set-up/limpet-7", json={"ticks": {rows[0]: False}, "names": {"everyday_walk": None}}
    ).json()
    assert back["ticks"] == {"habit.clock": True}
    assert "Walks" not in back["card"]["presets"]
    paper = pypdf.PdfReader(io.BytesIO(api.get("/api/uses/set-up/limpet-7/card.pdf").content))
    text = "\n".join(page.extract_text() for page in paper.pages)
    assert "Limpet 7" in text
    assert "Date and time" in text, "the menu's own words"
    assert api.post("/api/uses/set-up/nobody", json={}).status_code == 404


def test_an_entered_camera_says_that_its_habits_are_unknown(api: httpx.Client) -> None:
    card = api.get("/api/uses/set-up/turnstone").json()["card"]
    assert card["habits"]
    assert all("look for it" in habit["where"] for habit in card["habits"])


def test_a_first_shot_may_say_what_one_films_with(api: httpx.Client, shoot: str) -> None:
    said = {"use": "child_indoors", "place": "room_in_the_evening", "camera": "yawl-12"}
    made = api.post(f"/api/shoots/{shoot}/shots/from-use", json=said)
    assert made.status_code == 201, made.text
    shot = api.get(f"/api/shots/{made.json()['id']}").json()
    assert shot["plan"]["camera"]["id"] == "yawl-12"
    gone = api.post(f"/api/shoots/{shoot}/shots/from-use", json={**said, "camera": "no-such"})
    assert gone.status_code == 422
    assert "no camera 'no-such'" in gone.text


def test_two_uses_stand_side_by_side(api: httpx.Client) -> None:
    at = "/api/uses/beside/limpet-7"
    said = api.get(at, params={"first": "everyday_walk", "second": "night_street"}).json()
    assert said["titles"] == ["everyday walk", "street at night"]
    shutter = next(line for line in said["dials"] if line["dial"] == "shutter_s")
    assert shutter["values"] == ["1/50\u202fs", "1/100\u202fs"]
    assert "street at night" in said["says"][0]
    same = api.get(at, params={"first": "snow", "second": "snow"}).json()
    assert (same["dials"], same["says"]) == ([], ["They are set alike."])
    refused = api.get(at, params={"first": "everyday_walk", "second": "over_land"})
    assert refused.status_code == 409
    assert "gimbal" in refused.text
    assert api.get(at, params={"first": "everyday_walk", "second": "juggling"}).status_code == 404
    assert api.get("/api/uses/beside/nobody", params={"first": "snow", "second": "stage"}).status_code == 404


def test_sharing_a_preset_has_its_price(api: httpx.Client) -> None:
    chosen = ("everyday_walk", "night_street", "pov_ride", "snorkel")
    for name in chosen:
        changed_use(api, name, chosen=True)
    presets = standing(api, "limpet-7")["standing"]["presets"]
    api.post("/api/uses/set-up/limpet-7", json={"names": {"everyday_walk": "Walks"}})
    said = api.get("/api/uses/sharing/limpet-7").json()
    assert not said["counting"]
    assert {one["use"] for one in said["items"]} >= set(chosen)
    assert {one["preset"] for one in said["items"]} <= {one["number"] for one in presets}
    prices = [one["costs_stops"] for one in said["items"] if one["costs_stops"] is not None]
    assert prices == sorted(prices)
    ride = next(one for one in said["items"] if one["use"] == "pov_ride")
    assert ride["says"].startswith("point of view ride with preset")
    assert any("“Walks”" in one["says"] for one in said["items"])
    api.post("/api/uses/set-up/limpet-7", json={"names": {"everyday_walk": None}})
    assert api.get("/api/uses/sharing/nobody").status_code == 404


def test_uses_and_set_ups_stand_in_the_open_copy_of_everything(api: httpx.Client, shoot: str) -> None:
    made = api.post(f"/api/shoots/{shoot}/shots/from-use", json={"use": "snow"}).json()["id"]
    api.post("/api/uses", json={"shot_id": made, "name": "Our hill", "per_year": 9})
    api.post("/api/uses/set-up/winkle", json={"ticks": {"habit.clock": True}, "names": {"snow": "Hill"}})
    with zipfile.ZipFile(io.BytesIO(api.get("/api/everything.zip").content)) as packed:
        said = json.loads(packed.read("uses.json"))
    mine = next(one for one in said["uses"] if one["use"] is not None and one["use"]["name"] == "Our hill")
    assert (mine["chosen"], mine["per_year"]) == (True, 9)
    assert mine["use"]["brief"]["scenario"] == "motion"
    kept = next(one for one in said["set_ups"] if one["camera"] == "winkle")
    assert (kept["ticks"], kept["names"]) == ({"habit.clock": True}, {"snow": "Hill"})


def test_no_connection_is_held_while_uses_are_planned(cluster: Cluster, monkeypatch: pytest.MonkeyPatch) -> None:
    """Seven cameras are asked for at once, and counting takes seconds: the database is for whoever types meanwhile."""
    held: list[int] = []
    with own_database(cluster, "uses_held") as database:
        planning = Plans.plan

        def watched(self: Plans, *given: Any, **more: Any) -> Any:
            held.append(database.engine.pool.checkedout())  # type: ignore[attr-defined]
            return planning(self, *given, **more)

        with serving(database) as at, httpx.Client(base_url=at, timeout=60) as client:
            for name in ("everyday_walk", "night_street"):
                changed_use(client, name, chosen=True)
            monkeypatch.setattr(Plans, "plan", watched)
            two = {"first": "snow", "second": "snorkel"}
            asked = (
                "standing/limpet-7",
                "set-up/limpet-7",
                "sharing/limpet-7",
                "beside/limpet-7",
                "set-up/limpet-7/card.pdf",
            )
            for path in asked:
                before = len(held)
                assert client.get(f"/api/uses/{path}", params=two if path.startswith("beside") else {}).is_success
                assert len(held) > before, path
    assert set(held) == {0}


def test_uses_go_out_as_a_file_and_come_into_another_database_once(
    api: httpx.Client, shoot: str, cluster: Cluster
) -> None:
    shot = api.post(
        f"/api/shoots/{shoot}/shots/from-use", json={"use": "night_street", "place": "lamp_lit_road"}
    ).json()
    api.post("/api/uses", json={"shot_id": shot["id"], "name": "eels at night", "per_year": 7}).raise_for_status()
    changed_use(api, "snow", chosen=True, per_year=3).raise_for_status()
    api.post("/api/uses/set-up/limpet-7", json={"ticks": {"habits.beeps": True}, "checked": True}).raise_for_status()
    out = api.get("/api/uses/uses.json")
    own = next(one for one in out.json()["uses"] if one["use"] and one["use"]["name"] == "eels at night")
    with (
        own_database(cluster, "uses_in", demo=False) as database,
        serving(database) as at,
        httpx.Client(base_url=at, timeout=60) as other,
    ):
        taken = other.post("/api/uses/import", content=out.content).json()
        assert taken["own"] >= 1
        assert taken["said"] >= 1
        assert taken["set_ups"] >= 1
        here = {one["id"]: one for one in other.get("/api/uses").json()["items"]}
        assert here[own["id"]]["name"] == "eels at night"
        assert here[own["id"]]["per_year"] == 7
        assert here["snow"]["chosen"]
        assert here["snow"]["per_year"] == 3
        there = json.loads(other.get("/api/uses/uses.json").content)
        assert {one["id"]: one for one in there["uses"]}[own["id"]] == own
        assert next(one for one in there["set_ups"] if one["camera"] == "limpet-7")["ticks"]["habits.beeps"]
        # What is said here stays; what was removed comes back.
        changed_use(other, own["id"], name="eels").raise_for_status()
        changed_use(other, "snow", per_year=9).raise_for_status()
        again = other.post("/api/uses/import", content=out.content).json()
        assert again["own"] == again["set_ups"] == again["said"] == 0
        assert again["here"] >= 2
        assert next(one for one in other.get("/api/uses").json()["items"] if one["id"] == own["id"])["name"] == "eels"
        other.delete(f"/api/uses/{own['id']}").raise_for_status()
        assert other.post("/api/uses/import", content=out.content).json()["own"] == 1


@pytest.mark.parametrize(
    ("content", "said"),
    [
        (b"", "holds no usual uses"),
        (b"{", "line 1, column 2 cannot be read"),
        (b"[]", "holds no usual uses"),
        (b'{"format": "steady-tide/kit"}', "holds no usual uses"),
        (b'{"format": "steady-tide/uses", "version": 2}', "version"),
        (b'{"format": "steady-tide/uses", "version": 1, "uses": [{"id": "own-1", "use": {"name": "x"}}]}', "brief"),
        (b'{"format": "steady-tide/uses", "version": 1, "uses": [{"id": "own-1", "per_year": -1}]}', "per_year"),
    ],
)
def test_a_file_that_is_none_is_refused_in_words(api: httpx.Client, content: bytes, said: str) -> None:
    before = api.get("/api/uses").json()
    refused = api.post("/api/uses/import", content=content)
    assert refused.status_code in (400, 422)
    assert said in refused.text
    assert api.get("/api/uses").json() == before
