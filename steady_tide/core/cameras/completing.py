"""Filling up a sheet that a person has begun: what is missing is estimated, and each estimate is written down."""

from __future__ import annotations

import re
from collections.abc import Iterable
from copy import deepcopy
from typing import Annotated, Any

from pydantic import BeforeValidator

from steady_tide.core.cameras.filling import Filler
from steady_tide.core.cameras.known import Known
from steady_tide.core.cameras.sheet_reading import read_sheet
from steady_tide.core.cameras.typical import Typical
from steady_tide.core.gear.sheet import CameraSheet, Estimate
from steady_tide.core.gear.view_names import todays_sheet
from steady_tide.core.quantities.errors import BadSheet, Fault
from steady_tide.core.quantities.frozen import Frozen


class RoughSheet(Frozen):
    """A sheet as far as it has got: any part of the open format, and what else is known."""

    sheet: Annotated[dict[str, Any], BeforeValidator(todays_sheet)]
    known: Known = Known()


class Completed(Frozen):
    """A rough sheet filled up: a whole sheet, or what still keeps it from being one."""

    sheet: CameraSheet | None
    estimates: tuple[Estimate, ...]
    faults: tuple[tuple[str, str, str], ...]  # where, what, how to mend it


def complete(rough: RoughSheet, typical: Typical) -> Completed:
    """Fill up a rough sheet.

    rough: what is known; typical: what is taken where nothing is. Returns the sheet with its estimates, or
    the faults that only a person can mend. What a person gave is never changed.
    """
    filler = Filler(deepcopy(rough.sheet), rough.known, typical)
    faults = tuple(filler.lacking())
    if not faults:
        try:
            filler.fill()
            sheet = read_sheet(filler.doc)
            return Completed(sheet=sheet, estimates=sheet.estimates, faults=())
        except BadSheet as error:
            faults = error.faults
        except (TypeError, ValueError, KeyError, AttributeError, ZeroDivisionError, OverflowError):
            # Something of the wrong form stands where a part of a sheet belongs: the reading says where.
            faults = tuple(_of_form(rough.sheet))
    return Completed(
        sheet=None, estimates=tuple(filler.estimates), faults=tuple((f.where, f.what, f.mend) for f in faults)
    )


def _of_form(doc: dict[str, Any]) -> Iterable[Fault]:
    try:
        read_sheet(doc)
    except BadSheet as error:
        wrong = [fault for fault in error.faults if fault.what != "is missing"]
        return wrong or [Fault("", "it is not in the form of a camera sheet", "Compare it with the published schema.")]
    return [Fault("", "it cannot be filled up", "Compare it with the published schema.")]


def rough_of(sheet: CameraSheet, known: Known, typical: Typical) -> dict[str, Any]:
    """Take a sheet's estimates out again, so that better knowledge can fill them.

    sheet: whole; known: what it was made from besides; typical: as for filling up. Returns a rough sheet's fields,
    which fill up to the same sheet: as few of them as will do, or else all, where a number that was given is
    one that would be estimated otherwise.
    """
    for brief in (True, False):
        doc = _without_estimates(sheet, brief)
        again = complete(RoughSheet(sheet=doc, known=known), typical).sheet
        if again is not None and again == sheet:
            return doc
    return _without_estimates(sheet, False)


def _without_estimates(sheet: CameraSheet, brief: bool) -> dict[str, Any]:
    doc = sheet.model_dump(mode="json", exclude_defaults=brief, exclude_none=True, exclude={"estimates"})
    doc |= {"format": sheet.format, "version": sheet.version, "edition": sheet.edition}
    for estimate in sheet.estimates:
        steps = [int(step) if step.isdigit() else step for step in re.findall(r"[^.\[\]]+", estimate.field)]
        at: Any = doc
        for step in steps[:-1]:
            at = (
                at.get(step) if isinstance(at, dict) else at[step] if isinstance(step, int) and step < len(at) else None
            )
            if at is None:
                break
        if isinstance(at, dict):
            at.pop(steps[-1], None)
        elif isinstance(at, list) and isinstance(steps[-1], int) and len(at) == 1 and len(steps) >= 2:
            # The only value of a list: the list itself is what was estimated.
            holder: Any = doc
            for step in steps[:-2]:
                holder = holder[step]
            holder.pop(steps[-2], None)
    return doc
