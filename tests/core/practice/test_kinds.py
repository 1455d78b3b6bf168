"""Questions: the same from the same seed, never against the planner, judged as by trying everything."""

from __future__ import annotations

from itertools import permutations, product
from math import log2
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from steady_tide.core.light.sources import WaterLight
from steady_tide.core.practice.kinds import KINDS, ask, judge, topics
from steady_tide.core.practice.question import Question
from steady_tide.core.quantities.errors import BadInput, NoLegalPlan, NotFound
from tests.checks import at_least_one
from tests.core.practice.worlds import KIT, world

WORLD = world()


def of_code(code: str, seeds: int = 40) -> list[Question]:
    return [ask(WORLD, f"arithmetic:{code}", seed) for seed in range(seeds)]


def test_the_same_seed_asks_the_same_and_others_ask_something_else() -> None:
    for topic in (
        "arithmetic:density",
        "arithmetic:red",
        "dials:everyday_walk",
        "order:range",
        "menu:limpet-7/shutter_s",
    ):
        assert ask(WORLD, topic, 5) == ask(WORLD, topic, 5)
    assert len({ask(WORLD, "arithmetic:density", seed).facts["answer"] for seed in range(40)}) > 15
    assert len({ask(WORLD, "dials:everyday_walk", seed).model_dump_json(exclude={"seed"}) for seed in range(8)}) > 4


def test_there_is_enough_to_ask_and_all_of_it_can_be_asked() -> None:
    every = topics(world(None))
    assert len(every) == len(set(every)) > 150
    assert {topic.partition(":")[0] for topic in every} == set(KINDS)
    mine = topics(WORLD, ("menu",))
    assert mine
    assert all(topic.startswith("menu:limpet-7/") for topic in mine)
    assert "dials:over_land" not in topics(WORLD)
    not_shown = []
    for number, topic in enumerate(topics(WORLD)):
        try:
            question = ask(WORLD, topic, number)
        except NotFound:
            not_shown.append(topic)  # none of its shots shows that by itself
            continue
        assert question.form == "number" or all(len(row.values) >= 2 for row in question.rows), topic
    pictures = topics(WORLD, ("wrong", "which"))
    assert set(not_shown) <= set(pictures)
    assert len(not_shown) <= len(pictures) // 4, not_shown


def test_arithmetic_is_as_by_hand() -> None:
    for question in of_code("half_turn"):
        assert question.facts["answer"] == pytest.approx(1 / (2 * question.facts["rate"]))
    for question in of_code("density"):
        facts = question.facts
        by_hand = facts["ev100"] - 2 * log2(facts["f_number"]) - log2(2 * facts["rate"])
        assert facts["answer"] == pytest.approx(by_hand)
        assert 1 <= facts["answer"] <= 10
    for question in of_code("minutes"):
        facts = question.facts
        assert facts["answer"] * 60 * facts["stream_mb_s"] / 8 == pytest.approx(facts["card_gb"] * 1000)
    for question in of_code("lamp"):
        assert question.facts["lux"] * question.facts["answer"] ** 2 == pytest.approx(question.facts["lux_at_1m"])
    assert all(question.facts["answer"] >= 2 for question in of_code("slow"))


@pytest.mark.parametrize("code", ["half_turn", "density", "slow", "minutes", "lamp", "red"])
def test_the_bench_can_do_the_same_sum(code: str) -> None:
    for question in at_least_one(of_code(code, 8)):
        assert question.brief is not None
        plan = world(None).planned(question.brief, None)
        facts = question.facts
        if code == "half_turn":
            assert plan.settings.frame_rate == facts["rate"]
        elif code == "density":
            assert plan.exposure.ev100 == (facts["ev100"], facts["ev100"])
        elif code == "slow":
            assert question.brief.delivery.slow_factor == pytest.approx(facts["answer"])
        elif code == "minutes":
            assert question.brief.take.length_s == pytest.approx(60.0 * facts["answer"])
        elif code == "red":
            assert isinstance(question.brief.light, WaterLight)
            assert question.brief.light.depth_m[1] == pytest.approx(facts["answer"])
        elif code == "lamp":
            assert plan.exposure.ev100[1] == pytest.approx(log2(facts["lux"] / 2.5), abs=0.02)


@given(
    st.sampled_from(["half_turn", "density", "slow", "minutes", "lamp", "red"]), st.integers(0, 500), st.floats(-6, 6)
)
def test_an_answer_is_off_by_as_many_stops_as_it_is_off(code: str, seed: int, off: float) -> None:
    question = ask(WORLD, f"arithmetic:{code}", seed)
    true = question.facts["answer"]
    said = true + off if code == "density" else true * 2**off
    if said <= 0:
        return
    judged = judge(WORLD, question, said)
    assert judged.price_stops == pytest.approx(abs(off) * (2 if code == "lamp" else 1), abs=1e-6)
    assert judged.right == (judged.price_stops <= 0.25)
    assert judged.best == true


@pytest.mark.parametrize("use", ["everyday_walk", "night_street", "dive", "splash", "window_talk"])
def test_setting_dials_costs_what_the_planner_says_for_every_combination(use: str) -> None:
    question = ask(WORLD, f"dials:{use}", 7)
    assert question.brief is not None
    best = WORLD.planned(question.brief, "limpet-7")
    cheapest = []
    for places in product(*(range(len(row.values)) for row in question.rows)):
        judged = judge(WORLD, question, places)
        pins = {row.dial or "": row.values[place] for row, place in zip(question.rows, places, strict=True)}
        try:
            made = WORLD.planned(question.brief.model_copy(update={"pins": pins}), "limpet-7")
        except NoLegalPlan:
            assert judged.code == "not_together"
            assert not judged.right
            continue
        assert judged.price_stops == pytest.approx(made.given_up_stops - best.given_up_stops, abs=1e-9)
        if judged.price_stops < 1e-9:
            cheapest.append(places)
    assert judge(WORLD, question, cheapest[0]).best in cheapest
    said = {
        row.dial: row.values[place]
        for row, place in zip(question.rows, judge(WORLD, question, cheapest[0]).best, strict=True)
    }
    assert said.items() <= best.chosen.items()


@pytest.mark.parametrize("topic", ["order:range", "order:everyday_walk", "order:snow", "order:dive"])
def test_an_order_is_right_only_where_no_pair_stands_the_wrong_way_round(topic: str) -> None:
    question = ask(WORLD, topic, 11)
    costs = question.facts["costs"]
    assert sorted(set(costs)) == sorted(costs)
    for order in permutations(range(len(costs))):
        judged = judge(WORLD, question, order)
        inverted = [costs[a] - costs[b] for n, a in enumerate(order) for b in order[n + 1 :] if costs[a] > costs[b]]
        assert judged.price_stops == pytest.approx(max(inverted, default=0.0))
        assert judged.right == (not inverted)
        assert [costs[place] for place in judged.best] == sorted(costs)


def test_a_dial_is_on_the_page_of_the_sheet() -> None:
    for camera in at_least_one(KIT.cameras):
        if len(camera.menu) < 2:
            continue
        entry = camera.menu[-1].dials[0]
        question = ask(world(camera.id), f"menu:{camera.id}/{entry.dial}", 1)
        assert question.rows[0].values[judge(WORLD, question, 0).best] == camera.menu[-1].page
        assert judge(WORLD, question, len(camera.menu) - 1).right


ANYTHING = st.one_of(
    st.none(), st.text(max_size=3), st.booleans(), st.floats(), st.integers(-3, 9),
    st.lists(st.integers(-2, 5), max_size=5).map(tuple),
)  # fmt: skip


@given(st.sampled_from(["arithmetic:lamp", "dials:everyday_walk", "order:range", "menu:limpet-7/shutter_s"]), ANYTHING)
def test_whatever_is_answered_is_judged_or_refused_in_words(topic: str, said: Any) -> None:
    question = ask(WORLD, topic, 2)
    try:
        judged = judge(WORLD, question, said)
    except BadInput as error:
        assert "answer" in str(error)
        return
    assert judged.price_stops >= 0.0


@pytest.mark.parametrize(
    "topic", ["", "arithmetic", "arithmetic:juggling", "dials:juggling", "order:", "menu:limpet-7/none", ":"]
)
def test_what_cannot_be_asked_is_said(topic: str) -> None:
    with pytest.raises(NotFound, match="nothing to practise"):
        ask(WORLD, topic, 1)


def test_a_use_that_the_camera_cannot_film_is_refused_as_the_planner_refuses_it() -> None:
    with pytest.raises(NoLegalPlan):
        ask(WORLD, "dials:over_land", 1)
