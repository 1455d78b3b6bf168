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
