"""What questions are made of in tests: the demo's kit, each plan made once."""

from __future__ import annotations

from functools import cache

from steady_tide import library
from steady_tide.core.brief.brief import Brief
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan
from steady_tide.core.practice.question import World
from steady_tide.core.practice.seeing import sights_of

KIT, KNOWLEDGE = library.demo_kit(), library.knowledge()


@cache
def _planned(brief: str, camera: str | None) -> Plan:
    return plan(Brief.model_validate_json(brief), KIT, KNOWLEDGE, only=camera, schools=False)


def world(camera: str | None = "limpet-7") -> World:
    """A world. camera: that one practises with, None for any."""
    return World(
        KIT,
        KNOWLEDGE,
        library.uses(),
        library.practice(),
        lambda brief, only: _planned(brief.model_dump_json(), only),
        lambda brief, only, tries: sights_of(brief, only, tries, KIT, KNOWLEDGE),
        camera,
    )
