"""Planning at the desk: by turn, the newest of an editor, a line with an end, workers that die; and searches in a line."""

from __future__ import annotations

import os
import pickle
import signal
import threading
import time
from collections.abc import Iterator
from concurrent.futures import wait
from pathlib import Path
from types import SimpleNamespace
from typing import Any
from uuid import UUID

import httpx
import pytest
from sqlalchemy import text

from steady_tide.core.brief.brief import School, read_brief
from steady_tide.core.quantities.errors import BadBrief, DeskBusy, Fault, NoLegalPlan, Overtaken
from steady_tide.launch.cluster import Cluster
from steady_tide.services.crew_kit import typical_kit
from steady_tide.services.plan_refresh import Keeper
from steady_tide.services.planning_pool import LETS_PASS_S, Desk, Turn
from steady_tide.services.plans import Plans
from steady_tide.services.search_queue import Searches
from steady_tide.store.database import Database
from steady_tide.store.shots import find, list_all
from tests.briefs import QUAY, SUN
from tests.changing import shot_change
from tests.service import own_database, serving
from tests.waiting import until

GEAR = typical_kit()


def nap(seconds: float, name: str = "") -> tuple[str, float]:
    time.sleep(seconds)
    return name, time.monotonic()


def die() -> None:
    os.kill(os.getpid(), signal.SIGKILL)


@pytest.fixture(scope="module")
def desk() -> Iterator[Desk]:
    made = Desk(workers=1, most_waiting=6)
    made.ask(nap, (0,), Turn.SAVING).result()
    yield made
    made.close()


def test_who_saves_goes_before_who_plans(desk: Desk) -> None:
    busy = desk.ask(nap, (0.4,), Turn.SAVING)
    turns = (Turn.NOBODY, Turn.OTHERS, Turn.HAND, Turn.SAVING)
    asked = [desk.ask(nap, (0.01, turn.name), turn) for turn in turns]
    wait([busy, *asked])
    order = [name for name, _ in sorted((future.result() for future in asked), key=lambda done: done[1])]
    assert order == ["SAVING", "HAND", "OTHERS", "NOBODY"]


def test_however_many_save_whoever_plans_has_his_turn(desk: Desk, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setitem(LETS_PASS_S, Turn.OTHERS, 0.3)
    saving = [desk.ask(nap, (0.05, "saving"), Turn.SAVING) for _ in range(4)]
    planned = desk.ask(nap, (0.0, "plan"), Turn.OTHERS)
    for _ in range(40):  # somebody saves without a pause
        saving.append(desk.ask(nap, (0.05, "saving"), Turn.SAVING))
        time.sleep(0.04)
    assert planned.done(), "it let some pass, not all"
    wait(saving)


def test_the_newest_of_an_editor_counts_and_others_are_not_touched(desk: Desk) -> None:
    busy = desk.ask(nap, (0.3,), Turn.SAVING)
    old = desk.ask(nap, (0, "old"), Turn.HAND, "me")
    other = desk.ask(nap, (0, "other"), Turn.HAND, "you")
    new = desk.ask(nap, (0, "new"), Turn.HAND, "me")
    with pytest.raises(Overtaken):
        old.result()
    assert (new.result()[0], other.result()[0]) == ("new", "other")
    busy.result()


def test_the_line_has_an_end_but_not_for_saving(desk: Desk) -> None:
    busy = desk.ask(nap, (0.3,), Turn.SAVING)
    waiting = [desk.ask(nap, (0,), Turn.OTHERS) for _ in range(6)]
    with pytest.raises(DeskBusy, match="6 requests wait"):
        desk.ask(nap, (0,), Turn.OTHERS)
    waiting.append(desk.ask(nap, (0,), Turn.SAVING))
    wait([busy, *waiting])
    assert all(future.exception() is None for future in waiting)


def test_what_waits_can_be_called_off(desk: Desk) -> None:
    busy = desk.ask(nap, (0.3,), Turn.SAVING)
    off = desk.ask(nap, (0,), Turn.HAND)
    assert off.cancel()
    assert desk.ask(nap, (0, "next"), Turn.HAND).result()[0] == "next"
    busy.result()


def test_a_worker_that_dies_takes_nothing_else_along(desk: Desk) -> None:
    killed = desk.ask(die, (), Turn.HAND)
    after = [desk.ask(nap, (0, "after"), Turn.HAND) for _ in range(3)]
    assert killed.exception(timeout=30) is not None
    assert {future.result(timeout=30)[0] for future in after} == {"after"}


def test_plans_from_the_desk_are_those_made_here(desk: Desk) -> None:
    brief = read_brief({"light": SUN, **QUAY})
    here, there = Plans(), Plans(desk=desk)
    assert there.plan(brief, School(), GEAR) == here.plan(brief, School(), GEAR)
    told = there.bench(brief, School(), GEAR, None, True, "me").result()
    assert not isinstance(told, NoLegalPlan)
    assert pickle.loads(told[1]) == here.plan(brief, School(), GEAR)
    excluded = brief.model_copy(update={"pins": {"camera": "limpet-7", "frame_rate": 7}})
    with pytest.raises((NoLegalPlan, BadBrief)):
        there.plan(excluded, School(), GEAR)


def test_a_plan_that_is_being_made_is_made_once(desk: Desk, monkeypatch: pytest.MonkeyPatch) -> None:
    plans, asked = Plans(desk=desk), []
    ask = desk.ask
    monkeypatch.setattr(desk, "ask", lambda *given: asked.append(given[0]) or ask(*given))
    busy = ask(nap, (0.3,), Turn.SAVING)
    brief = read_brief({"light": SUN, **QUAY, "air_c": 11.5})
    bench = plans.bench(brief, School(), GEAR, None, True, "me")
    kept = plans.plan(brief, School(), GEAR)
    found = bench.result()
    assert not isinstance(found, NoLegalPlan)
    assert pickle.loads(found[1]) == kept
    assert len(asked) == 1, "saving takes up what the Bench has asked for"
    busy.result()


@pytest.mark.parametrize(
    "error", [BadBrief(Fault("a", "b", "c")), NoLegalPlan("code", {"x": 1}, ("nd",)), Overtaken()], ids=str
)
def test_refusals_come_whole_from_another_process(error: Exception) -> None:
    again = pickle.loads(pickle.dumps(error))
    assert (type(again), str(again), vars(again)) == (type(error), str(error), vars(error))


def test_a_service_with_a_desk_answers_and_leaves_no_process_behind(cluster: Cluster) -> None:
    desk = Desk(workers=1)
    with own_database(cluster, "desk") as database:
        with serving(database, desk=desk) as at, httpx.Client(base_url=at, timeout=60) as client:
            body: dict[str, Any] = {"title": "x", "light": SUN, **QUAY}
            answer = client.post("/api/bench", json=body, headers={"X-Editor": "me"})
            assert answer.status_code == 200, answer.text
            assert answer.json()["plan"]["camera"]["id"]
            bad = client.post("/api/bench", json={**body, "camera_move": {"mount": "kite"}})
            assert (bad.status_code, "kite" in bad.text) == (422, True)
            none = client.post("/api/bench", json={**body, "pins": {"frame_rate": 400, "stabilisation": "strong"}})
            assert none.status_code == 409
            assert set(none.json()["pins"]) == {"frame_rate", "stabilisation"}
            workers = [process.pid for process in (desk._pool._processes or {}).values()] if desk._pool else []
            assert workers
        until(lambda: not any(os.path.exists(f"/proc/{pid}") for pid in workers))


def test_searches_go_one_after_the_other_and_who_waits_is_told() -> None:
    searches, told = Searches(at_once=1, most_waiting=1), []
    first, second, third = threading.Event(), threading.Event(), threading.Event()
    assert searches.take(first, told.append)
    waiting = threading.Thread(target=lambda: searches.take(second, told.append))
    waiting.start()
    until(lambda: told == [1])
    assert not searches.take(third, told.append), "the line is full"
    second.set()
    waiting.join(5)
    assert not waiting.is_alive()
    searches.leave(first)
    assert searches.take(third, told.append)


def test_saving_waits_for_no_plan_and_the_plan_follows(cluster: Cluster) -> None:
    desk = Desk(workers=1)
    with (
        own_database(cluster, "saving") as database,
        serving(database, keeps_fresh=True, desk=desk) as at,
        httpx.Client(base_url=at, timeout=60) as client,
    ):
        shoot = client.post("/api/shoots", json={"title": "busy"}).json()["id"]
        body: dict[str, Any] = {"brief": {"title": "x", "light": SUN, **QUAY}}
        shot = client.post(f"/api/shoots/{shoot}/shots", json=body).json()
        busy = [desk.ask(nap, (1.5,), Turn.SAVING) for _ in range(1)]
        dusk = {**shot["brief"], "title": "later", "light": {"kind": "meter", "ev100": [5, 6]}}
        began = time.monotonic()
        kept = client.patch(f"/api/shots/{shot['id']}", json=shot_change(dusk))
        assert time.monotonic() - began < 1.0
        assert (kept.status_code, kept.json()["as_it_was"], kept.json()["plan"]) == (200, False, None)
        (line,) = client.get(f"/api/shoots/{shoot}/shots").json()["items"]
        assert (line["summary"]["title"], line["as_it_was"]) == ("later", False), "old figures, and it says so"
        unknown = {"revision": 1, "change": {"camera_move.mount": "kite"}}
        assert client.patch(f"/api/shots/{shot['id']}", json=unknown).status_code == 422
        wait(busy)
        until(lambda: bool(client.get(f"/api/shoots/{shoot}/shots").json()["items"][0]["as_it_was"]))
        now = client.get(f"/api/shots/{shot['id']}").json()
        assert now["revision"] == kept.json()["revision"], "nobody who edits it is in conflict"
        assert now["plan"] == client.post("/api/plan", json=dusk).json()


def test_whoever_keeps_plans_fresh_goes_on_when_much_is_asked(
    cluster: Cluster, monkeypatch: pytest.MonkeyPatch
) -> None:
    """A desk that is full, and a row that somebody holds, put a saved shot off and do not drop it."""
    with own_database(cluster, "keeping_on") as database:
        plans, tries = Plans(), []
        keeper = Keeper(database, plans, looks_every_s=0.05)
        with database.session() as session:
            shot = next(iter(list_all(session)))
            shot.made_from = None
            shot_id = shot.id

        def busy_once(*given: Any, **more: Any) -> Any:
            tries.append(1)
            if len(tries) == 1:
                raise DeskBusy("6 requests wait already.")
            return Plans.plan(plans, *given, **more)

        monkeypatch.setattr(keeper, "_plans", SimpleNamespace(plan=busy_once))
        keeper._gear = None
        monkeypatch.setattr(keeper, "make_anew", lambda crew, gear: True)
        with database.session() as held:
            held.execute(text("select 1 from shots where id = :id for update"), {"id": shot_id})
            keeper.look_after(shot_id)
            keeper.start()
            until(lambda: len(tries) > 2)
        try:
            until(lambda: made_from(database, shot_id) is not None)
        finally:
            keeper.stop()


def made_from(database: Database, shot_id: UUID) -> Any:
    with database.session() as session:
        found = find(session, shot_id)
        return None if found is None else found.made_from


@pytest.mark.filterwarnings("ignore:resource_tracker")
@pytest.mark.parametrize("who", ["forkserver", "resource_tracker", "all"])
def test_whoever_is_killed_beside_the_workers_nobody_waits_for_ever(who: str) -> None:
    """Also the process that starts the workers, and the one that clears up after them."""
    desk = Desk(workers=2)
    try:
        desk.ask(nap, (0.0,), Turn.HAND).result(timeout=60)
        for _ in range(3):
            asked = [desk.ask(nap, (0.1, "done"), Turn.HAND) for _ in range(4)]
            for pid in helpers(who):
                os.kill(pid, signal.SIGKILL)
            asked += [desk.ask(nap, (0.0, "done"), Turn.HAND) for _ in range(4)]
            for future in asked:  # done, or told that it was not
                assert future.exception(timeout=60) is not None or future.result()[0] == "done"
            assert desk.ask(nap, (0.0, "after"), Turn.HAND).result(timeout=60)[0] == "after"
        long = desk.ask(nap, (60.0,), Turn.HAND)
        until(lambda: long.running())
    finally:
        began = time.monotonic()
        desk.close()
    assert time.monotonic() - began < 10
    assert isinstance(long.exception(timeout=5), DeskBusy)
    with pytest.raises(DeskBusy, match="stopping"):
        desk.ask(nap, (0.0,), Turn.HAND)


def helpers(who: str) -> list[int]:
    """Processes of multiprocessing below this one: of one kind, or all."""
    found, todo = [], [os.getpid()]
    while todo:
        for tasks in Path(f"/proc/{todo.pop()}/task").glob("*/children"):
            for child in tasks.read_text().split():
                todo.append(int(child))
                command = Path(f"/proc/{child}/cmdline").read_bytes().decode()
                if "multiprocessing" in command and (who == "all" or f"multiprocessing.{who} " in command):
                    found.append(int(child))
    return found[:1] if who == "forkserver" else found
