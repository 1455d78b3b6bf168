"""What is worked out once and read again says what working it out anew says."""

from __future__ import annotations

from random import Random

import numpy as np
import pytest

from steady_tide import library
from steady_tide.core.planning.brief_cache import forget
from steady_tide.core.planning.camera_problem import CameraProblem, is_legal, reachable
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.ledger import price_all
from steady_tide.core.planning.pinning import Freedom, all_free, pinned
from steady_tide.core.planning.planner import plan
from steady_tide.core.planning.prepared import prepare
from steady_tide.core.planning.priced_choice import Choice
from steady_tide.core.planning.ranking import entries_of
from steady_tide.core.planning.search import search
from steady_tide.core.planning.situation import Situation, situation
from steady_tide.core.quantities.errors import BadBrief, NoLegalPlan
from tests.briefs import ALL_KINDS, EELGRASS, QUAY, brief
from tests.checks import at_least_one
from tests.examples import examples_of

KIT, KNOWN = library.demo_kit(), library.knowledge()


def laid(**fields: object) -> tuple[Situation, list[CameraProblem]]:
    at = situation(brief(**fields), KNOWN, USUAL)
    return at, [entry.problem for entry in entries_of(at, KIT, KNOWN) if entry.problem]


def some(problem: CameraProblem, chance: Random, count: int) -> list[Choice]:
    """Combinations of anything with anything: prices know no legality."""
    pictures = np.flatnonzero(problem.demands.masks["pictures"]).tolist()
    sizes = problem.space.sizes
    return [
        Choice.from_places(
            {
                block: chance.choice(pictures) if block == "pictures" else chance.randrange(size)
                for block, size in sizes.items()
            }
        )
        for _ in range(count)
    ]


@pytest.mark.parametrize("name", ALL_KINDS)
def test_the_ledger_reads_what_it_would_work_out(name: str) -> None:
    at, benches = laid(**ALL_KINDS[name])
    for problem in at_least_one(benches):
        there = prepare(at, problem.space, problem.free_but(), within=problem.demands).precomputed
        choices = some(problem, Random(name), 40)
        for read, worked_out in zip(
            price_all(at, problem.space, choices, there), price_all(at, problem.space, choices), strict=True
        ):
            assert read.stops == pytest.approx(worked_out.stops, abs=1e-12)
            assert list(read.stops) == list(worked_out.stops), "and in the same order, which decides between equals"


@pytest.mark.parametrize("name", ALL_KINDS)
def test_lenses_that_are_exposed_alike_have_the_tables_of_their_own(name: str) -> None:
    at, benches = laid(**ALL_KINDS[name])
    shared = 0
    for problem in at_least_one(benches):
        prepared = prepare(at, problem.space, problem.demands)
        for lens in sorted(prepared.by_lens):
            before = list(prepared.made.values())
            found = prepared.table(lens)
            shared += any(found.ladder is other.ladder for other in before)
            alone = prepare(at, problem.space, problem.demands).table(lens)
            for part in ("gates", "paces", "price", "ladder", "rung", "by_rung", "noise_of"):
                np.testing.assert_array_equal(getattr(found, part), getattr(alone, part), err_msg=part)
    if ALL_KINDS[name] == QUAY:
        assert shared >= 2, "a clip before the main lens of two phones"


def test_what_can_be_reached_is_what_is_legal() -> None:
    chance = Random(7)
    for fields in (QUAY, EELGRASS):
        _, benches = laid(**fields)
        for problem in benches[:3]:
            names = [name for name, dial in problem.dials.items() if len(dial.values) > 1]
            for _ in range(12):
                pins = [(name, chance.choice(problem.dials[name].values)) for name in chance.sample(names, 2)]
                free = pinned(problem.demands, problem.dials, pins)
                told = reachable(problem.space, free)
                for block in ("pictures", "looks", "gates", "glasses", "iso_pairs", "focuses", "balances"):
                    for candidate in chance.sample(range(len(told[block])), min(6, len(told[block]))):
                        mask = np.zeros(len(told[block]), dtype=bool)
                        mask[candidate] = True
                        assert told[block][candidate] == is_legal(problem, Freedom({**free.masks}).within(block, mask))


def test_what_was_laid_out_serves_the_pins_of_its_brief_and_no_others() -> None:
    at, benches = laid(**QUAY)
    problem = next(one for one in benches if one.space.sheet.id == "limpet-7")
    wide = prepare(at, problem.space, problem.demands)
    for pins in ({"frame_rate": 50.0}, {"profile": "flat"}, {"view": "wide", "iso_ceiling": 1600}):
        free = pinned(problem.demands, problem.dials, list(pins.items()))
        again, anew = prepare(at, problem.space, free, wide), prepare(at, problem.space, free)
        assert again.precomputed is wide.precomputed
        assert search(at, problem.space, free, wide).total == pytest.approx(
            search(at, problem.space, free).total, abs=1e-12
        )
        for lens, found in again.by_lens.items():
            np.testing.assert_allclose(found.base, anew.by_lens[lens].base, atol=1e-12)
    narrow = prepare(at, problem.space, pinned(problem.demands, problem.dials, [("frame_rate", 50.0)]))
    assert prepare(at, problem.space, problem.demands, narrow).precomputed is not narrow.precomputed, (
        "it has not all of these pictures"
    )
    other = situation(brief(**QUAY, school={"shutter": "free"}), KNOWN, USUAL)
    assert prepare(other, problem.space, all_free(problem.space), wide).precomputed is not wide.precomputed


@pytest.mark.parametrize("name", ALL_KINDS)
def test_pins_after_pins_are_planned_as_if_they_were_the_first(name: str) -> None:
    """What a brief was asked before is remembered; no digit and no word of a plan may tell."""
    chance, school = Random(name), {"noise": "quiet"}
    forget()
    profiles = plan(brief(**ALL_KINDS[name]), KIT, KNOWN, schools=False).profiles
    legal = {dial: [value.value for value in values if value.legal] for dial, values in profiles.items()}
    turned = [dial for dial, values in legal.items() if len(values) > 1]

    def made(pins: dict[str, object], only: str | None, other: bool) -> str:
        fields = {**ALL_KINDS[name], "pins": pins, **({"school": school} if other else {})}
        try:
            return plan(brief(**fields), KIT, KNOWN, schools=False, only=only).model_dump_json()
        except (NoLegalPlan, BadBrief) as error:
            return repr(error)

    for turn in range(examples_of(4)):
        pins = {dial: chance.choice(legal[dial]) for dial in chance.sample(turned, chance.choice((1, 2, 3)))}
        only = chance.choice((None, "limpet-7"))
        after = made(pins, only, turn % 3 == 2)
        forget()
        assert after == made(pins, only, turn % 3 == 2), pins


def test_other_gear_and_other_knowledge_is_another_question() -> None:
    there, fewer = brief(**QUAY), KIT.model_copy(update={"filters": ()})
    with_glass, without = plan(there, KIT, KNOWN, schools=False), plan(there, fewer, KNOWN, schools=False)
    assert with_glass.settings.nd != ()
    assert without.settings.nd == ()
    assert plan(there, KIT, KNOWN, schools=False) == with_glass
