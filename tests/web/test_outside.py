"""Going outside in a real browser: budgets, order, presets, packing, files."""

from __future__ import annotations

import json
import re
from pathlib import Path

import httpx
import pytest
from playwright.sync_api import Page, Route, expect
from pypdf import PdfReader

from tests.briefs import SUN
from tests.days import demo_shoot
from tests.formats.test_shoot_files import zipped
from tests.waiting import until
from tests.web.axe import assert_accessible
from tests.web.slow import slow
from tests.web.test_stations import demo_shot

pytestmark = pytest.mark.browser
VIEWS = ("budgets", "order", "presets", "packing", "files")


def demo_id(address: str) -> str:
    return str(httpx.get(f"{address}/api/shoots").json()["items"][0]["id"])


@pytest.fixture
def copy(address: str) -> str:
    """A copy of the demo shoot that a test may change."""
    from steady_tide.formats.shoot_zip import write_shoot_json

    shoot = demo_shoot().model_copy(update={"title": "A copy of the fleet"})
    read = httpx.post(f"{address}/api/shoots/import", content=write_shoot_json(shoot).encode(), timeout=60)
    return str(read.json()["id"])


def test_every_part_of_a_shoot_is_accessible(page: Page, address: str) -> None:
    for view, sign in zip(
        VIEWS, ("charge left", "What each shot asks", "assign to a button", "to pack.", "one ZIP"), strict=True
    ):
        page.goto(f"{address}/shoots/{demo_id(address)}/{view}")
        expect(page.get_by_text(sign).first).to_be_visible()
        assert_accessible(page)
        assert page.evaluate("document.documentElement.scrollWidth") <= 1280


def test_the_first_failure_is_marked_and_a_mend_can_be_pinned(page: Page, address: str, copy: str) -> None:
    shots = httpx.get(f"{address}/api/shoots/{copy}/shots").json()["items"]
    frost = next(shot for shot in shots if shot["summary"]["title"] == "Stars over the sluice")
    page.goto(f"{address}/shoots/{copy}/budgets")
    expect(page.get_by_text("Limpet 7 does not last through the day.")).to_be_visible()
    expect(page.get_by_text("First to fail.")).to_have_count(1)
    page.get_by_role("button", name="What would mend it?").click()
    expect(page.get_by_text(re.compile("1 more cell of 7"))).to_be_visible()
    mend = page.get_by_role("listitem").filter(has_text="film it with the Yawl 12")
    mend.get_by_role("button", name="Pin it").click()
    expect(page.get_by_text("It can be released on the")).to_be_visible()
    kept = httpx.get(f"{address}/api/shots/{frost['id']}").json()
    assert kept["brief"]["pins"]["camera"] == "yawl-12"
    assert kept["plan"]["camera"]["id"] == "yawl-12"


def test_an_order_is_looked_for_taken_and_taken_back(page: Page, address: str, copy: str) -> None:
    before = {shot["id"]: shot["starts_at"] for shot in httpx.get(f"{address}/api/shoots/{copy}/shots").json()["items"]}
    page.goto(f"{address}/shoots/{copy}/order")
    page.get_by_role("button", name="Find the order").click()
    expect(page.get_by_text(re.compile(r"Asking the planner|better orders|Setting out"))).to_be_visible()
    expect(page.get_by_text(re.compile(r"Gives up \d\.\d stops"))).to_be_visible(timeout=60_000)
    page.get_by_role("button", name="Take this order").click()
    expect(page.get_by_text("The day is in this order now.")).to_be_visible()
    taken = {shot["id"]: shot["starts_at"] for shot in httpx.get(f"{address}/api/shoots/{copy}/shots").json()["items"]}
    assert taken != before
    page.get_by_role("button", name="Take it back").click()
    expect(page.get_by_role("button", name="Take this order")).to_be_visible()
    again = {shot["id"]: shot["starts_at"] for shot in httpx.get(f"{address}/api/shoots/{copy}/shots").json()["items"]}
    assert again == before


def test_a_search_can_be_cancelled(page: Page, address: str, copy: str) -> None:
    page.goto(f"{address}/shoots/{copy}/order")
    page.get_by_role("button", name="Find the order").click()
    page.get_by_role("button", name="Cancel").click()
    expect(page.get_by_role("button", name="Find the order")).to_be_enabled()
    expect(page.get_by_role("alert")).to_have_count(0)


def test_wishes_and_windows_are_typed_and_clashes_told(page: Page, address: str, copy: str) -> None:
    slow(page, "/rules", "GET")
    page.goto(f"{address}/shoots/{copy}/order")
    page.get_by_role("button", name="Add a window").click()
    page.get_by_label("name").last.fill("the ferry")
    page.get_by_label("from", exact=True).nth(1).fill("25:00")
    page.get_by_label("to", exact=True).nth(1).fill("12:32")
    expect(page.get_by_text("times such as 12:20")).to_be_visible()
    page.get_by_label("from", exact=True).nth(1).fill("12:20")
    expect(page.get_by_text("Kept.")).to_be_visible()  # by itself, as wishes are
    page.get_by_label("not before").fill("05:30")
    page.get_by_role("button", name="Add a way").focus()
    until(lambda: httpx.get(f"{address}/api/shoots/{copy}/rules").json()["rules"]["earliest"] == "2026-10-11T04:30:00Z")
    page.get_by_role("form", name="The day").get_by_role("button", name="undo").click()
    until(lambda: httpx.get(f"{address}/api/shoots/{copy}/rules").json()["rules"]["earliest"] is None)
    for title in ("Wren walks the quay", "Salt-glazed jar"):
        page.get_by_label(f"{title}: within").select_option("the ferry")
    page.get_by_label("Salt-glazed jar: spot").fill("pier")
    page.keyboard.press("Tab")
    page.get_by_role("button", name="Find the order").click()
    alert = page.get_by_role("alert")
    expect(alert).to_contain_text("These cannot all be had", timeout=60_000)
    expect(alert.get_by_role("listitem")).to_have_count(2)
    expect(alert).to_contain_text("within the ferry (12:20 to 12:32)")
    asked = httpx.get(f"{address}/api/shoots/{copy}/rules").json()
    assert [w["start"] for w in asked["rules"]["windows"] if w["name"] == "the ferry"] == ["2026-10-11T11:20:00Z"]
    assert "pier" in [wish["spot"] for wish in asked["wishes"].values()]
    for title in ("Salt-glazed jar", "Rows of eelgrass"):
        page.get_by_label(f"{title}: must or wish").select_option("wish")
    page.get_by_role("button", name="Find the order").click()
    expect(page.get_by_text("outside its wished window").first).to_be_visible(timeout=60_000)


def test_what_is_typed_while_a_rule_is_being_kept_is_kept_too(page: Page, address: str, copy: str) -> None:
    held: list[Route] = []
    rules = f"{address}/api/shoots/{copy}/rules"

    def hold_the_first(route: Route) -> None:
        if route.request.method == "GET" or held:
            route.continue_()
        else:
            held.append(route)

    def kept() -> list[str | None]:
        found = httpx.get(rules).json()["rules"]
        return [found["earliest"], found["latest"]]

    page.route(rules, hold_the_first)
    page.goto(f"{address}/shoots/{copy}/order")
    page.get_by_label("not before").fill("05:30")
    page.get_by_role("button", name="Add a way").focus()
    until(lambda: page.evaluate("true") and held)
    page.get_by_label("over by").fill("19:45")
    page.get_by_role("button", name="Add a way").focus()
    held[0].continue_()
    until(lambda: page.evaluate("true") and kept() == ["2026-10-11T04:30:00Z", "2026-10-11T18:45:00Z"])
    expect(page.get_by_label("over by")).to_have_value("19:45")


def test_presets_say_what_to_store_and_what_is_left_to_change(page: Page, address: str) -> None:
    slow(page, "/rules", "GET")  # where names are kept is there last
    page.goto(f"{address}/shoots/{demo_id(address)}/presets")
    limpet = page.get_by_role("region", name="Limpet 7")
    expect(limpet).to_contain_text("taps through the day")
    row = limpet.get_by_role("row", name=re.compile("Mud race on the flats"))
    expect(row).to_contain_text(re.compile(r"preset \d|the shot before"))
    # A preset is called as one likes, here and on the card, until it is called after its shot again.
    name = limpet.get_by_label("Name of preset 1 of Limpet 7")
    own = name.input_value()
    name.fill("first light")
    name.press("Enter")
    page.reload()
    expect(name).to_have_value("first light")
    step = limpet.get_by_role("row").filter(has_text="preset 1").first
    step.get_by_role("link").click()
    expect(page.get_by_text(re.compile("From preset 1, \u201cfirst light\u201d"))).to_be_visible()
    page.go_back()
    name.fill("")
    name.press("Enter")
    expect(name).to_have_value(own)


def test_what_is_packed_stays_packed(page: Page, address: str) -> None:
    page.goto(f"{address}/shoots/{demo_id(address)}/packing")
    expect(page.get_by_role("region", name="Missing")).to_contain_text("Salt-glazed jar")
    page.get_by_label(re.compile("^ND 64")).check()
    page.reload()
    expect(page.get_by_label(re.compile("^ND 64"))).to_be_checked()
    expect(page.get_by_role("status")).to_contain_text(re.compile(r"\d+ of \d+ to pack"))


def test_files_go_out_and_a_shoot_comes_in(page: Page, address: str, tmp_path: Path) -> None:
    page.goto(f"{address}/shoots/{demo_id(address)}/files")
    with page.expect_download() as got:
        page.get_by_role("link", name="The shoot", exact=True).click()
    got.value.save_as(tmp_path / "shoot.json")
    with page.expect_download() as printed:
        page.get_by_role("link", name="PDF").click()
    printed.value.save_as(tmp_path / "cards.pdf")
    assert len(PdfReader(tmp_path / "cards.pdf").pages) == 13
    changed = json.loads((tmp_path / "shoot.json").read_text())
    changed["title"] = "Brought in"
    (tmp_path / "changed.json").write_text(json.dumps(changed))
    page.get_by_label("Shoot as JSON or ZIP").set_input_files(tmp_path / "changed.json")
    expect(page.get_by_role("heading", name="Brought in")).to_be_visible(timeout=30_000)
    changed["version"] = 2
    (tmp_path / "newer.json").write_text(json.dumps(changed))
    page.get_by_label("Shoot as JSON or ZIP").set_input_files(tmp_path / "newer.json")
    expect(page.get_by_role("alert")).to_contain_text("newer Steady Tide")


def test_a_list_with_faults_brings_nothing_and_says_where(page: Page, address: str, copy: str, tmp_path: Path) -> None:
    page.goto(f"{address}/shoots/{copy}/files")
    (tmp_path / "bad.csv").write_text("title,start,fps\nA,10:00,25\n,11:00,fast\n")
    page.get_by_label("Shot list as CSV").set_input_files(tmp_path / "bad.csv")
    alert = page.get_by_role("alert")
    expect(alert).to_contain_text("Nothing came in from bad.csv")
    expect(alert.get_by_role("row", name=re.compile("3 fps"))).to_contain_text("'fast' is no number")
    (tmp_path / "good.csv").write_text("title,start\nHeron,10:00\nBittern,\n")
    page.get_by_label("Shot list as CSV").set_input_files(tmp_path / "good.csv")
    expect(page.get_by_text("2 shots came in from good.csv")).to_be_visible()
    page.get_by_role("button", name="Take them back").click()
    expect(page.get_by_text("came in from")).to_have_count(0)
    assert httpx.get(f"{address}/api/shoots/{copy}/shots").json()["total"] == 12
    (tmp_path / "no.csv").write_bytes(zipped({"a": b"b"}))
    page.get_by_label("Shot list as CSV").set_input_files(tmp_path / "no.csv")
    expect(page.get_by_role("alert")).to_contain_text("no.csv was not read")


def test_the_frame_from_above_and_slow_motion_on_the_bench(page: Page, address: str) -> None:
    page.goto(f"{address}/shots/{demo_shot(address, 'Oystercatchers taking off')}")
    page.get_by_role("button", name="frame", exact=True).click()
    expect(page.get_by_role("img", name=re.compile("From above: sharp from"))).to_be_visible()
    page.get_by_role("button", name="slow", exact=True).click()
    row = page.get_by_role("row", name=re.compile(r"^100 4× 2\ss"))
    expect(row).to_contain_text("even")
    assert_accessible(page)


def test_two_of_an_interval_film_give_the_third_and_go_into_the_brief(page: Page, address: str) -> None:
    sky = {
        "kind": "sky",
        "latitude": 52.06,
        "longitude": 1.31,
        "start": "2026-10-11T16:30:00Z",
        "end": "2026-10-11T16:40:00Z",
    }
    brief = {
        "title": "Dusk",
        "scenario": "lapse",
        "light": sky,
        "camera_move": {"mount": "tripod"},
        "take": {"length_s": 10800, "count": 1},
    }
    shoot = httpx.post(f"{address}/api/shoots", json={"title": "Dusk", "zone": "Europe/London"}).json()["id"]
    shot = httpx.post(f"{address}/api/shoots/{shoot}/shots", json={"brief": brief}, timeout=30).json()["id"]
    page.goto(f"{address}/shots/{shot}")
    page.get_by_role("button", name="film", exact=True).click()
    expect(page.get_by_role("img", name=re.compile(r"From EV \d+"))).to_be_visible()
    expect(page.get_by_text("17:30").first).to_be_visible()
    page.get_by_label("filmed for").fill("60 min")
    page.get_by_label("one frame every").fill("6")
    expect(page.get_by_text("24 s", exact=True)).to_be_visible()
    page.get_by_role("button", name="Film it so: 601 frames").click()
    until(lambda: httpx.get(f"{address}/api/shots/{shot}").json()["brief"]["take"]["length_s"] == 3600)
    kept = httpx.get(f"{address}/api/shots/{shot}").json()
    assert kept["plan"]["settings"]["interval_s"] == kept["brief"]["pins"]["interval_s"]
    page.keyboard.press("Escape")
    page.locator("body").press("u")
    until(lambda: httpx.get(f"{address}/api/shots/{shot}").json()["brief"]["take"]["length_s"] == 10800)


def test_the_length_of_an_interval_film_is_one_field_in_any_unit(page: Page, address: str) -> None:
    brief = {"title": "Night", "scenario": "lapse", "light": {"kind": "place", "place": "starlight"}}
    brief |= {"camera_move": {"mount": "tripod"}, "take": {"length_s": 7200}}
    shoot = httpx.post(f"{address}/api/shoots", json={"title": "Night"}).json()["id"]
    shot = httpx.post(f"{address}/api/shoots/{shoot}/shots", json={"brief": brief}, timeout=30).json()["id"]
    refused: list[str] = []
    page.on("response", lambda answer: refused.append(answer.url) if answer.status >= 400 else None)
    page.goto(f"{address}/shots/{shot}")
    token = page.locator("[data-token=lapse]")
    expect(token).to_have_text("2\u202fh")
    token.click()
    field = page.get_by_label("It runs for")
    field.fill("480")
    expect(page.get_by_role("alert")).to_contain_text("At most 48 h; if minutes are meant, write 480 min")
    field.fill("480 min")
    expect(page.get_by_role("dialog")).to_contain_text("It runs for = 8 h")
    field.press("Enter")
    page.keyboard.press("Escape")
    expect(token).to_have_text("8\u202fh")
    until(lambda: httpx.get(f"{address}/api/shots/{shot}").json()["brief"]["take"]["length_s"] == 28_800)
    # Beside the camera only the waiting and the air are asked.
    page.locator("[data-token=takes]").click()
    expect(page.get_by_label("A take lasts")).to_have_count(0)
    page.keyboard.press("Escape")
    assert not refused


def test_an_empty_shoot_says_what_to_do(page: Page, address: str) -> None:
    shoot = httpx.post(f"{address}/api/shoots", json={"title": "Empty", "day": "2026-12-01"}).json()["id"]
    for view in ("budgets", "presets", "packing"):
        page.goto(f"{address}/shoots/{shoot}/{view}")
        expect(page.get_by_text("No shot has a plan yet.")).to_be_visible()
    page.goto(f"{address}/shoots/{shoot}/order")
    expect(page.get_by_role("button", name="Find the order")).to_be_disabled()
    httpx.post(f"{address}/api/shoots/{shoot}/shots", json={"brief": {"title": "one", "light": SUN}}, timeout=30)
