"""What recurs over many takes: a fault that some camera, mount, person, light, place or kind of shot has more than others."""

from __future__ import annotations

from collections.abc import Sequence

from steady_tide.core.log.posterior import chance_above, share_of
from steady_tide.core.log.take import FaultCode, TakeSeen
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.limits import Limits

# By what takes are grouped.
BY = ("camera", "mount", "hands", "light", "scenario", "place")


class Recurring(Frozen):
    """A fault that comes again. by, of: which takes; others_share: of all other takes that have it; low_share: the least
    that the share may be, nineteen times in twenty; takes: those that have it."""

    fault: FaultCode
    by: str
    of: str
    with_it: int
    count: int
    others_share: float
    low_share: float
    takes: tuple[str, ...]


def attribute(take: TakeSeen, by: str) -> str | None:
    """What a take has of one attribute. by: one of `BY`."""
    if by in ("camera", "mount", "hands"):
        said: str | None = getattr(take.said, by)
        return said
    known: str | None = getattr(take, by)
    return known


def recurring(takes: Sequence[TakeSeen], limits: Limits) -> tuple[Recurring, ...]:
    """What recurs in takes. takes: of any days; limits: of judgement. Returns faults, the plainest first, each fault once
    for the group that tells it best.

    A group tells a fault where it has it often enough, and surely more often than all other takes.
    """
    found: dict[FaultCode, Recurring] = {}
    for by in BY:
        groups: dict[str, list[TakeSeen]] = {}
        for take in takes:
            value = attribute(take, by)
            if value:
                groups.setdefault(value, []).append(take)
        for value, group in groups.items():
            for told in _of_group(by, value, group, takes, limits):
                before = found.get(told.fault)
                if before is None or _plain(told) > _plain(before):
                    found[told.fault] = told
    return tuple(sorted(found.values(), key=_plain, reverse=True))


def _plain(one: Recurring) -> float:
    return one.low_share - one.others_share


def _of_group(
    by: str, value: str, group: Sequence[TakeSeen], takes: Sequence[TakeSeen], limits: Limits
) -> list[Recurring]:
    found = []
    inside = {take.key for take in group}
    others = [take for take in takes if take.key not in inside]
    for fault in dict.fromkeys(fault for take in group for fault in take.faults):
        having = [take for take in group if fault in take.faults]
        if len(having) < limits.recurs_takes:
            continue
        low = share_of(len(having), len(group)).low
        elsewhere = sum(fault in take.faults for take in others)
        sure = chance_above(len(having), len(group), elsewhere, len(others))
        if len(having) / len(group) < limits.recurs_share or sure < limits.recurs_sure_share:
            continue
        found.append(
            Recurring(
                fault=fault,
                by=by,
                of=value,
                with_it=len(having),
                count=len(group),
                others_share=elsewhere / len(others) if others else 0.0,
                low_share=low,
                takes=tuple(take.key for take in having),
            )
        )
    return found
