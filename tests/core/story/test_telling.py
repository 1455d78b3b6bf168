"""A film with everything that follows from it, and who films himself."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from math import radians, tan
from typing import Any

import pytest

from steady_tide import library
from steady_tide.core.light.day import local_day
from steady_tide.core.planning.planner import plan
from steady_tide.core.story.oneself import oneself
from steady_tide.core.story.shadow import sun_at, sun_on_framing
from steady_tide.core.story.sketch import View
from steady_tide.core.story.sun_day import sun_of_day
from steady_tide.core.story.telling import FilmFacts, Here, StoryShot, TakeCount, film_facts, view_of
from steady_tide.words.story import duration, film_text, story_lines, sun_text
from tests.films import NOON, film, framed, sky

KINDS, KNOWN = library.framings(), library.knowledge()
HERE = Here(52.06, 1.31)
KIT = library.demo_kit()


def story_shot(
    key: str, takes: TakeCount | None = None, pins: dict[str, Any] | None = None, **framing: Any
) -> StoryShot:
    shot = framed(key, **framing)
    brief = shot.brief.model_copy(update={"light": sky(), "pins": {"camera": "yawl-12", **(pins or {})}})
    made = plan(brief, KIT, KNOWN, schools=False)
    return StoryShot(key, brief, shot.framing, made, KIT.camera("yawl-12"), NOON, 5.0, takes or TakeCount())


def told(*shots: StoryShot, **fields: Any) -> FilmFacts:
    return film_facts("f", film(**fields), shots, HERE, KINDS, KNOWN)


def test_a_film_cuts_when_every_cut_has_a_kept_take() -> None:
    kept, open_one = TakeCount(keep=1), TakeCount(maybe=2, no=1)
    half = told(story_shot("1", kept, units=8), story_shot("2", open_one, units=8), length_s=20)
    assert (half.cuts, half.filmed, half.cuts_now) == (2, 1, False)
    assert [one.state for one in half.framings] == ["kept", "taken"]
    assert [one.facts["key"] for one in half.missing if one.code == "unfilmed"] == ["2"]
    whole = told(story_shot("1", kept, units=8), story_shot("2", kept, units=8))
    assert whole.cuts_now
    assert not told(story_shot("1", kept, units=8)).cuts_now, "half of it is open"


def test_a_beat_that_was_struck_keeps_its_takes_and_is_shown() -> None:
    shot = story_shot("1", TakeCount(keep=2))
    found = told(shot, beats=({"id": "a", "title": "A", "removed": True}, {"id": "b", "title": "B"}))
    assert found.beats[0].takes == 2
    assert [one.key for one in found.framings] == ["1"]
    assert found.cuts == found.strip.units, "but it is not cut in"
    assert "(struck)" in "\n".join(story_lines(film_text(found, KINDS)))


def test_framings_of_a_beat_that_is_gone_are_told_but_not_cut() -> None:
    found = told(story_shot("1", beat="gone"))
    assert [one.key for one in found.framings] == ["1"]
    assert all(cut.key is None for cut in found.strip.cuts)


def test_a_framing_that_no_camera_films_is_told_so() -> None:
    shot = framed("1", heading_deg=20)
    found = film_facts("f", film(), [StoryShot("1", shot.brief, shot.framing, starts_at=NOON)], HERE, KINDS, KNOWN)
    one = found.framings[0]
    assert one.plan_is_missing
    assert one.sketch is None
    assert one.sun is not None, "the sun is there all the same"
    assert "no camera here can film it" in film_text(found, KINDS).framings[0].minds


def test_an_upright_phone_sees_by_its_short_side() -> None:
    upright = film(shapes=("9:16",))
    shot = framed("1", of=upright)
    brief = shot.brief.model_copy(update={"light": sky(), "pins": {"camera": "yawl-12"}})
    made = plan(brief, KIT, KNOWN, schools=False)
    seen = view_of(StoryShot("1", brief, shot.framing, made, KIT.camera("yawl-12")), KINDS, KNOWN)
    assert seen is not None
    long_side = tan(radians(made.exposure.field_deg) / 2.0)
    assert tan(radians(seen[0].field_deg) / 2.0) == pytest.approx(long_side * 9 / 16)


def test_a_sketch_has_the_cuts_of_the_films_other_shapes() -> None:
    shot = framed("1", of=film(shapes=("16:9", "9:16", "1:1")))
    brief = shot.brief.model_copy(update={"light": sky(), "pins": {"camera": "yawl-12"}})
    made = plan(brief, KIT, KNOWN, schools=False)
    found = film_facts(
        "f", film(), [StoryShot("1", brief, shot.framing, made, KIT.camera("yawl-12"))], HERE, KINDS, KNOWN
    )
    sketch = found.framings[0].sketch
    assert sketch is not None
    assert [crop.shape for crop in sketch.crops] == ["9:16", "1:1"]


def test_a_push_in_is_drawn_at_both_ends() -> None:
    shot = story_shot("1", movement={"kind": "push_in", "path_m": 3.0}, units=8)
    one = told(shot).framings[0]
    assert one.sketch is not None
    assert one.end is not None
    start = shot.brief.subject.distance_m[1]
    assert one.end.fills / one.sketch.fills == pytest.approx(start / (start - 3.0))


def test_cuts_of_one_length_are_told_once_there_are_enough() -> None:
    few = [story_shot(str(n)) for n in range(4)]
    many = [story_shot(str(n)) for n in range(8)]
    assert not told(*few).even
    assert told(*many).even
    assert "All cuts are of one length." in [need.head for need in film_text(told(*many), KINDS).needs]


# Oneself


def test_who_films_himself_is_told_mark_focus_and_room() -> None:
    view = View(72.0, "linear", 16 / 9, camera_m=1.4)
    found = oneself(view, 3.0, 1.75, 3.0, (0.4, 9.0), 3.0, False, KNOWN.limits)
    assert found.walk_m[1] == 9.0
    high = lambda at: 0.5 - (0.35 / (at * tan(radians(36.0)))) * (16 / 9) / 2.0  # noqa: E731
    assert high(found.walk_m[0]) == pytest.approx(0.0, abs=1e-3), "nearer, the head leaves the frame"
    assert found.there_s == pytest.approx(3.0 / 1.2 + 2.0)
    assert found.late_s == pytest.approx(1.5)
    assert oneself(view, 3.0, 1.75, None, (0.3, None), 10.0, True, KNOWN.limits).late_s == 0.0


def test_filming_oneself_is_told_in_the_film() -> None:
    shot = story_shot("1", timer_s=2)
    move = shot.brief.camera_move.model_copy(update={"self_framed": True})
    brief = shot.brief.model_copy(update={"camera_move": move})
    made = plan(brief, KIT, KNOWN, schools=False)
    one = told(StoryShot("1", brief, shot.framing, made, KIT.camera("yawl-12"), NOON)).framings[0]
    assert one.oneself is not None
    words = film_text(told(StoryShot("1", brief, shot.framing, made, KIT.camera("yawl-12"), NOON)), KINDS).framings[0]
    assert any("test take" in line for line in words.says)
    assert any("timer" in line for line in words.minds)


# The sun through a day


def test_the_spans_of_a_day_are_those_of_single_moments() -> None:
    day = local_day(NOON.date(), UTC)
    fields = (72.0, 44.0)
    found = sun_of_day(52.06, 1.31, day, 52.0, 1.75, fields, 0.0, NOON, "side", KNOWN.limits)
    for minutes in range(0, 1440, 35):
        at = day[0] + timedelta(minutes=minutes)
        one = sun_on_framing(sun_at(52.06, 1.31, at), 52.0, 1.75, fields)
        sides = [side for side, span in found.sides if span.start <= at < span.end]
        assert sides == ([] if one.side == "none" else [one.side]), at
        assert any(span.start <= at < span.end for span in found.shadow) == one.shadow.in_frame
        assert any(span.start <= at < span.end for span in found.wanted) == (one.side == "side")


@pytest.mark.parametrize(
    ("latitude", "at"),
    [
        (90.0, datetime(2026, 6, 21, tzinfo=UTC)),
        (-90.0, datetime(2026, 6, 21, tzinfo=UTC)),
        (78.2, datetime(2026, 12, 21, tzinfo=UTC)),
    ],
)
def test_at_the_pole_and_in_the_polar_night_there_is_an_answer(latitude: float, at: datetime) -> None:
    found = sun_of_day(
        latitude, 15.6, (at, at + timedelta(days=1)), 0.0, 1.75, (72.0, 44.0), 0.0, at, "back", KNOWN.limits
    )
    up = sun_at(latitude, 15.6, at).altitude_deg > 0
    assert bool(found.path) == up
    words = sun_text(found, "back", UTC)
    assert words.lines
    if not up:
        assert words.wish == "No back light on this day."
        assert found.sides == ()


def test_harsh_noon_is_told_in_summer_only() -> None:
    for month, harsh in ((6, True), (10, False)):
        day = local_day(datetime(2026, month, 21, tzinfo=UTC).date(), UTC)
        found = sun_of_day(52.06, 1.31, day, 0.0, 1.75, (72.0, 44.0), 0.0, None, None, KNOWN.limits)
        assert bool(found.harsh) is harsh
        assert bool(sun_text(found, None, UTC).harsh) is harsh


@pytest.mark.parametrize(
    ("seconds", "says"),
    [(5.0, "5.0 s"), (130.0, "2 min 10 s"), (1440.0, "24 min"), (5820.0, "1 h 37 min"), (59.96, "60.0 s")],
)
def test_durations_are_said_as_people_say_them(seconds: float, says: str) -> None:
    assert duration(seconds).replace("\u202f", " ") == says
