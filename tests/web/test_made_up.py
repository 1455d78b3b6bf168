"""A dial and an item that are defined once are shown on the Bench, priced and pinned, without a line of interface."""

from __future__ import annotations

import re

import httpx
import pytest
from playwright.sync_api import Page, expect

from steady_tide.store.database import Database
from tests.briefs import QUAY, SUN
from tests.made_up import WITH_HOOD
from tests.service import serving

pytestmark = pytest.mark.browser


def test_a_dial_and_an_item_of_one_definition_are_on_the_bench(page: Page, database: Database) -> None:
    with serving(database, judgement=WITH_HOOD) as at:
        shoot = httpx.post(f"{at}/api/shoots", json={"title": "hooded"}).json()["id"]
        made = httpx.post(
            f"{at}/api/shoots/{shoot}/shots", json={"brief": {"title": "Hood", "light": SUN, **QUAY}}, timeout=20
        )
        page.goto(f"{at}/shots/{made.json()['id']}")
        shown = page.get_by_test_id("value-hood")
        expect(shown).to_have_text("deep")
        page.locator("[data-row=hood] button").first.click()
        profile = page.get_by_role("group", name="lens hood: stops more given up")
        price = profile.get_by_role("button", name=re.compile("^none, "))
        expect(price).to_have_attribute("aria-label", re.compile(r"0\.\d stops more"))
        price.click()
        expect(shown).to_have_text("none")
        expect(page.locator("[data-row=hood]")).to_contain_text("Free, it would be a deep hood")
        expect(page.get_by_role("complementary", name="Ledger")).to_contain_text("stray light")
        page.get_by_role("button", name="Release Lens hood").click()
        expect(shown).to_have_text("deep")
        expect(page.get_by_test_id("saving")).to_contain_text(re.compile(r"^saved \d"))
        httpx.delete(f"{at}/api/shoots/{shoot}")
