"""A year's taps with standing presets beside the menu alone, how long they take to be found beside planning the uses, and, with a running service
that has no shoot yet, the first minutes of a stranger.

Run: python bench/uses.py [http://127.0.0.1:8420]
The stranger's time is worked out by the keystroke-level model as in bench/new_camera.py; the waiting is measured, beside the page alone.
"""

from __future__ import annotations

import sys
import time
from pathlib import Path

import httpx
from playwright.sync_api import Page, sync_playwright

sys.path.insert(0, str(Path(__file__).parents[1]))

from steady_tide import library
from steady_tide.core.planning.planner import plan
from steady_tide.core.quantities.errors import NoLegalPlan
from steady_tide.core.uses.standing import PlannedUse, standing_of

FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking"]
KEY, POINT, HAND, THOUGHT = 0.28, 1.1, 0.4, 1.35
READING = 4.0  # a screen that is new


def presets() -> None:
    """Each camera's year, with all uses of the shelf that it can film."""
    kit = library.demo_kit()
    print("camera, uses, presets: taps in a year, by the menu, ratio; proven; found in, beside planning")
    for sheet in kit.cameras:
        began = time.perf_counter()
        planned = []
        for use in library.uses().values():
            try:
                made = plan(use.brief, kit, library.knowledge(), only=sheet.id, schools=False)
            except NoLegalPlan:
                continue
            planned.append(PlannedUse(use.id, use.name, use.per_year, made))
        planning = time.perf_counter() - began
        if not planned:
            continue
        began = time.perf_counter()
        found = standing_of(sheet, planned, time.monotonic)
        took = time.perf_counter() - began
        proof = "yes" if found.proven else f"not below {found.least:.0f}"
        print(
            f"{sheet.name:14} {len(planned):2} uses, {len(found.presets)} of {found.preset_count} presets: {found.taps:6.0f} of {found.by_menu:6.0f}, "
            f"{found.taps / max(found.by_menu, 1.0):.2f}; proven: {proof}; {took:.2f} s beside {planning:.2f} s"
        )


def clicked(page: Page, name: str, then: str, first: bool = False) -> tuple[float, float]:
    """Press a button. name: its words; then: what is waited for; first: the screen is new. Returns seconds of acting and of waiting."""
    began = time.perf_counter()
    page.get_by_role("button", name=name).first.click()
    page.locator(then).first.wait_for()
    return THOUGHT + POINT + HAND + KEY + (READING if first else 0.0), time.perf_counter() - began


def first_minutes(address: str) -> None:
    """From an empty database to the first plan. address: of the service."""
    if httpx.get(f"{address}/api/shoots", timeout=30).json()["total"]:
        raise SystemExit("There are shoots already: start it with --no-demo and a new folder.")
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        began = time.perf_counter()
        page.goto(f"{address}/shoots")
        page.get_by_role("region", name="Welcome").get_by_role("button", name="everyday walk").wait_for()
        loading = time.perf_counter() - began
        steps = [
            clicked(page, "Limpet 7, action camera", "button[aria-pressed=true]", first=True),
            clicked(page, "street at night", "text=Where do you film it?", first=True),
            clicked(page, "lamp-lit road", "figure[aria-label=Gauge]"),
        ]
        acting, waited = sum(step[0] for step in steps), sum(step[1] for step in steps)
        print(
            f"first minutes: {len(steps)} clicks to a plan, {acting + waited:.1f} s, of them {waited:.1f} s waiting; "
            f"the page alone {loading:.1f} s"
        )
        for shoot in httpx.get(f"{address}/api/shoots", timeout=30).json()["items"]:
            httpx.delete(f"{address}/api/shoots/{shoot['id']}", timeout=30).raise_for_status()
        browser.close()


if __name__ == "__main__":
    if len(sys.argv) > 1:
        first_minutes(sys.argv[1].rstrip("/"))
    presets()
