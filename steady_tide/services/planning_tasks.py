"""What the workers of the desks do: plan, see, answer the Bench, set cards on paper. They plan with the usual judgement."""

from __future__ import annotations

import pickle
from threading import Lock

from cachetools import LRUCache, cached

from steady_tide.core.brief.brief import Brief, School
from steady_tide.core.own.changes import OwnChange, own_changes
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan
from steady_tide.core.practice.question import Sight, Tries
from steady_tide.core.practice.seeing import sights_of
from steady_tide.core.quantities.errors import NoLegalPlan
from steady_tide.formats.card_pdf import Paper, write_card_pdf
from steady_tide.services.bench import answer_of
from steady_tide.services.gear import Gear
from steady_tide.words.day_cards import DayCards

MOST_KITS = 8  # that a worker remembers


@cached(LRUCache(MOST_KITS), key=lambda packed: packed[0], lock=Lock())
def unpacked(packed: tuple[str, bytes]) -> Gear:
    """A kit that was handed over. Returns it, the same for the same digest."""
    kit, knowledge, bare, own = pickle.loads(packed[1])  # our own, from the service
    return Gear(kit, knowledge, bare, own)


def plan_of(brief: Brief, crew: School, kit: tuple[str, bytes], only: str | None, schools: bool) -> Plan | NoLegalPlan:
    """Plan. kit: packed; the rest as the planner takes it. Returns the plan, or why there is none."""
    gear = unpacked(kit)
    try:
        return plan(brief, gear.kit, gear.knowledge, crew=crew, only=only, schools=schools)
    except NoLegalPlan as refused:
        return refused


def sights_for(brief: Brief, camera: str, tries: Tries, crew: School, kit: tuple[str, bytes]) -> list[Sight | None]:
    """What a brief would look like with several pins. kit: packed; the rest as `sights_of` takes it. Returns a sight for each."""
    gear = unpacked(kit)
    return sights_of(brief, camera, tries, gear.kit, gear.knowledge, crew)


def bench_of(
    brief: Brief, crew: School, kit: tuple[str, bytes], only: str | None, whole: bool
) -> tuple[str, bytes] | NoLegalPlan:
    """Answer the Bench. kit: packed. Returns the answer as JSON and its plan, packed, since whoever waits reads only the
    answer; or why there is none."""
    gear = unpacked(kit)
    made = plan_of(brief, crew, kit, only, whole)
    if isinstance(made, NoLegalPlan):
        return made
    return answer_of(brief, crew, gear, made, whole).model_dump_json(), pickle.dumps(made)


def own_changes_of(brief: Brief, crew: School, kit: tuple[str, bytes], made: Plan) -> tuple[OwnChange, ...]:
    """Make a plan again without each own number that it was made with. kit: packed. Returns what changes."""
    gear = unpacked(kit)
    return own_changes(brief, made, crew, gear.bare, gear.own)


def paper_of(cards: DayCards, paper: Paper) -> bytes:
    """Set cards on paper. Returns PDF."""
    return write_card_pdf(cards, paper)
