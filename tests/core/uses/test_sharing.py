"""Uses that share a preset: the cheapest, as all of them tried one by one."""

from __future__ import annotations

import pytest

from steady_tide import library
from steady_tide.core.brief.brief import Brief
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan
from steady_tide.core.quantities.errors import NoLegalPlan
from steady_tide.core.uses.sharing import sharing
from steady_tide.core.uses.standing import PlannedUse, standing_of

KIT = library.demo_kit()
USES = ("everyday_walk", "night_street", "snorkel", "pov_ride", "window_talk", "clouds", "stage")


@pytest.mark.parametrize("camera", ["limpet-7", "yawl-12", "winkle"])
def test_the_cheapest_preset_of_another_is_found_as_by_trying_all(camera: str) -> None:
    def planned(brief: Brief) -> Plan:
        return plan(brief, KIT, library.knowledge(), only=camera, schools=False)

    uses = []
    for name in USES:
        use = library.uses()[name]
        try:
            uses.append(PlannedUse(use.id, use.name, use.per_year, planned(use.brief)))
        except NoLegalPlan:
            continue
    sheet = KIT.camera(camera)
    assert sheet is not None
    standing = standing_of(sheet, uses)
    asked = 0

    def counted(brief: Brief) -> Plan:
        nonlocal asked
        asked += 1
        return planned(brief)

    briefs = {use.id: library.uses()[use.id].brief for use in uses}
    found = {one.use: one for one in sharing(standing, uses, briefs, counted)}
    assert set(found) == set(briefs)
    for use in uses:
        prices = {}
        for preset in standing.presets:
            if preset.use == use.id:
                continue
            try:
                made = planned(briefs[use.id].model_copy(update={"pins": preset.values}))
            except NoLegalPlan:
                continue
            prices[preset.number] = max(0.0, made.given_up_stops - use.plan.given_up_stops)
        one = found[use.id]
        if not prices:
            assert one.preset is None
            assert one.costs_stops is None
            continue
        assert one.costs_stops == pytest.approx(min(prices.values()), abs=1e-6), use.id
        assert prices[one.preset or 0] == pytest.approx(min(prices.values()), abs=1e-6)
    assert asked <= len(uses) * len(standing.presets)
    priced = [one.costs_stops for one in found.values() if one.costs_stops is not None]
    assert priced == sorted(priced)
