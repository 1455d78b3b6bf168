"""Tracks in GPX: where, when, and how fast."""

from __future__ import annotations

from datetime import UTC, datetime
from itertools import pairwise

import gpxpy
import gpxpy.gpx
import numpy as np

from steady_tide.core.errors import BadFile, Fault
from steady_tide.core.frozen import Frozen
from steady_tide.formats.xml_in import read_xml

MOST_POINTS = 200_000
STANDING_M_S = 0.3
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


def read_track(data: bytes) -> Track:
    """Read a track.

    data: a GPX file. Returns where, when and how fast. Raises BadFile where it cannot be read, or has
    fewer than two points with a time.
    """
    read_xml(data, "GPX track")  # what can hurt is refused before the library sees it
    try:
        track = gpxpy.parse(data.decode("utf-8", errors="replace"))
    except (gpxpy.gpx.GPXException, ValueError, TypeError, AttributeError) as error:
        raise BadFile(Fault("the file", f"is no GPX track: {error}", "Check that it was exported whole.")) from None
    points = [point for point, *_ in track.walk() if point.time is not None]
    if len(points) > MOST_POINTS:
        raise BadFile(Fault("the file", f"has more than {MOST_POINTS:,} points", "Cut it to the day."))
    if len(points) < 2:
        raise BadFile(Fault("the file", "has fewer than two points with a time", "Export the track with its times."))
    moments = [_utc(point.time) for point in points]
    for index, (before, after) in enumerate(pairwise(moments)):
        if after < before:
            raise BadFile(Fault(f"point {index + 2}", "is earlier than the one before", "Export one track alone."))
    seconds = np.array([moment.timestamp() for moment in moments])
    latitude = np.array([point.latitude for point in points])
    longitude = np.array([point.longitude for point in points])
    if not (np.isfinite(latitude).all() and np.isfinite(longitude).all() and (np.abs(latitude) <= 90).all()):
        raise BadFile(Fault("the file", "has a point that is nowhere on earth", "Export the track again."))
    metres = np.array([before.distance_2d(after) or 0.0 for before, after in pairwise(points)])
    passed = np.diff(seconds)
    speeds = metres[passed > 0] / passed[passed > 0]
    moving = speeds[speeds > STANDING_M_S]
    kept = np.unique(np.linspace(0, len(points) - 1, KEPT_POINTS).astype(int)).tolist()
    return Track(
        start=moments[0],
        end=moments[-1],
        latitude=float(np.median(latitude)),
        longitude=float(np.median(longitude)),
        distance_m=float(metres.sum()),
        speed_m_s=float(np.median(moving)) if len(moving) else 0.0,
        fastest_m_s=float(np.quantile(moving, 0.9)) if len(moving) else 0.0,
        points=tuple(
            TrackPoint(at=moments[n], latitude=float(latitude[n]), longitude=float(longitude[n])) for n in kept
        ),
    )


def _utc(moment: datetime) -> datetime:
    return moment.replace(tzinfo=UTC) if moment.tzinfo is None else moment.astimezone(UTC)
