"""Changes of several people: what touches different fields survives, of the same field one is asked."""

from __future__ import annotations

from typing import Any, get_origin

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import BaseModel

from steady_tide.core.brief.brief import Brief
from steady_tide.core.brief.fields import PARTS, flat_fields, nested_fields
from steady_tide.core.quantities.errors import Conflict
from steady_tide.store.merging import merged, revision_of
from tests.briefs import SUN

FIELDS = st.dictionaries(st.sampled_from("abcdef"), st.integers(0, 3), max_size=4)


@given(FIELDS, FIELDS, FIELDS)
def test_two_changes_on_the_same_revision_both_survive_or_one_is_asked(
    start: dict[str, int], mine: dict[str, int], theirs: dict[str, int]
) -> None:
    stamps: dict[str, Any] = {}
    first, stamps = merged(start, stamps, 0, theirs)
    met = {name for name in mine if name in theirs and theirs[name] != start.get(name) and mine[name] != theirs[name]}
    try:
        second, after = merged(first, stamps, 0, mine)
    except Conflict as asked:
        assert {fault.where for fault in asked.faults} == met
        again, _ = merged(first, stamps, revision_of(stamps), mine)
        assert again == {**start, **theirs, **mine}, "said once more with what is there seen, it counts"
    else:
        assert not met
        assert second == {**start, **theirs, **mine}
        assert revision_of(after) >= revision_of(stamps)


def test_a_field_that_was_changed_and_changed_back_is_still_asked_about() -> None:
    now, stamps = merged({"note": "a"}, {}, 0, {"note": "b"})
    now, stamps = merged(now, stamps, 1, {"note": "a"})
    with pytest.raises(Conflict) as asked:
        merged(now, stamps, 0, {"note": "c"})
    assert "is “a” now" in asked.value.faults[0].what


def test_what_changes_nothing_makes_no_revision() -> None:
    now, stamps = merged({"note": "a"}, {}, 0, {"note": "a"})
    assert (now, stamps) == ({"note": "a"}, {})


def test_every_part_of_a_brief_is_merged_field_by_field() -> None:
    parts = {
        name
        for name, field in Brief.model_fields.items()
        if get_origin(field.annotation) is dict
        or (isinstance(field.annotation, type) and issubclass(field.annotation, BaseModel))
    }
    assert parts == set(PARTS)
    # The interface tells a part from a light by its kind.
    for name in parts - {"pins"}:
        assert "kind" not in getattr(Brief.model_fields[name].annotation, "model_fields", {})
    brief = Brief.model_validate({"light": SUN, "pins": {"nd": None, "iso": 100}}).model_dump(mode="json")
    assert nested_fields(flat_fields(brief)) == brief
