"""Laws: plans of briefs that nobody wrote are held to what every operator takes for granted."""

from __future__ import annotations

import numpy as np
import pytest

from bench.laws import MOST, drawn, smallest, tally
from steady_tide import library
from steady_tide.core.brief.brief import read_brief
from steady_tide.core.laws.all_laws import LAWS
from steady_tide.core.laws.drawing import draw
from steady_tide.core.laws.law import Case, Law
from steady_tide.core.laws.shrinking import shrunk
from tests.briefs import SUN, brief
from tests.checks import at_least_one

KIT, KNOWN = library.demo_kit(), library.knowledge()
SEED, BRIEFS = 20_261_202, 160
MOST_HERE = 2  # of one law; a share of so few cases says little


def test_plans_of_briefs_that_nobody_wrote_keep_the_laws() -> None:
    found = tally(SEED, range(BRIEFS), tuple(law.id for law in LAWS))
    assert found.planned > BRIEFS / 2
    told = {law: broken for law, broken in found.broken.items() if broken}
    assert all(len(broken) <= MOST_HERE for broken in told.values()), told
    share = sum(map(len, told.values())) / found.applied.total()
    assert share <= MOST, told


def test_the_same_seed_draws_the_same_briefs_and_all_kinds_of_shot_come_up() -> None:
    first, again = ([drawn(SEED, number) for number in range(12)] for _ in range(2))
    assert first == again
    assert {one.scenario for one in first} == set(KNOWN.scenarios)
    other = draw(np.random.default_rng(SEED + 1), 0, KIT, KNOWN)
    assert other != first[0]


def test_every_law_has_a_name_of_its_own_and_a_sentence() -> None:
    assert len({law.id for law in LAWS}) == len(LAWS)
    for law in at_least_one(LAWS):
        assert law.says.endswith("."), law.id


def test_a_brief_is_made_smaller_as_far_as_it_still_breaks() -> None:
    asked = brief(
        scenario="motion", take={"length_s": 900.0, "count": 4}, sound={"wind_m_s": 9.0}, glare=True, air_c=-3.0,
        camera_move={"mount": "helmet", "travel_m_s": 8.0},
    )  # fmt: skip
    left = shrunk(asked, lambda one: one.sound.wind_m_s > 5.0 and one.camera_move.mount == "helmet")
    assert left == {
        "light": left["light"],
        "scenario": "motion",
        "camera_move": {"mount": "helmet"},
        "sound": {"wind_m_s": 9.0},
    }
    windy = Law("windy", "No wind blows.", lambda case: True, lambda case: "it blows" if case.at.wind_m_s > 5.0 else "")
    assert smallest(windy, asked) == {
        "light": left["light"],
        "scenario": "motion",
        "sound": {"wind_m_s": 9.0},
    }, "the ride's own wind is not needed"


BROKEN_BY = {
    "polariser": ({"nd": ("pol",)}, {}),
    "lapse_balance": ({"white_balance_k": "auto"}, {"scenario": "lapse", "take": {"length_s": 7200.0}}),
    "balance": ({"white_balance_k": 3200}, {}),
    "locked": ({"iso_ceiling": 1600}, {"light": {"kind": "meter", "ev100": [9.0, 9.0]}}),
}


@pytest.mark.parametrize("name", BROKEN_BY)
def test_a_plan_with_a_value_that_no_operator_sets_breaks_its_law(name: str) -> None:
    """A pin sets the value; the law looks at the plan as if it had been chosen."""
    pins, fields = BROKEN_BY[name]
    law = next(law for law in LAWS if law.id == name)
    asked = read_brief({"light": SUN, **fields, "pins": {"camera": "limpet-7", **pins}})
    assert law.broken(Case(asked, KIT, KNOWN)), "the law can fail"
    free = read_brief({"light": SUN, **fields, "pins": {"camera": "limpet-7"}})
    assert not law.broken(Case(free, KIT, KNOWN)), "and is kept where nothing is pinned"
