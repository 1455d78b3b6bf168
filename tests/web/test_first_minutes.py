"""The first minutes of a stranger: an empty database, what for, with what, and there stands a plan."""

from __future__ import annotations

import re
from collections.abc import Iterator
from uuid import uuid4

import httpx
import pytest
from playwright.sync_api import Page, expect

from steady_tide.launch.cluster import Cluster
from tests.service import own_database, serving
from tests.web.axe import assert_accessible

pytestmark = pytest.mark.browser


@pytest.fixture
def empty(cluster: Cluster) -> Iterator[str]:
    with own_database(cluster, f"first_{uuid4().hex}", demo=False) as database, serving(database) as at:
        yield at


def test_three_clicks_from_nothing_to_a_plan_on_a_chosen_camera(empty: str, page: Page) -> None:
    page.goto(f"{empty}/shoots")
    welcome = page.get_by_role("region", name="Welcome")
    expect(welcome).to_contain_text("How do I set this camera up")
    welcome.get_by_role("button", name=re.compile("^Yawl 12")).click()
    welcome.get_by_role("button", name=re.compile("^child or pet indoors")).click()
    welcome.get_by_role("button", name="room in the evening").click()
    expect(page.get_by_role("figure", name="Gauge")).to_be_visible(timeout=30_000)
    shoots = httpx.get(f"{empty}/api/shoots", timeout=30).json()["items"]
    assert [shoot["title"] for shoot in shoots] == ["First shots"]
    shots = httpx.get(f"{empty}/api/shoots/{shoots[0]['id']}/shots", timeout=30).json()["items"]
    assert [shot["summary"]["title"] for shot in shots] == ["child or pet indoors"]
    shot = httpx.get(f"{empty}/api/shots/{shots[0]['id']}", timeout=30).json()
    assert shot["plan"]["camera"]["id"] == "yawl-12"


def test_a_shoot_that_could_not_be_filled_is_not_made_twice(empty: str, page: Page) -> None:
    page.route(re.compile("/shots/from-use$"), lambda route: route.abort())
    page.goto(f"{empty}/shoots")
    page.get_by_role("button", name=re.compile("^everyday walk")).click()
    page.get_by_role("button", name="open shade").click()
    expect(page.get_by_role("alert")).to_be_visible()
    page.unroute(re.compile("/shots/from-use$"))
    page.get_by_role("button", name="open shade").click()
    expect(page.get_by_role("figure", name="Gauge")).to_be_visible(timeout=30_000)
    assert httpx.get(f"{empty}/api/shoots", timeout=30).json()["total"] == 1


@pytest.mark.parametrize("width", [360, 768, 1024, 1280])
def test_nothing_is_cut_and_all_is_named_on_every_width(empty: str, page: Page, width: int) -> None:
    page.set_viewport_size({"width": width, "height": 800})
    page.goto(f"{empty}/shoots")
    expect(page.get_by_role("button", name=re.compile("^everyday walk"))).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= width
    assert_accessible(page)


def test_a_word_is_explained_where_it_stands_and_all_of_them_at_one_key(address: str, page: Page) -> None:
    page.goto(f"{address}/shoots")
    page.get_by_role("button", name="EV: what it means").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("dialog")).to_contain_text("a step of one doubles it")
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name="EV: what it means")).to_be_focused()
    page.keyboard.press("?")
    words = page.get_by_role("dialog").get_by_role("definition")
    said = httpx.get(f"{address}/api/glossary", timeout=30).json()
    expect(words.filter(visible=True)).not_to_have_count(0)
    for term in said["items"]:
        expect(page.get_by_role("dialog").get_by_text(term["says"], exact=True)).to_be_visible()


def test_the_demo_is_plainly_one_and_left_with_one_click(cluster: Cluster, page: Page) -> None:
    with own_database(cluster, f"leave_{uuid4().hex}") as database, serving(database) as at:
        page.goto(f"{at}/shoots")
        expect(page.get_by_role("link", name=re.compile("Frost on the flats"))).to_contain_text("demo")
        page.get_by_role("button", name="Leave the demo").click()
        expect(page.get_by_role("region", name="Welcome")).to_be_visible()
        expect(page.get_by_text("No shoot yet")).to_be_visible()
        page.get_by_role("button", name="Bring it back").click()
        expect(page.get_by_role("link", name=re.compile("Frost on the flats"))).to_be_visible()


@pytest.mark.parametrize("width", [360, 1280])
def test_the_tour_points_and_holds_nothing(address: str, page: Page, width: int) -> None:
    page.set_viewport_size({"width": width, "height": 800})
    shoot = httpx.get(f"{address}/api/shoots", timeout=30).json()["items"][0]
    shot = httpx.get(f"{address}/api/shoots/{shoot['id']}/shots", timeout=30).json()["items"][0]
    page.goto(f"{address}/shots/{shot['id']}")
    expect(page.get_by_text("Filming").first).to_be_visible()
    page.keyboard.press("?")
    page.get_by_role("button", name="Show me around the Bench").click()
    tour = page.get_by_role("region", name="Tour")
    expect(tour).to_contain_text("This sentence is the brief")
    pointed = [
        page.get_by_role("region", name="Brief"),
        page.get_by_role("list", name="Setting sheet"),
        page.get_by_role("button", name=re.compile("^Pin ")).first,
        page.get_by_role("complementary", name="Ledger"),
        page.get_by_role("figure", name="Gauge"),
        page.get_by_role("navigation", name="Stations"),
    ]
    mark = page.locator("div.pointer-events-none.border-note")
    for number, there in enumerate(pointed):
        expect(tour).to_contain_text(f"{number + 1} of 6")
        expect(there).to_be_visible()
        expect(mark).to_be_visible()
        box, marked = there.bounding_box(), mark.bounding_box()
        assert box
        assert marked
        assert abs(marked["y"] + 3 - max(box["y"], 3)) < 4
        if number == 1:
            # Nothing is held: a row opens while it is pointed at.
            row = there.get_by_role("listitem").nth(2).get_by_role("button").first
            row.click()
            expect(row).to_have_attribute("aria-expanded", "true")
            row.click()
            assert_accessible(page)
        tour.get_by_role("button", name="That was it" if number == 5 else "Next").click()
    expect(tour).to_have_count(0)


def test_a_shot_is_planned_with_a_camera_from_its_page(address: str, page: Page) -> None:
    page.goto(f"{address}/kit/cameras/cockle-3")
    page.get_by_role("link", name="Plan a shot with it").click()
    expect(page.get_by_role("heading", name="What do you film with the Cockle 3?")).to_be_visible()
    page.get_by_role("button", name=re.compile("^everyday walk")).click()
    page.get_by_role("button", name="open shade").click()
    expect(page.get_by_role("figure", name="Gauge")).to_be_visible(timeout=30_000)
    shot = page.url.rpartition("/")[2]
    assert httpx.get(f"{address}/api/shots/{shot}", timeout=30).json()["plan"]["camera"]["id"] == "cockle-3"
    httpx.delete(f"{address}/api/shots/{shot}", timeout=30).raise_for_status()
