"""Paths into a sheet, as its estimates and its faults name them."""

from __future__ import annotations

import re
from typing import Any


def value_at(value: Any, path: str) -> Any:
    """What stands at a path of a model. value: the model; path: such as lenses[0].closest_m. Raises LookupError."""
    for step in re.findall(r"[^.\[\]]+", path):
        if isinstance(value, tuple):
            value = value[int(step)] if step.isdigit() else None
        elif isinstance(value, dict):
            value = value[step]
        elif step in getattr(type(value), "model_fields", ()):
            value = getattr(value, step)
        else:
            raise LookupError(path)
    return value
