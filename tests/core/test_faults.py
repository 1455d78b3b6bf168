"""What the validator complains of is told in our words, with a way to mend it."""

from __future__ import annotations

from datetime import date, datetime, time
from typing import Annotated, Any, Literal, get_args
from uuid import UUID

import pytest
from pydantic import AwareDatetime, Field, TypeAdapter, ValidationError
from pydantic_core.core_schema import ErrorType

from steady_tide.core.quantities.frozen import Frozen, faults_in, faults_of
from tests.checks import at_least_one


class Inner(Frozen):
    name: str


RAW = ("should", "Input", "String", "valid ", "Field ", "Value error", "{", "type_", "greater", "less than or")


@pytest.mark.parametrize(
    ("form", "value", "says"),
    [
        (Annotated[str, Field(max_length=60)], "x" * 61, "is longer than 60 letters"),
        (Annotated[str, Field(min_length=1)], "", "is empty"),
        (Annotated[str, Field(min_length=3)], "a", "is shorter than 3 letters"),
        (Annotated[str, Field(pattern="^[a-z]+$")], "A", "holds letters that cannot stand there"),
        (Annotated[list[int], Field(max_length=2)], [1, 2, 3], "holds more than 2"),
        (Annotated[list[int], Field(min_length=2)], [1], "holds fewer than 2"),
        (Annotated[float, Field(gt=0)], 0, "must be more than 0"),
        (Annotated[float, Field(ge=0.5)], 0, "must be 0.5 or more"),
        (Annotated[float, Field(lt=1e6)], 1e7, "must be less than 1e+06"),
        (Annotated[int, Field(le=9)], 10, "must be 9 or less"),
        (float, "much", "is no number"),
        (float, [], "is no number"),
        (int, 1.5, "is no whole number"),
        (int, "9" * 5000, "is no whole number"),
        (bool, "perhaps", "is neither true nor false"),
        (str, 3, "is no text"),
        (list[int], 3, "is no list"),
        (tuple[int, ...], 3, "is no list"),
        (frozenset[int], 3, "is no list"),
        (dict[str, int], 3, "is no object"),
        (Inner, 3, "is no object"),
        (Inner, {}, "is missing"),
        (Inner, {"name": "a", "nam": 1}, "is not a known field"),
        (None, 3, "has to be nothing here"),
        (Literal["a", "b"], "c", "unknown value 'c'"),
        (date, "soon", "is no date"),
        (datetime, "soon", "is no date with a time"),
        (AwareDatetime, "2026-10-11T12:20:00", "says no time zone"),
        (time, "noon", "is no time of day"),
        (UUID, "the first", "is no id"),
        (Annotated[float, Field(allow_inf_nan=False)], float("nan"), "is not a finite number"),
    ],
)
def test_a_complaint_is_ours(form: Any, value: Any, says: str) -> None:
    with pytest.raises(ValidationError) as refused:
        TypeAdapter(form).validate_python(value)
    fault = faults_of(refused.value)[0]
    assert fault.what == says
    assert fault.mend or fault.what.startswith("must be")
    assert not [word for word in RAW if word in str(fault)]


def test_no_complaint_is_told_raw() -> None:
    """Whatever the validator may say: its own words never get through."""
    for kind in at_least_one(get_args(ErrorType)):
        context: dict[str, Any] = {
            name: 1
            for name in ("gt", "ge", "lt", "le", "multiple_of", "max_length", "min_length", "pattern", "expected")
        }
        told = faults_in([{"type": kind, "loc": ("a",), "msg": "Input should be raw", "input": 1, "ctx": context}])
        assert told[0].what, kind
        assert "raw" not in str(told[0]), kind
