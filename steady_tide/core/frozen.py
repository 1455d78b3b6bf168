"""The one way in which our models behave: frozen, no unknown fields, no NaN or infinity."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from pydantic import BaseModel, ConfigDict, ValidationError

from steady_tide.core.errors import Fault


class Frozen(BaseModel):
    """A value that cannot change after it was made and holds only what it declares."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False, str_max_length=4000)


def spell_path(location: tuple[Any, ...]) -> str:
    """Spell a location as a path.

    location: keys and indices from the root.
    Returns text such as ``modes[3].views[1]``.
    """
    path = ""
    for step in location:
        path += f"[{step}]" if isinstance(step, int) else (f".{step}" if path else str(step))
    return path


_MENDS = {
    "missing": "Add it.",
    "extra_forbidden": "Remove it, or check its spelling.",
    "finite_number": "Give an ordinary number, not NaN or infinity.",
    "float_parsing": "Give a number.",
    "float_type": "Give a number.",
    "int_parsing": "Give a whole number.",
    "int_type": "Give a whole number.",
    "int_from_float": "Give a whole number.",
    "bool_parsing": "Give true or false.",
    "string_type": "Give a text in quotes.",
}


def faults_of(error: ValidationError, prefix: tuple[Any, ...] = ()) -> tuple[Fault, ...]:
    """Translate a validation error into faults; see `faults_in`."""
    return faults_in(error.errors(include_url=False, include_context=True), prefix)


def faults_in(errors: Sequence[Any], prefix: tuple[Any, ...] = ()) -> tuple[Fault, ...]:
    """Translate the entries of a validation error into faults with where, what and how to mend.

    errors: entries as Pydantic lists them; prefix: where the value stands in the whole.
    Returns one fault for each complaint, in the order of the fields.
    """
    found = []
    for item in errors:
        context = item.get("ctx", {})
        own = context.get("error")
        location = tuple(step for step in item["loc"] if not _is_tag(step))
        what = str(own) if isinstance(own, ValueError) else item["msg"].replace("Input should be", "must be")
        mend = _MENDS.get(item["type"], "")
        if item["type"] in ("literal_error", "union_tag_invalid"):
            allowed = context.get("expected") or context.get("expected_tags", "")
            what = f"unknown value {_shorten(item['input'])}"
            mend = f"Use one of {str(allowed).replace('kind:', '')}."
        elif item["type"] == "missing":
            what = "is missing"
        elif item["type"] == "extra_forbidden":
            what = "is not a known field"
        elif item["type"] == "finite_number":
            what = "is not a finite number"
        found.append(Fault(where=spell_path((*prefix, *location)), what=what, mend=mend))
    return tuple(found)


def _is_tag(step: Any) -> bool:
    """Pydantic puts the tag of a tagged union into the location; no such key stands in the file."""
    return isinstance(step, str) and step.startswith("kind:")


def _shorten(value: Any) -> str:
    if isinstance(value, dict):
        value = value.get("kind", value)
    text = repr(value)
    return text if len(text) <= 60 else text[:57] + "..."
