"""A camera with thirty modes, entered as a new user would, and the first plan on it: steps, and minutes.

Usage: .venv/bin/python bench/new_camera.py http://127.0.0.1:8420
Needs a running service; the camera is put away again. Each thing that a person does is done in a browser and counted.
Their time is worked out by the keystroke-level model (Card, Moran, Newell: keystroke 0.28 s, pointing 1.1 s, hand to the
mouse or back 0.4 s, a thought 1.35 s); finding a number on the box is taken as 8 s, selecting and copying the manual's
table as 40 s, looking through the answers as 20 s. The waiting is measured. Its baseline is a day's own page of the same run.
"""

from __future__ import annotations

import sys
import time
from pathlib import Path

import httpx
from playwright.sync_api import Page, sync_playwright

sys.path.insert(0, str(Path(__file__).parents[1]))
from tests.manual_table import TABLE

FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking"]
KEY, POINT, HAND, THOUGHT = 0.28, 1.1, 0.4, 1.35
ON_THE_BOX, COPYING, LOOKING = 8.0, 40.0, 20.0
BOX = [
    ("sensor type", "1/1.9"),
    ("megapixels", "27"),
    ("cell mAh", "1720"),
    ("cell voltage", "3.85"),
    ("a charge lasts", "1.2"),
]


class Person:
    """Counts what a person does, and what they wait for."""

    def __init__(self, page: Page) -> None:
        self.page, self.steps, self.acting, self.waited = page, 0, 0.0, 0.0

    def _did(self, seconds: float, began: float, what: str) -> None:
        self.steps += 1
        self.acting += seconds
        self.waited += time.perf_counter() - began
        print(f"{self.steps:3}  {what:<46} {seconds:6.1f} s")

    def click(self, role: str, name: str, then: str) -> None:
        """Press something and wait for what it brings. then: a selector."""
        began = time.perf_counter()
        self.page.get_by_role(role, name=name).first.click()  # type: ignore[arg-type]
        self.page.locator(then).first.wait_for()
        self._did(THOUGHT + POINT + HAND + KEY, began, f"press “{name}”")

    def type(self, field: str, text: str, finding: float) -> None:
        """Point at a field, find what belongs there, type it."""
        began = time.perf_counter()
        self.page.locator(".field").and_(self.page.get_by_label(field)).first.fill(text)
        self._did(finding + POINT + 2 * HAND + THOUGHT + KEY * len(text), began, f"type {field}: {text}")

    def paste(self, field: str, text: str, then: str) -> None:
        """Copy a table elsewhere and paste it."""
        began = time.perf_counter()
        self.page.get_by_label(field).fill(text)
        self.page.locator(then).first.wait_for()
        self._did(COPYING + POINT + 2 * HAND + THOUGHT + 4 * KEY, began, "copy the manual's table and paste it")

    def look(self, what: str) -> None:
        """Look an answer through."""
        self._did(LOOKING, time.perf_counter(), f"look through {what}")


def main() -> None:
    """Enter the camera, and print the account."""
    address = sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8420"
    name = f"Whelk {time.time_ns() % 10_000}"
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        began = time.perf_counter()
        page.goto(f"{address}/shoots")
        page.get_by_role("heading", name="Shoots", exact=True).wait_for()
        baseline = time.perf_counter() - began
        person = Person(page)
        person.click("link", "Kit", "h1:text('Kit')")
        person.click("link", "New camera", "textarea")
        person.type("name", name, 0.0)
        person.paste("Mode table", TABLE, "[data-testid=table-read]")
        person.look("what was read")
        person.click("button", "Take these 30 modes", "[data-testid=mode-map]")
        for field, value in BOX:
            person.type(field, value, ON_THE_BOX)
        person.look("the map")
        person.click("button", "Keep this camera", "text=of its numbers are estimates")
        with_own_numbers = person.steps, person.acting, person.waited
        person.click("link", "Plan a shot with it", "text=everyday walk")
        person.click("button", "everyday walk", "text=Where do you film it?")
        person.click("button", "open shade", "figure[aria-label=Gauge]")
        planned_on = page.locator("section[aria-label=Brief]").inner_text()
        shot = page.url.rpartition("/")[2]
        browser.close()
    assert name in planned_on, planned_on
    shoot = httpx.get(f"{address}/api/shots/{shot}").json()["shoot_id"]
    httpx.delete(f"{address}/api/shots/{shot}")
    if not httpx.get(f"{address}/api/shoots/{shoot}/shots").json()["items"]:
        httpx.delete(f"{address}/api/shoots/{shoot}")
    made = next(camera for camera in httpx.get(f"{address}/api/kit").json()["cameras"] if camera["name"] == name)
    httpx.delete(f"{address}/api/kit/cameras/{made['id']}")
    steps, acting, waited = (
        after - before
        for after, before in zip((person.steps, person.acting, person.waited), with_own_numbers, strict=True)
    )
    print(f"\n{made['modes']} modes, {made['estimates']} estimates, {person.steps} steps")
    print(
        f"with_own_numbers in {with_own_numbers[1] / 60:.1f} min; from there {steps} steps, {acting:.1f} s of doing and {waited:.1f} s of waiting to a plan on it"
    )
    print(
        f"a person's doing {person.acting / 60:.1f} min, waiting {person.waited:.1f} s (a first page of the same run: {baseline:.1f} s)"
    )


if __name__ == "__main__":
    main()
