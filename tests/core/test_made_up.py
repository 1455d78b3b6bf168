"""A dial and an item of the ledger are known everywhere once they are defined: priced, explained, pinned, shown."""

from __future__ import annotations

import pytest

from steady_tide import library
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan
from steady_tide.core.quantities.errors import BadBrief, NoLegalPlan
from steady_tide.words.cards import card_of
from steady_tide.words.plans import plan_text
from steady_tide.words.refusals import pins_words as words_of_pins
from steady_tide.words.rows import sheet_rows
from tests.briefs import QUAY, brief
from tests.made_up import STRAY_STOPS, WITH_HOOD

KNOWN = library.knowledge()
WEIGHT = KNOWN.weights.items["positioning"].weight


def with_hood(**pins: object) -> Plan:
    return plan(brief(**QUAY, pins=pins), library.demo_kit(), KNOWN, only="limpet-7", judgement=WITH_HOOD)


def test_it_is_chosen_and_priced() -> None:
    free = with_hood()
    plain = plan(brief(**QUAY), library.demo_kit(), KNOWN, only="limpet-7")
    assert free.chosen["hood"] == "deep"
    least = WEIGHT * min(STRAY_STOPS.values())
    assert free.given_up_stops == pytest.approx(plain.given_up_stops + least)
    price = {value.value: value.given_up_stops for value in free.profiles["hood"]}
    for hood, stops in STRAY_STOPS.items():
        assert price[hood] == pytest.approx(plain.given_up_stops + WEIGHT * stops)
    assert [item.dial for item in free.ledger if item.item == "stray_light"] == ["hood"]


def test_it_is_pinned_and_explained() -> None:
    bare = plan_text(with_hood(hood="none"), WITH_HOOD)
    assert bare.chosen["hood"] == "none"
    assert "Free, it would be a deep hood" in bare.reasons["hood"]
    free = plan_text(with_hood(), WITH_HOOD)
    assert "stops of stray light" in free.reasons["hood"]
    assert next(item for item in bare.ledger if item.item == "stray_light").title == "stray light"
    with pytest.raises(BadBrief, match="offers none, short, deep"):
        with_hood(hood="velvet")
    with pytest.raises(NoLegalPlan) as refused:
        with_hood(hood="short", frame_rate=240, frame="3840x2160")
    assert set(refused.value.pins) == {"frame_rate", "frame"}, "the hood ties nothing"
    assert words_of_pins([["hood", "short"]], {}, WITH_HOOD) == "lens hood short"


def test_it_is_shown() -> None:
    free = plan_text(with_hood(), WITH_HOOD)
    row = next(row for row in free.rows if row.id == "hood")
    assert (row.label, row.value, row.free, row.main) == ("Lens hood", "deep", ("hood",), "hood")
    assert "hood" in [dial.id for row in sheet_rows(WITH_HOOD) for dial in row.dials]
    sheet = next(camera for camera in library.demo_kit().cameras if camera.id == "limpet-7")
    card = card_of(brief(**QUAY), with_hood(), sheet, KNOWN, judgement=WITH_HOOD)
    assert [(row.label, row.value) for page in card.pages for row in page.rows if row.dial == "hood"] == [
        ("lens hood", "deep")
    ]
