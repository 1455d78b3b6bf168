"""Faults of accessibility, looked for by a library."""

from __future__ import annotations

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page

FAULTS = {"resultTypes": ["violations"]}  # what is right is not told one by one
GROUNDS = ("day", "night", "red")


def assert_accessible(page: Page, every_ground: bool = False) -> None:
    """No fault by the rules of WCAG 2.1 A and AA. The other grounds change colours alone, so contrast is asked again."""
    found = Axe().run(page, options={"runOnly": ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa"], **FAULTS})
    assert found.violations_count == 0, found.generate_report()
    if not every_ground:
        return
    before = page.evaluate("document.documentElement.dataset.ground ?? 'day'")
    for ground in (other for other in GROUNDS if other != before):
        page.evaluate("ground => { document.documentElement.dataset.ground = ground }", ground)
        found = Axe().run(page, options={"runOnly": {"type": "rule", "values": ["color-contrast"]}, **FAULTS})
        assert found.violations_count == 0, (ground, found.generate_report())
    page.evaluate("ground => { document.documentElement.dataset.ground = ground }", before)
