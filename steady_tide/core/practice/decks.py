"""Decks: practice of one kind of shot, of another way of working, or of what goes wrong in one's own takes."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import get_args

from pydantic import ValidationError

from steady_tide.core.brief.brief import USUAL_SCHOOL, School
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.log.take import TakeSeen
from steady_tide.core.practice.question import Past, World
from steady_tide.core.quantities.errors import BadInput, Fault
from steady_tide.core.uses.use import Use

LOG = "log"


def decks_of(uses: Mapping[str, Use], knowledge: Knowledge, past: Past | None) -> tuple[str, ...]:
    """Decks that there are, as ids: kinds of shot that some use has, ways of working that are not the usual, one's own faults where there are any. uses: the whole shelf; past: of
    one's takes."""
    kinds = {use.brief.scenario for use in uses.values()}
    found = [f"scenario:{scenario}" for scenario in knowledge.scenarios if scenario in kinds]
    for axis, field in School.model_fields.items():
        usual = getattr(USUAL_SCHOOL, axis)
        literal = next((one for one in get_args(field.annotation) if get_args(one)), None)
        if usual is not None and literal is not None:
            found += [f"school:{axis}:{side}" for side in get_args(literal) if side != usual]
    return (*found, *((LOG,) if past is not None and past.faults else ()))


def in_deck(world: World, deck: str, past: Past | None = None) -> World:
    """A world with the questions of a deck. deck: id, all questions if empty; past: what went wrong in one's own takes. Returns another. Raises BadInput where there is no such deck."""
    if not deck:
        return world
    kind, _, of = deck.partition(":")
    if kind == "scenario" and of in world.knowledge.scenarios:
        uses = {key: use for key, use in world.uses.items() if use.brief.scenario == of}
        return replace(world, uses=uses, scenario=of)
    if kind == "school":
        axis, _, side = of.partition(":")
        try:
            return replace(world, school=School.model_validate({axis: side}))
        except ValidationError:
            pass
    if deck == LOG:
        return replace(world, past=past or Past(faults=(), scenarios=()))
    raise BadInput(Fault("deck", f"there is no deck '{deck[:60]}'", "Use one that is listed, or none."))


def past_of(takes: Sequence[TakeSeen]) -> Past:
    """What went wrong in takes. takes: of any days. Returns their faults and the kinds of shot in which they came, the most frequent first."""
    faults = Counter(fault for take in takes for fault in take.faults)
    scenarios = Counter(take.scenario for take in takes if take.faults and take.scenario)
    return Past(
        faults=tuple(faults.most_common()), scenarios=tuple(scenario for scenario, _ in scenarios.most_common())
    )
