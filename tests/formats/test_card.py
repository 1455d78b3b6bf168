"""The field card: menu order, labels, checks, and the self-contained file."""

from __future__ import annotations

import re
from typing import Any

import pytest

from steady_tide import library
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.plan import Plan
from steady_tide.formats.card_html import write_card
from steady_tide.words.cards import Card, card_of
from tests.briefs import EELGRASS, JAR, PUNTS, QUAY, STARS, SUN, WRECK, brief, decided
from tests.small_sheet import small_sheet


def sheet_of(plan: Plan) -> CameraSheet:
    return next(camera for camera in library.demo_kit().cameras if camera.id == plan.camera.id)


def card(**fields: Any) -> Card:
    plan = decided(**fields)
    return card_of(brief(**fields), plan, sheet_of(plan), library.knowledge())


def test_the_card_follows_the_cameras_menu() -> None:
    sheet = sheet_of(decided(**QUAY))
    made = card(**QUAY)
    assert [page.page for page in made.pages] == [page.page for page in sheet.menu]
    assert [row.dial for page in made.pages for row in page.rows] == [
        entry.dial for page in sheet.menu for entry in page.dials
    ]
    rows = {row.dial: row for page in made.pages for row in page.rows}
    assert (rows["frame"].value, rows["frame"].exact) == ("4K", "3840\u202f\u00d7\u202f2160")
    assert (rows["shutter_s"].value, rows["shutter_s"].unit) == ("1/50", "s")
    assert (rows["frame_rate"].value, rows["frame_rate"].unit) == ("25", "fps")
    assert (rows["iso_ceiling"].label, rows["iso_ceiling"].value) == ("Highest ISO", "100")
    assert made.glass == "ND 64"


def test_a_sheet_without_a_menu_still_gets_every_dial() -> None:
    made = card_of(brief(**QUAY), decided(**QUAY), small_sheet(), library.knowledge())
    told = {row.dial for page in made.pages for row in page.rows}
    by_hand = {"nd", "colour_filter", "housing", "attachment", "microphone"}
    assert told == set(USUAL.listed) - by_hand - set(decided(**QUAY).settled)
    assert "frame" in told


def test_pinned_rows_are_marked() -> None:
    rows = {row.dial: row for page in card(**QUAY, pins={"view": "tight"}).pages for row in page.rows}
    assert rows["view"].pinned
    assert not rows["frame"].pinned


@pytest.mark.parametrize(
    ("fields", "has", "has_not"),
    [
        (QUAY, {"glass", "locked", "grid", "hold"}, {"torch", "tripod", "foam", "warm"}),
        ({**PUNTS, "air_c": -3}, {"torch", "tripod", "metering", "warm"}, {"locked", "grid"}),
        (
            {"camera_move": {"mount": "chest"}, "sound": {"wind_m_s": 8}, "subject": {"event_s": 0.5}},
            {"tilt", "foam", "early"},
            {"grid", "hold"},
        ),
        (EELGRASS, {"seal", "fog", "tether", "glass"}, {"foam", "tripod"}),
        (STARS, {"interval", "dew", "tripod", "torch"}, {"hold", "foam"}),
        (JAR, {"focus", "tripod", "locked"}, {"grid", "seal"}),
        ({"camera_move": {"mount": "drone_gimbal"}, "scenario": "motion"}, {"flight"}, {"tilt", "grid"}),
    ],
)
def test_checks_come_from_scenario_and_plan(fields: dict[str, Any], has: set[str], has_not: set[str]) -> None:
    checks = {check.id for check in card(**fields).checks}
    assert has <= checks
    assert not has_not & checks


def test_what_goes_before_the_lens_stands_first() -> None:
    green = {**EELGRASS["light"], "depth_m": [4, 5], "surface": SUN}
    assert card(**{**EELGRASS, "light": green}).glass == "magenta, Limpet dive case"
    assert card(**PUNTS).glass == "no filter"


def test_a_stop_stands_at_the_top_of_the_file() -> None:
    text = write_card(card(**WRECK, kit={"housings": []}), key="wreck")
    assert text.index("Do not take it down") < text.index("Before the lens")


def test_the_file_needs_nothing_from_outside() -> None:
    text = write_card(card(**QUAY).model_copy(update={"when": "Sunday 11 October, 09:30"}), key="shot-1", ground="red")
    assert "<br>Sunday 11 October, 09:30</div>" in text
    addresses = re.findall(r"(?:src|href|url)\s*[=(]\s*[\"']?([^\"')\s]+)", text)
    assert addresses
    assert all(address.startswith("data:") for address in addresses)
    assert "http" not in text.replace("http-equiv", "")
    assert "@import" not in text
    assert 'data-ground="red"' in text


def test_a_title_cannot_become_markup_or_script() -> None:
    text = write_card(card(**{**QUAY, "title": '<script>alert("x")</script>'}), key='";alert(1);//')
    assert "<script>alert" not in text
    assert "&lt;script&gt;" in text
    assert 'data-key="alert1"' in text
