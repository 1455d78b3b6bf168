"""What one kind of own number is: its one definition."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime

from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.brief.own_numbers import OwnNumber
from steady_tide.core.gear.kit import Kit
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.log.judging import JudgedRung
from steady_tide.core.log.notes import Note
from steady_tide.core.log.posterior import Estimated
from steady_tide.core.log.take import TakeSeen
from steady_tide.core.quantities.limits import Limits


@dataclass(frozen=True)
class Reading:
    """One thing that tells a number. value: in the number's unit; says: where it comes from, a code with its facts; at: when;
    take: key of it; group: what it has in common with others, such as one shot; accepted: of a judgement."""

    value: float
    source: str
    says: dict[str, str | float]
    at: datetime | None = None
    take: str | None = None
    group: str | None = None
    accepted: bool | None = None


@dataclass(frozen=True)
class Clock:
    """How far a camera's clock runs ahead, seconds, and how many clips say so."""

    camera: str
    ahead_s: float
    clips: int


@dataclass(frozen=True)
class Evidence:
    """All that can tell own numbers. kit, knowledge: as typical, without own numbers."""

    takes: Sequence[TakeSeen]
    judged: Sequence[JudgedRung]
    notes: Sequence[Note]
    clocks: Sequence[Clock]
    kit: Kit
    knowledge: Knowledge

    @property
    def limits(self) -> Limits:
        """Of judgement."""
        return self.knowledge.limits


Of = Mapping[str, str]
Readings = dict[tuple[str, ...], list[Reading]]
Applied = tuple[Kit, Knowledge]


@dataclass(frozen=True)
class OwnKind:
    """A kind of own number.

    id: its name; parts: names of what a number is of; gather: readings by what they are of; estimate: readings to a number;
    usual: what is typical, or stands in the sheet; apply: puts a number in its place, where that is not looked up by a brief;
    enters: whether the planner uses it (then `planning/own_used.py` says when).
    """

    id: str
    parts: tuple[str, ...]
    gather: Callable[[Evidence], Readings]
    estimate: Callable[[Sequence[Reading], float | None, Limits], Estimated]
    usual: Callable[[Of, Kit, Knowledge], float | None]
    apply: Callable[[OwnNumber, Kit, Knowledge], Applied] = field(
        default=lambda number, kit, knowledge: (kit, knowledge)
    )
    enters: bool = True


def with_camera(kit: Kit, camera: str, change: Callable[[CameraSheet], CameraSheet]) -> Kit:
    """A kit in which one camera's sheet is another. change: makes it. Returns the kit."""
    cameras = tuple(change(sheet) if sheet.id == camera else sheet for sheet in kit.cameras)
    return kit.model_copy(update={"cameras": cameras})
