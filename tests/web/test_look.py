"""Look in a real browser: two plans, the line between them, the loupe, the light, a strip that pins, motion, files."""

from __future__ import annotations

import re
from typing import Any

import httpx
import pytest
from playwright.sync_api import Page, expect

from tests.briefs import LANTERNS
from tests.changing import changed
from tests.waiting import until
from tests.web.axe import assert_accessible
from tests.web.test_bench import make_shot

pytestmark = pytest.mark.browser
NIGHT: dict[str, Any] = {
    "title": "Punts at the wall", "light": LANTERNS, "scenario": "low_light", "pins": {"camera": "limpet-7"},
}  # fmt: skip


def open_look(page: Page, address: str, **fields: Any) -> str:
    shot = make_shot(address, **{**NIGHT, **fields})
    page.goto(f"{address}/shots/{shot}/look")
    expect(page.get_by_role("img", name=re.compile(r"^This plan\. (Left|Nobody)"))).to_be_visible(timeout=60_000)
    return shot


def drawn(page: Page, name: str) -> str:
    """The picture that a name stands for."""
    return page.get_by_role("img", name=re.compile(name)).first.get_attribute("src") or ""


def test_two_plans_stand_beside_each_other(page: Page, address: str) -> None:
    open_look(page, address)
    expect(page.get_by_role("heading", level=1)).to_contain_text("Punts at the wall")
    page.keyboard.press("o")
    page.get_by_role("dialog", name="The other plan").get_by_role("button", name=re.compile(r"^ISO.1600")).click()
    said = page.locator("aside").get_by_role("status")
    expect(said).to_contain_text(re.compile(r"Left is .*noisier"))
    table = page.get_by_role("table")
    expect(table.get_by_role("row", name=re.compile("signal to noise"))).to_contain_text("worse")
    line = page.get_by_role("slider", name="Line between the two frames")
    page.keyboard.press("l")
    expect(line).to_be_focused()
    expect(line).to_have_attribute("aria-valuenow", "50")
    page.keyboard.press("ArrowRight")
    page.keyboard.press("Shift+ArrowRight")
    expect(line).to_have_attribute("aria-valuenow", "62")
    expect(line).to_have_attribute("aria-valuetext", re.compile("62 % left, 38 % right. Left is"))
    box = line.bounding_box()
    assert box
    page.mouse.move(box["x"] + 22, box["y"] + 60)
    page.mouse.down()
    page.mouse.move(box["x"] - 200, box["y"] + 60, steps=3)
    page.mouse.up()
    expect(line).not_to_have_attribute("aria-valuenow", "62")
    page.keyboard.press("x")
    expect(line).to_have_count(0)
    assert_accessible(page)


def test_the_light_the_loupe_and_the_marks_change_what_is_drawn(page: Page, address: str) -> None:
    open_look(page, address)
    middle = drawn(page, "^This plan")
    page.keyboard.press("d")
    expect(page.get_by_role("slider", name="Moment of the light")).to_have_value("0")
    until(lambda: drawn(page, "^This plan") != middle)
    near = drawn(page, "this plan, at delivered pixels")
    page.keyboard.press("f")
    page.keyboard.press("Shift+ArrowLeft")
    expect(page.get_by_role("button", name=re.compile("^Loupe, 55 % across"))).to_be_visible()
    until(lambda: drawn(page, "this plan, at delivered pixels") != near)
    page.keyboard.press("m")
    expect(page.get_by_role("button", name="marks")).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("c")
    expect(page.get_by_role("button", name=re.compile("^as (graded|recorded)$"))).to_be_visible()


def test_a_value_of_the_strip_is_pinned_and_taken_back(page: Page, address: str) -> None:
    shot = open_look(page, address)
    strip = page.get_by_role("region", name="Strip of a dial")
    expect(strip.get_by_role("img")).to_have_count(0)  # each stands in a button that says what it is
    step = strip.get_by_role("button", name=re.compile(r"^ISO.1600,.*pin it"))
    step.click()
    expect(page.get_by_text(re.compile(r"Pinned: .*ISO.1600"))).to_be_visible()
    expect(strip.get_by_role("button", name=re.compile(r"^ISO.1600, chosen"))).to_be_visible()
    pins = httpx.get(f"{address}/api/shots/{shot}").json()["brief"]["pins"]
    assert pins["iso_ceiling"] == 1600
    # Meanwhile somebody else holds another dial: taking back touches only what was pinned here.
    changed(httpx, f"{address}/api/shots/{shot}", **{"pins.stabilisation": ["off"]}).raise_for_status()
    page.get_by_role("button", name="Undo").click()
    wanted = {"camera": "limpet-7", "stabilisation": "off"}
    until(lambda: httpx.get(f"{address}/api/shots/{shot}").json()["brief"]["pins"] == wanted)
    with page.expect_download() as told:
        strip.get_by_role("button", name="save as one sheet").click()
    assert told.value.suggested_filename.endswith(".png")


def test_by_keyboard_alone_each_stop_shows_where_one_is(page: Page, address: str) -> None:
    open_look(page, address)
    ring = """() => { const at = document.activeElement, style = getComputedStyle(at);
        const probe = document.createElement("i"); probe.style.color = "var(--note)"; document.body.append(probe);
        const note = getComputedStyle(probe).color; probe.remove();
        const said = at.getAttribute("aria-label") || at.innerText || at.tagName;
        return [said, style.outlineStyle === "solid" && style.outlineColor === note && style.outlineWidth]; }"""
    stops = []
    for _ in range(45):
        page.keyboard.press("Tab")
        stops.append(page.evaluate(ring))
        if stops[-1][0].startswith("Put both"):
            break
    assert [said for said, shown in stops if shown != "2px"] == []
    for part in ("The other plan", "Loupe", "Line between", "Moment of the light", "chosen", "Put both"):
        assert any(part in said for said, _ in stops), part


def test_motion_is_drawn_with_its_progress_and_saved(page: Page, address: str) -> None:
    open_look(page, address, delivery={"fps": 25, "width": 1280, "height": 720})
    page.keyboard.press("o")
    page.get_by_role("button", name="Look at this plan alone").click()
    expect(page.get_by_role("dialog")).to_have_count(0)  # while it is open, keys are its own
    page.keyboard.press("v")
    page.get_by_role("button", name="Draw two seconds").click()
    expect(page.get_by_role("progressbar", name="Frames drawn")).to_be_visible()
    film = page.locator("video")
    expect(film).to_be_visible(timeout=60_000)
    expect(film).to_have_js_property("readyState", 4)
    assert page.evaluate("[document.querySelector('video').videoWidth, document.querySelector('video').duration]") == [
        640, pytest.approx(2.0, abs=0.1),
    ]  # fmt: skip
    page.get_by_role("button", name="at a quarter").click()
    assert page.evaluate("document.querySelector('video').playbackRate") == 0.25
    with page.expect_download() as told:
        page.get_by_role("button", name="save MP4").click()
    assert told.value.suggested_filename == "punts-at-the-wall.mp4"
    page.get_by_role("button", name="Draw them again").click()
    page.get_by_role("button", name="Stop", exact=True).click()
    expect(page.get_by_role("button", name="Draw two seconds")).to_be_visible()


def test_the_red_ground_stays_red_unless_colours_are_asked_for(page: Page, address: str) -> None:
    open_look(page, address, title="Red punts")
    page.get_by_label("Ground").select_option("red")
    shot = page.locator(".look-picture").first.screenshot()
    red, green, blue = means(shot)
    assert red > 2.5 * green
    assert red > 2.5 * blue
    page.get_by_role("button", name="colours").click()
    _, green, blue = means(page.locator(".look-picture").first.screenshot())
    assert green > 0.3 * red
    assert blue >= 0.0


def means(png: bytes) -> tuple[float, float, float]:
    import io

    import numpy as np
    from PIL import Image

    with Image.open(io.BytesIO(png)) as image:
        found = np.asarray(image.convert("RGB"), dtype=float)
    red, green, blue = found.reshape(-1, 3).mean(axis=0)
    return float(red), float(green), float(blue)


def test_the_bench_shows_a_small_frame_that_follows(page: Page, address: str) -> None:
    shot = make_shot(address, **{**NIGHT, "title": "Small punts"})
    page.goto(f"{address}/shots/{shot}")
    page.get_by_role("group", name="Pictures of the shot").get_by_role("button", name="look").click()
    frame = page.get_by_role("img", name=re.compile("^A drawn frame of this plan"))
    expect(frame).to_be_visible(timeout=60_000)
    before = drawn(page, "^A drawn frame of this plan")
    page.keyboard.press("t")
    page.locator("[data-row=shutter]").get_by_role("button", name=re.compile(r"^1.100\W")).click()
    until(lambda: drawn(page, "^A drawn frame of this plan") != before)
    page.get_by_role("link", name="Look at it beside another plan").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("What Small punts would look like")


def test_a_still_of_ones_own_is_a_scene(page: Page, address: str) -> None:
    import io

    from PIL import Image

    open_look(page, address, title="Own still")
    page.get_by_role("button", name=re.compile("^Scene:")).click()
    out = io.BytesIO()
    Image.new("RGB", (320, 180), (150, 120, 90)).save(out, "PNG")
    dialog = page.get_by_role("dialog", name="Scene")
    dialog.get_by_label("distance").fill("x")
    expect(dialog.get_by_role("alert")).to_contain_text("Type a distance")
    dialog.get_by_label("distance").fill("3,5")
    dialog.get_by_label("A still of your own").set_input_files(
        {"name": "slipway.png", "mimeType": "image/png", "buffer": out.getvalue()}
    )
    expect(page.get_by_role("button", name="Scene: slipway.png")).to_be_visible()
    dialog.get_by_role("button", name="Discard slipway.png").click()
    expect(dialog.get_by_role("button", name="Discard slipway.png")).to_have_count(0)


def test_frames_stand_on_the_card_and_in_its_file(page: Page, address: str) -> None:
    shot = open_look(page, address, title="Carded punts")
    page.get_by_role("button", name="Put both on the card").click()
    page.get_by_role("status").get_by_role("link", name="card").click()
    frames = page.get_by_role("region", name="As it should look").get_by_role("img")
    expect(frames).to_have_count(2)
    expect(frames.first).to_have_attribute("alt", re.compile(r"^this plan\. ISO.\d+ · 1/\d+"))
    part = page.get_by_role("region", name="As it should look")
    for width in (360, 1280):  # of its own shape, and nothing lies over its words
        page.set_viewport_size({"width": width, "height": 780})
        for one in frames.all():
            box = one.bounding_box()
            assert box is not None
            assert box["width"] / box["height"] == pytest.approx(16 / 9, rel=0.03)
        below = part.evaluate("e => e.getBoundingClientRect().bottom - e.scrollHeight - e.getBoundingClientRect().top")
        assert abs(below) < 1
    file = httpx.get(f"{address}/api/shots/{shot}/card.html").text
    assert file.count("data:image/webp;base64,") == 2
    page.set_content(file)
    assert page.evaluate("[...document.querySelectorAll('.frames img')].map(i => i.complete)") == [True, True]
    paper = httpx.get(f"{address}/api/shots/{shot}/card.pdf", timeout=60)
    assert paper.content.startswith(b"%PDF")
    page.goto(f"{address}/shots/{shot}/look")
    page.get_by_role("button", name="Put both on the card").click()
    page.get_by_role("button", name="Take off").click()
    expect(page.get_by_text("Taken off the card.")).to_be_visible()
    assert httpx.get(f"{address}/api/shots/{shot}/card").json()["frames"] == []
