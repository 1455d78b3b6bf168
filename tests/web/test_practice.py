"""Practice in the browser: by mouse, by keys alone, what is missed comes again, what is asked opens on the Bench."""

from __future__ import annotations

import re
from collections.abc import Iterator

import httpx
import pytest
from playwright.sync_api import Page, Route, expect

from steady_tide.launch.cluster import Cluster
from tests.service import own_database, serving
from tests.waiting import until
from tests.web.axe import assert_accessible

pytestmark = pytest.mark.browser


@pytest.fixture(scope="module")
def at(cluster: Cluster) -> Iterator[str]:
    with own_database(cluster, "practice_web") as database, serving(database) as address:
        yield address


KINDS = ("arithmetic", "set the dials", "what is wrong", "blind comparison", "order by", "find the dial")


def begin(at: str, page: Page, kind: str) -> None:
    """The page with one kind alone, begun anew."""
    httpx.delete(f"{at}/api/practice", timeout=30)
    page.goto(f"{at}/practice")
    expect(page.get_by_role("heading", level=2)).to_be_visible(timeout=30_000)
    for name in KINDS:
        if name != kind:
            page.get_by_role("button", name=name, exact=True).click()


@pytest.fixture
def only(at: str, page: Page) -> str:
    begin(at, page, "arithmetic")
    return at


def kept(at: str) -> dict[str, dict[str, object]]:
    return dict(httpx.get(f"{at}/api/practice/practice.json", timeout=30).json())


def test_a_wrong_answer_is_explained_remembered_and_asked_once_more(only: str, page: Page) -> None:
    answer = page.get_by_label("Answer")
    expect(answer).to_be_focused(timeout=30_000)
    page.keyboard.type("100000")
    page.keyboard.press("Enter")
    said = page.get_by_role("status").filter(has_text="asked again")
    expect(said).to_contain_text(re.compile(r"No, [\d.]+ stops off: "))
    until(lambda: len(kept(only)) == 1)
    assert next(iter(kept(only).values()))["went"] == "missed"
    page.keyboard.press("Enter")
    for _ in range(5):
        expect(answer).to_be_editable()
        page.keyboard.type("100000")
        page.keyboard.press("Enter")
        expect(said).to_be_visible()
        page.keyboard.press("Enter")
    expect(page.get_by_text("once more, with other numbers")).to_be_visible()
    assert len(kept(only)) == 6


def test_the_dials_are_set_by_letters_scored_and_opened_on_the_bench(at: str, page: Page) -> None:
    begin(at, page, "set the dials")
    question = page.get_by_role("heading", name=re.compile("set these dials"))
    expect(question).to_be_focused(timeout=30_000)
    rows = page.get_by_role("group").count()
    for _ in range(rows):
        page.keyboard.press("a")
    page.keyboard.press("Enter")
    status = page.get_by_role("status").filter(has_text="asked again")
    expect(status).to_be_visible(timeout=30_000)
    assert status.get_by_role("listitem").count() == rows
    page.get_by_role("button", name="Open it on the Bench").click()
    expect(page.get_by_role("figure", name="Gauge")).to_be_visible(timeout=30_000)
    assert "Practice" in [one["title"] for one in httpx.get(f"{at}/api/shoots", timeout=30).json()["items"]]


def only_topics(page: Page, *topics: str) -> None:
    """Ask these topics alone."""

    def answer(route: Route) -> None:
        route.fulfill(json={**route.fetch().json(), "topics": list(topics)})

    page.route("**/api/practice?*", answer)


def test_frames_are_looked_at_told_by_their_measures_or_left_out(at: str, page: Page) -> None:
    only_topics(page, "which:view", "which:iso_floor")
    page.goto(f"{at}/practice")
    expect(page.get_by_role("heading", name=re.compile("Which is the one with"))).to_be_visible(timeout=30_000)
    frames = page.get_by_role("img", name=re.compile("Mid grey is exposed"))
    until(lambda: frames.count() == 2 and page.locator(".part-of-frame img").count() == 2)
    assert frames.first.evaluate("one => one.naturalWidth") == 640
    page.get_by_role("button", name="tell it by its measures").click()
    expect(page.get_by_text(re.compile("^Mid grey is exposed"))).to_have_count(2)
    page.keyboard.press("a")
    page.get_by_role("button", name="Answer").click()
    expect(page.get_by_role("status").filter(has_text="asked again")).to_contain_text("stops more are given up")
    page.get_by_role("button", name="Next").click()
    page.get_by_role("button", name="ask without pictures").click()
    expect(page.get_by_role("heading", name=re.compile("of 1 right"))).to_be_visible()


def test_a_clip_is_drawn_runs_and_is_judged(at: str, page: Page) -> None:
    only_topics(page, "wrong:stutter")
    page.goto(f"{at}/practice")
    expect(page.get_by_role("heading", name=re.compile("what is wrong with this clip"))).to_be_visible(timeout=30_000)
    clip = page.locator("video")
    expect(clip).to_be_visible(timeout=60_000)
    expect(clip).to_have_attribute("aria-label", re.compile("from frame to frame, the shutter open for"))
    until(lambda: bool(clip.evaluate("one => one.readyState >= 2 && one.videoWidth === 480")))
    assert_accessible(page)
    page.get_by_role("button", name="stutters").click()
    page.get_by_role("button", name="Answer").click()
    expect(page.get_by_text("Right: stutters.")).to_be_visible()


def test_a_deck_asks_of_its_kind_of_shot(at: str, page: Page) -> None:
    begin(at, page, "arithmetic")
    page.get_by_label("of", exact=True).select_option(label="shots under water")
    expect(page.get_by_test_id("practice-standing")).to_contain_text("4 not asked yet")


@pytest.mark.parametrize("width", [360, 768, 1024, 1280])
def test_the_view_fits_and_can_be_used_by_all(at: str, page: Page, width: int) -> None:
    page.set_viewport_size({"width": width, "height": 800})
    page.goto(f"{at}/practice")
    expect(page.get_by_role("button", name="Answer")).to_be_visible(timeout=30_000)
    assert page.evaluate("document.documentElement.scrollWidth") <= width
    assert_accessible(page)
