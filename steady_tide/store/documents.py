"""Documents within the tables: each is kept with its version, and brought up to today's when it is read.

To change the form of a document: write a function that makes the next version of one, put it into `UPGRADES`, and add a
document of the version before to `tests/old/documents`.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, Literal

from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.engine import Dialect
from sqlalchemy.sql.operators import OperatorType
from sqlalchemy.types import TypeDecorator, TypeEngine

from steady_tide.core.gear.upgrades import second_draft, second_thing
from steady_tide.core.log.take import with_one_note
from steady_tide.core.quantities.errors import WrongVersion

Kind = Literal[
    "brief", "plan", "framing", "film", "use", "sheet", "thing", "draft", "ladder", "take", "note", "number", "clip_plan"
]  # fmt: skip
Upgrade = Callable[[dict[str, Any]], dict[str, Any]]
VERSION = "document_version"

# By kind: from the first version to the second, from the second to the third, and so on.
UPGRADES: dict[Kind, tuple[Upgrade, ...]] = {
    "thing": (second_thing,),
    "draft": (second_draft,),
    "take": (with_one_note,),
}


def newest(kind: Kind) -> int:
    """The version that documents of a kind are written in."""
    return 1 + len(UPGRADES.get(kind, ()))


def upgraded(kind: Kind, kept: dict[str, Any]) -> dict[str, Any]:
    """A kept document in today's form.

    kind: of document; kept: as it stands in the table, of the first version where it says none. Returns it without its
    version. Raises WrongVersion where a later program wrote it.
    """
    document = {name: value for name, value in kept.items() if name != VERSION}
    version = kept.get(VERSION, 1)
    if version > newest(kind):
        raise WrongVersion(
            f"A {kind.replace('_', ' ')} was kept by a newer version of Steady Tide (version {version} of its form; this "
            f"one reads up to {newest(kind)}). Start that version."
        )
    for upgrade in UPGRADES.get(kind, ())[version - 1 :]:
        document = upgrade(document)
    return document


class Document(TypeDecorator[dict[str, Any]]):
    """A column of documents. A part of one is read through `type_coerce(column, JSONB)`: parts have no version."""

    impl = JSONB
    cache_ok = True

    def __init__(self, kind: Kind, none_as_null: bool = False) -> None:
        """kind: of document; none_as_null: whether none is a null of SQL."""
        super().__init__(none_as_null=none_as_null)
        self.kind = kind
        self.none_as_null = none_as_null

    def process_bind_param(self, value: dict[str, Any] | None, dialect: Dialect) -> dict[str, Any] | None:
        """With its version."""
        return value if value is None else {**value, VERSION: newest(self.kind)}

    def process_result_value(self, value: dict[str, Any] | None, dialect: Dialect) -> dict[str, Any] | None:
        """In today's form."""
        return None if value is None else upgraded(self.kind, value)

    def coerce_compared_value(self, op: OperatorType | None, value: Any) -> TypeEngine[Any]:
        """Parts are compared as JSON is."""
        return self.impl_instance.coerce_compared_value(op, value)
