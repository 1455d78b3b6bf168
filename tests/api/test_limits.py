"""What can be made can be sent out and read again: tried at each limit of the one table."""

from __future__ import annotations

import json
import time
import zipfile
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta
from io import BytesIO
from typing import Any
from uuid import uuid4

import httpx
import pytest
from sqlalchemy import text

from steady_tide import library
from steady_tide.core.gear.kit_file import KitFile
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadFile
from steady_tide.formats.decoded import decoded
from steady_tide.formats.kit_file import read_kit_file, write_kit_file
from steady_tide.launch.cluster import Cluster
from steady_tide.store.database import Database
from tests.briefs import SUN
from tests.growing import least_seconds
from tests.service import own_database, serving

SHOOT = {"title": "The longest day", "day": "2026-10-11", "zone": "Europe/London", "latitude": 52, "longitude": 1.3}


@pytest.fixture
def shoot(http: httpx.Client) -> str:
    return str(http.post("/api/shoots", json=SHOOT).json()["id"])


def add(http: httpx.Client, shoot: str, **fields: Any) -> httpx.Response:
    return http.post(f"/api/shoots/{shoot}/shots", json={"brief": {"light": SUN, **fields}})


def filled(http: httpx.Client, database: Database, shoot: str, count: int, **brief: Any) -> str:
    """Fill a shoot by copying its first shot. Returns the first one's id."""
    first = str(add(http, shoot, **brief).json()["id"])
    with database.session() as session:
        copied = "shoot_id, starts_at, brief, plan, summary, made_from, made_on, wishes, ticks, really_set, stamps"
        session.execute(
            text(
                f"insert into shots (id, position, {copied}) select gen_random_uuid(), n, {copied} "
                "from shots, generate_series(2, :count) n where id = :first"
            ),
            {"count": count, "first": first},
        )
    return first


def test_a_full_shoot_of_full_shots_goes_out_and_comes_in(http: httpx.Client, database: Database, shoot: str) -> None:
    first = str(add(http, shoot, title="ü" * 200).json()["id"])
    said = {
        "ticks": {f"{n:02d}" + "ö" * 58: True for n in range(sizes.TICKS)},
        "really_set": {f"{n:02d}" + "x" * 40: "ä" * 200 for n in range(sizes.REALLY_SET)},
    }
    assert http.post(f"/api/shots/{first}/outside", json=said).status_code == 200
    more = http.post(f"/api/shots/{first}/outside", json={"ticks": {"one more": True}})
    assert (more.status_code, more.json()["faults"][0]["where"]) == (422, "ticks")
    with database.session() as session:
        copied = "shoot_id, brief, plan, summary, made_from, made_on, wishes, ticks, really_set, stamps"
        session.execute(
            text(
                f"insert into shots (id, position, {copied}) select gen_random_uuid(), n, {copied} "
                "from shots, generate_series(2, :count) n where id = :first"
            ),
            {"count": sizes.SHOTS, "first": first},
        )
    over = add(http, shoot)
    assert over.status_code == 422
    assert "holds 500 shots" in over.json()["detail"]
    out = http.get(f"/api/shoots/{shoot}/shoot.json", timeout=60)
    assert out.status_code == 200
    assert len(out.content) > 10 * sizes.MB
    read = http.post("/api/shoots/import", content=out.content, timeout=120)
    assert read.status_code == 201, read.text
    assert read.json()["shots"] == sizes.SHOTS
    assert http.get(f"/api/shoots/{read.json()['id']}/shoot.json", timeout=60).content == out.content
    listed = http.get(f"/api/shoots/{shoot}/shots.csv", timeout=60)
    again = str(http.post("/api/shoots", json=SHOOT).json()["id"])
    taken = http.post(f"/api/shoots/{again}/shots/import", content=listed.content, timeout=120)
    assert len(taken.json()["added"]) == sizes.SHOTS, taken.text[:500]
    assert http.post(f"/api/shots/{first}/restore").status_code == 200, "what is not away needs no room"


def test_eighty_plain_shots_go_out_in_a_zip_and_come_in(http: httpx.Client, database: Database, shoot: str) -> None:
    filled(http, database, shoot, 80, title="Bar")
    packed = http.get(f"/api/shoots/{shoot}/shoot.zip", timeout=120)
    read = http.post("/api/shoots/import", content=packed.content, timeout=120)
    assert read.status_code == 201, read.text
    assert read.json()["shots"] == 80


def test_a_shot_that_no_file_would_take_is_not_kept(http: httpx.Client, shoot: str) -> None:
    pins = {f"dial_{n}": "x" * 4000 for n in range(20)}
    refused = add(http, shoot, pins=pins)
    assert refused.status_code == 422
    assert http.get(f"/api/shoots/{shoot}/shots").json()["total"] == 0


def test_a_shoot_from_a_version_that_took_more_is_told(http: httpx.Client, database: Database, shoot: str) -> None:
    filled(http, database, shoot, sizes.SHOTS + 1)
    told = http.get(f"/api/shoots/{shoot}/shoot.json", timeout=60)
    assert told.status_code == 422
    assert "shots" in told.json()["faults"][0]["where"]
    shots = http.get(f"/api/shoots/{shoot}/shots", timeout=60).json()["items"]
    assert http.delete(f"/api/shots/{shots[0]['id']}").status_code == 204
    assert http.get(f"/api/shoots/{shoot}/shoot.json", timeout=60).status_code == 200
    back = http.post(f"/api/shots/{shots[0]['id']}/restore")
    assert (back.status_code, "holds 500 shots" in back.text) == (422, True)


def test_a_full_kit_is_written_and_read_again() -> None:
    kit = library.demo_kit()
    sheet, cell = kit.cameras[0], kit.batteries[0]
    many = KitFile(
        format="steady-tide/kit",
        version=1,
        cameras=tuple(sheet.model_copy(update={"id": f"camera-{n}"}) for n in range(sizes.CAMERAS)),
        batteries=tuple(cell.model_copy(update={"id": f"cell-{n}"}) for n in range(sizes.THINGS)),
    )
    written = write_kit_file(many).encode()
    assert len(written) < sizes.KIT
    assert read_kit_file(written, "kit.json") == many


def test_a_track_of_a_day_at_a_point_a_second_comes_in(http: httpx.Client) -> None:
    begin = datetime(2026, 5, 12, 6, tzinfo=UTC)
    points = "".join(
        f'<trkpt lat="{52 + n * 1e-5:.6f}" lon="1.3"><time>{(begin + timedelta(seconds=n)).isoformat()}</time></trkpt>'
        for n in range(4 * 3600)
    )
    gpx = f'<gpx version="1.1" creator="x"><trk><trkseg>{points}</trkseg></trk></gpx>'
    with ThreadPoolExecutor(1) as aside:
        reading = aside.submit(http.post, "/api/tracks", content=gpx.encode(), timeout=60)
        waits = []
        while not reading.done():
            began = time.perf_counter()
            http.get("/api/health")
            waits.append(time.perf_counter() - began)
        read = reading.result()
    assert read.status_code == 200, read.text
    assert "09:59:59" in read.text
    assert sorted(waits)[len(waits) // 2] < 0.1, "others are answered meanwhile"
    broken = http.post("/api/tracks", content=gpx.encode()[:-200], timeout=60)
    assert (broken.status_code, broken.json()["faults"][0]["where"]) == (422, "the file")


def test_a_doubled_key_among_many_is_found_in_linear_time() -> None:
    def doubled(count: int) -> bytes:
        return json.dumps({f"k{n}": 0 for n in range(count)})[:-1].encode() + b', "k%d": 0}' % (count - 1)

    def read(data: bytes) -> None:
        with pytest.raises(BadFile, match="stands twice"):
            decoded(data, "kit.json")

    small, large = (least_seconds(lambda data=doubled(n): read(data)) for n in (20_000, 160_000))
    assert large < 8 * 3 * small


def test_everything_comes_as_files_and_each_comes_in_again(cluster: Cluster) -> None:
    with own_database(cluster, "everything") as full, own_database(cluster, "empty_house", demo=False) as empty:
        with serving(full) as here, httpx.Client(base_url=here, timeout=60) as client:
            cell = client.get("/api/kit").json()["batteries"][0]["thing"]["id"]
            boat = {"revision": 0, "keeping": {"where": "the boat", "ready": 1}}
            assert client.patch(f"/api/kit/things/batteries/{cell}", json=boat).status_code == 200
            count = {"revision": 0, "change": {"count": 3, "where": "the shed"}}
            assert client.patch("/api/kit/cameras/cockle-3/keeping", json=count).status_code == 200
            draft = {"rough": {"sheet": {"name": "Begun"}}}
            client.put("/api/sheets/drafts/6b8b4567-327b-43c6-a3b1-cd1f6b8b4567", json=draft)
            client.post("/api/cameras/cockle-3/editions/1/again")
            with zipfile.ZipFile(BytesIO(client.get("/api/everything.zip").content)) as archive:
                files = {name: archive.read(name) for name in archive.namelist()}
            kit = client.get("/api/kit").json()
        assert json.loads(files["drafts/1-begun.json"])["rough"] == {**draft["rough"], "known": {}}
        assert {"cameras/cockle-3/edition-1.json", "cameras/cockle-3/edition-2.json", "crew.json"} <= set(files)
        with serving(empty) as there, httpx.Client(base_url=there, timeout=60) as client:
            client.post("/api/kit/examples/away")
            choices = [f"{kind}/{row['thing']['id']}=take" for kind in ("mounts", "chemistries") for row in kit[kind]]
            read = client.post("/api/kit/import", content=files["kit.json"], params={"choices": choices})
            assert read.status_code == 200, read.text
            again = client.get("/api/kit").json()
            camera = next(row for row in again["cameras"] if row["id"] == "cockle-3")
            assert (camera["count"], camera["keeping"]["where"]) == (3, "the shed")
            kept = next(row for row in again["batteries"] if row["thing"]["id"] == cell)
            assert (kept["keeping"]["where"], kept["keeping"]["ready"]) == ("the boat", 1)
            shoots = [name for name in files if name.startswith("shoots/")]
            assert shoots
            for name in shoots:
                came = client.post("/api/shoots/import", content=files[name])
                assert came.status_code == 201, came.text
                out = client.get(f"/api/shoots/{came.json()['id']}/shoot.json")
                assert json.loads(out.content)["shots"] == json.loads(files[name])["shots"]


def test_every_way_back_keeps_the_limits(http: httpx.Client, shoot: str, monkeypatch: pytest.MonkeyPatch) -> None:
    """What was removed comes back only as long as all of it can still be sent out."""
    shot = str(add(http, shoot).json()["id"])

    def refused(path: str, says: str) -> None:
        answer = http.post(path)
        assert answer.status_code == 422, (path, answer.text)
        assert says in answer.json()["detail"]

    films = [http.post(f"/api/shoots/{shoot}/films", json={"title": f"Film {n}"}).json()["id"] for n in range(2)]
    http.delete(f"/api/films/{films[0]}")
    monkeypatch.setattr(sizes, "FILMS", 1)
    refused(f"/api/films/{films[0]}/restore", "takes 1 at most")
    takes = [str(uuid4()) for _ in range(2)]
    for take in takes:
        said = {"shot_id": shot, "said": {"at": "2026-10-11T10:00:00Z"}}
        assert http.put(f"/api/log/takes/{take}", json=said).status_code == 200
    http.delete(f"/api/log/takes/{takes[0]}")
    count = http.get("/api/log/takes").json()["all"]
    monkeypatch.setattr(sizes, "TAKES", count)
    refused(f"/api/log/takes/{takes[0]}/restore", "takes at most")
    note = {"kind": "card", "medium": "card-240", "recorded_gb": 230, "at": "2026-10-11T10:00:00Z"}
    notes = [str(uuid4()) for _ in range(2)]
    for one in notes:
        assert http.put(f"/api/log/notes/{one}", json=note).status_code == 200
    http.delete(f"/api/log/notes/{notes[0]}")
    monkeypatch.setattr(sizes, "NOTES", len(http.get("/api/log/notes").json()["items"]))
    refused(f"/api/log/notes/{notes[0]}/restore", "at most")
    monkeypatch.undo()
    for path in (f"/api/films/{films[0]}", f"/api/log/takes/{takes[0]}", f"/api/log/notes/{notes[0]}"):
        assert http.post(f"{path}/restore").status_code == 200, path
