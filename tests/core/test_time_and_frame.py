"""Interval films, slow motion, depth of field: check values, brute force, and the way back."""

from __future__ import annotations

from itertools import pairwise
from math import log2

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from steady_tide import library
from steady_tide.core.physics.optics import depth_of_field_m, distance_for_width_m, hyperfocal_m, width_at_m
from steady_tide.core.planning.framing import framing_of
from steady_tide.core.planning.interval_film import course_of, third_of_film
from steady_tide.core.planning.outlook import outlook_of
from steady_tide.core.planning.planner import plan
from steady_tide.core.planning.slow_motion import cadence, slow_rates
from steady_tide.core.quantities.errors import BadInput
from steady_tide.core.quantities.stops import scene_ev100
from steady_tide.words.outlook import cadence_words
from tests.briefs import NOON, brief, decided, decided_on_limpet, on_limpet


def test_check_values_of_interval_films() -> None:
    film = third_of_film(25, duration_s=8 * 3600 + 9 * 60, interval_s=30)
    assert film.frames == 979
    assert film.screen_s == pytest.approx(39.16)


@given(
    interval=st.floats(0.5, 120), frames=st.integers(2, 20_000), fps=st.sampled_from([24.0, 25.0, 29.97, 30.0, 60.0])
)
def test_two_of_a_film_give_the_third_and_back(interval: float, frames: int, fps: float) -> None:
    screen = frames / fps
    by_screen = third_of_film(fps, interval_s=interval, screen_time_s=screen)
    assert by_screen.frames == frames
    by_duration = third_of_film(fps, duration_s=by_screen.duration_s, screen_time_s=screen)
    assert by_duration.interval_s == pytest.approx(interval)
    again = third_of_film(fps, duration_s=by_screen.duration_s, interval_s=interval)
    assert abs(again.frames - frames) <= 1, "a rounding away from a whole number of intervals"


@pytest.mark.parametrize("given_", [{}, {"duration_s": 10}, {"duration_s": 10, "interval_s": 1, "screen_time_s": 1}])
def test_a_film_needs_just_two(given_: dict[str, float]) -> None:
    with pytest.raises(BadInput, match="exactly one"):
        third_of_film(25, **given_)


def test_a_film_of_one_frame_is_refused() -> None:
    with pytest.raises(BadInput, match="fewer than two"):
        third_of_film(25, interval_s=10, screen_time_s=0.02)


def shown_by_brute_force(capture: float, timeline: float, slow: float, frames: int) -> list[int]:
    """Which captured frame stands on the screen at each frame of the timeline."""
    return [int(np.floor(n / timeline / slow * capture + 1e-9)) for n in range(frames + 1)]


@given(
    capture=st.sampled_from([24, 25, 30, 50, 60, 100, 120, 200, 240, 400]),
    timeline=st.sampled_from([24, 25, 30, 50, 60]),
    slow=st.sampled_from([1, 2, 3, 4, 8]),
)
def test_cadence_is_what_a_player_would_show(capture: int, timeline: int, slow: int) -> None:
    found = cadence(capture, timeline, slow)
    shown = shown_by_brute_force(capture, timeline, slow, len(found.steps))
    assert list(found.steps) == [b - a for a, b in pairwise(shown)]
    assert found.even == (len(set(found.steps)) == 1 and found.steps[0] >= 1)


def test_cadence_says_what_repeats() -> None:
    assert cadence_words(cadence(100, 25, 4)) == "every frame, evenly"
    assert cadence_words(cadence(120, 24)) == "every 5th frame, evenly"
    assert cadence_words(cadence(25, 25, 2)) == "every frame twice: it moves in jerks"
    assert cadence_words(cadence(60, 25)) == "uneven steps of 2 and 3 frames (2 2 3 2 3): it judders"
    assert cadence_words(cadence(30, 25, 2)).startswith("2 of 5 shown frames repeat")
    assert cadence(59.94, 29.97).even


def test_half_a_second_at_four_times_lasts_two_and_costs_two_stops() -> None:
    by = {entry.capture_fps: entry for entry in slow_rates([240, 25, 100, 24], 25, 0.5)}
    assert list(by) == [25, 100, 240], "slower than the timeline is no slow motion"
    assert by[100].event_on_screen_s == pytest.approx(2.0)
    assert by[100].light_lost_stops == pytest.approx(2.0)
    assert by[240].light_lost_stops == pytest.approx(log2(240 / 25))
    assert not by[240].cadence.even


def test_check_values_of_depth_of_field() -> None:
    assert hyperfocal_m(3, 2.8, 0.0032) == pytest.approx(1.007, abs=0.001)
    near, far = depth_of_field_m(9, 1.8, 0.004, 0.5)
    assert (near, far) == (pytest.approx(0.479, abs=0.001), pytest.approx(0.523, abs=0.001))


@given(focal=st.floats(2, 50), f=st.floats(1.4, 16), circle=st.floats(0.001, 0.03), focus=st.floats(0.2, 500))
def test_the_sharp_range_holds_its_focus_and_the_hyperfocal_rule(
    focal: float, f: float, circle: float, focus: float
) -> None:
    near, far = depth_of_field_m(focal, f, circle, focus)
    assert 0 < near <= focus * (1 + 1e-9)
    assert far >= focus * (1 - 1e-9)
    hyper = hyperfocal_m(focal, f, circle)
    at_hyper = depth_of_field_m(focal, f, circle, hyper)
    assert at_hyper[1] == np.inf
    assert at_hyper[0] == pytest.approx(hyper / 2, rel=0.02)
    if np.isfinite(far):  # the blur at both ends is the circle, by the thin lens
        for distance in (near, far):
            spread = focal / f * abs(1 - focus / distance) * focal / (1000 * focus - focal)
            assert spread == pytest.approx(circle, rel=1e-6)


def test_a_frame_is_as_wide_as_it_shows() -> None:
    assert float(width_at_m(10, 90)) == pytest.approx(20)
    assert float(distance_for_width_m(20, 90)) == pytest.approx(10)


def test_the_jar_from_above() -> None:
    jar = brief(
        scenario="product",
        light={"kind": "lamps", "lamps": [{"lux_at_1m": 905, "distance_m": 1, "kelvin": 5500}]},
        subject={"distance_m": [0.9, 1.2], "size_m": 0.25},
        camera_move={"mount": "tripod"},
        delivery={"graded": True},
    )
    kit = library.demo_kit()
    made = plan(jar, kit, library.knowledge())
    sheet = next(camera for camera in kit.cameras if camera.id == made.camera.id)
    found = framing_of(jar, made, sheet)
    assert found.focus == "locked"
    assert found.focus_m is not None
    assert found.sharp_m[1] is not None
    assert found.sharp_m[0] < found.focus_m < found.sharp_m[1]
    assert found.fills == pytest.approx(0.25 / found.width_m[0])
    assert found.closest_useful_m == pytest.approx(float(distance_for_width_m(0.25, found.field_deg)))


def test_a_fixed_lens_is_sharp_from_its_closest_distance_on() -> None:
    quay = brief(camera_move={"mount": "walking"})
    made = on_limpet(camera_move={"mount": "walking"})
    sheet = next(camera for camera in library.demo_kit().cameras if camera.id == "limpet-7")
    found = framing_of(quay, made, sheet)
    assert found.focus_m is None
    assert found.sharp_m == (sheet.lenses[0].closest_m, None)


def test_the_course_of_an_exposure_holds_the_light_until_it_cannot() -> None:
    evs = list(np.linspace(15, -8, 116))
    course = course_of(
        list(range(len(evs))), evs, f_number=2.8, nd_stops=0, compensation_stops=-0.5,
        shortest_s=1 / 8000, longest_s=20, iso=(100, 1600),
    )  # fmt: skip
    for point in course:
        held = scene_ev100(2.8, point.shutter_s, point.iso, 0, -0.5)
        error = point.ev100 - held
        if point.over_stops == point.under_stops == 0:
            assert error == pytest.approx(0, abs=0.02)
        else:
            assert error == pytest.approx(point.over_stops - point.under_stops, abs=0.02)
    shutters = [point.shutter_s for point in course]
    assert shutters == sorted(shutters)
    assert all(point.iso == 100 for point in course if point.shutter_s < 20), "gain rises only when time is used up"
    assert course[-1].under_stops > 0


def test_a_film_into_the_night_has_a_course_and_a_fixed_place_has_none() -> None:
    evening = {**NOON, "start": "2026-10-11T16:30:00Z", "end": "2026-10-11T16:40:00Z", "cloud": "clear"}
    fields = {"scenario": "lapse", "camera_move": {"mount": "tripod"}, "take": {"length_s": 3 * 3600, "count": 1}}
    kit, known = library.demo_kit(), library.knowledge()
    sheet = next(camera for camera in kit.cameras if camera.id == "limpet-7")
    dusk = brief(light=evening, **fields)
    ahead = outlook_of(dusk, decided_on_limpet(light=evening, **fields), sheet, known)
    assert ahead.lapse is not None
    assert ahead.slow is None
    course = ahead.lapse.course
    assert course[0].ev100 > 10
    assert course[-1].ev100 < 0
    assert course[-1].seconds == pytest.approx(3 * 3600, abs=200)
    stars = {**fields, "light": {"kind": "place", "place": "starlight"}}
    lapse = outlook_of(brief(**stars), decided_on_limpet(**stars), sheet, known).lapse
    assert lapse is not None
    assert lapse.course == ()
    assert lapse.frames == int(3 * 3600 // lapse.interval_s) + 1


def test_a_film_that_outlasts_the_light_that_was_given_is_warned_about() -> None:
    fields = {"scenario": "lapse", "camera_move": {"mount": "tripod"}, "take": {"length_s": 3 * 3600, "count": 1}}
    sky = {**NOON, "start": "2026-10-11T16:30:00Z"}
    short = on_limpet(light={**sky, "end": "2026-10-11T16:40:00Z"}, **fields)
    (warned,) = [warning for warning in short.warnings if warning.code == "light_span"]
    assert "10\u202fmin" in warned.text
    whole = on_limpet(light={**sky, "end": "2026-10-11T19:30:00Z"}, **fields)
    assert "light_span" not in {warning.code for warning in whole.warnings}
    assert whole.exposure.ev100[0] < short.exposure.ev100[0] - 5


def test_automatic_exposure_never_lasts_longer_than_the_camera_can() -> None:
    """Five minutes between frames, on a camera whose longest exposure is twenty-five seconds."""
    kit, known = library.demo_kit(), library.knowledge()
    sheet = next(camera for camera in kit.cameras if camera.id == "limpet-7")
    assert sheet.shutter.longest_automatic_s == 25
    fields = {
        "scenario": "lapse", "camera_move": {"mount": "tripod"}, "take": {"length_s": 6 * 3600, "count": 1},
        "light": {**NOON, "start": "2026-12-08T20:00:00Z", "end": "2026-12-09T02:00:00Z", "cloud": "clear"},
        "pins": {"shutter_s": "auto", "interval_s": 300},
    }  # fmt: skip
    made = decided_on_limpet(**fields)
    assert max(made.exposure.shutter_used_s) <= 25
    ahead = outlook_of(brief(**fields), made, sheet, known).lapse
    assert ahead is not None
    assert max(point.shutter_s for point in ahead.course) == pytest.approx(25)
    assert ahead.course[0].ev100 == pytest.approx(sum(made.exposure.ev100) / 2.0, abs=1.1), "the night of the account"
    slower = sheet.model_copy(update={"shutter": sheet.shutter.model_copy(update={"auto_slowest_s": 4.0})})
    own = plan(brief(**fields), kit.model_copy(update={"cameras": (slower,)}), known)
    assert max(own.exposure.shutter_used_s) <= 4


def test_a_camera_that_is_never_set_by_hand_tells_of_a_second_at_most() -> None:
    sheet = next(camera for camera in library.demo_kit().cameras if camera.id == "limpet-7")
    shutter = sheet.shutter.model_copy(update={"fixed_s": ()})
    assert shutter.longest_automatic_s == 1


@pytest.mark.parametrize("width", [1920, 3840])
@pytest.mark.parametrize("f_number", [2.8, 5.6])
def test_hyperfocal_follows_the_aperture_and_the_delivery(f_number: float, width: int) -> None:
    """By hand: opening over the angle of two delivered pixels."""
    fields = {
        "camera_move": {"mount": "drone_gimbal"}, "delivery": {"width": width, "height": width * 9 // 16},
        "subject": {"distance_m": [8, 60]}, "pins": {"focus": "hyperfocal", "f_number": f_number},
        "kit": {"cameras": ["sandpiper-2"]},
    }  # fmt: skip
    made = decided(**fields)
    kit = library.demo_kit()
    sheet = next(camera for camera in kit.cameras if camera.id == "sandpiper-2")
    framing = framing_of(brief(**fields), made, sheet)
    assert made.settings.focus_m == pytest.approx(framing.hyperfocal_m, rel=0.01)
    spread = np.radians(2.0 * made.exposure.field_deg / width)
    by_hand_m = framing.focal_mm / f_number / spread / 1000.0
    assert made.settings.focus_m == pytest.approx(by_hand_m, rel=0.2), "a straight field is finer in its middle"


def test_what_is_far_is_focused_far() -> None:
    """A flight over land: of ways to focus that cost the same the farther is sharper, and the one to take."""
    for distance_m in ((40, 300), (25, 1000), (100, 5000)):
        made = decided(
            camera_move={"mount": "drone_gimbal", "travel_m_s": 6}, subject={"distance_m": distance_m},
            kit={"cameras": ["sandpiper-2"]},
        )  # fmt: skip
        assert made.settings.focus in ("infinity", "locked"), distance_m
        assert made.settings.focus_m is None or made.settings.focus_m >= distance_m[0]
