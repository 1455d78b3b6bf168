"""The light over HTTP: a shoot's day and its files, glass times, instruments, meter, tracks and dives."""

from __future__ import annotations

import itertools
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import httpx
import pytest

from steady_tide.standins.sky import SimulatedSky
from steady_tide.store.database import Database
from tests.briefs import EELGRASS, JAR, NOON, QUAY, SUN
from tests.changing import changed
from tests.service import METER_LUX, serving

DEMO = Path(__file__).parents[2] / "steady_tide" / "demo"
PLACE = {"zone": "Europe/London", "day": "2026-10-11", "latitude": 52.06, "longitude": 1.31}


def shoot(http: httpx.Client, **fields: Any) -> str:
    made = http.post("/api/shoots", json={"title": "Light; here", **PLACE, **fields})
    assert made.status_code == 201, made.text
    return str(made.json()["id"])


def test_the_day_of_a_shoot_comes_with_the_sky_it_was_made_from(http: httpx.Client) -> None:
    day = http.get(f"/api/shoots/{shoot(http)}/light").json()
    assert len(day["level_ev100"]) == len(day["kelvin"]) == 289
    assert day["start"] == "2026-10-10T23:00:00Z"
    assert max(day["level_ev100"]) > 10
    assert [window["kind"] for window in day["windows"]].count("low_sun") == 2
    assert day["sky"]["source"] == "simulated forecast"
    assert day["sky"]["problem"] is None
    assert datetime.now(UTC) - datetime.fromisoformat(day["sky"]["made_at"]) < timedelta(hours=7)
    assert len(day["sky"]["hours"]) == 24


def test_ones_own_choice_of_sky_stands_and_is_kept(http: httpx.Client) -> None:
    own = shoot(http, cloud="storm")
    stormy = http.get(f"/api/shoots/{own}/light").json()
    assert stormy["sky"]["chosen"]
    assert stormy["sky"]["source"] == "your own choice"
    assert changed(http, f"/api/shoots/{own}", cloud="clear").json()["cloud"] == "clear"
    clear = http.get(f"/api/shoots/{own}/light").json()
    assert max(clear["level_ev100"]) == pytest.approx(max(stormy["level_ev100"]) + 4, abs=0.011)
    assert changed(http, f"/api/shoots/{own}", cloud="frogs").status_code == 422


def test_a_sky_service_that_is_away_is_told_and_the_day_is_drawn_all_the_same(database: Database) -> None:
    with serving(database, sky=SimulatedSky(away=True)) as at, httpx.Client(base_url=at, timeout=20) as http:
        day = http.get(f"/api/shoots/{shoot(http)}/light").json()
        assert "does not answer" in day["sky"]["problem"]
        assert day["sky"]["source"] == "a clear sky"
        assert max(day["level_ev100"]) > 13
        own = http.get(f"/api/shoots/{shoot(http, cloud='haze')}/light").json()
        assert own["sky"]["problem"] is None


def test_what_a_shoot_does_not_say_is_asked_for(http: httpx.Client) -> None:
    answer = http.get(f"/api/shoots/{shoot(http, latitude=None, day=None)}/light")
    assert answer.status_code == 422
    assert [fault["where"] for fault in answer.json()["faults"]] == ["day", "latitude"]


@pytest.mark.parametrize(
    ("ending", "kind", "begins"),
    [
        ("csv", "text/csv", "time,sun_deg"),
        ("svg", "image/svg+xml", "<svg"),
        ("ics", "text/calendar", "BEGIN:VCALENDAR"),
    ],
)
def test_a_day_as_a_file(http: httpx.Client, ending: str, kind: str, begins: str) -> None:
    answer = http.get(f"/api/shoots/{shoot(http)}/light.{ending}")
    assert answer.headers["content-type"].startswith(kind)
    assert answer.headers["content-disposition"] == f'attachment; filename="light--here-light.{ending}"'
    assert answer.text.startswith(begins)


def test_glass_through_the_day_of_a_shot(http: httpx.Client) -> None:
    # What the shoot's sky is does not count: the shot says its own.
    at = shoot(http, cloud="storm")
    made = http.post(
        f"/api/shoots/{at}/shots",
        json={"brief": {"title": "x", "light": NOON, **QUAY}, "starts_at": "2026-05-12T14:10:00Z"},
    ).json()
    spans = http.get(f"/api/shots/{made['id']}/glass-times").json()["items"]
    assert spans[0]["nd"] is None
    assert all(before["end"] == after["start"] for before, after in itertools.pairwise(spans))
    (own,) = [span for span in spans if span["start"] <= "2026-05-12T14:10:00Z" < span["end"]]
    worn = made["plan"]["settings"]["nd"]
    assert own["nd"] == worn, "strip and sheet tell the same glass"
    assert len({span["name"] for span in spans}) > 3
    # Light that is told by its place or by a meter does not follow the hour.
    other = http.post(f"/api/shoots/{at}/shots", json={"brief": {"title": "x", "light": SUN, **QUAY}}).json()
    assert http.get(f"/api/shots/{other['id']}/glass-times").json() == {"items": [], "total": 0}


def test_instruments_draw_what_the_brief_has(http: httpx.Client) -> None:
    missing: list[float] = []

    def drawn(**brief: Any) -> dict[str, Any]:
        answer = http.post(
            "/api/bench",
            params={"only": "limpet-7", "whole": False},
            json={"title": "x", "light": SUN, **brief},
        )
        assert answer.status_code == 200, answer.text
        missing.append(answer.json()["plan"]["exposure"]["light_missing_stops"])
        return dict(answer.json()["instruments"])

    dry = drawn()
    assert (dry["water"], dry["lamps"], dry["flicker"]) == (None, None, None)
    wet = drawn(**EELGRASS)["water"]
    assert wet["shot_m"] == [3, 7]
    assert [entry["id"] for entry in wet["filters"]] == ["none", "light_red", "red", "magenta"]
    assert wet["red"][-1] < wet["red"][0] <= 0
    jar = drawn(**JAR)
    # A lamp alone that lacks some stops has to come nearer by half of them, as the square of its distance.
    nearer = 2 ** (-missing[-1] / 2)
    assert jar["lamps"]["lamps"][0]["distance_wanted_m"] == pytest.approx(
        JAR["light"]["lamps"][0]["distance_m"] * nearer
    )
    assert jar["lamps_say"][0].startswith("key lamp: ")
    low, high = jar["meter"]["lux"]
    assert (low, high) == tuple(pytest.approx(2.5 * 2**ev, abs=0.01) for ev in jar["meter"]["ev100"])
    office = drawn(light={"kind": "place", "place": "office"}, mains_hz=60)["flicker"]
    assert {round(1 / e["shutter_s"]) for e in office["exposures"] if e["clean"]} == {30, 60, 120}
    assert http.post("/api/bench", params={"only": "my-own"}, json={"light": SUN}).status_code == 404


def test_a_reading_is_taken(http: httpx.Client) -> None:
    answer = http.post("/api/meter/readings")
    assert answer.status_code == 201
    assert answer.json()["lux"] == pytest.approx(METER_LUX, rel=0.3)
    assert answer.json()["simulated"]


def test_tracks_and_dives_are_read_and_refused(http: httpx.Client) -> None:
    xml = {"Content-Type": "application/xml"}
    walk = http.post("/api/tracks", content=(DEMO / "quay_walk.gpx").read_bytes(), headers=xml).json()
    assert walk["track"]["speed_m_s"] == pytest.approx(1.3, abs=0.4)
    assert len(walk["light"]) == len(walk["track"]["points"])
    assert 10 < walk["light"][0]["level_ev100"] < 14
    dive = http.post(
        "/api/dives",
        params={"water_type": "3C"},
        content=(DEMO / "eelgrass_dive.uddf").read_bytes(),
        headers=xml,
    ).json()
    deepest = max(dive["light"], key=lambda sample: sample["depth_m"])
    assert deepest["red_stops"] < -0.8
    assert deepest["ev100"] < dive["light"][0]["ev100"] - 2
    for path in ("/api/tracks", "/api/dives"):
        answer = http.post(path, content=b'<!DOCTYPE x [<!ENTITY a "b">]><x>&a;</x>', headers=xml)
        assert answer.status_code == 422
        assert "document type" in answer.json()["faults"][0]["what"]
    wrong = http.post("/api/dives", params={"water_type": "tea"}, content=b"<uddf/>", headers=xml)
    assert wrong.status_code == 422
