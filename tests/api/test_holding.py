"""What used to lock or mislead: times out of reach, and every trouble of the database under one name."""

from __future__ import annotations

import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import ExitStack
from datetime import UTC, datetime
from threading import Barrier

import httpx
import pytest
from sqlalchemy import text

from steady_tide.core.quantities.errors import BadFile, BadInput, StoreBusy, StoreFull, StoreUnavailable, WrongVersion
from steady_tide.core.quantities.moments import is_within
from steady_tide.formats.gpx import read_track
from steady_tide.launch.cluster import Cluster
from steady_tide.store import queue
from steady_tide.store.database import Database
from tests.briefs import SUN
from tests.changing import changed
from tests.service import own_database, serving

FAR = ["9999-12-31T23:30:00-05:00", "0001-01-01T00:30:00+05:00", "2200-01-01T00:00:00Z", "1899-12-31T23:59:59Z"]


@pytest.fixture(scope="module")
def own(cluster: Cluster) -> Iterator[Database]:
    with own_database(cluster, "holding", demo=False) as made:
        yield made


@pytest.fixture(scope="module")
def here(own: Database) -> Iterator[httpx.Client]:
    with serving(own) as address, httpx.Client(base_url=address, timeout=30) as client:
        yield client


def shot_of(client: httpx.Client) -> tuple[str, str]:
    shoot = client.post("/api/shoots", json={"title": "far"}).json()["id"]
    shot = client.post(f"/api/shoots/{shoot}/shots", json={"brief": {"title": "a", "light": SUN}}).json()["id"]
    return shoot, shot


@pytest.mark.parametrize("far", FAR)
def test_times_out_of_reach_are_refused_everywhere_and_lock_nothing(here: httpx.Client, far: str) -> None:
    shoot, shot = shot_of(here)
    body = here.get(f"/api/shots/{shot}").json()
    sky = {"kind": "sky", "latitude": 50, "longitude": 1, "start": far, "end": far}
    refused = [
        here.post(f"/api/shoots/{shoot}/shots", json={"brief": body["brief"], "starts_at": far}),
        here.patch(f"/api/shots/{shot}", json={"revision": 0, "change": {"starts_at": far}}),
        here.post("/api/bench", json={"title": "x", "light": sky}),
        changed(here, f"/api/shoots/{shoot}/rules", earliest=far),
        changed(here, f"/api/shoots/{shoot}", day=far[:10]),
    ]
    for answer in refused:
        assert answer.status_code in (405, 422), answer.text
    assert sum(answer.status_code == 422 for answer in refused) >= 4
    assert any("out of reach" in answer.text for answer in refused)
    assert len(here.get(f"/api/shoots/{shoot}/shots").json()["items"]) == 1


@pytest.mark.parametrize(
    ("moment", "within"),
    [
        (datetime(1900, 1, 1, tzinfo=UTC), True),
        (datetime(1899, 12, 31, 23, 59, 59, tzinfo=UTC), False),
        (datetime(2199, 12, 31, 23, 59, 59, tzinfo=UTC), True),
        (datetime(2200, 1, 1, tzinfo=UTC), False),
    ],
)
def test_the_reach_ends_where_it_is_said_to(moment: datetime, within: bool) -> None:
    assert is_within(moment) is within


def test_tracks_of_another_age_are_told() -> None:
    point = '<trkpt lat="50" lon="1"><time>{}</time></trkpt>'
    track = '<gpx version="1.1" creator="x"><trk><trkseg>{}</trkseg></trk></gpx>'
    far = track.format(point.format("0001-01-01T00:00:00Z") + point.format("0001-01-01T00:01:00Z"))
    with pytest.raises(BadFile, match="2 whose time or place cannot be"):
        read_track(far.encode())


def test_tables_of_a_version_that_is_too_old_are_told(cluster: Cluster) -> None:
    with own_database(cluster, "too_old", demo=False) as database:
        with database.engine.begin() as connection:
            connection.execute(text("update alembic_version set version_num = '0004'"))
        with pytest.raises(WrongVersion, match=r"older version .* stand at 0004"):
            database.migrate()


@pytest.mark.parametrize(
    ("state", "error", "says"),
    [
        ("53100", StoreFull, "disk"),
        ("40P01", StoreBusy, "Two changes met"),
        ("57014", StoreBusy, "Try again"),
        ("23503", StoreBusy, "Two changes met"),
        ("23505", StoreBusy, "Two changes met"),
        ("57P01", StoreUnavailable, "does not answer"),
    ],
)
def test_troubles_of_the_database_are_told_apart(own: Database, state: str, error: type[Exception], says: str) -> None:
    with pytest.raises(error, match=says) as told, own.session() as session:
        session.execute(text(f"do $$ begin raise exception 'as told' using errcode = '{state}'; end $$"))
    assert type(told.value) is error


@pytest.mark.parametrize(("state", "error"), [("40P01", StoreBusy), ("53100", StoreFull), ("57P01", StoreUnavailable)])
def test_troubles_of_the_queue_are_those_of_its_database(own: Database, state: str, error: type[Exception]) -> None:
    with own.session() as session:
        session.execute(
            text(
                "create function no_jobs() returns trigger language plpgsql as $$ begin raise exception 'as told' "
                f"using errcode = '{state}'; end $$"
            )
        )
        session.execute(text("create trigger none before insert on procrastinate_jobs execute function no_jobs()"))
    try:
        with pytest.raises(error) as told, own.session() as session:
            queue.ask(session, "task", [("a key", {})], "queue")
    finally:
        with own.session() as session:
            session.execute(text("drop function no_jobs cascade"))
    assert type(told.value) is error


def test_jobs_that_wait_for_each_other_end_in_words(own: Database) -> None:
    """Two who ask for the same clips, the other way round: one is told to try again, and nobody sees an error."""
    met, told = Barrier(2), []

    def ask(keys: tuple[str, str]) -> None:
        try:
            with own.session() as session:
                queue.ask(session, "task", [(keys[0], {})], "queue")
                met.wait(10)
                queue.ask(session, "task", [(keys[1], {})], "queue")
        except Exception as error:  # which one is what is asked
            told.append(error)

    with ThreadPoolExecutor(2) as two:
        list(two.map(ask, [("a", "b"), ("b", "a")]))
    assert [type(error) for error in told] == [StoreBusy]


def test_a_text_and_a_number_that_cannot_be_kept_are_told_apart(own: Database) -> None:
    with pytest.raises(BadInput, match="character"), own.session() as session:
        session.execute(text("select cast(:t as text)"), {"t": "a\0b"})
    with pytest.raises(BadInput, match="a value: cannot be kept"), own.session() as session:
        session.execute(text("select cast('1e400' as double precision)"))


def test_whoever_comes_to_a_database_that_is_all_taken_is_told_at_once(own: Database) -> None:
    crowded = Database(own.url)
    with ExitStack() as held:
        for _ in range(15):
            held.enter_context(crowded.session()).execute(text("select 1"))
        began = time.monotonic()
        with pytest.raises(StoreBusy, match="at once"), crowded.session() as session:
            session.execute(text("select 1"))
        assert time.monotonic() - began < 5.0
    crowded.close()
