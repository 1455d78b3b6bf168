"""What each step contributed to the light of a brief, in stops: the light is worked out again with one part more."""

from __future__ import annotations

from typing import Any

from pydantic import Field

from steady_tide.core.light.resolving import World, resolve
from steady_tide.core.light.sources import LampLight, SkyLight, WaterLight
from steady_tide.core.quantities.frozen import Frozen

Variant = tuple[str, dict[str, Any], Any]
NO_PATH_M = (1e-6, 1e-6)


class Step(Frozen):
    """One contribution. The first of a light says where it starts, the others what they change."""

    code: str
    facts: dict[str, Any] = Field(default_factory=dict)
    stops: tuple[float, float]  # at the dim and the bright end: EV at ISO 100 for the first, differences after


def steps(light: Any, world: World, distance_m: tuple[float, float]) -> tuple[Step, ...]:
    """Tell a light in steps.

    light: of a brief; world: places, skies, waters; distance_m: from subject to lens, nearest and farthest,
    metres. Returns the steps; added up, end by end, they come to the light's band. Raises as `resolve` does.
    """
    if isinstance(light, SkyLight):
        variants: list[Variant] = [
            ("open_sky", {}, light.model_copy(update={"cloud": "clear", "shade": "open"})),
            ("cloud", {"cloud": light.cloud}, light.model_copy(update={"shade": "open"})),
            ("shade", {"shade": light.shade}, light),
        ]
        return _with_steps((), variants, world, distance_m)
    if isinstance(light, LampLight):
        lamps = light.lamps
        before = () if light.ambient is None else steps(light.ambient, world, distance_m)
        variants = [
            ("lamp", {"number": n, "lux": lamps[n - 1].lux}, light.model_copy(update={"lamps": lamps[:n]}))
            for n in range(1, len(lamps) + 1)
        ]
        return _with_steps(before, variants, world, distance_m)
    if isinstance(light, WaterLight):
        bare = light.model_copy(update={"lamps": (), "depth_m": (0.0, 0.0)})
        down = light.model_copy(update={"lamps": ()})
        before = steps(light.surface, world, distance_m)
        told = _with_steps(before, [("surface", {}, bare)], world, NO_PATH_M)
        told = _with_steps(told, [("overhead", {}, down)], world, NO_PATH_M)
        rest: list[Variant] = [("to_lens", {}, down), *([("lamps", {}, light)] if light.lamps else [])]
        return _with_steps(told, rest, world, distance_m)
    return _with_steps((), [("source", resolve(light, world).source, light)], world, distance_m)


def _with_steps(
    before: tuple[Step, ...], variants: list[Variant], world: World, distance_m: tuple[float, float]
) -> tuple[Step, ...]:
    told = list(before)
    low, high = (sum(step.stops[end] for step in told) for end in (0, 1))
    for code, facts, variant in variants:
        at = resolve(variant, world, distance_m).ev100
        told.append(Step(code=code, facts=facts, stops=(at[0] - low, at[1] - high)))
        low, high = at
    return tuple(told)
