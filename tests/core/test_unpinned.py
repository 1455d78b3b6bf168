"""Pinned dials that are searched at once say what a search for each of them says."""

from __future__ import annotations

from random import Random

import numpy as np
import pytest

from steady_tide import library
from steady_tide.core.planning.camera_problem import CameraProblem, is_legal
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.ledger import price
from steady_tide.core.planning.prepared import prepare
from steady_tide.core.planning.ranking import entries_of
from steady_tide.core.planning.search import search
from steady_tide.core.planning.situation import situation
from steady_tide.core.planning.unpinned import TOGETHER, unpinned_solutions
from steady_tide.core.quantities.errors import BadBrief
from tests.briefs import ALL_KINDS, brief
from tests.examples import examples_of

KIT, KNOWN = library.demo_kit(), library.knowledge()


def benches(name: str, chance: Random) -> list[CameraProblem]:
    """Cameras with pins of which most can be searched at once; where they exclude each other, with fewer."""
    fields = ALL_KINDS[name]
    found = []
    for entry in entries_of(situation(brief(**fields), KNOWN, USUAL), KIT, KNOWN):
        if entry.problem is None:
            continue
        dials = [dial for dial in entry.problem.dials.values() if dial.listed and not dial.kind.alone]
        near = [dial for dial in dials if dial.block in TOGETHER]
        pins = {dial.id: chance.choice(dial.values) for dial in (*chance.sample(near, 3), chance.choice(dials))}
        while len(pins) > 1:
            try:
                at = situation(brief(**{**fields, "pins": pins}), KNOWN, USUAL)
                problem = entries_of(at, KIT, KNOWN, entry.sheet.id)[0].problem
                if problem is not None and is_legal(problem, problem.free_but()):
                    found.append(problem)
                    break
            except BadBrief:
                pass
            pins.popitem()
    return found


@pytest.mark.parametrize("seed", range(examples_of(2)))
@pytest.mark.parametrize("name", ALL_KINDS)
def test_dials_that_are_searched_at_once_cost_what_each_costs_alone(name: str, seed: int) -> None:
    at_once = 0
    for problem in benches(name, Random(f"{name} {seed}")):
        at, space = problem.at, problem.space
        prepared = prepare(at, space, problem.free_but(), within=problem.demands)
        found = unpinned_solutions(problem, prepared)
        named = [dial for dial in problem.pins if problem.dials[dial].listed and not problem.dials[dial].kind.alone]
        assert found.keys() == set(named)
        at_once += sum(problem.dials[dial].block in TOGETHER for dial in named) >= 2
        for dial, solution in found.items():
            block = problem.dials[dial].block
            alone = search(at, space, problem.free_but(dial))
            np.testing.assert_allclose(solution.minima[block], alone.minima[block], rtol=0, atol=1e-9)
            assert solution.total == pytest.approx(alone.total, abs=1e-9)
            # The way back leads to a combination that costs so much, and holds to the other pins.
            for candidate in np.flatnonzero(np.isfinite(solution.minima[block])).tolist()[::7]:
                choice = solution.best(block, np.array([candidate]))
                assert choice[block] == candidate
                assert all(mask[choice[name]] for name, mask in problem.free_but(dial).masks.items())
                given_up = price(at, space, choice, prepared.precomputed).given_up(at.weights)
                assert given_up == pytest.approx(solution.minima[block][candidate], abs=1e-9)
    assert at_once, "no camera had two of them pinned"
