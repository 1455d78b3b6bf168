"""A day to be ordered, and what an order of it gives up."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta
from itertools import pairwise

from steady_tide.core.quantities.limits import Limits

FINE = 6_000  # parts of a stop: so small that the price of a minute is a whole number


@dataclass(frozen=True)
class DayPrices:
    """What an order gives up for what; stops, from the library's judgement."""

    moved_per_h: float
    on_the_way_per_h: float
    opened_housing: float
    longer_per_h: float
    later_per_h: float

    @classmethod
    def from_limits(cls, limits: Limits) -> DayPrices:
        """The library's. limits: judgement."""
        return cls(
            moved_per_h=limits.moved_stops_per_h,
            on_the_way_per_h=limits.on_the_way_stops_per_h,
            opened_housing=limits.opened_housing_stops,
            longer_per_h=limits.longer_stops_per_h,
            later_per_h=limits.later_stops_per_h,
        )


@dataclass(frozen=True)
class Span:
    """Minutes of the day, from and to, of a window that a person typed or that the light has."""

    start: int
    end: int
    name: str = ""
    typed: bool = False


@dataclass(frozen=True)
class ShotTask:
    """One shot as the order of the day sees it; minutes count from the day's begin."""

    key: str
    title: str
    camera: str
    length_min: int
    setup_min: int
    attended: bool = True
    spot: str = ""
    glass: str = ""
    housing: str = ""
    wished_min: int | None = None  # where it stands now
    fixed: bool = False
    windows: tuple[Span, ...] = ()
    must: bool = True
    wish_stops: float = 1.0
    light_stops: tuple[tuple[int, float], ...] = ()  # from a minute on: what the plan gives up if it begins there
    light_name: str = ""  # of what its brief says of its light
    hours: tuple[Span, ...] | None = None  # when the day has such light, a must; None where it has it at any time

    @property
    def busy_min(self) -> int:
        """How long the crew is bound from its begin on."""
        return self.length_min if self.attended else 0

    def lies_well(self, minute: int) -> bool:
        """Whether it lies within one of its windows if it begins at a minute."""
        return not self.windows or self._within(self.windows, minute)

    def has_its_light(self, minute: int) -> bool:
        """Whether the day has the light that its brief says if it begins at a minute."""
        return self.hours is None or self._within(self.hours, minute)

    def _within(self, spans: tuple[Span, ...], minute: int) -> bool:
        return any(span.start <= minute and minute + self.length_min <= span.end for span in spans)

    @property
    def may_lie(self) -> tuple[Span, ...] | None:
        """Where it may lie: in its light, and in one of its windows. None: anywhere."""
        if self.hours is None or not self.windows:
            return self.windows or self.hours
        pairs = [(max(h.start, w.start), min(h.end, w.end), w) for h in self.hours for w in self.windows]
        return tuple(Span(start, end, w.name, w.typed) for start, end, w in pairs if start < end)


@dataclass(frozen=True)
class DayTask:
    """A day to be ordered."""

    begin: datetime
    length_min: int
    shots: tuple[ShotTask, ...]
    prices: DayPrices
    ways: dict[tuple[str, str], int]
    usual_way_min: int
    camera_change_min: int
    glass_change_min: int
    housing_min: int
    unseen: tuple[str, ...] = ()  # titles of shots whose light hangs on the hour, where the place is not known

    def way_min(self, a: str, b: str) -> int:
        """From one spot to another; a shot without a spot is wherever one is."""
        if a == b or not a or not b:
            return 0
        return self.ways.get((a, b), self.ways.get((b, a), self.usual_way_min))

    def change_min(self, before: ShotTask, after: ShotTask) -> int:
        """To make a camera ready that filmed something else before."""
        opened = self.housing_min if before.housing != after.housing else 0
        return opened or (self.glass_change_min if before.glass != after.glass else 0)

    def between_min(self, before: ShotTask, after: ShotTask) -> int:
        """On the way from one shot to the next, with another camera in the hand or the same."""
        carried = self.camera_change_min if before.camera != after.camera else 0
        return max(self.way_min(before.spot, after.spot), carried)

    def clock(self, minute: int) -> str:
        """A minute of the day as it is read."""
        return f"{self.begin + timedelta(minutes=minute):%H:%M}"


def given_up_stops(task: DayTask, starts: dict[str, int]) -> float:
    """What an order gives up. task: the day; starts: minute of each shot. Returns stops.

    The same sum as the solver's, from the places alone: tests hold one against the other.
    """
    placed = sorted(task.shots, key=lambda shot: starts[shot.key])
    stops = 0.0
    for shot in task.shots:
        at = starts[shot.key]
        if not shot.lies_well(at):
            stops += shot.wish_stops
        if shot.wished_min is not None and not shot.fixed:
            stops += round(task.prices.moved_per_h * abs(at - shot.wished_min) / 60.0, 9)
        stops += light_at(shot, at) or 0.0
    for before, after in pairwise(placed):
        stops += task.prices.on_the_way_per_h * task.between_min(before, after) / 60.0
    for camera in {shot.camera for shot in task.shots}:
        for before, after in pairwise([shot for shot in placed if shot.camera == camera]):
            stops += task.prices.on_the_way_per_h * task.change_min(before, after) / 60.0
            stops += task.prices.opened_housing * (before.housing != after.housing)
    end = max((starts[shot.key] + shot.length_min for shot in task.shots), default=0)
    first = min((starts[shot.key] - shot.setup_min for shot in task.shots), default=0)
    return stops + (task.prices.later_per_h * end + task.prices.longer_per_h * (end - first)) / 60.0


def light_at(shot: ShotTask, minute: int) -> float | None:
    """What the plan of a shot gives up if it begins at a minute. Returns stops, None where nobody said."""
    price = None
    for begins, stops in shot.light_stops:
        if begins <= minute or price is None:
            price = stops
    return price
