"""Quick looks, profiles' curves, focus that drifts, spots on the lens, and subjects that cross the frame."""

from __future__ import annotations

from itertools import chain, repeat
from pathlib import Path
from typing import Any

import cv2
import numpy as np
import pytest

from steady_tide import library
from steady_tide.core.gear.sheet import Profile
from steady_tide.core.quantities.errors import BadSheet
from steady_tide.core.rushes.measures import ClipMeasures
from steady_tide.core.rushes.profiles import table_of
from steady_tide.formats.kit_file import read_sheet
from steady_tide.formats.rushes_worker import BURST, BURSTS, LONG_LEAST, looked_over, measured
from tests.footage import HEIGHT, WIDTH, film, smeared, texture, view
from tests.small_sheet import small_sheet_data

LIMITS = library.knowledge().limits


def looked(path: Path, **options: Any) -> ClipMeasures:
    with path.open("rb") as file:
        return ClipMeasures.model_validate(measured(file, {"file": path.name, "form": "mov", **options}))


def doubted(clip: ClipMeasures, field: str) -> bool:
    return any(doubt.field == field for doubt in clip.doubts)


def test_a_quick_look_tells_what_all_frames_tell(tmp_path: Path) -> None:
    count = 600
    steady = [smeared(1, 3.0 * n % 448, 40.0, (1.5, 0.0)) for n in range(448 // 1)]
    frames = [steady[n % len(steady)] * (1.0 + 0.4 * n / count) for n in range(count)]
    path = film(tmp_path / "long.mp4", frames, gop=25)
    whole, quick = looked(path), looked(path, quick=True)
    assert whole.frames_measured == count
    assert not whole.quick
    assert quick.quick
    assert quick.frames_measured <= BURSTS * BURST + 120
    assert quick.frames_measured >= 200
    assert doubted(quick, "frames_measured")
    assert quick.frame_rate == pytest.approx(25.0, abs=0.01)
    assert quick.exposure.median_stops == pytest.approx(whole.exposure.median_stops, abs=0.1)
    assert quick.exposure.drift_stops == pytest.approx(whole.exposure.drift_stops, abs=0.1)
    assert quick.motion.pan_px == pytest.approx(3.0, abs=0.3)
    assert quick.cuts_at_s == ()
    assert quick.exposure.jumps_at_s == ()
    assert quick.cadence.repeated_share == pytest.approx(0.0, abs=0.01)


def test_a_quick_look_at_a_short_clip_looks_at_all_of_it(tmp_path: Path) -> None:
    path = film(tmp_path / "short.mp4", [view(1, 20 + 2 * n, 40) for n in range(40)])
    quick = looked(path, quick=True)
    assert not quick.quick
    assert quick.frames_measured == 40
    assert (BURSTS - 1) * BURST + LONG_LEAST > 40


def test_stamps_that_are_missing_are_seen_by_a_quick_look_too(tmp_path: Path) -> None:
    frames = chain(repeat(view(1, 20, 40), 300), repeat(view(1, 60, 40), 300))
    path = film(tmp_path / "gap.mp4", frames, gop=25, times=lambda n: n + (4 if n >= 433 else 0))
    quick = looked(path, quick=True)
    assert quick.quick
    assert list(quick.cadence.gaps_at_s) == [pytest.approx((433 + 4) / 25.0)]


def flat(light: np.ndarray) -> np.ndarray:
    """A flat curve written down by hand: seven stops under grey to three and a half above, evenly."""
    return np.clip((np.log2(np.maximum(light, 1e-6) / 0.18) + 7.0) / 10.5, 0.0, 1.0)


def test_a_profiles_own_curve_is_undone(tmp_path: Path) -> None:
    light = view(1, 100, 100)
    path = film(tmp_path / "flat.mp4", [light] * 10, coder=flat, deep=True, codec="libx265", quality=4)
    profile = Profile.model_validate(
        {
            "id": "flat",
            "range_stops": 10.5,
            "needs_grading_stops": 1.2,
            "bit_depths": [10],
            "curve": [[0, -7], [1, 3.5]],
        }
    )
    found = table_of(profile, LIMITS)
    assert found is not None
    table, own = found
    assert own
    truth = float(np.log2(np.median(light) / 0.18))
    assert looked(path, curve=table.light).exposure.median_stops == pytest.approx(truth, abs=0.1)
    # Taken as a finished picture it would be far off.
    assert abs((looked(path).exposure.median_stops or 0.0) - truth) > 0.4


def test_a_profile_without_a_curve_is_undone_by_a_typical_one_and_doubted(tmp_path: Path) -> None:
    bare = Profile.model_validate({"id": "flat", "range_stops": 12.0, "needs_grading_stops": 1.2, "bit_depths": [10]})
    found = table_of(bare, LIMITS)
    assert found is not None
    table, own = found
    assert not own
    assert np.all(np.diff(table.light) >= 0.0)
    path = film(tmp_path / "a.mp4", [view(1, 10, 10)] * 5)
    assert doubted(looked(path, curve=table.light, curve_doubt="typical"), "exposure.median_stops")
    natural = Profile.model_validate({"id": "natural", "range_stops": 10.0, "bit_depths": [8]})
    assert table_of(natural, LIMITS) is None


def test_a_curve_that_does_not_rise_is_refused() -> None:
    data = small_sheet_data()
    data["profiles"][0]["curve"] = [[0.1, -5], [0.5, 0], [0.4, 2]]
    with pytest.raises(BadSheet, match="does not rise"):
        read_sheet(data)


def test_focus_that_drifts_is_told(tmp_path: Path) -> None:
    board = np.where((np.indices((HEIGHT, WIDTH)) // 48).sum(axis=0) % 2, 0.6, 0.05).astype(float)
    sigmas = np.linspace(1.0, 4.0, 40)
    drifting = looked(film(tmp_path / "drift.mp4", [cv2.GaussianBlur(board, (0, 0), float(s)) for s in sigmas]))
    assert drifting.sharpness.focus_drift_px is not None
    # From the middle of the first third to that of the last: two stops of blur, 2.56 px each.
    assert drifting.sharpness.focus_drift_px == pytest.approx(2.56 * 2.0, rel=0.35)
    steady = looked(film(tmp_path / "steady.mp4", [cv2.GaussianBlur(board, (0, 0), 1.0)] * 40))
    assert steady.sharpness.focus_drift_px == pytest.approx(0.0, abs=0.6)


def soft(x: float, y: float) -> np.ndarray:
    """A picture with a third of the texture's contrast, as sea, sky and walls have."""
    return np.asarray(0.25 * (view(1, x, y) / 0.25) ** 0.3)


def test_spots_cannot_be_told_before_too_rough_a_picture(tmp_path: Path) -> None:
    clip = looked(film(tmp_path / "a.mp4", [view(1, 1.5 * n, 1.0 * n) for n in range(60)]))
    assert clip.haze.spots is None
    assert doubted(clip, "haze.spots")


@pytest.mark.parametrize("spots", [0, 3])
def test_spots_stay_while_the_picture_moves(tmp_path: Path, spots: int) -> None:
    rows, columns = np.indices((HEIGHT, WIDTH))
    places = [(60, 80), (140, 250), (100, 330)][:spots]
    shade = np.ones((HEIGHT, WIDTH))
    for down, across in places:
        shade -= 0.45 * np.exp(-((rows - down) ** 2 + (columns - across) ** 2) / (2 * 6.0**2))
    clip = looked(film(tmp_path / "a.mp4", [soft(5.0 * n, 3.0 * n) * shade for n in range(80)]))
    assert clip.haze.spots == spots


def test_without_movement_nobody_can_tell_spots(tmp_path: Path) -> None:
    clip = looked(film(tmp_path / "a.mp4", [view(1, 10, 10)] * 30))
    assert clip.haze.spots is None
    assert doubted(clip, "haze.spots")


def test_a_subject_that_crosses_a_still_frame_is_no_pan(tmp_path: Path) -> None:
    ground = texture(5, 1120)[:648, :1120]
    across = texture(9, 448)

    def frame(n: int) -> np.ndarray:
        made = ground.copy()
        left = 300 + 6 * n
        made[150:500, left : left + 330] = np.roll(across, -0, axis=1)[:350, :330]
        return made

    clip = looked(film(tmp_path / "a.mp4", [frame(n) for n in range(30)]))
    assert clip.motion.pan_px == pytest.approx(0.0, abs=0.3)
    assert clip.motion.shake_px == pytest.approx(0.0, abs=0.6)


def test_evidence_comes_with_the_measures(tmp_path: Path) -> None:
    light = [view(1, 2 * n, 0) * (4.0 if n >= 30 else 1.0) for n in range(60)]
    path = film(tmp_path / "a.mp4", light)
    with path.open("rb") as file:
        found = looked_over(file, {"file": "a.mp4", "form": "mov"})
    line = found["timeline"]
    assert len(line["at_s"]) == 60
    assert line["median_stops"][45] - line["median_stops"][10] == pytest.approx(2.0, abs=0.3)
    assert max(line["white_share"]) == pytest.approx(found["measures"]["exposure"]["worst_white_share"], abs=0.01)
    assert len(found["frames"]) == 6
    assert all(frame["plain"] and frame["marked"] for frame in found["frames"])
    assert found["frames"][5]["plain"] != found["frames"][5]["marked"]
