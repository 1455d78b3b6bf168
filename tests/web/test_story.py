"""Story and Edit in the browser: a film from nothing to what is missing, changes that can be had back, keys, every ground and width."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any

import httpx
import pytest
from playwright.sync_api import Page, expect

from steady_tide.demo.film import film_data, load_film
from steady_tide.launch.cluster import Cluster
from tests.service import own_database, serving
from tests.waiting import until
from tests.web.axe import assert_accessible
from tests.web.slow import slow

pytestmark = pytest.mark.browser


@pytest.fixture(scope="module")
def film_at(cluster: Cluster) -> Iterator[str]:
    """Address of a service with the demo's film."""
    with own_database(cluster, "story_web") as database:
        load_film(database)
        with serving(database) as at:
            yield at


def mill(at: str) -> str:
    shoots = httpx.get(f"{at}/api/shoots", timeout=30).json()["items"]
    return next(str(one["id"]) for one in shoots if one["title"] == film_data()["shoot"]["title"])


def story(at: str, shoot: str) -> dict[str, Any]:
    return dict(httpx.get(f"{at}/api/shoots/{shoot}/story", timeout=60).json())


@pytest.fixture
def shoot(film_at: str) -> str:
    """A shoot that a test may change."""
    fields = {
        "title": "A day of ours",
        "day": "2026-10-18",
        "zone": "Europe/London",
        "latitude": 52.06,
        "longitude": 1.31,
    }
    return str(httpx.post(f"{film_at}/api/shoots", json=fields, timeout=30).json()["id"])


def shown(page: Page, at: str, shoot: str) -> None:
    page.goto(f"{at}/shoots/{shoot}/story")
    expect(page.get_by_role("group", name="The film as cuts")).to_be_visible()


def test_a_film_from_nothing_to_framings_that_are_shots(film_at: str, page: Page, shoot: str) -> None:
    page.goto(f"{film_at}/shoots/{shoot}/story")
    expect(page.get_by_text("Single pretty clips do not join.")).to_be_visible()
    page.get_by_role("button", name="Begin a film").click()
    expect(page.get_by_role("button", name="title: The film of the day")).to_be_visible()
    page.get_by_role("button", name=re.compile("^music:")).click()
    page.get_by_role("dialog").get_by_label("Beats a minute").fill("96")
    page.keyboard.press("Enter")
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name=re.compile("^pace: every second beat"))).to_be_visible()
    expect(page.get_by_text("16 cut lengths in 20")).to_be_visible()
    page.get_by_role("button", name="Beat: Arrive").click()
    page.get_by_role("dialog").get_by_label("Of whom or what").fill("Wren, the wheel")
    page.keyboard.press("Escape")
    until(
        lambda: (
            story(film_at, shoot)["items"][0]["film"]["told"]["film"]["beats"][0]["subjects"] == ["Wren", "the wheel"]
        )
    )
    page.get_by_role("button", name="Propose framings").click()
    proposals = page.get_by_role("group", name="Proposals")
    expect(proposals.get_by_role("checkbox").first).to_be_checked()
    proposals.get_by_role("checkbox", name=re.compile("way out")).uncheck()
    adds = proposals.get_by_role("button", name=re.compile(r"Add \d+ as shots"))
    count = int(re.findall(r"\d+", adds.inner_text())[0])
    adds.click()
    expect(proposals).to_have_count(0, timeout=30_000)
    expect(page.get_by_role("button", name=re.compile(r"^Framing \d+,"))).to_have_count(count)
    lines = httpx.get(f"{film_at}/api/shoots/{shoot}/shots", timeout=30).json()
    assert lines["total"] == count
    assert not any("way out" in line["summary"]["title"] for line in lines["items"])
    page.get_by_role("button", name=re.compile("^undo adding")).click()
    until(lambda: httpx.get(f"{film_at}/api/shoots/{shoot}/shots", timeout=30).json()["total"] == 0)


def test_cuts_lead_to_their_framings_by_mouse_and_keys(film_at: str, page: Page) -> None:
    shown(page, film_at, mill(film_at))
    expect(page.get_by_role("region", name="Framing 6", exact=True)).to_be_visible()
    page.get_by_role("button", name=re.compile("^Framing 7, .*not filmed")).click()
    side = page.get_by_role("region", name="Framing 7", exact=True)
    expect(side).to_contain_text("Your own shadow is in the frame")
    expect(side).to_contain_text("Side light, as wished,")
    page.keyboard.press("f")
    expect(page.get_by_role("region", name="Framing 8", exact=True)).to_be_visible()
    page.keyboard.press("b")
    page.keyboard.press("b")
    expect(page.get_by_role("region", name="Framing 6", exact=True)).to_be_visible()
    page.get_by_role("button", name=re.compile("^Rest")).click()
    expect(page.get_by_role("region", name="Framing 12", exact=True)).to_be_visible()
    strip = page.get_by_role("button", name=re.compile("^Framing 1, "))
    strip.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("region", name="Framing 1", exact=True)).to_be_visible()


def test_a_heading_is_typed_as_a_point_or_turned_on_the_dial_and_had_back(film_at: str, page: Page) -> None:
    shoot = mill(film_at)
    # What was said last is what the next step comes from, though its answer is not there yet.
    slow(page, "/story", "GET")
    shown(page, film_at, shoot)

    def heading() -> float:
        framings = story(film_at, shoot)["items"][0]["film"]["told"]["framings"]
        return float(framings[7]["framing"]["heading_deg"])

    before = heading()
    page.get_by_role("button", name=re.compile("^Framing 8, ")).click()
    field = page.get_by_label("Heading of the camera")
    field.fill("nowhere")
    expect(page.get_by_text("Give a compass point such as SW")).to_be_visible()
    field.fill("sw")
    field.press("Enter")
    until(lambda: heading() == 225.0)
    dial = page.get_by_role("slider", name="Turn the camera")
    dial.press("ArrowRight")
    until(lambda: heading() == 230.0)
    expect(dial).to_have_attribute("aria-valuenow", "230")
    page.locator("body").click(position={"x": 1200, "y": 780})
    page.keyboard.press("u")
    until(lambda: heading() == 225.0)
    page.get_by_role("button", name="undo the heading").click()
    until(lambda: heading() == before)


def test_a_movement_is_priced_in_speed_and_what_works(film_at: str, page: Page, shoot: str) -> None:
    film = httpx.post(
        f"{film_at}/api/shoots/{shoot}/films", json={"title": "F", "beats": [{"id": "a", "title": "A"}]}, timeout=30
    ).json()
    one = httpx.get(f"{film_at}/api/films/{film['id']}/beats/a/proposals", timeout=30).json()["items"][:1]
    httpx.post(f"{film_at}/api/films/{film['id']}/framings", json={"items": one}, timeout=30)
    shown(page, film_at, shoot)
    side = page.get_by_role("region", name="Framing 1", exact=True)
    side.get_by_label("Movement of the camera").select_option("pan")
    expect(side.get_by_label("Turns by")).to_be_visible()
    side.get_by_label("Turns by").fill("170")
    side.get_by_label("Turns by").press("Enter")
    expect(side).to_contain_text("too fast", timeout=15_000)
    side.get_by_label("Turns by").fill("30")
    side.get_by_label("Turns by").press("Enter")
    expect(side).to_contain_text("works from", timeout=15_000)


def test_a_beat_with_takes_is_struck_and_put_back(film_at: str, page: Page) -> None:
    shown(page, film_at, mill(film_at))
    page.get_by_role("navigation", name="Beats").get_by_role("button", name=re.compile("^Arrive")).click()
    page.get_by_role("button", name="Beat: Arrive").click()
    page.get_by_role("dialog").get_by_role("button", name="Strike it").click()
    expect(page.get_by_text("Struck,")).to_be_visible()
    expect(page.get_by_text("9 takes hang on it.")).to_be_visible()
    page.get_by_role("button", name="put it back").click()
    expect(page.get_by_role("button", name=re.compile("^Framing 1, "))).to_be_visible()


def test_what_is_typed_survives_a_service_that_is_away(film_at: str, page: Page) -> None:
    slow(page, "/story", "GET")
    shown(page, film_at, mill(film_at))
    page.get_by_role("button", name=re.compile("^Framing 2, ")).click()
    page.context.set_offline(True)
    field = page.get_by_role("region", name="Framing 2", exact=True).get_by_label("Stands for")
    field.fill("3")
    field.press("Enter")
    expect(page.get_by_role("region", name="Framing 2", exact=True).get_by_role("alert")).to_contain_text(
        "does not answer"
    )
    expect(field).to_have_value("3")
    page.context.set_offline(False)  # it is handed over by itself

    def units() -> int:
        return int(story(film_at, mill(film_at))["items"][0]["film"]["told"]["framings"][1]["framing"]["units"])

    until(lambda: units() == 3)
    # Back at once, before it was read again.
    field.fill("1")
    field.press("Enter")
    until(lambda: units() == 1)


def test_the_edit_hands_over_what_it_says(film_at: str, page: Page) -> None:
    page.goto(f"{film_at}/shoots/{mill(film_at)}/edit")
    expect(page.get_by_role("region", name="Group A")).to_be_visible()
    page.get_by_role("button", name="lantern").click()
    expect(page.get_by_role("region", name="Group A")).to_contain_text("lantern")
    page.get_by_role("button", name="Only group B").click()
    clips = httpx.get(f"{film_at}/api/shoots/{mill(film_at)}/edit", timeout=60).json()["edit"]["clips"]
    shown = [clip for clip in clips if clip["group"] == "B"]
    assert 0 < len(shown) < len(clips)
    expect(page.get_by_role("article")).to_have_count(len(shown))
    page.get_by_role("button", name="show all").click()
    with page.expect_download() as brought:
        page.get_by_role("link", name="OpenTimelineIO").first.click()
    assert brought.value.suggested_filename.endswith(".otio")
    with page.expect_download() as brought:
        page.get_by_role("link", name="Markdown").click()
    assert "lantern" in brought.value.path().read_text()


@pytest.mark.parametrize("width", [360, 768, 1024, 1280])
@pytest.mark.parametrize("view", ["story", "edit"])
def test_the_views_fit_and_can_be_used_by_all(film_at: str, page: Page, view: str, width: int) -> None:
    page.set_viewport_size({"width": width, "height": 800})
    page.goto(f"{film_at}/shoots/{mill(film_at)}/{view}")
    expect(page.get_by_text("13 cuts, 7 filmed." if view == "story" else "takes to cut")).to_be_visible()
    page.wait_for_load_state("networkidle")
    assert page.evaluate("document.documentElement.scrollWidth") <= width
    assert_accessible(page)


def test_the_card_shows_what_a_shot_is_in_its_film(film_at: str, page: Page) -> None:
    framings = story(film_at, mill(film_at))["items"][0]["film"]["told"]["framings"]
    page.set_viewport_size({"width": 360, "height": 740})
    page.goto(f"{film_at}/shots/{framings[6]['key']}/card")
    told = page.get_by_role("region", name="In the film")
    expect(told).to_contain_text("Framing 7, over the shoulder")
    expect(told).to_contain_text("your shadow is in the frame")
    expect(told.get_by_role("img", name=re.compile("to scale"))).to_be_visible()
    told.get_by_role("link").click()
    expect(page.get_by_role("heading", name="Work: water off the boards")).to_be_visible()
