"""Noise from a grey card: simulated cameras whose truth is known, limiting cases, and what is refused."""

from __future__ import annotations

import numpy as np
import pytest

from steady_tide.core.measuring.noise_ladder import GreyStep, NoiseMeasured, fit_noise, grey_step, light_used
from steady_tide.core.measuring.transfer import Transfer, slope_at, to_code, to_light
from steady_tide.core.quantities.errors import BadFile
from steady_tide.standins.grey_card import SimulatedSensor, grey_frame

SHAPE = (240, 320)
ISOS = (100, 200, 400, 800, 1600, 3200, 6400)


def ladder(
    sensor: SimulatedSensor,
    isos: tuple[int, ...] = ISOS,
    frames: int = 2,
    seed: int = 5,
    transfer: Transfer = "linear",
    codes: int = 65_536,
    tilt: float = 0.0,
) -> list[GreyStep]:
    rng = np.random.default_rng(seed)
    return [
        grey_step(
            [
                grey_frame(sensor, iso, rng, transfer=transfer, codes=codes, tilt=tilt, shape=SHAPE)[..., 1]
                for _ in range(frames)
            ],
            iso,
            transfer,
            codes,
        )
        for iso in isos
    ]


@pytest.mark.parametrize("seed", [1, 2])
@pytest.mark.parametrize(("read", "well"), [(1.8, 4200.0), (3.2, 7800.0), (5.5, 15_000.0)])
def test_read_noise_and_full_well_are_found_within_five_percent(read: float, well: float, seed: int) -> None:
    found = fit_noise(ladder(SimulatedSensor(read, well, unevenness=0.008), seed=seed, tilt=0.1))
    assert found.read_noise_e == pytest.approx(read, rel=0.05)
    assert found.full_well_e == pytest.approx(well, rel=0.05)
    assert found.card_electrons == pytest.approx(0.18 * well, rel=0.05)
    assert not found.doubts


def test_the_stated_errors_are_honest() -> None:
    """Over many ladders the truth lies within two standard errors about as often as it should."""
    inside = 0
    for seed in range(12):
        found = fit_noise(ladder(SimulatedSensor(3.0, 6000.0), isos=(100, 400, 1600, 6400), seed=seed))
        inside += abs(found.read_noise_e - 3.0) < 2 * found.read_noise_error_e
        inside += abs(found.full_well_e - 6000.0) < 2 * found.full_well_error_e
    assert inside >= 20, "of 24"


@pytest.mark.parametrize(("transfer", "codes"), [("srgb", 4096), ("rec709", 1024)])
def test_files_with_a_curve_give_the_same(transfer: Transfer, codes: int) -> None:
    found = fit_noise(ladder(SimulatedSensor(3.0, 6000.0), transfer=transfer, codes=codes))
    assert found.read_noise_e == pytest.approx(3.0, rel=0.08)
    assert found.full_well_e == pytest.approx(6000.0, rel=0.05)


def test_one_frame_a_step_tells_unevenness_from_noise() -> None:
    found = fit_noise(ladder(SimulatedSensor(3.0, 6000.0, unevenness=0.01), frames=1, tilt=0.2))
    assert found.full_well_e == pytest.approx(6000.0, rel=0.08)
    assert found.unevenness == pytest.approx(0.01, rel=0.25)


def test_a_sensor_without_read_noise_has_none_to_be_seen() -> None:
    found = fit_noise(ladder(SimulatedSensor(0.0, 6000.0)))
    assert found.read_noise_e < 1.0
    assert found.full_well_e == pytest.approx(6000.0, rel=0.05)


def test_flicker_and_a_slope_of_the_light_do_not_count_as_noise() -> None:
    rng = np.random.default_rng(3)
    sensor = SimulatedSensor(3.0, 6000.0)
    steps = []
    for iso in ISOS[:5]:
        pair = [grey_frame(sensor, iso, rng, level=level, tilt=0.3)[..., 1] for level in (0.18, 0.19)]
        steps.append(grey_step(pair, iso, "linear", 65_536))
    assert fit_noise(steps).full_well_e == pytest.approx(6000.0, rel=0.08)


def codes_of(found: NoiseMeasured) -> set[str]:
    return {doubt.code for doubt in found.doubts}


def test_a_camera_that_smooths_is_noticed() -> None:
    rng = np.random.default_rng(8)
    steps = []
    for iso in ISOS[:4]:
        frames = []
        for _ in range(2):
            frame = grey_frame(SimulatedSensor(3.0, 6000.0), iso, rng)[..., 1]
            frames.append((frame + np.roll(frame, 1, 0) + np.roll(frame, 1, 1)) / 3)
        steps.append(grey_step(frames, iso, "linear", 65_536))
    assert "smoothed" in codes_of(fit_noise(steps))


def test_codes_that_are_too_coarse_are_noticed() -> None:
    assert "coarse" in codes_of(fit_noise(ladder(SimulatedSensor(2.0, 60_000.0), codes=256)))


def test_clipped_steps_are_left_out_and_named() -> None:
    good = ladder(SimulatedSensor(3.0, 6000.0), isos=(100, 200, 400, 800))
    rng = np.random.default_rng(4)
    blown = grey_step(
        [grey_frame(SimulatedSensor(3.0, 6000.0), 1600, rng, level=0.99)[..., 1] for _ in range(2)], 1600, "linear", 65_536
    )  # fmt: skip
    found = fit_noise([*good, blown])
    assert [point.iso for point in found.curve] == [100, 200, 400, 800]
    assert "clipped" in codes_of(found)


def test_an_iso_that_is_read_otherwise_makes_a_poor_fit() -> None:
    steps = ladder(SimulatedSensor(3.0, 6000.0))
    odd = [*steps[:-1], steps[-1].model_copy(update={"variance": steps[-1].variance / 3})]
    assert "poor_fit" in codes_of(fit_noise(odd))


@pytest.mark.parametrize("isos", [(100,), (100, 200), (100, 150, 200)])
def test_a_ladder_that_is_too_short_is_refused(isos: tuple[int, ...]) -> None:
    with pytest.raises(BadFile) as refused:
        fit_noise(ladder(SimulatedSensor(3.0, 6000.0), isos=isos))
    assert "three ISO or more" in refused.value.faults[0].mend


def test_noise_that_does_not_grow_with_light_is_refused() -> None:
    step = ladder(SimulatedSensor(3.0, 6000.0), isos=(100,))[0]
    flat = [step.model_copy(update={"iso": iso, "variance": 0.0}) for iso in (100, 200, 400)]
    with pytest.raises(BadFile):
        fit_noise(flat)


def test_patches_that_are_too_small_or_differ_are_refused() -> None:
    with pytest.raises(BadFile, match="only"):
        grey_step([np.full((20, 20), 0.2)], 100, "linear", 256)
    with pytest.raises(BadFile, match="differ in size"):
        grey_step([np.full((60, 60), 0.2), np.full((60, 70), 0.2)], 100, "linear", 256)


def test_the_light_that_was_used_follows_from_the_metered_exposure() -> None:
    found = fit_noise(ladder(SimulatedSensor(3.0, 6000.0)))
    # Smaller photosites than the card's electrons came from, or so large ones that none would be left: no answer.
    assert light_used(found, 1.5) is None
    assert light_used(found, 20.0) is None
    # Four times the area catches four times the photons, so that the share falls to a quarter.
    wide, narrow = light_used(found, 3.0), light_used(found, 2.0)
    assert wide is not None
    assert narrow is not None
    assert narrow / wide == pytest.approx((3.0 / 2.0) ** 2)


@pytest.mark.parametrize("transfer", ["linear", "srgb", "rec709"])
def test_curves_go_both_ways_and_slope_as_they_do(transfer: Transfer) -> None:
    light = np.linspace(0, 1, 501)
    assert to_light(to_code(light, transfer), transfer) == pytest.approx(light, abs=1e-6)
    assert slope_at(0.5, transfer) == pytest.approx(
        float(np.diff(to_light(np.array([0.4995, 0.5005]), transfer))[0] / 0.001), rel=1e-3
    )


def test_curves_have_their_published_values() -> None:
    # Middle grey of 18 % in sRGB is 118 of 255; in BT.709 a tenth of white is 0.2909 of the signal.
    assert to_code(np.array([0.18]), "srgb")[0] * 255 == pytest.approx(117.6, abs=0.2)
    assert to_code(np.array([0.1]), "rec709")[0] == pytest.approx(1.099 * 0.1**0.45 - 0.099)


def test_single_frames_at_three_iso_raise_a_doubt_and_a_fourth_does_not() -> None:
    """Photosites that are not alike look like noise, and three steps cannot tell the two apart."""
    sensor = SimulatedSensor(read_noise_e=2.8, full_well_e=6400.0, unevenness=0.006)

    def doubts(isos: tuple[int, ...], frames: int) -> set[str]:
        return {doubt.code for doubt in fit_noise(ladder(sensor, isos, frames)).doubts}

    assert "single_frames" in doubts((100, 400, 1600), 1)
    assert "single_frames" not in doubts((100, 400, 1600), 2)
    assert "single_frames" not in doubts((100, 400, 800, 1600), 1)
