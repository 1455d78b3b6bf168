"""Tracks in GPX."""

from __future__ import annotations

from datetime import UTC, datetime
from itertools import pairwise
from math import isfinite
from typing import Any
from xml.etree.ElementTree import tostring

import gpxpy
import gpxpy.gpx
from gpxpy.gpxfield import parse_time

from steady_tide.core.quantities.errors import BadFile, Fault
from steady_tide.core.quantities.moments import is_within
from steady_tide.core.shoot.track import Track, TrackPoint, in_order, track_of
from steady_tide.formats.xml_in import read_xml


def read_track(data: bytes) -> Track:
    """Read a track.

    data: a GPX file. Returns where, when and how fast; points whose time or place cannot be, or that go back in time, are
    left out and counted. Raises BadFile where it cannot be read, or fewer than two points with a time are left.
    """
    root = read_xml(data, "GPX track")  # what can hurt is refused before the library sees it
    unread = _without_unreadable(root)
    text = _as_text(root) if unread else data.decode("utf-8", errors="replace")
    try:
        track = gpxpy.parse(text)
    except (gpxpy.gpx.GPXException, ValueError, TypeError, AttributeError):
        raise BadFile(Fault("the file", "is no GPX track", "Check that it was exported whole.")) from None
    timed = [point for point, *_ in track.walk() if point.time is not None]
    there = [point for point in timed if _is_on_earth(point) and is_within(_aware(point.time))]
    points = [there[place] for place in in_order([_aware(point.time).timestamp() for point in there])]
    left_out = unread + len(timed) - len(points)
    if len(points) < 2:
        said = f", and {left_out} whose time or place cannot be" if left_out else ""
        what = f"has fewer than two points with a time{said}"
        raise BadFile(Fault("the file", what, "Export the track with its times."))
    return track_of(
        [
            TrackPoint(at=_aware(point.time).astimezone(UTC), latitude=point.latitude, longitude=point.longitude)
            for point in points
        ],
        [before.distance_2d(after) or 0.0 for before, after in pairwise(points)],
        left_out,
    )


POINTS = ("trkpt", "rtept", "wpt")


def _without_unreadable(root: Any) -> int:
    """Take points out that the library would refuse the whole file for: a time or a place that is none. Returns how many."""
    found = 0
    for parent in root.iter():
        for point in [child for child in parent if _name(child) in POINTS]:
            if not (_has_time(point) and all(_is_number(point.get(side)) for side in SIDES)):
                parent.remove(point)
                found += 1
    return found


def _as_text(root: Any) -> str:
    """A document as text, without the names of its spaces, of which the library wants to hear nothing."""
    for element in root.iter():
        element.tag = str(element.tag).rpartition("}")[2]
    return tostring(root, encoding="unicode")


SIDES = ("lat", "lon")


def _has_time(point: Any) -> bool:
    """Whether the library can read the time of a point, where it says one."""
    text = next((child.text for child in point if _name(child) == "time"), None)
    try:
        parse_time(text or "")
    except (gpxpy.gpx.GPXException, ValueError, TypeError, OverflowError):
        return False
    return True


def _is_number(text: str | None) -> bool:
    try:
        float(text or "")
    except ValueError:
        return False
    return True


def _name(element: Any) -> str:
    return str(element.tag).rpartition("}")[2].lower()


def _is_on_earth(point: Any) -> bool:
    """Whether a position is one. Not even infinity is refused by the library."""
    return (
        isfinite(point.latitude)
        and isfinite(point.longitude)
        and abs(point.latitude) <= 90
        and abs(point.longitude) <= 180
    )


def _aware(moment: datetime) -> datetime:
    return moment.replace(tzinfo=UTC) if moment.tzinfo is None else moment
