"""Ways of working in words."""

from __future__ import annotations

# What others would do, by axis and school.
RIVALS = {
    ("shutter", "free"): "leave the shutter to the camera",
    ("shutter", "half_turn"): "hold the half-turn shutter",
    ("noise", "quiet"): "take a cleaner, darker picture",
    ("noise", "get_it"): "get it at any noise",
    ("dark_stabilisation", "drop"): "drop stabilisation in the dark",
    ("dark_stabilisation", "keep"): "keep stabilisation in the dark",
    ("dark_profile", "flat"): "record flat even in the dark",
    ("dark_view", "whole_sensor"): "read the whole sensor in the dark",
    ("glass_gain", "follows"): "let gain follow the light behind an ND filter",
    ("glass_gain", "locked"): "hold one exposure behind an ND filter",
    ("view", "widest"): "take the widest view",
    ("resolution", "most"): "record the most pixels",
}


def rival_words(axis: str, school: str) -> str:
    """What people of another school would do. Returns a clause."""
    return RIVALS[axis, school]
