"""Presets: never more taps than trying every set of presets and buttons."""

from __future__ import annotations

from itertools import combinations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from steady_tide.core.outing import presets as module
from steady_tide.core.outing.presets import Task, fewest_taps, menu_taps, presets_of, taps_in_all
from tests.days import demo_day
from tests.examples import examples


@st.composite
def tasks(draw: st.DrawFn) -> Task:
    dials = draw(st.integers(1, 5))
    return Task(
        wanted=tuple(
            draw(st.lists(st.tuples(*[st.integers(0, 2)] * dials), min_size=1, max_size=6)),
        ),
        menu_taps=tuple(draw(st.lists(st.integers(0, 7), min_size=dials, max_size=dials))),
        quick_taps=draw(st.integers(0, 4)),
        preset_taps=draw(st.integers(0, 6)),
        preset_count=draw(st.integers(0, 3)),
        quick_count=draw(st.integers(0, 2)),
    )


def by_trying(task: Task) -> tuple[int, int, int]:
    """The fewest taps, then presets, then buttons, over everything there is."""
    places, dials = range(len(task.distinct)), range(len(task.menu_taps))
    best = None
    for stored_count in range(task.preset_count + 1):
        for stored in combinations(places, stored_count):
            for quick_count in range(task.quick_count + 1):
                for quick in combinations(dials, quick_count):
                    taps = taps_in_all(task, frozenset(stored), frozenset(quick))
                    found = (taps, stored_count, quick_count)
                    best = found if best is None else min(best, found)
    assert best is not None
    return best


@pytest.mark.parametrize("few", [module.FEW_SETS, -1], ids=["every set at once", "branch and bound"])
@examples(40)
@given(task=tasks())
def test_the_choice_is_the_best_of_all(task: Task, few: int) -> None:
    before, module.FEW_SETS = module.FEW_SETS, few
    try:
        found = fewest_taps(task)
    finally:
        module.FEW_SETS = before
    assert found.proven
    taps = taps_in_all(task, found.stored, found.quick)
    assert (taps, len(found.stored), len(found.quick)) == by_trying(task)


def test_a_clock_that_runs_out_says_so() -> None:
    ticks = iter(range(0, 10_000, 100))
    task = Task(((0, 1), (1, 0), (0, 0)), (4, 4), 2, 2, 1, 1)
    assert not fewest_taps(task, lambda: float(next(ticks)), longest_s=1).proven


def test_the_demo_day_is_reached_step_by_step_with_what_is_stored() -> None:
    shots = [shot for shot in demo_day().shots if shot.sheet.id == "limpet-7"]
    found = presets_of(shots)
    sheet = shots[0].sheet
    assert len(found.presets) <= sheet.preset_count
    assert len(found.quick) <= sheet.quick_buttons
    assert found.proven
    assert found.taps < found.taps_by_menu / 3
    stored = {preset.number: preset.values for preset in found.presets}
    camera: dict[str, str] = {}
    for shot, step in zip(shots, found.steps, strict=True):
        if step.preset is not None:
            camera = dict(stored[step.preset])
        camera.update({change.dial: change.value for change in step.changes})
        for dial, value in camera.items():
            assert shot.plan.chosen[dial] == value, f"{shot.key} {dial}"
        by_menu = menu_taps(sheet)
        counted = sum(sheet.taps.quick if change.quick else by_menu[change.dial] for change in step.changes)
        assert step.taps == counted + (sheet.taps.preset if step.preset is not None else 0)


def test_taps_are_counted_from_the_sheets_menu() -> None:
    sheet = next(shot.sheet for shot in demo_day().shots if shot.sheet.id == "limpet-7")
    taps = menu_taps(sheet)
    assert taps["frame"] == 4, "menu in and out, the first page, an entry, a value"
    assert taps["shutter_s"] == 5
    assert "nd" not in taps


def test_presets_that_most_shots_begin_from_come_first() -> None:
    shots = [shot for shot in demo_day().shots if shot.sheet.id == "limpet-7"]
    uses = [len(preset.used_by) for preset in presets_of(shots).presets]
    assert uses == sorted(uses, reverse=True)
