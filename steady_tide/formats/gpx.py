"""Tracks in GPX."""

from __future__ import annotations

from datetime import UTC, datetime
from itertools import pairwise
from math import isfinite

import gpxpy
import gpxpy.gpx

from steady_tide.core.errors import BadFile, Fault
from steady_tide.core.moments import is_within
from steady_tide.core.track import Track, TrackPoint, track_of
from steady_tide.formats.xml_in import read_xml


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
    if len(points) < 2:
        raise BadFile(Fault("the file", "has fewer than two points with a time", "Export the track with its times."))
    moments = [_utc(point.time, number) for number, point in enumerate(points, start=1)]
    for index, (before, after) in enumerate(pairwise(moments)):
        if after < before:
            raise BadFile(Fault(f"point {index + 2}", "is earlier than the one before", "Export one track alone."))
    for point in points:
        if not (
            isfinite(point.latitude)
            and isfinite(point.longitude)
            and abs(point.latitude) <= 90
            and abs(point.longitude) <= 180
        ):
            raise BadFile(Fault("the file", "has a point that is nowhere on earth", "Export the track again."))
    return track_of(
        [
            TrackPoint(at=moment, latitude=point.latitude, longitude=point.longitude)
            for moment, point in zip(moments, points, strict=True)
        ],
        [before.distance_2d(after) or 0.0 for before, after in pairwise(points)],
    )


def _utc(moment: datetime, number: int) -> datetime:
    aware = moment.replace(tzinfo=UTC) if moment.tzinfo is None else moment
    if not is_within(aware):
        raise BadFile(Fault(f"point {number}", "has a time that is out of reach", "Export the track again."))
    return aware.astimezone(UTC)
