"""Shoots out and in: exact round trips, and refusals that say what is wrong."""

from __future__ import annotations

import io
import json
import struct
import zipfile
from datetime import UTC, date, datetime
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st
from icalendar import Calendar

from steady_tide.core.quantities.errors import BadFile
from steady_tide.core.shoot.shoot_file import VERSION, read_shoot
from steady_tide.formats.call_sheet_ics import Call, write_call_sheet
from steady_tide.formats.shoot_zip import read_shoot_file, write_shoot_json, write_shoot_zip
from steady_tide.formats.shots_csv import ListedShot, read_shots_csv, write_shots_csv
from steady_tide.formats.table_text import FORMULA
from tests.briefs import brief
from tests.days import demo_shoot
from tests.examples import examples

LONDON = ZoneInfo("Europe/London")
DAY = date(2026, 10, 11)


def test_a_shoot_comes_back_exactly() -> None:
    shoot = demo_shoot()
    text = write_shoot_json(shoot)
    again = read_shoot_file(text.encode())
    assert again == shoot
    assert write_shoot_json(again) == text


def test_a_zip_gives_the_same_shoot_and_the_same_bytes() -> None:
    text = write_shoot_json(demo_shoot()).encode()
    packed = write_shoot_zip({"shoot.json": text, "cards.pdf": b"%PDF"})
    assert read_shoot_file(packed) == demo_shoot()
    assert write_shoot_zip({"shoot.json": text, "cards.pdf": b"%PDF"}) == packed


def test_a_newer_version_is_refused_with_what_to_do() -> None:
    with pytest.raises(BadFile, match=r"newer Steady Tide \(version 9, this one reads 1\)"):
        read_shoot({"format": "steady-tide/shoot", "version": VERSION + 8, "title": "x", "more": 1})


@pytest.mark.parametrize(
    ("change", "where"),
    [
        ({"zone": "Harrow/Fleet"}, "no time zone"),
        ({"latitude": 91}, "latitude"),
        ({"shots": [{"brief": {}}]}, r"shots\[0\].brief.light"),
        ({"shots": [{"brief": {"light": {"kind": "meter", "ev100": [1, float("nan")]}}}]}, r"shots\[0\]"),
        ({"rules": {"windows": [{"name": "a", "start": "2026-10-11T12:00Z", "end": "2026-10-11T11:00Z"}]}}, "before it begins"),
        ({"shots": [{"brief": {"light": {"kind": "place", "place": "full_sun"}}, "wishes": {"setup_min": -1}}]}, "setup_min"),
        ({"day": "11 October"}, "day"),
        ({"title": "\x00"}, "title"),
        ({"surprise": 1}, "is not a known field"),
    ],
)  # fmt: skip
def test_a_fault_in_a_shoot_is_named_with_its_place(change: dict[str, object], where: str) -> None:
    with pytest.raises(BadFile, match=where):
        read_shoot({"format": "steady-tide/shoot", "version": 1, "title": "x", **change})


@pytest.mark.parametrize(
    "data", [b"", b"[]", b"{", b'{"format": "other"}', b"\xff\xfe", b"[" * 100_000, b"PK\x03\x04broken"]
)
def test_what_is_no_shoot_is_refused_plainly(data: bytes) -> None:
    with pytest.raises(BadFile):
        read_shoot_file(data)


def zipped(entries: dict[str, bytes], compression: int = zipfile.ZIP_DEFLATED) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", compression) as archive:
        for name, content in entries.items():
            archive.writestr(name, content)
    return out.getvalue()


def test_a_bomb_is_refused_before_it_bursts() -> None:
    bomb = zipped({"shoot.json": b" " * 200_000_000})
    assert len(bomb) < 1_000_000
    with pytest.raises(BadFile, match="too large when unpacked"):
        read_shoot_file(bomb)


def test_a_directory_that_lies_about_the_size_does_not_help_a_bomb() -> None:
    bomb = bytearray(zipped({"shoot.json": b" " * 5_000_000}))
    size = struct.pack("<I", 5_000_000)
    while (at := bomb.find(size)) >= 0:
        bomb[at : at + 4] = struct.pack("<I", 1000)
    with pytest.raises(BadFile):
        read_shoot_file(bytes(bomb))


@pytest.mark.parametrize(
    "name", ["../shoot.json", "/etc/shoot.json", "a/../../shoot.json", "..\\shoot.json", "C:\\shoot.json"]
)
def test_a_path_that_leads_outside_is_refused(name: str) -> None:
    good = write_shoot_json(demo_shoot()).encode()
    with pytest.raises(BadFile, match="land outside"):
        read_shoot_file(zipped({"shoot.json": good, name: b"x"}))


def test_a_zip_without_a_shoot_or_with_two_is_refused() -> None:
    with pytest.raises(BadFile, match="holds 0 files called"):
        read_shoot_file(zipped({"other.json": b"{}"}))
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr("shoot.json", b"{}")
        with pytest.warns(UserWarning, match="Duplicate name"):
            archive.writestr("shoot.json", b"{}")
    two = out.getvalue()
    with pytest.raises(BadFile, match="holds 2 files called"):
        read_shoot_file(two)
    with pytest.raises(BadFile, match="holds 300 files"):
        read_shoot_file(zipped({f"{n}": b"" for n in range(300)}))


@examples(40)
@given(data=st.binary(max_size=400))
def test_any_bytes_are_a_shoot_or_refused(data: bytes) -> None:
    for content in (data, b"PK\x03\x04" + data):
        with pytest.raises(BadFile):
            read_shoot_file(content)


# The list


def test_a_list_comes_back_with_what_it_holds() -> None:
    first = brief(
        title="Quay",
        camera_move={"mount": "walking"},
        delivery={"graded": True, "fps": 29.97},
        take={"length_s": 12.5, "count": 2},
    )
    second = brief(
        title="Mill",
        light={"kind": "place", "place": "workshop"},
        subject={"distance_m": [0.4, 3]},
        air_c=-3,
        sound={"wanted": False},
    )
    at = datetime(2026, 10, 11, 9, 30, tzinfo=UTC)
    text = write_shots_csv(
        [
            ListedShot(starts_at=at, brief=first, ev100=(14, 15), camera="Limpet 7", given_up_stops=1.2),
            ListedShot(starts_at=None, brief=second, ev100=(7, 9)),
        ],
        LONDON,
    )
    assert "2026-10-11 10:30,Quay" in text
    read = read_shots_csv(text.encode(), LONDON, DAY)
    assert read.faults == ()
    assert [shot.brief for shot in read.shots] == [first, second]
    assert [shot.starts_at for shot in read.shots] == [at, None]


@examples(40)
@given(
    title=st.text(st.characters(blacklist_categories=("Cs", "Cc")), min_size=1, max_size=60).filter(
        lambda text: text.strip() == text
    )
)
def test_no_title_becomes_a_formula_and_every_title_comes_back(title: str) -> None:
    text = write_shots_csv([ListedShot(starts_at=None, brief=brief(title=title), ev100=(14, 15))], LONDON)
    cell = next(iter(__import__("csv").reader(io.StringIO(text.split("\r\n", 1)[1]))))[1]
    assert not cell.startswith(FORMULA) or cell.lstrip("+-").replace(".", "").replace(",", "").isdigit()
    read = read_shots_csv(text.encode(), LONDON, DAY)
    if title.startswith("'") and title[1:].startswith(FORMULA):
        return  # it was written with the quote of a neutralised cell, and is read as one
    assert [shot.brief.title for shot in read.shots] == [title]


@pytest.mark.parametrize(
    "title", ['=HYPERLINK("http://x","y")', "+1+cmd|' /C calc'!A0", "-2+3+cmd", "@SUM(A1:A9)", "\t=1", "\r=1"]
)
def test_known_formula_tricks_are_made_text(title: str) -> None:
    shot = brief(title="x").model_copy(update={"title": title})
    text = write_shots_csv([ListedShot(starts_at=None, brief=shot, ev100=(14, 15))], LONDON)
    assert f"'{title[0]}" in text


def faults(text: str) -> list[tuple[int, str]]:
    report = read_shots_csv(text.encode(), LONDON, DAY)
    assert not {fault.row for fault in report.faults} & {shot.row for shot in report.shots}
    return [(fault.row, fault.column) for fault in report.faults]


def test_every_wrong_row_is_told_and_costs_no_other() -> None:
    text = "title,start,fps,graded,near_m,far_m\nGood,10:00,25,yes,1,2\n,11:00,25,no,1,2\nBad,25:99,fast,perhaps,5,1\nAlso,,0,no,1,2\n"
    assert faults(text) == [(3, "title"), (4, "fps"), (4, "start"), (4, "graded"), (5, "fps")]
    assert [shot.brief.title for shot in read_shots_csv(text.encode(), LONDON, DAY).shots] == ["Good"]


def test_a_range_upside_down_is_found_at_its_column() -> None:
    assert faults("title,near_m,far_m\nA,5,1\n") == [(2, "near_m")]
    assert faults("title,ev_dim,ev_bright\nA,9,3\n") == [(2, "ev_dim")]
    assert faults("title,place,ev_dim\nA,full_sun,9\n") == [(2, "place")]


def test_decimal_commas_are_read_and_a_mix_is_refused() -> None:
    read = read_shots_csv(b"title;near_m;far_m\nA;0,5;1,5\n", LONDON, DAY)
    assert read.shots[0].brief.subject.distance_m == (0.5, 1.5)
    assert (3, "near_m") in faults("title;near_m;far_m\nA;0,5;1,5\nB;0.5;2\n")
    assert faults('title,near_m\nA,"1,500.0"\n'), "a thousands mark is no number"


def test_semicolons_tabs_and_a_byte_order_mark_are_read() -> None:
    for delimiter in (";", "\t", ","):
        read = read_shots_csv(f"\ufefftitle{delimiter}fps\nA{delimiter}50\n".encode(), LONDON, DAY)
        assert read.shots[0].brief.delivery.fps == 50


def test_columns_that_say_nothing_to_us_are_named() -> None:
    assert read_shots_csv(b"title,camera,colour of hat\nA,Limpet,red\n", LONDON, DAY).passed_over == ("colour_of_hat",)


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "is empty"),
        (b"name\nA\n", "no column 'title'"),
        (b"title,title\nA,B\n", "stands there twice"),
        (b"title\n", "holds no shot"),
        (b"title\n" + b"A\n" * 100_000, "100000 rows"),
        (b"title\n\xff\xfe\n", "not UTF-8"),
        (b"title\nA\x00\n", "is not text"),
        (b'"title\nA\n', "row 1.*quotes do not close"),
    ],
)
def test_what_is_no_list_is_refused_whole(data: bytes, says: str) -> None:
    with pytest.raises(BadFile, match=says):
        read_shots_csv(data, LONDON, DAY)


def test_quotes_that_do_not_close_cost_one_row() -> None:
    read = read_shots_csv(b'title,fps\nA,25\n"B,25\nC,50\n', LONDON, DAY)
    assert [shot.brief.title for shot in read.shots] == ["A", "C"]
    assert [(fault.row, fault.what) for fault in read.faults] == [(3, "its quotes do not close")]


@examples(40)
@given(data=st.binary(max_size=300))
def test_any_bytes_are_a_list_or_refused(data: bytes) -> None:
    for content in (data, b"title,fps,start\n" + data):
        try:
            report = read_shots_csv(content, LONDON, DAY)
        except BadFile:
            continue
        assert report.shots or report.faults


def test_a_time_without_a_day_asks_for_one() -> None:
    report = read_shots_csv(b"title,start\nA,12:20\n", LONDON, None)
    assert "without a day" in report.faults[0].what
    with_day = read_shots_csv(b"title,start\nA,12:20\n", LONDON, DAY)
    assert with_day.shots[0].starts_at == datetime(2026, 10, 11, 11, 20, tzinfo=UTC)


# The call sheet


def test_a_call_sheet_is_a_calendar_with_one_entry_a_shot() -> None:
    at = datetime(2026, 10, 11, 11, 50, tzinfo=UTC)
    calls = [
        Call(
            title="Eelgrass; rows, of it",
            starts_at=at,
            lasts_s=3600,
            spot="fleet",
            camera="Limpet 7",
            sheet="4K 50",
            people=("Wren",),
            cautions=("With a buddy.",),
        )
    ]
    calendar = Calendar.from_ical(write_call_sheet("Fleet", "the mill", calls, at))
    (event,) = calendar.walk("VEVENT")
    assert str(event["summary"]) == "Eelgrass; rows, of it (Limpet 7)"
    assert (event["dtend"].dt - event["dtstart"].dt).total_seconds() == 3600
    assert str(event["location"]) == "fleet, the mill"
    assert "Safety. With a buddy." in str(event["description"])
    again = Calendar.from_ical(write_call_sheet("Fleet", "the mill", calls, datetime(2027, 1, 1, tzinfo=UTC)))
    assert again.walk("VEVENT")[0]["uid"] == event["uid"], "a calendar that reads it again changes the entry"


def test_the_published_schema_is_the_models() -> None:
    from pathlib import Path

    from steady_tide.core.shoot.shoot_file import ShootFile

    published = json.loads((Path(__file__).parents[2] / "docs" / "shoot.schema.json").read_text())
    assert published == {"$schema": published["$schema"], **ShootFile.model_json_schema()}
