"""Traits of each scenario. Written by scripts/documents.py from `library/scenarios.yaml`."""

from __future__ import annotations

from steady_tide.core.brief.traits import Traits

OF_SCENARIO: dict[str, Traits] = {
    "everyday": Traits(),
    "underwater": Traits(under_water=True),
    "low_light": Traits(in_the_dark=True),
    "motion": Traits(fast=True),
    "product": Traits(on_table=True),
    "lapse": Traits(interval=True),
}
