"""What is known of the world and of the job, as data: places, skies, waters, mounts, cells, and all judgement."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from steady_tide.core.brief.own_numbers import Own
from steady_tide.core.brief.scenarios import Scenario
from steady_tide.core.gear.items import Chemistry, Mount
from steady_tide.core.light.resolving import World
from steady_tide.core.light.sky import SkyStops
from steady_tide.core.light.sources import Place
from steady_tide.core.light.water import Waters
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.identity_cache import once_for_each
from steady_tide.core.quantities.limits import Limits


class Weight(Frozen):
    """How much a stop of one item matters, and why."""

    weight: Annotated[float, Field(ge=0, le=1000)]
    why: str


class Limit(Frozen):
    """A number of judgement that is no weight, and why."""

    value: float
    why: str


class Weights(Frozen):
    """All judgement that is a number: base weights, what scenarios, schools and cases change, limits."""

    items: dict[str, Weight]
    scenarios: dict[str, dict[str, Weight]]
    schools: dict[str, dict[str, dict[str, Weight]]]
    cases: dict[str, dict[str, Weight]]
    limits: dict[str, Limit]
    noise_limit_snr: dict[str, float]
    sources: dict[str, str]


class Knowledge(Frozen):
    """What is known of the world, as data. own: one's own numbers that are switched on."""

    places: dict[str, Place]
    mounts: dict[str, Mount]
    weights: Weights
    sky: SkyStops
    waters: Waters
    chemistries: dict[str, Chemistry]
    scenarios: dict[str, Scenario]
    own: Own = Own()

    def noise_limit_snr(self, school: str, hands: str | None) -> float:
        """Least signal to noise that is good enough. school: of noise; hands: who films. What one judged good enough is the
        balanced school's; the others keep their distance from it."""
        usual = self.weights.noise_limit_snr
        judged = self.own.noise(hands)
        return usual[school] if judged is None else judged.value * usual[school] / usual["balanced"]

    @property
    def world(self) -> World:
        """Places, skies and waters, as light is worked out from them."""
        return World(self.places, self.sky, self.waters)

    @property
    def limits(self) -> Limits:
        """Numbers of judgement that are no weights, by name."""
        return _values_of(self.weights)


@once_for_each
def _values_of(weights: Weights) -> Limits:
    return Limits.model_validate({name: entry.value for name, entry in weights.limits.items()})
