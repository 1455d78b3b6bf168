"""Changes of several people to one kept thing: each says only what it changes, and on which revision it was made.

Beside a thing its stamps are kept: its revision, and for each field the revision in which it was last changed. Changes
of different fields both survive; of two changes of the same field the later one is told what stands there now.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from steady_tide.core.quantities.errors import BadInput, Conflict, Fault

Stamps = dict[str, Any]
LONGEST_SAID = 60


def revision_of(stamps: Mapping[str, Any]) -> int:
    """The revision that a thing is at; 0 before its first change."""
    return int(stamps.get("revision", 0))


def check_change(now: Mapping[str, Any], stamps: Mapping[str, Any], made_on: int, change: Mapping[str, Any]) -> None:
    """Check that a change may be made.

    now: the thing's fields; stamps: kept beside it; made_on: revision on which the change was made; change: fields and
    their new values. Raises BadInput where that revision was never issued, and Conflict, naming each field that was
    changed otherwise since. What is older than the stamps themselves (`since`) counts as changed.
    """
    latest = revision_of(stamps)
    if made_on > latest:
        raise BadInput(
            Fault(
                "revision", f"is {made_on}, and the latest is {latest}", "Read it again and change what stands there."
            )
        )
    changed_in, since = stamps.get("fields", {}), stamps.get("since", 0)
    met = [name for name, value in change.items() if changed_in.get(name, since) > made_on and now.get(name) != value]
    if met:
        raise Conflict(
            "Somebody else changed the same meanwhile; nothing of yours was saved.",
            *(
                Fault(name, f"is {_said(now.get(name))} now, changed elsewhere", "Take it, or put yours once more.")
                for name in met
            ),
        )


def merged(
    now: Mapping[str, Any], stamps: Mapping[str, Any], made_on: int, change: Mapping[str, Any]
) -> tuple[dict[str, Any], Stamps]:
    """What a thing becomes by a change. Parameters and errors as of `check_change`. Returns fields and stamps."""
    check_change(now, stamps, made_on, change)
    then = {**now, **change}
    return then, stamped(now, then, stamps)


def stamped(now: Mapping[str, Any], then: Mapping[str, Any], stamps: Mapping[str, Any]) -> Stamps:
    """The stamps of a thing after a change. now, then: its fields before and after; stamps: before. Returns others."""
    moved = [name for name in {**now, **then} if now.get(name) != then.get(name)]
    if not moved:
        return dict(stamps)
    revision = revision_of(stamps) + 1
    return {**stamps, "revision": revision, "fields": {**stamps.get("fields", {}), **dict.fromkeys(moved, revision)}}


def _said(value: Any) -> str:
    if value is None or value == "":
        return "empty"
    text = ", ".join(map(str, value)) if isinstance(value, list) else str(value)
    return f"\u201c{text[:LONGEST_SAID]}{chr(0x2026) if len(text) > LONGEST_SAID else ''}\u201d"
