"""The first assembly: best parts, exact frames, and files that are read back by the library that editors share."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import opentimelineio as otio
import pytest

from steady_tide import library
from steady_tide.core.edit.assembly import Assembly, PlacedClip, assembly_of, best_start_s
from steady_tide.core.edit.notes import EditShot, notes_of
from steady_tide.core.quantities.errors import BadInput
from steady_tide.core.quantities.frame_rates import exact_rate
from steady_tide.core.shoot.film import Film, Framing
from steady_tide.core.story.timing import strip_of
from steady_tide.formats.edit_timeline import write_edl, write_otio
from tests.edits import clip_measures, edit_shot, edit_take, timeline
from tests.films import NOON, film, framed

KNOWN = library.knowledge()
LIMITS = KNOWN.limits


def framing(key: str, **fields: Any) -> Framing:
    return Framing.model_validate({"film": "f", "beat": "a", "place": int(key), **fields})


def shot(key: str, *takes: Any, slow: float = 1.0, **fields: Any) -> EditShot:
    made = edit_shot(key, takes, delivery={"slow_factor": slow})
    return EditShot(**{**vars(made), "framing": framing(key, **fields)})


def laid(*shots: EditShot, of: Film | None = None) -> Assembly:
    return assembly_of("Mill", of or film(), shots, notes_of(shots, KNOWN), LIMITS)


def test_the_assembly_has_the_cuts_of_the_strip() -> None:
    shots = [shot("1", edit_take("a"), units=2, uses=2), shot("2"), shot("3", edit_take("c"), units=3)]
    found = laid(*shots)
    strip = strip_of(
        film(),
        [framed(one.key, **{"units": one.framing.units, "uses": one.framing.uses}) for one in shots if one.framing],
    )
    assert [clip.frames for clip in found.clips] == [cut.to_frame - cut.from_frame for cut in strip.cuts]
    assert found.frames == 500
    assert [clip.take for clip in found.clips[:4]] == ["a", None, "c", "a"]
    again = found.clips[3]
    assert again.start_s == pytest.approx(found.clips[0].start_s + 63 / 25), "cut in again, it goes on where it stopped"


def test_the_best_part_shakes_and_blows_out_least() -> None:
    line = timeline([9, 9, 1, 1, 9, 9, 9, 9], [0.0] * 8)
    assert best_start_s(8.0, 2.0, 1.0, line, LIMITS) == 2.0
    blown = timeline([1] * 8, [0.0, 0.3, 0.3, 0.3, 0.3, 0.0, 0.0, 0.0])
    assert best_start_s(8.0, 2.0, 1.0, blown, LIMITS) == 5.0
    assert best_start_s(10.0, 2.0, 1.0, None, LIMITS) == 4.0, "unmeasured: the middle"
    assert best_start_s(2.0, 3.0, 1.0, None, LIMITS) == 0.0


def test_of_kept_takes_the_one_without_faults_is_cut_in_the_latest_first() -> None:
    takes = (
        edit_take("early", number=1), edit_take("late", number=2, at=NOON + timedelta(minutes=9)),
        edit_take("faulty", number=3, at=NOON + timedelta(minutes=20), faults=("framing",)), edit_take("maybe", "maybe", number=4),
    )  # fmt: skip
    assert laid(shot("1", *takes)).clips[0].take == "late"


def read(assembly: Assembly, folder: str = "") -> Any:
    return otio.adapters.read_from_string(write_otio(assembly, folder), "otio_json")


def test_the_file_is_read_back_with_and_without_footage() -> None:
    measures = clip_measures(
        frame_rate=50.0, seconds=20.0, exposure={"white_share": 0.4, "worst_white_share": 0.5, "worst_white_at_s": 10.2}
    )
    takes = edit_take("a", measures=measures, file="day/C001.mp4", faults=("framing",))
    found = laid(shot("1", takes, slow=2.0, units=2), shot("2"), shot("3", edit_take("c")))
    timeline_back = read(found, "rushes")
    assert timeline_back.duration() == otio.opentime.RationalTime(500, 25)
    track = timeline_back.tracks[0]
    one, two, three, *rest = track
    assert one.media_reference.target_url == "rushes/day/C001.mp4"
    assert one.media_reference.available_range.duration.to_seconds() == pytest.approx(20.0)
    assert one.effects[0].time_scalar == 0.5
    assert one.source_range.duration.value == 63
    names = [marker.name for marker in one.markers]
    assert names[0] == "group A"
    assert {"framing", "blown"} <= set(names)
    for marker in one.markers:
        assert one.source_range.contains(marker.marked_range.start_time), "markers lie on their clip"
    assert one.metadata["steady_tide"]["group"] == "A"
    assert two.media_reference.is_missing_reference
    assert two.name == "missing: shot 2"
    assert three.media_reference.is_missing_reference, "kept, but its footage is not known here"
    assert three.metadata["steady_tide"]["missing"] is False
    assert all(isinstance(gap, otio.schema.Gap) for gap in rest)
    for clip in (one, three):
        used = clip.source_range.duration.to_seconds() * (clip.effects[0].time_scalar if clip.effects else 1.0)
        end = clip.source_range.start_time.to_seconds() + used
        assert end <= clip.media_reference.available_range.duration.to_seconds() + 0.05, "within what there is"


def test_the_edit_decision_list_is_read_back_and_cuts_at_the_same_frames() -> None:
    found = laid(shot("1", edit_take("a", file="C 001-ä.mp4"), units=2), shot("2"), shot("3", edit_take("c"), units=13))
    text = write_edl(found)
    back = otio.adapters.read_from_string(text, "cmx_3600", rate=25)
    assert back.duration().value == 500
    assert [clip.source_range.duration.value for clip in back.tracks[0]] == [clip.frames for clip in found.clips]
    assert "C001" in text
    assert "MISSING" in text


def test_slowed_clips_are_slowed_in_the_list() -> None:
    text = write_edl(laid(shot("1", edit_take("a"), slow=2.0, units=16)))
    assert "M2" in text
    back = otio.adapters.read_from_string(text, "cmx_3600", rate=25)
    assert back.tracks[0][0].effects[0].time_scalar == pytest.approx(0.5)


@pytest.mark.parametrize("fps", [23.976, 29.97, 30.0, 60.0])
def test_other_rates_are_exact_in_frames_too(fps: float) -> None:
    told = film(fps=fps)
    found = laid(shot("1", edit_take("a"), units=16), of=told)
    assert read(found).duration().value == strip_of(told, []).frames
    text = write_edl(found)
    back = otio.adapters.read_from_string(text, "cmx_3600", rate=exact_rate(fps))
    assert back.duration().value == strip_of(told, []).frames
    assert [clip.source_range.duration.value for clip in back.tracks[0]] == [clip.frames for clip in found.clips]
    assert text.splitlines()[1] == ("FCM: DROP FRAME" if fps in (29.97, 59.94) else "FCM: NON-DROP FRAME")


@pytest.mark.parametrize(("fps", "frames", "ends"), [(29.97, 17_982, "00:10:00;00"), (59.94, 35_964, "00:10:00;00")])
def test_ten_minutes_of_film_end_at_ten_minutes_of_timecode(fps: float, frames: int, ends: str) -> None:
    """Published: of 29.97 frames a second ten minutes hold 17,982."""
    one = PlacedClip(
        key="1", name="one", take="a", file="C1.mp4", media_fps=fps, media_s=900.0, start_s=0.0, frames=frames,
        speed=1.0, group=None,
    )  # fmt: skip
    text = write_edl(Assembly(title="Ten", fps=fps, width=1920, height=1080, clips=(one,)))
    assert ends in text
    assert otio.adapters.read_from_string(text, "cmx_3600", rate=exact_rate(fps)).duration().value == frames


def test_a_rate_that_no_timecode_counts_is_refused_with_a_way_out() -> None:
    with pytest.raises(BadInput, match="OpenTimelineIO"):
        write_edl(laid(shot("1", edit_take("a"), units=16), of=film(fps=12.0)))


def test_without_a_film_the_days_kept_takes_stand_in_a_row() -> None:
    shots = [
        edit_shot("1", (edit_take("a", seconds=12.0), edit_take("b", number=2, seconds=8.0))),
        edit_shot("2", (edit_take("n", "no"),)),
    ]
    found = assembly_of("Day", None, shots, notes_of(shots, KNOWN), LIMITS)
    assert [(clip.take, clip.frames) for clip in found.clips] == [("a", 300), ("b", 200)]
    assert assembly_of("Day", None, [], notes_of([], KNOWN), LIMITS).clips == ()
