"""What it costs when a use is filmed with another's preset, as it is stored: fewer presets, or fewer taps, for a price in stops."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from steady_tide.core.brief.brief import Brief
from steady_tide.core.planning.prices import fixed_cost, price_of
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.uses.standing import PlannedUse, Standing, StandingPreset
from steady_tide.core.uses.two_uses import Planned


class Shared(Frozen):
    """A use with the preset of another one that costs it least. preset: its number; costs_stops: beyond what the use gives up by itself, glass and housing being
    put on anew; turned: dials that are left as stored; None and none where no preset can film it."""

    use: str
    name: str
    preset: int | None
    preset_use: str
    preset_name: str
    costs_stops: float | None
    turned: tuple[str, ...]


def sharing(
    standing: Standing, uses: Sequence[PlannedUse], briefs: Mapping[str, Brief], planned: Planned
) -> tuple[Shared, ...]:
    """Price each use with the presets of others.

    standing: presets that are stored; uses: that they were chosen for; briefs: of the uses, by id; planned: plans a brief on the camera. Returns the uses,
    cheapest first. A value alone never costs more than all values together, so presets whose dearest value costs more than the best one are not planned.
    """
    found = [_cheapest(use, briefs[use.id], standing.presets, planned) for use in uses]
    return tuple(sorted(found, key=lambda one: (one.costs_stops is None, one.costs_stops or 0.0, one.use)))


def _cheapest(use: PlannedUse, brief: Brief, presets: Sequence[StandingPreset], planned: Planned) -> Shared:
    waiting: list[tuple[float, int, StandingPreset, dict[str, Any]]] = []
    for preset in presets:
        if preset.use == use.id:
            continue
        values = {dial: value for dial, value in preset.values.items() if use.plan.chosen.get(dial) != value}
        alone = [fixed_cost(use.plan, dial, value) for dial, value in values.items()]
        known = [cost for cost in alone if cost is not None]
        if len(known) == len(alone):
            waiting.append((max(known, default=0.0), preset.number, preset, values))
    best: tuple[float, StandingPreset, dict[str, Any]] | None = None
    for least, _, preset, values in sorted(waiting, key=lambda one: one[:2]):
        if best is not None and least >= best[0]:
            break
        cost = price_of(brief, use.plan, preset.values, planned)  # what is alike stays so, too
        if cost is not None and (best is None or cost < best[0]):
            best = (cost, preset, values)
    if best is None:
        return Shared(
            use=use.id, name=use.name, preset=None, preset_use="", preset_name="", costs_stops=None, turned=()
        )
    cost, preset, values = best
    return Shared(
        use=use.id,
        name=use.name,
        preset=preset.number,
        preset_use=preset.use,
        preset_name=preset.name,
        costs_stops=cost,
        turned=tuple(values),
    )
