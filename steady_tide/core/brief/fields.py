"""The fields of a brief by which changes of several people are merged: one level deep, so that two may turn different pins."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

PARTS = ("subject", "camera_move", "delivery", "take", "sound", "school", "kit", "pins")


def flat_fields(brief: Mapping[str, Any]) -> dict[str, Any]:
    """A brief as a flat mapping.

    brief: as JSON. Returns its fields; those of a part are named after it, such as `subject.distance_m`. A pin is a list of
    its value, since `None` is one, too.
    """
    found: dict[str, Any] = {}
    for name, value in brief.items():
        if name in PARTS and isinstance(value, Mapping):
            found |= {f"{name}.{key}": [inner] if name == "pins" else inner for key, inner in value.items()}
        else:
            found[name] = value
    return found


def nested_fields(flat: Mapping[str, Any]) -> dict[str, Any]:
    """The way back. flat: as `flat_fields` returns it; a pin that is None is left out. Returns a brief as JSON."""
    found: dict[str, Any] = {}
    for name, value in flat.items():
        part, _, key = name.partition(".")
        if part not in PARTS or not key:
            found[name] = value
        elif part != "pins":
            found.setdefault(part, {})[key] = value
        elif value is not None:
            found.setdefault(part, {})[key] = value[0] if isinstance(value, list) and len(value) == 1 else value
    return found
