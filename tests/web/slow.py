"""A line that is slow: what the page asks for goes out later than what it does next."""

from __future__ import annotations

import json

from playwright.sync_api import Page

LATER_MS = 1000
HOLD = """(() => {
  const [part, method, later] = %s;
  const fetched = window.fetch;
  window.fetch = async (asked, ...more) => {
    if (asked.method === method && asked.url.includes(part)) await new Promise((over) => setTimeout(over, later));
    return fetched(asked, ...more);
  };
})();"""


def slow(page: Page, part: str, method: str) -> None:
    """From the next loading on, calls of this method whose address has this part are held for a moment."""
    page.add_init_script(HOLD % json.dumps([part, method, LATER_MS]))
