"""A track: where a shot goes, and how fast; statistics of points, from whatever file they come."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence
from datetime import datetime

import numpy as np

from steady_tide.core.quantities.frozen import Frozen

STANDING_M_S = 0.3
HELD_SHARE = 0.9  # what is held for a tenth of the time counts as fastest
KEPT_POINTS = 60


class TrackPoint(Frozen):
    """One moment of a track."""

    at: datetime
    latitude: float
    longitude: float


class Track(Frozen):
    """What a shot needs of a track."""

    start: datetime
    end: datetime
    latitude: float
    longitude: float
    distance_m: float
    speed_m_s: float  # while it moves, the usual one
    fastest_m_s: float  # held for a tenth of the time
    points: tuple[TrackPoint, ...]
    left_out: int = 0  # points of the file whose time or place cannot be


def in_order(times: Sequence[float]) -> list[int]:
    """The longest run of moments that never go back, as a file has it whose clock jumped for some of its lines.

    times: any unit, N of them. Returns their places, rising. Takes N log N.
    """
    ends: list[float] = []  # of the best run of each length
    last: list[int] = []  # place of that end
    before: list[int] = []  # place before each in its run, -1 for none
    for place, at in enumerate(times):
        length = bisect_right(ends, at)
        before.append(last[length - 1] if length else -1)
        if length == len(ends):
            ends.append(at)
            last.append(place)
        else:
            ends[length], last[length] = at, place
    run, place = [], last[-1] if last else -1
    while place >= 0:
        run.append(place)
        place = before[place]
    return run[::-1]


def track_of(points: Sequence[TrackPoint], metres: Sequence[float], left_out: int = 0) -> Track:
    """What a shot needs of a track.

    points: two at least, in the order of their times; metres: from each to the next; left_out: of the file. Returns where,
    when and how fast.
    """
    seconds = np.array([point.at.timestamp() for point in points])
    way, passed = np.array(metres, dtype=float), np.diff(seconds)
    speeds = way[passed > 0] / passed[passed > 0]
    moving = speeds[speeds > STANDING_M_S]
    kept = np.unique(np.linspace(0, len(points) - 1, KEPT_POINTS).astype(int)).tolist()
    return Track(
        start=points[0].at,
        end=points[-1].at,
        latitude=float(np.median([point.latitude for point in points])),
        longitude=float(np.median([point.longitude for point in points])),
        distance_m=float(way.sum()),
        speed_m_s=float(np.median(moving)) if len(moving) else 0.0,
        fastest_m_s=float(np.quantile(moving, HELD_SHARE)) if len(moving) else 0.0,
        points=tuple(points[n] for n in kept),
        left_out=left_out,
    )
