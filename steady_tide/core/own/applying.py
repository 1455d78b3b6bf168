"""The one door by which own numbers enter the planner: typical, then the sheet's, then one's own."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.brief.own_numbers import Own, OwnNumber
from steady_tide.core.gear.kit import Kit
from steady_tide.core.own.kinds import BY_ID
from steady_tide.core.own.own_kind import Applied, Of

GEAR = ("camera", "filter", "medium")  # parts of what numbers are of


def read_number(plain: Any) -> OwnNumber:
    """An own number from plain values. plain: as it was kept, what it is of in any order. Returns it, that in its kind's order."""
    number = OwnNumber.model_validate(plain)
    kind = BY_ID.get(number.kind)
    if kind is None or set(kind.parts) != set(number.of):
        return number
    return number.model_copy(update={"of": {part: number.of[part] for part in kind.parts}})


def with_own_numbers(kit: Kit, knowledge: Knowledge, numbers: Sequence[OwnNumber]) -> Applied:
    """Lay own numbers over what is typical and what sheets say.

    kit, knowledge: without any; numbers: those that are switched on. What a number is of may be gone: then it is left out.
    Returns kit and knowledge; with no numbers the very same ones.
    """
    applied: list[OwnNumber] = []
    for number in numbers:
        kind = BY_ID.get(number.kind)
        if kind is None or not kind.enters or tuple(number.of) != kind.parts:
            continue
        usual = kind.usual(number.of, kit, knowledge)
        if usual is None:
            continue
        applied.append(number.model_copy(update={"usual": usual, "names": names_of(number.of, kit, knowledge)}))
        kit, knowledge = kind.apply(number, kit, knowledge)
    if not applied:
        return kit, knowledge
    return kit, knowledge.model_copy(update={"own": Own(numbers=tuple(applied))})


def names_of(of: Of, kit: Kit, knowledge: Knowledge) -> dict[str, str]:
    """What that is called which a number is of. of: ids by part. Returns names by part."""
    gear, mounts = kit.names, knowledge.mounts
    known = {"mount": {mount.id: mount.phrase or mount.name for mount in mounts.values()}}
    return {part: known.get(part, gear if part in GEAR else {}).get(value, value) for part, value in of.items()}
