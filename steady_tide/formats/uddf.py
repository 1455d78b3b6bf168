"""Dive profiles in UDDF: how deep, and for how long."""

from __future__ import annotations

from datetime import UTC, datetime
from math import isfinite
from typing import Any

import numpy as np

from steady_tide.core.quantities.errors import BadFile, Fault
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.moments import is_within
from steady_tide.core.shoot.track import in_order
from steady_tide.formats.xml_in import read_xml

MOST_SAMPLES = 100_000
BOTTOM_SHARE = 0.6  # deeper than this share of the deepest counts as being at the bottom
KEPT_SAMPLES = 80


class DiveSample(Frozen):
    """One moment of a dive."""

    seconds: float
    depth_m: float


class Dive(Frozen):
    """What a shot needs of a dive."""

    start: datetime | None
    duration_s: float
    deepest_m: float
    bottom_m: tuple[float, float]  # the band in which the bottom time was spent
    bottom_s: float
    samples: tuple[DiveSample, ...]
    left_out: int = 0  # waypoints that say no depth, or go back in time


def read_dive(data: bytes) -> Dive:
    """Read the first dive of a file.

    data: a UDDF file. Returns depth and times; waypoints whose depth or time is none, or that go back in time, are left out
    and counted. Raises BadFile where it cannot be read, or holds no dive with at least two waypoints.
    """
    root = read_xml(data, "UDDF dive profile")
    if _name(root) != "uddf":
        raise BadFile(Fault("the file", f"begins with <{_name(root)}>", "A dive profile begins with <uddf>."))
    dive = next((element for element in root.iter() if _name(element) == "dive"), None)
    if dive is None:
        raise BadFile(Fault("profiledata", "holds no dive", "Export a dive with its samples."))
    read: list[tuple[float, float]] = []
    told = 0
    for number, waypoint in enumerate(e for e in dive.iter() if _name(e) == "waypoint"):
        if number >= MOST_SAMPLES:
            raise BadFile(Fault("samples", f"are more than {MOST_SAMPLES:,}", "Export one dive alone."))
        said = {_name(child): child.text for child in waypoint}
        if said.get("depth") is None or said.get("divetime") is None:
            continue
        told += 1
        at_s, depth_m = _number(said["divetime"]), _number(said["depth"])
        if at_s is not None and depth_m is not None:
            read.append((at_s, depth_m))
    samples = [read[place] for place in in_order([at_s for at_s, _ in read])]
    left_out = told - len(samples)
    if len(samples) < 2:
        words = f", and {left_out} that cannot be" if left_out else ""
        what = f"hold fewer than two waypoints with depth and time{words}"
        raise BadFile(Fault("samples", what, "Export it whole."))
    seconds, depths = np.array(samples).T
    deepest = float(depths.max())
    at_bottom = depths >= BOTTOM_SHARE * deepest
    kept = np.unique(np.linspace(0, len(samples) - 1, KEPT_SAMPLES).astype(int)).tolist()
    return Dive(
        start=_start(dive),
        duration_s=float(seconds[-1] - seconds[0]),
        deepest_m=deepest,
        bottom_m=(float(depths[at_bottom].min()), deepest),
        bottom_s=float(np.diff(seconds)[at_bottom[:-1]].sum()),
        samples=tuple(DiveSample(seconds=float(seconds[n]), depth_m=float(depths[n])) for n in kept),
        left_out=left_out,
    )


def _name(element: Any) -> str:
    return str(element.tag).rpartition("}")[2].lower()


def _number(text: str | None) -> float | None:
    """A depth or a time. Returns None where it is none."""
    try:
        value = float(text or "")
    except ValueError:
        return None
    return value if isfinite(value) and 0.0 <= value <= HIGHEST else None


HIGHEST = 400_000.0


def _start(dive: Any) -> datetime | None:
    text = next((e.text for e in dive.iter() if _name(e) == "datetime" and e.text), None)
    if text is None:
        return None
    try:
        moment = datetime.fromisoformat(text.strip())
    except ValueError:
        return None
    aware = moment.replace(tzinfo=UTC) if moment.tzinfo is None else moment
    return aware.astimezone(UTC) if is_within(aware) else None
