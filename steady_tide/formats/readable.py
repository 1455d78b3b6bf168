"""JSON for people to read, as long as whoever reads it again takes that much."""

from __future__ import annotations

import json
from typing import Any


def readable_json(doc: Any, indent: int, most: int) -> str:
    """Write JSON on lines of its own; close together where that would be larger than its reader takes.

    doc: plain values; indent: blanks a level; most: bytes that its reader takes. Returns the text.
    """
    text = json.dumps(doc, ensure_ascii=False, indent=indent) + "\n"
    if len(text.encode()) <= most:
        return text
    return json.dumps(doc, ensure_ascii=False, separators=(",", ":")) + "\n"
