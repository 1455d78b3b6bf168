"""The forms in which gear is entered: data that the interface shows."""

from __future__ import annotations

from typing import Any, Literal

from steady_tide.core.quantities.frozen import Frozen


class FormOption(Frozen):
    """A value that can be chosen."""

    id: str
    name: str


class FormCondition(Frozen):
    """Where another field of the form has some value."""

    path: str
    value: str


class FormField(Frozen):
    """One field. free: may be left empty; when: shown only then."""

    path: str
    name: str
    unit: str = ""
    input: Literal["text", "number", "choice", "names", "cameras", "bands", "curve", "flag"]
    options: tuple[FormOption, ...] = ()
    hint: str
    free: bool = False
    when: FormCondition | None = None


class GearForm(Frozen):
    """A kind of gear. one: what one of it is called; start: values of a new one."""

    id: str
    title: str
    one: str
    says: str
    start: dict[str, Any]
    fields: tuple[FormField, ...]
