"""The Card under a thumb, without a connection, on paper and as a file, in a real browser."""

from __future__ import annotations

import io
import re
from collections.abc import Iterator
from pathlib import Path

import httpx
import pytest
from playwright.sync_api import Browser, Page, expect
from pypdf import PdfReader

from tests.web.axe import assert_accessible
from tests.web.test_outside import copy, demo_id, until
from tests.web.test_stations import demo_shot

__all__ = ["copy"]
pytestmark = pytest.mark.browser


@pytest.fixture
def phone(chromium: Browser) -> Iterator[Page]:
    context = chromium.new_context(viewport={"width": 360, "height": 740}, has_touch=True, accept_downloads=True)
    page = context.new_page()
    wrong: list[str] = []
    page.on("pageerror", lambda error: wrong.append(str(error)))
    yield page
    context.close()
    assert wrong == []


def test_the_card_on_a_phone_marks_what_to_change(phone: Page, address: str) -> None:
    phone.goto(f"{address}/shots/{demo_shot(address, 'The sunken punt')}/card")
    card = phone.get_by_label("Field card")
    expect(card).to_contain_text(re.compile(r"From (preset|“).*change \d"))
    marked = card.get_by_role("button", name=re.compile(r"change$"))
    assert marked.count() == int(re.search(r"change (\d+)", card.inner_text()).group(1))  # type: ignore[union-attr]
    assert phone.evaluate("document.documentElement.scrollWidth") == 360
    for target in [*card.get_by_role("button").all(), *card.get_by_role("checkbox").all()]:
        box = target.locator("xpath=ancestor-or-self::*[self::button or self::label]").last.bounding_box()
        assert box
        assert box["height"] >= 44, "a thumb needs room"
    assert_accessible(phone)


def test_ticks_and_what_was_set_wait_for_the_connection(phone: Page, address: str, copy: str) -> None:
    shots = httpx.get(f"{address}/api/shoots/{copy}/shots").json()["items"]
    shot = next(entry["id"] for entry in shots if entry["summary"]["title"] == "Rows of eelgrass")
    at = f"{address}/api/shots/{shot}/outside"
    phone.goto(f"{address}/shots/{shot}/card")
    phone.get_by_label("rig tethered").check()
    until(lambda: httpx.get(at).json()["ticks"].get("tether") is True)
    phone.route("**/outside", lambda route: route.abort())
    phone.get_by_label("rig tethered").uncheck()
    phone.get_by_label("lens clean, looked at against the light").check()
    phone.get_by_role("button", name="Shutter 1/100").click()
    phone.get_by_label(re.compile("what I really set")).fill("1/120 s")
    phone.get_by_role("button", name="Keep", exact=True).click()
    expect(phone.get_by_text("set: 1/120 s")).to_be_visible()
    expect(phone.get_by_text("waits for the connection")).to_be_visible()
    assert httpx.get(at).json() == {"ticks": {"tether": True}, "really_set": {}}
    phone.unroute("**/outside")
    expect(phone.get_by_text("waits for the connection")).to_have_count(0)
    assert httpx.get(at).json() == {"ticks": {"lens": True}, "really_set": {"shutter_s": "1/120 s"}}
    phone.reload()
    expect(phone.get_by_text("set: 1/120 s")).to_be_visible()
    expect(phone.get_by_label("rig tethered")).not_to_be_checked()
    phone.get_by_role("button", name="Shutter 1/100").click()
    phone.get_by_role("button", name="As planned").click()
    expect(phone.get_by_text("set: 1/120 s")).to_have_count(0)


def test_what_waited_through_a_closed_page_is_handed_over(phone: Page, address: str, copy: str) -> None:
    shot = httpx.get(f"{address}/api/shoots/{copy}/shots").json()["items"][0]["id"]
    phone.goto(f"{address}/shots/{shot}/card")
    phone.get_by_label("Field card").wait_for()
    phone.route("**/outside", lambda route: route.abort())
    phone.get_by_label("lens clean, looked at against the light").check()
    expect(phone.get_by_text("waits for the connection")).to_be_visible()
    phone.unroute("**/outside")
    phone.goto(f"{address}/shoots")
    phone.goto(f"{address}/shots/{shot}/card")
    expect(phone.get_by_label("lens clean, looked at against the light")).to_be_checked()
    until(lambda: httpx.get(f"{address}/api/shots/{shot}/outside").json()["ticks"].get("lens") is True)


def test_a_thumb_walks_from_card_to_card_and_keys_do_too(phone: Page, address: str) -> None:
    phone.goto(f"{address}/shots/{demo_shot(address, 'Wren walks the quay')}/card")
    phone.get_by_role("button", name="Next").click()
    expect(phone.get_by_role("heading", name="Mud race on the flats")).to_be_visible()
    expect(phone.get_by_text("3 of 12")).to_be_visible()
    phone.keyboard.press("b")
    expect(phone.get_by_role("heading", name="Wren walks the quay")).to_be_visible()
    phone.get_by_role("button", name="Previous", exact=True).click()
    expect(phone.get_by_role("heading", name="Mill wheel, first light")).to_be_visible()
    expect(phone.get_by_role("button", name="Previous", exact=True)).to_be_disabled()


def test_cards_are_saved_for_shot_camera_and_shoot(page: Page, address: str) -> None:
    page.goto(f"{address}/shots/{demo_shot(address, 'Rows of eelgrass')}/card")
    for which, pages in (("This shot", 1), ("Limpet 7’s day", 9), ("Whole shoot", 13)):
        page.get_by_text(which).click()
        page.get_by_label("Paper").select_option("a5")
        with page.expect_download() as got:
            page.get_by_role("link", name="Save as PDF").click()
        assert len(PdfReader(io.BytesIO(got.value.path().read_bytes())).pages) == pages, which
        assert "a5" in got.value.suggested_filename


def test_the_saved_day_works_without_a_network_and_remembers(chromium: Browser, address: str, tmp_path: Path) -> None:
    file = tmp_path / "cards.html"
    file.write_text(httpx.get(f"{address}/api/shoots/{demo_id(address)}/cards.html", timeout=60).text)
    context = chromium.new_context(viewport={"width": 360, "height": 740}, offline=True)
    page = context.new_page()
    page.goto(f"file://{file}")
    page.get_by_role("link", name=re.compile("Rows of eelgrass")).click()
    expect(page.get_by_role("heading", name="Rows of eelgrass")).to_be_visible()
    expect(page.get_by_role("heading", name="Harrow Fleet, first flood")).to_be_hidden()
    shown = page.locator("article.on")
    shown.get_by_label("rig tethered").check()
    page.get_by_role("button", name="Red").click()
    assert page.evaluate("document.documentElement.scrollWidth") == 360
    page.get_by_role("link", name="Next").click()
    expect(page.get_by_role("heading", name="The sunken punt")).to_be_visible()
    page.reload()
    page.get_by_role("link", name="Previous").click()
    expect(shown.get_by_label("rig tethered")).to_be_checked()
    expect(page.locator("html[data-ground=red]")).to_have_count(1)
    context.close()
