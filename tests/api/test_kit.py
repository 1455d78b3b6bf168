"""The kit over HTTP, on a database of its own: editions that plans keep, clashes that are asked, drafts, measuring."""

from __future__ import annotations

import io
import json
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any
from uuid import uuid4

import httpx
import numpy as np
import pytest
import yaml
from sqlalchemy import create_engine, text
from sqlalchemy.pool import NullPool

from steady_tide.core.gear.items import KINDS
from steady_tide.core.quantities import sizes
from steady_tide.launch.cluster import Cluster
from steady_tide.standins.grey_card import SimulatedSensor, grey_frame
from steady_tide.store.database import Database
from tests.briefs import QUAY, SUN
from tests.changing import changed, latest
from tests.sample_media import clip, grey_card, picture, still
from tests.service import own_database, serving
from tests.small_sheet import small_sheet_data

TABLE = "Size\tFPS\tView\n3840x2160\t60, 50, 30, 25\twide, linear\n1920x1080\t240, 120\twide\n"


@pytest.fixture(scope="module")
def own(cluster: Cluster) -> Iterator[httpx.Client]:
    """A service on a database that no other test looks into."""
    with (
        own_database(cluster, "kit") as database,
        serving(database) as at,
        httpx.Client(base_url=at, timeout=60) as client,
    ):
        yield client


def ok(answer: httpx.Response, status: int = 200) -> Any:
    assert answer.status_code == status, answer.text
    return answer.json() if answer.content else None


def rough(own: httpx.Client, name: str, **known: Any) -> dict[str, Any]:
    modes = ok(own.post("/api/sheets/table", json={"text": TABLE}))["modes"]
    return {"sheet": {"name": name, "modes": modes}, "known": known}


def new_shot(own: httpx.Client, camera: str) -> dict[str, Any]:
    shoot = ok(own.get("/api/shoots"))["items"][0]["id"]
    brief = {"title": f"With {camera}", "light": SUN, **QUAY, "pins": {"camera": camera}}
    return dict(ok(own.post(f"/api/shoots/{shoot}/shots", json={"brief": brief}), 201))


def test_the_kit_stands_by_kind_with_counts_and_state(own: httpx.Client) -> None:
    kit = ok(own.get("/api/kit"))
    assert {camera["id"] for camera in kit["cameras"]} >= {"limpet-7", "cockle-3"}
    assert kit["gets_ready"]["media"] == "formatted"
    assert all(kit[kind] for kind in ("filters", "housings", "lamps", "batteries", "media", "mounts", "chemistries"))
    pack = next(item for item in kit["batteries"] if item["thing"]["count"] > 1)
    at = f"/api/kit/things/batteries/{pack['thing']['id']}"
    kept = {"revision": pack["revision"], "keeping": {"ready": 2, "where": "the dry box"}}
    assert ok(own.patch(at, json=kept))["keeping"]["where"] == "the dry box"
    again = next(item for item in ok(own.get("/api/kit"))["batteries"] if item["thing"]["id"] == pack["thing"]["id"])
    assert again["keeping"]["ready"] == 2
    kept["keeping"]["ready"] = 99
    refused = own.patch(at, json={**kept, "revision": again["revision"]})
    assert refused.status_code == 422
    assert refused.json()["faults"][0]["where"] == "keeping.ready"
    ok(changed(own, "/api/kit/cameras/limpet-7/keeping", count=2, ready=1, where="boat"))
    camera = next(camera for camera in ok(own.get("/api/kit"))["cameras"] if camera["id"] == "limpet-7")
    assert (camera["count"], camera["keeping"]["ready"]) == (2, 1)


def test_what_is_put_away_is_not_planned_with_and_comes_back(own: httpx.Client) -> None:
    before = ok(own.post("/api/plan", json={"light": SUN, **QUAY}, params={"only": "limpet-7"}))
    assert before["settings"]["nd"] == ["nd64"]
    assert own.delete("/api/kit/things/filters/nd64").status_code == 204
    without = ok(own.post("/api/plan", json={"light": SUN, **QUAY}, params={"only": "limpet-7"}))
    assert "nd64" not in without["settings"]["nd"]
    ok(own.post("/api/kit/things/filters/nd64/back"))
    assert ok(own.post("/api/plan", json={"light": SUN, **QUAY}, params={"only": "limpet-7"})) == before
    assert own.delete("/api/kit/cameras/winkle").status_code == 204
    assert "winkle" not in {camera["id"] for camera in ok(own.get("/api/cameras"))["items"]}
    assert {"id": "winkle", "name": "Winkle"} in ok(own.get("/api/kit"))["away"]
    ok(own.post("/api/kit/cameras/winkle/back"))
    assert "winkle" in {camera["id"] for camera in ok(own.get("/api/cameras"))["items"]}
    assert own.delete("/api/kit/things/mounts/tripod").status_code == 422, "briefs use the word"


@pytest.mark.parametrize("kind", list(KINDS))
def test_a_thing_of_every_kind_is_kept_put_away_and_brought_back(own: httpx.Client, kind: str) -> None:
    kept = own.get("/api/kit").json()[kind][0]["thing"]
    thing = {**kept, "id": "mine", "name": "Mine"}
    put = own.put(f"/api/kit/things/{kind}/mine", json={"thing": thing, "keeping": {"where": "the grey bag"}})
    assert put.status_code == 201, put.text
    assert put.json()["thing"] == thing
    if kind in ("attachments", "microphones"):
        assert thing in own.get("/api/vocabulary").json()[kind]
    assert own.delete(f"/api/kit/things/{kind}/mine").status_code == 204
    back = own.post(f"/api/kit/things/{kind}/mine/back")
    assert back.status_code == 200, back.text
    assert (back.json()["thing"], back.json()["keeping"]["where"]) == (thing, "the grey bag")


def test_a_new_thing_is_kept_and_a_broken_one_is_not(own: httpx.Client) -> None:
    glass = {"name": "Turning glass", "kind": "nd", "stops": 6, "turns_from_stops": 2, "fits": ["limpet"]}
    ok(own.put("/api/kit/things/filters/turning", json={"thing": glass}), 201)
    plan = ok(
        own.post("/api/plan", json={"light": SUN, **QUAY, "kit": {"filters": ["turning"]}}, params={"only": "limpet-7"})
    )
    assert plan["settings"]["nd"] == ["turning@6"]
    clash = own.put("/api/kit/things/filters/turning", json={"thing": glass})
    assert clash.status_code == 409
    for bad, where in (
        ({**glass, "stops": -1}, "thing.stops"),
        ({**glass, "turns_from_stops": 9}, "thing"),
        ({"name": "x"}, "thing"),
    ):
        refused = own.put("/api/kit/things/filters/broken", json={"thing": bad})
        assert refused.status_code == 422
        assert refused.json()["faults"][0]["where"].startswith(where)
    assert "broken" not in {item["thing"]["id"] for item in ok(own.get("/api/kit"))["filters"]}
    assert own.put("/api/kit/things/filters/..%2Fx", json={"thing": glass}).status_code in (404, 405, 422)
    own.delete("/api/kit/things/filters/turning")


def test_a_camera_is_written_kept_changed_and_its_plans_keep_their_edition(own: httpx.Client) -> None:
    begun = rough(own, "Whelk 4", megapixels=12)
    done = ok(own.post("/api/sheets/complete", json=begun))
    assert done["faults"] == []
    assert len(done["estimates"]) > 30
    sheet = ok(own.post("/api/cameras", json={"rough": begun}), 201)
    assert (sheet["id"], sheet["edition"]) == ("whelk-4", 1)
    assert own.post("/api/cameras", json={"rough": begun}).status_code == 409
    shot = new_shot(own, "whelk-4")
    assert shot["sheet"] == {
        "camera": "whelk-4", "name": "Whelk 4", "edition": 1, "latest": 1, "own": [], "held": None,
    }  # fmt: skip

    again = ok(own.get("/api/cameras/whelk-4/rough"))
    assert again["rough"]["known"]["megapixels"] == 12
    assert ok(own.post("/api/sheets/complete", json=again["rough"]))["sheet"] == sheet
    again["rough"]["sheet"]["lenses"] = [{"id": "main", "f_numbers": [1.8]}]
    second = ok(own.put("/api/cameras/whelk-4", json={"rough": again["rough"], "made_on": 1}))
    assert second["edition"] == 2
    late = own.put("/api/cameras/whelk-4", json={"rough": again["rough"], "made_on": 1})
    assert late.status_code == 409, "somebody was first"

    kept = ok(own.get(f"/api/shots/{shot['id']}"))
    assert kept["plan"] == shot["plan"], "nothing moved under the plan"
    assert kept["sheet"]["latest"] == 2
    shown = ok(own.get("/api/cameras/whelk-4/editions"))
    assert [item["edition"] for item in shown["items"]] == [2, 1]
    assert [(plan["title"], plan["edition"]) for plan in shown["plans"]] == [("With whelk-4", 1)]

    differs = ok(own.get(f"/api/shots/{shot['id']}/replanned"))
    assert any(change["dial"] == "f_number" and change["after"] == "f/1.8" for change in differs["changes"])
    assert differs["given_up_before"] == pytest.approx(shot["plan"]["given_up_stops"])
    held = ok(
        own.post("/api/plan", json=kept["brief"], params={"only": "whelk-4", "schools": False, "held": "whelk-4:1"})
    )
    assert held["settings"] == shot["plan"]["settings"]
    # A change of the brief plans with the sheet that the plan keeps; the latest comes when it is asked for.
    body = {"revision": kept["revision"], "change": {"title": "Renamed"}}
    renamed = ok(own.patch(f"/api/shots/{shot['id']}", json=body))
    assert renamed["sheet"]["edition"] == 1
    assert renamed["plan"]["settings"] == shot["plan"]["settings"]
    body = {"revision": renamed["revision"], "change": {}, "latest_sheet": True}
    anew = ok(own.patch(f"/api/shots/{shot['id']}", json=body))
    assert anew["sheet"]["edition"] == 2
    assert anew["plan"]["given_up_stops"] == pytest.approx(differs["given_up_after"])
    third = ok(own.post("/api/cameras/whelk-4/editions/1/again"))
    assert (third["edition"], third["lenses"]) == (3, sheet["lenses"])


def test_a_decision_that_rests_on_an_estimate_is_told(own: httpx.Client) -> None:
    ok(own.post("/api/cameras", json={"rough": rough(own, "Dim whelk")}), 201)
    dim = {"light": {"kind": "meter", "ev100": [1, 3]}, "delivery": {"graded": True}}
    check = ok(own.post("/api/bench", json=dim, params={"only": "dim-whelk"}))["estimates"]
    assert check["estimates"] > 30
    assert check["matters"][0]["decides"]
    assert all(matter["mend"] for matter in check["matters"])
    assert all(dial["word"] and dial["now"] for matter in check["matters"] for dial in matter["dials"])
    # A sheet without estimates has nothing that rests on one, and an answer in a hurry does not look.
    assert ok(own.post("/api/bench", json=dim, params={"only": "limpet-7"}))["estimates"] is None
    hurried = ok(own.post("/api/bench", json=dim, params={"only": "dim-whelk", "whole": False}))
    assert (hurried["estimates"], hurried["whole"]) == (None, False)
    assert own.post("/api/bench", json=dim, params={"only": "kite"}).status_code == 404


def test_measured_noise_is_an_estimate_no_more(own: httpx.Client) -> None:
    ok(own.post("/api/cameras", json={"rough": rough(own, "Measured whelk")}), 201)
    at = "/api/cameras/measured-whelk"
    body = {"made_on": 1, "lens": "main", "read_noise_e": 2.345, "full_well_e": 5432.1}
    kept = ok(own.post(f"{at}/measured", json=body))
    assert kept["edition"] == 2
    assert kept["lenses"][0]["sensor"]["read_noise_e"] == pytest.approx(2.35, abs=0.006)
    assert not any("read_noise" in entry["field"] or "full_well" in entry["field"] for entry in kept["estimates"])
    assert ok(own.get(f"{at}/rough"))["rough"]["sheet"]["lenses"][0]["sensor"]["full_well_e"] == 5430
    assert own.post(f"{at}/measured", json=body).status_code == 409
    assert own.post(f"{at}/measured", json={**body, "made_on": 2, "lens": "tail"}).status_code == 422


def test_drafts_keep_whatever_was_typed(own: httpx.Client) -> None:
    at = f"/api/sheets/drafts/{uuid4()}"
    wild = {"sheet": {"name": "Half", "modes": "none yet", "views": [{"id": 7}]}, "known": {"megapixels": "many"}}
    kept = ok(own.put(at, json={"rough": wild}))
    assert kept["name"] == "Half"
    assert ok(own.get(at))["rough"] == wild
    assert any(draft["name"] == "Half" for draft in ok(own.get("/api/sheets/drafts"))["items"])
    large = {"revision": 0, "change": {"sheet.note": "x" * 700_000}}
    assert own.patch(at, json=large).status_code in (413, 422)
    assert ok(own.get(at))["rough"] == wild, "what was there stays"
    assert own.delete(at).status_code == 204
    assert own.get(at).status_code == 404


@pytest.mark.parametrize("spelling", ["json", "yaml"])
def test_the_whole_kit_goes_out_and_comes_in(own: httpx.Client, spelling: str) -> None:
    file = own.get("/api/kit/file", params={"spelling": spelling})
    assert f'filename="kit.{spelling}"' in file.headers["content-disposition"]
    doc = json.loads(file.text) if spelling == "json" else yaml.safe_load(file.text)
    assert doc["format"] == "steady-tide/kit"
    read = ok(own.post("/api/kit/import", content=file.content))
    assert read["new"] == read["taken"] == read["beside"] == []
    assert len(read["same"]) > 30


def test_what_clashes_is_asked_and_nothing_comes_in_before(own: httpx.Client) -> None:
    kit = json.loads(own.get("/api/kit/file").text)
    kit["filters"] = [
        {**next(f for f in kit["filters"] if f["id"] == "nd8"), "stops": 2.9},
        {"id": "nd1000", "name": "ND 1000", "stops": 10, "fits": ["limpet"]},
    ]
    kit["cameras"] = [{**next(c for c in kit["cameras"] if c["id"] == "turnstone"), "note": "another crew's"}]
    kit["lamps"] = [{**kit["lamps"][0], "kelvin": 4999}]
    for kind in ("housings", "batteries", "media", "mounts", "chemistries"):
        kit[kind] = []
    data = json.dumps(kit).encode()
    before = ok(own.get("/api/kit"))
    asked = own.post("/api/kit/import", content=data)
    assert asked.status_code == 409
    faults = {fault["where"]: fault["what"] for fault in asked.json()["faults"]}
    lamp = kit["lamps"][0]["id"]
    assert set(faults) == {"filters/nd8", "cameras/turnstone", f"lamps/{lamp}"}
    assert "stops is 2.9 there, 3.0 here" in faults["filters/nd8"]
    assert ok(own.get("/api/kit")) == before
    some = own.post("/api/kit/import", content=data, params={"choices": ["filters/nd8=keep"]})
    assert some.status_code == 409
    assert ok(own.get("/api/kit")) == before
    wrong = own.post("/api/kit/import", content=data, params={"choices": ["filters/nd8=maybe"]})
    assert wrong.status_code == 422
    choices = ["filters/nd8=keep", "cameras/turnstone=take", f"lamps/{lamp}=beside"]
    read = ok(own.post("/api/kit/import", content=data, params={"choices": choices}))
    assert (read["kept"], read["taken"], read["beside"]) == (["filters/nd8"], ["cameras/turnstone"], [f"lamps/{lamp}"])
    assert read["new"] == ["filters/nd1000"]
    after = ok(own.get("/api/kit"))
    stops = {item["thing"]["id"]: item["thing"]["stops"] for item in after["filters"]}
    assert (stops["nd8"], stops["nd1000"]) == (3, 10)
    assert {item["thing"]["id"] for item in after["lamps"]} >= {lamp, f"{lamp}-2"}
    turnstone = next(camera for camera in after["cameras"] if camera["id"] == "turnstone")
    assert turnstone["edition"] == 2, "the other's sheet is the next edition"


def test_a_sheet_comes_in_alone_and_a_broken_one_does_not(own: httpx.Client) -> None:
    read = ok(
        own.post(
            "/api/kit/import",
            content=yaml.dump(json.loads(json.dumps(small_sheet_data()))).encode(),
            params={"name": "p.yaml"},
        )
    )
    assert read["new"] == ["cameras/periwinkle-2"]
    broken = {**small_sheet_data(), "id": "broken-1"}
    broken["modes"][0]["views"] = ["round"]
    refused = own.post("/api/kit/import", content=json.dumps(broken).encode(), params={"name": "b.json"})
    assert refused.status_code == 422
    assert any("modes[0]" in fault["where"] for fault in refused.json()["faults"])
    tricks = own.post("/api/kit/import", content=b"a: &x [1]\nb: *x\n", params={"name": "t.yaml"})
    assert tricks.status_code == 422
    assert "alias" in tricks.json()["faults"][0]["what"]
    assert own.post("/api/kit/import", content=b"x" * (sizes.KIT + sizes.MB)).status_code == 413
    assert "broken-1" not in {camera["id"] for camera in ok(own.get("/api/cameras"))["items"]}


def sent_clip(own: httpx.Client, path: Path, head: int = 4_000) -> httpx.Response:
    data = path.read_bytes()
    head = min(head, len(data))
    return own.post("/api/sheets/clips", content=data, params={"name": path.name, "size": len(data), "head": head})


def test_clips_and_stills_become_a_draft(own: httpx.Client, tmp_path: Path) -> None:
    facts = [
        ok(sent_clip(own, clip(tmp_path / "a.mp4", 1920, 1080, "30000/1001"))),
        ok(sent_clip(own, clip(tmp_path / "b.mp4", 1280, 720, "50"))),
        ok(sent_clip(own, still(tmp_path / "s.jpg"))),
    ]
    draft = ok(own.post("/api/sheets/draft-of-clips", json={"facts": facts}))
    assert {(mode["width"], tuple(mode["rates"])) for mode in draft["sheet"]["modes"]} == {
        (1920, (29.97,)),
        (1280, (50,)),
    }
    assert draft["known"]["equivalent_mm"] == 16
    done = ok(own.post("/api/sheets/complete", json={"sheet": draft["sheet"], "known": draft["known"]}))
    assert done["sheet"]["name"] == "Periwinkle 2"


def test_large_and_hostile_files_are_refused(own: httpx.Client, tmp_path: Path) -> None:
    large = own.post(
        "/api/sheets/clips", content=b"\0\0\0\x18ftypisom", params={"name": "a.mp4", "size": 10_000_000_000, "head": 12}
    )
    assert large.status_code == 422
    assert "10.0 GB" in large.json()["faults"][0]["what"]
    page = tmp_path / "page.mp4"
    page.write_bytes(b"<html>" * 50)
    refused = sent_clip(own, page)
    assert refused.status_code == 422
    assert refused.json()["faults"][0]["mend"]
    long = own.post(
        "/api/sheets/clips",
        content=b"\0\0\0\x18ftypisom" + b"\0" * 17_000_000,
        params={"name": "a.mp4", "size": 17_000_012, "head": 12},
    )
    assert long.status_code in (413, 422)


def test_a_grey_ladder_is_measured(own: httpx.Client, tmp_path: Path) -> None:
    sensor = SimulatedSensor(read_noise_e=3.1, full_well_e=6200.0)
    steps = []
    for start in range(0, 6, 2):
        files = [("files", (path.name, path.read_bytes())) for path in grey_card(tmp_path, sensor)[start : start + 2]]
        steps += ok(own.post("/api/measure/grey-step", files=files))
    assert [(step["iso"], step["frames"]) for step in steps] == [(100, 2), (400, 2), (1600, 2)]
    found = ok(own.post("/api/measure/noise", json={"steps": steps}))
    assert found["read_noise_e"] == pytest.approx(3.1, rel=0.05)
    assert found["full_well_e"] == pytest.approx(6200, rel=0.05)
    unsaid = own.post(
        "/api/measure/grey-step", files=[("files", ("card.png", grey_card(tmp_path, sensor)[0].read_bytes()))]
    )
    assert unsaid.status_code == 422
    assert "ISO" in unsaid.json()["faults"][0]["what"]
    short = own.post("/api/measure/noise", json={"steps": steps[:1]})
    assert short.status_code == 422
    sample = ok(own.get("/api/measure/sample-ladder"))
    tried = ok(own.post("/api/measure/noise", json={"steps": sample["steps"]}))
    assert tried["read_noise_e"] == pytest.approx(sample["true_read_noise_e"], rel=0.05)


def test_glass_is_measured(own: httpx.Client) -> None:
    rng = np.random.default_rng(4)
    sensor = SimulatedSensor(read_noise_e=2.0, full_well_e=8000.0)
    bare = picture(grey_frame(sensor, 100, rng, level=0.4, transfer="srgb", codes=256))
    behind = picture(grey_frame(sensor, 100, rng, level=0.4 * 2**-0.1, transfer="srgb", codes=256))
    files = {"with_glass": ("with.png", io.BytesIO(behind)), "without": ("without.png", io.BytesIO(bare))}
    found = ok(own.post("/api/measure/glass", files=files, params={"exposure_stops": 3}))
    assert found["exposure_known"]
    assert found["glass"]["stops"] == pytest.approx(3.1, abs=0.05)
    alike = {"with_glass": ("with.png", io.BytesIO(behind)), "without": ("without.png", io.BytesIO(bare))}
    assert not ok(own.post("/api/measure/glass", files=alike))["exposure_known"]


def test_every_field_has_words_and_maps_can_be_had(own: httpx.Client) -> None:
    fields = ok(own.get("/api/sheets/fields"))
    assert fields["total"] == len(fields["items"]) > 10
    drawn = ok(own.get("/api/cameras/limpet-7/map"))
    assert drawn["count"] > 400
    assert ok(own.post("/api/sheets/map", json=rough(own, "Whelk 5")))["count"] > 5
    assert own.post("/api/sheets/map", json={"sheet": {}}).status_code == 422
    for schema in ("camera-sheet", "kit"):
        assert ok(own.get(f"/api/{schema}.schema.json"))["$schema"].startswith("https://json-schema.org/")


def test_examples_go_away_and_come_back(own: httpx.Client) -> None:
    moved = ok(own.post("/api/kit/examples/away"))["count"]
    assert moved > 20
    left = {camera["id"] for camera in ok(own.get("/api/kit"))["cameras"]}
    assert "limpet-7" not in left
    assert "whelk-4" in left
    brief = {"light": SUN, **QUAY}
    assert ok(own.post("/api/plan", json=brief))["camera"]["id"] in left
    assert ok(own.post("/api/kit/examples/back"))["count"] == moved
    assert "limpet-7" in {camera["id"] for camera in ok(own.get("/api/kit"))["cameras"]}


def test_of_many_changes_at_once_one_is_the_next_edition(own: httpx.Client) -> None:
    ok(own.post("/api/cameras", json={"rough": rough(own, "Crowded whelk")}), 201)
    body = {"rough": ok(own.get("/api/cameras/crowded-whelk/rough"))["rough"], "made_on": 1}
    with ThreadPoolExecutor(6) as crowd:
        codes = list(crowd.map(lambda _: own.put("/api/cameras/crowded-whelk", json=body).status_code, range(6)))
    assert sorted(codes) == [200, 409, 409, 409, 409, 409]
    assert [item["edition"] for item in ok(own.get("/api/cameras/crowded-whelk/editions"))["items"]] == [2, 1]


def test_an_empty_database_is_filled_once_however_many_come_first(cluster: Cluster) -> None:
    with create_engine(cluster.url, isolation_level="AUTOCOMMIT", poolclass=NullPool).connect() as connection:
        connection.execute(text("create database firstkit"))
    database = Database(cluster.url.rsplit("/", 1)[0] + "/firstkit")
    database.migrate()
    try:
        with serving(database) as at, httpx.Client(base_url=at, timeout=60) as client, ThreadPoolExecutor(6) as crowd:
            answers = list(crowd.map(lambda _: client.get("/api/kit"), range(6)))
            assert {answer.status_code for answer in answers} == {200}
            assert len({answer.text for answer in answers}) == 1
            assert len(answers[0].json()["cameras"]) == 7
    finally:
        database.close()


def test_numbers_of_mounts_and_cells_change_what_is_planned(own: httpx.Client) -> None:
    def plan(**fields: Any) -> dict[str, Any]:
        return dict(
            ok(own.post("/api/plan", json={"light": SUN, **fields}, params={"only": "sledge-whelk", "schools": False}))
        )

    ok(own.post("/api/cameras", json={"rough": rough(own, "Sledge whelk")}), 201)
    kit = ok(own.get("/api/kit"))
    sledge = {"name": "sledge", "phrase": "from a sledge", "shake_deg_s": 30, "settle_s": 0.2, "field_deg": 90}
    ok(own.put("/api/kit/things/mounts/sledge", json={"thing": sledge}), 201)
    steady, shaken = (plan(camera_move={"mount": mount}) for mount in ("tripod", "sledge"))
    assert shaken["given_up_stops"] > steady["given_up_stops"]
    ordinary = next(item["thing"] for item in kit["chemistries"] if item["thing"]["id"] == "ordinary")
    frost = {"air_c": -12, "take": {"length_s": 5400}, "camera_move": {"mount": "tripod"}}
    before = plan(**frost)
    ok(
        own.patch(
            "/api/kit/things/chemistries/ordinary",
            json={
                "revision": latest(own, "/api/kit/things/chemistries/ordinary"),
                "thing": {"left": [[20, 1.0], [0, 0.3], [-20, 0.1]]},
            },
        )
    )
    try:
        assert plan(**frost)["given_up_stops"] > before["given_up_stops"]
    finally:
        ok(
            own.patch(
                "/api/kit/things/chemistries/ordinary",
                json={"revision": latest(own, "/api/kit/things/chemistries/ordinary"), "thing": ordinary},
            )
        )
    assert plan(**frost) == before
    own.delete("/api/kit/things/mounts/sledge")


def test_a_camera_that_was_put_away_keeps_its_plans(own: httpx.Client) -> None:
    ok(own.post("/api/cameras", json={"rough": rough(own, "Gone whelk")}), 201)
    shot = new_shot(own, "gone-whelk")
    assert own.delete("/api/kit/cameras/gone-whelk").status_code == 204
    kept = ok(own.get(f"/api/shots/{shot['id']}"))
    assert kept["plan"] == shot["plan"]
    assert kept["sheet"]["latest"] is None
    assert own.get(f"/api/shots/{shot['id']}/card").status_code == 200, "the card still goes outside"
    ok(own.post("/api/kit/cameras/gone-whelk/back"))
    assert ok(own.get(f"/api/shots/{shot['id']}"))["sheet"]["latest"] == 1
