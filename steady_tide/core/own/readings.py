"""What the evidence tells: every own number with its readings, and what lacks readings still."""

from __future__ import annotations

from dataclasses import dataclass

from steady_tide.core.brief.own_numbers import OwnNumber
from steady_tide.core.own.kinds import KINDS
from steady_tide.core.own.own_kind import Evidence, OwnKind, Reading


@dataclass(frozen=True)
class Found:
    """A number that the evidence tells. number: None while there are too few readings; usual: what stands in its place;
    count: readings so far."""

    kind: OwnKind
    of: dict[str, str]
    number: OwnNumber | None
    usual: float | None
    count: int
    readings: tuple[Reading, ...]


def find_all(evidence: Evidence) -> tuple[Found, ...]:
    """All own numbers. evidence: takes, judgements, notes, clocks. Returns them by kind, those told by most first; of fewer
    than three readings there is no number, only how many there are."""
    least = int(evidence.limits.own_least_count)
    found: list[Found] = []
    for kind in KINDS:
        ours = [_found(kind, parts, readings, evidence, least) for parts, readings in kind.gather(evidence).items()]
        found += sorted(ours, key=lambda one: (-one.count, tuple(one.of.values())))
    return tuple(found)


def _found(kind: OwnKind, parts: tuple[str, ...], readings: list[Reading], evidence: Evidence, least: int) -> Found:
    of = dict(zip(kind.parts, parts, strict=True))
    # People and gear change: what was long ago counts no more once there is enough that is newer.
    newest = sorted(readings, key=lambda one: (one.at is not None, one.at), reverse=True)
    readings = newest[: int(evidence.limits.own_most_count)]
    usual = kind.usual(of, evidence.kit, evidence.knowledge)
    estimated = None if usual is None else kind.estimate(readings, usual, evidence.limits)
    count = len(readings) if estimated is None else estimated.count
    number = None
    if estimated is not None and count >= least:
        number = OwnNumber(
            kind=kind.id, of=of, value=estimated.value, low=estimated.low, high=estimated.high, spread=estimated.spread,
            count=count, usual=usual,
        )  # fmt: skip
    return Found(kind, of, number, usual, count, tuple(readings))
