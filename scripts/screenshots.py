"""Take the pictures of docs/screenshots from a running service with the demo data.

Usage: .venv/bin/python scripts/screenshots.py http://127.0.0.1:8420 [folder]; needs Debian's poppler-utils for paper.
"""

from __future__ import annotations

import re
import subprocess
import sys
import time
from pathlib import Path
from tempfile import TemporaryDirectory

import httpx
from playwright.sync_api import Page, sync_playwright

CHROMIUM = "/usr/bin/chromium"
FLAGS = [
    "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run",
    "--disable-background-networking", "--disable-component-update", "--disable-sync",
]  # fmt: skip


def shot_called(address: str, title: str) -> str:
    """Id of a demo shot. address: of the service; title: of the shot."""
    for shoot in httpx.get(f"{address}/api/shoots").json()["items"]:
        for shot in httpx.get(f"{address}/api/shoots/{shoot['id']}/shots").json()["items"]:
            if shot["summary"]["title"] == title:
                return str(shot["id"])
    raise SystemExit(f"There is no shot called '{title}'.")


def on_ground(page: Page, ground: str) -> None:
    """Switch the ground. page: open; ground: day, night or red."""
    page.get_by_label("Ground").select_option(ground)


def on_paper(address: str, shot: str, to: Path) -> None:
    """The card of a shot on A6, as a picture. address: of the service; shot: id; to: where the picture goes."""
    with TemporaryDirectory() as scratch:
        pdf = Path(scratch) / "card.pdf"
        pdf.write_bytes(httpx.get(f"{address}/api/shots/{shot}/card.pdf", timeout=60).content)
        subprocess.run(["pdftoppm", "-r", "150", "-png", "-singlefile", str(pdf), str(to.with_suffix(""))], check=True)


TABLE = """Resolution\tFrame rate (fps)\tField of view\tStabilisation\tBit depth
5K (4:3)\t30, 25, 24\tWide, Straight\tStandard\t10
4K (16:9)\t120, 100\tWide, Straight\tStandard\t8
4K (16:9)\t60, 50, 30, 25, 24\tFisheye, Wide, Straight, Tight\tStandard, Strong\t10
1440p\t240, 200\tWide, Straight\tStandard\t8
1080p\t120, 100, 60, 50, 30, 25\tFisheye, Wide, Straight, Tight\tStandard, Strong\t8
"""


def of_the_kit(page: Page, address: str, folder: Path) -> None:
    """The Kit: a map that is asked, two side by side, a sheet being written. What is begun is let go of again."""
    page.goto(f"{address}/kit/cameras/limpet-7")
    page.get_by_role("button", name="Ask for 100 frames per second").click()
    page.mouse.move(5, 700)
    page.wait_for_timeout(200)
    page.screenshot(path=folder / "kit-map.png")
    page.goto(f"{address}/kit/new")
    page.get_by_label("name", exact=True).fill("Whelk 4")
    page.get_by_label("Mode table").fill(TABLE)
    page.get_by_role("button", name="Take these").click()
    page.locator(".field").and_(page.get_by_label("megapixels")).fill("27")
    page.get_by_test_id("mode-map").wait_for()
    page.get_by_role("button", name="Lenses and sensors").click()
    page.wait_for_timeout(900)
    page.screenshot(path=folder / "kit-editor.png")
    page.get_by_role("button", name="Discard").first.click()
    page.get_by_role("button", name="Discard it").click()
    page.wait_for_url("**/kit/cameras/**")


def ways(page: Page, address: str, folder: Path) -> None:
    """Three ways to film the punts side by side; they are discarded again."""
    page.goto(f"{address}/shots/{shot_called(address, 'Along the punts, camera in hand')}")
    page.get_by_role("figure", name="Gauge").wait_for()
    page.wait_for_timeout(1500)
    dialog = page.get_by_role("dialog", name="Ways to film it")
    for way in ("get it at any noise", "drop stabilisation in the dark"):
        page.get_by_role("button", name=f"Try it: {way}").click()
        page.get_by_text(f"Trying: {way}").wait_for()
        page.wait_for_timeout(1500)
        page.keyboard.press("y")
        dialog.get_by_role("button", name="Keep this way beside it").click()
        dialog.get_by_role("button", name="Discard").first.wait_for()
        page.keyboard.press("Escape")
        page.get_by_role("button", name="take it back").click()
        page.wait_for_timeout(1500)
    page.keyboard.press("y")
    page.wait_for_timeout(2000)
    page.screenshot(path=folder / "bench-ways.png")
    for _ in range(2):
        dialog.get_by_role("button", name="Discard").first.click()
        page.wait_for_timeout(800)
    page.keyboard.press("Escape")


def look(page: Page, address: str, shot: str, folder: Path) -> None:
    """This plan of the punts and a darker one."""
    page.goto(f"{address}/shots/{shot}/look")
    page.get_by_role("button", name="The other plan").click()
    page.get_by_role("dialog", name="The other plan").get_by_role("button", name="take a cleaner").click()
    page.get_by_role("slider", name="Moment of the light").fill("0.25")
    page.get_by_role("table").first.wait_for()
    page.wait_for_timeout(4000)
    page.wait_for_timeout(200)
    page.screenshot(path=folder / "look-day.png")


def rushes(page: Page, address: str, folder: Path) -> None:
    """A take of the trial evening that the sun spoilt, once all of them are measured."""
    until = time.monotonic() + 180
    while httpx.get(f"{address}/api/rushes/clips").json()["counts"]["done"] < 8:
        if time.monotonic() > until:
            raise SystemExit("The trial evening is not measured yet. Is a worker running?")
        time.sleep(1)
    page.goto(f"{address}/rushes")
    page.get_by_role("link", name="quay_2.mp4").first.click()
    page.get_by_text("Plan the next take so").wait_for()
    page.mouse.move(640, 700)
    page.evaluate("document.activeElement.blur()")
    page.wait_for_timeout(400)
    page.screenshot(path=folder / "rushes-day.png")


def log(page: Page, address: str, folder: Path) -> None:
    """The season: its takes, and own numbers of which some are on."""
    page.goto(f"{address}/log")
    page.get_by_text("What recurs").wait_for()
    page.wait_for_timeout(300)
    page.screenshot(path=folder / "log-takes.png")
    for key in ("metering/limpet-7/day", "noise/Wren%20Castellane"):
        httpx.post(f"{address}/api/log/numbers", json={"key": key, "on": True}).raise_for_status()
    page.goto(f"{address}/log/own")
    page.get_by_text("plans use it").first.wait_for()
    page.screenshot(path=folder / "log-own.png")
    for key in ("metering/limpet-7/day", "noise/Wren%20Castellane"):
        httpx.post(f"{address}/api/log/numbers", json={"key": key, "on": False}).raise_for_status()


def story(page: Page, address: str, folder: Path) -> None:
    """The film of the mill, its fourth framing's shadow, and what the edit is handed."""
    shoots = httpx.get(f"{address}/api/shoots").json()["items"]
    mill = next(one["id"] for one in shoots if one["title"] == "The mill in twenty seconds")
    page.goto(f"{address}/shoots/{mill}/story")
    page.get_by_role("button", name=re.compile("^Framing 7,")).click()
    page.get_by_text("Side light, as wished").wait_for()
    page.mouse.move(5, 700)
    page.wait_for_timeout(300)
    page.screenshot(path=folder / "shoots-story.png")
    page.goto(f"{address}/shoots/{mill}/edit")
    page.get_by_role("region", name="Group A").wait_for()
    page.wait_for_timeout(200)
    page.screenshot(path=folder / "shoots-edit.png")


def uses(page: Page, address: str, folder: Path) -> None:
    """Usual uses with some chosen; they are let go of again."""
    chosen = ("everyday_walk", "night_street", "pov_ride", "snorkel", "window_talk", "over_land")
    for use in chosen:
        choose_use(address, use, True)
    page.goto(f"{address}/uses")
    page.get_by_role("region", name="Limpet 7").get_by_text("taps in a year").wait_for(timeout=60_000)
    page.wait_for_timeout(600)
    page.screenshot(path=folder / "uses.png")
    for use in chosen:
        choose_use(address, use, False)


def choose_use(address: str, use: str, on: bool) -> None:
    """Choose a use, or let go of it."""
    shelf = httpx.get(f"{address}/api/uses", timeout=30).json()["items"]
    revision = next(one["revision"] for one in shelf if one["id"] == use)
    change = {"revision": revision, "change": {"chosen": on}}
    httpx.patch(f"{address}/api/uses/{use}", json=change, timeout=30).raise_for_status()


def practice(page: Page, address: str, folder: Path) -> None:
    """A question with pictures that was answered, with why. What is remembered of it is forgotten again."""
    kept = page.context
    kept.route(
        re.compile("/api/practice\\?"),
        lambda route: route.fulfill(json={**route.fetch().json(), "topics": ["which:white_balance_k"]}),
    )
    page.goto(f"{address}/practice")
    page.get_by_role("heading", name=re.compile("Which is the one")).wait_for(timeout=60_000)
    page.locator(".part-of-frame img").nth(1).wait_for(timeout=60_000)
    for key in ("b", "Enter"):
        page.keyboard.press(key)
    page.get_by_text(re.compile("^asked again")).wait_for(timeout=60_000)
    page.wait_for_timeout(300)
    page.screenshot(path=folder / "practice.png")
    kept.unroute_all()
    httpx.delete(f"{address}/api/practice", timeout=30).raise_for_status()


def main() -> None:
    """Take all pictures."""
    address, folder = sys.argv[1], Path(sys.argv[2] if len(sys.argv) > 2 else "docs/screenshots")
    folder.mkdir(parents=True, exist_ok=True)
    quay, punts = shot_called(address, "Wren walks the quay"), shot_called(address, "Lantern punts")
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800}, reduced_motion="reduce")
        page.goto(f"{address}/shoots")
        page.get_by_role("slider", name="Creek from the air, start").click()
        page.locator("[data-glass]").first.wait_for()
        page.wait_for_timeout(150)
        page.screenshot(path=folder / "shoots-day.png")
        for ground, shot in (("day", quay), ("red", punts)):
            page.goto(f"{address}/shots/{shot}")
            page.get_by_role("figure", name="Gauge").wait_for()
            on_ground(page, ground)
            page.wait_for_timeout(150)
            page.screenshot(path=folder / f"bench-{ground}.png")
        page.goto(f"{address}/shots/{quay}")
        page.get_by_role("figure", name="Gauge").wait_for()
        on_ground(page, "day")
        page.keyboard.press("g")
        page.wait_for_timeout(200)
        page.screenshot(path=folder / "bench-open-row.png")
        shoot = httpx.get(f"{address}/api/shoots").json()["items"][0]["id"]
        page.goto(f"{address}/shoots/{shoot}/budgets")
        page.get_by_text("charge left").first.wait_for()
        page.wait_for_timeout(200)
        page.screenshot(path=folder / "shoots-budgets.png")
        story(page, address, folder)
        look(page, address, punts, folder)
        rushes(page, address, folder)
        log(page, address, folder)
        ways(page, address, folder)
        uses(page, address, folder)
        practice(page, address, folder)
        of_the_kit(page, address, folder)
        phone = browser.new_page(viewport={"width": 360, "height": 780}, device_scale_factor=2)
        phone.goto(f"{address}/shots/{punts}/card")
        phone.get_by_label("Field card").wait_for()
        phone.get_by_text("Counting what has to be turned.").wait_for(state="detached", timeout=60_000)
        phone.wait_for_timeout(150)
        phone.screenshot(path=folder / "card-day.png", full_page=True)
        phone.goto(f"{address}/shots/{quay}")
        phone.get_by_role("navigation", name="Parts of the Bench").get_by_role("button", name="Sheet").click()
        phone.wait_for_timeout(1500)
        phone.screenshot(path=folder / "bench-phone.png")
        browser.close()
    on_paper(address, shot_called(address, "Rows of eelgrass"), folder / "card-paper.png")


if __name__ == "__main__":
    main()
