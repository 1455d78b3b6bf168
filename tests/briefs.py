"""Briefs that several tests plan, as a person would write them."""

from __future__ import annotations

from functools import cache
from typing import Any

from steady_tide import library
from steady_tide.core.brief.brief import Brief, read_brief
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan
from steady_tide.words.plans import PlanText, plan_text

SUN = {"kind": "meter", "ev100": [14, 15]}
LANTERNS = {"kind": "place", "place": "lantern_lit_yard"}
NOON = {
    "kind": "sky",
    "latitude": 52.05,
    "longitude": 1.3,
    "start": "2026-05-12T11:30:00Z",
    "end": "2026-05-12T12:30:00Z",
    "cloud": "bright_cloud",
    "shade": "open",
}
DIVE_LAMP = {"lux_at_1m": 2600, "distance_m": 0.8, "output": 1, "kelvin": 5600, "ripple": 0}
TABLE_LAMP = {"lux_at_1m": 905, "distance_m": 1, "output": 1, "kelvin": 5500, "ripple": 0}


def brief(**fields: Any) -> Brief:
    """A brief in full sun unless said otherwise."""
    return read_brief({"title": "test", "light": SUN, **fields})


@cache
def _plan_of(asked: str, only: str | None) -> Plan:
    """Many tests look at the same plan; planning is a pure function of the brief."""
    return plan(Brief.model_validate_json(asked), library.demo_kit(), library.knowledge(), only=only)


def decided(**fields: Any) -> Plan:
    """The plan of such a brief with the demo kit, on the camera that is best, in codes and quantities."""
    return _plan_of(brief(**fields).model_dump_json(), None)


def planned(**fields: Any) -> PlanText:
    """The same in words."""
    return plan_text(decided(**fields))


def decided_on_limpet(**fields: Any) -> Plan:
    """The plan of such a brief on the largest sheet of the demo kit, in codes and quantities."""
    return _plan_of(brief(**fields).model_dump_json(), "limpet-7")


def on_limpet(**fields: Any) -> PlanText:
    """The plan of such a brief on the largest sheet of the demo kit, in words."""
    return plan_text(_plan_of(brief(**fields).model_dump_json(), "limpet-7"))


QUAY: dict[str, Any] = {"camera_move": {"mount": "walking"}, "delivery": {"graded": True}}
PUNTS: dict[str, Any] = {
    "scenario": "low_light",
    "light": LANTERNS,
    "camera_move": {"mount": "tripod"},
    "delivery": {"graded": True},
}
EELGRASS: dict[str, Any] = {
    "scenario": "underwater",
    "light": {"kind": "water", "surface": NOON, "depth_m": [3, 7], "water_type": "3C", "lamps": []},
    "subject": {"distance_m": [0.5, 2]},
    "camera_move": {"mount": "tray"},
    "delivery": {"slow_factor": 2, "graded": True},
}
WRECK: dict[str, Any] = {
    **EELGRASS,
    "light": {
        "kind": "water",
        "surface": NOON,
        "depth_m": [18, 18],
        "water_type": "3C",
        "lamps": [DIVE_LAMP, DIVE_LAMP],
    },
    "delivery": {"graded": True},
}
JAR: dict[str, Any] = {
    "scenario": "product",
    "light": {"kind": "lamps", "lamps": [TABLE_LAMP]},
    "subject": {"distance_m": [0.9, 1.2], "size_m": 0.25},
    "camera_move": {"mount": "tripod"},
    "delivery": {"graded": True},
}
STARS: dict[str, Any] = {
    "scenario": "lapse",
    "light": {"kind": "place", "place": "starlight"},
    "camera_move": {"mount": "tripod"},
    "delivery": {"graded": True},
    "take": {"length_s": 6 * 3600},
    "subject": {"distance_m": [10, 1000]},
}
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
    "eelgrass": EELGRASS,
    "wreck": WRECK,
    "jar": JAR,
    "stars": STARS,
}
