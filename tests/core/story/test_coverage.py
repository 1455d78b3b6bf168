"""Coverage: what is proposed, what follows a film, what is missing, what clashes."""

from __future__ import annotations

from typing import Any

import pytest

from steady_tide import library
from steady_tide.core.planning.planner import plan
from steady_tide.core.shoot.film import Beat, Film, FramedShot, Framing
from steady_tide.core.story.continuity import clashes, pairs, runs_of
from steady_tide.core.story.coverage import (
    Missing,
    angle_between,
    distance_for,
    following,
    framing_brief,
    missing_of,
    proposals,
)
from steady_tide.core.story.shadow import SunAt
from tests.checks import at_least_one
from tests.films import film, framed, sky

KINDS, LIMITS = library.framings(), library.knowledge().limits


def proposed(told: Film, there: tuple[FramedShot, ...] = (), prompts: bool = False) -> list[tuple[str, str]]:
    found = proposals(told, "f", told.beats[0], there, KINDS, sky(), prompts, LIMITS)
    return [(one.framing.kind, one.framing.subject) for one in found]


def as_shots(told: Film, prompts: bool = False) -> tuple[FramedShot, ...]:
    found = proposals(told, "f", told.beats[0], (), KINDS, sky(), prompts, LIMITS)
    return tuple(FramedShot(key=str(n), brief=one.brief, framing=one.framing) for n, one in enumerate(found))


def test_a_beat_is_proposed_what_makes_it_cut() -> None:
    kinds = proposed(film())
    assert kinds == [
        ("establishing", "Wren"), ("medium", "Wren"), ("medium", "Wren"), ("detail", "Wren"), ("cutaway", ""),
        ("way_in", "Wren"), ("way_out", "Wren"),
    ]  # fmt: skip
    angles = [one.framing.from_deg for one in as_shots(film()) if one.framing.kind == "medium"]
    assert angle_between(*[float(angle or 0) for angle in angles]) >= LIMITS.story_angle_deg


def test_what_is_there_is_not_proposed_again_and_ideas_only_when_asked() -> None:
    told = film()
    assert proposed(told, as_shots(told)) == []
    ideas = proposed(told, as_shots(told), prompts=True)
    assert [kind for kind, _ in ideas] == ["over_shoulder", "point_of_view", "reflection", "frame_within"]


def test_two_subjects_each_get_two_angles() -> None:
    told = film(beats=({"id": "a", "title": "A", "subjects": ["Wren", "the wheel"]},))
    assert proposed(told).count(("medium", "Wren")) == 2
    assert proposed(told).count(("medium", "the wheel")) == 2


def test_what_was_proposed_covers_its_beat() -> None:
    told = film()
    codes = [one.code for one in missing_of(told, as_shots(told), KINDS, 0, LIMITS) if one.beat == "a"]
    assert codes == []


def test_every_proposal_can_be_filmed_and_shows_its_subject_as_large_as_its_kind_wants() -> None:
    told = film()
    for shot in at_least_one(as_shots(told, prompts=True)):
        made = plan(shot.brief, library.demo_kit(), library.knowledge(), schools=False)
        kind = KINDS[shot.framing.kind]
        near, far = shot.brief.subject.distance_m
        assert near <= distance_for(kind) * 1.06
        assert far >= distance_for(kind) * 0.94
        wanted = kind.field_deg
        assert wanted / 1.4 < made.exposure.field_deg < wanted * 1.4, (shot.framing.kind, made.exposure.field_deg)


def test_cameras_are_proposed_on_one_side_of_the_line() -> None:
    told = film(beats=({"id": "a", "title": "A", "subjects": ["Wren"], "line_deg": 110},))
    shots = as_shots(told, prompts=True)
    beat = told.beats[0]
    ways = {runs_of(beat, shot.framing, LIMITS) for shot in shots if shot.framing.heading_deg is not None}
    assert "left_to_right" in ways
    assert "right_to_left" not in ways
    assert not [one for one in clashes(told, shots, {}, {}, LIMITS) if one.code in ("line", "direction")]


def test_missing_names_what_is_missing() -> None:
    told = film()
    assert missing_of(told, (), KINDS, 16, LIMITS) == (
        Missing(code="nothing", beat="a"), Missing(code="nothing", beat="b"), Missing(code="open", beat=None, facts={"units": 16}),
    )  # fmt: skip
    one = framed("1", subject="Wren", kind="medium", from_deg=0)
    other = framed("2", beat="b", subject="Wren", kind="medium", from_deg=0)
    codes = [
        (found.code, found.beat, found.facts.get("kind")) for found in missing_of(told, (one, other), KINDS, 0, LIMITS)
    ]
    assert ("no_kind", "a", "establishing") in codes
    assert ("one_angle", "a", None) in codes
    assert ("unbridged", "b", None) in codes
    bridged = framed("3", beat="b", kind="cutaway")
    assert "unbridged" not in [found.code for found in missing_of(told, (one, other, bridged), KINDS, 0, LIMITS)]


def brief_of(told: Film, **framing: Any) -> FramedShot:
    return framed("1", of=told, **framing)


def test_a_shot_follows_its_film_in_what_it_has_from_it() -> None:
    before, after = film(), film(hold_s=4, tries=5, fps=50, shapes=("9:16",), graded=False, slow_factor=2)
    shot = brief_of(before)
    then = following((before, shot.framing), (after, shot.framing), shot.brief)
    assert then == framing_brief(after, shot.framing, shot.brief)
    assert (then.take.count, then.delivery.fps, then.delivery.height) == (5, 50.0, 3840)


def test_what_was_set_otherwise_stays() -> None:
    before, after = film(), film(hold_s=4, tries=5)
    shot = brief_of(before)
    own = shot.brief.model_copy(update={"take": shot.brief.take.model_copy(update={"count": 9})})
    then = following((before, shot.framing), (after, shot.framing), own)
    assert (then.take.count, then.take.length_s) == (9, 4.0)


def test_a_shot_follows_its_movement() -> None:
    told = film()
    shot = brief_of(told)
    moving = Framing.model_validate({**shot.framing.model_dump(), "movement": {"kind": "push_in", "path_m": 2.5}})
    then = following((told, shot.framing), (told, moving), shot.brief)
    assert then.camera_move.travel_m_s == 2.0
    back = following((told, moving), (told, shot.framing), then)
    assert back == shot.brief


# Continuity


def clash(one: dict[str, Any], other: dict[str, Any], told: Film | None = None, suns: Any = None) -> set[str]:
    told = told or film()
    shots = [framed("1", of=told, **one), framed("2", of=told, **other)]
    return {found.code for found in clashes(told, shots, suns or {}, {}, LIMITS)}


def test_a_cut_jumps_between_two_of_the_same_size_from_nearly_the_same_side() -> None:
    same = {"subject": "Wren", "kind": "medium", "from_deg": 10}
    assert "jump" in clash(same, {**same, "from_deg": 25})
    assert "jump" not in clash(same, {**same, "from_deg": 45}), "another angle"
    assert "jump" not in clash(same, {**same, "from_deg": 25, "subject": "Tam"}), "another subject"
    assert "jump" not in clash(same, {**same, "from_deg": 25, "kind": "detail"})
    assert "jump" in clash({**same, "from_deg": -175}, {**same, "from_deg": 170}), "angles go round"


def test_a_subject_does_not_turn_round_in_a_cut() -> None:
    going = {"subject": "Wren", "runs": "left_to_right"}
    assert "direction" in clash(going, {**going, "runs": "right_to_left"})
    assert "direction" not in clash(going, {**going, "runs": "towards"})


def test_the_line_of_action_is_not_crossed() -> None:
    line = film(beats=(Beat(id="a", title="A", line_deg=90),))
    assert "line" in clash({"heading_deg": 10}, {"heading_deg": 170, "runs": "left_to_right"}, line)
    assert clash({"heading_deg": 10}, {"heading_deg": 40}, line) == set()
    assert "line" not in clash({"heading_deg": 10}, {"heading_deg": 90}, line), "on the line is neither side"


def test_light_does_not_change_sides() -> None:
    suns = {"1": SunAt(altitude_deg=20, azimuth_deg=120), "2": SunAt(altitude_deg=20, azimuth_deg=240)}
    assert "light_side" in clash({"heading_deg": 180}, {"heading_deg": 180}, suns=suns)
    assert "light_side" not in clash({"heading_deg": 180}, {"heading_deg": 60}, suns=suns), "they look elsewhere"
    assert "light_side" not in clash({"heading_deg": 180}, {"heading_deg": 180}, suns={})


def test_clothes_stay_on() -> None:
    assert "wears" in clash({"subject": "Wren", "wears": "red coat"}, {"subject": "Wren", "wears": "apron"})
    assert "wears" not in clash({"subject": "Wren", "wears": "red coat"}, {"subject": "Wren"})


def test_skies_and_looks_match_within_a_beat() -> None:
    told = film()
    storm = sky().model_copy(update={"cloud": "storm"})
    shots = []
    for key, light, pin in (("1", sky(), "log"), ("2", storm, "natural")):
        given = framed(key).brief.model_copy(update={"light": light, "pins": {"camera": "yawl-12", "profile": pin}})
        shots.append(FramedShot(key=key, brief=given, framing=framed(key).framing))
    plans = {one.key: plan(one.brief, library.demo_kit(), library.knowledge(), schools=False) for one in shots}
    codes = {one.code: one.facts for one in clashes(told, shots, {}, plans, LIMITS)}
    assert codes["weather"] == {"one": "clear", "other": "storm"}
    assert codes["profile"] == {"one": "log", "other": "natural"}


def test_pairs_are_found_by_their_tag() -> None:
    tagged = [framed(str(n), joins=[{"tag": tag, "by": by}]) for n, (tag, by) in enumerate(
        [("rings", "shape"), ("rings", "colour"), ("rings", "shape"), ("dark", "luminance")]
    )]  # fmt: skip
    assert [(pair.one, pair.other) for pair in pairs(tagged)] == [("0", "2")]


@pytest.mark.parametrize(
    ("line", "heading", "runs"),
    [(90, 0, "left_to_right"), (90, 180, "right_to_left"), (90, 90, "away"), (90, 270, "towards")],
)
def test_directions_follow_from_the_line(line: float, heading: float, runs: str) -> None:
    framing = Framing(film="f", beat="a", heading_deg=heading)
    assert runs_of(Beat(id="a", title="A", line_deg=line), framing, LIMITS) == runs
