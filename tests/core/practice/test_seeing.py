"""Questions with pictures: the fault that is asked for is the one that a drawn frame shows, prices are the planner's."""

from __future__ import annotations

from functools import cache
from typing import Any

import cv2
import numpy as np
import pytest
from numpy.typing import NDArray

from steady_tide.core.look.exposure_of_plan import taking_of
from steady_tide.core.look.rendering import Moment, Renderer, Window
from steady_tide.core.look.scenes import SCENES, usual_scene
from steady_tide.core.look.timing import frame_times
from steady_tide.core.practice.decks import decks_of, in_deck
from steady_tide.core.practice.faults import DIALS_OF, looks_different, plain, the_fault
from steady_tide.core.practice.kinds import ask, judge, topics
from steady_tide.core.practice.question import Past, Question
from steady_tide.core.practice.seeing import EXPOSURE
from steady_tide.core.quantities.errors import BadInput, NoLegalPlan, NotFound
from steady_tide.words.practice import question_words
from tests.checks import at_least_one
from tests.core.practice.worlds import KIT, KNOWLEDGE, world
from tests.examples import examples_of

WORLD = world()
SEEDS = range(examples_of(2))
Image = NDArray[np.float64]


@cache
def wrong(fault: str) -> list[Question]:
    """Questions about a fault, each asked once for all tests."""
    found = []
    for seed in SEEDS:
        try:
            found.append(ask(WORLD, f"wrong:{fault}", seed))
        except NotFound:
            continue
    return found


def drawn(question: Question, chosen: dict[str, Any], near: bool, noise_of: int = 0) -> Image:
    """A frame in linear codes, drawn. near: a part of it at delivered pixels."""
    assert question.brief is not None
    brief = question.brief.model_copy(update={"pins": {**question.brief.pins, **chosen}})
    taking = taking_of(brief, KIT, KNOWLEDGE, None, question.facts["camera"])
    window = Window(320, 180, 1.0) if near else Window(160, 90, brief.delivery.width / 160)
    renderer = Renderer(taking, SCENES[usual_scene(taking.at)], 7)
    return np.asarray(renderer.frame(Moment(0.5), window, brief.graded, noise_of).codes, dtype=np.float64)


def sharpness(image: Image) -> float:
    return float(cv2.Laplacian(cv2.GaussianBlur(image.mean(axis=2), (0, 0), 1.5), cv2.CV_64F).std() / image.mean())


# What a frame shows of a fault, measured in the picture itself, larger with the fault.
SHOWN: dict[str, Any] = {
    "blown": lambda q, chosen: drawn(q, chosen, near=False).mean(),
    "under": lambda q, chosen: -drawn(q, chosen, near=False).mean(),
    "noise": lambda q, chosen: (
        drawn(q, chosen, True, 1) - drawn(q, chosen, True, 2)
    ).std() / drawn(q, chosen, near=True).mean(),
    "blur": lambda q, chosen: -sharpness(drawn(q, chosen, near=True)),
    "focus": lambda q, chosen: -sharpness(drawn(q, chosen, near=True)),
    "colour": lambda q, chosen: float(np.ptp(np.log2(drawn(q, chosen, near=False).mean(axis=(0, 1)) + 1e-3))),
}  # fmt: skip


def best_of(question: Question) -> dict[str, Any]:
    assert question.brief is not None
    return dict(WORLD.planned(question.brief, question.facts["camera"]).chosen)


@pytest.mark.parametrize("fault", ["blown", "under", "noise", "blur"])
def test_a_drawn_frame_shows_the_fault_that_is_asked_for(fault: str) -> None:
    asked = wrong(fault)
    assert asked
    for question in asked:
        spoilt, best = (SHOWN[fault](question, chosen) for chosen in (question.frames[0].chosen, best_of(question)))
        assert spoilt > best, (question.facts["use"], question.facts["dial"], question.facts["spoilt"])


def test_bands_are_drawn_where_they_are_asked_for() -> None:
    asked = wrong("bands")
    assert asked
    for question in asked:
        rows = [
            drawn(question, chosen, near=False).mean(axis=(1, 2))
            for chosen in (question.frames[0].chosen, best_of(question))
        ]
        ratio = rows[0] / rows[1]
        slow = np.convolve(ratio, np.ones(9) / 9, mode="valid")
        # Codes go with about half the stops of light, and a mean over rows takes the finest away.
        assert float(np.ptp(np.log2(slow))) > 0.2 * question.frames[0].measures.bands_stops


def test_focus_is_asked_of_cameras_that_focus_and_drawn_softer() -> None:
    assert "wrong:focus" not in topics(WORLD)
    focusing = world("yawl-12")
    assert "wrong:focus" in topics(focusing)
    asked = [ask(focusing, "wrong:focus", seed) for seed in range(8)]
    # Of a thing on a table the middle of the frame is the thing.
    question = next(one for one in asked if one.facts["use"] == "thing on a table")
    best = dict(focusing.planned(question.brief, "yawl-12").chosen)  # type: ignore[arg-type]
    assert SHOWN["focus"](question, question.frames[0].chosen) > SHOWN["focus"](question, best)


def test_a_clip_that_stutters_goes_far_from_frame_to_frame_and_shows_no_smear() -> None:
    asked = wrong("stutter")
    assert asked
    for question in asked:
        assert question.moving
        assert question.rows[0].values == tuple(DIALS_OF)
        assert question.brief is not None
        brief = question.brief.model_copy(update={"pins": {**question.brief.pins, **question.frames[0].chosen}})
        taking = taking_of(brief, KIT, KNOWLEDGE, None, question.facts["camera"])
        renderer = Renderer(taking, SCENES[usual_scene(taking.at)], 7)
        # From frame to frame it goes as far as layers do in the film; of that the shutter sees a small share.
        times = [time_s for _, time_s in frame_times(taking, 1.0)][:2]
        window = Window(1, 1, 1.0)
        ways = [
            np.diff([renderer.way_px(layer, time_s, window.scale) for time_s in times], axis=0)
            for layer in renderer.scene.layers
        ]
        apart = max(float(np.hypot(*way.T).max()) for way in ways)
        measures = question.frames[0].measures
        assert measures.step_px >= 24
        assert apart > 0.5 * measures.step_px
        assert measures.open_share < 0.18
        assert measures.subject_px < 0.25 * measures.step_px
    others = [ask(WORLD, "wrong:blown", seed) for seed in range(12)]
    assert 0 < sum(question.moving for question in others) < 6, "a clip may show any fault"
    assert all("stutter" in question.rows[0].values for question in others if question.moving)


def test_colour_is_asked_of_a_grey_card_that_is_not_grey() -> None:
    for question in at_least_one(wrong("colour")):
        red, blue = question.frames[0].measures.cast_stops
        assert max(abs(red), abs(blue), abs(red - blue)) >= 0.4
        assert question.facts["dial"] == "white_balance_k"


@pytest.mark.parametrize("fault", [fault for fault in DIALS_OF if fault != "focus"])
def test_only_the_fault_is_right_and_another_costs_what_the_planner_says(fault: str) -> None:
    for question in at_least_one(wrong(fault)):
        values = question.rows[0].values
        assert question.brief is not None
        best = WORLD.planned(question.brief, question.facts["camera"])
        pins = {name: value for name, value in best.chosen.items() if name not in EXPOSURE}
        dial = question.facts["dial"]
        spoilt = WORLD.planned(
            question.brief.model_copy(update={"pins": {**pins, dial: question.facts["spoilt"]}}),
            question.facts["camera"],
        )
        for place, value in enumerate(values):
            judged = judge(WORLD, question, place)
            assert judged.right == (value == fault)
            wanted = 0.0 if value == fault else spoilt.given_up_stops - best.given_up_stops
            assert judged.price_stops == pytest.approx(wanted, abs=1e-6)
            assert values[judged.best] == fault
        every = plain(question.frames[0].measures, WORLD.rules)
        seen = {value: every[value] for value in values}  # a clip's faults are not seen in a frame
        assert max(seen, key=lambda one: seen[one]) == fault
        assert sorted(seen.values())[-2] <= 0.5 * seen[fault]


@pytest.mark.parametrize("topic", ["shutter_s", "iso_floor", "white_balance_k", "exposure_compensation", "view"])
def test_two_frames_differ_in_what_is_asked_and_can_be_told_apart(topic: str) -> None:
    places = set()
    for seed in range(6):
        question = ask(WORLD, f"which:{topic}", seed)
        assert question == ask(WORLD, f"which:{topic}", seed)
        first, second = question.frames
        assert {first.chosen[topic], second.chosen[topic]} == {question.facts["usual"], question.facts["spoilt"]}
        assert looks_different(first.measures, second.measures, WORLD.rules)
        place = judge(WORLD, question, 0).best
        places.add(place)
        assert question.frames[place].chosen[topic] == question.facts["value"]
        assert judge(WORLD, question, place).right
        assert not judge(WORLD, question, 1 - place).right
    assert places == {0, 1}


def test_the_best_frame_has_no_fault_of_its_own() -> None:
    for question in at_least_one(wrong("noise")):
        assert question.brief is not None
        (best,) = WORLD.sights(question.brief, question.facts["camera"], [best_of(question)])
        assert best is not None
        assert the_fault(best.measures, best.measures, WORLD.rules) is None


def test_what_is_not_legal_together_has_no_sight() -> None:
    question = wrong("noise")[0]
    assert question.brief is not None
    assert WORLD.sights(question.brief, "limpet-7", [{"shutter_s": 1e-9}]) == [None]


def test_decks_ask_of_what_they_are_called() -> None:
    every = decks_of(WORLD.uses, KNOWLEDGE, None)
    assert "scenario:underwater" in every
    assert "school:shutter:free" in every
    assert "log" not in every
    for deck in every:
        if not deck.startswith("scenario:"):
            continue
        inside = in_deck(WORLD, deck)
        dials = [topic.partition(":")[2] for topic in topics(inside, ("dials",))]
        assert {WORLD.uses[use].brief.scenario for use in dials} <= {deck.partition(":")[2]}
        assert not topics(inside, ("menu",))
    assert "arithmetic:red" in topics(in_deck(WORLD, "scenario:underwater"))
    assert "arithmetic:red" not in topics(in_deck(WORLD, "scenario:lapse"))


def test_a_way_of_working_asks_only_where_it_changes_a_dial_and_says_so() -> None:
    free = in_deck(WORLD, "school:shutter:free")
    there = topics(free, ("dials",))
    assert 0 < len(there) < len(topics(WORLD, ("dials",)))
    question = ask(free, there[0], 3)
    assert question.brief is not None
    assert question.brief.school.shutter == "free"
    assert question.facts["school"] == {"shutter": "free"}
    with pytest.raises((BadInput, NoLegalPlan)):
        ask(in_deck(WORLD, "school:shutter:sideways"), "dials:everyday_walk", 1)


def test_ones_own_faults_choose_what_is_asked() -> None:
    past = Past(faults=(("noise", 4), ("tilt", 1)), scenarios=("low_light",))
    own = in_deck(WORLD, "log", past)
    there = topics(own)
    assert {topic for topic in there if topic.startswith("wrong:")} == {"wrong:noise"}
    assert {topic for topic in there if topic.startswith("arithmetic:")} == {"arithmetic:lamp"}
    uses = {topic.partition(":")[2] for topic in there if topic.startswith("dials:")}
    assert {WORLD.uses[use].brief.scenario for use in uses} == {"low_light"}
    assert {topic.rpartition("/")[2] for topic in there if topic.startswith("menu:")} <= set(DIALS_OF["noise"])
    assert "log" in decks_of(WORLD.uses, KNOWLEDGE, past)
    assert not topics(in_deck(WORLD, "log", Past(faults=(), scenarios=())))


@pytest.mark.parametrize("deck", ["scenario:juggling", "school", "school:shutter", "kind:wrong", ":"])
def test_a_deck_that_is_not_there_is_said(deck: str) -> None:
    with pytest.raises(BadInput, match="there is no deck"):
        in_deck(WORLD, deck)


@pytest.mark.parametrize("kind", ["dials", "order", "wrong", "which"])
def test_every_question_about_a_shot_says_in_which_way_it_is_worked(kind: str) -> None:
    free = in_deck(WORLD, "school:shutter:free")
    for topic in topics(free, (kind,)):
        try:
            said = question_words(ask(free, topic, 2), KNOWLEDGE)
        except (NoLegalPlan, NotFound):
            continue
        assert said.startswith("You leave the shutter to the camera. ")
        return
    raise AssertionError("nothing is asked")
