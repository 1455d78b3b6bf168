"""Short texts that stand for large values: the same for the same value, another for any other."""

from __future__ import annotations

import hashlib
import json
from functools import cache
from pathlib import Path
from typing import Any

from steady_tide import core

LENGTH = 16


def digest_of(value: Any) -> str:
    """Stand for a value. value: plain, as JSON. Returns a short text."""
    text = json.dumps(value, sort_keys=True, ensure_ascii=False, separators=(",", ":"))
    return hashlib.sha256(text.encode()).hexdigest()[:LENGTH]


@cache
def planner_digest() -> str:
    """Stand for the planner itself: any change of the core's code is another one."""
    code = hashlib.sha256()
    folder = Path(core.__file__).parent
    for file in sorted(folder.rglob("*.py")):
        code.update(str(file.relative_to(folder)).encode())
        code.update(file.read_bytes())
    return code.hexdigest()[:LENGTH]
