"""Changes as they come in: only what changed, and the revision on which it was made."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Any, TypeVar

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from steady_tide.core.quantities.errors import BadInput
from steady_tide.core.quantities.frozen import faults_of
from steady_tide.store.merging import Stamps, merged

Form = TypeVar("Form", bound=BaseModel)
Revision = Annotated[int, Field(ge=0, le=2_000_000_000, description="of what the change was made on")]


class Change(BaseModel):
    """A change of something that several people may change."""

    model_config = ConfigDict(extra="forbid")

    revision: Revision
    change: Annotated[
        dict[str, Any], Field(max_length=60, description="the fields that changed, and no others; null: as usual")
    ]


def changed(
    form: type[Form],
    now: Mapping[str, Any],
    stamps: Mapping[str, Any],
    made_on: int,
    change: Mapping[str, Any],
    inside: str = "",
) -> tuple[Form, Stamps]:
    """What a kept thing becomes by a change.

    form: that it has to keep; now: its fields as kept; stamps: kept beside it; made_on: revision that the change was
    made on; change: fields and their new values; inside: which part of the stamped thing this is. Returns the whole, and
    its stamps. Raises BadInput where the whole would be nothing of that form, Conflict where a field was changed
    meanwhile.
    """
    before = form.model_validate(now).model_dump(mode="json")
    wanted = _checked(form, {**before, **_as_usual(form, change)}, inside).model_dump(mode="json")
    then, after = merged(
        _named(before, inside),
        stamps,
        made_on,
        _named({name: value for name, value in wanted.items() if name in change}, inside),
    )
    return _checked(form, {name.removeprefix(inside): value for name, value in then.items()}, inside), after


def _as_usual(form: type[BaseModel], change: Mapping[str, Any]) -> dict[str, Any]:
    """A change in which what was emptied has its usual value."""
    fields = form.model_fields
    return {
        name: fields[name].get_default(call_default_factory=True)
        if value is None and name in fields and not fields[name].is_required()
        else value
        for name, value in change.items()
    }


def _named(fields: Mapping[str, Any], inside: str) -> dict[str, Any]:
    return {f"{inside}{name}": value for name, value in fields.items()}


def _checked(form: type[Form], fields: Mapping[str, Any], inside: str) -> Form:
    try:
        return form.model_validate(fields)
    except ValidationError as error:
        raise BadInput(*faults_of(error, (inside.rstrip("."),) if inside else ())) from None
