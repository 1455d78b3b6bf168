"""Briefs that several tests plan, as a person would write them."""

from __future__ import annotations

from typing import Any

from steady_tide import library
from steady_tide.core.brief import Brief, read_brief
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan

SUN = {"kind": "meter", "ev100": [14, 15]}
LANTERNS = {"kind": "place", "place": "lantern_lit_yard"}


def brief(**fields: Any) -> Brief:
    """A brief in full sun unless said otherwise."""
    return read_brief({"title": "test", "light": SUN, **fields})


def planned(**fields: Any) -> Plan:
    """The plan of such a brief with the demo kit."""
    return plan(brief(**fields), library.demo_kit(), library.knowledge())


QUAY = {"camera_move": {"mount": "walking"}, "delivery": {"graded": True}}
PUNTS = {"scenario": "low_light", "light": LANTERNS, "camera_move": {"mount": "tripod"}, "delivery": {"graded": True}}
ALL_KINDS: dict[str, dict[str, Any]] = {
    "quay": QUAY,
    "quay without glass": {**QUAY, "delivery": {}, "kit": {"filters": []}, "school": {"shutter": "free"}},
    "punts": PUNTS,
    "punts by hand": {**PUNTS, "camera_move": {"mount": "walking"}},
    "mud race": {
        "scenario": "motion",
        "camera_move": {"mount": "chest", "travel_m_s": 3},
        "delivery": {"slow_factor": 2},
        "sound": {"wind_m_s": 6},
    },
    "birds": {"scenario": "motion", "camera_move": {"mount": "tripod"}, "delivery": {"slow_factor": 4}},
    "office": {"light": {"kind": "place", "place": "office"}, "mains_hz": 60},
}
