"""Tracks, dives and what is written of a day: read, refused, and read back."""

from __future__ import annotations

import csv
import time
from datetime import UTC, date, datetime
from io import StringIO
from itertools import pairwise
from pathlib import Path
from zoneinfo import ZoneInfo

import pytest
from defusedxml import ElementTree
from hypothesis import given
from hypothesis import strategies as st
from icalendar import Calendar

from steady_tide import library
from steady_tide.core.light.day import day_of_light, local_day
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadFile
from steady_tide.core.shoot.track import in_order
from steady_tide.formats.day_csv import COLUMNS, write_day_csv
from steady_tide.formats.day_svg import write_day_svg
from steady_tide.formats.gpx import read_track
from steady_tide.formats.uddf import read_dive
from steady_tide.formats.windows_ics import write_windows_ics

DEMO = Path(__file__).parents[2] / "steady_tide" / "demo"
LONDON = ZoneInfo("Europe/London")
DAY = day_of_light(52.06, 1.31, *local_day(date(2026, 10, 11), LONDON), library.knowledge().sky)


def gpx(*points: str) -> bytes:
    return f'<gpx version="1.1" creator="test" xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>{"".join(points)}</trkseg></trk></gpx>'.encode()


def point(latitude: str, longitude: str, at: str) -> str:
    return f'<trkpt lat="{latitude}" lon="{longitude}"><time>{at}</time></trkpt>'


def test_a_track_gives_place_span_and_speed() -> None:
    # A thousandth of a degree of latitude is 111.2 m; in twenty seconds 5.6 m/s.
    found = read_track(
        gpx(*(point(f"{52 + n / 1000}", "1.3", f"2026-10-11T09:{n // 3:02}:{n % 3 * 20:02}Z") for n in range(30)))
    )
    assert found.speed_m_s == pytest.approx(5.56, abs=0.02)
    assert found.distance_m == pytest.approx(29 * 111.2, rel=0.003)
    assert (found.start, found.end) == (
        datetime(2026, 10, 11, 9, tzinfo=UTC),
        datetime(2026, 10, 11, 9, 9, 40, tzinfo=UTC),
    )


BOMB = b'<?xml version="1.0"?><!DOCTYPE l [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><gpx>&b;</gpx>'
OUTSIDE = b'<?xml version="1.0"?><!DOCTYPE l [<!ENTITY a SYSTEM "file:///etc/hostname">]><uddf>&a;</uddf>'


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "is no GPX track"),
        (b"not xml", "is no GPX track"),
        (b"\xff\xfe\x00", "is no GPX track"),
        (b"<gpx>" * 3, "is no GPX track"),
        (BOMB, "declares a document type"),
        (OUTSIDE, "declares a document type"),
        (b"<kml></kml>", "fewer than two points"),
        (gpx(), "fewer than two points"),
        (gpx(point("52", "1", "2026-10-11T09:00:00Z")), "fewer than two points"),
        (gpx(point("fifty", "1", "2026-10-11T09:00:00Z")), "1 whose time or place cannot be"),
        (gpx(point("952", "1", "2026-10-11T09:00:00Z"), point("52", "1", "2026-10-11T09:01:00Z")), "fewer than two"),
        (gpx(point("52", "1", "2026-10-11T09:01:00Z"), point("52", "1", "2026-10-11T09:00:00Z")), "fewer than two"),
        (b" " * (sizes.TRACK_OR_DIVE + 1), "larger than 10 MB"),
    ],
)
def test_a_track_that_cannot_be_read_says_why(data: bytes, says: str) -> None:
    with pytest.raises(BadFile, match=says) as refused:
        read_track(data)
    assert refused.value.faults[0].mend


BAD_POINTS = (
    point("52.004", "1.3", "2026-13-45T09:00:00Z"),
    point("52.004", "1.3", "yesterday"),
    point("52.004", "1.3", "0001-01-01T00:00:00Z"),
    point("52.004", "1.3", "2026-10-11T08:00:00Z"),  # back in time
    point("52.004", "1.3", "2031-10-11T09:00:00Z"),  # a jump ahead, and all after it would be back
    point("north", "1.3", "2026-10-11T09:01:10Z"),
    point("352.0", "1.3", "2026-10-11T09:01:10Z"),
    point("NaN", "1.3", "2026-10-11T09:01:10Z"),
)


@pytest.mark.parametrize("bad", [*((one,) for one in BAD_POINTS), BAD_POINTS])
def test_a_few_bad_points_never_cost_the_track(bad: tuple[str, ...]) -> None:
    good = [point(f"{52 + n / 1000}", "1.3", f"2026-10-11T09:{n // 3:02}:{n % 3 * 20:02}Z") for n in range(30)]
    found = read_track(gpx(*good[:4], *bad, *good[4:]))
    assert found.left_out == len(bad)
    clean = read_track(gpx(*good))
    assert clean.left_out == 0
    assert found == clean.model_copy(update={"left_out": len(bad)})


@given(st.lists(st.integers(0, 30), max_size=60))
def test_the_longest_run_that_never_goes_back_is_found(times: list[int]) -> None:
    """Against the plain way, by dynamic programming."""
    places = in_order([float(at) for at in times])
    assert places == sorted(set(places))
    assert all(times[a] <= times[b] for a, b in pairwise(places))
    best = [0] * len(times)
    for place, at in enumerate(times):
        best[place] = 1 + max((best[n] for n in range(place) if times[n] <= at), default=0)
    assert len(places) == max(best, default=0)


def test_a_long_track_that_runs_backwards_is_read_in_time() -> None:
    """A day at a point a second, all of it the wrong way round: the work grows hardly faster than the track."""
    backwards = [float(n) for n in range(86_400, 0, -1)]
    began = time.process_time()
    assert len(in_order(backwards)) == 1
    assert time.process_time() - began < 2.0


def uddf(*waypoints: tuple[str, str]) -> bytes:
    rows = "".join(f"<waypoint><divetime>{t}</divetime><depth>{d}</depth></waypoint>" for t, d in waypoints)
    return (
        '<uddf xmlns="http://www.streit.cc/uddf/3.2/" version="3.2.0"><profiledata><repetitiongroup><dive>'
        "<informationbeforedive><datetime>2026-10-11T11:50:00</datetime></informationbeforedive>"
        f"<samples>{rows}</samples></dive></repetitiongroup></profiledata></uddf>"
    ).encode()


def test_a_dive_gives_band_and_bottom_time() -> None:
    found = read_dive(uddf(("0", "0"), ("60", "5"), ("120", "7"), ("600", "6.5"), ("660", "3"), ("720", "0")))
    assert found.start == datetime(2026, 10, 11, 11, 50, tzinfo=UTC)
    assert (found.deepest_m, found.duration_s) == (7, 720)
    assert found.bottom_m == (5, 7)
    assert found.bottom_s == 600


@pytest.mark.parametrize("bad", [("ten", "3"), ("70", "deep"), ("70", "NaN"), ("70", "-3"), ("5", "6"), ("9000", "6")])
def test_a_bad_waypoint_never_costs_the_dive(bad: tuple[str, str]) -> None:
    good = (("0", "0"), ("60", "5"), ("120", "7"), ("600", "6.5"), ("660", "3"), ("720", "0"))
    found = read_dive(uddf(*good[:4], bad, *good[4:]))
    assert found.left_out == 1
    assert found == read_dive(uddf(*good)).model_copy(update={"left_out": 1})


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"<gpx/>", "begins with <gpx>"),
        (b"<uddf/>", "holds no dive"),
        (OUTSIDE, "declares a document type"),
        (uddf(("0", "0")), "fewer than two waypoints"),
        (uddf(("0", "0"), ("ten", "3")), "and 1 that cannot be"),
        (uddf(("0", "0"), ("10", "NaN")), "fewer than two waypoints"),
        (uddf(("0", "0"), ("10", "-3")), "fewer than two waypoints"),
        (uddf(("10", "0"), ("0", "3")), "fewer than two waypoints"),
    ],
)
def test_a_dive_that_cannot_be_read_says_why(data: bytes, says: str) -> None:
    with pytest.raises(BadFile, match=says):
        read_dive(data)


def test_the_sample_files_of_the_demo_are_read() -> None:
    walk = read_track((DEMO / "quay_walk.gpx").read_bytes())
    assert 0.8 < walk.speed_m_s < 1.6
    assert walk.start.date() == date(2026, 10, 11)
    dive = read_dive((DEMO / "eelgrass_dive.uddf").read_bytes())
    assert dive.bottom_m[1] == pytest.approx(7, abs=0.5)
    assert dive.bottom_s > 600


def test_the_csv_reads_back_minute_by_minute() -> None:
    rows = list(csv.DictReader(StringIO(write_day_csv(DAY, LONDON))))
    assert len(rows) == len(DAY.seconds) == 1441
    assert tuple(rows[0]) == COLUMNS
    assert rows[0]["time"] == "2026-10-11T00:00:00+01:00"
    assert float(rows[720]["level_ev100"]) == pytest.approx(DAY.level_ev100[720], abs=0.006)


def test_the_calendar_holds_the_windows() -> None:
    made = write_windows_ics("Day; one, two", "Harrow", DAY.windows, datetime(2026, 10, 1, tzinfo=UTC))
    events = list(Calendar.from_ical(made).walk("VEVENT"))
    assert [str(event["summary"]) for event in events if "Low" in event["summary"]] == ["Low sun, Day; one, two"] * 2
    low = next(window for window in DAY.windows if window.kind == "low_sun")
    first = next(event for event in events if "Low" in event["summary"])
    assert first["dtstart"].dt == low.start.replace(microsecond=0)
    assert len({event["uid"] for event in events}) == len(events)


def test_the_drawing_is_sound_and_its_title_cannot_break_out() -> None:
    text = write_day_svg(DAY, LONDON, '<script>alert("x")</script>')
    root = ElementTree.fromstring(text.encode())
    assert root.tag.endswith("svg")
    assert not [element for element in root.iter() if element.tag.endswith("script")]
    assert text.count("low sun") == 2
