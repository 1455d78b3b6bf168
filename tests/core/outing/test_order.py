"""The order of the day: the best of all orders on small days, feasible on large ones, and honest when there is none."""

from __future__ import annotations

import random
import threading
import time
from dataclasses import replace
from datetime import UTC, datetime
from itertools import permutations

import pytest

from steady_tide import library
from steady_tide.core.outing.day_task import DayPrices, DayTask, ShotTask, Span, given_up_stops
from steady_tide.core.outing.order import DayOrder, Progress, Stopping, order_of
from steady_tide.words.orders import clash_words

BEGIN = datetime(2026, 10, 11, 4, tzinfo=UTC)
PRICES = DayPrices.from_limits(library.knowledge().limits)
USUAL_MINUTES = {"usual_way_min": 10, "camera_change_min": 5, "glass_change_min": 2, "housing_min": 12}
WAYS = {("quay", "mill"): 8, ("quay", "flats"): 15, ("mill", "flats"): 20}


def task(*shots: ShotTask, length_min: int = 240, **rules: int) -> DayTask:
    return DayTask(BEGIN, length_min, shots, PRICES, WAYS, **{**USUAL_MINUTES, **rules})


def order(day: DayTask, seconds: float = 10) -> DayOrder:
    return order_of(day, time.monotonic, seconds)


def starts_of(day: DayTask, found: DayOrder) -> dict[str, int]:
    return {shot.key: round((shot.starts_at - day.begin).total_seconds() / 60) for shot in found.shots}


def assert_kept(day: DayTask, found: DayOrder) -> None:
    """Every rule of the day, checked from the places alone."""
    at = starts_of(day, found)
    shots = sorted(day.shots, key=lambda shot: at[shot.key])
    free, before = 0, None
    camera_free: dict[str, int] = {}
    last: dict[str, ShotTask] = {}
    for shot in shots:
        way = day.between_min(before, shot) if before else 0
        change = day.change_min(last[shot.camera], shot) if shot.camera in last else 0
        ready = at[shot.key] - shot.setup_min - change
        assert ready >= free + way, shot.key
        assert ready >= camera_free.get(shot.camera, 0), shot.key
        assert at[shot.key] + shot.busy_min <= day.length_min
        if shot.fixed:
            assert at[shot.key] == shot.wished_min
        if shot.must:
            assert shot.lies_well(at[shot.key]), shot.key
        if not shot.fixed:
            assert shot.has_its_light(at[shot.key]), shot.key
        free = at[shot.key] + shot.busy_min
        camera_free[shot.camera] = at[shot.key] + shot.length_min
        before = last[shot.camera] = shot
    assert found.given_up_stops == pytest.approx(given_up_stops(day, at))


def by_trying(day: DayTask, grid: int) -> float:
    """The least given up over all sequences with every start on a grid; musts included."""
    best = float("inf")
    for row in permutations(day.shots):
        best = min(best, _least(day, row, {}, 0, None, {}, {}, grid))
    return best


def _least(day, row, at, free, before, camera_free, last, grid) -> float:  # type: ignore[no-untyped-def]
    if not row:
        return given_up_stops(day, at)
    shot, rest = row[0], row[1:]
    way = day.between_min(before, shot) if before else 0
    change = day.change_min(last[shot.camera], shot) if shot.camera in last else 0
    ready = max(free + way, camera_free.get(shot.camera, 0)) + change + shot.setup_min
    best = float("inf")
    for minute in range(-(-ready // grid) * grid, day.length_min - shot.busy_min + 1, grid):
        if (shot.fixed and minute != shot.wished_min) or (shot.must and not shot.lies_well(minute)):
            continue
        if not shot.fixed and not shot.has_its_light(minute):
            continue
        best = min(
            best,
            _least(
                day, rest, {**at, shot.key: minute}, minute + shot.busy_min, shot,
                {**camera_free, shot.camera: minute + shot.length_min}, {**last, shot.camera: shot}, grid,
            ),
        )  # fmt: skip
    return best


def random_day(seed: int) -> DayTask:
    draw = random.Random(seed)
    shots = []
    for n in range(3):
        window = draw.randrange(0, 150, 10)
        shots.append(
            ShotTask(
                key=str(n),
                title=f"shot {n}",
                camera=draw.choice(["limpet", "yawl"]),
                length_min=draw.choice([10, 20, 30]),
                setup_min=draw.choice([0, 10]),
                attended=draw.random() < 0.8,
                spot=draw.choice(["", "quay", "mill"]),
                glass=draw.choice(["", "nd8"]),
                housing=draw.choice(["", "", "case"]),
                wished_min=draw.choice([None, draw.randrange(0, 200, 10)]),
                windows=(Span(window, window + 60),) if draw.random() < 0.5 else (),
                must=draw.random() < 0.5,
                wish_stops=draw.choice([0.2, 1.0]),
                light_stops=((0, 0.0), (101, 0.5)) if draw.random() < 0.4 else (),
                hours=(
                    (Span(0, 60), Span(first := draw.randrange(80, 160, 10), first + 70))
                    if draw.random() < 0.4
                    else None
                ),
            )
        )
    rules = {"camera_change_min": 10, "glass_change_min": 10, "housing_min": 20, "usual_way_min": 10}
    return DayTask(BEGIN, 240, tuple(shots), PRICES, {("quay", "mill"): 20}, **{**USUAL_MINUTES, **rules})


@pytest.mark.parametrize("seed", range(10))
def test_on_a_small_day_no_order_gives_up_less(seed: int) -> None:
    # Everything begins and ends on tens, so a grid of ten minutes holds an order as good as any.
    day = random_day(seed)
    least = by_trying(day, 10)
    found = order(day)
    if least == float("inf"):
        assert not found.feasible
        assert found.clash
    else:
        assert found.feasible
        assert found.proven
        assert_kept(day, found)
        assert found.given_up_stops == pytest.approx(least, abs=1e-6)
        assert found.at_least_stops == pytest.approx(least, abs=1e-6)


def shot(key: str, **fields: object) -> ShotTask:
    usual: dict[str, object] = {"title": f"shot {key}", "camera": "limpet", "length_min": 30, "setup_min": 5}
    return ShotTask(key=key, **{**usual, **fields})  # type: ignore[arg-type]


def test_a_day_that_cannot_be_had_names_the_wishes_that_clash_and_only_those() -> None:
    slack = (Span(100, 140, "slack water", typed=True),)
    day = task(
        shot("a", windows=slack),
        shot("b", windows=slack),
        shot("c", wished_min=20),
        shot("d", fixed=True, wished_min=10),
    )
    found = order(day)
    assert not found.feasible
    assert found.proven
    assert len(found.clash) == 2
    assert all("slack water" in clash_words(wish) for wish in found.clash)
    loosened = task(
        shot("a", windows=slack),
        shot("b", windows=slack, must=False, wish_stops=0.7),
        shot("c", wished_min=20),
        shot("d", fixed=True, wished_min=60),
    )
    again = order(loosened)
    assert again.feasible
    assert_kept(loosened, again)
    assert [place.key for place in again.shots if place.missed_window] == ["b"]


def test_a_shot_is_placed_in_its_light_and_what_has_none_is_named_beside_the_others() -> None:
    sun, night = (Span(60, 160),), (Span(0, 20), Span(200, 240))
    day = task(
        shot("snorkel", hours=sun, light_name="in full sun", wished_min=5),
        shot("stars", hours=night, light_name="under the stars", length_min=120, wished_min=40),
        shot("moon", hours=(), light_name="under a full moon", wished_min=60),
        shot("walk", wished_min=60, camera="yawl"),
    )
    found = order(day)
    assert found.feasible
    assert_kept(replace(day, shots=tuple(s for s in day.shots if s.key in ("snorkel", "walk"))), found)
    assert [clash_words(lost) for lost in found.left_out] == [
        "\u201cshot stars\u201d takes 120 min under the stars, and this day has 40 of such light at most",
        "\u201cshot moon\u201d is filmed under a full moon, and this day has no such light",
    ]
    # Light and a window exclude each other: both are told, with the hours.
    slack = (Span(0, 50, "slack water", typed=True),)
    clashing = order(
        task(shot("snorkel", hours=sun, light_name="in full sun", windows=slack), shot("walk", camera="yawl"))
    )
    assert not clashing.feasible
    assert {clash.code for clash in clashing.clash} == {"light", "window"}
    assert any("is filmed in full sun (05:00 to 06:40)" in clash_words(clash) for clash in clashing.clash)
    # A time that the person holds is kept, and it is told that the light is not there.
    held = order(task(shot("snorkel", hours=sun, light_name="in full sun", fixed=True, wished_min=10)))
    assert held.feasible
    assert held.shots[0].missed_light


def test_a_window_shorter_than_its_shot_is_told_at_once() -> None:
    found = order(task(shot("a", windows=(Span(10, 30, "slack water", typed=True),))))
    assert not found.feasible
    assert "takes 30 min; within slack water there are 20" in clash_words(found.clash[0])


def test_a_day_too_short_for_its_shots_says_so() -> None:
    found = order(task(*(shot(str(n)) for n in range(6)), length_min=100))
    assert not found.feasible
    assert "the day has 100" in clash_words(found.clash[0])


def test_what_runs_by_itself_leaves_the_crew_free_but_not_the_camera() -> None:
    stars = shot("stars", length_min=200, attended=False, wished_min=5)
    day = task(stars, shot("b", camera="yawl", wished_min=60), shot("c", wished_min=60), length_min=300)
    found = order(day)
    assert_kept(day, found)
    at = starts_of(day, found)
    assert at["stars"] < at["b"] < at["stars"] + 200, "another camera films meanwhile"
    assert not at["stars"] <= at["c"] < at["stars"] + 200, "the same camera cannot"


def test_the_search_tells_of_every_better_order_and_can_be_ended() -> None:
    day = large_day(20)
    told: list[Progress] = []
    stopping = Stopping()

    def report(progress: Progress) -> None:
        told.append(progress)
        if len(told) == 2:
            stopping.stop()

    began = time.monotonic()
    found = order_of(day, time.monotonic, 30, report, stopping)
    assert time.monotonic() - began < 20
    assert found.cancelled
    assert found.feasible
    assert_kept(day, found)
    given = [progress.given_up_stops for progress in told]
    assert given == sorted(given, reverse=True)  # type: ignore[type-var]


def large_day(count: int) -> DayTask:
    draw = random.Random(count)
    pace = 960 / count
    shots = []
    for n in range(count):
        wished = min(1000, max(10, round(30 + n * pace + draw.gauss(0, 1.2 * pace))))
        start = max(0, wished - round(pace * 2))
        shots.append(
            ShotTask(
                key=str(n),
                title=f"shot {n}",
                camera=f"camera {draw.randrange(6)}",
                length_min=max(3, round(pace * draw.choice([0.2, 0.3, 0.4]))),
                setup_min=round(pace * 0.1),
                spot=["", "quay", "mill", "flats"][int(4 * n / count)],
                glass=draw.choice(["", "nd8", "nd32"]),
                housing=draw.choice(["", "", "", "case"]),
                wished_min=wished,
                windows=(Span(start, min(1080, start + round(pace * 6))),) if draw.random() < 0.3 else (),
                must=draw.random() < 0.5,
            )
        )
    rules = {"usual_way_min": 8, "camera_change_min": 2, "housing_min": 6}
    return DayTask(BEGIN, 1080, tuple(shots), PRICES, WAYS, **{**USUAL_MINUTES, **rules})


def test_forty_shots_and_six_cameras_find_an_order_in_time() -> None:
    day = large_day(40)
    began = time.monotonic()
    found = order(day, 4)
    assert time.monotonic() - began < 20, "bench/outside.py measures it on a quiet machine"
    assert found.feasible
    assert_kept(day, found)
    assert found.at_least_stops is not None
    assert found.given_up_stops is not None
    assert found.at_least_stops <= found.given_up_stops


@pytest.mark.parametrize("after_s", [0.0, 0.02, 0.3])
def test_a_search_that_is_left_ends_at_once_and_leaves_nothing_behind(after_s: float) -> None:
    """Before its first step, in the first order by moves, or within the solver."""
    day, stopping, before = large_day(30), Stopping(), threading.active_count()
    threading.Timer(after_s, stopping.stop).start()
    began = time.monotonic()
    found = order_of(day, time.monotonic, 30, stopping=stopping)
    assert time.monotonic() - began < 5
    assert found.cancelled
    deadline = time.monotonic() + 5
    while threading.active_count() > before and time.monotonic() < deadline:
        time.sleep(0.05)
    cpu = time.process_time()
    time.sleep(0.5)
    assert time.process_time() - cpu < 0.3, "nothing goes on"
