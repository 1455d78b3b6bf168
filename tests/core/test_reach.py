"""What the gauge draws is what the ledger prices: each ISO and each glass, tried by planning with all dials held."""

from __future__ import annotations

from typing import Any

import pytest

from steady_tide.core.planning.plan import Plan
from tests.briefs import EELGRASS, QUAY, decided

BRIEFS: dict[str, dict[str, Any]] = {
    "in the sun": {**QUAY, "light": {"kind": "meter", "ev100": [11, 15]}},
    "half a stop brighter": {
        **QUAY,
        "light": {"kind": "meter", "ev100": [3, 9]},
        "pins": {"exposure_compensation": 0.5},
    },
    "two stops darker": {**QUAY, "light": {"kind": "meter", "ev100": [3, 9]}, "pins": {"exposure_compensation": -2}},
    "under water": {**EELGRASS},
}


def told(plan: Plan, item: str) -> float:
    return next((entry.stops for entry in plan.ledger if entry.item == item), 0.0)


@pytest.mark.parametrize("name", BRIEFS)
def test_the_reach_of_every_value_is_that_of_a_plan_with_it(name: str) -> None:
    fields = {**BRIEFS[name], "kit": {**BRIEFS[name].get("kit", {}), "cameras": ["limpet-7"]}}
    plan = decided(**fields)
    exposure = plan.exposure
    assert exposure.over_stops == pytest.approx(told(plan, "over"), abs=1e-9)
    assert exposure.under_stops == pytest.approx(told(plan, "under"), abs=1e-9)
    tried = 0
    for dial, reaches in exposure.reaches.items():
        own = next(reach for reach in reaches if reach.value == plan.chosen[dial])
        assert (own.low_ev100, own.high_ev100) == pytest.approx(exposure.reach_ev100)
        assert (own.over_stops, own.under_stops) == pytest.approx((exposure.over_stops, exposure.under_stops))
        assert own.glass_stops == pytest.approx(exposure.nd_stops)
        assert [r.high_ev100 for r in reaches] == sorted(r.high_ev100 for r in reaches)
        for reach in (reaches[0], reaches[len(reaches) // 2], reaches[-1]):
            held = decided(**{**fields, "pins": {**plan.chosen, "camera": "limpet-7", dial: reach.value}})
            assert held.exposure.over_stops == pytest.approx(reach.over_stops, abs=1e-9), (dial, reach.value)
            assert held.exposure.under_stops == pytest.approx(reach.under_stops, abs=1e-9), (dial, reach.value)
            assert held.exposure.reach_ev100 == pytest.approx((reach.low_ev100, reach.high_ev100))
            tried += 1
    assert tried == 9
