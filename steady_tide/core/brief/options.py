"""What a brief's choices are called: data that editors show."""

from __future__ import annotations

from steady_tide.core.quantities.frozen import Frozen


class Option(Frozen):
    """A value that can be chosen. name: in a list; says: in a sentence, the name where it is empty; hint: beside it."""

    id: str
    name: str
    says: str = ""
    hint: str = ""


class SchoolAxis(Frozen):
    """A question on which experienced people disagree. usual: what it comes to where nobody says anything."""

    axis: str
    name: str
    options: tuple[Option, ...]
    usual: str = "as delivered"


class BriefOptions(Frozen):
    """Choices of a brief."""

    skies: tuple[Option, ...]
    shades: tuple[Option, ...]
    light_changes: tuple[Option, ...]
    motion_looks: tuple[Option, ...]
    schools: tuple[SchoolAxis, ...]
