"""What recurs, what was judged, and ladders."""

from __future__ import annotations

import json
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from itertools import permutations
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from steady_tide import library
from steady_tide.core.log.filmed_ladder import check_answer, filmed_ladder, limits_by_person, pair_to_ask
from steady_tide.core.log.judging import (
    Answer,
    JudgedRung,
    contradictions,
    judged_of,
    least_asked,
    limit_in,
    next_pair,
)
from steady_tide.core.log.ladder import (
    DIALS,
    Ladder,
    LadderBasis,
    changed_since,
    ladder_of,
    not_held,
    offered,
    order_of,
    visible,
)
from steady_tide.core.log.recurring import recurring
from steady_tide.core.log.take import TakeFields, TakeSeen
from steady_tide.core.planning.planner import plan as plan_shot
from steady_tide.core.quantities.errors import BadInput
from steady_tide.words.log import not_held_words, recurring_line, rung_label, statement, step_words
from tests.briefs import brief

KIT, KNOWN = library.demo_kit(), library.knowledge()
NOON = datetime(2026, 10, 17, 12, tzinfo=UTC)


def take(number: int, faults: tuple[str, ...] = (), **said: Any) -> TakeSeen:
    at = NOON + timedelta(minutes=number)
    fields = TakeFields.model_validate({"at": at, "faults": faults, **said})
    return TakeSeen(key=str(number), at=at, said=fields)


def test_what_recurs_names_the_group_that_has_it() -> None:
    chest = [take(n, ("under",) if n < 7 else (), mount="chest", camera="limpet-7") for n in range(12)]
    others = [take(20 + n, (), mount="walking", camera="limpet-7") for n in range(20)]
    (found,) = recurring([*chest, *others], KNOWN.limits)
    assert (found.by, found.of, found.with_it, found.count) == ("mount", "chest", 7, 12)
    assert recurring_line(found, {"chest": "chest mount"}) == "7 of 12 chest mount takes under: the meter reads the sky"


def test_two_of_a_kind_may_be_chance_and_a_fault_of_all_is_no_groups() -> None:
    few = [take(n, ("tilt",) if n < 2 else (), mount="chest") for n in range(4)]
    assert recurring([*few, *(take(30 + n, mount="pole") for n in range(9))], KNOWN.limits) == ()
    everywhere = [take(n, ("fog",), mount="chest" if n % 2 else "pole") for n in range(20)]
    assert all(found.by != "mount" for found in recurring(everywhere, KNOWN.limits))


def test_by_chance_alone_hardly_anything_recurs() -> None:
    told = 0
    for seed in range(40):
        rng = np.random.default_rng(seed)
        takes = [
            take(
                n,
                ("framing",) if rng.random() < 0.2 else (),
                mount=("chest", "pole", "tray")[n % 3],
                hands=("a", "b")[n % 2],
            )
            for n in range(60)
        ]
        told += len(recurring(takes, KNOWN.limits))
    assert told <= 8  # of 200 groups that were looked at


def judged(who: str, ladder: str, amount: float, accepted: bool, answer: int = 0) -> JudgedRung:
    return JudgedRung(who, ladder, "snr", 0, amount, accepted, True, answer, NOON, {})


def test_contradictions_are_shown_and_close_ones_are_none() -> None:
    said = [judged("Wren", "a", 7.0, True), judged("Wren", "b", 12.0, False), judged("Wren", "b", 8.0, False)]
    (found,) = contradictions(said, KNOWN.limits)
    assert (found.accepted, found.refused, found.accepted_ladder, found.refused_ladder) == (7.0, 12.0, "a", "b")
    assert found.apart == pytest.approx(np.log2(12 / 7))
    assert contradictions([judged("Wren", "a", 7.0, True), judged("Tam", "b", 12.0, False)], KNOWN.limits) == ()
    assert contradictions([judged("Wren", "a", 8.0, True), judged("Wren", "a", 9.0, False)], KNOWN.limits) == ()


def test_only_what_pictures_of_two_ladders_have_in_common_can_contradict() -> None:
    def of(quantity: str | None, ladder: str, amount: float | None, accepted: bool) -> JudgedRung:
        return replace(judged("Wren", ladder, 1.0, accepted), quantity=quantity, amount=amount)

    smeared = [of("smear_px", "a", 8.0, True), of("smear_px", "b", 2.0, False)]  # less is better
    assert [one.apart for one in contradictions(smeared, KNOWN.limits)] == [pytest.approx(2.0)]
    assert contradictions([smeared[0], of("snr", "b", 30.0, False)], KNOWN.limits) == ()
    bits = [of("bits_per_pixel", "a", 0.1, True), of("bits_per_pixel", "b", 0.8, False)]
    assert contradictions(bits, KNOWN.limits) == ()
    assert len(contradictions([bits[0], of("bits_per_pixel", "a", 0.8, False)], KNOWN.limits)) == 1
    assert contradictions([of(None, "a", None, True), of(None, "a", None, False)], KNOWN.limits) == ()


def test_a_row_counts_as_one_answer_and_tells_all_rungs() -> None:
    answer = Answer(at=NOON, who="Wren", how="row", up_to=1)
    assert judged_of(answer, (2, 0, 1)) == [(2, True), (0, True), (1, False)]
    limit = limit_in(
        [judged("Wren", "a", 16.0, True), judged("Wren", "a", 8.0, True), judged("Wren", "a", 4.0, False)], 11.0, 1.0
    )
    assert limit.count == 1
    assert limit.low < limit.value < limit.high
    assert 4.0 < limit.value < 9.0


@pytest.mark.parametrize(
    "wrong",
    [
        {"how": "pair", "left": 1},
        {"how": "pair", "left": 1, "right": 1},
        {"how": "pair", "left": 0, "right": 1, "good": [2]},
        {"how": "row"},
        {"how": "row", "up_to": -2},
        {"how": "pair", "left": 0, "right": 9},
    ],
)
def test_answers_that_say_nothing_are_refused(wrong: dict[str, Any]) -> None:
    with pytest.raises(ValidationError):
        Answer.model_validate({"at": NOON, "who": "Wren", **wrong})


def test_the_pair_that_is_asked_next_lies_about_the_limit() -> None:
    levels = {0: 20.0, 1: 14.0, 2: 10.0, 3: 7.0, 4: 5.0}
    said = [judged("Wren", "a", 14.0, True), judged("Wren", "a", 5.0, False, 1), judged("Wren", "a", 14.0, True, 2)]
    assert set(next_pair(said, "snr", levels, 11.0, 1.0)) <= {2, 3}
    assert set(next_pair([], "snr", levels, 11.0, 1.0)) == {1, 2}


def test_pairs_of_ladders_without_a_quantity_are_asked_in_turn() -> None:
    said: list[Answer] = []
    for _ in range(6):
        left, right = least_asked(said, range(4))
        said.append(Answer(at=NOON, who="Wren", how="pair", left=left, right=right))
    assert len({(one.left, one.right) for one in said}) == 6


@given(st.integers(2, 6), st.sampled_from((2, 4)), st.floats(-1, 1))
def test_light_that_drifts_evenly_favours_no_rung(count: int, passes: int, drift: float) -> None:
    order = order_of(count, passes)
    assert sorted(order) == sorted(list(range(count)) * passes)
    light = np.array([drift * moment for moment in range(len(order))])
    means = [light[np.array(order) == rung].mean() for rung in range(count)]
    assert np.ptp(means) == pytest.approx(0.0, abs=1e-9)


def test_no_other_order_of_so_few_takes_does_better() -> None:
    # Brute force over all orders of three rungs, each filmed twice: none is fairer to an even drift.
    best = min(
        np.ptp([np.mean([at for at, rung in enumerate(order) if rung == one]) for one in range(3)])
        for order in set(permutations((0, 0, 1, 1, 2, 2)))
    )
    ours = order_of(3, 2)
    assert np.ptp([np.mean([at for at, rung in enumerate(ours) if rung == one]) for one in range(3)]) == best == 0.0


@pytest.fixture(scope="module")
def basis() -> LadderBasis:
    what = brief(
        scenario="low_light", light={"kind": "place", "place": "lantern_lit_yard"}, camera_move={"mount": "walking"},
        subject={"distance_m": [2, 10], "speed_m_s": 0.8}, pins={"camera": "limpet-7"},
    )  # fmt: skip
    made = plan_shot(what, KIT, KNOWN, schools=False)
    sheet = next(one for one in KIT.cameras if one.id == made.camera.id)
    return LadderBasis(
        what, made, sheet, KNOWN,
        lambda other: plan_shot(other, KIT, KNOWN, schools=False, only=sheet.id),
    )  # fmt: skip


def test_offered_ladders_differ_visibly_and_hold_the_rest(basis: LadderBasis) -> None:
    offers = offered(basis)
    assert {"iso_ceiling", "stabilisation"} <= {one.dial for one in offers}
    for one in offers:
        assert visible(one, KNOWN.limits)
        assert all(moved.what != "dial" for moved in not_held(one, KNOWN.limits))
        held = {name for name in basis.plan.chosen if name not in (one.dial, "camera")}
        assert len(held - set(one.held)) <= 3, one.dial  # what goes with the dial itself
        for rung in one.rungs:
            assert rung.pins[one.dial] == rung.value


def test_an_iso_ladder_locks_gain_and_says_that_brightness_moves(basis: LadderBasis) -> None:
    made = ladder_of(basis, "iso_ceiling", [800, 1600, 3200])
    assert [rung.planned.exposure.iso_used for rung in made.rungs] == [(800, 800), (1600, 1600), (3200, 3200)]
    assert len({rung.planned.exposure.shutter_used_s for rung in made.rungs}) == 1
    assert made.best_first == (0, 1, 2)
    told = [not_held_words(one, {}) for one in not_held(made, KNOWN.limits)]
    assert len(told) == 1
    assert told[0].startswith("Brightness moves")
    assert made.minutes == pytest.approx((6 * made.take_s + 5 * KNOWN.limits.ladder_change_s) / 60.0)
    assert step_words(made)[3] == "leave ISO\u202f3200, film 12\u202fs"


def test_a_ladder_of_views_may_be_asked_for_by_the_names_of_before(basis: LadderBasis) -> None:
    before, now = (ladder_of(basis, "view", views) for views in (["linear", "narrow"], ["rectilinear", "tight"]))
    assert before == now
    assert [rung.value for rung in now.rungs] == ["rectilinear", "tight"]


def test_under_automatic_exposure_a_ladder_says_what_the_camera_chooses(basis: LadderBasis) -> None:
    free = brief(light={"kind": "meter", "ev100": [9, 10]}, pins={"camera": "limpet-7", "shutter_s": "auto"})
    made = basis.planner(free)
    automatic = LadderBasis(free, made, basis.sheet, basis.knowledge, basis.planner)
    found = ladder_of(automatic, "iso_ceiling", [400, 1600])
    assert "exposure_time" in {one.what for one in not_held(found, KNOWN.limits)}


def test_bad_ladders_are_refused_with_what_is_to_be_had(basis: LadderBasis) -> None:
    for dial, values, said in (
        ("iso_ceiling", [800, 801], "801 is not to be had"),
        ("iso_ceiling", [800], "are 1"),
        ("iso_ceiling", [800, 800], "are 1"),
        ("focus", ["a", "b"], "ladders of focus are not made"),
    ):
        with pytest.raises(BadInput, match=said):
            ladder_of(basis, dial, values)
    with pytest.raises(BadInput, match="3 is not offered"):
        ladder_of(basis, "iso_ceiling", [800, 1600], passes=3)


def test_a_plan_that_changed_meanwhile_is_told(basis: LadderBasis) -> None:
    made = ladder_of(basis, "iso_ceiling", [800, 1600])
    assert changed_since(made, basis.plan.chosen) == {}
    now = {**basis.plan.chosen, "shutter_s": 0.004, "iso_ceiling": 100}
    assert changed_since(made, now) == {"shutter_s": (basis.plan.chosen["shutter_s"], 0.004)}


def test_a_statement_stands_with_its_evidence(basis: LadderBasis) -> None:
    from steady_tide.core.log.judging import RungFacts

    made = ladder_of(basis, "iso_ceiling", [800, 1600])
    said = statement(made, RungFacts(who="Wren", rung=1, good=3, of=3), (8.3, True), "Limpet 7", "dark")
    assert said == "ISO\u202f1600 on the Limpet 7 in the dark, 8.3 signal to noise: good enough for Wren, 3 of 3."


def test_every_dial_of_ladders_is_one_of_the_planners(basis: LadderBasis) -> None:
    assert set(DIALS) <= set(basis.plan.chosen)


def test_a_ladder_survives_being_kept_and_what_follows_from_it_is_not_kept(basis: LadderBasis) -> None:
    made = ladder_of(basis, "iso_ceiling", [800.0, 1600.0])
    assert [rung.value for rung in made.rungs] == [800, 1600]
    kept = made.model_dump(mode="json")
    assert set(kept) == {"dial", "camera", "rungs", "order", "take_s", "minutes"}
    read = Ladder.model_validate(json.loads(json.dumps(kept)))
    assert read.best_first == made.best_first == (0, 1)
    assert not_held(read, KNOWN.limits) == not_held(made, KNOWN.limits)
    assert read.held == json.loads(json.dumps(made.held))


def test_a_ladder_of_a_file_that_cannot_be_is_refused_and_an_odd_one_is_told(basis: LadderBasis) -> None:
    kept = ladder_of(basis, "iso_ceiling", [800, 1600]).model_dump(mode="json")
    for wrong, said in (({"dial": "focus"}, "are not made"), ({"order": [0, 7]}, "rung that is not there")):
        with pytest.raises(ValidationError, match=said):
            Ladder.model_validate({**kept, **wrong})
    kept["dial"] = "shutter_s"
    kept["rungs"][0]["value"] = "as fast as it goes"
    kept["rungs"][0]["planned"]["chosen"] |= {"frame": 7, "nobody_knows": {"a": 1}}
    odd = Ladder.model_validate(kept)
    assert rung_label(odd, 0) == "as fast as it goes"
    told = " ".join(not_held_words(one, {}) for one in not_held(odd, KNOWN.limits))
    assert "Nobody knows cannot stay: {'a': 1}" in told
    assert len(step_words(odd)) == len(odd.order)
    assert isinstance(visible(odd, KNOWN.limits), bool)


def test_a_ladder_without_a_quantity_is_told_and_asked_in_turn(basis: LadderBasis) -> None:
    made = ladder_of(basis, "sharpness", [entry.value for entry in basis.plan.profiles["sharpness"] if entry.legal][:3])
    assert made.quantity is None
    said = [Answer(at=NOON, who="Wren", how="pair", left=0, right=1, good=(1,))]
    filmed = filmed_ladder("a", "it", made, said, [])
    assert [(one.rung, one.amount, one.accepted) for one in filmed.judged] == [(0, None, False), (1, None, True)]
    assert limits_by_person(filmed, KNOWN) == {}
    assert pair_to_ask(filmed, "Wren", KNOWN) == (0, 2)
    with pytest.raises(BadInput, match="last frame is 2"):
        check_answer(made, Answer(at=NOON, who="Wren", how="pair", left=0, right=5))
