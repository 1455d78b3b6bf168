"""Practice over the service: sessions, answers that count once, what is remembered and taken along."""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Iterator
from typing import Any
from uuid import uuid4

import httpx
import pytest

from steady_tide.core.practice.schedule import read_memory
from steady_tide.launch.cluster import Cluster
from tests.service import own_database, serving


@pytest.fixture(scope="module")
def api(cluster: Cluster) -> Iterator[httpx.Client]:
    with (
        own_database(cluster, "practice") as database,
        serving(database) as at,
        httpx.Client(base_url=at, timeout=60) as client,
    ):
        yield client


@pytest.fixture(autouse=True)
def anew(api: httpx.Client) -> None:
    assert api.delete("/api/practice").status_code == 204


def session(api: httpx.Client, **asked: Any) -> dict[str, Any]:
    return dict(api.get("/api/practice", params=asked).raise_for_status().json())


def answer(api: httpx.Client, topic: str, said: str, **more: Any) -> httpx.Response:
    body = {"id": str(uuid4()), "topic": topic, "seed": 5, "said": said, "took_s": 6.0, **more}
    return api.post("/api/practice/answers", json=body)


def test_a_session_asks_judges_and_remembers(api: httpx.Client) -> None:
    begun = session(api, seed=3)
    assert begun["standing"]["known"] == begun["standing"]["due"] == 0
    assert len(begun["topics"]) == 40
    assert [kind["id"] for kind in begun["kinds"]] == ["arithmetic", "dials", "wrong", "which", "order", "menu"]
    topic = "arithmetic:half_turn"
    asked = api.get("/api/practice/question", params={"topic": topic, "seed": 5}).json()
    rate = int(asked["says"].removesuffix(" fps?").split()[-1])
    judged = answer(api, topic, f"1/{2 * rate}").json()
    assert judged["right"]
    assert judged["again"].startswith("asked again")
    after = session(api, kind="arithmetic")
    assert after["standing"] == {"known": 1, "due": 0, "new": 5}
    assert topic not in after["topics"]


def test_setting_dials_is_scored_by_the_planner_and_can_be_opened(api: httpx.Client) -> None:
    topic, camera = "dials:night_street", "limpet-7"
    asked = api.get("/api/practice/question", params={"topic": topic, "seed": 5, "camera": camera}).json()
    typed = " ".join("1" for _ in asked["rows"])
    first = answer(api, topic, typed, camera=camera, counts=False).json()
    best = answer(api, topic, " ".join(map(str, first["best"])), camera=camera).json()
    assert best["right"]
    assert best["price_stops"] == pytest.approx(0.0)
    plan = api.post("/api/bench", json=best["brief"]).json()["plan"]
    assert plan["camera"]["id"] == camera
    for row, place in zip(asked["rows"], best["best"], strict=True):
        assert row["values"][place - 1] in {plan["values"][dial] for dial in plan["values"]}
    assert best["brief"]["title"] == "street at night"
    assert len(best["lines"]) == 1 + len(asked["rows"])


def test_an_answer_that_is_sent_twice_counts_once(api: httpx.Client) -> None:
    said = {"id": str(uuid4())}
    once = answer(api, "arithmetic:slow", "1000", **said).json()
    kept = api.get("/api/practice/practice.json").json()
    twice = answer(api, "arithmetic:slow", "1000", **said).json()
    assert once == twice
    assert api.get("/api/practice/practice.json").json() == kept
    assert kept["arithmetic:slow"]["went"] == "missed"
    answer(api, "arithmetic:lamp", "3", counts=False)
    assert "arithmetic:lamp" not in api.get("/api/practice/practice.json").json()


def test_what_is_remembered_is_taken_along(api: httpx.Client) -> None:
    answer(api, "arithmetic:lamp", "3")
    kept = api.get("/api/practice/practice.json").json()
    assert read_memory(kept) == kept
    with zipfile.ZipFile(io.BytesIO(api.get("/api/everything.zip").content)) as packed:
        assert json.loads(packed.read("practice.json")) == kept


@pytest.mark.parametrize(
    ("topic", "said", "more", "status"),
    [
        ("arithmetic:half_turn", "soon", {}, 422),
        ("arithmetic:half_turn", "-1", {}, 422),
        ("arithmetic:half_turn", "nan", {}, 422),
        ("arithmetic:juggling", "1", {}, 404),
        ("menu:limpet-7/shutter_s", "99", {}, 422),
        ("dials:over_land", "1 1 1", {"camera": "limpet-7"}, 409),
        ("arithmetic:slow", "2", {"camera": "nobody"}, 404),
    ],
)
def test_what_is_no_answer_is_refused_and_nothing_is_remembered(
    api: httpx.Client, topic: str, said: str, more: dict[str, Any], status: int
) -> None:
    refused = answer(api, topic, said, **more)
    assert refused.status_code == status, refused.text
    assert api.get("/api/practice/practice.json").json() == {}
    assert api.get("/api/practice", params={"kind": "juggling"}).status_code == 422


def test_a_question_shows_frames_that_look_draws_and_a_deck_keeps_to_its_shots(api: httpx.Client) -> None:
    deck = "scenario:underwater"
    begun = session(api, deck=deck, kind=["wrong", "dials"])
    assert {"id": deck, "name": "shots under water"} in begun["decks"]
    assert all(one["id"] != "log" for one in begun["decks"]), "nothing is logged here"
    assert begun["past"] == "nothing went wrong in your takes"
    asked = api.get("/api/practice/question", params={"topic": "wrong:blown", "seed": 5, "deck": deck}).json()
    assert "what is wrong with this frame" in asked["says"]
    (frame,) = asked["frames"]
    assert frame["brief"]["scenario"] == "underwater"
    assert "brighter than metered" in frame["says"]
    drawn = api.post("/api/look/frame", json={"brief": frame["brief"], "settings": frame["settings"], "size": 320})
    assert drawn.status_code == 200, drawn.text
    numbers = json.loads(drawn.headers["look-numbers"])
    assert numbers["over_stops"] > 0.7
    judged = answer(api, "wrong:blown", "1", deck=deck).json()
    assert judged["right"]
    assert judged["brief"]["pins"]["camera"]
    assert "stops more are given up" in judged["lines"][1]
    assert api.get("/api/practice", params={"deck": "scenario:juggling"}).status_code == 422
    # What none of a camera's shots shows is refused once, and then not offered.
    where = {"camera": "sandpiper-2", "kind": "wrong"}
    before = session(api, **where)["topics"]
    gone = [
        topic for topic in before
        if api.get("/api/practice/question", params={"topic": topic, "seed": 1, "camera": "sandpiper-2"}).status_code != 200
    ]  # fmt: skip
    assert gone
    assert session(api, **where)["topics"] == [topic for topic in before if topic not in gone]
