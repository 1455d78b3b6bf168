"""Views by their names of optics. Names that earlier versions wrote are read for ever, and written anew."""

from __future__ import annotations

from collections.abc import Mapping
from copy import deepcopy
from typing import Any

RENAMED = {
    "ultra_wide": "fisheye",
    "linear": "rectilinear",
    "linear_level": "rectilinear_level",
    "narrow": "tight",
}


def todays_view(name: Any) -> Any:
    """A view's name as it is today; anything else as it is."""
    return RENAMED.get(name, name) if isinstance(name, str) else name


def todays_pins(pins: Any) -> Any:
    """Values by dial, with the view by its name of today. Returns another mapping, or the same thing."""
    if not isinstance(pins, Mapping) or todays_view(pins.get("view")) == pins.get("view"):
        return pins
    return {**pins, "view": todays_view(pins["view"])}


def todays_sheet(doc: Any) -> Any:
    """A camera sheet with its views by their names of today, wherever it names them. doc: decoded JSON, right or wrong.
    Where a sheet has a view of the new name as well, both stay. Returns another document, or the same thing."""
    if not isinstance(doc, Mapping):
        return doc
    named = set(_plain([view.get("id") for view in _mappings(doc.get("views"))]))
    for mode in _mappings(doc.get("modes")):
        named |= set(_plain(mode.get("views")))
    moved = {old: new for old, new in RENAMED.items() if old in named and new not in named}
    if not moved:
        return doc
    found = deepcopy(dict(doc))
    for view in _mappings(found.get("views")):
        view["id"] = _moved(view.get("id"), moved)
    for mode in _mappings(found.get("modes")):
        if "views" in mode:
            mode["views"] = _moved(mode["views"], moved)
    for lens in _mappings(found.get("lenses")):
        if "fields_deg" in lens:
            lens["fields_deg"] = _moved(lens["fields_deg"], moved)
    for rule in _mappings(found.get("rules")):
        for never in _mappings([rule.get("never")]):
            if "view" in never:
                never["view"] = _moved(never["view"], moved)
    for page in _mappings(found.get("menu")):
        for dial in _mappings(page.get("dials")):
            if dial.get("dial") == "view" and "values" in dial:
                dial["values"] = _moved(dial["values"], moved)
    return found


def _moved(value: Any, moved: Mapping[str, str]) -> Any:
    """A name, a list of names, or a mapping by name, with the names of today."""
    if isinstance(value, str):
        return moved.get(value, value)
    if isinstance(value, list | tuple):
        return [_moved(one, moved) for one in value]
    if isinstance(value, dict):
        return {_moved(name, moved): one for name, one in value.items()}
    return value


def _mappings(entries: Any) -> list[dict[str, Any]]:
    return [entry for entry in entries if isinstance(entry, dict)] if isinstance(entries, list | tuple) else []


def _plain(value: Any) -> list[str]:
    return [one for one in value if isinstance(one, str)] if isinstance(value, list | tuple) else []
