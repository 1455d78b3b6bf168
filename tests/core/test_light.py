"""Sky, water and lamps against published values, limits and other ways of working them out."""

from __future__ import annotations

from datetime import UTC, date, datetime

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from steady_tide import library
from steady_tide.core.light import sky, water
from steady_tide.core.light.day import day_of_light, local_day
from steady_tide.core.light.resolving import resolve
from tests.briefs import DIVE_LAMP, NOON, SUN, TABLE_LAMP, brief

WORLD = library.knowledge().world
WATERS = WORLD.waters


@pytest.mark.parametrize(
    ("altitude", "lux"),
    [
        (90, 128_825), (60, 103_118), (40, 67_538), (20, 27_376), (10, 11_121), (5, 4_538),
        (0, 759), (-0.8, 462), (-3, 79), (-6, 3.41), (-12, 0.0081), (-18, 0.00064), (-40, 0.0005),
    ],
)  # fmt: skip
def test_daylight_by_altitude(altitude: float, lux: float) -> None:
    assert sky.sun_lux(altitude) == pytest.approx(lux, rel=0.01)


def test_daylight_takes_any_shape_and_never_ends() -> None:
    found = np.asarray(sky.sun_lux(np.linspace(-90, 90, 361).reshape(19, 19)))
    assert found.shape == (19, 19)
    assert np.isfinite(found).all()
    assert found.min() == sky.STARLIGHT_LUX


@pytest.mark.parametrize(
    ("altitude", "phase", "lux"), [(90, 0, 0.269), (40, 0, 0.143), (90, 90, 0.269 * 0.119), (-5, 0, 0)]
)
def test_moonlight(altitude: float, phase: float, lux: float) -> None:
    assert sky.moon_lux(altitude, phase) == pytest.approx(lux, rel=0.01)


def test_a_polar_day_and_a_polar_night_are_results() -> None:
    june, december = datetime(2026, 6, 21, tzinfo=UTC), datetime(2026, 12, 21, tzinfo=UTC)
    assert min(sky.positions(78, 15, june, june.replace(hour=23)).sun_deg) > 0
    assert max(sky.positions(78, 15, december, december.replace(hour=23)).sun_deg) < -6


def test_noon_at_the_equinox_stands_as_high_as_the_latitude_leaves() -> None:
    noon = datetime(2026, 3, 20, 12, 7, tzinfo=UTC)
    assert sky.positions(50, 0, noon, noon).sun_deg[0] == pytest.approx(40, abs=0.2)


def test_clouds_and_shade_take_their_stops() -> None:
    def band(**fields: str) -> tuple[float, float]:
        return resolve(brief(light={**NOON, **fields}).light, WORLD).ev100

    clear = band(cloud="clear")
    assert band(cloud="bright_cloud")[0] == pytest.approx(clear[0] - 2, abs=1e-6)
    assert band(cloud="storm")[0] == pytest.approx(clear[0] - 4, abs=1e-6)
    assert band(cloud="clear", shade="full")[1] < clear[0] - 2
    assert band(cloud="overcast", shade="full")[0] > band(cloud="clear", shade="full")[0] - 3


def test_a_night_sky_is_as_dark_as_starlight_and_no_darker() -> None:
    night = resolve(
        brief(
            light={**NOON, "cloud": "overcast", "start": "2026-11-09T22:00:00Z", "end": "2026-11-10T02:00:00Z"}
        ).light,
        WORLD,
    )
    assert night.ev100 == (-8, -6)
    assert night.night_sky
    assert night.dark


@pytest.mark.parametrize(("zenith", "share"), [(0, 0.021), (60, 0.061), (75, 0.215)])
def test_surface_reflection(zenith: float, share: float) -> None:
    assert water.surface_reflection(zenith) == pytest.approx(share, abs=0.0015)


@pytest.mark.parametrize(("kind", "metres", "stops"), [("IB", 10, (3.94, 0.93, 0.49)), ("3C", 5, (2.58, 1.40, 2.38))])
def test_single_wavelengths_of_a_water(kind: str, metres: float, stops: tuple[float, ...]) -> None:
    # The table itself, by linear interpolation at 610, 540 and 465 nm.
    kd = np.interp([610, 540, 465], WATERS.wavelengths_nm, WATERS.types[kind].kd_per_m)
    assert kd * metres / np.log(2) == pytest.approx(stops, abs=0.11)


@pytest.mark.parametrize("kind", WATERS.types)
def test_water_only_takes_and_takes_more_the_longer_the_path(kind: str) -> None:
    bands = water.passed(WATERS, WATERS.types[kind], np.linspace(0, 40, 81))
    assert bands[0] == pytest.approx([1, 1, 1])
    assert (np.diff(bands, axis=0) < 0).all()


def test_clear_water_is_clearer_than_harbour_water_at_every_wavelength() -> None:
    assert (np.array(WATERS.types["I"].kd_per_m) < np.array(WATERS.types["9C"].kd_per_m)).all()


def test_red_is_gone_where_a_tenth_is_left() -> None:
    for kind in ("IB", "3C", "9C"):
        # By hand: of the band's weights above 600 nm, those times what is left of each wavelength.
        at = water.red_gone_m(WATERS, WATERS.types[kind])
        nm = np.array(WATERS.wavelengths_nm)
        weight = np.exp(-0.5 * ((nm - 610) / (70 / 2.3548)) ** 2) * (nm > 600)
        left = (weight * np.exp(-np.array(WATERS.types[kind].kd_per_m) * at)).sum() / weight.sum()
        assert left == pytest.approx(0.1, abs=0.005)


def test_lamps_fall_off_by_the_square_and_add_up() -> None:
    one = resolve(brief(light={"kind": "lamps", "lamps": [TABLE_LAMP]}).light, WORLD)
    far = resolve(brief(light={"kind": "lamps", "lamps": [{**TABLE_LAMP, "distance_m": 2}]}).light, WORLD)
    two = resolve(brief(light={"kind": "lamps", "lamps": [TABLE_LAMP, TABLE_LAMP]}).light, WORLD)
    assert one.ev100[1] == pytest.approx(np.log2(905 / 2.5))
    assert far.ev100[1] == pytest.approx(one.ev100[1] - 2)
    assert two.ev100[1] == pytest.approx(one.ev100[1] + 1)
    assert one.balance_k == (5500, 5500)


def test_ripple_is_shared_by_light() -> None:
    lamps = [{**TABLE_LAMP, "ripple": 0.4}, TABLE_LAMP]
    assert resolve(brief(light={"kind": "lamps", "lamps": lamps}).light, WORLD).ripple == pytest.approx(0.2)
    dim = resolve(brief(light={"kind": "lamps", "lamps": lamps, "ambient": SUN}).light, WORLD)
    assert dim.ripple < 0.02
    assert dim.balance_k != (5500, 5500)


@given(
    kind=st.sampled_from(sorted(WATERS.types)),
    top=st.floats(0, 20),
    more=st.floats(0.1, 20),
    lamps=st.sampled_from([[], [DIVE_LAMP]]),
)
def test_deeper_is_never_brighter(kind: str, top: float, more: float, lamps: list[dict[str, float]]) -> None:
    def at(depth: float) -> tuple[float, float]:
        light = {"kind": "water", "surface": SUN, "depth_m": [depth, depth], "water_type": kind, "lamps": lamps}
        return resolve(brief(light=light).light, WORLD, (1, 1)).ev100

    assert at(top + more)[0] <= at(top)[0] + 1e-9


def test_lamps_bring_the_colour_back() -> None:
    deep = {"kind": "water", "surface": SUN, "depth_m": [18, 18], "water_type": "3C"}
    dark = resolve(brief(light=deep).light, WORLD, (0.8, 0.8))
    lit = resolve(brief(light={**deep, "lamps": [DIVE_LAMP]}).light, WORLD, (0.8, 0.8))
    assert lit.cast_stops < dark.cast_stops / 2
    assert 1e6 / lit.balance_k[0] == pytest.approx(1e6 / 5600, abs=1), "what little daylight is left hardly counts"
    assert lit.lamp_reach_m is not None
    assert dark.lamp_reach_m is None


def evening_with_a_moon(start: str, end: str) -> dict[str, object]:
    return {**NOON, "start": start, "end": end, "cloud": "clear"}


def test_the_moon_lights_an_evening_with_the_phase_that_it_has_then() -> None:
    """Four days after new the disc grows by a third within the day: midnight's phase is half a stop too dark."""
    midnight = datetime(2026, 10, 14, 0, 0, tzinfo=UTC)
    moments = np.array([0.0, 20.0 * 3600.0])
    through = sky.altitudes(52.05, 1.3, midnight, moments)
    there = sky.altitudes(52.05, 1.3, midnight.replace(hour=20), np.array([0.0]))
    assert through.moon_phase_deg[1] == pytest.approx(there.moon_phase_deg[0], abs=0.05)
    assert through.moon_km[1] == pytest.approx(there.moon_km[0], abs=30)
    held = sky.moon_lux(20.0, through.moon_phase_deg[0], through.moon_km[0])
    moves = sky.moon_lux(20.0, through.moon_phase_deg[1], through.moon_km[1])
    assert np.log2(moves / held) > 0.3


@pytest.mark.parametrize("day", ["2026-10-14", "2026-10-26", "2026-12-09"])
def test_a_span_and_its_day_tell_the_same_light(day: str) -> None:
    """One function gives both the light of a shot and the curve of its day, by moon as under the stars."""
    span = brief(light=evening_with_a_moon(f"{day}T21:00:00Z", f"{day}T22:00:00Z")).light
    low, high = resolve(span, WORLD).ev100
    start, end = local_day(date.fromisoformat(day), UTC)
    of_day = day_of_light(52.05, 1.3, start, end, WORLD.sky)
    hour = slice(of_day.at(datetime.fromisoformat(f"{day}T21:00:00Z")), None)
    minutes = slice(hour.start, hour.start + 61)
    assert of_day.level_ev100[minutes].min() == pytest.approx(low, abs=0.02)
    assert of_day.facing_ev100[minutes].max() == pytest.approx(high, abs=0.02)


def test_the_starlit_sky_is_the_place_under_the_stars() -> None:
    assert WORLD.sky.starlit_ev100 == WORLD.places["starlight"].ev100


@pytest.mark.parametrize("lamp_k", [3000, 5600])
def test_balance_moves_from_one_light_to_the_other_as_their_levels_do(lamp_k: int) -> None:
    """Mixed by hand, in reciprocal kelvins by lux, at every level; nowhere a step."""
    day_k, day_lux = 5600, 2.5 * 2**8
    found = []
    for stops in np.arange(-4, 4.01, 0.25):
        lamp = {**TABLE_LAMP, "kelvin": lamp_k, "lux_at_1m": day_lux * 2.0**stops}
        ambient = {"kind": "meter", "ev100": [8, 8], "balance_k": day_k}
        warm, cool = resolve(brief(light={"kind": "lamps", "lamps": [lamp], "ambient": ambient}).light, WORLD).balance_k
        share = 2.0**stops / (1.0 + 2.0**stops)
        mixed = share * 1e6 / lamp_k + (1.0 - share) * 1e6 / day_k
        assert 1e6 / warm == pytest.approx(mixed, abs=1)
        assert warm == cool
        found.append(1e6 / warm)
    assert np.abs(np.diff(found)).max() < 12
