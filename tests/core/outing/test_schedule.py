"""From a planned day to its order: windows of the light, prices by the hour, and moved skies."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st

from steady_tide import library
from steady_tide.core.brief.brief import School
from steady_tide.core.brief.start_time import one_time
from steady_tide.core.light.day import day_of_light, local_day
from steady_tide.core.light.sources import lit_by_day, sky_of
from steady_tide.core.outing.day import glass_of_day, glass_through_day
from steady_tide.core.outing.day_task import DayPrices
from steady_tide.core.outing.schedule import (
    LIGHT_WINDOWS,
    day_ends,
    has_sky,
    light_prices,
    light_spans,
    moved_brief,
    task_of,
)
from steady_tide.core.quantities.errors import BadFile, BadInput
from steady_tide.core.shoot.shoot_file import DayRules, ShotWishes
from tests.briefs import EELGRASS, NOON, brief
from tests.days import MORNING, day, demo_day, demo_shoot, replan, shot

PRICES = DayPrices.from_limits(library.knowledge().limits)
ZONE = ZoneInfo("Europe/London")
KNOWN = library.knowledge()
START, END = local_day(date(2026, 10, 11), ZONE)
LIGHT = day_of_light(52.06, 1.31, START, END, KNOWN.sky, step_s=300)


def test_windows_of_the_light_are_what_their_names_say() -> None:
    spans = light_spans(LIGHT)
    assert set(spans) == set(LIGHT_WINDOWS)
    for name, bounds in {
        "daylight": (-1.5, 90),
        "twilight": (-6.7, -0.2),
        "dark": (-90, -11.3),
        "low_sun": (-6, 8.7),
    }.items():
        assert spans[name], name
        for start, end in spans[name]:
            for moment in (start, end, start + (end - start) / 2):
                assert bounds[0] <= LIGHT.sun_deg[LIGHT.at(moment)] <= bounds[1], name
    # The same windows again, by looking at every step whose neighbours agree with it.
    inside = {
        "daylight": LIGHT.sun_deg > -0.833,
        "twilight": (LIGHT.sun_deg > -6) & (LIGHT.sun_deg <= -0.833),
        "dark": LIGHT.sun_deg < -12,
        "moonlight": (LIGHT.sun_deg < -12) & (LIGHT.moon_deg > 0),
    }
    for name, held in inside.items():
        for n in range(1, len(held) - 1):
            if held[n - 1] == held[n] == held[n + 1]:
                moment = LIGHT.start + timedelta(seconds=float(LIGHT.seconds[n]))
                assert any(a <= moment <= b for a, b in spans[name]) == held[n], (name, moment)
    for start, end in spans["moonlight"]:
        assert LIGHT.moon_deg[LIGHT.at(start + (end - start) / 2)] > 0


def test_a_sky_moves_with_its_shot_and_nothing_else_does() -> None:
    by = timedelta(hours=2)
    sky = moved_brief(brief(light=NOON), by)
    assert sky.light.start - brief(light=NOON).light.start == by  # type: ignore[union-attr]
    water = moved_brief(brief(**EELGRASS), by)
    assert water.light.surface.start - brief(**EELGRASS).light.surface.start == by  # type: ignore[union-attr]
    lamp = brief(light={"kind": "lamps", "lamps": [{"lux_at_1m": 900, "distance_m": 1, "kelvin": 5500}]})
    assert moved_brief(lamp, by) is lamp
    assert has_sky(water.light)
    assert not has_sky(lamp.light)
    assert lit_by_day(brief(light={"kind": "place", "place": "full_sun"}).light)


def test_prices_by_the_hour_are_the_planners_own() -> None:
    filmed = shot(
        "a",
        180,
        light={**NOON, "start": "2026-10-11T11:00:00Z", "end": "2026-10-11T11:30:00Z"},
        camera_move={"mount": "two_hands"},
    )
    calls = []
    prices = light_prices(
        day(filmed), MORNING, MORNING + timedelta(hours=12), lambda what, camera: replan(what, library.demo_kit(), camera),
        lambda done, total: calls.append((done, total)) is None,
    )["a"]  # fmt: skip
    assert len(prices) == 12
    assert calls[-1] == (12, 12)
    assert min(stops for _, stops in prices) == 0
    at, stops = prices[5]
    middle = at + timedelta(minutes=30)
    own = replan(moved_brief(filmed.brief, middle - filmed.starts_at), library.demo_kit(), "limpet-7").given_up_stops  # type: ignore[operator]
    least = min(
        replan(
            moved_brief(filmed.brief, hour + timedelta(minutes=30) - filmed.starts_at), library.demo_kit(), "limpet-7"
        ).given_up_stops  # type: ignore[operator]
        for hour, _ in prices
    )
    assert stops == pytest.approx(own - least)
    assert prices[-1][1] > prices[3][1] + 1, "after dark it gives up more than by day"


def test_pricing_can_be_ended() -> None:
    filmed = shot("a", 180, light=NOON)
    assert (
        light_prices(day(filmed), MORNING, MORNING + timedelta(hours=9), lambda *_: filmed.plan, lambda *_: False) == {}
    )


def test_the_demo_day_becomes_a_task_in_local_minutes() -> None:
    shoot, outing = demo_shoot(), demo_day()
    begin, end = day_ends(shoot.rules, START)
    assert begin == datetime(2026, 10, 11, 3, tzinfo=UTC)
    task = task_of(outing, shoot.rules, begin, end, ZONE, PRICES, light_spans(LIGHT))
    by = {entry.key: entry for entry in task.shots}
    eelgrass = next(entry for entry in by.values() if entry.title == "Rows of eelgrass")
    (window,) = eelgrass.windows
    assert task.clock(window.start) == "12:20"
    assert task.clock(window.end) == "13:55"
    assert task.clock(eelgrass.wished_min or 0) == "12:50"
    assert eelgrass.length_min == 60
    assert eelgrass.housing == "limpet-case"
    stars = next(entry for entry in by.values() if entry.title == "Stars over the sluice")
    assert not stars.attended
    assert task.way_min("quay", "wheel") == 4
    assert task.way_min("quay", "mill") == 3
    assert task.way_min("wheel", "fleet") == 10, "nobody said, so it takes the usual"


def test_an_unknown_window_is_told_with_those_that_there_are() -> None:
    outing = demo_day()
    lost = outing.replaced(
        outing.shots[0].__class__(**{**vars(outing.shots[0]), "wishes": ShotWishes(within=("spring tide",))})
    )
    with pytest.raises(BadFile, match=r"no window called 'spring tide'.*low_sun"):
        task_of(lost, DayRules(), *day_ends(DayRules(), START), ZONE, PRICES, light_spans(LIGHT))


@pytest.mark.parametrize("minutes", [-60, 0, 75, 240])
@pytest.mark.parametrize("cloud", ["clear", "bright_cloud"])
def test_glass_is_told_around_a_shot_that_the_sky_lights_and_is_the_planned_one_at_its_time(
    minutes: int, cloud: str
) -> None:
    begins = MORNING + timedelta(minutes=minutes)
    sky = {**NOON, "cloud": cloud, "start": begins.isoformat(), "end": (begins + timedelta(minutes=40)).isoformat()}
    walk = shot("a", minutes, light=sky, camera_move={"mount": "walking"})
    spans = glass_of_day(day(walk), library.demo_kit(), KNOWN, ZONE, School()).get("a", ())
    whole = glass_through_day(walk, library.demo_kit(), KNOWN, ZONE, School())
    assert len({span.nd for span in whole}) >= 3, "from morning to evening the density changes"
    for moment in (begins, begins + timedelta(minutes=39)):
        (mine,) = [span for span in whole if span.start <= moment < span.end]
        assert mine.nd == walk.plan.settings.nd
    for span in spans:
        assert span.end >= begins - timedelta(hours=1)
        assert span.start <= begins + timedelta(hours=3)


def test_glass_is_not_told_by_the_hour_where_the_light_does_not_follow_it() -> None:
    by_place = shot("a", 0, light={"kind": "place", "place": "full_sun"}, camera_move={"mount": "walking"})
    lamps = {"kind": "lamps", "lamps": [{"lux_at_1m": 9000, "kelvin": 5500}], "ambient": NOON}
    for other in (by_place, shot("b", 0, light=lamps)):
        assert glass_through_day(other, library.demo_kit(), KNOWN, ZONE, School()) == ()


@given(
    minutes=st.integers(-2000, 2000), lasts=st.integers(1, 600), around=st.sampled_from(["", "water", "lamps"]),
    starts=st.one_of(st.none(), st.integers(-2000, 2000)),
)  # fmt: skip
def test_a_shot_and_its_sky_have_one_time(minutes: int, lasts: int, around: str, starts: int | None) -> None:
    begins = MORNING + timedelta(minutes=minutes)
    sky = {**NOON, "start": begins.isoformat(), "end": (begins + timedelta(minutes=lasts)).isoformat()}
    light = {
        "": sky,
        "water": {"kind": "water", "surface": sky, "depth_m": [1, 2], "water_type": "1C"},
        "lamps": {"kind": "lamps", "lamps": [{"lux_at_1m": 900}], "ambient": sky},
    }[around]
    what = brief(light=light)
    start = None if starts is None else MORNING + timedelta(minutes=starts)
    same, at = one_time(what, start)
    assert at == (begins if start is None else start)
    now = sky_of(same.light)
    assert now is not None
    assert (now.start, now.end - now.start) == (at, timedelta(minutes=lasts))
    assert one_time(same, at, (same, at)) == (same, at), "nothing changed, nothing moves"
    # The start is changed: the light follows. The light is changed: the start follows.
    later = at + timedelta(hours=1)
    moved, kept = one_time(same, later, (same, at))
    assert kept == sky_of(moved.light).start == later  # type: ignore[union-attr]
    lit, follows = one_time(moved, at, (same, at))
    assert (lit, follows) == (moved, later)


def test_a_light_that_would_end_out_of_reach_is_told() -> None:
    long = brief(light={**NOON, "start": "2026-05-12T00:00:00Z", "end": "2026-05-13T12:00:00Z"})
    with pytest.raises(BadInput, match="end out of reach"):
        one_time(long, datetime(2199, 12, 31, 12, tzinfo=UTC))
    assert one_time(long, datetime(2199, 12, 30, 11, tzinfo=UTC))[0].light.end.year == 2199  # type: ignore[union-attr]


def test_what_no_sky_lights_keeps_its_time_and_may_have_none() -> None:
    dark = brief(light={"kind": "place", "place": "stage"})
    assert one_time(dark, None) == (dark, None)
    assert one_time(dark, MORNING) == (dark, MORNING)
