"""Shots that several figures are measured on."""

from __future__ import annotations

from typing import Any

DAY: dict[str, Any] = {"kind": "meter", "ev100": [14, 15]}
NIGHT: dict[str, Any] = {"light": {"kind": "place", "place": "lantern_lit_yard"}, "scenario": "low_light"}
WATER: dict[str, Any] = {
    "light": {
        "kind": "water",
        "surface": {"kind": "place", "place": "full_sun"},
        "depth_m": [3, 5],
        "water_type": "1C",
    },
    "scenario": "underwater",
    "subject": {"distance_m": [1, 2]},
}
