"""Presets are counted aside: whoever only shows them beside something else does not wait."""

from __future__ import annotations

import time
from concurrent.futures import Future
from typing import Any

import httpx

from steady_tide.core.outing.presets import PresetPlan
from steady_tide.core.quantities.errors import DeskBusy
from steady_tide.services.days import PresetShelf, count_presets
from tests.days import demo_day
from tests.waiting import until


class SlowDesk:
    """Takes what it is asked, and answers when it is told to."""

    def __init__(self) -> None:
        self.asked: list[tuple[Any, Future[PresetPlan]]] = []
        self.full = False

    def ask(self, call: Any, given: tuple[Any, ...], turn: Any) -> Future[PresetPlan]:
        if self.full:
            raise DeskBusy("full")
        self.asked.append((lambda: call(*given), Future()))
        return self.asked[-1][1]


def test_what_is_being_counted_is_not_waited_for_and_counted_once() -> None:
    desk, outing = SlowDesk(), demo_day()
    shelf = PresetShelf(desk)  # type: ignore[arg-type]
    began = time.monotonic()
    assert shelf.at_hand(outing, "yawl-12", 0.05) is None
    assert shelf.at_hand(outing, "yawl-12", 0.05) is None
    assert time.monotonic() - began < 1
    assert len(desk.asked) == 1
    work, future = desk.asked[0]
    future.set_result(work())
    there = shelf.at_hand(outing, "yawl-12", 0)
    assert there is not None
    assert there == count_presets([shot for shot in outing.shots if shot.sheet.id == "yawl-12"])
    assert len(desk.asked) == 1
    desk.full = True
    assert shelf.at_hand(outing, "limpet-7", 0) is None, "a full desk keeps no card back"
    assert shelf.at_hand(outing, "nobody", 0) is None


def test_what_fails_is_tried_again() -> None:
    desk, outing = SlowDesk(), demo_day()
    shelf = PresetShelf(desk)  # type: ignore[arg-type]
    assert shelf.at_hand(outing, "yawl-12", 0) is None
    desk.asked[0][1].set_exception(RuntimeError("killed"))
    assert shelf.at_hand(outing, "yawl-12", 0) is None
    assert len(desk.asked) == 2


def test_a_card_is_there_at_once_and_marked_when_it_is_counted(http: httpx.Client) -> None:
    shoot = http.get("/api/shoots").json()["items"][0]["id"]
    lines = http.get(f"/api/shoots/{shoot}/shots").json()["items"]
    shot = next(line["id"] for line in lines if line["summary"]["title"] == "Wren walks the quay")
    began = time.monotonic()
    first = http.get(f"/api/shots/{shot}/card").json()
    assert time.monotonic() - began < 4
    assert first["counting"] == (first["begin"] is None)
    until(lambda: not http.get(f"/api/shots/{shot}/card").json()["counting"])
    card = http.get(f"/api/shots/{shot}/card").json()
    assert card["begin"]["changes"] == sum(row["changed"] for page in card["pages"] for row in page["rows"])
