"""A track: where a shot goes, and how fast; statistics of points, from whatever file they come."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

import numpy as np

from steady_tide.core.frozen import Frozen

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


def track_of(points: Sequence[TrackPoint], metres: Sequence[float]) -> Track:
    """What a shot needs of a track.

    points: two at least, in the order of their times; metres: from each to the next. Returns where, when and how fast.
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
    )
