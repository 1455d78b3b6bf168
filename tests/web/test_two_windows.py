"""Two windows on the same thing: neither loses what was typed, and whoever meets the other's change is asked."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

import httpx
import pytest
from playwright.sync_api import Page, expect

from tests.changing import changed

pytestmark = pytest.mark.browser
DAY = {"day": "2026-10-11", "zone": "Europe/London", "latitude": 52.06, "longitude": 1.31}


def shoot_of(address: str) -> str:
    return str(httpx.post(f"{address}/api/shoots", json={"title": f"Two {uuid4().hex[:6]}", **DAY}).json()["id"])


def kept(address: str, shoot: str) -> dict[str, Any]:
    return dict(httpx.get(f"{address}/api/shoots/{shoot}").json())


def test_a_sky_set_in_an_old_window_leaves_the_others_note(page: Page, address: str) -> None:
    shoot = shoot_of(address)
    page.goto(f"{address}/shoots/{shoot}")
    page.get_by_label("Sky", exact=True).wait_for()
    changed(httpx, f"{address}/api/shoots/{shoot}", note="bring rope").raise_for_status()
    with page.expect_response(lambda r: r.request.method == "PATCH") as sent:
        page.get_by_label("Sky", exact=True).select_option("storm")
    assert sent.value.status == 200
    assert (kept(address, shoot)["cloud"], kept(address, shoot)["note"]) == ("storm", "bring rope")


def test_a_note_that_met_anothers_stays_typed_until_one_has_chosen(page: Page, address: str) -> None:
    shoot = shoot_of(address)
    page.goto(f"{address}/shoots/{shoot}")
    page.get_by_role("button", name="Place and day").click()
    form = page.get_by_role("form", name="Place and day")
    form.get_by_label("Note").fill("mine")
    form.get_by_label("Place", exact=True).fill("the bar")
    changed(httpx, f"{address}/api/shoots/{shoot}", note="theirs", cloud="clear").raise_for_status()
    form.get_by_role("button", name="Keep").click()
    expect(form.get_by_role("alert")).to_contain_text("note is “theirs” now, changed elsewhere.")
    expect(form.get_by_label("Note")).to_have_value("mine")
    assert kept(address, shoot)["place"] == "", "nothing is kept by halves"
    form.get_by_role("button", name="Keep mine").click()
    expect(form).to_have_count(0)
    now = kept(address, shoot)
    assert (now["note"], now["place"], now["cloud"]) == ("mine", "the bar", "clear")


def test_a_place_in_the_kit_is_asked_about(page: Page, address: str) -> None:
    page.goto(f"{address}/kit/batteries")
    where = page.get_by_label("Where Limpet spare cell lies")
    where.wait_for()
    cell = next(row for row in httpx.get(f"{address}/api/kit").json()["batteries"] if "Limpet" in row["thing"]["name"])
    at = f"{address}/api/kit/things/batteries/{cell['thing']['id']}"
    httpx.patch(at, json={"revision": cell["revision"], "keeping": {"where": "the boat"}}).raise_for_status()
    where.fill("the shed")
    where.press("Enter")
    asked = page.get_by_role("alert")
    expect(asked).to_contain_text("where is “the boat” now, changed elsewhere. Yours was “the shed”.")
    asked.get_by_role("button", name="Put mine").click()
    expect(asked).to_have_count(0)
    expect(where).to_have_value("the shed")
    # Two changes in a row are no conflict with oneself.
    where.fill("the loft")
    where.press("Enter")
    page.get_by_label("Limpet spare cell charged").select_option("1")
    expect(asked).to_have_count(0)
    expect(where).to_have_value("the loft")


def test_a_sheet_that_two_windows_write_is_asked_about(page: Page, address: str) -> None:
    draft = str(uuid4())
    page.goto(f"{address}/kit/drafts/{draft}")
    page.get_by_label("name", exact=True).fill("Mine")
    expect(page.get_by_test_id("saving")).to_have_text("kept as begun")
    there = httpx.get(f"{address}/api/sheets/drafts/{draft}").json()
    body = {"revision": there["revision"], "change": {"sheet.name": "Theirs"}}
    httpx.patch(f"{address}/api/sheets/drafts/{draft}", json=body).raise_for_status()
    page.get_by_label("name", exact=True).fill("Mine again")
    expect(page.get_by_role("alert").filter(has_text="changed elsewhere")).to_be_visible()
    assert httpx.get(f"{address}/api/sheets/drafts/{draft}").json()["name"] == "Theirs"
    page.get_by_role("button", name="keep mine").click()
    expect(page.get_by_test_id("saving")).to_have_text("kept as begun")
    assert httpx.get(f"{address}/api/sheets/drafts/{draft}").json()["name"] == "Mine again"


def test_a_field_that_is_emptied_in_the_kit_is_kept_empty(page: Page, address: str) -> None:
    case = {"name": "Grey case", "fits": ["limpet-7"], "proof_depth_m": 30, "port": "flat", "filters": "port-52"}
    httpx.put(f"{address}/api/kit/things/housings/grey-case", json={"thing": case}).raise_for_status()
    page.goto(f"{address}/kit/housings")
    page.get_by_role("button", name="Change Grey case").click()
    form = page.get_by_role("form", name="Change Grey case")
    form.get_by_label("filter mount on its port").fill("")
    form.get_by_role("button", name="Keep").click()
    expect(form).to_have_count(0)
    rows = httpx.get(f"{address}/api/kit").json()["housings"]
    assert next(row for row in rows if row["thing"]["id"] == "grey-case")["thing"]["filters"] == ""
    httpx.delete(f"{address}/api/kit/things/housings/grey-case")
