"""The Log over HTTP: takes of two phones, changes, notes, ladders, own numbers with their editions, files; the season is found."""

from __future__ import annotations

import json
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from typing import Any
from uuid import UUID, uuid4

import httpx
import pytest

from steady_tide.demo.season import load_season, season
from steady_tide.launch.cluster import Cluster
from steady_tide.services.crew_kit import read_crew_kit
from steady_tide.services.ladders import renew_old
from steady_tide.services.plans import Plans
from steady_tide.store.database import Database
from steady_tide.store.shoots import crew_school
from steady_tide.store.tables import LadderKept
from tests.briefs import SUN
from tests.changing import shot_change
from tests.service import own_database, serving

CHEST: dict[str, Any] = {
    "title": "Over the stile", "light": {"kind": "meter", "ev100": [12, 13.5]},
    "camera_move": {"mount": "chest", "travel_m_s": 2, "hands": "Wren Castellane"}, "pins": {"camera": "limpet-7"},
    "subject": {"distance_m": [1, 8], "speed_m_s": 1},
}  # fmt: skip


@pytest.fixture(scope="module")
def told(cluster: Cluster) -> Iterator[httpx.Client]:
    """A service on a database of its own with the season."""
    with own_database(cluster, "log_season") as database:
        assert load_season(database)
        assert not load_season(database)
        with serving(database) as at, httpx.Client(base_url=at, timeout=60) as client:
            yield client


@pytest.fixture
def shot(told: httpx.Client) -> Iterator[dict[str, Any]]:
    """A new shot on a chest mount."""
    shoot = told.post("/api/shoots", json={"title": "A try", "day": "2026-11-25"}).json()
    yield told.post(f"/api/shoots/{shoot['id']}/shots", json={"brief": CHEST}).json()
    told.delete(f"/api/shoots/{shoot['id']}")


def logged(client: httpx.Client, shot_id: str | None, at: str = "2026-11-25T10:00:00Z", **said: Any) -> dict[str, Any]:
    take_id = str(uuid4())
    answer = client.put(f"/api/log/takes/{take_id}", json={"shot_id": shot_id, "said": {"at": at, **said}})
    assert answer.status_code == 200, answer.text
    return dict(answer.json())


def takes_of(client: httpx.Client, shot_id: str) -> list[dict[str, Any]]:
    return list(client.get("/api/log/takes", params={"shot": shot_id}).json()["items"])


def test_a_take_is_as_planned_unless_said_otherwise(told: httpx.Client, shot: dict[str, Any]) -> None:
    take = logged(told, shot["id"], settings={"iso_ceiling": "1600"})
    assert (take["camera"], take["mount"], take["said"]["hands"]) == ("Limpet 7", "chest mount", "Wren Castellane")
    assert take["number"] == 1
    whole = told.get(f"/api/log/takes/{take['id']}").json()
    assert whole["rows"][0]["really"] == "1600"
    assert {row["dial"] for row in whole["rows"]} >= {"shutter_s", "frame_rate", "stabilisation"}
    assert [row["really"] for row in whole["rows"]].count(None) == len(whole["rows"]) - 1


def test_takes_of_two_phones_come_together_once_each(told: httpx.Client, shot: dict[str, Any]) -> None:
    # Two phones were away; each hands over what it logged, twice, for an answer was lost, and both at once.
    phones = [
        [(str(uuid4()), f"2026-11-25T10:{minute:02}:{phone:02}Z") for minute in range(0, 40, 4)] for phone in (0, 30)
    ]

    def hand_over(takes: list[tuple[str, str]]) -> None:
        for take_id, at in takes * 2:
            said = {"at": at, "rating": "keep"}
            assert told.put(f"/api/log/takes/{take_id}", json={"shot_id": shot["id"], "said": said}).status_code == 200

    with ThreadPoolExecutor(4) as pool:
        list(pool.map(hand_over, [*phones, *phones]))
    found = takes_of(told, shot["id"])
    assert sorted(take["id"] for take in found) == sorted(take_id for phone in phones for take_id, _ in phone)
    in_time = sorted(found, key=lambda take: take["said"]["at"])
    assert [take["number"] for take in in_time] == list(range(1, 21))


def test_two_change_a_take_and_only_the_same_field_is_asked(told: httpx.Client, shot: dict[str, Any]) -> None:
    take = logged(told, shot["id"])
    path = f"/api/log/takes/{take['id']}"
    one = told.patch(path, json={"revision": 0, "change": {"rating": "keep"}}).json()
    assert (one["said"]["rating"], one["revision"]) == ("keep", 1)
    two = told.patch(path, json={"revision": 0, "change": {"note": "mist", "faults": ["fog", "fog"]}}).json()
    assert (two["said"]["rating"], two["said"]["note"], two["said"]["faults"]) == ("keep", "mist", ["fog"])
    met = told.patch(path, json={"revision": 0, "change": {"rating": "no"}})
    assert met.status_code == 409
    assert "keep" in met.json()["faults"][0]["what"]
    assert told.patch(path, json={"revision": 2, "change": {"faults": ["wobble"]}}).status_code == 422
    assert told.patch(path, json={"revision": 2, "change": {"grade": 1}}).status_code == 422


def test_a_removed_take_comes_back_and_a_vanished_one_is_told(told: httpx.Client, shot: dict[str, Any]) -> None:
    take = logged(told, shot["id"])
    path = f"/api/log/takes/{take['id']}"
    assert told.delete(path).status_code == 204
    gone = told.patch(path, json={"revision": 0, "change": {"rating": "keep"}})
    assert gone.status_code == 404
    assert "bring it back" in gone.json()["detail"]
    assert takes_of(told, shot["id"]) == []
    assert told.post(f"{path}/restore").json()["id"] == take["id"]
    assert told.patch(f"/api/log/takes/{uuid4()}", json={"revision": 0, "change": {}}).status_code == 404


def test_a_rehearsal_long_before_the_shoot_is_kept_and_told_apart(told: httpx.Client, shot: dict[str, Any]) -> None:
    said = {"shot_id": shot["id"], "said": {"at": "2026-11-20T10:00:00Z"}}
    kept = told.put(f"/api/log/takes/{uuid4()}", json=said)
    assert kept.status_code == 200
    assert kept.json()["early_days"] == 5
    assert kept.json()["shot"]["id"] == shot["id"]
    assert [take["id"] for take in takes_of(told, shot["id"])] == [kept.json()["id"]]
    on_the_day = told.put(f"/api/log/takes/{uuid4()}", json={**said, "said": {"at": "2026-11-25T10:00:00Z"}})
    assert on_the_day.json()["early_days"] is None
    assert told.put(f"/api/log/takes/{uuid4()}", json={**said, "shot_id": str(uuid4())}).status_code == 404
    assert told.put(f"/api/log/takes/{uuid4()}", json={"said": {"at": "2026-11-20T10:00:00"}}).status_code == 422


def test_takes_stay_when_their_shot_goes(told: httpx.Client, shot: dict[str, Any]) -> None:
    take = logged(told, shot["id"], note="a heron")
    told.delete(f"/api/shots/{shot['id']}")
    (found,) = told.get("/api/log/takes", params={"words": "heron"}).json()["items"]
    assert found["id"] == take["id"]
    assert found["shot"]["title"] == "Over the stile"


def test_takes_are_found_by_what_they_are_of(told: httpx.Client) -> None:
    whole = told.get("/api/log/takes").json()
    assert whole["all"] >= 150
    for by, choices in whole["choices"].items():
        for choice in choices[:3]:
            found = told.get("/api/log/takes", params={by: choice["value"], "limit": 1}).json()
            assert found["total"] == choice["takes"], (by, choice)
    both = told.get("/api/log/takes", params={"hands": "Tam Oduya", "mount": "chest", "words": "SEA wall"}).json()
    assert both["total"] == 14
    assert all(take["said"]["hands"] == "Tam Oduya" for take in both["items"])
    assert told.get("/api/log/takes", params={"words": "no such words"}).json()["items"] == []


def test_the_seasons_habits_are_found(told: httpx.Client) -> None:
    truth = season()["truth"]
    numbers = {one["key"]: one for one in told.get("/api/log/numbers").json()["items"]}
    for camera, lights in truth["metering"].items():
        for light, stops in lights.items():
            one = numbers[f"metering/{camera}/{light}"]
            assert one["low"] <= stops <= one["high"], one
            assert abs(one["value"] - stops) < 0.25  # what fills the frames of three shots is grey within that
    for who, mounts in truth["shake"].items():
        for mount, shake in mounts.items():
            key = f"shake/{who.replace(' ', '%20')}/{mount}"
            if mount != "two_hands":  # stabilisation hides it, so that it is not guessed
                assert numbers[key]["value"] == pytest.approx(shake, rel=0.08), key
    for who, snr in truth["noise"].items():
        one = numbers[f"noise/{who.replace(' ', '%20')}"]
        assert one["low"] <= snr <= one["high"]
    assert numbers["draw/limpet-7"]["value"] == pytest.approx(truth["draw"]["limpet-7"], rel=0.04)
    assert numbers["capacity/limpet-7"]["value"] == pytest.approx(truth["capacity"]["limpet-7"], rel=0.03)
    assert numbers["glass/nd16"]["value"] == pytest.approx(truth["glass"]["nd16"], abs=0.06)
    error_of_state = {(one["fault"], one["by"], one["of"]) for one in told.get("/api/log/takes").json()["recurring"]}
    assert ("under", "mount", "chest") in error_of_state
    assert ("fog", "place", "the wet sands below the mill") in error_of_state


def plan_of(client: httpx.Client, shot_id: str) -> dict[str, Any]:
    return dict(client.get(f"/api/shots/{shot_id}").json())


def switch(client: httpx.Client, key: str, on: bool, over: bool = False) -> dict[str, Any]:
    answer = client.post("/api/log/numbers", json={"key": key, "on": on, "take_over": over})
    assert answer.status_code == 200, answer.text
    return dict(answer.json())


def test_a_number_enters_every_plan_says_so_and_goes_again(told: httpx.Client, shot: dict[str, Any]) -> None:
    keys = ["metering/limpet-7/day", "shake/Wren%20Castellane/chest", "noise/Wren%20Castellane"]
    before = plan_of(told, shot["id"])["plan"]
    assert before["own"] == []
    assert told.post("/api/bench/own", json=CHEST).json() == {"items": [], "total": 0}
    for key in keys:
        assert switch(told, key, on=True)["on"]
    now = plan_of(told, shot["id"])
    assert sorted(one["key"] for one in now["plan"]["own"]) == sorted(keys)
    assert any("28.8" in one["says"] and "typical 40" in one["says"] for one in now["plan"]["own"])
    assert now["plan"]["chosen"]["exposure_compensation"] != before["chosen"]["exposure_compensation"]
    changes = told.post("/api/bench/own", json=now["brief"]).json()
    assert sorted(one["key"] for one in changes["items"]) == sorted(keys)
    assert any(one["changes"] for one in changes["items"])
    card = told.get(f"/api/shots/{shot['id']}/card").json()
    exposure = next(row for page in card["pages"] for row in page["rows"] if row["dial"] == "exposure_compensation")
    assert exposure["value"] == now["plan"]["values"]["exposure_compensation"]
    for key in keys:
        assert not switch(told, key, on=False)["on"]
    assert plan_of(told, shot["id"])["plan"] == before


def test_a_saved_plan_keeps_the_number_that_it_was_made_with(told: httpx.Client, shot: dict[str, Any]) -> None:
    key = "glass/nd16"
    brief = {**CHEST, "light": {"kind": "meter", "ev100": [12, 13]}, "pins": {"camera": "limpet-7", "nd": "nd16"}}
    first = switch(told, key, on=True)
    saved = told.patch(f"/api/shots/{shot['id']}", json=shot_change(brief, None, shot["revision"])).json()
    made = plan_of(told, shot["id"])
    assert made["sheet"]["held"] is None
    notes = []
    for _ in range(4):
        note = {"kind": "glass", "filter": "nd16", "stops": 5.1, "at": "2026-11-25T10:00:00Z"}
        notes.append(told.put(f"/api/log/notes/{uuid4()}", json=note).json())
    stands = next(one for one in told.get("/api/log/numbers").json()["items"] if one["key"] == key)
    assert stands["newer"]
    assert stands["counts_says"] == first["says"]
    assert plan_of(told, shot["id"])["plan"] == made["plan"]  # what is known by now is not what counts
    second = switch(told, key, on=True, over=True)
    assert (second["edition"], second["newer"]) == (2, False)
    kept = plan_of(told, shot["id"])
    assert kept["plan"] == made["plan"]
    assert [one["key"] for one in kept["sheet"]["own"]] == [key]
    held = told.post("/api/bench", json=kept["brief"], params={"held": kept["sheet"]["held"]}).json()
    assert held["plan"]["exposure"]["nd_stops"] == made["plan"]["exposure"]["nd_stops"]
    assert told.post("/api/bench", json=kept["brief"]).json()["plan"]["exposure"]["nd_stops"] > 4.5
    asked = {"revision": saved["revision"], "change": {}, "latest_sheet": True}
    latest = told.patch(f"/api/shots/{shot['id']}", json=asked).json()
    assert latest["plan"]["exposure"]["nd_stops"] > 4.5
    assert latest["sheet"]["held"] is None
    switch(told, key, on=False)
    for note in notes:
        told.delete(f"/api/log/notes/{note['id']}")
    assert plan_of(told, shot["id"])["plan"]["exposure"]["nd_stops"] == 4.0


def test_no_number_is_switched_on_that_nothing_tells(told: httpx.Client) -> None:
    for key in ("shake/Nobody/chest", "readout/limpet-7", "what/is/this", "clock"):
        refused = told.post("/api/log/numbers", json={"key": key, "on": True})
        assert refused.status_code == 404
        assert "three readings" in refused.json()["detail"]


def test_notes_are_kept_once_and_bad_ones_told(told: httpx.Client) -> None:
    note_id = str(uuid4())
    note = {
        "kind": "readout",
        "camera": "limpet-7",
        "lean_px": 60,
        "pan_px": 120,
        "frame_rate": 25,
        "at": "2026-11-25T10:00:00Z",
    }
    for _ in range(2):
        assert told.put(f"/api/log/notes/{note_id}", json=note).json()["says"].startswith("Limpet 7: leans 60")
    assert [one["id"] for one in told.get("/api/log/notes").json()["items"]].count(note_id) == 1
    one = next(one for one in told.get("/api/log/numbers").json()["items"] if one["key"] == "readout/limpet-7")
    assert (one["value"], one["needs"], one["how_many"]) == (None, 2, "1 pan")
    assert told.put(f"/api/log/notes/{uuid4()}", json={**note, "lean_px": 0}).status_code == 422
    ruler = {
        "kind": "steadying",
        "camera": "limpet-7",
        "level": "strong",
        "without_cm": 80,
        "with_cm": 100,
        "at": note["at"],
    }
    assert "change the two about" in told.put(f"/api/log/notes/{uuid4()}", json=ruler).json()["detail"]
    told.delete(f"/api/log/notes/{note_id}")
    assert told.post(f"/api/log/notes/{note_id}/restore").status_code == 200
    told.delete(f"/api/log/notes/{note_id}")


def test_a_ladder_from_its_offer_to_its_limit(told: httpx.Client, shot: dict[str, Any]) -> None:
    offers = told.get(f"/api/shots/{shot['id']}/ladders").json()
    assert offers["items"]
    asked = {"dial": "stabilisation", "values": ["off", "standard", "strongest"]}
    ladder = told.post(f"/api/shots/{shot['id']}/ladders", json=asked).json()
    path = f"/api/ladders/{ladder['id']}"
    assert ladder["order"] == [0, 1, 2, 2, 1, 0]
    assert ladder["quantity"] == "left_deg"
    for n, rung in enumerate(ladder["order"]):
        said = {"at": f"2026-11-25T11:{n:02}:00Z"}
        body = {"shot_id": shot["id"], "ladder_id": ladder["id"], "rung": rung, "said": said}
        kept = told.put(f"/api/log/takes/{uuid4()}", json=body).json()
        assert kept["rung"] == rung
        # It is held against its rung, whatever the shot's own plan has.
        rows = told.get(f"/api/log/takes/{kept['id']}").json()["rows"]
        assert [row["planned"] for row in rows if row["dial"] == "stabilisation"] == [asked["values"][rung]]
    assert [rung["takes"] for rung in told.get(path).json()["rungs"]] == [2, 2, 2]
    answer_id = str(uuid4())
    answers = [(str(uuid4()), [0, 2], [2]), (str(uuid4()), [1, 2], [1, 2]), (answer_id, [0, 1], [1])]
    for each, pair, good in answers:
        said = {
            "at": "2026-11-25T12:00:00Z",
            "who": "Wren Castellane",
            "how": "pair",
            "left": pair[0],
            "right": pair[1],
            "good": good,
        }
        for _ in range(2):  # handed over twice, it counts once
            found = told.put(f"{path}/answers/{each}", json=said).json()
    assert len(found["answers"]) == 3
    (limit,) = found["limits"]
    assert limit["enough"]
    assert limit["says"].startswith("Good enough for Wren Castellane up to")
    assert "2 of 2" in " ".join(found["told"])
    assert len(told.delete(f"{path}/answers/{answer_id}").json()["answers"]) == 2
    wrong = {"at": "2026-11-25T12:00:00Z", "who": "Wren", "how": "pair", "left": 0, "right": 0}
    assert told.put(f"{path}/answers/{uuid4()}", json=wrong).status_code == 422
    beyond = {"at": "2026-11-25T12:00:00Z", "who": "Wren", "how": "row", "up_to": 4}
    assert "last frame is 2" in told.put(f"{path}/answers/{uuid4()}", json=beyond).text
    nowhere = {"shot_id": shot["id"], "ladder_id": ladder["id"], "rung": 5, "said": {"at": "2026-11-25T11:30:00Z"}}
    assert told.put(f"/api/log/takes/{uuid4()}", json=nowhere).status_code == 422
    told.delete(path)
    assert told.get(path).status_code == 404
    assert told.post(f"{path}/restore").json()["id"] == ladder["id"]


def test_a_ladder_whose_rest_changed_says_so(told: httpx.Client, shot: dict[str, Any]) -> None:
    asked = {"dial": "stabilisation", "values": ["off", "strong"]}
    ladder = told.post(f"/api/shots/{shot['id']}/ladders", json=asked).json()
    assert ladder["changed"] == []
    brief = {**CHEST, "pins": {"camera": "limpet-7", "shutter_s": 0.01}}
    told.patch(f"/api/shots/{shot['id']}", json=shot_change(brief, None, shot["revision"]))
    plan_of(told, shot["id"])
    changed = told.get(f"/api/ladders/{ladder['id']}").json()["changed"]
    assert any("1/100" in says for says in changed)
    told.delete(f"/api/shots/{shot['id']}")
    gone = told.get(f"/api/ladders/{ladder['id']}").json()
    assert gone["gone"]
    assert gone["rungs"]


def test_the_log_goes_out_and_comes_into_another_place_whole(told: httpx.Client, cluster: Cluster) -> None:
    out = told.get("/api/log/log.json")
    said = json.loads(out.content)
    assert (said["format"], said["version"]) == ("steady-tide/log", 1)
    with (
        own_database(cluster, "log_other") as other,
        serving(other) as at,
        httpx.Client(base_url=at, timeout=60) as http,
    ):
        looked = http.post("/api/log/import", content=out.content, params={"name": "log.json"}).json()
        assert looked["fresh"] == len(said["takes"])
        assert not looked["applied"]
        assert http.get("/api/log/takes").json()["all"] == 0
        for times in range(2):
            read = http.post("/api/log/import", content=out.content, params={"apply": True}).json()
            assert read["fresh"] == (0 if times else len(said["takes"]))
        again = json.loads(http.get("/api/log/log.json").content)
        strip = lambda log: sorted((one["id"], one["said"]["at"]) for one in log["takes"])  # noqa: E731
        assert strip(again) == strip(said)
        mine, theirs = (
            {
                one["key"]: one["value"]
                for one in client.get("/api/log/numbers").json()["items"]
                if one["kind"] != "clock"
            }
            for client in (told, http)
        )
        assert theirs == mine
        assert [one["on"] for one in http.get("/api/log/numbers").json()["items"]] == [False] * len(mine)


def test_lists_of_others_come_in_with_their_doubts(told: httpx.Client, shot: dict[str, Any]) -> None:
    text = (
        b"date,time,project,scene,cam,rating,notes\n"
        b"2026-11-25,10:30,A try,Over the stile,B,good,a list of others\n"
        b"2026-11-19,10:30,A try,Over the stile,B,good,a list of others\n"
        b"2026-11-25,10:40,A try,Under the stile,B,bad,a list of others\n"
        b"2026-11-25,noon,A try,Over the stile,B,bad,\n"
    )
    asked = {"name": "theirs.csv", "zone": "Europe/London"}
    looked = told.post("/api/log/import", content=text, params=asked).json()
    assert (looked["fresh"], looked["applied"]) == (3, False)
    assert [(one["row"], one["column"], one["taken"]) for one in looked["doubts"]] == [
        (3, "at", True), (4, "shot", True), (5, "at", False),
    ]  # fmt: skip
    assert "before the shoot" in looked["doubts"][0]["what"]
    for times in range(2):
        read = told.post("/api/log/import", content=text, params={**asked, "apply": True}).json()
        assert (read["fresh"], read["known"]) == ((0, 3) if times else (3, 0))
    assert sorted(take["early_days"] or 0 for take in takes_of(told, shot["id"])) == [0, 6]
    found = told.get("/api/log/takes", params={"words": "a list of others"}).json()
    assert (found["total"], sum(take["shot"] is None for take in found["items"])) == (3, 1)
    back = told.get("/api/log/takes.csv", params={"words": "a list of others"}).text
    assert len(back.strip().splitlines()) == 4
    for take in found["items"]:
        told.delete(f"/api/log/takes/{take['id']}")
    assert told.post("/api/log/import", content=b'{"format": 1}').status_code == 422
    assert told.post("/api/log/import", content=b"a,b\n1,2\n").status_code == 422
    assert told.post("/api/log/import", content=text, params={"zone": "Nowhere/Here"}).status_code == 422


def test_everything_as_open_files_has_the_log(told: httpx.Client) -> None:
    import io
    import zipfile

    names = zipfile.ZipFile(io.BytesIO(told.get("/api/everything.zip").content)).namelist()
    assert "log.json" in names
    assert "takes.csv" in names


def test_an_empty_log_says_nothing_and_breaks_nothing(cluster: Cluster) -> None:
    with (
        own_database(cluster, "log_empty", demo=False) as empty,
        serving(empty) as at,
        httpx.Client(base_url=at) as http,
    ):
        assert http.get("/api/log/takes").json()["all"] == 0
        assert http.get("/api/log/numbers").json() == {"items": [], "contradictions": []}
        assert http.get("/api/ladders").json()["total"] == 0
        assert http.get("/api/log/takes.csv").text.startswith("at,shoot,shot")
        assert json.loads(http.get("/api/log/log.json").content)["takes"] == []


def test_a_clip_finds_the_take_that_was_logged_when_it_was_recorded(database: Database) -> None:
    from datetime import UTC, datetime, timedelta

    from steady_tide.services.take_linking import link_takes
    from steady_tide.store import rushes as store_rushes
    from steady_tide.store import shots as store_shots
    from steady_tide.store import takes as store_takes
    from steady_tide.store.tables import Clip

    with database.session() as session:
        shot_id = store_shots.list_all(session)[0].id
        folder = store_rushes.add_folder(session, "/tmp/linked", "named")
        noon = datetime(2026, 10, 11, 12, tzinfo=UTC)
        ids = [uuid4(), uuid4()]
        for n, take_id in enumerate(ids):
            at = noon + timedelta(minutes=5 * n)
            said = {"at": at.isoformat(), "rating": "keep"}
            store_takes.put_take(session, take_id, {"shot_id": shot_id, "at": at, "said": said, "made_by": "card"})
        clips = [
            Clip(
                folder_id=folder.id, name=f"l{n}", size_bytes=1, modified_at=noon, recorded_at=noon + timedelta(minutes=minutes),
                shot_id=shot_id, facts={"width": 1, "height": 1}, matched_by="person",
            )
            for n, minutes in enumerate((5.4, 0.3, 50))
        ]  # fmt: skip
        session.add_all(clips)
        session.flush()
        for _ in range(2):
            link_takes(session)
        assert store_takes.get_take(session, ids[0]).clip_id == clips[1].id
        assert store_takes.get_take(session, ids[1]).clip_id == clips[0].id
        late = store_takes.take_of_clip(session, clips[2].id)
        assert late is not None
        assert late.made_by == "clip"
        assert store_takes.ratings_of(session, [clip.id for clip in clips]) == {
            clips[0].id: "keep",
            clips[1].id: "keep",
        }
        # Put to another shot, the clip parts from a take that a person logged; one that it made itself goes along.
        other = store_shots.list_all(session)[1].id
        clips[0].shot_id = clips[2].shot_id = other
        session.flush()
        link_takes(session)
        assert store_takes.get_take(session, ids[1]).clip_id is None
        assert late.shot_id == other
        session.rollback()


def test_a_clip_on_a_ladder_is_held_against_its_rung(database: Database) -> None:
    from datetime import UTC, datetime, timedelta

    from steady_tide.services.crew_kit import read_crew_kit
    from steady_tide.services.rush_plans import plan_of as plan_of_shot
    from steady_tide.services.take_linking import link_takes
    from steady_tide.store import ladders as store_ladders
    from steady_tide.store import rushes as store_rushes
    from steady_tide.store import shots as store_shots
    from steady_tide.store import takes as store_takes
    from steady_tide.store.tables import Clip

    with database.session() as session:
        gear = read_crew_kit(session)
        shot, plan = next(
            (one, plan)
            for one in store_shots.list_all(session)
            if (plan := plan_of_shot(session, one, gear)) is not None
        )
        rungs = [{**plan.model_dump(mode="json"), "margin_deg": float(n)} for n in range(3)]
        row = store_ladders.add_ladder(session, shot.id, "it", {"rungs": []})
        folder = store_rushes.add_folder(session, "/tmp/rungs", "named")
        noon = datetime(2026, 10, 12, 12, tzinfo=UTC)
        clips = [
            Clip(
                folder_id=folder.id, name=f"r{n}", size_bytes=1, modified_at=noon, recorded_at=noon + timedelta(minutes=30 * n),
                shot_id=row.shot_id, facts={"width": 1, "height": 1}, matched_by="person", planned=rungs[0],
            )
            for n in range(3)
        ]  # fmt: skip
        session.add_all(clips)
        takes = []
        for n, clip in enumerate(clips):
            assert clip.recorded_at is not None
            said = {"at": clip.recorded_at.isoformat()}
            fields = {"shot_id": row.shot_id, "at": clip.recorded_at, "said": said, "made_by": "card"}
            fields |= {"ladder_id": row.id, "rung": n, "planned": rungs[n]}
            takes.append(store_takes.put_take(session, uuid4(), fields)[0])
        session.flush()
        for _ in range(2):
            link_takes(session)
            assert [clip.planned for clip in clips] == rungs[:3]
            assert [take.planned for take in takes] == rungs[:3]
        clips[1].shot_id = None  # it was of something else: the take stays on its rung without a clip
        session.flush()
        link_takes(session)
        assert (takes[1].clip_id, takes[1].planned) == (None, rungs[1])
        session.rollback()


def test_a_brief_without_hands_is_as_before(told: httpx.Client) -> None:
    plan = told.post("/api/plan", json={"title": "t", "light": SUN}).json()
    assert plan["own"] == []


def test_ladders_of_before_come_over_to_todays_form(told: httpx.Client, shot: dict[str, Any], cluster: Cluster) -> None:
    with (
        own_database(cluster, "log_ladders") as database,
        serving(database) as at,
        httpx.Client(base_url=at, timeout=60) as http,
    ):
        shoot = http.get("/api/shoots").json()["items"][0]["id"]
        mine = http.post(f"/api/shoots/{shoot}/shots", json={"brief": CHEST}).json()
        asked = {"dial": "stabilisation", "values": ["off", "strong"]}
        made = http.post(f"/api/shots/{mine['id']}/ladders", json=asked).json()
        with database.session() as session:
            row = session.get(LadderKept, UUID(made["id"]))
            assert row is not None
            today = dict(row.ladder)
            # As it was kept before: what follows from a rung stood beside its pins.
            old = [
                {
                    "value": rung["value"],
                    "pins": {k: v for k, v in rung["planned"]["chosen"].items() if k != "camera"},
                    "snr": 11.0,
                }
                for rung in today["rungs"]
            ]
            row.ladder = {
                **today,
                "rungs": old,
                "held": {},
                "not_held": [],
                "visible": True,
                "quantity": "left_deg",
                "best_first": [1, 0],
            }
        with database.session() as session:
            assert renew_old(session, crew_school(session), read_crew_kit(session), Plans()) == 1
            assert renew_old(session, crew_school(session), read_crew_kit(session), Plans()) == 0
        with database.session() as session:
            row = session.get(LadderKept, UUID(made["id"]))
            assert row is not None
            assert row.ladder == today
        assert http.get(f"/api/ladders/{made['id']}").json()["rungs"]
        assert http.get("/api/ladders", params={"shot": mine["id"]}).json()["total"] == 1
        assert http.get("/api/ladders", params={"shot": str(uuid4())}).json()["total"] == 0
