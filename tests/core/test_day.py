"""The light of a day against another library, published limits and other ways of working it out."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta
from itertools import pairwise
from zoneinfo import ZoneInfo

import numpy as np
import pandas
import pytest
from astral import Observer
from astral.sun import dawn, dusk, sunrise, sunset
from hypothesis import given
from hypothesis import strategies as st
from pvlib import solarposition

from steady_tide import library
from steady_tide.core.brief.brief import School
from steady_tide.core.light import flicker
from steady_tide.core.light.account import steps
from steady_tide.core.light.day import DayOfLight, HourOfSky, day_of_light, local_day
from steady_tide.core.light.pictures import flicker_picture, lamps_picture
from steady_tide.core.light.resolving import resolve
from steady_tide.core.light.sky import Cloud, Shade, SkyNow, altitudes, sky_balance_k
from steady_tide.core.light.sources import LampLight
from steady_tide.core.light.water import filter_range, seen_through
from steady_tide.core.planning.brief_cache import CachedBrief
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.glass_times import glass_times
from steady_tide.core.planning.planner import through_day
from steady_tide.core.planning.ranking import entries_of, rank
from steady_tide.core.planning.situation import situation
from steady_tide.words.glass import span_words
from steady_tide.words.light import step_words
from tests.briefs import ALL_KINDS, DIVE_LAMP, QUAY, SUN, TABLE_LAMP, brief
from tests.checks import at_least_one

KNOWN = library.knowledge()
NAMES = {glass.id: glass.name for glass in library.demo_kit().filters}
SKY = KNOWN.sky
LONDON = ZoneInfo("Europe/London")


def day_at(latitude: float, longitude: float, on: date, zone: ZoneInfo = LONDON, **sky: str) -> DayOfLight:
    return day_of_light(latitude, longitude, *local_day(on, zone), SKY, **sky)  # type: ignore[arg-type]


@pytest.mark.parametrize("latitude", [-67.0, -33.9, 0.0, 52.06, 78.2])
def test_the_suns_altitude_over_a_year(latitude: float) -> None:
    start = datetime(2026, 1, 1, tzinfo=UTC)
    hours = np.arange(0.0, 365 * 24.0, 7.3)
    theirs = solarposition.get_solarposition(
        pandas.DatetimeIndex([start + timedelta(hours=h) for h in hours]), latitude, 18.4, method="nrel_numpy"
    )["elevation"].to_numpy()
    ours = np.array([altitudes(latitude, 18.4, start + timedelta(hours=h), np.array([0.0])).sun_deg[0] for h in hours])
    assert np.abs(ours - theirs).max() < 0.1


def test_between_the_moments_asked_altitudes_stay_true() -> None:
    start = datetime(2026, 6, 20, tzinfo=UTC)
    seconds = np.arange(0.0, 86_400.0, 60.0)
    at_once = altitudes(0.3, 10.0, start, seconds)
    one_by_one = [altitudes(0.3, 10.0, start + timedelta(seconds=s), np.array([0.0])) for s in seconds[::97].tolist()]
    assert np.abs(at_once.sun_deg[::97] - [one.sun_deg[0] for one in one_by_one]).max() < 0.05
    assert np.abs(at_once.moon_deg[::97] - [one.moon_deg[0] for one in one_by_one]).max() < 0.05


@pytest.mark.parametrize("on", [date(2026, 3, 20), date(2026, 10, 11), date(2026, 12, 21)])
def test_twilights_begin_and_end_when_they_should(on: date) -> None:
    observer = Observer(52.06, 1.31, 0.0)
    found = day_at(52.06, 1.31, on).windows
    civil = [window for window in found if window.kind == "civil"]
    theirs = [
        (dawn(observer, on, depression=6), sunrise(observer, on)),
        (sunset(observer, on), dusk(observer, on, depression=6)),
    ]
    for ours, (start, end) in zip(civil, theirs, strict=True):
        assert abs((ours.start - start).total_seconds()) < 90
        assert abs((ours.end - end).total_seconds()) < 90
    low = [window for window in found if window.kind == "low_sun"]
    assert abs((low[0].start - theirs[0][1]).total_seconds()) < 90


@pytest.mark.parametrize(("kind", "depression"), [("civil", 6), ("nautical", 12), ("astronomical", 18)])
def test_each_twilight_ends_where_the_next_begins(kind: str, depression: float) -> None:
    """In the evening, by the depression that each is defined with; after the last it is night."""
    on = date(2026, 10, 11)
    over = dusk(Observer(52.06, 1.31, 0.0), on, depression=depression)
    evening = [
        window for window in day_at(52.06, 1.31, on).windows if window.start.hour >= 14 and window.start.date() == on
    ]
    (ends,) = [window.end for window in evening if window.kind == kind]
    after = {"civil": "nautical", "nautical": "astronomical", "astronomical": "night"}[kind]
    (begins,) = [window.start for window in evening if window.kind == after]
    assert abs((ends - over).total_seconds()) < 90
    assert abs((begins - ends).total_seconds()) < 2


@pytest.mark.parametrize(
    ("sun", "cloud", "shade", "kelvin"),
    [
        (45.0, "clear", "open", (5300, 5800)),
        (19.0, "clear", "open", (5600, 6500)),
        (45.0, "overcast", "open", (6000, 6500)),
        (45.0, "clear", "full", (6500, 7500)),
        (-3.0, "clear", "open", (5500, 7500)),
        (-9.0, "clear", "open", (3200, 4300)),
    ],
)
def test_the_balance_of_a_sky_is_what_people_set(
    sun: float, cloud: Cloud, shade: Shade, kelvin: tuple[int, int]
) -> None:
    now = SkyNow(sun_deg=(sun - 1.0, sun), moon_deg=(-30.0, -30.0), moon_phase_deg=(90.0, 90.0), moon_km=(4e5, 4e5))
    assert sky_balance_k(now, cloud, shade) == kelvin


def test_a_polar_day_has_no_night_and_a_polar_night_no_sun() -> None:
    summer, winter = day_at(78, 15, date(2026, 6, 21)), day_at(78, 15, date(2026, 12, 21))
    assert {window.kind for window in summer.windows} <= {"moon", "low_sun", "harsh"}
    assert summer.level_ev100.min() > 12
    assert not {"low_sun", "civil"} & {window.kind for window in winter.windows}
    assert winter.sun_deg.max() < -6


@pytest.mark.parametrize(("on", "hours"), [(date(2026, 3, 29), 23), (date(2026, 10, 25), 25), (date(2026, 7, 1), 24)])
def test_days_on_which_clocks_change(on: date, hours: int) -> None:
    found = day_at(52.06, 1.31, on)
    assert found.seconds[-1] == hours * 3600
    noon = found.moment(int(np.argmax(found.sun_deg))).astimezone(LONDON)
    assert noon.date() == on


def test_both_sides_of_the_date_line_see_one_sun() -> None:
    on, zone = date(2026, 5, 5), ZoneInfo("Pacific/Auckland")
    east, west = day_at(-18, 179.999, on, zone), day_at(-18, -179.999, on, zone)
    assert np.abs(east.sun_deg - west.sun_deg).max() < 0.01


def test_clouds_come_and_go_by_the_hour() -> None:
    start, end = local_day(date(2026, 6, 21), LONDON)
    noon = start + timedelta(hours=12)
    hours = [HourOfSky(start=start, cloud="clear"), HourOfSky(start=noon, cloud="overcast")]
    mixed = day_of_light(52.06, 1.31, start, end, SKY, hours)
    clear = day_of_light(52.06, 1.31, start, end, SKY)
    before, after = mixed.at(noon - timedelta(minutes=2)), mixed.at(noon + timedelta(minutes=2))
    assert mixed.level_ev100[before] == clear.level_ev100[before]
    assert mixed.level_ev100[after] == pytest.approx(clear.level_ev100[after] - 3)
    assert mixed.kelvin[after] == 6500
    assert 5400 <= clear.kelvin[before] <= 5600


def test_glass_follows_the_light_in_as_few_changes_as_can_be() -> None:
    kit = library.demo_kit()
    at = situation(brief(**QUAY).in_school(School()), KNOWN, USUAL)
    best = rank(CachedBrief(at), entries_of(at, kit, KNOWN))[0]
    assert best.entry.problem is not None
    assert best.choice is not None
    day = day_at(52.06, 1.31, date(2026, 10, 11))
    spans = glass_times(at, best.entry.problem.space, best.choice, day)
    assert spans == through_day(brief(**QUAY), kit, KNOWN, day)
    assert spans[0].start == day.start
    assert all(before.end == after.start for before, after in pairwise(spans))
    served = [span for span in spans if span.nd is not None]
    assert [span_words(span, NAMES) for span in served] == [
        "no filter", "ND 8", "ND 16", "ND 32", "ND 64", "ND 32", "ND 16", "ND 8", "no filter",
    ]  # fmt: skip
    assert all(abs(span.off_stops) <= at.limits.glass_serves_stops + 1e-9 for span in served)
    dark = [span for span in spans if span.nd is None and span.why_not == "too_dark"]
    assert (dark[0].start, dark[-1].end) == (day.start, day.moment(len(day.seconds) - 1))
    assert {span.why_not for span in spans if span.nd is None} == {"too_dark", "between"}
    # A drone's camera that has no glass between none and eight: before dark it is between, then it is dark.
    creek = brief(
        scenario="motion",
        camera_move={"mount": "drone_gimbal"},
        light={"kind": "meter", "ev100": [15, 15]},
        delivery={"graded": True},
    )
    assert [span_words(span, NAMES) for span in through_day(creek, kit, KNOWN, day)][-2:] == ["no filter", "too dark"]


@pytest.mark.parametrize("name", ALL_KINDS)
def test_the_steps_of_a_light_add_up_to_it(name: str) -> None:
    what = brief(**ALL_KINDS[name])
    told = steps(what.light, KNOWN.world, what.subject.distance_m)
    band = resolve(what.light, KNOWN.world, what.subject.distance_m).ev100
    for end in (0, 1):
        assert sum(step.stops[end] for step in told) == pytest.approx(band[end], abs=1e-9)


def test_lamps_and_cloud_have_their_own_steps() -> None:
    lamps = {"kind": "lamps", "lamps": [TABLE_LAMP, {**TABLE_LAMP, "distance_m": 2}], "ambient": SUN}
    assert [step_words(step) for step in steps(brief(light=lamps).light, KNOWN.world, (1, 1))][1:] == [
        "lamp 1, 905 lux",
        "lamp 2, 226 lux",
    ]
    wet = {"kind": "water", "surface": SUN, "depth_m": [10, 10], "water_type": "II", "lamps": [DIVE_LAMP]}
    told = {step_words(step): step.stops[0] for step in steps(brief(light=wet).light, KNOWN.world, (1, 1))}
    assert told["water overhead"] < -1
    assert told["water to the lens"] < 0 < told["lamps"]


def test_key_fill_and_the_distance_that_is_wanted() -> None:
    light = brief(light={"kind": "lamps", "lamps": [TABLE_LAMP, {**TABLE_LAMP, "distance_m": 2, "kelvin": 3200}]}).light
    assert isinstance(light, LampLight)
    picture = lamps_picture(light, KNOWN.world, missing_stops=2.0)
    assert picture.key_to_fill_stops == pytest.approx(np.log2(5))
    assert [lamp.distance_wanted_m for lamp in picture.lamps] == pytest.approx([0.5, 1.0])
    assert [lamp.output_wanted for lamp in picture.lamps] == [None, None], "they are turned up already"
    assert [lamp.off_colour for lamp in picture.lamps] == [False, True]
    dimmer = lamps_picture(light, KNOWN.world, missing_stops=-1.0)
    assert dimmer.lamps[0].output_wanted == pytest.approx(0.5)


@given(shutter=st.floats(1 / 4000, 1 / 10), mains=st.sampled_from([50, 60]), depth=st.floats(0.01, 1))
def test_ripple_left_against_a_time_integral(shutter: float, mains: int, depth: float) -> None:
    pulse = 2.0 * mains
    starts = np.linspace(0, 1 / pulse, 8001)
    # The integral of 1 + depth sin over an exposure, start by start.
    light = shutter + depth * (np.cos(2 * np.pi * pulse * starts) - np.cos(2 * np.pi * pulse * (starts + shutter))) / (
        2 * np.pi * pulse
    )
    swing = (light.max() - light.min()) / (light.max() + light.min())
    assert flicker.ripple_left(depth, shutter, mains) == pytest.approx(swing, abs=1e-6)


@given(duty=st.floats(0.05, 1), hertz=st.floats(90, 2000), shutter=st.floats(1 / 4000, 1 / 20))
def test_pulses_left_against_a_count_of_moments(duty: float, hertz: float, shutter: float) -> None:
    def lit(until: np.ndarray) -> np.ndarray:
        periods = until * hertz
        return np.asarray((np.floor(periods) * duty + np.minimum(periods % 1.0, duty)) / hertz)

    starts = np.linspace(0, 1 / hertz, 20_001)
    light = lit(starts + shutter) - lit(starts)
    swing = (light.max() - light.min()) / (light.max() + light.min())
    assert flicker.pulse_ripple_left(duty, shutter, hertz) == pytest.approx(swing, abs=1e-3)


def test_clean_exposures_and_bands() -> None:
    at = {t: bool(flicker.is_clean(1 / t, 60)) for t in (30, 40, 48, 50, 60, 120, 240)}
    assert [round(t) for t, clean in at.items() if clean] == [30, 40, 60, 120]
    assert flicker.rows_per_band(0.015, 2160, 100) == pytest.approx(1440)
    office = resolve(brief(light={"kind": "place", "place": "office"}).light, KNOWN.world)
    picture = flicker_picture(office, 60, [1 / 50, 1 / 60, 1 / 120, 1], 25, 0.015, 2160, 25)
    assert picture is not None
    assert [(round(1 / p.shutter_s), p.clean) for p in picture.exposures] == [(120, True), (60, True), (50, False)]
    assert picture.exposures[2].left_stops == pytest.approx(
        float(flicker.ripple_stops(flicker.ripple_left(0.2, 0.02, 60)))
    )
    assert flicker_picture(resolve(brief().light, KNOWN.world), 60, [0.02], 25, 0.015, 2160, 25) is None


@pytest.mark.parametrize("kind", KNOWN.waters.types)
def test_a_filter_balances_between_its_depths_and_not_beyond(kind: str) -> None:
    water = KNOWN.waters.types[kind]
    for piece in at_least_one(f for f in library.demo_kit().filters if f.kind == "colour"):
        assert min(piece.band_stops) >= 0, "a filter never adds light"
        found = filter_range(KNOWN.waters, water, piece.id, piece.band_stops, 1.0)
        # Told by trying every depth: the cast that is left, and where it is small enough.
        depths = np.arange(0.0, 40.01, 0.1)
        seen = [seen_through(KNOWN.waters, water, d, 1.0).bands for d in depths]
        bands = [np.log2(band) - np.array(piece.band_stops) for band in seen]
        cast = np.array([band.max() - band.min() for band in bands])
        assert found.least_cast_stops == pytest.approx(cast.min(), abs=0.02)
        balanced = depths[cast <= 0.7]
        span = None if len(balanced) == 0 else (balanced[0], balanced[-1])
        assert found.depth_m == (None if span is None else pytest.approx(span, abs=0.11))


@pytest.mark.parametrize(("cloud", "shade"), [("clear", "open"), ("haze", "partial"), ("overcast", "full")])
def test_a_shots_sky_is_the_strips_sky(cloud: str, shade: str) -> None:
    """The band of a brief and the curve of its day must never tell two stories."""
    start = datetime(2026, 10, 11, 9, tzinfo=UTC)
    light = {
        "kind": "sky", "latitude": 52.06, "longitude": 1.31, "cloud": cloud, "shade": shade,
        "start": start.isoformat(), "end": (start + timedelta(hours=2)).isoformat(),
    }  # fmt: skip
    low, high = resolve(brief(light=light).light, KNOWN.world).ev100
    day = day_at(52.06, 1.31, start.date(), cloud=cloud, shade=shade)
    span = slice(day.at(start), day.at(start + timedelta(hours=2)) + 1)
    assert low == pytest.approx(day.level_ev100[span].min(), abs=0.01)
    assert high == pytest.approx(day.facing_ev100[span].max(), abs=0.01)
