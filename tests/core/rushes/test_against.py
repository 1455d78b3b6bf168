"""As planned beside as filmed, on clips that were drawn with the plan's own settings, and with others."""

from __future__ import annotations

import pytest

from steady_tide import library
from steady_tide.core.rushes.measures import (
    ClipMeasures,
    Doubt,
    FlickerMeasure,
    MotionMeasure,
    NoiseMeasure,
)
from steady_tide.core.rushes.planned_and_filmed import against
from tests.briefs import decided

LIMITS = library.knowledge().limits
PLAN = decided(pins={"shutter_s": 1 / 50, "camera": "limpet-7"})


def filmed(**more: object) -> ClipMeasures:
    said: dict[str, object] = {
        "file": "a.mp4", "width": PLAN.settings.width, "height": PLAN.settings.height,
        "frame_rate": PLAN.settings.frame_rate, "seconds": 4.0, "codec": "h264", "bits": PLAN.settings.bit_depth,
        "bit_rate_mb_s": PLAN.settings.bit_rate_mb_s, "frames_measured": 100,
    }  # fmt: skip
    return ClipMeasures.model_validate({**said, **more})


def test_what_was_filmed_as_planned_differs_in_nothing() -> None:
    clip = filmed(
        motion=MotionMeasure(shutter_share=PLAN.settings.frame_rate / 50 * 1.1),
        noise=NoiseMeasure(snr_grey=PLAN.exposure.snr * 1.5),
        flicker=FlickerMeasure(depth=0.004),
    )
    found = {entry.item: entry for entry in against(clip, PLAN.settings, PLAN.exposure, LIMITS)}
    assert set(found) == {"width", "height", "frame_rate", "shutter_s", "bit_rate_mb_s", "snr", "flicker"}
    assert not any(entry.differs for entry in found.values())


@pytest.mark.parametrize(
    ("more", "item"),
    [
        ({"width": 1280}, "width"),
        ({"frame_rate": 29.97}, "frame_rate"),
        ({"motion": MotionMeasure(shutter_share=0.1)}, "shutter_s"),
        ({"bit_rate_mb_s": 12.0}, "bit_rate_mb_s"),
        ({"noise": NoiseMeasure(snr_grey=4.0)}, "snr"),
        ({"flicker": FlickerMeasure(depth=0.1)}, "flicker"),
    ],
)
def test_what_was_set_otherwise_is_told(more: dict[str, object], item: str) -> None:
    found = against(filmed(**more), PLAN.settings, PLAN.exposure, LIMITS)
    assert [entry.item for entry in found if entry.differs] == [item]


def test_what_a_clip_does_not_tell_is_left_out() -> None:
    smoothed = filmed(
        frame_rate=None,
        bit_rate_mb_s=None,
        noise=NoiseMeasure(snr_grey=4.0),
        doubts=(Doubt(field="noise.snr_grey", why="thin"),),
    )
    assert {entry.item for entry in against(smoothed, PLAN.settings, PLAN.exposure, LIMITS)} == {
        "width",
        "height",
        "flicker",
    } - {"flicker" if smoothed.flicker.depth is None else ""}
