"""Going outside over HTTP, on a real PostgreSQL: budgets, order, cards, files, and words from outside."""

from __future__ import annotations

import io
import json
import zipfile
from typing import Any

import httpx
import pytest
from pypdf import PdfReader

from steady_tide.core.quantities import sizes
from tests.briefs import SUN
from tests.changing import changed
from tests.waiting import until

SHOOT = {
    "title": "Spring low",
    "place": "the bar",
    "day": "2026-10-11",
    "zone": "Europe/London",
    "latitude": 52.06,
    "longitude": 1.31,
}
BRIEF = {"light": SUN, "camera_move": {"mount": "two_hands"}, "take": {"length_s": 60, "count": 2, "standby_min": 5}}


@pytest.fixture
def shoot(http: httpx.Client) -> str:
    return str(http.post("/api/shoots", json=SHOOT).json()["id"])


def add(http: httpx.Client, shoot: str, title: str, starts_at: str | None = None, **brief: Any) -> str:
    body = {"brief": {**BRIEF, "title": title, **brief}, "starts_at": starts_at}
    answer = http.post(f"/api/shoots/{shoot}/shots", json=body)
    assert answer.status_code == 201, answer.text
    return str(answer.json()["id"])


def ordered(http: httpx.Client, shoot: str, seconds: float = 5) -> list[dict[str, Any]]:
    with http.stream("POST", f"/api/shoots/{shoot}/order", params={"seconds": seconds}, timeout=60) as answer:
        assert answer.status_code == 200
        return [json.loads(line) for line in answer.iter_lines() if line]


def test_a_budget_follows_the_shots_and_a_failure_is_mended_for_real(http: httpx.Client, shoot: str) -> None:
    add(http, shoot, "first", "2026-10-11T08:00:00Z")
    take = {"length_s": 20000, "count": 1}
    long = add(
        http,
        shoot,
        "long",
        "2026-10-11T09:00:00Z",
        take=take,
        camera_move={"mount": "tripod"},
        pins={"camera": "limpet-7"},
    )
    budget = http.get(f"/api/shoots/{shoot}/budget").json()
    (camera,) = [camera for camera in budget["cameras"] if camera["id"] == "limpet-7"]
    assert camera["first_fail"] == long
    (fail,) = [fail for fail in camera["shots"][-1]["fails"] if fail["kind"] == "battery"]
    assert "missing" in fail["text"]
    mends = http.get(f"/api/shoots/{shoot}/mends", params={"shot": long, "kind": "battery"}, timeout=60).json()
    assert mends["total"] == len(mends["items"])
    assert any(mend["id"] == "bank" and mend["works"] for mend in mends["items"])
    refused = http.get(f"/api/shoots/{shoot}/mends", params={"shot": long, "kind": "flight"})
    assert refused.status_code == 404
    assert "does not fail" in refused.json()["detail"]


def test_wishes_and_rules_are_kept_and_checked(http: httpx.Client, shoot: str) -> None:
    shot = add(http, shoot, "a", "2026-10-11T11:00:00Z")
    window = {"name": "slack", "start": "2026-10-11T11:00:00Z", "end": "2026-10-11T12:00:00Z"}
    assert changed(http, f"/api/shoots/{shoot}/rules", windows=[window]).status_code == 200
    assert changed(http, f"/api/shots/{shot}/wishes", within=["slack"], spot="bar").status_code == 200
    asked = http.get(f"/api/shoots/{shoot}/rules").json()
    assert asked["rules"]["windows"][0]["name"] == "slack"
    assert asked["wishes"][shot]["spot"] == "bar"
    assert "low_sun" in asked["light_windows"]
    for name in ("slack", "low_sun"):
        twice = changed(http, f"/api/shoots/{shoot}/rules", windows=[window, {**window, "name": name}])
        assert twice.status_code == 422
        assert "already" in twice.json()["faults"][0]["what"]
    backwards = {**window, "end": "2026-10-11T10:00:00Z"}
    assert changed(http, f"/api/shoots/{shoot}/rules", windows=[backwards]).status_code == 422
    assert changed(http, f"/api/shots/{shot}/wishes", setup_min=-1).status_code == 422


def test_an_order_is_found_taken_and_taken_back(http: httpx.Client, shoot: str) -> None:
    one = add(http, shoot, "one", "2026-10-11T11:00:00Z")
    two = add(http, shoot, "two", "2026-10-11T11:01:00Z")
    three = add(http, shoot, "three")
    lines = ordered(http, shoot)
    assert {line["kind"] for line in lines} <= {"pricing", "better", "order"}
    found = lines[-1]["order"]
    assert found["feasible"]
    assert found["proven"]
    starts = {place["key"]: place["starts_at"] for place in found["shots"]}
    assert set(starts) == {one, two, three}
    taken = http.put(f"/api/shoots/{shoot}/order", json={"starts": starts})
    assert taken.status_code == 200
    before = taken.json()["before"]
    assert before[three] is None
    kept = {line["id"]: line["starts_at"] for line in http.get(f"/api/shoots/{shoot}/shots").json()["items"]}
    assert kept == starts
    assert http.put(f"/api/shoots/{shoot}/order", json={"starts": before}).status_code == 200
    again = {line["id"]: line["starts_at"] for line in http.get(f"/api/shoots/{shoot}/shots").json()["items"]}
    assert again == {one: "2026-10-11T11:00:00Z", two: "2026-10-11T11:01:00Z", three: None}


def test_a_moved_sky_is_planned_again_for_its_new_hour(http: httpx.Client, shoot: str) -> None:
    sky = {
        "kind": "sky",
        "latitude": 52.06,
        "longitude": 1.31,
        "start": "2026-10-11T12:00:00Z",
        "end": "2026-10-11T12:10:00Z",
    }
    shot = add(http, shoot, "sky", "2026-10-11T12:00:00Z", light=sky)
    noon = http.get(f"/api/shots/{shot}").json()
    http.put(f"/api/shoots/{shoot}/order", json={"starts": {shot: "2026-10-11T17:30:00Z"}})
    dusk = http.get(f"/api/shots/{shot}").json()
    assert dusk["brief"]["light"]["start"] == "2026-10-11T17:30:00Z"
    assert dusk["plan"]["exposure"]["ev100"][1] < noon["plan"]["exposure"]["ev100"][1] - 3
    assert dusk["revision"] > noon["revision"], "an open Bench is told that its shot has changed"


def test_the_order_keeps_each_brief_in_its_light_without_any_wish(http: httpx.Client, shoot: str) -> None:
    snorkel = {
        "kind": "water",
        "surface": {"kind": "place", "place": "full_sun"},
        "depth_m": [1, 3],
        "water_type": "1C",
    }
    titles = {
        "snorkel": add(http, shoot, "snorkel", light=snorkel),
        "walk": add(http, shoot, "walk", light={"kind": "place", "place": "lamp_lit_road"}),
        "stars": add(http, shoot, "stars", light={"kind": "place", "place": "starlight"}, take={"length_s": 7200}),
        "moon": add(http, shoot, "moon", light={"kind": "place", "place": "full_moon"}),
    }
    found = ordered(http, shoot)[-1]["order"]
    assert found["feasible"]
    at = {place["key"]: place["starts_at"][11:16] for place in found["shots"]}
    assert "07:10" <= at[titles["snorkel"]] < "16:15", "UTC; by day only"
    for night in ("walk", "stars"):
        assert not "05:50" <= at[titles[night]] <= "17:00", night
    assert titles["moon"] not in at
    assert found["left_out_says"] == [
        "\u201cmoon\u201d is filmed under a full moon on open ground, and this day has no such light"
    ]


def test_a_shot_has_one_time_whichever_way_it_is_said(http: httpx.Client, shoot: str) -> None:
    sky = {
        "kind": "sky",
        "latitude": 52.06,
        "longitude": 1.31,
        "start": "2026-10-11T11:00:00Z",
        "end": "2026-10-11T12:00:00Z",
    }
    placed = http.get(f"/api/shots/{add(http, shoot, 'placed', '2026-10-11T09:53:00Z', light=sky)}").json()
    assert placed["brief"]["light"]["start"] == "2026-10-11T09:53:00Z"
    assert placed["brief"]["light"]["end"] == "2026-10-11T10:53:00Z"
    mine = add(http, shoot, "by its light", light=sky)
    kept = http.get(f"/api/shots/{mine}").json()
    assert kept["starts_at"] == "2026-10-11T11:00:00Z"

    def put(**fields: Any) -> dict[str, Any]:
        now = http.get(f"/api/shots/{mine}").json()
        answer = http.patch(f"/api/shots/{mine}", json={"revision": now["revision"], "change": fields})
        assert answer.status_code == 200, answer.text
        return dict(answer.json())

    moved = put(starts_at="2026-10-11T10:00:00Z")
    assert moved["brief"]["light"]["start"] == moved["starts_at"] == "2026-10-11T10:00:00Z"
    later = {**sky, "start": "2026-10-11T15:00:00Z", "end": "2026-10-11T15:30:00Z"}
    assert put(light=later)["starts_at"] == "2026-10-11T15:00:00Z"
    # What the sky lights cannot lose its time.
    http.put(f"/api/shoots/{shoot}/order", json={"starts": {mine: None}})
    assert http.get(f"/api/shots/{mine}").json()["starts_at"] == "2026-10-11T15:00:00Z"
    # The call sheet tells the same time.
    until(lambda: "20261011T150000Z" in http.get(f"/api/shoots/{shoot}/call-sheet.ics").text)


def test_a_saved_card_keeps_what_was_noted(http: httpx.Client, shoot: str) -> None:
    mine = add(http, shoot, "noted", "2026-10-11T12:00:00Z")
    http.post(f"/api/shots/{mine}/outside", json={"really_set": {"shutter_s": "1/60 <b>"}})
    for at in (f"/api/shots/{mine}/card.html", f"/api/shoots/{shoot}/cards.html"):
        assert "set: 1/60 &lt;b&gt;" in http.get(at).text


def test_an_order_for_a_foreign_shot_changes_nothing(http: httpx.Client, shoot: str) -> None:
    mine = add(http, shoot, "mine", "2026-10-11T12:00:00Z")
    other = str(http.post("/api/shoots", json={**SHOOT, "title": "other"}).json()["id"])
    foreign = add(http, other, "foreign")
    starts = {mine: "2026-10-11T13:00:00Z", foreign: "2026-10-11T14:00:00Z"}
    refused = http.put(f"/api/shoots/{shoot}/order", json={"starts": starts})
    assert refused.status_code == 422
    assert http.get(f"/api/shots/{mine}").json()["starts_at"] == "2026-10-11T12:00:00Z", "all or none"


def test_an_impossible_day_names_its_clash(http: httpx.Client, shoot: str) -> None:
    window = {"name": "slack", "start": "2026-10-11T11:00:00Z", "end": "2026-10-11T11:12:00Z"}
    changed(http, f"/api/shoots/{shoot}/rules", windows=[window])
    for title in ("one", "two"):
        shot = add(http, shoot, title)
        changed(http, f"/api/shots/{shot}/wishes", within=["slack"])
    found = ordered(http, shoot)[-1]["order"]
    assert not found["feasible"]
    assert len(found["clash"]) == 2
    changed(http, f"/api/shoots/{shoot}/rules", windows=[])
    (problem,) = [line for line in ordered(http, shoot) if line["kind"] == "problem"]
    assert "no window called 'slack'" in problem["problem"]


def test_a_shoot_without_a_day_is_told_what_is_missing(http: httpx.Client) -> None:
    dayless = str(http.post("/api/shoots", json={"title": "some day"}).json()["id"])
    add(http, dayless, "a")
    refused = http.post(f"/api/shoots/{dayless}/order")
    assert refused.status_code == 422
    assert refused.json()["faults"][0]["where"] == "day"


def test_words_from_outside_add_up_and_may_be_said_twice(http: httpx.Client, shoot: str) -> None:
    shot = add(http, shoot, "a")
    at = f"/api/shots/{shot}/outside"
    assert http.get(at).json() == {"ticks": {}, "really_set": {}}
    said = {"ticks": {"card": True, "lens": True}, "really_set": {"shutter_s": "1/120"}}
    assert http.post(at, json=said).json() == http.post(at, json=said).json() == said
    kept = http.post(
        at, json={"ticks": {"lens": False}, "really_set": {"shutter_s": None, "iso_ceiling": "800"}}
    ).json()
    assert kept == {"ticks": {"card": True}, "really_set": {"iso_ceiling": "800"}}
    assert http.get(f"/api/shots/{shot}").json()["revision"] == 0, "ticks do not disturb an open Bench"
    assert http.post(at, json={"ticks": {"x" * 61: True}}).status_code == 422


def test_cards_on_paper_and_as_files(http: httpx.Client, shoot: str) -> None:
    first = add(http, shoot, "Bar at low water", "2026-10-11T08:00:00Z")
    second = add(http, shoot, "Bar from afar", "2026-10-11T09:00:00Z")
    until(lambda: not http.get(f"/api/shots/{first}/card").json()["counting"])
    card = http.get(f"/api/shots/{first}/card").json()
    marked = [row for page in card["pages"] for row in page["rows"] if row["changed"]]
    assert card["begin"]["changes"] == len(marked)
    after = http.get(f"/api/shots/{second}/card").json()
    assert after["begin"]["changes"] == 0, "it is set as the shot before it"
    assert card["left"]
    for paper in ("a6", "a5", "letter"):
        one = http.get(f"/api/shots/{first}/card.pdf", params={"paper": paper})
        assert one.headers["content-type"] == "application/pdf"
        assert len(PdfReader(io.BytesIO(one.content)).pages) == 1
    assert len(PdfReader(io.BytesIO(http.get(f"/api/shoots/{shoot}/cards.pdf").content)).pages) == 3
    page = http.get(f"/api/shoots/{shoot}/cards.html", params={"download": True, "ground": "red"})
    assert 'filename="spring-low.html"' in page.headers["content-disposition"]
    assert page.text.count("<article ") == 2
    assert http.get(f"/api/shoots/{shoot}/cards.html", params={"camera": "yawl-12x"}).status_code == 404
    assert http.get(f"/api/shots/{first}/card.pdf", params={"paper": "a0"}).status_code == 422
    assert http.get(f"/api/shots/{first}/code.svg").text.startswith("<svg")


def test_a_shoot_goes_out_and_comes_back_exactly(http: httpx.Client, shoot: str) -> None:
    shot = add(http, shoot, "Bar", "2026-10-11T08:00:00Z")
    add(http, shoot, "Afar")
    changed(http, f"/api/shots/{shot}/wishes", **{"fixed": True, "spot": "bar"})
    http.post(f"/api/shots/{shot}/outside", json={"ticks": {"lens": True}, "really_set": {"iso_ceiling": "800"}})
    changed(http, f"/api/shoots/{shoot}/rules", ways=[{"between": ["bar", "quay"], "minutes": 7}])
    out = http.get(f"/api/shoots/{shoot}/shoot.json")
    packed = http.get(f"/api/shoots/{shoot}/shoot.zip", timeout=60)
    names = zipfile.ZipFile(io.BytesIO(packed.content)).namelist()
    assert {"shoot.json", "shots.csv", "calls.ics", "cards.html", "cards.pdf", "light.csv"} <= set(names)
    for content in (out.content, packed.content):
        read = http.post("/api/shoots/import", content=content, headers={"Content-Type": "application/octet-stream"})
        assert read.status_code == 201, read.text
        assert read.json()["shots"] == 2
        assert http.get(f"/api/shoots/{read.json()['id']}/shoot.json").content == out.content


def test_a_broken_shoot_leaves_nothing_behind(http: httpx.Client, shoot: str) -> None:
    add(http, shoot, "Bar")
    out = http.get(f"/api/shoots/{shoot}/shoot.json").json()
    before = http.get("/api/shoots").json()["total"]
    out["shots"].append({"brief": {"title": "lost", "light": {"kind": "place", "place": "no_such_place"}}})
    refused = http.post("/api/shoots/import", content=json.dumps(out).encode())
    assert refused.status_code == 422
    assert "no_such_place" in refused.text
    assert http.post("/api/shoots/import", content=b"PK\x03\x04" + b"x" * 50).status_code == 422
    assert http.post("/api/shoots/import", content=b"x" * (sizes.SHOOT_ZIP + 1)).status_code == 413
    assert http.get("/api/shoots").json()["total"] == before


def test_a_list_comes_in_whole_or_not_at_all(http: httpx.Client, shoot: str) -> None:
    at = f"/api/shoots/{shoot}/shots/import"
    bad = http.post(at, content=b"title,mount,place,start\nA,kite,,10:00\nB,tripod,the_moon,26:00\n").json()
    assert bad["added"] == []
    assert [(fault["row"], fault["column"]) for fault in bad["faults"]] == [(2, "mount"), (3, "start")]
    bad = http.post(at, content=b"title,mount,place\nA,kite,\nB,tripod,the_moon\n").json()
    assert [(fault["row"], fault["column"]) for fault in bad["faults"]] == [(2, "mount"), (3, "place")]
    bad = http.post(at, content=b"title,scenario\nA,motion\nB,vehicle\n").json()
    assert [(fault["row"], fault["column"]) for fault in bad["faults"]] == [(3, "scenario")]
    assert "low_light" in bad["faults"][0]["mend"]
    assert bad["ready"] == 1
    assert http.get(f"/api/shoots/{shoot}/shots").json()["total"] == 0
    some = http.post(f"{at}?leave_out=true", content=b"title,mount\nA,kite\nB,tripod\n").json()
    assert (len(some["added"]), [fault["row"] for fault in some["faults"]]) == (1, [2])
    http.delete(f"/api/shots/{some['added'][0]}")
    none = http.post(f"{at}?leave_out=true", content=b"title,mount\nA,kite\n").json()
    assert (none["added"], none["ready"]) == ([], 0)
    good = http.post(at, content=b"title,start\nA,10:00\nB,11:30\n").json()
    assert len(good["added"]) == 2
    listed = http.get(f"/api/shoots/{shoot}/shots.csv").text
    assert "2026-10-11 10:00,A" in listed
    again = http.post(at, content=listed.encode()).json()
    assert len(again["added"]) == 2, again
    refused = http.post(at, content=b"nothing here\n")
    assert refused.status_code == 422
    assert "no column 'title'" in refused.json()["faults"][0]["what"]


def test_a_calendar_and_a_packing_list(http: httpx.Client, shoot: str) -> None:
    add(http, shoot, "Bar", "2026-10-11T08:00:00Z")
    calendar = http.get(f"/api/shoots/{shoot}/call-sheet.ics")
    assert calendar.headers["content-type"].startswith("text/calendar")
    assert "SUMMARY:Bar" in calendar.text
    packing = http.get(f"/api/shoots/{shoot}/packing").json()
    assert any(line["group"] == "cameras" for line in packing["lines"])


def test_an_empty_shoot_is_no_trouble(http: httpx.Client, shoot: str) -> None:
    assert http.get(f"/api/shoots/{shoot}/budget").json()["cameras"] == []
    assert http.get(f"/api/shoots/{shoot}/presets").json() == {"items": [], "total": 0}
    assert http.get(f"/api/shoots/{shoot}/packing").json()["missing"] == []
    assert http.get(f"/api/shoots/{shoot}/cards").json()["cards"] == []
    assert http.get(f"/api/shoots/{shoot}/cards.pdf").status_code == 404
    assert "shoot.json" in zipfile.ZipFile(io.BytesIO(http.get(f"/api/shoots/{shoot}/shoot.zip").content)).namelist()
    found = ordered(http, shoot)[-1]["order"]
    assert found["feasible"]
    assert found["shots"] == []


def test_a_shot_without_a_plan_is_named_and_the_rest_goes_on(http: httpx.Client, shoot: str) -> None:
    add(http, shoot, "good", "2026-10-11T08:00:00Z")
    stuck = add(http, shoot, "stuck", pins={"camera": "limpet-7", "frame_rate": 400, "stabilisation": "strongest"})
    assert http.get(f"/api/shots/{stuck}").json()["plan"] is None
    budget = http.get(f"/api/shoots/{shoot}/budget").json()
    assert [entry["title"] for entry in budget["without"]] == ["stuck"]
    assert len(http.get(f"/api/shoots/{shoot}/cards").json()["cards"]) == 1
    assert http.get(f"/api/shots/{stuck}/card").status_code == 409
    assert any("stuck" in line for line in http.get(f"/api/shoots/{shoot}/packing").json()["missing"])


def test_the_frame_and_time_of_a_brief(http: httpx.Client) -> None:
    brief = {**BRIEF, "title": "x", "delivery": {"slow_factor": 4}, "subject": {"event_s": 0.5, "distance_m": [2, 5]}}
    ahead = http.post("/api/bench", json=brief, params={"only": "limpet-7", "whole": False}).json()["outlook"]
    assert ahead["lapse"] is None
    by = {rate["capture_fps"]: rate for rate in ahead["slow"]["rates"]}
    assert by[100.0]["event_on_screen_s"] == pytest.approx(2.0)
    assert ahead["framing"]["width_m"][0] < ahead["framing"]["width_m"][1]
    assert http.post("/api/bench", json=brief, params={"only": "none"}).status_code == 404
    film = http.post("/api/interval-film", json={"duration_s": 29340, "interval_s": 30}).json()
    assert film["frames"] == 979
    assert http.post("/api/interval-film", json={"duration_s": 29340}).status_code == 422
