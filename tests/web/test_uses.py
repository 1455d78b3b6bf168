"""Usual uses in the browser: a shot by two choices, presets for a year, the set-up pass, by keyboard and on every width."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any

import httpx
import pytest
from playwright.sync_api import Page, expect

from steady_tide.launch.cluster import Cluster
from tests.service import own_database, serving
from tests.waiting import until
from tests.web.axe import assert_accessible
from tests.web.slow import slow

pytestmark = pytest.mark.browser


@pytest.fixture(scope="module")
def uses_at(cluster: Cluster) -> Iterator[str]:
    with own_database(cluster, "uses_web") as database, serving(database) as at:
        yield at


def uses(at: str) -> dict[str, Any]:
    return {one["id"]: one for one in httpx.get(f"{at}/api/uses", timeout=30).json()["items"]}


def test_a_shot_begins_with_what_and_where_in_three_clicks(uses_at: str, page: Page) -> None:
    shoot = httpx.post(f"{uses_at}/api/shoots", json={"title": "Out", "mains_hz": 50}, timeout=30).json()["id"]
    page.goto(f"{uses_at}/shoots/{shoot}")
    # From now on the button stays where it is.
    expect(page.get_by_text("Nothing is planned for this day yet.")).to_be_visible()
    page.get_by_role("button", name="New shot").click()
    page.get_by_role("region", name="A new shot").get_by_role("button", name=re.compile("^street at night")).click()
    page.get_by_role("button", name="lamp-lit road").click()
    expect(page.get_by_role("figure", name="Gauge")).to_be_visible(timeout=30_000)
    expect(page.get_by_role("heading", name="street at night")).to_be_visible()


def test_the_same_by_keyboard_alone(uses_at: str, page: Page) -> None:
    shoot = httpx.post(f"{uses_at}/api/shoots", json={"title": "By keys"}, timeout=30).json()["id"]
    page.goto(f"{uses_at}/shoots/{shoot}")
    expect(page.get_by_role("button", name="New shot")).to_be_visible()
    page.keyboard.press("n")
    expect(page.get_by_label("Find a use")).to_be_focused()
    page.keyboard.type("stars")
    expect(page.get_by_role("button", name=re.compile("^night sky"))).to_be_visible()
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="starlight")).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="night sky")).to_be_visible(timeout=30_000)


def test_what_is_chosen_gets_presets_and_a_card_that_is_ticked_through(uses_at: str, page: Page) -> None:
    slow(page, "/uses/set-up/", "POST")
    page.goto(f"{uses_at}/uses")
    page.get_by_role("checkbox", name=re.compile("^everyday walk")).check()
    often = page.get_by_label("street at night, times a year")
    often.fill("90")
    often.press("Enter")
    until(lambda: uses(uses_at)["night_street"]["per_year"] == 90 and uses(uses_at)["night_street"]["chosen"])
    expect(page.get_by_text("2 uses, 150 times a year.")).to_be_visible()
    camera = page.get_by_role("region", name="Limpet 7")
    expect(camera).to_contain_text("taps in a year", timeout=40_000)
    expect(camera).to_contain_text("no choice takes fewer")
    camera.get_by_text("what sharing a preset would cost").click()
    expect(camera).to_contain_text(
        re.compile(r"street at night with preset \d, .*as it is stored: [\d.]+ stops more"), timeout=40_000
    )
    camera.get_by_role("link", name="set it up").click()
    expect(page.get_by_role("heading", name="Limpet 7, set up once")).to_be_visible()
    page.get_by_role("checkbox", name="clock and time zone done").check()
    expect(page.get_by_text(re.compile(r"^1 of \d+ done"))).to_be_visible()
    page.reload()  # at once: what was ticked is handed over afterwards
    expect(page.get_by_role("checkbox", name="clock and time zone done")).to_be_checked()
    with page.expect_download() as brought:
        page.get_by_role("link", name="On paper").click()
    assert brought.value.suggested_filename == "set-up-limpet-7.pdf"
    page.get_by_role("button", name="Begin anew").click()
    expect(page.get_by_role("checkbox", name="clock and time zone done")).not_to_be_checked()


def test_two_stand_side_by_side_at_an_address_of_their_own(uses_at: str, page: Page) -> None:
    page.goto(f"{uses_at}/uses")
    page.get_by_role("link", name="Two side by side").click()
    page.get_by_label("camera", exact=True).select_option(label="Limpet 7")
    page.get_by_label("one", exact=True).select_option(label="everyday walk")
    page.get_by_label("other", exact=True).select_option(label="snorkel")
    expect(page.get_by_role("row", name=re.compile("^frame rate 25.fps .* 50.fps"))).to_be_visible(timeout=30_000)
    page.reload()
    expect(page.get_by_text("With the settings of “everyday walk”, “snorkel” gives up")).to_be_visible()
    page.get_by_label("camera", exact=True).select_option(label="Sandpiper 2")
    expect(page.get_by_role("alert")).to_be_visible(timeout=30_000)


def test_a_shot_is_kept_as_a_use_of_ones_own_and_removed_again(uses_at: str, page: Page) -> None:
    first = httpx.get(f"{uses_at}/api/shoots", timeout=30).json()["items"][0]["id"]
    page.goto(f"{uses_at}/shoots/{first}")
    page.get_by_role("button", name="Add Salt-glazed jar to the uses").click()
    page.get_by_role("dialog").get_by_label("Name of the use").fill("Jars for the shop")
    page.get_by_role("dialog").get_by_role("button", name="Keep it as a use").click()
    page.get_by_role("dialog").get_by_role("link", name="shelf of usual uses").click()
    expect(page.get_by_role("checkbox", name=re.compile("^Jars for the shop"))).to_be_checked()
    page.get_by_role("button", name="Remove Jars for the shop").click()
    expect(page.get_by_text("“Jars for the shop” was removed.")).to_be_visible()


@pytest.mark.parametrize("width", [360, 768, 1024, 1280])
@pytest.mark.parametrize("view", ["uses", "uses/limpet-7", "uses/beside?camera=limpet-7"])
def test_the_views_fit_and_can_be_used_by_all(uses_at: str, page: Page, view: str, width: int) -> None:
    page.set_viewport_size({"width": width, "height": 800})
    page.goto(f"{uses_at}/{view}")
    expect(page.get_by_role("heading", level=2).first).to_be_visible()
    page.wait_for_load_state("networkidle")
    assert page.evaluate("document.documentElement.scrollWidth") <= width
    assert_accessible(page)
