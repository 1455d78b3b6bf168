"""Numbers, lengths and times as people write them."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

Ask = Callable[..., Any]


@pytest.mark.parametrize(
    ("text", "number"),
    [("1/50", 0.02), ("0,5", 0.5), (" 12 ", 12), ("\u22123", -3), (".5", 0.5), ("5.", 5), ("1 / 4", 0.25)],
)
def test_numbers_are_read_as_people_write_them(ask: Ask, text: str, number: float) -> None:
    assert ask("readNumber", text) == pytest.approx(number)


@pytest.mark.parametrize("text", ["", "fast", "1/0", "1e3", "--1", "1,2,3", "0x10", "Infinity"])
def test_what_is_no_number_is_none(ask: Ask, text: str) -> None:
    assert ask("readNumber", text) is None


@given(st.floats(-1e6, 1e6, allow_nan=False).map(lambda value: round(value, 3)))
def test_a_number_that_is_written_is_read_again(ask: Ask, value: float) -> None:
    assert ask("readNumber", ask("plainNumber", value)) == pytest.approx(value, abs=1e-9)


@pytest.mark.parametrize(
    ("text", "unit", "seconds"),
    [
        ("8 h", "s", 28_800), ("480 min", "s", 28_800), ("1 h 30", "s", 5400), ("8:00", "min", 28_800), ("12", "min", 720),
        ("2,5 min", "s", 150), ("1 d", "h", 86_400), ("1 min 30", "h", 90),
    ],
)  # fmt: skip
def test_lengths_are_read_in_any_unit(ask: Ask, text: str, unit: str, seconds: float) -> None:
    assert ask("readDuration", text, unit) == seconds


@pytest.mark.parametrize("text", ["", "soon", "8:61", "1 h x"])
def test_what_is_no_length_is_none(ask: Ask, text: str) -> None:
    assert ask("readDuration", text, "s") is None


@given(st.integers(1, 172_800))
def test_a_length_that_is_written_is_read_again(ask: Ask, seconds: int) -> None:
    written = ask("durationText", seconds)
    assert ask("readDuration", written, "s") == pytest.approx(seconds, abs=3.6)


@given(st.integers(0, 23), st.integers(0, 59), st.sampled_from([":", ".", "h", " : ", ","]))
def test_times_of_day_are_read_with_any_mark_between(ask: Ask, hour: int, minute: int, mark: str) -> None:
    assert ask("readClock", f"{hour}{mark}{minute:02}") == f"{hour:02}:{minute:02}"
    assert ask("readClock", f"{hour:02}{minute:02}") == f"{hour:02}:{minute:02}"


@pytest.mark.parametrize("text", ["", "24:00", "12:60", "noon", "123456", "1:2:3"])
def test_what_is_no_time_of_day_is_none(ask: Ask, text: str) -> None:
    assert ask("readClock", text) is None


@given(st.text(max_size=60), st.integers(2, 30))
def test_a_text_is_never_longer_than_asked_and_keeps_its_beginning(ask: Ask, text: str, most: int) -> None:
    short = ask("shortened", text, most)
    assert len(short) <= max(most, 1) or short == text
    assert short == text or text.startswith(short.rstrip("\u2026"))
