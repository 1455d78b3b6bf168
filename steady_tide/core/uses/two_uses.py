"""Two uses side by side on one camera: where their settings differ, and what each costs in the other's light."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from steady_tide.core.brief.brief import Brief
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.prices import fixed_cost, price_of
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.uses.use import Use

PUT_ON = ("nd", "colour_filter", "attachment", "housing", "microphone")  # what no camera stores

Planned = Callable[[Brief], Plan]
Two = tuple[float | None, float | None]


class BesideDial(Frozen):
    """A dial at which two uses differ. values: of the first and of the second; costs: what the first's value costs in the second's light, and the
    second's in the first's, in stops, where it alone is fixed and all else planned anew; None where it cannot be had there."""

    dial: str
    values: tuple[Any, Any]
    costs: Two


class Beside(Frozen):
    """Two uses on one camera. given_up: what each gives up in its own light, stops; whole: what the first's settings cost in the second's light, and
    the other way round, beyond what that gives up; stored: the same where glass, housing and the like are put on anew, as with a preset that both share."""

    camera: str
    name: str
    uses: tuple[str, str]
    titles: tuple[str, str]
    given_up: tuple[float, float]
    dials: tuple[BesideDial, ...]
    same: int
    whole: Two
    stored: Two


def beside(uses: tuple[Use, Use], planned: Planned) -> Beside:
    """Lay two uses side by side.

    uses: two; planned: plans a brief on the camera. Returns where they differ, dials in the order of the setting sheet. Raises NoLegalPlan where the camera
    cannot film one of them.
    """
    plans = tuple(planned(use.brief) for use in uses)
    differing = [
        dial
        for dial, value in plans[0].chosen.items()
        if dial != "camera" and dial in plans[1].chosen and plans[1].chosen[dial] != value
    ]

    def shared(but: tuple[str, ...]) -> Two:
        kept = [{dial: value for dial, value in one.chosen.items() if dial not in ("camera", *but)} for one in plans]
        return (
            price_of(uses[1].brief, plans[1], kept[0], planned),
            price_of(uses[0].brief, plans[0], kept[1], planned),
        )

    return Beside(
        camera=plans[0].camera.id,
        name=plans[0].camera.name,
        uses=(uses[0].id, uses[1].id),
        titles=(uses[0].name, uses[1].name),
        given_up=(plans[0].given_up_stops, plans[1].given_up_stops),
        dials=tuple(
            BesideDial(
                dial=dial,
                values=(plans[0].chosen[dial], plans[1].chosen[dial]),
                costs=(
                    fixed_cost(plans[1], dial, plans[0].chosen[dial]),
                    fixed_cost(plans[0], dial, plans[1].chosen[dial]),
                ),
            )
            for dial in differing
        ),
        same=len(plans[0].chosen) - 1 - len(differing),
        whole=shared(()),
        stored=shared(PUT_ON),
    )
