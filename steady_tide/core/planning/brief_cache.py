"""A brief that was planned before with other pins: what pins do not change is computed once.

Whoever turns one dial after the other asks the same question again and again but for its pins. What was laid out for it, and what
exposure costs, serve again; so do they for a picture of each value.
"""

from __future__ import annotations

from collections.abc import Hashable
from dataclasses import dataclass, field, replace
from threading import Lock

from cachetools import LRUCache, cached

from steady_tide.core.brief.brief import USUAL_SCHOOL, Brief
from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.kit import Kit
from steady_tide.core.planning.judgement import Judgement
from steady_tide.core.planning.prepared import EXPOSURE_BLOCKS, Prepared
from steady_tide.core.planning.situation import Situation, situation
from steady_tide.core.quantities.identity_cache import Same

MOST_REMEMBERED = 2  # briefs: some megabytes each
PUT_ON = ("housing", "attachment")  # pins that change what a camera can be set to


@dataclass(frozen=True, eq=False)
class CachedBrief:
    """A brief, with its pins, and its cameras as they were laid out before, by id."""

    at: Situation
    prepared: dict[str, Prepared] = field(default_factory=dict)

    def remember(self, camera: str, prepared: Prepared) -> None:
        """Keep a camera that was laid out, where it is as free as the one that is kept. camera: its id."""
        kept = self.prepared.get(camera)
        if kept is None or all((prepared.masks[block] >= kept.masks[block]).all() for block in EXPOSURE_BLOCKS):
            self.prepared[camera] = prepared if prepared.known is None else prepared.known


def _key(brief: Brief, kit: Kit, knowledge: Knowledge, judgement: Judgement) -> Hashable:
    put_on = tuple(repr(brief.pins.get(dial)) for dial in PUT_ON)
    return brief.model_dump_json(exclude={"pins", "title"}), put_on, Same(kit), Same(knowledge), Same(judgement)


@cached(LRUCache(MOST_REMEMBERED), key=_key, lock=Lock())
def _first(brief: Brief, kit: Kit, knowledge: Knowledge, judgement: Judgement) -> CachedBrief:
    return CachedBrief(situation(brief, knowledge, judgement))


def cached_brief(brief: Brief, kit: Kit, knowledge: Knowledge, judgement: Judgement) -> CachedBrief:
    """A brief with its pins. brief: in its school; kit, knowledge, judgement: to plan with. Returns it with what is known
    of it from before. Raises what `situation` raises."""
    found = _first(brief, kit, knowledge, judgement)
    return CachedBrief(replace(found.at, brief=brief.in_school(USUAL_SCHOOL)), found.prepared)


def forget() -> None:
    """Work everything out anew."""
    _first.cache_clear()
