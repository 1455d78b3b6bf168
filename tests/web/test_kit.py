"""The Kit station, driven as a person would: asking the map, writing a sheet, measuring, bringing in."""

from __future__ import annotations

import json
import re
import shutil
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import httpx
import numpy as np
import pytest
from playwright.sync_api import Page, expect

from steady_tide.launch.cluster import Cluster
from steady_tide.standins.grey_card import SimulatedSensor, grey_frame
from tests.briefs import QUAY, SUN
from tests.manual_table import TABLE
from tests.sample_media import clip, grey_card, picture, still
from tests.service import own_database, serving
from tests.web.axe import assert_accessible

pytestmark = pytest.mark.browser


@pytest.fixture(scope="module")
def own(cluster: Cluster) -> Iterator[str]:
    """A service whose kit no other test uses."""
    with own_database(cluster, "kitweb") as database, serving(database) as at:
        yield at


def made_camera(own: str, name: str) -> str:
    modes = httpx.post(f"{own}/api/sheets/table", json={"text": TABLE}).json()["modes"]
    made = httpx.post(f"{own}/api/cameras", json={"rough": {"sheet": {"name": name, "modes": modes}}})
    return str(made.json()["id"])


def made_shot(own: str, camera: str, **fields: Any) -> str:
    shoot = httpx.get(f"{own}/api/shoots").json()["items"][0]["id"]
    brief = {"title": f"On {camera}", "light": SUN, **QUAY, "pins": {"camera": camera}, **fields}
    return str(httpx.post(f"{own}/api/shoots/{shoot}/shots", json={"brief": brief}).json()["id"])


def new_sheet(page: Page, own: str, name: str) -> None:
    page.goto(f"{own}/kit/new")
    page.get_by_label("name", exact=True).fill(name)


def take_table(page: Page) -> None:
    page.get_by_label("Mode table").fill(TABLE)
    page.get_by_role("button", name="Take these 30 modes").click()
    page.get_by_test_id("mode-map").wait_for()


def test_the_map_is_asked_what_a_rate_costs(page: Page, own: str) -> None:
    page.goto(f"{own}/kit/cameras/limpet-7")
    expect(page.get_by_test_id("mode-map").get_by_role("row")).to_have_count(9)
    page.get_by_role("button", name="Ask for 100 frames per second").click()
    said = page.get_by_test_id("loss")
    expect(said).to_contain_text("With 100\u202ffps you lose")
    expect(said).to_contain_text("31 of 100 ways are left")
    expect(said).to_contain_text("strongest")
    lost = page.get_by_role("button", name=re.compile("resolution 5120 by 2880, lost"))
    expect(lost).to_be_visible()
    expect(page.get_by_role("button", name="Ask for resolution 3840 by 2160", exact=True)).to_be_visible()
    hatched = page.get_by_test_id("mode-map").locator("rect[fill^='url(']")
    assert hatched.count() == 100 - 31
    page.keyboard.press("x")
    expect(said).to_contain_text("508 ways")
    expect(hatched).to_have_count(0)
    # By keyboard, on a dial that stands beside the table.
    page.get_by_role("button", name="Ask for bit depth 10-bit").focus()
    page.keyboard.press("Enter")
    expect(said).to_contain_text("With 10-bit you lose")
    page.keyboard.press("Enter")
    expect(said).to_contain_text("Choose a value")


def test_two_maps_side_by_side_answer_the_same_question(page: Page, own: str) -> None:
    page.goto(f"{own}/kit/cameras/limpet-7")
    page.get_by_label("Beside").select_option("cockle-3")
    expect(page.get_by_test_id("mode-map")).to_have_count(2)
    page.get_by_role("button", name="Ask for 200 frames per second").click()
    expect(page.get_by_text("With 200\u202ffps you lose")).to_have_count(1)
    expect(page.get_by_text("Cockle 3 has no 200\u202ffps")).to_be_visible()
    page.reload()
    expect(page.get_by_test_id("mode-map")).to_have_count(2)


def test_a_camera_with_thirty_modes_from_nothing_to_a_plan(page: Page, own: str) -> None:
    page.goto(f"{own}/kit")
    page.get_by_role("link", name="New camera").click()
    keep = page.get_by_role("button", name="Keep this camera")
    expect(keep).to_be_disabled()
    expect(page.get_by_label("Still wanted")).to_contain_text("Give the camera a name")
    page.get_by_label("name", exact=True).fill("Whelk 4")
    page.get_by_label("Mode table").fill(TABLE)
    expect(page.get_by_test_id("table-read")).to_contain_text("30 modes of 8 rows")
    expect(page.get_by_label("Doubts")).to_contain_text("the name was taken for 5120")
    page.get_by_role("button", name="Take these 30 modes").click()
    for field, value in (
        ("sensor type", "1/1.9"),
        ("megapixels", "27"),
        ("cell mAh", "1720"),
        ("cell voltage", "3.85"),
        ("a charge lasts", "1.2"),
    ):
        page.locator(".field").and_(page.get_by_label(field)).first.fill(value)
    expect(page.get_by_test_id("mode-count")).to_have_text("30")
    keep.click()
    page.wait_for_url("**/kit/cameras/whelk-4")
    expect(page.get_by_text(re.compile(r"30 modes · edition 1 · \d+ of its numbers are estimates"))).to_be_visible()
    page.wait_for_load_state("networkidle")  # the map above takes its place
    page.get_by_text("What is estimated").click()
    expect(page.get_by_text("from the hours a charge lasts")).to_be_visible()
    sheet = httpx.get(f"{own}/api/cameras/whelk-4").json()
    assert sheet["power"]["battery_wh"] == pytest.approx(1.72 * 3.85, rel=1e-3)
    assert httpx.get(f"{own}/api/sheets/drafts").json()["total"] == 0, "the draft is done with"
    # A plan in dim light says that it rests on what is only estimated of the sensor.
    dim = {"light": {"kind": "meter", "ev100": [1, 3]}, "delivery": {"graded": True}, "title": "Dim"}
    page.goto(f"{own}/shots/{made_shot(own, 'whelk-4', **dim)}")
    rests = page.get_by_label("Estimates", exact=True)
    expect(rests).to_contain_text("the sensor's noise")
    expect(rests).to_contain_text("Rests on estimates")
    expect(page.locator("[data-row]").get_by_title("rests on an estimate").first).to_be_visible()


def test_what_was_typed_survives_and_is_undone_step_by_step(page: Page, own: str) -> None:
    new_sheet(page, own, "Half a whelk")
    page.locator(".field").and_(page.get_by_label("megapixels")).fill("1x2")
    expect(page.get_by_text("Give a number.")).to_be_visible()
    page.locator(".field").and_(page.get_by_label("megapixels")).fill("12,5")
    take_table(page)
    expect(page.get_by_test_id("saving")).to_have_text("kept as begun")
    page.reload()
    expect(page.get_by_label("name", exact=True)).to_have_value("Half a whelk")
    expect(page.locator(".field").and_(page.get_by_label("megapixels"))).to_have_value("12.5")
    expect(page.get_by_test_id("mode-count")).to_have_text("30")
    page.get_by_role("button", name="Power, heat and cards").click()
    page.get_by_label("its own cell").fill("6")
    page.get_by_role("heading", name="Power, heat and cards").click()
    page.get_by_role("button", name="undo").click()
    expect(page.get_by_label("its own cell")).to_have_value("")
    page.get_by_role("button", name="redo").click()
    expect(page.get_by_label("its own cell")).to_have_value("6")
    page.goto(f"{own}/kit")
    page.get_by_role("link", name="Half a whelk").click()
    expect(page.get_by_test_id("mode-count")).to_have_text("30")
    page.get_by_role("button", name="Discard").click()
    page.get_by_role("button", name="Discard it").click()
    page.wait_for_url("**/kit/cameras/**")
    expect(page.get_by_role("link", name="Half a whelk")).to_have_count(0)


def test_a_service_that_goes_away_loses_nothing_of_a_sheet(page: Page, own: str) -> None:
    page.route("**/api/sheets/drafts/*", lambda route: route.abort())
    new_sheet(page, own, "Lonely whelk")
    page.get_by_label("Mode table").fill("4K 16:9 at 25 fps")
    expect(page.get_by_test_id("saving")).to_contain_text("cannot keep it now")
    page.reload()
    expect(page.get_by_label("name", exact=True)).to_have_value("Lonely whelk")
    expect(page.get_by_label("Mode table")).to_have_value("4K 16:9 at 25 fps")
    page.unroute("**/api/sheets/drafts/*")
    expect(page.get_by_test_id("saving")).to_have_text("kept as begun")


def test_modes_are_filled_by_group(page: Page, own: str) -> None:
    new_sheet(page, own, "Group whelk")
    take_table(page)
    page.get_by_role("button", name="See and mend the modes one by one").click()
    page.get_by_role("button", name="90\u202ffps and more").click()
    group = page.get_by_role("group", name="The chosen modes")
    expect(group).to_contain_text("These 4 modes")
    expect(group.locator("[data-field=rates]")).to_contain_text("They differ")
    group.locator("[data-field=profiles]").get_by_label("natural").check()
    group.locator("[data-field=high_dynamic_range]").get_by_role("combobox").select_option("no")
    page.get_by_role("button", name="Take the 4 out").click()
    expect(page.get_by_test_id("mode-count")).to_have_text("18")
    page.get_by_role("button", name="undo").click()
    expect(page.get_by_test_id("mode-count")).to_have_text("30")
    page.get_by_role("button", name="Views").click()
    page.get_by_label("field °").fill("400")
    expect(page.get_by_label("Still wanted")).to_contain_text("views[0].field_deg")
    expect(page.get_by_role("button", name="Keep this camera")).to_be_disabled()
    page.get_by_label("field °").fill("150")
    expect(page.get_by_role("button", name="Keep this camera")).to_be_enabled()


def test_clips_give_modes_and_a_long_one_is_never_sent(page: Page, own: str, tmp_path: Path) -> None:
    files = [
        clip(tmp_path / "a.mp4", 1920, 1080, "30000/1001"),
        clip(tmp_path / "b.mp4", 1280, 720, "50"),
        still(tmp_path / "s.jpg"),
    ]
    (tmp_path / "text.mp4").write_text("no clip at all")
    with (tmp_path / "long.mp4").open("wb") as file:
        file.truncate(10_000_000_000)
    sent: list[str] = []
    page.on("request", lambda request: sent.append(request.url) if "/sheets/clips" in request.url else None)
    page.goto(f"{own}/kit/new")
    page.get_by_label("Clips and stills").set_input_files([*files, tmp_path / "text.mp4", tmp_path / "long.mp4"])
    clips = page.get_by_test_id("clips")
    expect(clips.get_by_role("alert")).to_contain_text("10.0\u202fGB")
    expect(clips.get_by_role("alert")).to_contain_text("neither a clip nor a still")
    assert len(sent) == 4
    assert not any("long.mp4" in url for url in sent)
    expect(clips).to_contain_text("View, stabilisation and profile stand in no file")
    page.get_by_role("button", name="Take what they say").click()
    expect(page.get_by_test_id("mode-count")).to_have_text("2")
    expect(page.get_by_label("name", exact=True)).to_have_value("Periwinkle 2")
    expect(page.locator(".field").and_(page.get_by_label("equivalent focal length"))).to_have_value("16")


def test_a_plan_keeps_its_edition_and_shows_what_the_latest_would_change(page: Page, own: str) -> None:
    camera = made_camera(own, "Edition whelk")
    shot = made_shot(own, camera, title="Kept")
    # In one visit, so that what was worked out with the older sheet is still at hand, and must not be shown.
    page.goto(f"{own}/shots/{shot}")
    expect(page.get_by_label("Estimates", exact=True)).to_contain_text("the lens's f-number")
    page.get_by_role("link", name="Kit", exact=True).click()
    page.get_by_role("link", name="Edition whelk").click()
    page.get_by_role("link", name="Change its sheet").click()
    page.get_by_role("button", name="Lenses and sensors").click()
    page.get_by_label("f-numbers").fill("1.8")
    page.get_by_role("button", name="Keep as edition 2").click()
    page.wait_for_url(f"**/kit/cameras/{camera}")
    expect(page.get_by_label("Plans that use it")).to_contain_text("edition 1")
    page.get_by_label("Plans that use it").get_by_role("link", name="Kept").click()
    notice = page.get_by_label("Older sheet")
    expect(notice).to_contain_text("This plan keeps edition 1")
    before = page.get_by_test_id("total").inner_text()
    notice.get_by_role("button", name="what would differ?").click()
    expect(notice).to_contain_text("f/1.8")
    expect(page.get_by_test_id("total")).to_have_text(before)
    notice.get_by_role("button", name="plan with edition 2").click()
    expect(notice).to_have_count(0)
    assert httpx.get(f"{own}/api/shots/{shot}").json()["sheet"]["edition"] == 2
    expect(page.get_by_label("Estimates", exact=True)).not_to_contain_text("the lens's f-number")
    expect(page.get_by_label("Estimates", exact=True)).to_contain_text("the sensor's noise")


def test_things_have_state_and_place_and_come_back(page: Page, own: str) -> None:
    page.goto(f"{own}/kit/filters")
    page.get_by_role("button", name="New filter").click()
    form = page.get_by_role("form", name="New filter")
    form.get_by_label("name", exact=True).fill("Turning glass")
    form.get_by_label("density").fill("six")
    form.get_by_role("button", name="Keep").click()
    expect(form.get_by_role("alert")).to_contain_text("density: give a number in stops")
    form.get_by_label("density").fill("6,5")
    form.get_by_label("turns down to").fill("9")
    form.get_by_label("fits").fill("limpet")
    form.get_by_role("button", name="Keep").click()
    expect(form.get_by_role("alert")).to_contain_text("least density")
    form.get_by_label("turns down to").fill("1")
    form.get_by_role("button", name="Keep").click()
    expect(page.get_by_text("variable ND, even from 1.0 to 6.5 stops")).to_be_visible()
    page.get_by_label("Where Turning glass lies").fill("the grey box")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Put ND 64 away").click()
    expect(page.get_by_role("button", name="Put ND 64 away")).to_have_count(0)
    page.get_by_role("button", name="Bring it back").click()
    expect(page.get_by_role("button", name="Put ND 64 away")).to_be_visible()
    page.reload()
    expect(page.get_by_label("Where Turning glass lies")).to_have_value("the grey box")
    page.goto(f"{own}/kit/batteries")
    page.get_by_label("Count of Limpet spare cell").fill("3")
    with page.expect_response("**/api/kit"):  # saved, and asked again
        page.keyboard.press("Tab")
    expect(page.get_by_label("Limpet spare cell charged")).to_be_focused()  # saving takes nobody's place away
    before = page.get_by_label("Limpet spare cell charged").input_value()
    page.get_by_label("Limpet spare cell charged").select_option("3")
    expect(page.get_by_label("Limpet spare cell charged")).to_have_value("3")
    page.get_by_role("button", name="Undo the change of Limpet spare cell").click()
    expect(page.get_by_label("Limpet spare cell charged")).to_have_value(before)
    page.get_by_label("Limpet spare cell charged").select_option("2")
    expect(page.get_by_label("Limpet spare cell charged")).to_have_value("2")
    page.reload()
    expect(page.get_by_label("Limpet spare cell charged")).to_have_value("2")
    # The variable filter stands on the gauge at the mark that it is turned to.
    shot = made_shot(own, "limpet-7", kit={"filters": ["turning-glass"]})
    page.goto(f"{own}/shots/{shot}")
    expect(page.get_by_test_id("value-glass")).to_contain_text("Turning glass at 6")


def test_a_kit_that_clashes_is_asked_about(page: Page, own: str, tmp_path: Path) -> None:
    kit = httpx.get(f"{own}/api/kit/file").json()
    kit["filters"][0]["stops"] = 3.1
    kit["cameras"] = []
    (tmp_path / "theirs.json").write_text(json.dumps(kit))
    page.goto(f"{own}/kit/files")
    page.get_by_label("Sheet or kit as JSON or YAML").set_input_files(tmp_path / "theirs.json")
    asked = page.get_by_role("form", name="What is here already")
    expect(asked).to_contain_text("stops is 3.1 there")
    expect(asked.get_by_role("button", name="Import it")).to_be_disabled()
    asked.get_by_label("keep both").check()
    asked.get_by_role("button", name="Import it").click()
    expect(page.get_by_text("1 put beside yours")).to_be_visible()
    (tmp_path / "trick.yaml").write_text("a: &x [1]\nb: *x\n")
    page.get_by_label("Sheet or kit as JSON or YAML").set_input_files(tmp_path / "trick.yaml")
    expect(page.get_by_role("alert")).to_contain_text("trick.yaml, line 2")


def test_noise_is_measured_and_put_into_a_sheet(page: Page, own: str, tmp_path: Path) -> None:
    camera = made_camera(own, "Grey whelk")
    page.goto(f"{own}/kit/measure")
    page.get_by_role("button", name="See it with a simulated camera first").click()
    expect(page.get_by_test_id("noise-found")).to_contain_text("truly 2.9")
    page.get_by_label("Frames of the card").set_input_files(grey_card(tmp_path, SimulatedSensor(2.4, 5200.0)))
    expect(page.get_by_role("button", name="Take ISO 1600 out")).to_be_visible()
    expect(page.get_by_test_id("noise-found")).not_to_contain_text("truly")
    page.get_by_label("Camera that was measured").select_option(camera)
    page.get_by_role("button", name="Put it into the sheet").click()
    expect(page.get_by_text("It stands in edition 2.")).to_be_visible()
    sensor = httpx.get(f"{own}/api/cameras/{camera}").json()["lenses"][0]["sensor"]
    assert sensor["read_noise_e"] == pytest.approx(2.4, rel=0.05)
    assert sensor["full_well_e"] == pytest.approx(5200, rel=0.05)


def test_more_frames_than_go_at_once_are_sent_in_parts(page: Page, own: str, tmp_path: Path) -> None:
    frames = grey_card(tmp_path, SimulatedSensor(2.4, 5200.0), isos=(400,))
    many = [shutil.copy(frames[n % 2], tmp_path / f"more-iso400-{n}.png") for n in range(10)]
    sent: list[str] = []
    page.on("request", lambda request: sent.append(request.url) if "grey-step" in request.url else None)
    page.goto(f"{own}/kit/measure")
    page.get_by_label("Frames of the card").set_input_files(many)
    expect(page.get_by_role("button", name="Take ISO 400 out")).to_be_visible()
    expect(page.get_by_role("alert")).to_have_count(0)
    assert len(sent) == 2


def test_density_is_measured_and_put_into_the_kit(page: Page, own: str, tmp_path: Path) -> None:
    rng = np.random.default_rng(6)
    sensor = SimulatedSensor(read_noise_e=2.0, full_well_e=8000.0)
    for name, level in (("bare.png", 0.4), ("behind.png", 0.4 * 2**-0.8)):
        frame = grey_frame(sensor, 100, rng, level=level, transfer="srgb", codes=256)
        (tmp_path / name).write_bytes(picture(frame))
    page.goto(f"{own}/kit/measure/glass")
    page.get_by_label("Frame without it").set_input_files(tmp_path / "bare.png")
    page.get_by_label("Frame with the filter").set_input_files(tmp_path / "behind.png")
    page.get_by_label("Stops opened up with the filter").fill("3")
    page.get_by_role("button", name="Measure", exact=True).click()
    expect(page.get_by_test_id("glass-found")).to_contain_text("3.8")
    page.get_by_label("Name of the new filter").fill("Grey glass")
    page.get_by_role("button", name="Put it into the kit").click()
    expect(page.get_by_text("It is in the kit.")).to_be_visible()
    made = next(
        item["thing"] for item in httpx.get(f"{own}/api/kit").json()["filters"] if item["thing"]["id"] == "grey-glass"
    )
    assert made["stops"] == pytest.approx(3.8, abs=0.05)


def test_the_kit_is_accessible(page: Page, own: str) -> None:
    page.goto(f"{own}/kit/cameras/limpet-7?with=cockle-3")
    page.get_by_role("button", name="Ask for 100 frames per second").first.click()
    page.get_by_text("you lose").first.wait_for()
    assert_accessible(page)
    page.goto(f"{own}/kit/batteries")
    page.get_by_role("button", name="New cell or bank").click()
    assert_accessible(page)
    page.goto(f"{own}/kit/measure")
    page.get_by_role("button", name="See it with a simulated camera first").click()
    page.get_by_test_id("noise-found").wait_for()
    assert_accessible(page)
    page.goto(f"{own}/kit/files")
    page.get_by_text("Kit as JSON").wait_for()
    assert_accessible(page)
    new_sheet(page, own, "Whelk on every ground")
    page.get_by_label("Mode table").fill(TABLE)
    page.get_by_test_id("table-read").wait_for()
    assert_accessible(page)
    page.get_by_role("button", name="Take these 30 modes").click()
    page.get_by_test_id("mode-map").wait_for()
    page.get_by_role("button", name="See and mend the modes one by one").click()
    page.get_by_role("button", name="all", exact=True).click()
    assert_accessible(page)
    page.get_by_role("button", name="Lenses and sensors").click()
    assert_accessible(page)


def test_the_kit_by_its_key_and_a_new_camera_by_another(page: Page, own: str) -> None:
    page.goto(f"{own}/shoots")
    page.get_by_role("heading", name="Shoots", exact=True).wait_for()
    page.keyboard.press("4")
    page.wait_for_url("**/kit/cameras/**")
    page.keyboard.press("n")
    page.wait_for_url("**/kit/drafts/**")
    expect(page.get_by_label("name", exact=True)).to_be_visible()


@pytest.mark.parametrize("width", [360, 768])
def test_a_sheet_is_written_at_every_width(page: Page, own: str, width: int) -> None:
    """A part of the sheet that is squeezed to nothing, or lies under another, takes no tap."""
    page.set_viewport_size({"width": width, "height": 780})
    page.goto(f"{own}/kit/drafts/width-{width}?of=yawl-12")
    parts = page.get_by_role("navigation", name="Parts of the sheet").get_by_role("button")
    parts.first.wait_for()
    names = parts.all_inner_texts()
    assert len(names) > 10
    for at, name in enumerate(names):
        parts.nth(at).click(timeout=3000)
        expect(parts.nth(at)).to_have_attribute("aria-current", "page")
        sheet = page.get_by_role("region", name="Sheet")
        sheet.locator("input:visible, select:visible, button:visible").first.click(trial=True, timeout=3000)
        assert page.evaluate("document.documentElement.scrollWidth") <= width, name
