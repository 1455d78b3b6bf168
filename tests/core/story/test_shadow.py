"""Sun and own shadow: against a published ephemeris by another library, and against rays cast one by one."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from math import cos, radians, sin, tan

import numpy as np
import pytest
from astral import Observer
from astral.sun import azimuth, elevation
from hypothesis import given
from hypothesis import strategies as st

from steady_tide.core.story.shadow import (
    EYES_SHARE,
    SHOULDERS_M,
    SunAt,
    own_shadow,
    sun_at,
    sun_on_framing,
    upright_field_deg,
)
from tests.shell import answer

FIELDS = (78.0, upright_field_deg(78.0, 16 / 9))


@pytest.mark.parametrize(("latitude", "longitude"), [(52.06, 1.31), (-33.9, 18.4), (0.0, -78.0), (69.6, 18.9)])
def test_the_sun_stands_where_another_ephemeris_has_it(latitude: float, longitude: float) -> None:
    worst = 0.0
    for number in range(60):
        at = datetime(1950 + 3 * number % 240, 1, 1, 4, tzinfo=UTC) + timedelta(hours=331 * number)
        ours = sun_at(latitude, longitude, at)
        here = Observer(latitude, longitude, 0.0)
        high, towards = elevation(here, at, with_refraction=False), azimuth(here, at)
        turned = (ours.azimuth_deg - towards + 180.0) % 360.0 - 180.0
        worst = max(worst, abs(ours.altitude_deg - high), abs(turned) * cos(radians(high)))
    assert worst < 0.05, worst


def test_a_shadow_is_as_long_as_its_formula() -> None:
    shadow = own_shadow(SunAt(altitude_deg=45.0, azimuth_deg=180.0), 0.0, 1.75, FIELDS)
    assert shadow.length_m == pytest.approx(1.75)
    assert shadow.heading_deg == 0.0
    assert own_shadow(SunAt(altitude_deg=30.0, azimuth_deg=90.0), 0.0, 1.8, FIELDS).length_m == pytest.approx(
        1.8 / tan(radians(30))
    )
    down = own_shadow(SunAt(altitude_deg=-3.0, azimuth_deg=270.0), 0.0, 1.75, FIELDS)
    assert (down.length_m, down.in_frame) == (None, False)


def cast(sun: SunAt, heading: float, height: float, fields: tuple[float, float], pitch: float) -> bool:
    """Whether any of many points of the shadow's strip lands in the frame, each seen by its own ray."""
    length = height / tan(radians(sun.altitude_deg))
    falls = radians(sun.azimuth_deg + 180.0 - heading)
    along, off = np.meshgrid(np.linspace(0.0, length, 6000), np.linspace(-0.5, 0.5, 3) * SHOULDERS_M)
    ahead, right = along * cos(falls) - off * sin(falls), along * sin(falls) + off * cos(falls)
    down = np.full_like(ahead, -EYES_SHARE * height)
    tilt = radians(pitch)
    depth, above = ahead * cos(tilt) + down * sin(tilt), down * cos(tilt) - ahead * sin(tilt)
    across, up = (tan(radians(field / 2)) for field in fields)
    seen = (depth > 0) & (np.abs(right) <= across * depth) & (np.abs(above) <= up * depth)
    return bool(seen.any())


@given(
    st.floats(1.0, 85.0),
    st.floats(0.0, 359.0),
    st.floats(0.0, 359.0),
    st.floats(1.2, 2.1),
    st.floats(20.0, 140.0),
    st.floats(-60.0, 40.0),
)
def test_the_verdict_on_ones_own_shadow_is_that_of_rays(
    altitude: float, azimuth: float, heading: float, height: float, field: float, pitch: float
) -> None:
    sun, fields = SunAt(altitude_deg=altitude, azimuth_deg=azimuth), (field, upright_field_deg(field, 16 / 9))
    shadow = own_shadow(sun, heading, height, fields, pitch)
    by_rays = cast(sun, heading, height, fields, pitch)
    assert shadow.in_frame or not by_rays
    if shadow.in_frame and not by_rays:  # less of it than lies between two rays
        assert shadow.from_m is not None
        assert shadow.to_m is not None
        assert shadow.length_m is not None
        assert shadow.to_m - shadow.from_m <= shadow.length_m / 2000


@pytest.mark.parametrize(
    ("heading", "side", "in_frame"),
    [(180, "against", True), (0, "front", False), (90, "side", False), (125, "back", False)],
)
def test_from_where_it_lights(heading: float, side: str, in_frame: bool) -> None:
    found = sun_on_framing(SunAt(altitude_deg=10.0, azimuth_deg=180.0), heading, 1.75, FIELDS)
    assert (found.side, found.in_frame) == (side, in_frame)
    assert found.shadow.in_frame == (side == "front")


def test_the_door_of_the_shell(tmp_path) -> None:  # type: ignore[no-untyped-def]
    words = ("shadow", "52.06", "1.31", "2026-10-11T16:30", "--tz", "Europe/London", "--heading")
    told = answer(tmp_path, *words, "NE")
    assert told.returncode == 0
    assert "front light" in told.stdout
    assert "it falls into the frame, from 3.6 to 7.3 m along it" in told.stdout
    assert "against the sun" in answer(tmp_path, *words, "239").stdout
    for wrong in (
        ("--heading", "up"),
        ("--heading", "900"),
        ("--heading", "N", "--shape", "wide"),
        ("--heading", "N", "--tz", "Here/There"),
    ):
        refused = answer(tmp_path, *words[:4], *wrong)
        assert refused.returncode == 2, wrong
        assert wrong[-1] in refused.stderr or "zone" in refused.stderr.lower()
    assert answer(tmp_path, "shadow", "90", "0", "2026-06-21T12:00", "--heading", "0").returncode == 0
    assert "the sun is down" in answer(tmp_path, "shadow", "90", "0", "2026-12-21T12:00", "--heading", "0").stdout
