"""Clips find their shots, on days whose truth is known; what nobody can tell is asked."""

from __future__ import annotations

import numpy as np
import pytest

from steady_tide.core.rushes.matching import ClipSeen, ShotAhead, match

HOUR = 3600.0
SIZES = {"limpet-7": (3840, 2160), "yawl-12": (1920, 1080)}


def shot(
    key: str, starts_h: float | None, camera: str = "limpet-7", rate: float = 25.0, lasts_s: float = 300.0
) -> ShotAhead:
    width, height = SIZES[camera]
    starts = None if starts_h is None else starts_h * HOUR
    return ShotAhead(key, starts, lasts_s, camera, camera.title(), width, height, rate)


def clip(
    key: str, at_s: float | None, camera: str | None = "limpet-7", rate: float = 25.0, size: str = "limpet-7"
) -> ClipSeen:
    width, height = SIZES[size]
    return ClipSeen(key, at_s, camera, width, height, rate)


@pytest.mark.parametrize("seed", range(8))
@pytest.mark.parametrize("named", [True, False])
def test_a_day_with_a_wrong_clock_finds_itself(seed: int, named: bool) -> None:
    """Eight shots on two cameras, two to five takes each; clocks off by up to days; the day slips by up to half an hour."""
    rng = np.random.default_rng(seed)
    cameras = ["limpet-7", "yawl-12"]
    shots, clips, truth = [], [], {}
    off = {"limpet-7": float(rng.choice([0.0, 3600.0, -7200.0, 86_400.0 * 3])), "yawl-12": float(rng.normal(0, 90))}
    start, slip = 8.0, 0.0
    for number in range(8):
        camera = cameras[int(rng.integers(2))]
        rate = float(rng.choice([25.0, 50.0, 100.0]))
        shots.append(shot(f"s{number}", start, camera, rate))
        slip += float(rng.uniform(0, 200))
        for take in range(int(rng.integers(2, 6))):
            at = start * HOUR + slip + 70.0 * take + off[camera] + float(rng.uniform(0, 20))
            made = clip(f"c{number}.{take}", at, camera if named else None, rate, camera)
            clips.append(made)
            truth[made.key] = f"s{number}"
        start += float(rng.uniform(0.6, 1.4))
    order = rng.permutation(len(clips))
    found, clocks = match([clips[n] for n in order], shots)
    right = [one.shot == truth[one.clip] for one in found]
    assert np.mean(right) >= 0.95, [(one.clip, one.shot) for one in found if one.shot != truth[one.clip]]
    # Of what is called sure nothing is wrong.
    assert all(one.shot == truth[one.clip] for one in found if one.sure)
    for clock in clocks:
        camera = clock.camera if named else next(c for c in cameras if str(SIZES[c][0]) in clock.camera)
        assert clock.ahead_s == pytest.approx(off[camera], abs=1300.0)


def test_what_may_be_of_two_shots_is_not_sure_and_names_both() -> None:
    shots = [shot("early", 9.0, lasts_s=60), shot("late", 9.5, lasts_s=60)]
    found, _ = match([clip("a", 9.0 * HOUR + 60), clip("b", 9.3 * HOUR)], shots)
    first, between = found
    assert (first.shot, first.sure) == ("early", True)
    assert not between.sure
    assert {between.shot, between.next_best} == {"early", "late"}


def test_a_clip_of_another_frame_rate_and_camera_is_of_no_shot() -> None:
    found, _ = match([clip("odd", 20 * HOUR, "phone", 60.0, "yawl-12")], [shot("only", 9.0)])
    assert found[0].shot is None


def test_without_times_settings_alone_decide() -> None:
    shots = [shot("wide", None, "limpet-7", 25.0), shot("slow", None, "limpet-7", 100.0)]
    found, clocks = match([clip("a", None, rate=100.0), clip("b", None, rate=25.0)], shots)
    assert [one.shot for one in found] == ["slow", "wide"]
    assert clocks == ()


def test_no_shots_and_no_clips_are_no_trouble() -> None:
    assert match([], [shot("s", 9.0)]) == ((), ())
    found, _ = match([clip("a", 0.0)], [])
    assert found[0].shot is None


def test_a_batch_of_two_hundred_is_matched_quickly() -> None:
    import time

    shots = [shot(f"s{n}", 8.0 + 0.5 * n) for n in range(20)]
    clips = [clip(f"c{n}", (8.0 + 0.05 * n) * HOUR + 4000.0) for n in range(200)]
    before = time.process_time()
    match(clips, shots)
    assert time.process_time() - before < 5.0
