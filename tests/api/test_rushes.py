"""Rushes over HTTP: folders and drops, measuring by a worker, matching, ratings, next time, the day's report, events."""

from __future__ import annotations

import json
import os
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from threading import Event
from typing import Any
from uuid import UUID, uuid4

import httpx
import pytest
from sqlalchemy import text

from steady_tide.core.quantities.errors import BadFile
from steady_tide.jobs.tasks import sweep
from steady_tide.launch.cluster import Cluster
from steady_tide.services.rush_folders import lane_of, open_clip
from steady_tide.services.rush_measuring import Elsewhere, measure_clip_of
from steady_tide.services.rushes import begin_folders
from steady_tide.services.takes import takes_of_shot, that_count
from steady_tide.store import rushes as store
from steady_tide.store.database import Database
from tests.briefs import SUN
from tests.footage import film, view
from tests.service import measuring, own_database, serving
from tests.waiting import until

STARTS = "2026-10-11T09:00:00Z"
FRAME = {"width": 384, "height": 216}


class Day:
    """A service, its database, a worker, and a folder with clips of one shot."""

    def __init__(self, database: Database, http: httpx.Client, folder: Path, drops: Path, shot: str) -> None:
        self.database, self.http, self.folder, self.drops, self.shot = database, http, folder, drops, shot

    def clips(self) -> dict[str, dict[str, Any]]:
        found = self.http.get("/api/rushes/clips").json()
        return {one["name"]: one for one in found["items"]}

    def settled(self) -> bool:
        counts = self.http.get("/api/rushes/clips").json()["counts"]
        return counts["waiting"] + counts["measuring"] == 0

    def whole(self, name: str) -> dict[str, Any]:
        found: dict[str, Any] = self.http.get(f"/api/rushes/clips/{self.clips()[name]['id']}").json()
        return found


def shot_in(http: httpx.Client, **fields: Any) -> str:
    shoots = http.get("/api/shoots").json()["items"]
    if not shoots:
        http.post("/api/shoots", json={"title": "Empty", "day": "2026-10-20"})
        http.post("/api/shoots", json={"title": "A day", "day": "2026-10-11"})
        shoots = http.get("/api/shoots").json()["items"]
    asked = {"title": "Walk", "light": SUN, "camera_move": {"mount": "walking"}, **fields}
    made = http.post(f"/api/shoots/{shoots[0]['id']}/shots", json={"brief": asked, "starts_at": STARTS}, timeout=60)
    assert made.status_code == 201, made.text
    return str(made.json()["id"])


def take(path: Path, at: str, bright: float = 1.0, model: str = "Limpet 7") -> Path:
    frames = [view(1, 20 + 3 * n, 40) * bright for n in range(14)]
    return film(path, frames, metadata={"creation_time": at, "model": model})


@pytest.fixture(scope="module")
def day(cluster: Cluster, tmp_path_factory: pytest.TempPathFactory) -> Iterator[Day]:
    folder, drops = tmp_path_factory.mktemp("rushes"), tmp_path_factory.mktemp("drops")
    take(folder / "a.mp4", "2026-10-11T09:00:30Z")
    (folder / "card").mkdir()
    take(folder / "card" / "b.mp4", "2026-10-11T09:02:00Z", bright=4.0)
    (folder / "card" / "broken.mp4").write_bytes((folder / "a.mp4").read_bytes()[:3000])
    (folder / "notes.txt").write_text("no clip")
    with own_database(cluster, "rushes_api", demo=False) as database:
        lane = lane_of(begin_folders(database, drops, []))
        with serving(database, drops=drops) as address, httpx.Client(base_url=address, timeout=30) as http:
            shot = shot_in(http, pins={"camera": "limpet-7", "profile": "natural"})
            with measuring(database, ["rushes", lane]):
                made = Day(database, http, folder, drops, shot)
                named = http.post("/api/rushes/folders", json={"path": str(folder)})
                assert named.status_code == 201, named.text
                assert named.json()["clips"] == 3
                until(made.settled, 60)
                yield made


def test_clips_of_a_folder_are_measured_one_bad_one_stops_nobody(day: Day) -> None:
    clips = day.clips()
    assert set(clips) >= {"a.mp4", "card/b.mp4", "card/broken.mp4"}
    assert clips["a.mp4"]["state"] == clips["card/b.mp4"]["state"] == "done"
    broken = clips["card/broken.mp4"]
    assert broken["state"] == "failed"
    assert "cannot be" in broken["problem"]
    whole = day.whole("a.mp4")
    assert whole["measures"]["width"] == 384
    assert whole["measures"]["motion"]["pan_px"] == pytest.approx(3.0, abs=0.3)
    assert whole["recorded_at"] == "2026-10-11T09:00:30Z"


def test_frames_are_kept_and_the_footage_is_not(day: Day) -> None:
    clip = day.clips()["a.mp4"]
    assert len(clip["frames"]) == 6
    plain = day.http.get(f"/api/rushes/clips/{clip['id']}/frames/0")
    marked = day.http.get(f"/api/rushes/clips/{clip['id']}/frames/0", params={"marked": True})
    assert plain.headers["content-type"] == marked.headers["content-type"] == "image/jpeg"
    assert plain.content[:2] == b"\xff\xd8"
    assert day.http.get(f"/api/rushes/clips/{clip['id']}/frames/77").status_code == 404


def test_clips_find_their_shot_and_a_person_may_know_better(day: Day) -> None:
    clip = day.clips()["a.mp4"]
    assert clip["shot"]["id"] == day.shot
    other = shot_in(day.http, title="Another", pins={"camera": "limpet-7"})
    changed = day.http.patch(f"/api/rushes/clips/{clip['id']}", json={"shot_id": other}).json()
    assert changed["shot"]["title"] == "Another"
    assert not changed["asked_of_person"]
    # The next batch does not take it back.
    take(day.folder / "later.mp4", "2026-10-11T09:04:00Z")
    folder = next(one for one in day.http.get("/api/rushes/folders").json()["items"] if one["path"] == str(day.folder))
    day.http.post(f"/api/rushes/folders/{folder['id']}/look")
    until(day.settled, 60)
    assert day.clips()["a.mp4"]["shot"]["title"] == "Another"
    back = day.http.patch(f"/api/rushes/clips/{clip['id']}", json={"shot_id": day.shot}).json()
    assert back["shot"]["id"] == day.shot
    none = day.http.patch(f"/api/rushes/clips/{clip['id']}", json={"shot_id": None}).json()
    assert none["shot"] is None
    assert none["rows"]
    day.http.patch(f"/api/rushes/clips/{clip['id']}", json={"shot_id": day.shot})
    day.http.delete(f"/api/shots/{other}")


def test_as_planned_stands_beside_as_filmed(day: Day) -> None:
    whole = day.whole("a.mp4")
    rows = {row["title"]: row for row in whole["rows"]}
    assert rows["resolution"]["differs"]
    assert "384" in rows["resolution"]["filmed"]
    assert rows["frame rate"]["planned"] == rows["frame rate"]["filmed"]
    assert whole["verdict"]["line"].endswith(".")
    assert whole["expected_stops"] is not None
    assert day.whole("card/b.mp4")["verdict"]["kind"] == "spoilt"


def test_takes_are_ranked_and_rated(day: Day) -> None:
    clips = day.clips()
    a, b = clips["a.mp4"], clips["card/b.mp4"]
    assert a["take"]["place"] < b["take"]["place"]
    assert b["take"]["why"]
    rated = day.http.patch(f"/api/rushes/clips/{a['id']}", json={"rating": "keep"}).json()
    assert rated["rating"] == "keep"
    assert day.http.patch(f"/api/rushes/clips/{a['id']}", json={"rating": "grand"}).status_code == 422
    assert day.http.patch(f"/api/rushes/clips/{a['id']}", json={"rating": None}).json()["rating"] is None


def test_clips_that_nobody_confirmed_count_for_nothing(day: Day) -> None:
    """Found by the batch alone they tell no next time and no own number; one word for the shot, and they do."""
    with day.database.session() as session:
        session.execute(text("update clips set matched_by = 'batch' where shot_id = :shot"), {"shot": day.shot})
    rows = [clip for clip in day.clips().values() if clip["shot"] and clip["shot"]["id"] == day.shot]
    assert rows
    assert not any(row["confirmed"] for row in rows)
    refused = day.http.get(f"/api/rushes/shots/{day.shot}/next", timeout=60)
    assert refused.status_code == 404
    assert "Nobody has said yet" in refused.json()["detail"]

    def counted() -> int:
        with day.database.session() as session:
            return sum(
                take.measures is not None for take in that_count(session, takes_of_shot(session, UUID(day.shot)))
            )

    assert counted() == 0
    assert day.http.post(f"/api/rushes/shots/{day.shot}/confirm").json() == {"clips": len(rows)}
    assert day.http.post(f"/api/rushes/shots/{day.shot}/confirm").json() == {"clips": 0}
    assert all(row["confirmed"] for row in day.clips().values() if row["shot"] and row["shot"]["id"] == day.shot)
    assert day.http.get(f"/api/rushes/shots/{day.shot}/next", timeout=60).status_code == 200
    assert counted() == len([row for row in rows if row["state"] == "done"]) > 0
    assert day.http.post(f"/api/rushes/shots/{uuid4()}/confirm").status_code == 404


def test_a_clip_that_goes_to_another_shot_takes_its_camera_mount_and_hands(day: Day) -> None:
    clip = day.clips()["a.mp4"]
    day.http.patch(f"/api/rushes/clips/{clip['id']}", json={"shot_id": day.shot})
    move = {"mount": "tripod", "hands": "Wren"}
    other = shot_in(day.http, title="On legs", camera_move=move, pins={"camera": "cockle-3"})
    day.http.patch(f"/api/rushes/clips/{clip['id']}", json={"shot_id": other})
    (take,) = day.http.get("/api/log/takes", params={"shot": other}).json()["items"]
    said = take["said"]
    assert (said["camera"], said["mount"], said["hands"]) == ("cockle-3", "tripod", "Wren")
    # What a person said of it stays, wherever it goes.
    change = {"revision": take["revision"], "change": {"hands": "Sanderling"}}
    assert day.http.patch(f"/api/log/takes/{take['id']}", json=change).status_code == 200
    day.http.patch(f"/api/rushes/clips/{clip['id']}", json={"shot_id": day.shot})
    back = next(
        one
        for one in day.http.get("/api/log/takes", params={"shot": day.shot}).json()["items"]
        if one["id"] == take["id"]
    )
    assert (back["said"]["camera"], back["said"]["hands"]) == ("limpet-7", "Sanderling")
    day.http.delete(f"/api/shots/{other}")


def test_next_time_is_planned_and_can_be_taken(day: Day) -> None:
    day.http.post(f"/api/rushes/shots/{day.shot}/confirm")
    found = day.http.get(f"/api/rushes/shots/{day.shot}/next", timeout=60).json()
    assert found["text"]
    assert found["now_stops"] >= 0
    shoot = day.http.get("/api/shoots").json()["items"][0]["id"]
    made = day.http.post(f"/api/shoots/{shoot}/shots", json={"brief": found["brief"], "starts_at": None}, timeout=60)
    assert made.status_code == 201, made.text
    day.http.delete(f"/api/shots/{made.json()['id']}")
    assert day.http.get("/api/rushes/shots/00000000-0000-0000-0000-000000000000/next").status_code == 404


def test_the_report_names_what_was_wrong_most(day: Day) -> None:
    found = day.http.get("/api/rushes/report").json()
    assert "clips" in found["line"]
    assert found["faults"]
    shoot = day.http.get("/api/shoots").json()["items"][1]["id"]
    assert day.http.get("/api/rushes/report", params={"shoot": shoot}).json()["line"] == "No clip is measured yet."


def test_a_clip_that_is_handed_over_is_measured_and_thrown_away(day: Day, tmp_path: Path) -> None:
    data = take(tmp_path / "x.mp4", "2026-10-11T09:05:00Z").read_bytes()
    made = day.http.post("/api/rushes/drops", params={"name": "../../hand.mp4"}, content=data)
    assert made.status_code == 201, made.text
    until(day.settled, 60)
    clip = next(one for name, one in day.clips().items() if name.endswith("hand.mp4"))
    assert clip["state"] == "done"
    assert "/" not in clip["name"]
    until(lambda: not list(day.drops.iterdir()))
    for name, content in (("a.exe", data), ("a.mp4", b""), ("b.mp4", b"no clip at all" * 50)):
        answer = day.http.post("/api/rushes/drops", params={"name": name}, content=content)
        assert answer.status_code in (201, 422)
        assert (answer.status_code == 201) == (name == "b.mp4")
    until(day.settled, 60)
    refused = next(one for name, one in day.clips().items() if name.endswith("b.mp4") and "card" not in name)
    assert refused["state"] == "failed"
    # What could not be measured is not kept either, and what was measured is not missed.
    until(lambda: not list(day.drops.iterdir()))
    assert not any(one["gone"] for name, one in day.clips().items() if name.endswith("hand.mp4"))


def test_clips_of_a_shoot_that_was_removed_are_still_told(cluster: Cluster, tmp_path: Path) -> None:
    card = tmp_path / "card"
    card.mkdir()
    take(card / "a.mp4", "2026-10-11T09:00:30Z")
    with own_database(cluster, "rushes_removed", demo=False) as database:
        begin_folders(database, tmp_path / "drops", [str(card)])
        with serving(database, drops=tmp_path / "drops") as address, httpx.Client(base_url=address, timeout=30) as http:
            shot = shot_in(http, pins={"camera": "limpet-7"})
            with database.session() as session:
                ((clip_id, _, _, _),) = store.changed_since(session, None)
            assert measure_clip_of(database, clip_id, 1, Event()) == "done"
            assert http.get(f"/api/rushes/clips/{clip_id}").json()["shot"]["id"] == shot
            shoot = http.get(f"/api/shots/{shot}").json()["shoot_id"]
            assert http.delete(f"/api/shoots/{shoot}").status_code == 204
            listed = http.get("/api/rushes/clips")
            assert listed.status_code == 200, listed.text
            assert listed.json()["items"][0]["shot"]["title"] == "Walk"


def test_a_shot_without_a_plan_is_no_trouble(cluster: Cluster, tmp_path: Path) -> None:
    card = tmp_path / "card"
    card.mkdir()
    take(card / "a.mp4", "2026-10-11T09:00:30Z")
    with own_database(cluster, "rushes_unplanned", demo=False) as database:
        begin_folders(database, tmp_path / "drops", [str(card)])
        with serving(database, drops=tmp_path / "drops") as address, httpx.Client(base_url=address, timeout=30) as http:
            impossible = shot_in(http, pins={"camera": "limpet-7", "iso_floor": 3200, "iso_ceiling": 100})
            assert http.get(f"/api/shots/{impossible}").json()["plan"] is None
            shot = shot_in(http, pins={"camera": "limpet-7"})
            with database.session() as session:
                ((clip_id, _, _, _),) = store.changed_since(session, None)
            assert measure_clip_of(database, clip_id, 1, Event()) == "done"
            assert http.get(f"/api/rushes/clips/{clip_id}").json()["shot"]["id"] == shot


def test_a_folder_that_two_name_at_once_is_looked_into_once(day: Day, tmp_path: Path) -> None:
    for n in range(3):
        take(tmp_path / f"{n}.mp4", "2026-10-11T12:00:00Z")

    def name(_: int) -> int:
        return httpx.post(
            f"{day.http.base_url}/api/rushes/folders", json={"path": str(tmp_path)}, timeout=30
        ).status_code

    with ThreadPoolExecutor(6) as many:
        assert set(many.map(name, range(6))) == {201}
    (folder,) = (one for one in day.http.get("/api/rushes/folders").json()["items"] if one["path"] == str(tmp_path))
    assert folder["clips"] == 3
    until(day.settled, 60)
    day.http.delete(f"/api/rushes/folders/{folder['id']}")


@pytest.mark.parametrize("path", ["/", "/no/such/folder", "relative/none", "/etc/hostname", "x" * 5000, "a\x00b"])
def test_a_path_that_is_no_folder_is_refused(day: Day, path: str) -> None:
    answer = day.http.post("/api/rushes/folders", json={"path": path})
    assert answer.status_code == 422
    assert answer.json()["faults"]


def test_links_that_lead_out_are_passed_over(day: Day, tmp_path: Path) -> None:
    outside = tmp_path / "outside"
    outside.mkdir()
    take(outside / "secret.mp4", "2026-10-11T09:00:00Z")
    inside = tmp_path / "inside"
    inside.mkdir()
    (inside / "link.mp4").symlink_to(outside / "secret.mp4")
    (inside / "all").symlink_to(outside)
    (inside / "pipe.mp4").write_bytes(b"")
    (inside / "pipe.mp4").unlink()
    os.mkfifo(inside / "pipe.mp4")
    made = day.http.post("/api/rushes/folders", json={"path": str(inside)})
    assert made.json()["clips"] == 0
    # A file that becomes a link after it was seen is not followed either.
    take(inside / "swap.mp4", "2026-10-11T09:00:00Z")
    (inside / "swap.mp4").unlink()
    (inside / "swap.mp4").symlink_to(outside / "secret.mp4")
    for name in ("swap.mp4", "../outside/secret.mp4", str(outside / "secret.mp4")):
        with pytest.raises(BadFile, match="leads out"):
            open_clip(str(inside), name)
    day.http.delete(f"/api/rushes/folders/{made.json()['id']}")


def test_a_folder_goes_away_and_comes_back(day: Day, tmp_path: Path) -> None:
    card = tmp_path / "card"
    card.mkdir()
    take(card / "c.mp4", "2026-10-11T12:00:00Z")
    folder = day.http.post("/api/rushes/folders", json={"path": str(card)}).json()["id"]
    until(day.settled, 60)
    card.rename(tmp_path / "elsewhere")
    told = day.http.post(f"/api/rushes/folders/{folder}/look").json()
    assert "cannot be read" in told["problem"]
    assert day.clips()["c.mp4"]["state"] == "done"
    (tmp_path / "elsewhere").rename(card)
    (card / "c.mp4").rename(card / "d.mp4")
    assert day.http.post(f"/api/rushes/folders/{folder}/look").json()["problem"] is None
    assert day.clips()["c.mp4"]["gone"]
    answer = day.http.post(f"/api/rushes/clips/{day.clips()['c.mp4']['id']}/measure")
    assert answer.status_code == 422
    until(day.settled, 60)
    assert day.clips()["d.mp4"]["state"] == "done"
    assert day.http.delete(f"/api/rushes/folders/{folder}").status_code == 204
    assert "d.mp4" not in day.clips()
    assert (card / "d.mp4").exists()


def test_a_clip_that_changed_is_measured_again(day: Day, tmp_path: Path) -> None:
    card = tmp_path / "grows"
    card.mkdir()
    take(card / "e.mp4", "2026-10-11T12:00:00Z")
    folder = day.http.post("/api/rushes/folders", json={"path": str(card)}).json()["id"]
    until(day.settled, 60)
    before = day.whole("e.mp4")["measures"]["exposure"]["median_stops"]
    take(card / "e.mp4", "2026-10-11T12:00:00Z", bright=2.0)
    day.http.post(f"/api/rushes/folders/{folder}/look")
    until(day.settled, 60)
    assert day.whole("e.mp4")["measures"]["exposure"]["median_stops"] == pytest.approx(before + 1.0, abs=0.15)
    day.http.delete(f"/api/rushes/folders/{folder}")


def test_one_clip_may_be_asked_for_by_many_at_once(day: Day) -> None:
    clip = day.clips()["a.mp4"]["id"]
    folder = day.http.get("/api/rushes/folders").json()["items"][0]["id"]
    ways = [
        f"/clips/{clip}/measure", f"/clips/{clip}/measure?quick=true", f"/folders/{folder}/look", f"/cancel?clip={clip}", "/resume"
    ]  # fmt: skip

    def ask(number: int) -> tuple[int, str]:
        answer = httpx.post(f"{day.http.base_url}/api/rushes{ways[number % len(ways)]}", timeout=30)
        return answer.status_code, answer.text

    with ThreadPoolExecutor(20) as many:
        answers = list(many.map(ask, range(100)))
    assert not [told for status, told in answers if status not in (200, 202, 503)]
    assert sum(status != 503 for status, _ in answers) > 80
    day.http.post("/api/rushes/resume")
    until(day.settled, 60)


def test_events_tell_what_becomes_of_clips(day: Day) -> None:
    clip = day.clips()["a.mp4"]["id"]
    states = []
    with day.http.stream("GET", "/api/rushes/events", timeout=60) as answer:
        assert answer.headers["content-type"].startswith("text/event-stream")
        for line in answer.iter_lines():
            if not line.startswith("data: "):
                continue
            for one in json.loads(line.removeprefix("data: "))["clips"]:
                if one["id"] == clip:
                    states.append(one["state"])
            if len(states) == 1:
                assert day.http.post(f"/api/rushes/clips/{clip}/measure", params={"quick": True}).status_code == 202
            if len(states) > 1 and states[-1] == "done":
                break
    assert states[0] == states[-1] == "done"
    assert {"waiting", "measuring"} & set(states)


def test_cancelled_clips_wait_until_somebody_goes_on(cluster: Cluster, tmp_path: Path) -> None:
    for n in range(3):
        take(tmp_path / f"{n}.mp4", f"2026-10-11T09:0{n}:00Z")
    with own_database(cluster, "rushes_cancel", demo=False) as database:
        begin_folders(database, tmp_path / "drops", [])
        with serving(database, drops=tmp_path / "drops") as address, httpx.Client(base_url=address, timeout=30) as http:
            http.post("/api/rushes/folders", json={"path": str(tmp_path)})
            assert http.post("/api/rushes/cancel").json()["clips"] == 3
            with measuring(database, ["rushes"]):
                until(lambda: jobs(database, "todo") == 0, 30)
                counts = http.get("/api/rushes/clips").json()["counts"]
                assert (counts["cancelled"], counts["done"]) == (3, 0)
                assert http.post("/api/rushes/resume").json()["clips"] == 3
                until(lambda: http.get("/api/rushes/clips").json()["counts"]["done"] == 3, 60)


def jobs(database: Database, status: str) -> int:
    with database.engine.connect() as connection:
        found = connection.exec_driver_sql(
            "select count(*) from procrastinate_jobs where status = %s", (status,)
        ).scalar_one()
        return int(found)


def test_an_answer_to_an_older_request_has_no_effect(cluster: Cluster, tmp_path: Path) -> None:
    take(tmp_path / "a.mp4", "2026-10-11T09:00:00Z")
    with own_database(cluster, "rushes_once", demo=False) as database:
        begin_folders(database, tmp_path / "drops", [str(tmp_path)])
        with database.session() as session:
            ((clip_id, state, _, _),) = store.changed_since(session, None)
        assert state == "waiting"
        assert measure_clip_of(database, clip_id, 1, Event()) == "done"
        assert measure_clip_of(database, clip_id, 1, Event()) == "not_wanted"
        with database.session() as session:
            assert store.get_clip(session, clip_id).measured_times == 1
            store.locked_clip(session, clip_id).asked = 2
            store.locked_clip(session, clip_id).state = "waiting"
        assert measure_clip_of(database, clip_id, 1, Event()) == "not_wanted"
        stopping = Event()
        stopping.set()
        assert measure_clip_of(database, clip_id, 2, stopping) == "stopped"
        with database.session() as session:
            assert store.get_clip(session, clip_id).state == "waiting"
        # What was begun and fell silent is asked for again.
        with database.engine.begin() as connection:
            connection.exec_driver_sql("delete from procrastinate_jobs")
            connection.exec_driver_sql(
                "update clips set state = 'measuring', updated_at = now() - interval '2 minutes'"
            )
        assert sweep(database) == 1
        assert jobs(database, "todo") == 1
        assert sweep(database) == 0


def test_a_worker_that_does_not_see_the_folder_leaves_it_to_others(cluster: Cluster, tmp_path: Path) -> None:
    card = tmp_path / "card"
    card.mkdir()
    take(card / "a.mp4", "2026-10-11T09:00:00Z")
    with own_database(cluster, "rushes_elsewhere", demo=False) as database:
        begin_folders(database, tmp_path / "drops", [str(card)])
        with database.session() as session:
            ((clip_id, _, _, _),) = store.changed_since(session, None)
        card.rename(tmp_path / "away")
        with pytest.raises(Elsewhere):
            measure_clip_of(database, clip_id, 1, Event())
        with database.session() as session:
            assert store.get_clip(session, clip_id).state == "waiting"
        (tmp_path / "away").rename(card)
        assert measure_clip_of(database, clip_id, 1, Event()) == "done"


def test_a_flat_profile_is_undone_and_measured_anew_when_its_shot_is_known(day: Day) -> None:
    flat = shot_in(day.http, title="Flat", pins={"camera": "limpet-7", "profile": "flat", "bit_depth": 10})
    clip = day.clips()["a.mp4"]
    before = day.whole("a.mp4")["measures"]["exposure"]["median_stops"]
    day.http.patch(f"/api/rushes/clips/{clip['id']}", json={"shot_id": flat})
    until(day.settled, 60)
    measures = day.whole("a.mp4")["measures"]
    assert abs(measures["exposure"]["median_stops"] - before) > 0.05
    assert any("typical" in doubt["why"] for doubt in measures["doubts"])
    day.http.patch(f"/api/rushes/clips/{clip['id']}", json={"shot_id": day.shot})
    until(day.settled, 60)
    assert day.whole("a.mp4")["measures"]["exposure"]["median_stops"] == pytest.approx(before, abs=0.01)
    day.http.delete(f"/api/shots/{flat}")
