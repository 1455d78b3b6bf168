"""Input to paint on the CameraProblem, and the compressed script of the first view.

Usage: .venv/bin/python bench/interface.py http://127.0.0.1:8420
Needs a freshly started service with the demo data (it remembers its last plans). Beside each figure stands a baseline of the same run: the
empty request to the service, and a frame of the browser in which nothing changes.
"""

from __future__ import annotations

import gzip
import re
import statistics
import sys
import time

import httpx
from playwright.sync_api import sync_playwright

from steady_tide import library
from steady_tide.core.brief.brief import read_brief
from steady_tide.core.planning.planner import plan

FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking"]
WATCH = """() => {
  window.paints = []; window.others = [];
  document.addEventListener('click', () => { window.began = performance.now(); window.asked = window.began; }, true);
  new MutationObserver(() => requestAnimationFrame(() => {
    if (window.began) { window.paints.push(performance.now() - window.began); window.began = 0; }
  })).observe(document.querySelector('[data-testid=value-glass]').parentElement.parentElement, {subtree: true, childList: true, characterData: true});
  let busy = false;
  new MutationObserver(() => {
    const now = document.querySelector('[data-testid=cameras]').getAttribute('aria-busy') === 'true';
    if (busy && !now) window.others.push(performance.now() - window.asked);
    busy = now;
  }).observe(document.querySelector('[data-testid=cameras]'), {attributes: true});
}"""
FRAME = "() => new Promise(done => { const began = performance.now(); requestAnimationFrame(() => requestAnimationFrame(() => done(performance.now() - began))); })"


def main() -> None:
    """Measure and print."""
    address = sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8420"
    client = httpx.Client(base_url=address)
    shots = client.get(f"/api/shoots/{client.get('/api/shoots').json()['items'][0]['id']}/shots").json()["items"]
    brief = client.get(f"/api/shots/{shots[1]['id']}").json()["brief"]

    def median_ms(call: object) -> float:
        found = []
        for _ in range(15):
            began = time.perf_counter()
            call()  # type: ignore[operator]
            found.append((time.perf_counter() - began) * 1000)
        return statistics.median(found)

    empty = median_ms(lambda: client.get("/api/health"))
    warmer = iter(range(1, 10**6))  # never asked before, since the service remembers
    planning = median_ms(lambda: client.post("/api/bench", json={**brief, "air_c": 15 + next(warmer) * 1e-6}))
    camera = client.get(f"/api/shots/{shots[1]['id']}").json()["plan"]["camera"]["id"]
    hurry = {"only": camera, "whole": False}
    quick = median_ms(
        lambda: client.post("/api/bench", params=hurry, json={**brief, "air_c": 15 + next(warmer) * 1e-6})
    )
    what, kit, known = read_brief(brief), library.demo_kit(), library.knowledge()
    core = median_ms(
        lambda: plan(
            what.model_copy(update={"air_c": 15 + next(warmer) * 1e-6}), kit, known, only=camera, schools=False
        )
    )
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        scripts: set[str] = set()
        page.on("response", lambda response: scripts.add(response.url) if response.url.endswith(".js") else None)
        page.goto(f"{address}/shots/{shots[1]['id']}")
        page.get_by_role("figure", name="Gauge").wait_for()
        page.keyboard.press("g")
        frame = statistics.median([page.evaluate(FRAME) for _ in range(15)])
        page.evaluate(WATCH)
        row = page.locator("[data-row=glass]")
        values = row.locator("[role=group] button[aria-disabled=false]")
        # Forty plans that were never asked for before: every glass, under each way to hold two other rows.
        for held in ("", "Steadying", "Sharpness", "Steadying"):
            if held:
                page.get_by_role("button", name=re.compile(f"^(Pin|Release) {held}$")).click()
                page.wait_for_timeout(900)
            page.evaluate("window.began = 0")
            for turn in range(10):
                values.nth(turn % values.count()).click()
                page.wait_for_timeout(900)
        paints, others = page.evaluate("[window.paints, window.others]")
        for _ in range(50):
            page.keyboard.press("u")
        page.wait_for_timeout(1500)
        browser.close()
    size = sum(len(gzip.compress(client.get(url).content)) for url in scripts)
    print(
        f"input to paint    {statistics.median(paints):7.0f} ms median, {max(paints):.0f} ms most, of {len(paints)} (budget 90 and 140)"
    )
    print(
        f"others would      {statistics.median(others):7.0f} ms median, {max(others):.0f} ms most, of {len(others)} (budget 250)"
    )
    print(f"whole answer, HTTP{planning:7.1f} ms median; an empty request in the same run {empty:.1f} ms")
    print(f"in a hurry, HTTP  {quick:7.1f} ms median; the core alone in the same run {core:.1f} ms")
    print(f"two empty frames  {frame:7.1f} ms median")
    print(f"first view        {size / 1000:7.1f} kB of compressed script in {len(scripts)} files (budget 200)")


if __name__ == "__main__":
    main()
