"""Cards of a day: what is marked, what is told of the day, on paper and as a file."""

from __future__ import annotations

import json
import re
from functools import cache
from io import BytesIO
from zoneinfo import ZoneInfo

import pytest
from pypdf import PdfReader

from steady_tide import library
from steady_tide.core.brief.brief import School
from steady_tide.core.gear.items import piece_of
from steady_tide.core.outing.budget import budget_of
from steady_tide.core.outing.day import DayPlace
from steady_tide.core.outing.packing import packing_of
from steady_tide.core.outing.presets import presets_of_day
from steady_tide.formats.card_html import write_cards
from steady_tide.formats.card_pdf import Paper, write_card_pdf
from steady_tide.words.day_cards import DayCards
from steady_tide.words.days import whole_day
from steady_tide.words.packing import packing_text
from tests.checks import at_least_one
from tests.days import day, demo_day, demo_shoot, shot

SIZES_MM = {"a6": (105, 148), "a5": (148, 210), "letter": (215.9, 279.4)}
KIT, KNOWN = library.demo_kit(), library.knowledge()


@cache
def cards(camera: str | None = None, only: str | None = None) -> DayCards:
    shoot, outing = demo_shoot(), demo_day()
    where = DayPlace(shoot.title, shoot.place, shoot.day, ZoneInfo(shoot.zone), shoot.latitude, shoot.longitude)
    crew = shoot.crew.school if shoot.crew else School()
    return whole_day(outing, where, KIT, KNOWN, crew, presets_of_day(outing), camera, only)


def test_only_what_differs_from_what_the_camera_is_set_to_is_marked() -> None:
    made = cards()
    plans = {plan.camera: plan for plan in made.presets}
    for entry in at_least_one(made.cards):
        marked = {row.dial for page in entry.card.pages for row in page.rows if row.changed}
        step = next(step for step in plans[entry.camera_id].steps if step.key == entry.key)
        assert marked == {change.dial for change in step.changes}
        assert entry.card.begin is not None
        assert entry.card.begin.changes == len(marked)
        assert entry.card.begin.preset == step.preset


def test_a_card_tells_what_is_left_and_what_fails() -> None:
    by = {entry.card.title: entry.card for entry in cards().cards}
    assert any("%" in line and "Wh" in line for line in by["Rows of eelgrass"].left)
    assert by["Stars over the sluice"].fails
    assert any("kept for the way home" in line for line in by["Creek from the air"].left)
    assert by["Rows of eelgrass"].when == "Sunday 11 October, 12:50"


@pytest.mark.parametrize("paper", ["a6", "a5", "letter"])
def test_every_shot_has_one_page_of_its_paper(paper: Paper) -> None:
    made = cards()
    pdf = PdfReader(BytesIO(write_card_pdf(made, paper)))
    assert len(pdf.pages) == 1 + len(made.cards)
    for page in pdf.pages:
        wide, high = (float(side) / 72 * 25.4 for side in (page.mediabox.width, page.mediabox.height))
        assert (wide, high) == (pytest.approx(SIZES_MM[paper][0], abs=0.2), pytest.approx(SIZES_MM[paper][1], abs=0.2))
    text = pdf.pages[6].extract_text()
    assert made.cards[5].card.title in text
    # Our own faces; another is taken only for a letter that they lack.
    fonts = {font["/BaseFont"].split("+")[1] for page in pdf.pages for font in page["/Resources"]["/Font"].values()}
    assert fonts == {"CardTitle-Regular", "CardPlain-Regular", "CardPlain-Bold", "CardHead-Regular"}


def test_one_shot_is_one_page_with_every_value_on_it() -> None:
    made = cards(only=cards().cards[4].key)
    pdf = PdfReader(BytesIO(write_card_pdf(made)))
    assert len(pdf.pages) == 1
    text = re.sub(r"\s+", "", pdf.pages[0].extract_text())
    for page in made.cards[0].card.pages:
        for row in page.rows:
            assert re.sub(r"\s+", "", row.value) in text, row.dial
    for check in made.cards[0].card.checks:
        assert re.sub(r"\s+", "", check.text) in text


def test_what_people_type_is_text_on_paper_and_in_the_file() -> None:
    nasty = '#panic("x") $a$ *b* _c_ @d <script>alert(1)</script> \\ {{ 7*7 }} ł Ω'
    made = cards(only=cards().cards[0].key)
    entry = made.cards[0]
    typed = made.model_copy(
        update={"cards": (entry.model_copy(update={"card": entry.card.model_copy(update={"title": nasty})}),)}
    )
    text = PdfReader(BytesIO(write_card_pdf(typed))).pages[0].extract_text()
    assert '#panic("x") $a$ *b* _c_ @d <script>' in re.sub(r"\s+", " ", text)
    page = write_cards(typed, "key")
    assert "<script>alert" not in page
    assert "{{ 7*7 }}" in page


def test_the_file_needs_nothing_from_outside() -> None:
    page = write_cards(cards(), "key")
    assert not re.search(r"""(?:src|href)=["']?(?:https?:|//|/)""", page)
    assert "url(data:font/woff2" in page
    assert page.count("<article ") == len(cards().cards)


def test_the_settings_code_is_the_documented_form() -> None:
    for entry in at_least_one(cards().cards):
        said = json.loads(entry.card.settings_code)
        assert (said["format"], said["version"]) == ("steady-tide/settings", 1)
        assert said["camera"] == entry.camera_id
        planned = demo_day().shot(entry.key)
        assert planned is not None
        for name, value in said["settings"].items():
            own = getattr(planned.plan.settings, name)
            assert (
                value == pytest.approx(own)
                if isinstance(own, float)
                else value == (list(own) if isinstance(own, tuple) else own)
            )
        assert len(entry.card.settings_code.encode()) < 900, "it must stay readable on paper"


def test_one_cameras_day_holds_its_shots_only() -> None:
    made = cards("yawl-12")
    assert {entry.camera_id for entry in made.cards} == {"yawl-12"}
    assert [plan.camera for plan in made.presets] == ["yawl-12"]


def test_packing_holds_what_the_plans_use_and_names_what_is_missing() -> None:
    outing = demo_day()
    found = packing_text(packing_of(outing, budget_of(outing, KIT, KNOWN), KIT, KNOWN))
    ids = {line.id for line in found.lines}
    for planned in outing.shots:
        assert planned.sheet.id in ids
        assert {piece_of(glass) for glass in planned.plan.settings.nd} <= ids
        if planned.plan.settings.housing:
            assert planned.plan.settings.housing in ids
    lamps = {line.name: line for line in found.lines if line.group == "lamps"}
    assert lamps["dive lamp"].count == 2
    assert any("905" in line and "Salt-glazed jar" in line for line in found.missing)
    assert any("Stars over the sluice" in line and "bank of 8" in line.replace("\u202f", " ") for line in found.missing)


def test_a_shot_over_what_the_glass_can_take_asks_for_more_glass() -> None:
    light = KIT.model_copy(update={"filters": tuple(f for f in KIT.filters if f.id == "nd8")})
    bright = shot(
        "a", 0, light, light={"kind": "meter", "ev100": [15, 15.5]}, delivery={"graded": True}, pins={"shutter_s": 0.02}
    )
    outing = day(bright)
    found = packing_text(packing_of(outing, budget_of(outing, light, KNOWN), light, KNOWN))
    assert bright.plan.exposure.over_stops > 0.7
    assert any("more stops of ND" in line for line in found.missing)
