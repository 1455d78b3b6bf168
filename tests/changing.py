"""Changes as a client sends them that has seen all there is."""

from __future__ import annotations

from typing import Any

SEEN_ALL = 2_000_000_000


def change(**fields: Any) -> dict[str, Any]:
    """The body of a change of some fields."""
    return {"revision": SEEN_ALL, "change": fields}
