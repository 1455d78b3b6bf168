"""The one way in which our models behave: frozen, no unknown fields, no NaN or infinity."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from pydantic import BaseModel, ConfigDict, ValidationError

from steady_tide.core.quantities.errors import Fault


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


# What complaints of the validator mean, and how to mend them, in our words; {names} are values of their context.
_SAID = {
    kind: (what, mend)
    for kinds, what, mend in (
        ("missing", "is missing", "Add it."),
        ("extra_forbidden", "is not a known field", "Remove it, or check its spelling."),
        ("none_required", "has to be nothing here", "Leave it out."),
        ("finite_number", "is not a finite number", "Give an ordinary number, not NaN or infinity."),
        ("float_parsing float_type", "is no number", "Give a number."),
        ("int_parsing int_parsing_size int_type int_from_float", "is no whole number", "Give a whole number."),
        ("bool_parsing bool_type", "is neither true nor false", "Give true or false."),
        ("greater_than", "must be more than {gt}", ""),
        ("greater_than_equal", "must be {ge} or more", ""),
        ("less_than", "must be less than {lt}", ""),
        ("less_than_equal", "must be {le} or less", ""),
        ("multiple_of", "must be a multiple of {multiple_of}", ""),
        ("string_type string_unicode", "is no text", "Give a text in quotes."),
        ("string_too_long", "is longer than {max_length} letters", "Shorten it."),
        ("string_too_short", "is shorter than {min_length} letters", "Write more."),
        ("string_pattern_mismatch", "holds letters that cannot stand there", "Write it so that it matches {pattern}."),
        ("list_type tuple_type set_type frozen_set_type iterable_type", "is no list", "Give a list."),
        ("too_long", "holds more than {max_length}", "Leave some out."),
        ("too_short", "holds fewer than {min_length}", "Add to it."),
        (
            "dict_type mapping_type model_type model_attributes_type dataclass_type",
            "is no object",
            "Give an object with its fields.",
        ),
        ("union_tag_not_found", "does not say of which kind it is", "Add its kind."),
        ("timezone_aware", "says no time zone", "Write such as 2026-10-11T12:20:00Z."),
        ("timezone_naive", "says a time zone", "Leave it out: it is the place's."),
        (
            "datetime_type datetime_parsing datetime_object_invalid datetime_from_date_parsing",
            "is no date with a time",
            "Write such as 2026-10-11T12:20:00Z.",
        ),
        (
            "date_type date_parsing date_from_datetime_parsing date_from_datetime_inexact",
            "is no date",
            "Write such as 2026-10-11.",
        ),
        ("time_type time_parsing", "is no time of day", "Write such as 12:20."),
        ("uuid_type uuid_parsing uuid_version", "is no id", "Give it as it was given to you."),
        ("json_invalid", "is not JSON", "Check the brackets and commas."),
        ("recursion_loop", "is nested too deep", "A few levels are enough."),
    )
    for kind in kinds.split()
}
_UNSAID = ("cannot be used as it is", "Look it up in the description of the interface.")
_ONE_OF = ("literal_error", "union_tag_invalid", "enum")
_EMPTY = ("is empty", "Write something.")


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
        what, mend = _SAID.get(item["type"], _UNSAID)
        if isinstance(own, ValueError):
            what, mend = str(own), ""
        elif item["type"] in _ONE_OF:
            allowed = context.get("expected") or context.get("expected_tags", "")
            what = f"unknown value {_shorten(item['input'])}"
            mend = f"Use one of {str(allowed).replace('kind:', '')}."
        elif item["type"] in ("string_too_short", "too_short") and context.get("min_length") == 1:
            what, mend = _EMPTY
        else:
            said = {name: f"{value:g}" if isinstance(value, float) else value for name, value in context.items()}
            what, mend = what.format_map(said), mend.format_map(said)
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
