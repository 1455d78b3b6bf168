"""What an item of the ledger is: one kind of thing that a plan can give up, in one definition."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

Facts = dict[str, Any]


def no_facts(_: Any) -> Facts:
    """Stops of the item, and the two values, are all that its sentence needs."""
    return {}


@dataclass(frozen=True)
class Item:
    """One kind of thing that a plan can give up.

    title: what it is called; dial: beside which it is shown. scope: what its cost is worked out from, one of the
    scopes of `views.py` or a dial that stands alone; cost: from a view of that scope to stops, not yet weighted, an
    array. sentence: what a rival gives up, a template or one for each case; facts: the case and the quantities that
    it needs besides `rival`, `chosen`, and the stops `theirs`, `ours`, `more`. decided_by: further dials, or whole
    blocks of dials, that can decide it; a reason for a dial never cites what it cannot decide. weight: the key of
    its weight in the library, its own id unless said otherwise.
    """

    id: str
    title: str
    dial: str
    scope: str
    cost: Callable[[Any], Any]
    sentence: str | Mapping[str, str]
    facts: Callable[[Any], Facts] = no_facts
    decided_by: tuple[str, ...] = ()
    weight: str = ""

    @property
    def weight_key(self) -> str:
        """Under which the library weighs it."""
        return self.weight or self.id
