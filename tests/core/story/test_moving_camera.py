"""Movements: speeds, what they pass, and what works."""

from __future__ import annotations

from math import radians

import pytest
from hypothesis import given
from hypothesis import strategies as st

from steady_tide import library
from steady_tide.core.brief.brief import Brief
from steady_tide.core.shoot.film import Film
from steady_tide.core.story.moving_camera import Move, crossing_wanted_s, move_of
from tests.briefs import brief
from tests.films import film, framed

LIMITS = library.knowledge().limits
FIELDS = (72.0, 44.0)


def moved(
    kind: str,
    given: Brief | None = None,
    of: Film | None = None,
    units: int = 4,
    carried: bool = False,
    **movement: float,
) -> Move:
    told = of or film()
    shot = framed("1", of=told, given=given, units=units, movement={"kind": kind, **movement})
    found = move_of(told, shot.framing, shot.brief, FIELDS, carried, LIMITS)
    assert found is not None
    return found


def test_a_pan_crosses_the_frame_in_seven_seconds_at_a_cinemas_rate() -> None:
    assert crossing_wanted_s(film(fps=24), LIMITS) == 7.0
    found = moved("pan", of=film(fps=24), angle_deg=5.0 * FIELDS[0] / 7.0)
    assert found.screen_s == 5.0
    assert found.crossing_s == pytest.approx(7.0)
    assert found.verdict == "works"
    assert found.fastest == pytest.approx(FIELDS[0] / 7.0)
    assert moved("pan", of=film(fps=24), angle_deg=60.0).verdict == "too_fast"
    assert moved("pan", of=film(fps=24), angle_deg=0.5).verdict == "too_slow"


def test_slowed_a_faster_pan_works_and_a_tilt_is_judged_by_the_frames_height() -> None:
    told = film(fps=24, slow_factor=2)
    assert moved("pan", of=told, angle_deg=10).fastest == pytest.approx(2.0 * FIELDS[0] / 7.0)
    assert moved("pan", of=told, angle_deg=10).real_s == 2.5
    assert moved("tilt", of=film(fps=24), angle_deg=10).fastest == pytest.approx(FIELDS[1] / 7.0)


def test_a_push_in_is_fastest_seen_at_its_end() -> None:
    given = brief(subject={"distance_m": [4.0, 4.0]})
    found = moved("push_in", given, film(fps=24), path_m=2.0)
    # At 2 m the edge of the frame goes out by half a frame as 2 m are walked.
    assert found.fastest == pytest.approx(2.0 * 2.0 / 7.0)
    assert found.grows == pytest.approx(2.0)
    assert found.speed == pytest.approx(0.4)
    assert moved("pull_back", given, film(fps=24), path_m=4.0).grows == pytest.approx(0.5)


def test_an_arc_turns_the_ground_behind() -> None:
    given = brief(subject={"distance_m": [3.0, 3.0]})
    found = moved("arc", given, film(fps=24), angle_deg=30.0)
    assert found.path == pytest.approx(3.0 * radians(30.0))
    assert found.fastest == pytest.approx(3.0 * radians(FIELDS[0] / 7.0))


def test_what_passes_near_is_what_limits_a_follow() -> None:
    given = brief(subject={"distance_m": [5.0, 5.0]})
    near, far = (moved("follow", given, path_m=5.0, nearest_m=at).fastest for at in (0.5, 5.0))
    assert far == pytest.approx(10.0 * near)
    assert far == pytest.approx(5.0 * radians(FIELDS[0]) * 2.0 * 25.0 / (7.0 * 24.0), rel=1e-6)


def test_a_person_walks_no_faster_than_people_walk() -> None:
    given = brief(subject={"distance_m": [50.0, 50.0]})
    assert moved("push_in", given, carried=True, path_m=2.0).fastest == LIMITS.walk_m_s
    assert moved("push_in", given, path_m=2.0).fastest > LIMITS.walk_m_s


def test_a_film_of_steps_says_how_long_each_is() -> None:
    given = brief(scenario="lapse", take={"length_s": 3600.0, "count": 1})
    found = moved("steps", given, path_m=1.0)
    assert found.step == pytest.approx(1.0 / (125 - 1))
    assert found.real_s == 3600.0


def test_ends_that_are_hard_to_hit_are_filmed_backwards() -> None:
    given = brief(subject={"distance_m": [1.5, 1.5]})
    assert "backwards" in moved("push_in", given, path_m=1.2).hints
    assert "backwards" not in moved("push_in", given, path_m=0.3).hints


def test_what_stands_or_says_no_path_is_no_movement() -> None:
    told = film()
    for movement in (None, {"kind": "push_in"}, {"kind": "pan"}):
        shot = framed("1", of=told, movement=movement)
        assert move_of(told, shot.framing, shot.brief, FIELDS, False, LIMITS) is None


@given(st.sampled_from(["push_in", "pull_back", "reveal", "arc", "follow", "fly_over"]), st.floats(0.1, 30.0))
def test_a_shot_moves_as_its_movement_says(kind: str, path: float) -> None:
    shot = framed("1", units=4, movement={"kind": kind, "path_m": path})
    assert shot.brief.camera_move.travel_m_s == pytest.approx(min(100.0, path / 5.0), rel=1e-3)


def test_a_turning_shot_turns() -> None:
    shot = framed("1", units=4, movement={"kind": "pan", "angle_deg": 20})
    assert shot.brief.camera_move.turn_deg_s == 4.0
