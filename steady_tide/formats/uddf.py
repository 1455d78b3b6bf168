"""Dive profiles in UDDF: how deep, and for how long."""

from __future__ import annotations

from datetime import UTC, datetime
from math import isfinite
from typing import Any

import numpy as np

from steady_tide.core.errors import BadFile, Fault
from steady_tide.core.frozen import Frozen
from steady_tide.core.moments import is_within
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


def read_dive(data: bytes) -> Dive:
    """Read the first dive of a file.

    data: a UDDF file. Returns depth and times. Raises BadFile where it cannot be read, or holds no dive
    with at least two waypoints.
    """
    root = read_xml(data, "UDDF dive profile")
    if _name(root) != "uddf":
        raise BadFile(Fault("the file", f"begins with <{_name(root)}>", "A dive profile begins with <uddf>."))
    dive = next((element for element in root.iter() if _name(element) == "dive"), None)
    if dive is None:
        raise BadFile(Fault("profiledata", "holds no dive", "Export a dive with its samples."))
    samples = []
    for number, waypoint in enumerate(e for e in dive.iter() if _name(e) == "waypoint"):
        if number >= MOST_SAMPLES:
            raise BadFile(Fault("samples", f"are more than {MOST_SAMPLES:,}", "Export one dive alone."))
        said = {_name(child): child.text for child in waypoint}
        if said.get("depth") is None or said.get("divetime") is None:
            continue
        samples.append((_number(said, "divetime", number), _number(said, "depth", number)))
    if len(samples) < 2:
        raise BadFile(Fault("samples", "hold fewer than two waypoints with depth and time", "Export it whole."))
    seconds, depths = np.array(samples).T
    if (np.diff(seconds) < 0).any():
        raise BadFile(Fault("samples", "run backwards in time", "Export one dive alone."))
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
    )


def _name(element: Any) -> str:
    return str(element.tag).rpartition("}")[2].lower()


def _number(said: dict[str, str | None], name: str, number: int) -> float:
    try:
        value = float(said[name] or "")
    except ValueError:
        value = float("nan")
    if not isfinite(value) or not 0.0 <= value <= 400_000:
        raise BadFile(Fault(f"waypoint {number + 1}, {name}", f"'{said[name]}' is no number", "Export the dive again."))
    return value


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
