"""Notes: every step against what it follows from."""

from __future__ import annotations

from math import pi, sqrt
from typing import Any

import pytest

from steady_tide import library
from steady_tide.core.edit.notes import ClipNote, EditShot, notes_of, whole_correction
from steady_tide.core.edit.phone import bars_of, phone_edit
from steady_tide.core.story.sketch import crop_of
from steady_tide.words.edits import edit_lines, edit_text, speed_words
from tests.edits import clip_measures, edit_shot, edit_take

KNOWN = library.knowledge()
LIMITS = KNOWN.limits


def note(shot: EditShot) -> ClipNote:
    return notes_of([shot], KNOWN).clips[0]


def measured(shot: dict[str, Any] | None = None, **measures: Any) -> ClipNote:
    return note(edit_shot(takes=(edit_take(measures=clip_measures(**measures)),), **(shot or {})))


def test_kept_takes_have_notes_else_those_that_may_be_else_the_plan() -> None:
    keep, maybe, no = edit_take("k"), edit_take("m", "maybe"), edit_take("n", "no")
    assert [one.take for one in notes_of([edit_shot(takes=(no, maybe, keep))], KNOWN).clips] == ["k"]
    assert [one.take for one in notes_of([edit_shot(takes=(no, maybe))], KNOWN).clips] == ["m"]
    assert [one.take for one in notes_of([edit_shot(takes=(no,))], KNOWN).clips] == [None]


def test_clips_that_share_their_settings_are_corrected_alike() -> None:
    casts = [
        {"red_stops": 0.3, "blue_stops": -0.3},
        {"red_stops": 0.34, "blue_stops": -0.3},
        {"red_stops": 0.9, "blue_stops": -0.9},
    ]
    takes = tuple(edit_take(f"t{n}", number=n, measures=clip_measures(colour=cast)) for n, cast in enumerate(casts))
    found = notes_of([edit_shot(takes=takes), edit_shot("2", pins={"profile": "log"})], KNOWN)
    assert [group.letter for group in found.groups] == ["A", "B"]
    assert (found.groups[0].clips, found.groups[0].measured) == (3, 3)
    mine = [one for one in found.clips if one.group == "A"]
    assert len({one.correction for one in mine}) == 1
    assert [one.rest is not None for one in mine] == [False, False, True], "one is far off its group"
    off = mine[2]
    assert off.rest is not None
    assert whole_correction(off).mired == pytest.approx(off.correction.mired + off.rest.mired)


def test_a_slowed_clip_says_its_per_cent_and_which_frames_are_shown_again() -> None:
    slowed = note(edit_shot(delivery={"slow_factor": 2.0}))
    assert slowed.speed.percent == 50.0
    assert slowed.speed.even
    uneven = note(edit_shot(delivery={"slow_factor": 3.0}, pins={"frame_rate": 60}))
    assert not uneven.speed.even
    assert 0 in uneven.speed.steps
    assert "are shown again" in speed_words(uneven.speed)
    plain = note(edit_shot())
    assert (plain.speed.percent, plain.speed.steps) == (100.0, (1,))


def test_noise_is_taken_out_as_far_as_it_is_short() -> None:
    clean = measured(noise={"snr_grey": 400.0})
    assert clean.denoise is None
    shot = edit_shot()
    assert shot.plan is not None
    limit, scale = shot.plan.exposure.snr_limit, 3840 / shot.plan.delivered_px
    short = measured(noise={"snr_grey": limit / 1.5 / scale})
    assert short.denoise is not None
    assert (short.denoise.frames, short.denoise.radius_px) == (3, 0.0)
    assert short.denoise.short == pytest.approx(1.5)
    bad = measured(noise={"snr_grey": limit / 4.0 / scale})
    assert bad.denoise is not None
    assert bad.denoise.frames == 5
    assert bad.denoise.radius_px == pytest.approx(
        4.0 / sqrt(5) / sqrt(pi) * shot.plan.settings.width / shot.plan.delivered_px
    )


def test_edges_say_how_much_is_sharpened() -> None:
    assert measured(sharpness={"edge_px": 1.5}).sharpen is None, "sharp already"
    assert measured(sharpness={"edge_px": 9.0}).sharpen is None, "out of focus"
    found = measured({"pins": {"sharpness": "low"}}, sharpness={"edge_px": 4.0}).sharpen
    assert found is not None
    assert (found.radius_px, found.amount) == (2.0, 0.5)
    shot = edit_shot(takes=(edit_take(measures=clip_measures(sharpness={"edge_px": 4.0})),))
    assert shot.plan is not None
    high = shot.plan.model_copy(update={"settings": shot.plan.settings.model_copy(update={"sharpness": "high"})})
    done = note(EditShot(**{**vars(shot), "plan": high}))
    assert done.sharpen is None, "the camera did it already, and it cannot be undone"


def test_steady_afterwards_where_it_shakes_or_was_planned() -> None:
    assert measured(motion={"shake_px": 1.0}).steady_share is None
    shaken = measured(motion={"shake_px": 12.0, "shake_deg_s": 5.0})
    assert shaken.steady_share is not None
    assert 0.0 < shaken.steady_share <= 0.5
    planned = note(edit_shot(delivery={"stabilise_later": True}, camera_move={"mount": "walking"}))
    assert planned.steady_share is not None
    assert note(edit_shot(camera_move={"mount": "walking"})).steady_share is None


def test_cuts_of_other_shapes_are_pixels_of_the_recorded_frame() -> None:
    found = note(edit_shot(delivery={"reframe": ["9:16", "1:1"]}, pins={"frame": "3840x2880"}))
    main, upright, square = found.windows
    assert (main.shape, main.width, main.height, main.top) == ("16:9", 3840, 2160, 360)
    assert (upright.shape, upright.width, upright.height) == ("9:16", round(2160 * 9 / 16), 2160)
    assert (square.width, square.height) == (2160, 2160)
    assert abs(upright.left + upright.width / 2 - 1920) <= 1
    shot = edit_shot(delivery={"reframe": ["9:16"]}, pins={"frame": "3840x2880"})
    aside = EditShot(**{**vars(shot), "crops": (crop_of(16 / 9, "9:16", (0.7, 0.2, 0.1, 0.5)),)})
    assert note(aside).windows[1].left == pytest.approx((0.75 - (9 / 16) ** 2 / 2) * 3840, abs=1.0), (
        "it follows the subject"
    )


def test_sound_is_brought_to_its_loudness_with_peaks_held() -> None:
    found = measured(sound={"loudness_lufs": -23.0, "peak_dbfs": -6.0, "wind_share": 0.0}).sound
    assert found is not None
    assert found.gain_db == pytest.approx(9.0)
    assert found.limited_db == pytest.approx(-6.0 + 9.0 + 1.0)
    assert found.cut_hz is None
    windy = measured(sound={"loudness_lufs": -10.0, "peak_dbfs": -6.0, "wind_share": 0.9}).sound
    assert windy is not None
    assert (windy.gain_db, windy.limited_db, windy.cut_hz) == (-4.0, 0.0, 120.0)
    silent = measured({"sound": {"wanted": False}}, sound={"loudness_lufs": -23.0})
    assert silent.sound is None


def test_what_cannot_be_mended_is_told() -> None:
    silent = {"sound": {"wanted": False}}
    found = measured(silent, exposure={"white_share": 0.3, "worst_white_share": 0.5, "worst_white_at_s": 4.0})
    assert [one.code for one in found.lost] == ["blown"]
    text = "\n".join(
        edit_lines(
            edit_text(
                notes_of([edit_shot(takes=(edit_take(measures=clip_measures(exposure={"white_share": 0.3})),))], KNOWN),
                {},
                None,
                None,
            )
        )
    )
    assert "cannot be mended: 30" in text
    assert measured(silent, exposure={"white_share": 0.0}).lost == ()


def test_a_leaning_horizon_is_turned_back() -> None:
    assert measured(horizon={"tilt_deg": 3.0}).turn_deg == -3.0
    assert measured(horizon={"tilt_deg": 0.05}).turn_deg is None


def test_shots_that_no_camera_films_have_no_notes_but_are_named() -> None:
    shot = edit_shot()
    found = notes_of([EditShot("2", 2, "Never", shot.brief, None)], KNOWN)
    assert (found.clips, found.without) == ((), ("Never",))


@pytest.mark.parametrize(
    ("shape", "within", "picture", "bar", "beside"),
    [
        ("16:9", "9:16", (1080, 608), 656, False),
        ("9:16", "16:9", (608, 1080), 656, True),
        ("16:9", "1:1", (1080, 608), 236, False),
        ("21:9", "16:9", (1920, 822), 129, False),
        ("16:9", "16:9", (1920, 1080), 0, False),
    ],
)  # fmt: skip
def test_bars_are_right_to_the_pixel(shape: str, within: str, picture: tuple[int, int], bar: int, beside: bool) -> None:
    found = bars_of(shape, within)
    assert (found.picture, found.bar, found.beside) == (picture, bar, beside)
    side = 0 if beside else 1
    assert found.picture[side] + 2 * found.bar == found.frame[side]


def test_a_phone_is_told_what_it_takes_easily() -> None:
    shot = edit_shot(delivery={"edit_device": "phone"})
    assert shot.plan is not None
    found = phone_edit(shot.brief, shot.plan, library.demo_kit().camera("yawl-12"), ("16:9", "9:16"))
    assert found.frame == (1920, 1080)
    assert [bars.within for bars in found.bars] == ["9:16"]
    heavy = edit_shot(pins={"codec": "mezzanine"})
    assert heavy.plan is not None
    asked = phone_edit(heavy.brief, heavy.plan, library.demo_kit().camera("yawl-12"), ("16:9",))
    sheet = library.demo_kit().camera("yawl-12")
    assert sheet is not None
    assert asked.codec in {one.id for one in sheet.codecs if one.phone_edits}
