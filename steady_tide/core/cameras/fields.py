"""What each field of a sheet is called, and where a person finds it: data that the editor shows."""

from __future__ import annotations

from typing import Literal

from steady_tide.core.quantities.frozen import Frozen


class FieldNote(Frozen):
    """One field."""

    path: str
    name: str
    unit: str
    input: Literal[
        "text",
        "number",
        "whole",
        "numbers",
        "second",
        "seconds",
        "flag",
        "choice",
        "several",
        "id",
        "ids",
        "json",
        "none",
    ]
    options: tuple[str, ...] = ()
    of: str = ""  # list of the sheet whose ids it names
    find: Literal["box", "manual", "menu", "test", "file", "choice"]
    where: str


class FieldGroup(Frozen):
    """Fields that stand together; `list` where they repeat for each entry of a list."""

    id: str
    title: str
    says: str
    list: str = ""
    fields: tuple[FieldNote, ...]
