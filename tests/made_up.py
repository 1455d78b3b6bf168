"""A dial and an item of the ledger that no camera has: each in one definition, as a real one would be."""

from __future__ import annotations

import numpy as np

from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.dials.dial_kind import DialKind
from steady_tide.core.planning.items.item import Item

HOOD = DialKind(
    id="hood", block="hood", word="lens hood", form="word", offers=lambda _: ("none", "short", "deep"),
    order=lambda _: ("none", "short", "deep"), read=lambda hood: hood, phrase="a {value} hood",
)  # fmt: skip
STRAY_STOPS = {"none": 1.0, "short": 0.4, "deep": 0.1}
STRAY_LIGHT = Item(
    id="stray_light", title="stray light", dial="hood", scope="hood", weight="positioning",
    cost=lambda view: np.array([STRAY_STOPS[hood] for hood in view.values]),
    facts=lambda told: {"ev": float(told.at.light.ev100[1])},
    sentence="At EV {ev:stops} {rival} lets in {theirs:stops} stops of stray light.",
)  # fmt: skip
WITH_HOOD = USUAL.plus(dials=(HOOD,), items=(STRAY_LIGHT,))
