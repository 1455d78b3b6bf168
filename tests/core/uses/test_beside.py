"""Two uses side by side: prices as the planner alone has them, the same from both sides."""

from __future__ import annotations

import pytest

from steady_tide import library
from steady_tide.core.brief.brief import Brief
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan
from steady_tide.core.quantities.errors import NoLegalPlan
from steady_tide.core.uses.two_uses import beside
from steady_tide.core.uses.use import Use

KIT = library.demo_kit()


def on_limpet(brief: Brief) -> Plan:
    return plan(brief, KIT, library.knowledge(), only="limpet-7", schools=False)


def two(first: str, second: str) -> tuple[Use, Use]:
    return library.uses()[first], library.uses()[second]


@pytest.mark.parametrize(
    ("first", "second"), [("everyday_walk", "night_street"), ("snow", "everyday_walk"), ("stage", "pov_ride")]
)
def test_each_price_is_that_of_the_plan_with_that_value_pinned(first: str, second: str) -> None:
    found = beside(two(first, second), on_limpet)
    brief = library.uses()[second].brief
    own = on_limpet(brief)
    for line in found.dials:
        try:
            pinned = on_limpet(brief.model_copy(update={"pins": {line.dial: line.values[0]}})).given_up_stops
        except NoLegalPlan:
            assert line.costs[0] is None
            continue
        assert line.costs[0] == pytest.approx(pinned - own.given_up_stops, abs=1e-6), line.dial
    all_of_them = {
        dial: value for dial, value in on_limpet(library.uses()[first].brief).chosen.items() if dial != "camera"
    }
    pinned_all = on_limpet(brief.model_copy(update={"pins": all_of_them}))
    assert found.whole[0] == pytest.approx(pinned_all.given_up_stops - own.given_up_stops, abs=1e-6)
    assert {dial: value for dial, value in pinned_all.chosen.items() if dial in all_of_them} == all_of_them


def test_the_other_way_round_is_the_same_the_other_way_round() -> None:
    there = beside(two("everyday_walk", "night_street"), on_limpet)
    back = beside(two("night_street", "everyday_walk"), on_limpet)
    assert there.whole == back.whole[::-1]
    assert there.stored == back.stored[::-1]
    assert {line.dial: line.costs for line in there.dials} == {line.dial: line.costs[::-1] for line in back.dials}


def test_no_single_value_costs_more_than_all_and_glass_put_on_anew_never_costs_more() -> None:
    found = beside(two("everyday_walk", "night_street"), on_limpet)
    for side in (0, 1):
        whole, stored = found.whole[side], found.stored[side]
        assert whole is not None
        assert stored is not None
        assert stored <= whole + 1e-9
        assert max(line.costs[side] or 0.0 for line in found.dials) <= whole + 1e-9


def test_a_use_beside_itself_differs_nowhere_and_an_interval_film_cannot_be_a_walk() -> None:
    same = beside(two("snow", "snow"), on_limpet)
    assert same.dials == ()
    assert same.whole == same.stored == (0.0, 0.0)
    assert beside(two("everyday_walk", "clouds"), on_limpet).whole == (None, None)
    with pytest.raises(NoLegalPlan):
        beside(two("everyday_walk", "over_land"), on_limpet)


def test_glass_that_is_not_offered_for_the_other_is_told_apart_from_what_is_stored() -> None:
    found = beside(two("beach_surf", "everyday_walk"), on_limpet)
    assert "pol" in on_limpet(library.uses()["beach_surf"].brief).chosen["nd"]
    assert found.whole[0] is None
    assert found.stored[0] is not None
