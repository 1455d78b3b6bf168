"""Rushes in a real browser: the demo's trial evening, measured; keys, marks, comparing, shots, folders, next time."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path

import httpx
import pytest
from playwright.sync_api import Browser, Page, expect

from steady_tide.demo.load import load_trial
from steady_tide.launch.cluster import Cluster
from steady_tide.services.rush_folders import lane_of
from steady_tide.services.rushes import begin_folders
from tests.footage import film, view
from tests.service import measuring, own_database, serving
from tests.waiting import until
from tests.web.axe import assert_accessible

pytestmark = pytest.mark.browser


@pytest.fixture(scope="module")
def evening(cluster: Cluster, tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    """The address of a service whose trial evening is measured."""
    folder = tmp_path_factory.mktemp("evening")
    with own_database(cluster, "rushes_web") as database:
        load_trial(database, folder / "takes")
        drops = begin_folders(database, folder / "drops", [])
        with (
            serving(database, drops=folder / "drops") as address,
            measuring(database, ["rushes", lane_of(drops)]),
            httpx.Client(base_url=address, timeout=30) as http,
        ):

            def states() -> dict[str, str]:
                clips = http.get("/api/rushes/clips").json()["items"]
                return {clip["name"]: f"{clip['state']} {clip['problem'] or ''}" for clip in clips}

            try:
                until(lambda: http.get("/api/rushes/clips").json()["counts"]["done"] == 8, 300)
            except AssertionError:
                raise AssertionError(states()) from None
            yield address


def open_rushes(page: Page, address: str, take: str | None = None) -> None:
    page.goto(f"{address}/rushes")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Of ")
    if take:
        page.get_by_role("link", name=re.compile(take)).first.click()
        expect(page.get_by_role("heading", level=1)).to_contain_text(take)


def test_the_evening_is_told_take_by_take(page: Page, evening: str) -> None:
    open_rushes(page, evening, "quay_2.mp4")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Isolde on the quay")
    expect(page.get_by_role("heading", level=1)).to_contain_text(re.compile(r"\d+.% blown"))
    expect(page.get_by_role("img", name=re.compile("quay_2.mp4 over its time"))).to_be_visible()
    table = page.get_by_role("region", name="As planned, as filmed")
    expect(table.get_by_role("row", name=re.compile(r"^light, EV 13\.3 to 14\.3"))).to_contain_text("otherwise")
    # The sun came out by 2.2 stops: from EV 13.8 to 16.
    said = table.get_by_role("row", name=re.compile("light, EV")).get_by_role("cell").last.inner_text()
    assert float(said.split()[0]) == pytest.approx(16.0, abs=0.5)
    clips = page.get_by_role("complementary", name="Clips")
    expect(clips.get_by_role("region", name="Isolde on the quay")).to_contain_text("Take 1: best for")
    expect(clips.get_by_role("region", name="Flour under the lamps")).to_contain_text("ends early or is damaged")
    expect(clips).to_contain_text("The clock of the Limpet 7 is 1 h")
    day = page.get_by_role("region", name="The day so far")
    expect(day).to_contain_text("8 clips")
    expect(day).to_contain_text("Change first on the Limpet 7")
    assert_accessible(page)


def test_keys_step_rate_mark_and_compare(page: Page, evening: str) -> None:
    open_rushes(page, evening, "quay_1.mp4")
    page.keyboard.press("n")
    expect(page.get_by_role("heading", level=1)).to_contain_text("quay_2.mp4")
    page.keyboard.press("b")
    expect(page.get_by_role("heading", level=1)).to_contain_text("quay_1.mp4")
    page.keyboard.press("y")
    keep = page.get_by_role("group", name="This take").get_by_role("button", name="keep")
    expect(keep).to_have_attribute("aria-pressed", "true")
    expect(page.get_by_role("link", name=re.compile("quay_1.mp4")).first).to_contain_text("keep")
    page.reload()
    expect(keep).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("y")
    expect(keep).to_have_attribute("aria-pressed", "false")
    frames = page.get_by_role("list", name="Frames of it").get_by_role("img")
    expect(frames).to_have_count(6)
    page.keyboard.press("m")
    expect(frames.first).to_have_attribute("src", re.compile("marked=true"))
    page.keyboard.press("c")
    expect(page.get_by_text("beside it", exact=False).first).to_be_visible()
    expect(page.get_by_role("columnheader", name="beside it")).to_be_visible()
    page.keyboard.press("f")
    expect(page.get_by_role("dialog", name="Folders")).to_be_visible()


def test_next_time_becomes_a_shot(page: Page, evening: str) -> None:
    open_rushes(page, evening, "quay_2.mp4")
    ahead = page.get_by_role("region", name="Next time")
    expect(ahead).to_contain_text(re.compile(r"The light was EV 1\d\.\d to 1\d\.\d, planned 13\.3 to 14\.3"))
    expect(ahead.get_by_role("listitem").first).to_contain_text("instead of")
    ahead.get_by_role("button", name="Plan the next take so").click()
    expect(page).to_have_url(re.compile(r"/shots/"))
    expect(page.get_by_text("Isolde on the quay, again").first).to_be_visible()
    shot = page.url.rsplit("/", 1)[-1]
    httpx.delete(f"{evening}/api/shots/{shot}")


def test_a_clip_is_put_to_another_shot(page: Page, evening: str) -> None:
    open_rushes(page, evening, "lanterns_2.mp4")
    page.get_by_role("button", name="Lanterns at the landing").click()
    choices = page.get_by_role("dialog", name="Of which shot it is")
    choices.get_by_role("button", name="Flour under the lamps").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Flour under the lamps")
    page.get_by_role("button", name="Flour under the lamps").click()
    choices.get_by_role("button", name="Lanterns at the landing").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Lanterns at the landing")


def test_a_folder_is_named_and_taken_off(page: Page, evening: str, tmp_path: Path) -> None:
    film(tmp_path / "new one.mp4", [view(1, 20 + 3 * n, 40) for n in range(14)])
    open_rushes(page, evening)
    page.get_by_role("button", name="Folders").click()
    folders = page.get_by_role("dialog", name="Folders")
    folders.get_by_label("A folder of this machine").fill("/no/such/place")
    folders.get_by_role("button", name="Measure its clips").click()
    expect(folders.get_by_role("alert")).to_contain_text("cannot be read")
    expect(folders.get_by_label("A folder of this machine")).to_have_value("/no/such/place")
    folders.get_by_label("A folder of this machine").fill(str(tmp_path))
    folders.get_by_role("button", name="Measure its clips").click()
    row = folders.get_by_role("listitem").filter(has_text=str(tmp_path))
    expect(row).to_contain_text("1 clip")
    page.keyboard.press("Escape")
    take = page.get_by_role("link", name=re.compile("new one.mp4"))
    expect(take).not_to_contain_text(re.compile("waiting|measuring"), timeout=60_000)
    page.get_by_role("button", name="Folders").click()
    row.get_by_role("button", name="take off").click()
    row.get_by_role("button", name="take off with its measures").click()
    expect(row).to_have_count(0)
    assert (tmp_path / "new one.mp4").exists()


def test_clips_are_handed_over(page: Page, evening: str, tmp_path: Path) -> None:
    clip = film(tmp_path / "hand.mp4", [view(1, 20 + 3 * n, 40) for n in range(14)])
    bad = tmp_path / "no.mp4"
    bad.write_bytes(b"no clip at all" * 60)
    open_rushes(page, evening)
    page.get_by_label("Clips", exact=True).nth(1).set_input_files([clip, bad])
    take = page.get_by_role("link", name=re.compile("hand.mp4"))
    expect(take).not_to_contain_text(re.compile("waiting|measuring"), timeout=60_000)
    page.get_by_role("link", name=re.compile(" no.mp4")).click()
    expect(page.get_by_text("This clip cannot be measured:")).to_be_visible(timeout=60_000)


def test_an_empty_station_says_what_to_do(page: Page, cluster: Cluster, tmp_path: Path) -> None:
    with own_database(cluster, "rushes_empty", demo=False) as database:
        begin_folders(database, tmp_path / "drops", [])
        with serving(database, drops=tmp_path / "drops") as address:
            page.goto(f"{address}/")
            expect(page.get_by_text("No shoot yet.")).to_be_visible()  # before that nobody hears the keys
            page.keyboard.press("6")
            expect(page.get_by_role("heading", name="Nothing has come back yet.")).to_be_visible()
            expect(page.get_by_role("button", name="Folders")).to_be_visible()
            assert_accessible(page)


@pytest.mark.parametrize("width", [360, 768, 1024])
def test_verdicts_fit_every_screen(chromium: Browser, evening: str, width: int) -> None:
    context = chromium.new_context(viewport={"width": width, "height": 800})
    page = context.new_page()
    open_rushes(page, evening, "quay_1.mp4")
    expect(page.get_by_role("img", name=re.compile("over its time"))).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= width
    expect(page.get_by_role("complementary", name="Clips")).to_contain_text(re.compile(r"quay_2.*[67]\d.% blown"))
    context.close()
