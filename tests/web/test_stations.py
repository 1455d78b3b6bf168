"""Shoots, Card, grounds, fonts, accessibility and the offline file, in a real browser."""

from __future__ import annotations

import re
from pathlib import Path
from uuid import uuid4

import httpx
import pytest
from playwright.sync_api import Browser, Page, Route, expect

from steady_tide import library
from tests.briefs import PUNTS
from tests.web.axe import assert_accessible
from tests.web.test_bench import make_shot, open_bench

pytestmark = pytest.mark.browser


def demo_shot(address: str, title: str) -> str:
    for shoot in httpx.get(f"{address}/api/shoots").json()["items"]:
        for shot in httpx.get(f"{address}/api/shoots/{shoot['id']}/shots").json()["items"]:
            if shot["summary"]["title"] == title:
                return str(shot["id"])
    raise LookupError(title)


def test_every_station_is_accessible_and_shows_every_ground(page: Page, address: str) -> None:
    shot = demo_shot(address, "Lantern punts")
    page.goto(f"{address}/shoots")
    read = "name => getComputedStyle(document.documentElement).getPropertyValue('--' + name).trim()"
    for ground, colours in library.palette().grounds.items():
        if ground == "print":
            continue
        page.get_by_label("Ground").select_option(ground)
        assert {name: page.evaluate(read, name) for name in colours} == colours
    page.get_by_label("Ground").select_option("day")
    page.get_by_role("link", name="Lantern punts", exact=True).wait_for()
    assert_accessible(page)
    open_bench(page, address, shot)
    page.keyboard.press("g")
    assert_accessible(page)
    page.locator("[data-token=light]").click()
    page.get_by_role("dialog").wait_for()
    assert_accessible(page)
    page.goto(f"{address}/shots/{shot}/card")
    page.get_by_label("Field card").wait_for()
    assert_accessible(page)


def test_the_ground_is_remembered_before_the_first_paint(page: Page, address: str) -> None:
    page.goto(f"{address}/shoots")
    page.get_by_label("Ground").select_option("red")
    page.reload(wait_until="commit")
    page.wait_for_selector("html[data-ground=red]")
    expect(page.get_by_label("Ground")).to_have_value("red")


def test_fonts_come_with_the_product_and_nothing_from_outside(page: Page, address: str) -> None:
    asked: list[str] = []
    page.on("request", lambda request: asked.append(request.url))
    open_bench(page, address, demo_shot(address, "Lantern punts"))
    assert all(url.startswith((address, "data:")) for url in asked)
    page.evaluate("document.fonts.ready.then(() => true)")
    session = page.context.new_cdp_session(page)
    session.send("DOM.enable")
    session.send("CSS.enable")
    root = session.send("DOM.getDocument")["root"]["nodeId"]
    for selector, family in (
        ("#sentence .token", "Besley"),
        ("[data-testid=value-frame]", "Atkinson Hyperlegible Next"),
    ):
        node = session.send("DOM.querySelector", {"nodeId": root, "selector": selector})["nodeId"]
        fonts = session.send("CSS.getPlatformFontsForNode", {"nodeId": node})["fonts"]
        assert fonts
        assert all(font["isCustomFont"] and font["familyName"].startswith(family) for font in fonts), fonts


def test_the_first_view_is_light(page: Page, address: str) -> None:
    sizes: dict[str, int] = {}

    def note(response: object) -> None:
        url = response.url  # type: ignore[attr-defined]
        if url.endswith(".js"):
            sizes[url] = len(response.body())  # type: ignore[attr-defined]

    page.on("response", note)
    open_bench(page, address, demo_shot(address, "Lantern punts"))
    import gzip

    compressed = sum(len(gzip.compress(httpx.get(url).content)) for url in sizes)
    assert 50_000 < compressed < 200_000


def test_a_day_from_nothing_to_a_card(page: Page, address: str) -> None:
    page.goto(f"{address}/shoots")
    page.get_by_role("button", name="New shoot").click()
    page.get_by_label("Name").fill("Neap tide walk")
    page.get_by_role("textbox", name="Day").fill("2026-12-05")
    page.get_by_role("button", name="Keep").click()
    expect(page.get_by_role("heading", name="Neap tide walk")).to_be_visible()
    expect(page.get_by_text("Nothing is planned for this day yet")).to_be_visible()
    page.keyboard.press("n")
    page.get_by_role("button", name=re.compile("^everyday walk")).click()
    page.get_by_role("button", name="open shade").click()
    expect(page.get_by_role("figure", name="Gauge")).to_be_visible(timeout=30_000)
    page.locator("[data-token=title]").click()
    page.get_by_label("What is filmed").fill("Heron on the sluice")
    page.keyboard.press("Escape")
    expect(page.get_by_test_id("saving")).to_contain_text(re.compile(r"^saved \d"))
    page.get_by_role("navigation").get_by_role("link", name="Card").click()
    expect(page.get_by_role("heading", name="Heron on the sluice")).to_be_visible()
    page.get_by_role("navigation").get_by_role("link", name="Shoots").click()
    row = page.get_by_role("row", name=re.compile("Heron on the sluice"))
    expect(row).to_contain_text("25\u202ffps")
    page.get_by_role("button", name="Remove Heron on the sluice").click()
    expect(row).to_have_count(0)
    page.get_by_role("button", name="Bring it back").click()
    expect(row).to_have_count(1)


def test_times_are_shown_in_the_shoots_zone(page: Page, address: str) -> None:
    page.goto(f"{address}/shoots")
    row = page.get_by_role("row", name=re.compile("Mud race on the flats"))
    expect(row.get_by_label("Mud race on the flats, start")).to_have_value("10:12")


def test_the_card_on_a_phone_with_one_thumb(chromium: Browser, address: str) -> None:
    context = chromium.new_context(viewport={"width": 360, "height": 740}, has_touch=True)
    try:
        page = context.new_page()
        page.goto(f"{address}/shots/{make_shot(address, **PUNTS)}/card")
        check = page.get_by_role("checkbox").first
        check.wait_for()
        assert page.evaluate("document.documentElement.scrollWidth") <= 360
        for box in page.get_by_label("Field card").locator("label").all():
            size = box.bounding_box()
            assert size
            assert size["height"] >= 44
        check.tap()
        page.reload()
        expect(page.get_by_role("checkbox").first).to_be_checked()
    finally:
        context.close()


def test_the_card_prints_on_one_page(page: Page, address: str) -> None:
    page.goto(f"{address}/shots/{demo_shot(address, 'Along the punts, camera in hand')}/card")
    page.get_by_label("Field card").wait_for()
    for size in ("A5", "A4", "Letter"):
        assert len(re.findall(rb"/Type\s*/Page\b", page.pdf(format=size))) == 1, size


def test_the_saved_file_opens_without_a_network_and_remembers(
    page: Page, chromium: Browser, address: str, tmp_path: Path
) -> None:
    page.goto(f"{address}/shots/{demo_shot(address, 'Along the punts, camera in hand')}/card")
    with page.expect_download() as waiting:
        page.get_by_role("link", name="Save as a file").click()
    file = tmp_path / waiting.value.suggested_filename
    waiting.value.save_as(file)
    assert file.name == "along-the-punts-camera-in-hand.html"
    context = chromium.new_context(viewport={"width": 360, "height": 740}, offline=True)
    try:
        alone = context.new_page()
        asked: list[str] = []
        alone.on("request", lambda request: asked.append(request.url))
        alone.goto(file.as_uri())
        expect(alone.get_by_role("heading", name="Along the punts, camera in hand")).to_be_visible()
        assert [url for url in asked if not url.startswith(("file:", "data:"))] == []
        alone.get_by_role("checkbox").nth(1).check()
        alone.get_by_role("button", name="Red").click()
        alone.evaluate("localStorage.clear()")  # as if the page came again before the browser had written it
        alone.reload()
        expect(alone.get_by_role("checkbox").nth(1)).to_be_checked()
        expect(alone.locator("html")).to_have_attribute("data-ground", "red")
        alone.get_by_role("checkbox").nth(0).check()
        alone.wait_for_function("Object.values(localStorage).some((kept) => kept.includes('ticks'))")
        again = context.new_page()
        for _ in range(50):
            again.goto(file.as_uri())
            if again.get_by_role("checkbox").nth(0).is_checked():
                break
            # A window that is open already may have an older storage at hand: it is opened anew, as a person does.
            again.close()
            alone.wait_for_timeout(100)
            again = context.new_page()
        expect(again.get_by_role("checkbox").nth(0)).to_be_checked()
        expect(again.get_by_role("checkbox").nth(1)).to_be_checked()
        assert alone.evaluate("document.documentElement.scrollWidth") <= 360
        assert len(re.findall(rb"/Type\s*/Page\b", alone.pdf(format="A5"))) == 1
    finally:
        context.close()


def test_a_shot_that_is_gone_says_so(page: Page, address: str) -> None:
    page.goto(f"{address}/shots/00000000-0000-0000-0000-000000000000")
    expect(page.get_by_role("alert")).to_contain_text("There is no shot")
    page.goto(f"{address}/nowhere")
    expect(page.get_by_text("There is nothing here")).to_be_visible()


def test_a_new_shoot_is_never_shown_as_another_while_the_list_is_read(page: Page, address: str) -> None:
    page.goto(f"{address}/shoots")
    page.get_by_role("button", name="New shot").wait_for()
    held: list[Route] = []
    page.route(
        "**/api/shoots", lambda route: held.append(route) if route.request.method == "GET" else route.continue_()
    )
    page.get_by_role("button", name="New shoot").click()
    page.get_by_label("Name", exact=True).fill("Just made")
    page.get_by_role("button", name="Keep", exact=True).click()
    page.wait_for_url(re.compile(r"/shoots/[0-9a-f-]{36}$"))
    expect(page.get_by_text("Loading the shoot.")).to_be_visible()
    expect(page.get_by_role("button", name="New shot")).to_have_count(0)
    for route in held:
        route.continue_()
    page.unroute("**/api/shoots")
    expect(page.get_by_role("heading", name="Just made")).to_be_visible()
    page.goto(f"{address}/shoots/{uuid4()}")
    expect(page.get_by_text("There is no such shoot.")).to_be_visible()


def test_a_station_that_cannot_be_loaded_says_so_and_can_be_tried_again(page: Page, address: str) -> None:
    page.route("**/assets/kit-*.js", lambda route: route.abort())
    page.goto(f"{address}/shoots")
    page.get_by_role("link", name="Kit", exact=True).click()
    told = page.get_by_role("alert")
    expect(told).to_contain_text("could not be loaded. Is it still running?")
    expect(page.get_by_role("link", name="Shoots")).to_be_visible()
    page.unroute("**/assets/kit-*.js")
    told.get_by_role("button", name="Try again").click()
    expect(page.get_by_role("heading", name="Kit")).to_be_visible()
