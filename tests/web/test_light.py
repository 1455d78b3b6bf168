"""The light in a real browser: the strip in Shoots, pictures on the Bench, readings, tracks and dives."""

from __future__ import annotations

import re
from io import BytesIO
from pathlib import Path
from typing import Any

import httpx
import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import Page, expect

from tests.briefs import EELGRASS, JAR, QUAY
from tests.web.axe import assert_accessible
from tests.web.test_bench import kept, make_shot, open_bench, saved, token, value

pytestmark = pytest.mark.browser
DEMO = Path(__file__).parents[2] / "steady_tide" / "demo"
PLACE = {"zone": "Europe/London", "day": "2027-10-11", "latitude": 52.06, "longitude": 1.31, "cloud": "clear"}
SKY = {
    "kind": "sky",
    "latitude": 52.06,
    "longitude": 1.31,
    "start": "2027-10-11T10:00:00Z",
    "end": "2027-10-11T10:30:00Z",
    "cloud": "clear",
    "shade": "open",
}


def placed(address: str, **brief: Any) -> tuple[str, str]:
    """A shoot with a place and a shot at eleven. Returns both ids."""
    shoot = httpx.post(f"{address}/api/shoots", json={"title": "A placed day", **PLACE}).json()["id"]
    body = {"brief": {"title": "Walk", **QUAY, "light": SKY, **brief}, "starts_at": "2027-10-11T10:00:00Z"}
    shot = httpx.post(f"{address}/api/shoots/{shoot}/shots", json=body, timeout=20).json()["id"]
    return shoot, shot


def test_a_shot_is_chosen_dragged_and_put_back_on_the_strip(page: Page, address: str) -> None:
    shoot, shot = placed(address)
    page.goto(f"{address}/shoots/{shoot}")
    block = page.get_by_role("slider", name="Walk, start")
    block.focus()
    says = page.get_by_test_id("strip-says")
    expect(says).to_contain_text(
        re.compile(
            r"Walk, sky of EV 1\d\.\d and 5\d00.K\. If it comes early or late: .*ND 8 from \d\d:\d\d.*after \d\d:\d\d too dark"
        )
    )
    expect(page.locator("[data-glass='ND 64']")).to_have_count(1)
    expect(page.get_by_role("row").filter(has_text="Walk")).to_contain_text("ND 64"), "strip and sheet"
    box = block.bounding_box()
    assert box
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 150, y, steps=4)
    expect(says).to_contain_text(re.compile("stops given up"), timeout=10_000)
    page.mouse.up()
    expect(says).to_contain_text("Moved to")
    moved = httpx.get(f"{address}/api/shots/{shot}").json()
    assert moved["starts_at"] > "2027-10-11T11:30"
    assert moved["brief"]["light"]["start"] == moved["starts_at"]
    page.get_by_role("button", name="put it back").click()
    expect(block).to_have_attribute("aria-valuetext", re.compile("^11:00"))
    assert httpx.get(f"{address}/api/shots/{shot}").json()["brief"]["light"]["start"] == SKY["start"]


def test_a_start_is_typed_in_the_list_and_taken_back(page: Page, address: str) -> None:
    shoot, shot = placed(address)
    page.goto(f"{address}/shoots/{shoot}")
    field = page.get_by_label("Walk, start", exact=True).and_(page.locator("input"))
    expect(field).to_have_value("11:00")
    field.fill("25")
    field.press("Tab")
    expect(page.get_by_role("alert")).to_contain_text("Such as 9:53")
    field.fill("9.53")
    field.press("Enter")
    expect(page.get_by_test_id("strip-says")).to_contain_text("Moved to 09:53")
    moved = httpx.get(f"{address}/api/shots/{shot}").json()
    assert moved["brief"]["light"]["start"] == moved["starts_at"] == "2027-10-11T08:53:00Z"
    expect(page.get_by_role("slider", name="Walk, start")).to_have_attribute("aria-valuetext", re.compile("^09:53"))
    page.get_by_role("button", name="put it back").click()
    expect(field).to_have_value("11:00")


def test_a_shot_without_a_time_waits_at_the_edge_and_is_drawn_onto_the_day(page: Page, address: str) -> None:
    shoot, _ = placed(address)
    body = {"brief": {"title": "Gulls", **QUAY, "light": {"kind": "place", "place": "full_sun"}}}
    shot = httpx.post(f"{address}/api/shoots/{shoot}/shots", json=body, timeout=20).json()["id"]
    page.goto(f"{address}/shoots/{shoot}")
    block = page.get_by_role("slider", name="Gulls, start")
    expect(block).to_have_attribute("aria-valuetext", "no time on this day")
    box, walk = block.bounding_box(), page.get_by_role("slider", name="Walk, start").bounding_box()
    assert box
    assert walk
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(walk["x"] + walk["width"] / 2, walk["y"], steps=6)
    page.mouse.up()
    expect(page.get_by_test_id("strip-says")).to_contain_text(re.compile(r"Moved to 1[01]:\d\d"))
    assert httpx.get(f"{address}/api/shots/{shot}").json()["starts_at"]
    page.get_by_role("button", name="put it back").click()
    expect(block).to_have_attribute("aria-valuetext", "no time on this day")
    block.focus()
    expect(page.get_by_test_id("strip-says")).to_contain_text("its filter is the same at any hour of such light")


def test_a_long_take_into_the_night_has_its_length_on_a_longer_day(page: Page, address: str) -> None:
    shoot, _ = placed(address)
    brief = {"title": "Stars", "scenario": "lapse", "light": {"kind": "place", "place": "starlight"}}
    brief |= {"take": {"length_s": 6 * 3600}, "camera_move": {"mount": "tripod"}}
    body = {"brief": brief, "starts_at": "2027-10-11T20:30:00Z"}
    shot = httpx.post(f"{address}/api/shoots/{shoot}/shots", json=body, timeout=20).json()["id"]
    page.goto(f"{address}/shoots/{shoot}")
    bar = page.locator(f"[data-lasts='{shot}']")
    strip = page.get_by_role("figure", name="Light through the day")
    expect(strip).to_contain_text("03")
    long, hour = bar.bounding_box(), page.get_by_role("slider", name="Walk, start").bounding_box()
    begun = page.get_by_role("slider", name="Stars, start").bounding_box()
    assert long
    assert hour
    assert begun
    an_hour = (begun["x"] - hour["x"]) / 10.5  # eleven to half past nine
    assert long["width"] / an_hour == pytest.approx(6 + 10 / 60, abs=0.25), "six hours, and ten minutes of waiting"


LABELS_AND_LINES = """() => {
  const strip = document.querySelector('figure[aria-label="Light through the day"] svg');
  const box = element => { const r = element.getBoundingClientRect(); return [r.left, r.top, r.right, r.bottom]; };
  const lines = [...strip.querySelectorAll('[data-stem]')].map(box);
  const labels = [...strip.querySelectorAll('[data-name]')].map(box);
  const meet = (a, b, by) => a[0] + by < b[2] && b[0] + by < a[2] && a[1] + by < b[3] && b[1] + by < a[3];
  const crossed = labels.flatMap((label, n) => lines.filter((line, m) => m !== n && meet(label, line, 0.5)));
  const written = labels.flatMap((label, n) => labels.slice(n + 1).filter(other => meet(label, other, 0.5)));
  return [labels.length, crossed.length, written.length];
}"""


@pytest.mark.parametrize("width", [1280, 1024, 768, 360])
def test_no_name_lies_on_a_line_or_on_another(page: Page, address: str, width: int) -> None:
    page.set_viewport_size({"width": width, "height": 800})
    demo = next(s for s in httpx.get(f"{address}/api/shoots").json()["items"] if s["title"].startswith("Harrow"))
    page.goto(f"{address}/shoots/{demo['id']}")
    expect(page.get_by_role("slider", name="Stars over the sluice, start")).to_be_visible()
    page.wait_for_timeout(200)
    count, crossed, written = page.evaluate(LABELS_AND_LINES)
    assert count >= 12
    assert (crossed, written) == (0, 0)


def test_a_start_is_typed_on_the_bench_and_the_light_moves_along(page: Page, address: str) -> None:
    _, shot = placed(address)
    open_bench(page, address, shot)
    expect(token(page, "start")).to_have_text("at 11:00")
    token(page, "start").click()
    page.get_by_label("The shot begins, Europe/London, time").fill("1605")
    page.keyboard.press("Enter")
    expect(token(page, "light")).to_have_text("under a clear sky, 16:05 to 16:35")
    page.keyboard.press("Escape")
    saved(page)
    now = httpx.get(f"{address}/api/shots/{shot}").json()
    assert now["starts_at"] == now["brief"]["light"]["start"] == "2027-10-11T15:05:00Z"
    # The other way round: the light's own begin is the shot's.
    token(page, "light").click()
    page.get_by_label("From, Europe/London, time").fill("9:00")
    page.keyboard.press("Enter")
    expect(token(page, "start")).to_have_text("at 09:00")
    # Half of a span is not sent.
    asked: list[str] = []
    page.on("response", lambda answer: asked.append(f"{answer.status} {answer.url}"))
    page.get_by_label("To, day").fill("2027-10-10")
    expect(page.get_by_role("alert")).to_contain_text("end before it begins")
    page.get_by_label("To, day").fill("2027-10-11")
    page.get_by_label("To, time").fill("17:00")
    page.keyboard.press("Enter")
    expect(token(page, "light")).to_have_text("under a clear sky, 09:00 to 17:00")
    page.keyboard.press("Escape")
    saved(page)
    assert not [line for line in asked if line.startswith("4")]


def test_undo_survives_a_reload(page: Page, address: str) -> None:
    _, shot = placed(address)
    open_bench(page, address, shot)
    token(page, "title").click()
    page.get_by_label("What is filmed").fill("Walk to the mill")
    page.keyboard.press("Escape")
    token(page, "start").click()
    page.get_by_label("The shot begins, Europe/London, time").fill("12:30")
    page.keyboard.press("Enter")
    page.keyboard.press("Escape")
    expect(token(page, "start")).to_have_text("at 12:30")
    saved(page)
    page.reload()
    expect(page.get_by_role("figure", name="Gauge")).to_be_visible()
    page.get_by_role("button", name="undo").click()
    expect(token(page, "start")).to_have_text("at 11:00")
    page.get_by_role("button", name="undo").click()
    expect(token(page, "title")).to_have_text("Walk")
    page.get_by_role("button", name="redo").click()
    expect(token(page, "title")).to_have_text("Walk to the mill")
    saved(page)
    assert httpx.get(f"{address}/api/shots/{shot}").json()["starts_at"] == "2027-10-11T10:00:00Z"


def test_a_shot_is_moved_by_the_arrow_keys(page: Page, address: str) -> None:
    shoot, shot = placed(address)
    page.goto(f"{address}/shoots/{shoot}")
    page.get_by_role("slider", name="Walk, start").focus()
    page.keyboard.press("Shift+ArrowLeft")
    expect(page.get_by_test_id("strip-says")).to_contain_text("Moved to 10:30")
    assert httpx.get(f"{address}/api/shots/{shot}").json()["starts_at"] == "2027-10-11T09:30:00Z"


def test_the_sky_is_chosen_and_a_day_without_a_place_asks_for_one(page: Page, address: str) -> None:
    shoot, _ = placed(address)
    page.goto(f"{address}/shoots/{shoot}")
    expect(page.get_by_test_id("sky-source")).to_have_text("your own choice")
    page.get_by_label("Sky").select_option("overcast")
    expect(page.get_by_label("Sky")).to_have_value("overcast")
    page.wait_for_function(
        f"fetch('/api/shoots/{shoot}').then(answer => answer.json()).then(shoot => shoot.cloud === 'overcast')"
    )
    assert_accessible(page)
    bare = httpx.post(f"{address}/api/shoots", json={"title": "Nowhere yet"}).json()["id"]
    page.goto(f"{address}/shoots/{bare}")
    expect(page.get_by_text("once the shoot says its day and where it is")).to_be_visible()
    page.get_by_role("button", name="Place and day").click()
    form = page.get_by_role("form", name="Place and day")
    where = form.get_by_role("combobox")
    where.fill("nowhere at all")
    expect(form.get_by_role("status")).to_contain_text("No place has that name")
    form.get_by_label("Day").fill("2027-06-21")
    expect(form.get_by_role("alert")).to_contain_text("Not taken yet")
    expect(where).to_have_value("nowhere at all")
    where.fill("Lisboa")
    expect(form.get_by_role("option").first).to_contain_text("Lisbon, Portugal")
    where.press("Enter")
    expect(form.get_by_label("Time zone, such as Europe/London")).to_have_value("Europe/Lisbon")
    expect(form.get_by_label("Place", exact=True)).to_have_value("Lisbon")
    # A position in any form; it counts when the field is left.
    where.fill("52\u00b003'36\"N 1,31 E")
    form.get_by_label("Note").focus()
    expect(where).to_have_value("52.0600\u00b0\u202fN, 1.3100\u00b0\u202fE")
    expect(form.get_by_label("Time zone, such as Europe/London")).to_have_value("Europe/London")
    # Or by a track, which says the day, too.
    form.get_by_label("Track as GPX").set_input_files(DEMO / "quay_walk.gpx")
    expect(form.get_by_text("Place, zone and day are the track\u2019s.")).to_be_visible()
    expect(form.get_by_label("Day")).to_have_value("2026-10-11")
    where.fill("52.06 1.31")
    where.press("Enter")
    expect(where).to_have_value("52.0600\u00b0\u202fN, 1.3100\u00b0\u202fE")
    form.get_by_label("Day").fill("2027-06-21")
    form.get_by_role("button", name="Keep").click()
    expect(page.get_by_role("figure", name="Light through the day")).to_be_visible()
    kept_there = httpx.get(f"{address}/api/shoots/{bare}").json()
    assert (kept_there["latitude"], kept_there["longitude"]) == (52.06, 1.31)


def test_pictures_of_the_light_on_the_bench(page: Page, address: str) -> None:
    open_bench(page, address, make_shot(address, **EELGRASS))
    page.get_by_role("button", name="depth", exact=True).click()
    picture = page.get_by_role("figure", name="Colours by depth")
    expect(picture).to_contain_text("the shot, 3 to 7")
    expect(picture).to_contain_text("red gone, 5.5")
    expect(picture).to_contain_text("magenta")
    page.get_by_role("button", name="account", exact=True).click()
    expect(page.get_by_role("figure", name="Account of the light")).to_contain_text("water overhead")
    open_bench(page, address, make_shot(address, **JAR))
    page.get_by_role("button", name="lamps", exact=True).click()
    expect(page.get_by_role("figure", name="Lamps from above")).to_contain_text("stops more light would let")
    assert_accessible(page)
    office = make_shot(address, light={"kind": "place", "place": "office"}, mains_hz=60)
    open_bench(page, address, office)
    page.get_by_role("button", name="pulses", exact=True).click()
    pulses = page.get_by_role("figure", name="Lamp pulses")
    expect(pulses.get_by_role("listitem").filter(has_text="1/60")).to_contain_text("clean")
    expect(pulses.get_by_role("listitem").filter(has_text="1/50")).not_to_contain_text("clean")


def test_readings_set_the_band_and_widen_it(page: Page, address: str) -> None:
    shot = make_shot(address, **QUAY)
    open_bench(page, address, shot)
    token(page, "light").click()
    page.get_by_role("radio", name="a meter, in lux").check()
    page.get_by_role("button", name="Take a reading").click()
    dialog = page.get_by_role("dialog", name="Light")
    expect(dialog.get_by_role("status")).to_contain_text("from the simulated light meter")
    for _ in range(3):
        with page.expect_response("**/api/meter/readings"):
            page.get_by_role("button", name="Take another reading").click()
    page.keyboard.press("Escape")
    saved(page)
    low, high = kept(address, shot)["light"]["lux"]
    assert 4000 < low < high < 12_000


def test_a_track_and_a_dive_fill_the_brief(page: Page, address: str) -> None:
    _, shot = placed(address)
    open_bench(page, address, shot)
    token(page, "light").click()
    page.get_by_label("From a track (GPX)").set_input_files(DEMO / "quay_walk.gpx")
    expect(page.get_by_role("dialog").get_by_role("status")).to_contain_text("m/s")
    page.keyboard.press("Escape")
    saved(page)
    brief = kept(address, shot)
    assert brief["light"]["start"] == "2026-10-11T08:30:00Z"
    assert 0.8 < brief["camera_move"]["travel_m_s"] < 1.8
    wet = make_shot(address, **EELGRASS)
    open_bench(page, address, wet)
    token(page, "water").click()
    page.get_by_label("From a dive (UDDF)").set_input_files(
        {"name": "broken.uddf", "mimeType": "application/xml", "buffer": b"<uddf><profiledata/></uddf>"}
    )
    expect(page.get_by_role("dialog").get_by_role("alert")).to_contain_text("holds no dive")
    page.get_by_label("From a dive (UDDF)").set_input_files(DEMO / "eelgrass_dive.uddf")
    expect(page.get_by_role("dialog").get_by_role("status")).to_contain_text("min at the bottom")
    expect(page.get_by_role("img", name="Depth and red through the dive")).to_be_visible()
    page.keyboard.press("Escape")
    expect(value(page, "glass")).to_contain_text("dive case")
    saved(page)
    assert kept(address, wet)["light"]["depth_m"][1] == pytest.approx(7, abs=0.3)


def test_a_town_on_the_other_side_of_the_world_has_its_own_clock(page: Page, address: str) -> None:
    """A shoot without a place: the town that is chosen gives its zone and its name, and eleven stays eleven there."""
    shot = make_shot(
        address,
        **{
            **QUAY,
            "light": {
                **SKY,
                "start": "2027-06-11T11:00:00Z",
                "end": "2027-06-11T12:00:00Z",
                "latitude": 0,
                "longitude": 0,
            },
        },
    )
    open_bench(page, address, shot)
    token(page, "light").click()
    where = page.get_by_role("combobox", name="Where")
    where.fill("Wellington, New Z")
    page.get_by_role("option", name=re.compile("^Wellington, New Zealand")).click()
    expect(where).to_have_value("Wellington")
    expect(page.get_by_role("group", name="From, Pacific/Auckland")).to_be_visible()
    expect(page.get_by_role("textbox", name="From, Pacific/Auckland, time")).to_have_value("11:00")
    expect(token(page, "light")).to_have_text("under a clear sky over Wellington, 11:00 to 12:00")
    page.keyboard.press("Escape")
    expect(token(page, "start")).to_have_text("at 11:00")
    saved(page)
    made = httpx.get(f"{address}/api/shots/{shot}").json()
    light = made["brief"]["light"]
    assert (light["zone"], light["place"]) == ("Pacific/Auckland", "Wellington")
    assert made["starts_at"].startswith("2027-06-10T23:00"), "eleven in the morning there"
    assert made["plan"]["exposure"]["ev100"][0] > 10, "by day"
    assert made["plan"]["light_source"] == "clear sky, Wellington at 11:00"
    # The list of the day has the same clock, and it outlives the page.
    page.goto(f"{address}/shoots/{made['shoot_id']}")
    expect(page.get_by_label("A test, start", exact=True).and_(page.locator("input"))).to_have_value("11:00")
    open_bench(page, address, shot)
    token(page, "light").click()
    expect(page.get_by_role("combobox", name="Where")).to_have_value("Wellington")


def test_an_older_sky_without_a_zone_is_told_in_that_of_its_place(page: Page, address: str) -> None:
    shot = make_shot(address, **{**QUAY, "light": {**SKY, "latitude": -41.29, "longitude": 174.78}})
    open_bench(page, address, shot)
    expect(token(page, "light")).to_have_text("under a clear sky, 23:00 to 23:30")


def test_four_in_the_morning_after_ten_at_night_is_the_next_day(page: Page, address: str) -> None:
    _, shot = placed(address)
    open_bench(page, address, shot)
    token(page, "light").click()
    page.get_by_label("From, Europe/London, time").fill("22:00")
    page.keyboard.press("Tab")
    page.get_by_label("To, time").fill("04:00")
    page.keyboard.press("Tab")
    expect(page.get_by_role("alert").filter(has_text="ends before")).to_have_count(0)
    expect(page.get_by_label("To, day")).to_have_value("2027-10-12")
    expect(token(page, "light")).to_have_text("under a clear sky, Mon 11 Oct, 22:00 to Tue 12 Oct, 04:00")
    saved(page)
    light = kept(address, shot)["light"]
    assert (light["start"], light["end"]) == ("2027-10-11T21:00:00Z", "2027-10-12T03:00:00Z")


def test_no_part_of_the_light_shines_white_on_the_red_ground(page: Page, address: str) -> None:
    open_bench(page, address, make_shot(address, **{**QUAY, "light": SKY}))
    page.get_by_label("Ground").select_option("red")
    token(page, "light").click()
    dialog = page.get_by_role("dialog", name="Light")
    expect(dialog.get_by_label("To, day")).to_be_visible()
    with Image.open(BytesIO(dialog.screenshot())) as shot:
        pixels = np.asarray(shot.convert("RGB")).astype(int)
    assert pixels[..., 0].max() > 200, "there is something to be seen"
    assert (pixels[..., 1] < 0.7 * np.maximum(pixels[..., 0], 60)).all()
