"""Documents of gear that earlier versions wrote, made into those of today."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

# Until the second version a mount had no traits: the program knew these by their ids.
TRAITS_BY_ID: dict[str, dict[str, bool]] = {
    "tripod": {"stands": True},
    "walking": {"on_foot": True, "nothing_to_pack": True},
    "two_hands": {"nothing_to_pack": True},
    "drone_gimbal": {"nothing_to_pack": True},
    "fpv": {"nothing_to_pack": True},
}


def with_traits(mount: Mapping[str, Any]) -> dict[str, Any]:
    """A mount of the first version with the traits that its id stood for. mount: decoded JSON. Returns another."""
    name = mount.get("id")
    return {**mount, **(TRAITS_BY_ID.get(name, {}) if isinstance(name, str) else {})}


def second_draft(rough: dict[str, Any]) -> dict[str, Any]:
    """A sheet that is begun, from its first version, which took any form, to its second: two parts. Returns another."""
    return {part: dict(found) if isinstance(found := rough.get(part), dict) else {} for part in ("sheet", "known")}


def second_thing(thing: dict[str, Any]) -> dict[str, Any]:
    """A kept thing of the kit, from its first version to its second: mounts have traits. Returns another."""
    return with_traits(thing) if "shake_deg_s" in thing else thing
