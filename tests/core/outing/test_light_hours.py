"""When a day has the light that a brief says: by place, by meter, and where nobody can tell."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest

from steady_tide import library
from steady_tide.core.light.day import DayOfLight, day_of_light, local_day
from steady_tide.core.outing.day import DayPlace
from steady_tide.core.outing.light_hours import hours_of
from steady_tide.core.outing.planned import Outing
from steady_tide.core.outing.schedule import day_asked, day_ends
from steady_tide.core.shoot.shoot_file import DayRules, ShotWishes, TypedWindow
from tests.briefs import brief
from tests.checks import at_least_one
from tests.days import demo_day, demo_shoot, replan, shot

KNOWN = library.knowledge()
ZONE = ZoneInfo("Europe/London")


def sky_of(on: date, latitude: float = 52.06, longitude: float = 1.31) -> DayOfLight:
    start, end = local_day(on, ZONE)
    return day_of_light(latitude, longitude, start, end, KNOWN.sky, step_s=300)


AUTUMN = sky_of(date(2026, 10, 11))  # a day after the new moon
FULL_MOON = sky_of(date(2026, 10, 26))


def hours(light: dict, day: DayOfLight = AUTUMN, **fields: object):  # type: ignore[no-untyped-def,type-arg]
    return hours_of(brief(light=light, **fields), day, KNOWN)


def place(name: str) -> dict[str, str]:
    return {"kind": "place", "place": name}


@pytest.mark.parametrize("name", [p.id for p in KNOWN.places.values() if p.sun_deg is not None and p.moon is None])
def test_a_place_by_the_hour_is_had_when_the_sun_stands_so_and_at_no_other_time(name: str) -> None:
    found, (low, high) = hours(place(name)), KNOWN.places[name].sun_deg  # type: ignore[misc]
    assert found.phrase == KNOWN.places[name].phrase
    assert found.spans
    for n, degrees in enumerate(AUTUMN.sun_deg):
        moment = AUTUMN.start + timedelta(seconds=float(AUTUMN.seconds[n]))
        inside = any(a <= moment < b for a, b in found.spans)
        sinks = AUTUMN.sun_deg[n] < AUTUMN.sun_deg[n - 1] if n else True
        wanted = low <= degrees <= high and (sinks or not KNOWN.places[name].evening)
        turns = abs(degrees - max(AUTUMN.sun_deg)) < 0.1 or abs(degrees - min(AUTUMN.sun_deg)) < 0.1
        assert inside == wanted or turns or n == len(AUTUMN.sun_deg) - 1, (name, moment, degrees)


def test_a_sunset_is_in_the_evening() -> None:
    (evening,) = hours(place("sunset")).spans
    assert evening[0] > datetime(2026, 10, 11, 16, tzinfo=UTC)
    assert len(hours(place("blue_hour")).spans) == 2, "before sunrise and after sunset"


@pytest.mark.parametrize("name", ["stage", "pool_hall", "office", "workshop"])
def test_a_room_is_lit_at_any_hour(name: str) -> None:
    assert hours(place(name)) is None


def test_stars_need_a_night_without_the_moon_and_moonlight_one_with_it() -> None:
    assert hours(place("starlight")).spans
    assert hours(place("full_moon")).spans == ()
    assert hours(place("full_moon"), FULL_MOON).spans
    for start, end in hours(place("starlight"), FULL_MOON).spans:
        assert FULL_MOON.moon_deg[FULL_MOON.at(start + (end - start) / 2)] <= 0


def test_a_meter_that_only_the_day_or_only_the_night_can_show_says_the_hour() -> None:
    bright = hours({"kind": "meter", "ev100": [13, 14.5]})
    assert bright.phrase == ""
    for start, end in bright.spans:
        assert (AUTUMN.facing_ev100[AUTUMN.at(start) : AUTUMN.at(end) - 1] >= 13.5).all()
    assert bright.spans[0][0] > datetime(2026, 10, 11, 6, 15, tzinfo=UTC), "after sunrise, 06:12 UTC"
    night = hours({"kind": "meter", "ev100": [-7, -6]})
    assert night.spans
    assert all(AUTUMN.sun_deg[AUTUMN.at(a + (b - a) / 2)] < -10 for a, b in night.spans)
    lux = hours({"kind": "meter", "lux": [40_000, 80_000]})
    assert lux.spans
    reading = hours({"kind": "reading", "readings": [{"f_number": 2.8, "shutter_s": 1 / 2000, "iso": 100}]})
    assert reading.spans, "EV 14"
    # In between there are lamps, and on a table one owns the light.
    assert hours({"kind": "meter", "ev100": [5, 7]}) is None
    assert hours({"kind": "meter", "ev100": [13, 14]}, scenario="product") is None


def test_the_light_above_water_and_besides_lamps_counts() -> None:
    water = {"kind": "water", "surface": place("full_sun"), "depth_m": [1, 3], "water_type": "1C"}
    assert hours(water) == hours(place("full_sun"))
    lamps = [{"lux_at_1m": 900, "kelvin": 5500}]
    assert hours({"kind": "lamps", "lamps": lamps, "ambient": place("blue_hour")}) == hours(place("blue_hour"))
    assert hours({"kind": "lamps", "lamps": lamps}) is None


def _asked(outing: Outing, where: DayPlace, rules: DayRules | None = None):  # type: ignore[no-untyped-def]
    rules = rules or DayRules()
    ends = day_ends(rules, local_day(date(2026, 10, 11), ZONE)[0])
    kit = library.demo_kit()
    return day_asked(outing, where, rules, ends, kit, KNOWN, lambda what, camera: replan(what, kit, camera))


HERE = DayPlace("x", "", date(2026, 10, 11), ZONE, 52.06, 1.31)


def test_what_the_order_is_asked_holds_each_brief_in_its_light() -> None:
    sunny, any_time, evening = (
        shot("sunny", 0, light=place("full_sun")),
        shot("any", 0, light=place("full_sun")),
        shot("evening", 0, light=place("full_sun")),
    )
    any_time = replace(any_time, wishes=ShotWishes(within=("any_time",)))
    evening = replace(evening, wishes=ShotWishes(within=("twilight",)))
    outing = Outing((sunny, any_time, evening))
    task = _asked(outing, HERE)
    by = {entry.key: entry for entry in task.shots}
    (sun,) = by["sunny"].hours
    assert (task.clock(sun.start), task.clock(sun.end)) == ("08:15", "17:10"), "the sun stands at 8 degrees"
    assert by["any"].hours is None
    assert by["any"].windows == ()
    assert by["evening"].hours is None, "whoever asks for the twilight means the twilight"
    assert by["evening"].windows
    assert task.unseen == ()


def test_a_window_that_somebody_typed_holds_beside_the_light() -> None:
    slack = TypedWindow(
        name="slack water", start=datetime(2026, 10, 11, 5, tzinfo=UTC), end=datetime(2026, 10, 11, 9, tzinfo=UTC)
    )
    dive = replace(shot("dive", 0, light=place("full_sun")), wishes=ShotWishes(within=("slack water",)))
    task = _asked(Outing((dive,)), HERE, DayRules(windows=(slack,)))
    (entry,) = task.shots
    (span,) = entry.may_lie  # type: ignore[misc]
    assert (task.clock(span.start), task.clock(span.end)) == ("08:15", "10:00")


def test_where_nobody_knows_the_place_it_is_told_what_was_not_looked_at() -> None:
    nowhere = replace(HERE, latitude=None, longitude=None)
    outing = Outing((shot("sunny", 0, light=place("full_sun")), shot("indoors", 0, light=place("office"))))
    task = _asked(outing, nowhere)
    assert task.unseen == ("shot sunny",)
    assert all(entry.hours is None for entry in task.shots)


def test_the_demo_day_stands_in_its_light_as_it_is() -> None:
    shoot = demo_shoot()
    where = DayPlace(shoot.title, shoot.place, shoot.day, ZONE, shoot.latitude, shoot.longitude)
    for entry in at_least_one(_asked(demo_day(), where, shoot.rules).shots):
        assert entry.has_its_light(entry.wished_min or 0), entry.title
