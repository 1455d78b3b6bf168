"""Positions in every usual form, and towns by name, from the packaged gazetteer."""

from __future__ import annotations

import time

import pytest
from hypothesis import given
from hypothesis import strategies as st

from steady_tide.core.shoot.positions import LONGEST_TEXT, find_towns, position_words, read_position
from steady_tide.library.gazetteer import towns, zone_at

LISBON = (38.72, -9.14)


@pytest.mark.parametrize(
    "text",
    [
        "38.72, -9.14", "38.72,-9.14", "38.72 -9.14", "38,72 N 9,14 W", "38,72 N; 9,14 W", "38,72 -9,14",
        "38.72N 9.14W", "N38.72 W9.14", "9.14 W, 38.72 N", "38\u00b043'12\"N 9\u00b008'24\"W",
        "38\u00b0 43\u2032 12\u2033 N, 9\u00b0 08\u2032 24\u2033 W", "38 43 12 N 9 8 24 W", "38\u00b043.2' N 9\u00b08.4' W",
        "38 43.2 -9 8.4", "lat 38.72 lon \u22129.14", "38.72 north, 9.14 west", "n 38 43 12 w 9 8 24",
    ],
)  # fmt: skip
def test_one_position_in_every_usual_form(text: str) -> None:
    assert read_position(text) == pytest.approx(LISBON, abs=1e-9)


@pytest.mark.parametrize(
    "text",
    ["", "Lisbon", "38.72", "91 N 3 E", "38 N 181 E", "38 72 N 9 8 W", "-38 N 9 W", "38 N 9 N", "9 W 9 W", "38.5 43 N 9 8 W",
     "38 43 9", "1 2 3 4 5 6 7", "38 O 9 O", "N S", "\u00b0\u00b0", "38\u00b0 N 9\u00b0 W x"],
)  # fmt: skip
def test_what_is_no_position_is_none(text: str) -> None:
    assert read_position(text) is None


@given(st.floats(-90, 90), st.floats(-180, 180))
def test_what_is_told_is_read_again(latitude: float, longitude: float) -> None:
    assert read_position(position_words(latitude, longitude)) == pytest.approx((latitude, longitude), abs=6e-5)


@given(st.text(alphabet="0123456789.,-\u00b0'\" NSEWnsew", max_size=LONGEST_TEXT))
def test_nothing_that_is_typed_breaks_it(text: str) -> None:
    found = read_position(text)
    assert found is None or (abs(found[0]) <= 90 and abs(found[1]) <= 180)


def test_reading_is_bounded() -> None:
    began = time.perf_counter()
    for text in ("1 " * 60, "1," * 60, "n" * 120, "\u00b0" * 120, "1" * 120, "9" * 10_000_000):
        read_position(text)
    assert time.perf_counter() - began < 0.5


def names(asked: str, most: int = 5) -> list[str]:
    return [f"{town.name}, {town.country}" for town in find_towns(asked, towns(), most)]


def test_a_town_is_found_by_its_name_in_its_own_language_and_others() -> None:
    for asked in ("Lisboa", "lisbon", "LISSABON", "lisb"):
        assert names(asked)[0] == "Lisbon, Portugal"
    for asked in ("M\u00fcnchen", "munchen", "Munich"):
        assert names(asked)[0] == "Munich, Germany"
    assert names("sao paulo")[0] == "S\u00e3o Paulo, Brazil"
    assert names("york")[0] == "York, United Kingdom", "called so before those that begin so"
    assert names("paris, united st")[0] == "Paris, United States"
    assert names("x") == names("") == names("qqqqqq") == []


def test_the_gazetteers_positions_and_zones_are_true() -> None:
    """Against published positions, within a tenth of a degree: towns are wide."""
    for name, latitude, longitude, zone in (
        ("Bergen, Norway", 60.393, 5.324, "Europe/Oslo"),
        ("Wellington, New Zealand", -41.289, 174.777, "Pacific/Auckland"),
        ("Honolulu", 21.307, -157.858, "Pacific/Honolulu"),
        ("Kathmandu", 27.717, 85.324, "Asia/Kathmandu"),
    ):
        town = find_towns(name, towns(), 1)[0]
        assert (town.latitude, town.longitude) == pytest.approx((latitude, longitude), abs=0.1)
        assert town.zone == zone
    # Two sources of zones agree; of towns on a border, or where zones were drawn anew, they may not.
    some = towns()[::97]
    assert sum(zone_at(town.latitude, town.longitude) == town.zone for town in some) >= 0.97 * len(some)
    assert zone_at(52.06, 1.31) == "Europe/London"
    assert zone_at(0, -30) == "Etc/GMT+2", "at sea by longitude"
