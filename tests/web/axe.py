"""Faults of accessibility, looked for by a library."""

from __future__ import annotations

from typing import Any

from axe_playwright_python.base import AxeResults
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page

FAULTS = {"resultTypes": ["violations"]}  # what is right is not told one by one


def _found(page: Page, options: dict[str, Any]) -> AxeResults:
    """What the library finds; it is handed to a page once."""
    if page.evaluate("typeof axe") == "undefined":
        page.evaluate(Axe().axe_script)
    return AxeResults(page.evaluate("options => axe.run(options)", options))


def assert_accessible(page: Page) -> None:
    """No fault by the rules of WCAG 2.1 A and AA. The other grounds change colours alone: their contrast follows from the
    palette, see `tests/formats/test_palette.py`."""
    found = _found(page, {"runOnly": ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa"], **FAULTS})
    assert found.violations_count == 0, found.generate_report()
