"""Cuts, exact in frames, and what they take."""

from __future__ import annotations

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from steady_tide.core.story.timing import needs_of, strip_of, unit_of, work_of
from tests.briefs import brief
from tests.films import film, framed


def test_twenty_seconds_at_96_beats_cut_every_second_beat_are_sixteen_cuts_of_a_second_and_a_quarter() -> None:
    strip = strip_of(film(), [])
    assert (strip.units, strip.unit_s, strip.frames, strip.rest_s) == (16, 1.25, 500, 0.0)
    assert len(strip.cuts) == 16
    assert all(cut.key is None for cut in strip.cuts)
    assert strip.open_units == 16
    assert [cut.from_frame for cut in strip.cuts[:5]] == [0, 31, 63, 94, 125]


def test_framings_are_laid_out_beat_by_beat_and_used_again_round_by_round() -> None:
    shots = [framed("1", units=2), framed("2", uses=3), framed("3", uses=2), framed("4", beat="b")]
    keys = [cut.key for cut in strip_of(film(), shots).cuts if cut.key]
    assert keys == ["1", "2", "3", "2", "3", "2", "4"]
    strip = strip_of(film(), shots)
    assert strip.cuts[0].to_frame == 63, "two cuts' lengths of 31.25 frames"
    assert strip.open_units == 16 - 8


def test_what_runs_over_is_told_and_the_film_ends_where_it_ends() -> None:
    shots = [framed("1", units=15), framed("2", units=3)]
    strip = strip_of(film(), shots)
    assert strip.over_units == 2
    beyond = [cut for cut in strip.cuts if cut.beyond]
    assert [(cut.key, cut.from_frame) for cut in beyond] == [("2", 500)], "a cut that crosses the end is parted there"
    assert strip.cuts[1].to_frame == 500


def test_beats_that_are_struck_are_not_cut() -> None:
    struck = film(beats=({"id": "a", "title": "A", "removed": True}, {"id": "b", "title": "B"}))
    strip = strip_of(struck, [framed("1"), framed("2", beat="b")])
    assert [cut.key for cut in strip.cuts if cut.key] == ["2"]


@given(
    st.floats(1.0, 300.0).map(lambda s: round(s, 3)),
    st.one_of(st.none(), st.floats(20.0, 400.0).map(lambda b: round(b, 3))),
    st.integers(1, 8),
    st.sampled_from([23.976, 24.0, 25.0, 29.97, 30.0, 50.0, 60.0]),
    st.lists(st.integers(1, 5), max_size=12),
)
def test_cuts_follow_without_a_gap_and_never_drift(
    length: float, bpm: float | None, beats: int, fps: float, units: list[int]
) -> None:
    told = film(length_s=length, music_bpm=bpm, cut_beats=beats, fps=fps)
    strip = strip_of(told, [framed(str(n), units=one) for n, one in enumerate(units)])
    inside = [cut for cut in strip.cuts if not cut.beyond]
    assert inside[0].from_frame == 0
    for one, other in zip(strip.cuts, strip.cuts[1:], strict=False):
        assert one.to_frame == other.from_frame
    assert inside[-1].to_frame == strip.frames
    assert sum(cut.to_frame - cut.from_frame for cut in inside) == strip.frames, "exact in frames"
    unit, rate = unit_of(told), Fraction(round(fps * 1000), 1000)
    place = 0
    for one in units:
        place += one
        if place < strip.units:
            ends = {cut.to_frame for cut in strip.cuts}
            assert round(float(unit * place * rate) - 1e-9) in ends or int(unit * place * rate + Fraction(1, 2)) in ends


def test_a_framing_takes_its_hold_or_what_it_shows_with_handles() -> None:
    told = film(hold_s=4, handle_s=1)
    short, long = framed("1", of=told), framed("2", of=told, units=6)
    assert needs_of(told, short).take_s == 4.0
    assert needs_of(told, long).take_s == pytest.approx(7.5 + 2.0)
    slowed = framed("3", of=told, units=6, slow_factor=3)
    assert needs_of(told, slowed).take_s == pytest.approx(7.5 / 3 + 2.0), "slowed, less of life is needed"
    assert slowed.brief.delivery.slow_factor == 3
    assert slowed.brief.take.length_s == pytest.approx(4.5)


def test_takes_that_are_too_short_are_told() -> None:
    told = film(hold_s=0)
    shot = framed("1", of=told, units=4)
    cut = shot.model_copy(
        update={"brief": shot.brief.model_copy(update={"take": shot.brief.take.model_copy(update={"length_s": 3.0})})}
    )
    assert needs_of(told, cut).short_s == pytest.approx(5.0 + 2.0 - 3.0)
    assert needs_of(told, shot).short_s == 0.0


def test_what_a_film_takes_is_the_sum_of_its_shots() -> None:
    told = film()
    shots = [framed("1", of=told), framed("2", of=told, uses=2)]
    work = work_of(told, shots, {"1": 5.0, "2": 10.0})
    assert work.screen_s == pytest.approx(1.25 * 3)
    assert work.recorded_s == pytest.approx(2 * 3 * 10.0)
    assert work.at_place_s == pytest.approx(2 * (30.0 + 120.0) + 60.0 * 15.0)


def test_cuts_of_one_length_have_no_variation() -> None:
    assert strip_of(film(), [framed("1"), framed("2")]).variation == 0.0
    assert strip_of(film(), [framed("1"), framed("2", units=3)]).variation == pytest.approx(0.5)


@pytest.mark.parametrize(
    ("field", "value"),
    [("length_s", -3), ("length_s", 0), ("music_bpm", 0), ("cut_beats", 0), ("tries", 0), ("fps", 0), ("shapes", ())],
)
def test_films_that_cannot_be_are_refused(field: str, value: object) -> None:
    with pytest.raises(ValueError, match=field):
        film(**{field: value})


def test_two_beats_of_one_id_are_refused() -> None:
    with pytest.raises(ValueError, match="two beats have the id 'a'"):
        film(beats=({"id": "a", "title": "A"}, {"id": "a", "title": "B"}))


def test_an_interval_film_keeps_its_own_length() -> None:
    given = brief(scenario="lapse", take={"length_s": 3600.0, "count": 1})
    assert framed("1", given=given).brief.take.length_s == 3600.0
