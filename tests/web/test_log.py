"""The Log in the browser: a take with one thumb, a ladder from beginning to end, numbers that enter plans, lists of others."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import httpx
import pytest
from playwright.sync_api import Page, Response, expect

from steady_tide.demo.season import load_season
from steady_tide.launch.cluster import Cluster
from tests.service import own_database, serving
from tests.waiting import until
from tests.web.axe import assert_accessible
from tests.web.slow import slow

pytestmark = pytest.mark.browser


@pytest.fixture(scope="module")
def log_at(cluster: Cluster) -> Iterator[str]:
    """Address of a service with the season."""
    with own_database(cluster, "log_web") as database:
        load_season(database)
        with serving(database) as at:
            yield at


def shot_titled(at: str, title: str) -> dict[str, Any]:
    with httpx.Client(base_url=at, timeout=30) as http:
        take = http.get("/api/log/takes", params={"words": title, "limit": 1}).json()["items"][0]
        return dict(take["shot"])


MARKS = {"shake": "shaky", "noise": "noisy"}


def faults_of(at: str, take: str) -> list[str]:
    items = httpx.get(f"{at}/api/log/takes", timeout=30).json()["items"]
    return list(next(one for one in items if one["id"] == take)["said"]["faults"])


def takes_of(at: str, shot_id: str) -> list[dict[str, Any]]:
    return list(httpx.get(f"{at}/api/log/takes", params={"shot": shot_id}, timeout=30).json()["items"])


def switched(answer: Response) -> bool:
    """Whether an answer is to a switch."""
    return answer.request.method == "POST" and answer.url.endswith("/api/log/numbers")


def test_one_thumb_logs_a_take_that_waits_for_the_connection(log_at: str, page: Page) -> None:
    shot = shot_titled(log_at, "Geese going over")
    before = len(takes_of(log_at, shot["id"]))
    page.set_viewport_size({"width": 360, "height": 740})
    page.goto(f"{log_at}/shots/{shot['id']}/card")
    bar = page.get_by_role("region", name="Takes of this shot")
    expect(bar.get_by_role("button", name=f"Take {before + 1}", exact=True)).to_be_visible()
    for name in ("keep", "maybe", "no"):
        box = bar.get_by_role("button", name=name, exact=True).bounding_box()
        assert box is not None
        assert box["height"] >= 48
    page.context.set_offline(True)
    bar.get_by_role("button", name=f"Take {before + 1}", exact=True).click()
    expect(bar).to_contain_text("what do you think of it?")
    bar.get_by_role("button", name="maybe", exact=True).click()
    bar.get_by_role("button", name="keep", exact=True).click()
    expect(bar).to_contain_text("waits for the connection")
    expect(bar.get_by_role("button", name="keep", exact=True)).to_have_attribute("aria-pressed", "true")
    assert len(takes_of(log_at, shot["id"])) == before
    page.context.set_offline(False)
    expect(bar).not_to_contain_text("waits for the connection")
    until(lambda: len(takes_of(log_at, shot["id"])) == before + 1)
    until(lambda: max(takes_of(log_at, shot["id"]), key=lambda take: take["said"]["at"])["said"]["rating"] == "keep")
    # Said once more, it changes the take instead of making another.
    bar.get_by_role("button", name="no", exact=True).click()
    until(lambda: max(takes_of(log_at, shot["id"]), key=lambda take: take["said"]["at"])["said"]["rating"] == "no")
    assert len(takes_of(log_at, shot["id"])) == before + 1


def test_two_marks_right_after_each_other_both_stand(log_at: str, page: Page) -> None:
    """Though the list is not read again when the second is made."""
    slow(page, "/api/log/takes", "GET")
    page.goto(f"{log_at}/log")
    takes = page.get_by_role("region", name="Takes", exact=True)
    expect(takes).to_be_visible()
    page.keyboard.press("n")
    opened = page.get_by_role("region", name=re.compile(r"^Take \d+, "))
    marks = {code: opened.get_by_role("button", name=re.compile(f"^{name}")) for code, name in MARKS.items()}
    for mark in marks.values():
        expect(mark).to_have_attribute("aria-pressed", "false")
    for mark in marks.values():
        mark.click()
    for mark in marks.values():
        expect(mark).to_have_attribute("aria-pressed", "true")
    found = re.search(r"/log/takes/([0-9a-f-]{36})", page.url)
    assert found
    until(lambda: set(MARKS) <= set(faults_of(log_at, found[1])))
    opened.get_by_role("button", name="undo").click()
    until(lambda: set(MARKS) & set(faults_of(log_at, found[1])) == {"shake"})


def test_takes_are_found_opened_said_and_undone(log_at: str, page: Page) -> None:
    page.goto(f"{log_at}/log")
    recurs = page.get_by_role("region", name="What recurs")
    expect(recurs).to_contain_text("chest mount takes under: the meter reads the sky")
    recurs.get_by_role("button", name=re.compile("chest mount takes under")).click()
    takes = page.get_by_role("region", name="Takes", exact=True)
    expect(takes).to_contain_text(re.compile(r"\d+ of 1\d\d takes"))
    expect(page.get_by_label("Takes from")).to_have_value("chest")
    expect(page.get_by_label("Takes with")).to_have_value("under")
    page.keyboard.press("n")
    opened = page.get_by_role("region", name=re.compile(r"^Take \d+, "))
    expect(opened).to_be_visible()
    keep, no = (opened.get_by_role("button", name=name, exact=True) for name in ("keep", "no"))
    page.keyboard.press("x")
    expect(no).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("y")
    expect(keep).to_have_attribute("aria-pressed", "true")
    expect(no).to_have_attribute("aria-pressed", "false")
    opened.get_by_label("Note", exact=True).fill("a heron rises")
    opened.get_by_label("Note", exact=True).press("Enter")
    expect(takes).to_contain_text("a heron rises")
    opened.get_by_role("button", name="undo").click()
    expect(takes).not_to_contain_text("a heron rises")
    page.get_by_role("button", name="all of them").click()
    page.get_by_label("Words that a take tells of").fill("no such words")
    expect(takes).to_contain_text("No take is like that")
    page.get_by_label("Words that a take tells of").fill("")
    expect(opened).to_be_visible()
    opened.get_by_role("button", name="Remove").click()
    expect(page.get_by_text(re.compile(r"Take \d+ was removed"))).to_be_visible()
    page.get_by_role("button", name="Bring it back").click()
    expect(page.get_by_text(re.compile(r"Take \d+ was removed"))).to_have_count(0)


def test_a_ladder_is_made_filmed_judged_and_becomes_a_number_that_plans(log_at: str, page: Page) -> None:
    shot = shot_titled(log_at, "Lanterns are lit")
    page.goto(f"{log_at}/log/ladders?shot={shot['id']}")
    offer = page.get_by_role("button", name="Make a ladder of ISO")
    expect(offer).to_be_visible()
    expect(page.get_by_text("Brightness moves by")).to_be_visible()
    offer.click()
    page.wait_for_url(re.compile("/log/ladders/.+"))
    ladder = page.get_by_role("region", name="Ladder", exact=True)
    for number in range(10):
        step = ladder.locator("[aria-current=step]")
        expect(step).to_contain_text(str(number + 1))
        ladder.get_by_role("button", name=re.compile("^Filmed: ")).click()
    expect(ladder).to_contain_text("All of it is filmed")
    ladder.get_by_role("button", name="choose between two").click()
    expect(ladder).to_contain_text("Say first who judges")
    who = ladder.get_by_label("Who judges")
    who.fill("Kit Marlow")
    who.press("Enter")
    expect(ladder.get_by_text("Which of the two is good enough?")).to_be_visible()
    for place in ("left", "right"):
        picture = ladder.get_by_role("img", name=f"The {place} frame")
        expect(picture).to_have_attribute("src", re.compile("^data:image/"))
    expect(ladder.locator("figcaption").first).to_be_empty()  # which is which stays hidden
    who.blur()
    for answers, key in enumerate(("y", "q", "x"), start=1):
        page.keyboard.press(key)
        expect(ladder.get_by_text(re.compile(rf"^{answers} answers?, and what they say"))).to_be_visible()
    expect(ladder).to_contain_text(re.compile("Good enough for Kit Marlow from .* signal to noise, by 3 answers"))
    page.keyboard.press("u")
    expect(ladder.get_by_text(re.compile("^2 answers, and what they say"))).to_be_visible()
    ladder.get_by_role("button", name="rate in order", exact=True).click()
    ladder.get_by_role("button", name="good up to here", exact=True).nth(1).click()
    expect(ladder).to_contain_text("by 3 answers")
    ladder.get_by_role("link", name="make it Kit Marlow’s own limit").click()
    switch = page.get_by_role("checkbox", name="Plan with Noise limit of Kit Marlow")
    expect(switch).not_to_be_checked()
    with page.expect_response(switched):
        switch.check()
    expect(page.get_by_text("plans use it")).to_be_visible()
    page.goto(f"{log_at}/shots/{shot['id']}")
    held = page.get_by_role("button", name=re.compile("in the hand"))
    held.click()
    page.get_by_label("Whose hands").fill("Kit Marlow")
    page.get_by_label("Whose hands").press("Enter")
    page.keyboard.press("Escape")
    own = page.get_by_role("region", name="Your numbers")
    expect(own).to_contain_text("Your own noise limit of Kit Marlow")
    expect(own).to_contain_text(re.compile("without it|The plan is the same without it"))
    page.goto(f"{log_at}/log/own")
    with page.expect_response(switched):
        page.get_by_role("checkbox", name="Plan with Noise limit of Kit Marlow").uncheck()
    expect(page.get_by_text("plans use it")).to_have_count(0)
    page.goto(f"{log_at}/shots/{shot['id']}")
    expect(page.get_by_text("stops given up").first).to_be_visible()
    expect(page.get_by_role("region", name="Your numbers")).to_have_count(0)


def test_the_steps_of_a_ladder_stand_on_the_card(log_at: str, page: Page) -> None:
    shot = shot_titled(log_at, "Hauling out")
    with httpx.Client(base_url=log_at, timeout=60) as http:
        asked = {"dial": "stabilisation", "values": ["off", "standard"]}
        ladder = http.post(f"/api/shots/{shot['id']}/ladders", json=asked).json()
        page.goto(f"{log_at}/shots/{shot['id']}/card")
        bar = page.get_by_role("region", name="Takes of this shot")
        for step, words in enumerate(
            ("set stabilisation off", "set stabilisation standard", "leave stabilisation standard"), start=1
        ):
            expect(bar).to_contain_text(f"{step} of 4: {words}")
            bar.get_by_role("button", name=re.compile(r"^Take \d+$")).click()
        expect(bar).to_contain_text("4 of 4")
        bar.get_by_role("checkbox").uncheck()  # a take that is none of the ladder's
        bar.get_by_role("button", name=re.compile(r"^Take \d+$")).click()
        expect(bar).to_contain_text("4 of 4")
        until(lambda: [rung["takes"] for rung in http.get(f"/api/ladders/{ladder['id']}").json()["rungs"]] == [1, 2])


def test_a_note_of_gear_is_kept_and_a_slip_is_told(log_at: str, page: Page) -> None:
    slow(page, "/api/cameras/", "GET")  # what the camera can be set to comes after the form
    page.goto(f"{log_at}/log/notes")
    form = page.get_by_role("form", name="A charge that ran down")
    form.get_by_label("Camera").select_option(label="Limpet 7")
    form.get_by_label(re.compile("^to, %")).fill("half")
    form.get_by_role("button", name="Keep the note").click()
    expect(form.get_by_role("alert")).to_contain_text("Give a number for “to”")
    for label, text in ((re.compile("^to, %"), "95"), (re.compile("^in, min"), "41"), (re.compile("^air"), "12")):
        form.get_by_label(label).fill(text)
    form.get_by_role("button", name="Keep the note").click()
    expect(form.get_by_role("alert")).to_contain_text("says too little")
    expect(form.get_by_label(re.compile("^in, min"))).to_have_value("41")  # nothing that was typed is lost
    form.get_by_label(re.compile("^to, %")).fill("22")
    form.get_by_role("button", name="Keep the note").click()
    expect(page.get_by_text(re.compile("from 100 to 22.% in 41.min at 12"))).to_be_visible()


def test_a_list_of_others_is_told_before_it_is_kept(log_at: str, page: Page, tmp_path: Path) -> None:
    theirs = tmp_path / "theirs.csv"
    theirs.write_text("date,time,scene,status,notes\n2026-11-20,10:30,Nowhere,good,of others\nsoon,10:30,,good,\n")
    page.goto(f"{log_at}/log/files")
    page.get_by_label("Log or list of takes").set_input_files(theirs)
    told = page.get_by_role("status").filter(has_text="theirs.csv")
    expect(told).to_contain_text("would bring 1 take")
    expect(told).to_contain_text("row 3")
    expect(told).to_contain_text("left out")
    page.get_by_role("button", name="Take in 1 take").click()
    expect(told).to_contain_text("brought 1 take")


@pytest.mark.parametrize("place", ["", "/ladders", "/own", "/notes", "/files"])
@pytest.mark.parametrize("width", [1280, 360])
def test_the_views_fit_and_can_be_used_by_all(log_at: str, page: Page, place: str, width: int) -> None:
    page.set_viewport_size({"width": width, "height": 800})
    page.goto(f"{log_at}/log{place}")
    expect(page.get_by_role("main")).to_be_visible()
    page.wait_for_load_state("networkidle")
    assert page.evaluate("document.documentElement.scrollWidth") <= width
    assert_accessible(page)
