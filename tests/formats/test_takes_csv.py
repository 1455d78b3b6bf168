"""Takes as CSV: one's own come back whole, those of others are found by the names of their columns, row by row in doubt."""

from __future__ import annotations

import time
from datetime import UTC, datetime
from uuid import UUID, uuid4
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st

from steady_tide.core.log.take import FAULTS, TakeFields
from steady_tide.core.quantities.errors import BadFile
from steady_tide.formats.takes_csv import ListedTake, read_takes_csv, write_takes_csv

LONDON = ZoneInfo("Europe/London")
TEXT = st.text(st.characters(blacklist_categories=("Cs", "Cc")), max_size=40).map(
    lambda text: text.strip().strip("'").strip()
)


@given(
    st.lists(
        st.tuples(
            st.datetimes(datetime(2001, 1, 1), datetime(2190, 1, 1)), TEXT, TEXT, st.sampled_from(("keep", "maybe", "no", None)),
            st.lists(st.sampled_from(FAULTS), max_size=3, unique=True),
        ),
        min_size=1, max_size=6,
    )
)  # fmt: skip
def test_ours_come_back_whole(said: list[tuple[datetime, str, str, str | None, list[str]]]) -> None:
    takes = [
        ListedTake(
            id=uuid4(), shoot="A shoot", shot=shot, number=n, zone=LONDON,
            said=TakeFields.model_validate(
                {"at": at.replace(microsecond=0, tzinfo=UTC), "note": note, "rating": rating, "faults": faults, "hands": "Wren",
                 "settings": {"iso_ceiling": "800"}}
            ),
            faults=tuple(faults),
        )
        for n, (at, shot, note, rating, faults) in enumerate(said)
    ]  # fmt: skip
    read = read_takes_csv(write_takes_csv(takes).encode(), ZoneInfo("UTC"))
    assert read.doubts == ()
    assert [(one.id, one.shot, one.said) for one in read.takes] == [(one.id, one.shot, one.said) for one in takes]


def test_a_list_of_others_is_found_by_its_columns() -> None:
    text = (
        "Date;Time;Scene;Cam;Operator;Status;Comments;ISO;Duration;Lucky number\r\n"
        "2026-10-17;10:05;Reeds;A;Kit;Good;first light;800;1:30;7\r\n"
        "2026-10-17;10:09;Reeds;A;Kit;NG;drops;800;12;7\r\n"
    )
    read = read_takes_csv(text.encode(), LONDON)
    assert read.doubts == ()
    assert read.passed_over == ("lucky_number",)
    first, second = (one.said for one in read.takes)
    assert first.at == datetime(2026, 10, 17, 9, 5, tzinfo=UTC)
    assert (first.rating, first.seconds, first.hands, first.camera) == ("keep", 90.0, "Kit", "A")
    assert (second.rating, second.note, second.settings) == ("no", "drops", {"iso_ceiling": "800"})
    assert read.takes[0].shot == "Reeds"


def test_what_went_wrong_stood_in_a_column_of_its_own_once_and_is_read_into_the_note() -> None:
    text = "at,shot,wrong,note\n2026-10-17 10:05,Reeds,fogged,second try\n2026-10-17 10:09,Reeds,fogged,\n"
    read = read_takes_csv(text.encode(), LONDON)
    assert (read.doubts, read.passed_over) == ((), ())
    assert [one.said.note for one in read.takes] == ["fogged\nsecond try", "fogged"]
    assert str(read.takes[0].id) == "bf8391ee-a937-5c61-ad38-77d9fabb8120", (
        "read again from an old list it is the same take"
    )


def test_doubts_are_told_row_by_row_and_what_can_be_read_is_taken() -> None:
    text = (
        "at,rating,faults,seconds,note\n"
        "2026-10-17 10:05,perhaps,fog wobble,long,fine\n"
        "yesterday,keep,,,\n"
        ",keep,,,\n"
        "9999-12-31 10:00,keep,,,\n"
        "2026-10-17 10:09,no,tilt,5,\n"
    )
    read = read_takes_csv(text.encode(), LONDON)
    assert [(one.row, one.column, one.taken) for one in read.doubts] == [
        (2, "rating", True), (2, "faults", True), (2, "seconds", True), (3, "at", False), (4, "at", False), (5, "at", False),
    ]  # fmt: skip
    assert [(one.row, one.said.faults, one.said.seconds) for one in read.takes] == [
        (2, ("fog",), None),
        (6, ("tilt",), 5.0),
    ]
    assert all(one.what and one.mend for one in read.doubts)


def test_a_row_without_an_id_is_the_same_take_when_it_is_read_again() -> None:
    text = b"at,shot,note\n2026-10-17 10:05,Reeds,a\n2026-10-17 10:05,Reeds,b\n"
    one, again = (read_takes_csv(text, LONDON) for _ in range(2))
    assert [take.id for take in one.takes] == [take.id for take in again.takes]
    assert len({take.id for take in one.takes}) == 2
    assert all(isinstance(take.id, UUID) for take in one.takes)


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (b"", "is empty"),
        (b"\xff\xfe\x00", "UTF-8"),
        (b"at\n", "holds no take"),
        (b"note,shot\na,b\n", "no column tells when"),
        (b'"at\n2026', "row 1.*quotes do not close"),
        (b"at,\x00\n", "is not text"),
    ],
)
def test_what_is_no_list_of_takes_is_refused_in_words(data: bytes, said: str) -> None:
    with pytest.raises(BadFile, match=said):
        read_takes_csv(data, LONDON)


def test_quotes_that_do_not_close_cost_one_row() -> None:
    text = 'at,note\n2026-10-17 10:05,good\n2026-10-17 10:06,"left open\n2026-10-17 10:07,fine\n2026-10-17 10:08,"two\nlines"\n'
    read = read_takes_csv(text.encode(), LONDON)
    assert [(take.row, take.said.note) for take in read.takes] == [(2, "good"), (4, "fine"), (5, "two\nlines")]
    assert [(doubt.row, doubt.taken) for doubt in read.doubts] == [(3, False)]


def test_no_list_takes_more_than_in_line_with_its_length() -> None:
    def timed(rows: int) -> float:
        text = "at,faults,note\n" + f"2026-10-17 10:05,{'fog ' * 9},{'x' * 90}\n" * rows
        start = time.process_time()
        read_takes_csv(text.encode(), LONDON)
        return time.process_time() - start

    timed(200)
    few, many = min(timed(1000) for _ in range(3)), min(timed(8000) for _ in range(2))
    assert many < 8 * few * 2.5
