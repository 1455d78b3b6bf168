"""Briefs drawn at random over the whole vocabulary, in turn over the kinds of shot, of light and of mount."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.random import Generator

from steady_tide.core.brief.brief import Brief, School, read_brief
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.kit import Kit
from steady_tide.core.quantities.errors import BadBrief

SIZES = ((3840, 2160), (3840, 2160), (1920, 1080), (1080, 1920))
RATES = (24.0, 25.0, 25.0, 30.0, 50.0, 60.0)
KELVINS = (2700, 3200, 4000, 4500, 5000, 5600, 6500)
RIPPLES = (0.0, 0.0, 0.02, 0.15, 0.3)
ROLES = (None, None, "key", "fill", "background", "separation")
WATERS = ("I", "IB", "II", "III", "1C", "3C", "5C", "9C")
DRY_KINDS = ("place", "meter", "reading", "sky", "lamps")
SCHOOL_SHARE = 0.12  # of the axes of a brief's school that say something


def draw(rng: Generator, number: int, kit: Kit, knowledge: Knowledge) -> Brief:
    """Draw one brief.

    rng: of numpy; number: which in turn, so that kinds of shot and light come up equally often; kit: what may be left at
    home; knowledge: places, mounts and kinds of shot. Returns a brief that reads as a person's would.
    """
    names = tuple(knowledge.scenarios)
    while True:
        said = _drawn(rng, names[number % len(names)], number // len(names), kit, knowledge)
        try:
            return read_brief(said)
        except BadBrief:  # such as a reading that no light gives
            continue


def _drawn(rng: Generator, scenario: str, turn: int, kit: Kit, knowledge: Knowledge) -> dict[str, Any]:
    traits = knowledge.scenarios[scenario].traits
    wet = "under_water" in traits
    kind = "water" if wet else DRY_KINDS[turn % len(DRY_KINDS)]
    if "on_table" in traits and rng.random() < 0.5:
        kind = "lamps"
    lapse, table = "interval" in traits, "on_table" in traits
    near = _log(rng, 0.15, 2.0) if table else _log(rng, 0.3, 60.0)
    said: dict[str, Any] = {
        "title": f"drawn {scenario} {turn}",
        "scenario": scenario,
        "light": _light(rng, kind, knowledge),
        "subject": {"distance_m": [near, near * _log(rng, 1.0, 5.0)], **_subject(rng, table)},
        "camera_move": _move(rng, lapse or table, wet, knowledge),
        "delivery": _delivery(rng, lapse),
        "take": _take(rng, lapse),
        "sound": {
            "wanted": bool(rng.random() < 0.7),
            "voice": bool(rng.random() < 0.3),
            "wind_m_s": round(_log(rng, 0.3, 20.0), 1),
        },
        "air_c": float(rng.integers(-15, 41)),
        "mains_hz": int(_one(rng, (50, 60))),
        "school": _school(rng),
        "kit": _kit(rng, kit),
        "glare": bool(rng.random() < 0.12),
        "wet": bool(not wet and rng.random() < 0.1),
    }
    if rng.random() < 0.15:
        said["contrast_stops"] = float(rng.integers(5, 15))
    if rng.random() < 0.3:
        said["light_changes"] = _one(rng, ("steady", "gradual", "sudden"))
    return said


def _one(rng: Generator, values: Any) -> Any:
    return values[int(rng.integers(len(values)))]


def _log(rng: Generator, low: float, high: float) -> float:
    """Evenly by factors, to two figures."""
    return float(f"{np.exp(rng.uniform(np.log(low), np.log(high))):.2g}")


def _light(rng: Generator, kind: str, knowledge: Knowledge) -> dict[str, Any]:
    if kind == "place":
        return {"kind": "place", "place": _one(rng, tuple(knowledge.world.places))}
    if kind == "meter":
        low = round(rng.uniform(-6.0, 15.0), 1)
        high = round(low + _one(rng, (0.0, 0.0, 0.5, 1.0, 2.0, 4.0)), 1)
        made: dict[str, Any] = {"kind": "meter", "ev100": [low, high]}
        return {**made, "balance_k": _one(rng, KELVINS)} if rng.random() < 0.4 else made
    if kind == "reading":
        one = {"f_number": 2.8, "shutter_s": _log(rng, 1e-4, 0.05), "iso": int(_one(rng, (100, 400, 1600)))}
        return {"kind": "reading", "readings": [one]}
    if kind == "sky":
        day, hour = int(rng.integers(1, 29)), int(rng.integers(0, 21))
        date = f"2026-{int(rng.integers(1, 13)):02}-{day:02}"
        return {
            "kind": "sky",
            "latitude": round(rng.uniform(-60.0, 65.0), 1),
            "longitude": 0.0,
            "start": f"{date}T{hour:02}:00:00Z",
            "end": f"{date}T{hour + int(rng.integers(1, 4)):02}:00:00Z",
            "cloud": _one(rng, ("clear", "haze", "bright_cloud", "overcast")),
            "shade": _one(rng, ("open", "open", "partial", "full")),
        }
    if kind == "lamps":
        made = {"kind": "lamps", "lamps": [_lamp(rng) for _ in range(int(rng.integers(1, 4)))]}
        if rng.random() < 0.5:
            made["ambient"] = _light(rng, _one(rng, ("place", "meter")), knowledge)
        return made
    top = round(_log(rng, 0.5, 40.0), 1)
    return {
        "kind": "water",
        "surface": _light(rng, _one(rng, ("place", "meter", "sky")), knowledge),
        "depth_m": [top, round(top * _log(rng, 1.0, 2.5), 1)],
        "water_type": _one(rng, WATERS),
        "lamps": [
            {
                "lux_at_1m": _log(rng, 500, 8000),
                "distance_m": _log(rng, 0.3, 2.0),
                "kelvin": int(_one(rng, (5000, 5600))),
            }
            for _ in range(int(_one(rng, (0, 0, 1, 2))))
        ],
    }


def _lamp(rng: Generator) -> dict[str, Any]:
    made = {
        "lux_at_1m": _log(rng, 20, 20_000),
        "distance_m": _log(rng, 0.4, 6.0),
        "kelvin": int(_one(rng, KELVINS)),
        "ripple": _one(rng, RIPPLES),
        "role": _one(rng, ROLES),
    }
    return {**made, "ours": bool(rng.random() < 0.7)} if rng.random() < 0.5 else made


def _subject(rng: Generator, table: bool) -> dict[str, Any]:
    said: dict[str, Any] = {}
    if rng.random() < 0.5:
        said["speed_m_s"] = _log(rng, 0.1, 15.0)
    if rng.random() < 0.3:
        said["size_m"] = _log(rng, 0.02, 0.4) if table else _log(rng, 0.2, 8.0)
    if rng.random() < 0.15:
        said["event_s"] = _log(rng, 0.2, 5.0)
    said["motion_look"] = _one(rng, ("natural", "natural", "natural", "natural", "frozen", "streaked"))
    if table:
        said["ground"] = _one(rng, ("usual", "black"))
        said["surface"] = _one(rng, ("matt", "shiny"))
    return said


def _move(rng: Generator, stands: bool, wet: bool, knowledge: Knowledge) -> dict[str, Any]:
    mounts = tuple(knowledge.mounts)
    if stands and rng.random() < 0.85:
        return {"mount": "tripod"}
    mount = _one(rng, ("tray", "two_hands", "pole", "tripod")) if wet else _one(rng, mounts)
    said: dict[str, Any] = {"mount": mount}
    held = knowledge.mounts[mount]
    if not held.stands and rng.random() < 0.4:
        said["travel_m_s"] = _log(rng, 0.5, 15.0) if held.point_of_view or held.flying else _log(rng, 0.3, 2.0)
    if rng.random() < 0.25:
        said["turn_deg_s"] = _log(rng, 2.0, 60.0)
    if not held.flying and rng.random() < 0.1:
        said["self_framed"] = True
    return said


def _delivery(rng: Generator, lapse: bool) -> dict[str, Any]:
    width, height = _one(rng, SIZES)
    said: dict[str, Any] = {"width": width, "height": height, "fps": _one(rng, RATES)}
    if not lapse and rng.random() < 0.25:
        said["slow_factor"] = float(_one(rng, (2, 4, 8)))
    said["graded"] = bool(rng.random() < 0.5)
    if rng.random() < 0.2:
        said["edit_device"] = "phone"
    if rng.random() < 0.1:
        said["stabilise_later"] = True
    return said


def _take(rng: Generator, lapse: bool) -> dict[str, Any]:
    if lapse:
        return {"length_s": _log(rng, 1800, 40_000)}
    said: dict[str, Any] = {"length_s": _log(rng, 5.0, 4000.0)}
    if rng.random() < 0.4:
        said["count"] = int(rng.integers(1, 12))
    return said


def _school(rng: Generator) -> dict[str, Any]:
    axes = {name: field.annotation for name, field in School.model_fields.items()}
    return {axis: _one(rng, WAYS[axis]) for axis in axes if axis in WAYS and rng.random() < SCHOOL_SHARE}


WAYS: dict[str, tuple[str, ...]] = {
    "shutter": ("half_turn", "free"),
    "noise": ("quiet", "balanced", "bright", "get_it"),
    "colour": ("graded", "straight"),
    "white_balance": ("locked", "auto"),
    "dark_stabilisation": ("keep", "drop"),
    "dark_profile": ("contrasty", "flat"),
    "view": ("widest", "natural", "any"),
    "resolution": ("enough", "most"),
    "glass_gain": ("locked", "follows"),
    "dark_view": ("as_framed", "whole_sensor"),
}


def _kit(rng: Generator, kit: Kit) -> dict[str, Any]:
    """Now and then not everything is taken along."""
    said: dict[str, Any] = {}
    if rng.random() < 0.4:
        said["cameras"] = [_one(rng, kit.cameras).id]
    for field in ("filters", "microphones", "media"):
        if rng.random() < 0.12:
            said[field] = [one.id for one in getattr(kit, field) if rng.random() < 0.4]
    return said
