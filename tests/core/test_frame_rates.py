"""Frame rates as they really are, and their beat with the mains."""

from __future__ import annotations

import pytest

from steady_tide.core.light.flicker import beat_hz
from steady_tide.core.quantities.frame_rates import exact_rate, recorded_rate, written_rate
from tests.briefs import brief, decided


@pytest.mark.parametrize(
    ("written", "exact"),
    [(23.976, 24000 / 1001), (23.98, 24000 / 1001), (29.97, 30000 / 1001), (59.94, 60000 / 1001), (119.88, 120000 / 1001)],
)  # fmt: skip
def test_a_rounded_rate_stands_for_its_fraction(written: float, exact: float) -> None:
    assert exact_rate(written) == pytest.approx(exact, abs=1e-12)
    assert exact_rate(exact) == pytest.approx(exact, abs=1e-12)
    assert written_rate(exact) == round(exact, 3)


@pytest.mark.parametrize("whole", [12.0, 24.0, 25.0, 30.0, 50.0, 60.0, 100.0, 240.0])
def test_whole_rates_stay(whole: float) -> None:
    assert exact_rate(whole) == written_rate(whole) == whole
    assert recorded_rate(whole, 25.0) == whole


@pytest.mark.parametrize(
    ("menu", "timeline", "beat"), [(30, 30, 0.0), (30, 29.97, 0.12), (29.97, 25, 0.12), (24, 23.976, 0.12)]
)
def test_on_a_slower_timeline_bands_creep_with_the_mains(menu: float, timeline: float, beat: float) -> None:
    """120 pulses a second against four frames of 30000/1001 leave 0.12 Hz; five of 24000/1001 as much."""
    assert beat_hz(recorded_rate(menu, timeline), 60) == pytest.approx(beat, abs=0.001)


def test_bands_that_creep_cost_twice_those_that_stand() -> None:
    """A camera's 30 under pulsing tubes of 60 Hz, at an exposure that holds no whole pulse."""
    lamp = {"lux_at_1m": 900, "distance_m": 1, "kelvin": 4000, "ripple": 0.4}
    fields = {
        "light": {"kind": "lamps", "lamps": [lamp]},
        "mains_hz": 60,
        "pins": {"frame_rate": 30, "shutter_s": "1/200"},
    }
    stands, creeps = (
        next(item.stops for item in decided(**fields, delivery={"fps": fps}).ledger if item.item == "flicker")
        for fps in (30.0, 29.97)
    )
    assert creeps == pytest.approx(2 * stands, rel=0.02)
    assert brief(**fields).mains_hz == 60
