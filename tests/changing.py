"""Changes as a client sends them that has just read what it changes."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

from steady_tide.core.brief.brief import Brief


def changed(client: Any, at: str, **fields: Any) -> Any:
    """Change fields of what stands at an address. client: an HTTP client, or httpx itself with a whole address. Returns the answer."""
    return client.patch(at, json={"revision": latest(client, at), "change": fields})


def latest(client: Any, at: str) -> int:
    """The revision that stands at an address. Returns it; 0 where nothing stands there."""
    kit = re.fullmatch(r"(.*/api/kit)/(?:things/)?(\w+)/([\w-]+)(?:/keeping)?", at)
    if kit:
        rows = client.get(kit[1]).json()[kit[2]]
        return next((int(row["revision"]) for row in rows if (row.get("thing") or row)["id"] == kit[3]), 0)
    return int(client.get(re.sub(r"/(wishes|framing)$", "", at)).json().get("revision", 0))


def shot_change(brief: Mapping[str, Any], starts_at: Any = ..., revision: int = 0, **more: Any) -> dict[str, Any]:
    """The body that makes a shot's brief another as a whole. starts_at: left out where it stays. Returns it."""
    whole = Brief.model_validate(brief).model_dump(mode="json")
    start = {} if starts_at is ... else {"starts_at": starts_at}
    return {"revision": revision, "change": {**whole, **start}, **more}
