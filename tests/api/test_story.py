"""Films over the service: framings are shots, a change in either is a change in both, nothing with takes on it is lost; and the edit."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import uuid4

import httpx
import opentimelineio as otio
import pypdf
import pytest

from steady_tide.demo.film import film_data, load_film
from steady_tide.launch.cluster import Cluster
from tests.service import own_database, serving

BEATS = [{"id": "a", "title": "Arrive", "subjects": ["Wren"]}, {"id": "b", "title": "Rest"}]


@pytest.fixture(scope="module")
def film_at(cluster: Cluster) -> Iterator[str]:
    """Address of a service with the demo's film."""
    with own_database(cluster, "story") as database:
        assert load_film(database)
        assert not load_film(database), "it is not loaded again"
        with serving(database) as at:
            yield at


@pytest.fixture
def api(film_at: str) -> Iterator[httpx.Client]:
    with httpx.Client(base_url=film_at, timeout=60) as client:
        yield client


def story(api: httpx.Client, shoot: str) -> dict[str, Any]:
    answer = api.get(f"/api/shoots/{shoot}/story")
    assert answer.status_code == 200, answer.text
    return dict(answer.json())


def mill(api: httpx.Client) -> str:
    return next(
        one["id"] for one in api.get("/api/shoots").json()["items"] if one["title"] == film_data()["shoot"]["title"]
    )


@pytest.fixture
def shoot(api: httpx.Client) -> str:
    fields = {"title": "A day", "day": "2026-10-18", "zone": "Europe/London", "latitude": 52.06, "longitude": 1.31}
    return str(api.post("/api/shoots", json=fields).json()["id"])


def film_of(api: httpx.Client, shoot: str, **fields: Any) -> dict[str, Any]:
    answer = api.post(f"/api/shoots/{shoot}/films", json={"title": "Film", "music_bpm": 96, "beats": BEATS, **fields})
    assert answer.status_code == 201, answer.text
    return dict(answer.json())


def add(api: httpx.Client, film: str, beat: str = "a", most: int = 3) -> list[str]:
    proposed = api.get(f"/api/films/{film}/beats/{beat}/proposals").json()["items"][:most]
    answer = api.post(f"/api/films/{film}/framings", json={"items": proposed})
    assert answer.status_code == 201, answer.text
    return list(answer.json()["items"])


def brief_of(api: httpx.Client, shot: str) -> dict[str, Any]:
    return dict(api.get(f"/api/shots/{shot}").json()["brief"])


def log_take(api: httpx.Client, shot: str, rating: str | None = "keep") -> str:
    take = str(uuid4())
    at = datetime(2026, 10, 18, 12, tzinfo=UTC).isoformat()
    answer = api.put(
        f"/api/log/takes/{take}", json={"shot_id": shot, "said": {"at": at, "rating": rating, "seconds": 14.0}}
    )
    assert answer.status_code < 300, answer.text
    return take


def test_the_demos_film_is_half_filmed_and_says_what_is_missing(api: httpx.Client) -> None:
    (out,) = story(api, mill(api))["items"]
    told = out["film"]["told"]
    filmed = [entry for entry in film_data()["framings"] if "keep" in entry.get("takes", ())]
    assert told["filmed"] == len(filmed)
    assert told["cuts"] == len(film_data()["framings"])
    assert told["strip"]["units"] == 16
    missing = {one["facts"]["key"] for one in told["missing"] if one["code"] == "unfilmed"}
    assert len(missing) == len(film_data()["framings"]) - len(filmed)
    shadows = [one for one in told["framings"] if one["sun"] and one["sun"]["shadow"]["from_m"] is not None]
    assert "Cross the sluice: from behind" in {one["title"] for one in shadows}
    assert all(one["sketch"] for one in told["framings"])


def test_framings_are_shots_of_the_day(api: httpx.Client, shoot: str) -> None:
    film = film_of(api, shoot, shapes=["16:9", "9:16"], tries=4)
    made = add(api, film["id"])
    lines = api.get(f"/api/shoots/{shoot}/shots").json()["items"]
    assert {line["id"] for line in lines} == set(made)
    assert all(line["summary"]["camera"] for line in lines), "planned like any other"
    brief = brief_of(api, made[0])
    assert brief["delivery"]["reframe"] == ["9:16"]
    assert brief["take"]["count"] == 4
    assert brief["light"]["kind"] == "sky"
    card = api.get(f"/api/shots/{made[0]}/card").json()
    assert card["story"]["film"] == "Film"
    assert card["story"]["next"]["key"] in made
    assert api.get(f"/api/shoots/{shoot}/budget").status_code == 200


def test_a_change_of_the_film_reaches_its_shots_and_of_the_shot_its_film(api: httpx.Client, shoot: str) -> None:
    film = film_of(api, shoot)
    first, second, *_ = add(api, film["id"])
    shot = api.get(f"/api/shots/{second}").json()
    counted = {"revision": shot["revision"], "change": {"take.count": 9}}
    assert api.patch(f"/api/shots/{second}", json=counted).status_code == 200
    changed = api.patch(f"/api/films/{film['id']}", json={"revision": 0, "change": {"tries": 5, "slow_factor": 2}})
    assert changed.status_code == 200, changed.text
    assert brief_of(api, first)["take"]["count"] == 5
    assert brief_of(api, second)["take"]["count"] == 9, "what was set on the Bench stays"
    assert brief_of(api, second)["delivery"]["slow_factor"] == 2
    now = api.get(f"/api/shots/{first}").json()
    nearer = {"revision": now["revision"], "change": {"subject.distance_m": [3.0, 4.0]}}
    assert api.patch(f"/api/shots/{first}", json=nearer).status_code == 200
    (out,) = story(api, shoot)["items"]
    one = next(one for one in out["film"]["told"]["framings"] if one["key"] == first)
    assert one["distance_m"] == [3.0, 4.0]


def test_a_framings_movement_and_distance_stand_in_its_shot(api: httpx.Client, shoot: str) -> None:
    film = film_of(api, shoot)
    first, *_ = add(api, film["id"])
    answer = api.patch(
        f"/api/shots/{first}/framing",
        json={
            "revision": 0,
            "change": {"movement": {"kind": "push_in", "path_m": 2.5}, "units": 4},
            "brief": {"subject": {"distance_m": [5, 6]}, "camera_move": {"mount": "gimbal"}},
        },
    )
    assert answer.status_code == 200, answer.text
    assert answer.json()["revision"] > 0
    brief = brief_of(api, first)
    assert (brief["subject"]["distance_m"], brief["camera_move"]["mount"]) == ([5, 6], "gimbal")
    assert brief["camera_move"]["travel_m_s"] == 0.5
    assert api.get(f"/api/shots/{first}").json()["plan"] is not None
    met = api.patch(f"/api/shots/{first}/framing", json={"revision": 0, "change": {"units": 2}})
    assert met.status_code == 409, "somebody else changed the same"
    beside = api.patch(f"/api/shots/{first}/framing", json={"revision": 0, "change": {"wears": "red coat"}})
    assert beside.status_code == 200, "what the other did not touch is kept"


def test_a_beat_that_is_left_out_is_struck_while_framings_hang_on_it(api: httpx.Client, shoot: str) -> None:
    film = film_of(api, shoot)
    made = add(api, film["id"])
    log_take(api, made[0])
    out = api.patch(f"/api/films/{film['id']}", json={"revision": 0, "change": {"beats": []}}).json()
    beats = out["film"]["told"]["beats"]
    assert [(beat["beat"]["id"], beat["beat"]["removed"], beat["takes"]) for beat in beats] == [("a", True, 1)], (
        "the empty one is gone"
    )
    assert len(out["film"]["told"]["framings"]) == 3
    back = [{**BEATS[0], "removed": False}]
    out = api.patch(f"/api/films/{film['id']}", json={"revision": out["revision"], "change": {"beats": back}}).json()
    assert out["film"]["told"]["filmed"] == 1


def test_framings_are_laid_in_another_order_and_into_other_beats(api: httpx.Client, shoot: str) -> None:
    film = film_of(api, shoot)
    one, two, three = add(api, film["id"])
    out = api.put(f"/api/films/{film['id']}/places", json={"beats": {"a": [two, one], "b": [three]}}).json()
    assert [cut["key"] for cut in out["film"]["told"]["strip"]["cuts"] if cut["key"]] == [two, one, three]
    assert api.put(f"/api/films/{film['id']}/places", json={"beats": {"c": [one]}}).status_code == 422
    assert api.put(f"/api/films/{film['id']}/places", json={"beats": {"a": [str(uuid4())]}}).status_code == 422


def test_a_shot_of_the_day_comes_into_a_film_and_out_again(api: httpx.Client, shoot: str) -> None:
    film = film_of(api, shoot)
    brief = {"title": "Gulls", "light": {"kind": "place", "place": "full_sun"}}
    shot = api.post(f"/api/shoots/{shoot}/shots", json={"brief": brief}).json()["id"]
    assert [one["id"] for one in story(api, shoot)["others"]] == [shot]
    assert api.put(f"/api/shots/{shot}/framing", json={"film": film["id"], "beat": "a"}).status_code == 200
    assert story(api, shoot)["others"] == []
    assert brief_of(api, shot)["title"] == "Gulls", "its brief stays as it is"
    assert api.delete(f"/api/shots/{shot}/framing").status_code == 204
    assert [one["id"] for one in story(api, shoot)["others"]] == [shot]
    other = film_of(api, api.post("/api/shoots", json={"title": "Elsewhere"}).json()["id"])
    refused = api.put(f"/api/shots/{shot}/framing", json={"film": other["id"], "beat": "a"})
    assert refused.status_code == 422
    assert "another shoot" in refused.text


def test_a_film_is_removed_and_brought_back_with_its_framings(api: httpx.Client, shoot: str) -> None:
    film = film_of(api, shoot)
    made = add(api, film["id"])
    assert api.delete(f"/api/films/{film['id']}").status_code == 204
    assert story(api, shoot)["items"] == []
    assert len(story(api, shoot)["others"]) == 3, "its shots stay in the day"
    assert api.get(f"/api/shots/{made[0]}/card").json()["story"] is None
    out = api.post(f"/api/films/{film['id']}/restore").json()
    assert len(out["film"]["told"]["framings"]) == 3


def test_the_sun_is_followed_through_the_day_of_a_framing(api: httpx.Client) -> None:
    (out,) = story(api, mill(api))["items"]
    one = next(one for one in out["film"]["told"]["framings"] if one["title"].endswith("from behind"))
    sun = api.get(f"/api/shots/{one['key']}/sun").json()
    assert sun["wish"].startswith("Side light, as wished,")
    assert "Your own shadow is in the frame" in sun["shadow"]
    begin = datetime.fromisoformat(one["starts_at"])
    assert any(
        datetime.fromisoformat(span["start"]) <= begin < datetime.fromisoformat(span["end"])
        for span in sun["sun"]["shadow"]
    )
    assert sun["sun"]["now"]["shadow"]["length_m"] == pytest.approx(one["sun"]["shadow"]["length_m"])


def test_without_a_heading_or_a_place_the_sun_is_asked_for_plainly(api: httpx.Client) -> None:
    bare = api.post("/api/shoots", json={"title": "Nowhere"}).json()["id"]
    film = film_of(api, bare)
    first, *_ = add(api, film["id"])
    refused = api.get(f"/api/shots/{first}/sun")
    assert refused.status_code == 422
    assert "Give the heading" in refused.text
    assert story(api, bare)["where_known"] is False
    assert brief_of(api, first)["light"] == {"kind": "place", "place": "full_sun"}


@pytest.mark.parametrize(
    ("change", "where"),
    [
        ({"length_s": -4}, "length_s"),
        ({"music_bpm": 0}, "music_bpm"),
        ({"shapes": ["sixteen by nine"]}, "shapes"),
        ({"beats": [{"id": "a", "title": "A"}, {"id": "a", "title": "B"}]}, "beats"),
        ({"nonsense": 1}, "nonsense"),
    ],
)
def test_films_that_cannot_be_are_refused_with_the_place_of_the_fault(
    api: httpx.Client, shoot: str, change: dict[str, Any], where: str
) -> None:
    film = film_of(api, shoot)
    refused = api.patch(f"/api/films/{film['id']}", json={"revision": 0, "change": change})
    assert refused.status_code == 422
    assert where in refused.json()["faults"][0]["where"]
    assert api.patch(f"/api/films/{uuid4()}", json={"revision": 0, "change": {}}).status_code == 404


@pytest.mark.parametrize(
    "said",
    [
        {"change": {"heading_deg": 400}},
        {"change": {"beat": "nowhere"}},
        {"change": {"movement": {"kind": "push_in", "path_m": -1}}},
        {"change": {}, "brief": {"subject": {"distance_m": [5, 2]}}},
        {"change": {}, "brief": {"title": {"x": 1}}},
        {"change": {}, "brief": {"camera_move": {"mount": "a cloud"}}},
    ],
)
def test_framings_that_cannot_be_are_refused(api: httpx.Client, shoot: str, said: dict[str, Any]) -> None:
    film = film_of(api, shoot)
    first, *_ = add(api, film["id"], most=1)
    before = brief_of(api, first)
    refused = api.patch(f"/api/shots/{first}/framing", json={"revision": 0, **said})
    assert refused.status_code == 422, refused.text
    assert brief_of(api, first) == before, "nothing half-written"


def test_a_framing_that_nobodys_lens_films_stays_and_says_so(api: httpx.Client, shoot: str) -> None:
    film = film_of(api, shoot)
    first, *_ = add(api, film["id"], most=1)
    api.patch(
        f"/api/shots/{first}/framing",
        json={"revision": 0, "change": {}, "brief": {"subject": {"distance_m": [0.001, 0.002]}}},
    )
    (out,) = story(api, shoot)["items"]
    assert (
        "no camera here can film it" in out["film"]["framings"][0]["minds"]
        or out["film"]["told"]["framings"][0]["sketch"]
    )
    assert api.get(f"/api/shoots/{shoot}/edit").status_code == 200


def test_a_shoot_with_its_film_goes_out_and_comes_in_again(api: httpx.Client) -> None:
    shoot = mill(api)
    text = api.get(f"/api/shoots/{shoot}/shoot.json").content
    read = api.post("/api/shoots/import", content=text, headers={"Content-Type": "application/octet-stream"})
    assert read.status_code == 201, read.text
    (before,), (after,) = story(api, shoot)["items"], story(api, read.json()["id"])["items"]
    assert after["id"] != before["id"]

    def same(out: dict[str, Any]) -> list[tuple[Any, ...]]:
        framings = out["film"]["told"]["framings"]
        return [(one["title"], one["framing"]["kind"], one["framing"]["heading_deg"]) for one in framings]

    assert same(after) == same(before)
    assert after["film"]["told"]["filmed"] == 0, "takes stay in the log"
    api.delete(f"/api/shoots/{read.json()['id']}")


def test_a_file_whose_framing_names_no_film_is_refused_whole(api: httpx.Client) -> None:
    said = api.get(f"/api/shoots/{mill(api)}/shoot.json").json()
    said["films"] = []
    refused = api.post("/api/shoots/import", json=said, headers={"Content-Type": "application/octet-stream"})
    assert refused.status_code == 422
    assert "names the film" in refused.text


# The edit


def test_the_edit_has_notes_by_group_and_counts_takes_and_measures(api: httpx.Client) -> None:
    out = api.get(f"/api/shoots/{mill(api)}/edit").json()
    kept = sum(entry.get("takes", []).count("keep") for entry in film_data()["framings"])
    maybe = sum(
        "keep" not in entry.get("takes", ()) and "maybe" in entry.get("takes", ()) for entry in film_data()["framings"]
    )
    assert sum(clip["take"] is not None for clip in out["edit"]["clips"]) == kept + maybe
    assert out["measured"] == kept + maybe
    assert out["films"][0]["filmed"] == sum("keep" in entry.get("takes", ()) for entry in film_data()["framings"])
    assert sorted(number for group in out["edit"]["groups"] for number in group["numbers"]) == list(range(1, 14))


def test_everything_is_handed_over_in_files_that_open(api: httpx.Client) -> None:
    base = f"/api/shoots/{mill(api)}/edit"
    film = api.get(base).json()["films"][0]["id"]
    timeline = otio.adapters.read_from_string(
        api.get(f"{base}/assembly.otio", params={"film": film, "folder": "rushes"}).text, "otio_json"
    )
    assert timeline.duration().value == 500
    back = otio.adapters.read_from_string(
        api.get(f"{base}/assembly.edl", params={"film": film}).text, "cmx_3600", rate=25
    )
    assert back.duration().value == 500
    tables = zipfile.ZipFile(io.BytesIO(api.get(f"{base}/luts.zip", params={"look": "paper"}).content))
    assert {"display-log.cube", "display-log-shaped.cube", "shot-1.cube", "shot-13.cube"} <= set(tables.namelist())
    notes = api.get(f"{base}/notes.md").text
    assert notes.startswith("# Edit notes: The mill in twenty seconds")
    assert "Group A" in notes
    rows = api.get(f"{base}/notes.csv").text.splitlines()
    assert rows[0].startswith("number,title,take")
    assert len(rows) == 1 + len(api.get(base).json()["edit"]["clips"])
    paper = pypdf.PdfReader(io.BytesIO(api.get(f"{base}/notes.pdf").content))
    assert "Group A" in paper.pages[0].extract_text()
    assert api.get(f"{base}/assembly.otio").status_code == 200


def test_what_cannot_be_handed_over_is_said(api: httpx.Client, shoot: str) -> None:
    base = f"/api/shoots/{shoot}/edit"
    assert api.get(base).json()["noted"] == 0
    for path, params in (
        ("assembly.otio", {}), ("luts.zip", {}), ("", {"look": "tartan"}), ("assembly.edl", {"film": str(uuid4())}),
    ):  # fmt: skip
        refused = api.get(f"{base}/{path}".rstrip("/"), params=params)
        assert refused.status_code == 422, path
        assert refused.json()["faults"][0]["mend"]
    assert api.get(f"/api/shoots/{uuid4()}/edit").status_code == 404


def test_the_film_is_a_list_on_paper_and_stands_in_the_phones_file(api: httpx.Client) -> None:
    shoot = mill(api)
    paper = pypdf.PdfReader(io.BytesIO(api.get(f"/api/shoots/{shoot}/cards.pdf", params={"paper": "a5"}).content))
    text = "\n".join(page.extract_text() for page in paper.pages)
    assert "The mill wakes" in text
    assert "7 over the shoulder" in text
    (out,) = story(api, shoot)["items"]
    key = out["film"]["told"]["framings"][6]["key"]
    page = api.get(f"/api/shots/{key}/card.html").text
    assert "Framing 7, over the shoulder" in page
    assert "data:image/svg+xml;base64," in page


def test_takes_are_counted_for_the_film_as_they_are_rated(api: httpx.Client, shoot: str) -> None:
    film = film_of(api, shoot)
    first, *_ = add(api, film["id"])
    take = log_take(api, first, "maybe")
    state = lambda: story(api, shoot)["items"][0]["film"]["told"]["framings"][0]["state"]  # noqa: E731
    assert state() == "taken"
    api.patch(f"/api/log/takes/{take}", json={"revision": 0, "change": {"rating": "keep"}})
    assert state() == "kept"
    api.delete(f"/api/log/takes/{take}")
    assert state() == "planned"


def test_a_take_says_which_shot_it_is_of_and_the_film_follows(api: httpx.Client, shoot: str) -> None:
    film = film_of(api, shoot)
    first, second, *_ = add(api, film["id"])
    take = log_take(api, first)
    moved = api.patch(f"/api/log/takes/{take}", json={"revision": 0, "change": {}, "shot_id": second})
    assert moved.status_code == 200, moved.text
    states = {one["key"]: one["state"] for one in story(api, shoot)["items"][0]["film"]["told"]["framings"]}
    assert (states[first], states[second]) == ("planned", "kept")


def test_films_of_two_at_once_are_both_kept(api: httpx.Client, shoot: str) -> None:
    film = film_of(api, shoot)
    one = api.patch(f"/api/films/{film['id']}", json={"revision": 0, "change": {"tries": 7}})
    other = api.patch(f"/api/films/{film['id']}", json={"revision": 0, "change": {"hold_s": 3}})
    assert (one.status_code, other.status_code) == (200, 200)
    told = other.json()["film"]["told"]["film"]
    assert (told["tries"], told["hold_s"]) == (7, 3)
    assert api.patch(f"/api/films/{film['id']}", json={"revision": 0, "change": {"tries": 2}}).status_code == 409


def test_too_many_films_are_refused(api: httpx.Client, shoot: str) -> None:
    for _ in range(20):
        film_of(api, shoot)
    refused = api.post(f"/api/shoots/{shoot}/films", json={"title": "One more"})
    assert refused.status_code == 422
    assert "20 at most" in refused.text


def test_the_day_of_a_framing_moves_with_its_sky(api: httpx.Client, shoot: str) -> None:
    film = film_of(api, shoot)
    first, *_ = add(api, film["id"])
    at = datetime(2026, 10, 18, 15, 30, tzinfo=UTC)
    api.put(f"/api/shoots/{shoot}/order", json={"starts": {first: at.isoformat()}})
    light = brief_of(api, first)["light"]
    assert datetime.fromisoformat(light["start"]) == at
    assert datetime.fromisoformat(light["end"]) > at + timedelta(minutes=9)
