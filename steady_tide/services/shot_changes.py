"""Changes of a shot's brief and start, merged field by field."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime
from typing import Any

from pydantic import ValidationError

from steady_tide.core.brief.brief import Brief
from steady_tide.core.brief.fields import PARTS, flat_fields, nested_fields
from steady_tide.core.brief.start_time import one_time
from steady_tide.core.quantities.errors import BadInput, Fault
from steady_tide.core.quantities.frozen import Frozen, faults_of
from steady_tide.core.quantities.moments import Moment
from steady_tide.store.merging import check_change
from steady_tide.store.shots import shot_fields
from steady_tide.store.tables import Shot


class _Start(Frozen):
    starts_at: Moment | None = None


def changed_shot(shot: Shot, made_on: int, change: Mapping[str, Any]) -> tuple[Brief, datetime | None]:
    """What a shot becomes by a change.

    shot: held; made_on: revision that the change was made on; change: fields of the brief, and `starts_at`, with their new
    values. A field of a part is named after it (`subject.distance_m`); a part that is given whole takes the place of the
    other. None: as usual. A pin is a list of its value (`pins.nd`: ["nd8"]); None takes it out. Returns the brief and the
    start, brought to one time. Raises BadInput where that is no brief, Conflict where a field was changed meanwhile.
    """
    kept = (Brief.model_validate(shot.brief), shot.starts_at)
    now = shot_fields(kept[0].model_dump(mode="json"), shot.starts_at)
    asked = _flat(now, change)
    brief, starts_at = _read({**now, **asked})
    wanted = shot_fields(brief.model_dump(mode="json"), starts_at)
    check_change(now, shot.stamps or {}, made_on, {name: wanted.get(name) for name in asked})
    return one_time(brief, starts_at, kept)


def _flat(now: Mapping[str, Any], change: Mapping[str, Any]) -> dict[str, Any]:
    """A change, all of it field by field: what a whole part leaves out is emptied."""
    found: dict[str, Any] = {}
    for name, value in change.items():
        if name in PARTS and (value is None or isinstance(value, Mapping)):
            emptied = {field: None for field in now if field.startswith(f"{name}.")}
            found |= {**emptied, **flat_fields({name: value or {}})}
        else:
            found[name] = value
    return found


def _read(flat: Mapping[str, Any]) -> tuple[Brief, datetime | None]:
    said = {name: value for name, value in flat.items() if value is not None}
    starts_at = said.pop("starts_at", None)
    wrong: list[Fault] = []
    try:
        start = _Start.model_validate({"starts_at": starts_at})
    except ValidationError as error:
        wrong += faults_of(error)
    try:
        brief = Brief.model_validate(nested_fields(said))
    except ValidationError as error:
        wrong += faults_of(error, ("brief",))
    if wrong:
        raise BadInput(*wrong)
    return brief, start.starts_at
