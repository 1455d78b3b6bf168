"""Density and colour of glass from two frames: truth that is known, and what is refused."""

from __future__ import annotations

import numpy as np
import pytest

from steady_tide.core.measuring.glass import measure_glass
from steady_tide.core.measuring.transfer import Transfer
from steady_tide.core.quantities.errors import BadFile
from steady_tide.standins.grey_card import SimulatedSensor, grey_frame

SENSOR = SimulatedSensor(read_noise_e=2.5, full_well_e=7000.0, unevenness=0.006)


def pair(
    bands: tuple[float, float, float], opened: float, transfer: Transfer, codes: int, seed: int = 2, level: float = 0.4
) -> tuple[np.ndarray, np.ndarray]:
    rng = np.random.default_rng(seed)
    through = tuple(2.0 ** (opened - band) for band in bands)
    bare = grey_frame(SENSOR, 100, rng, level=level, transfer=transfer, codes=codes, tilt=0.2)
    behind = grey_frame(
        SENSOR, 100, rng, level=level, transfer=transfer, codes=codes, tilt=0.2, bands=(through[0], through[1], through[2])
    )  # fmt: skip
    return behind, bare


@pytest.mark.parametrize(("transfer", "codes"), [("linear", 65_536), ("srgb", 256), ("rec709", 1024)])
@pytest.mark.parametrize("stops", [0.9, 2.93, 4.1, 6.07])
def test_density_within_a_twentieth_of_a_stop_and_colour_within_two_percent(
    stops: float, transfer: Transfer, codes: int
) -> None:
    warm = (stops - 0.06, stops, stops + 0.11)  # an ND that lets red through, as many do
    opened = float(round(stops))
    behind, bare = pair(warm, opened, transfer, codes)
    found = measure_glass(behind, bare, transfer, codes, opened)
    weights = np.array([0.2126, 0.7152, 0.0722])
    truth = -np.log2(weights @ np.power(2.0, -np.array(warm)))
    assert found.stops == pytest.approx(truth, abs=0.05)
    assert found.band_stops == pytest.approx(warm, abs=0.05)
    assert found.red_shift == pytest.approx(2**0.06 - 1, abs=0.02)
    assert found.blue_shift == pytest.approx(2**-0.11 - 1, abs=0.02)
    assert not found.doubts


def test_a_colour_filter_has_its_three_bands() -> None:
    red = (0.1, 1.7, 2.0)
    behind, bare = pair(red, 0.0, "srgb", 256)
    assert measure_glass(behind, bare, "srgb", 256).band_stops == pytest.approx(red, abs=0.05)


def test_no_glass_is_no_stop_and_is_doubted() -> None:
    behind, bare = pair((0, 0, 0), 0.0, "linear", 65_536)
    found = measure_glass(behind, bare, "linear", 65_536)
    assert found.stops == pytest.approx(0, abs=0.01)
    assert any("no light" in doubt for doubt in found.doubts)


def test_the_other_way_round_is_the_negative() -> None:
    behind, bare = pair((2, 2, 2), 0.0, "linear", 65_536)
    one, other = measure_glass(behind, bare, "linear", 65_536), measure_glass(bare, behind, "linear", 65_536)
    assert one.stops == pytest.approx(-other.stops, abs=1e-9)


def test_a_cross_over_the_frame_is_noticed() -> None:
    behind, bare = pair((3, 3, 3), 2.0, "linear", 65_536)
    high, wide = behind.shape[:2]
    y, x = np.mgrid[-1 : 1 : high * 1j, -1 : 1 : wide * 1j]
    crossed = behind * (1 - 0.4 * np.abs(x * y))[..., None]
    found = measure_glass(crossed, bare, "linear", 65_536, 2.0)
    assert found.uneven_stops > 0.3
    assert any("uneven" in doubt for doubt in found.doubts)


@pytest.mark.parametrize(
    ("behind", "bare", "says"),
    [
        (np.full((64, 64, 3), 0.3), np.full((64, 80, 3), 0.3), "differ in size"),
        (np.full((64, 64, 3), 0.3), np.ones((64, 64, 3)), "clipped"),
        (np.full((64, 64, 3), 0.003), np.full((64, 64, 3), 0.3), "too dark"),
        (np.full((4, 4, 3), 0.3), np.full((4, 4, 3), 0.3), "smaller"),
    ],
)
def test_frames_that_cannot_tell_are_refused(behind: np.ndarray, bare: np.ndarray, says: str) -> None:
    with pytest.raises(BadFile, match=says) as refused:
        measure_glass(behind, bare, "linear", 256)
    assert refused.value.faults[0].mend
