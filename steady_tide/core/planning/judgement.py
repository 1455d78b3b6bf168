"""All dials and all items of the ledger that a plan is made with, and what follows from them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from steady_tide.core.planning.dials.dial_kind import ROWS, DialKind, Row
from steady_tide.core.planning.items.item import Item
from steady_tide.core.planning.space import Floats

Stops = dict[str, Floats]


@dataclass(frozen=True, eq=False)
class Judgement:
    """Dials and items. What a dial decides, which items exposure alone decides and which rows there are follows."""

    dial_kinds: tuple[DialKind, ...]
    item_kinds: tuple[Item, ...]

    def plus(self, dials: tuple[DialKind, ...] = (), items: tuple[Item, ...] = ()) -> Judgement:
        """The same with more dials and items. Returns another."""
        return Judgement((*self.dial_kinds, *dials), (*self.item_kinds, *items))

    @cached_property
    def dials(self) -> dict[str, DialKind]:
        """Dials by id, in the order in which a plan names them."""
        return {kind.id: kind for kind in self.dial_kinds}

    @cached_property
    def listed(self) -> tuple[str, ...]:
        """Dials that are shown."""
        return tuple(kind.id for kind in self.dial_kinds if kind.listed)

    @cached_property
    def alone(self) -> tuple[str, ...]:
        """Dials that touch no other."""
        return tuple(kind.id for kind in self.dial_kinds if kind.alone)

    @cached_property
    def items(self) -> dict[str, Item]:
        """Items by id."""
        return {item.id: item for item in self.item_kinds}

    @cached_property
    def of_scope(self) -> dict[str, tuple[Item, ...]]:
        """Items by what their cost is worked out from."""
        scopes = dict.fromkeys(item.scope for item in self.item_kinds)
        return {scope: tuple(item for item in self.item_kinds if item.scope == scope) for scope in scopes}

    @cached_property
    def decides(self) -> dict[str, tuple[str, ...]]:
        """What each dial can decide by itself, items by dial. A rival plan may also turn other dials; what those cost
        is no reason for this one."""
        return {
            kind.id: tuple(
                sorted(
                    item.id
                    for item in self.item_kinds
                    if kind.id == item.dial or kind.id in item.decided_by or kind.block in item.decided_by
                )
            )
            for kind in self.dial_kinds
        }

    @cached_property
    def rows(self) -> tuple[tuple[Row, tuple[str, ...]], ...]:
        """Rows of the setting sheet, each with its dials; a dial that names no known row has one of its own."""
        known = {row.id for row in ROWS}
        own = [
            Row(kind.id, kind.word[:1].upper() + kind.word[1:], kind.id)
            for kind in self.dial_kinds
            if kind.listed and kind.row not in known
        ]
        return tuple(
            (row, tuple(kind.id for kind in self.dial_kinds if kind.listed and row.id in (kind.row, kind.id)))
            for row in (*ROWS, *own)
        )

    def stops(self, scope: str, view: Any) -> Stops:
        """What the items of a scope cost, not yet weighted. view: of that scope. Returns stops by item."""
        return {item.id: np.asarray(item.cost(view)) for item in self.of_scope.get(scope, ())}

    def weighed(self, weights: Mapping[str, float], scope: str, view: Any) -> Floats:
        """Sum of weight times stops over the items of a scope. Returns an array of their common shape."""
        return self.weigh(
            weights, {item.id: item.cost(view) for item in self.of_scope.get(scope, ()) if weights[item.id]}
        )

    def weigh(self, weights: Mapping[str, float], stops: Stops) -> Floats:
        """Sum of weight times stops. stops: by item. Returns an array of their common shape."""
        # Prices of one shape are added up where they are; small ones meet before they meet a large one.
        of_shape: dict[tuple[int, ...], Floats] = {}
        for item, given_up in stops.items():
            price = np.asarray(weights[item] * given_up)
            known = of_shape.get(price.shape)
            if known is None or not price.ndim:
                of_shape[price.shape] = price if known is None else np.asarray(known + price)
            else:
                known += price
        total: Floats = np.zeros(())
        for _, prices in sorted(of_shape.items(), key=lambda entry: entry[1].size):
            if prices.shape == np.broadcast_shapes(prices.shape, total.shape) and prices.ndim:
                prices += total
                total = prices
            else:
                total = total + prices
        return np.asarray(total)
