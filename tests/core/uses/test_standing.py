"""Standing presets: against every choice there is, and the taps of a year added up by hand."""

from __future__ import annotations

from itertools import combinations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from steady_tide import library
from steady_tide.core.outing.presets import Task, fewest_taps
from steady_tide.core.planning.planner import plan
from steady_tide.core.uses.standing import PlannedUse, expected_taps, standing_of, year_priced
from steady_tide.words.uses import set_up_card, standing_lines, standing_text

KIT, KNOWN = library.demo_kit(), library.knowledge()


def task_of(wanted: list[tuple[int, ...]], presets: int, buttons: int, menu: tuple[int, ...]) -> Task:
    return Task(
        wanted=tuple(wanted), menu_taps=menu, quick_taps=2, preset_taps=2, preset_count=presets, quick_count=buttons
    )


def solved(task: Task, often: list[float]) -> tuple[float, bool]:
    priced = year_priced(task.wanted, often)
    found = fewest_taps(task, priced=lambda cost: priced(cost, task.preset_taps))
    return expected_taps(task, often, found.stored, found.quick), found.proven


@given(
    st.lists(st.tuples(*[st.integers(0, 2)] * 4), min_size=1, max_size=6),
    st.integers(0, 3),
    st.integers(0, 2),
    st.data(),
)
def test_no_choice_takes_fewer_taps(
    wanted: list[tuple[int, ...]], presets: int, buttons: int, data: st.DataObject
) -> None:
    often = data.draw(st.lists(st.integers(1, 60), min_size=len(wanted), max_size=len(wanted)))
    menu = data.draw(st.tuples(*[st.integers(1, 9)] * 4))
    task = task_of(wanted, presets, buttons, menu)
    best = min(
        expected_taps(task, often, frozenset(stored), frozenset(quick))
        for size in range(min(presets, len(task.distinct)) + 1)
        for stored in combinations(range(len(task.distinct)), size)
        for many in range(buttons + 1)
        for quick in combinations(range(4), many)
    )
    found, proven = solved(task, [float(one) for one in often])
    assert proven
    assert found == pytest.approx(best, abs=1e-3), "within the weight that presets and buttons themselves have"


@given(
    st.lists(st.tuples(*[st.integers(0, 1)] * 7), min_size=14, max_size=14, unique=True),
    st.integers(2, 4),
    st.integers(0, 2**32 - 1),
)
def test_many_presets_are_chosen_exactly_too(wanted: list[tuple[int, ...]], presets: int, seed: int) -> None:
    rng = np.random.default_rng(seed)
    often = [float(one) for one in rng.integers(1, 80, len(wanted))]
    task = task_of(wanted, presets, 0, tuple(int(one) for one in rng.integers(2, 9, 7)))
    best = min(
        expected_taps(task, often, frozenset(stored), frozenset())
        for stored in combinations(range(len(wanted)), presets)
    )
    found, proven = solved(task, often)
    assert proven
    assert found == pytest.approx(best, abs=1e-2)


def test_the_taps_of_a_year_are_those_of_its_pairs() -> None:
    # Two uses that differ in one dial of four taps, filmed 30 and 10 times.
    task = task_of([(0, 0), (1, 0)], 1, 0, (4, 9))
    often = [30.0, 10.0]
    nothing: frozenset[int] = frozenset()
    # The first follows the second one time in four, the second the first three times in four.
    assert expected_taps(task, often, nothing, nothing) == pytest.approx(30 * 0.25 * 4 + 10 * 0.75 * 4)
    # With the second stored: two taps to call it, instead of four to turn.
    assert expected_taps(task, often, frozenset({1}), nothing) == pytest.approx(30 * 0.25 * 4 + 10 * 0.75 * 2)


def test_a_use_that_is_filmed_more_often_gets_the_preset() -> None:
    task = task_of([(0, 0, 0), (1, 1, 1), (2, 2, 2)], 1, 0, (5, 5, 5))
    priced = year_priced(task.wanted, [1.0, 1.0, 50.0])
    assert fewest_taps(task, priced=lambda cost: priced(cost, 2)).stored == frozenset({2})


def planned(camera: str, *names: str) -> list[PlannedUse]:
    shelf = library.uses()
    return [
        PlannedUse(
            name,
            shelf[name].name,
            shelf[name].per_year,
            plan(shelf[name].brief, KIT, KNOWN, only=camera, schools=False),
        )
        for name in names
    ]


def test_a_cameras_presets_serve_its_uses_and_the_card_has_its_own_words() -> None:
    sheet = KIT.camera("limpet-7")
    assert sheet is not None
    uses = planned("limpet-7", "everyday_walk", "pov_ride", "night_street", "splash")
    found = standing_of(sheet, uses)
    assert found.proven
    assert len(found.presets) <= sheet.preset_count
    assert len(found.quick) <= sheet.quick_buttons
    assert found.taps < found.by_menu
    assert found.taps == pytest.approx(sum(use.taps * use.per_year for use in found.uses), rel=1e-6)
    for preset in found.presets:
        for use, turned in preset.serves.items():
            chosen = next(one for one in uses if one.id == use).plan.chosen
            assert {dial for dial, value in preset.values.items() if chosen[dial] != value} == set(turned)
    card = set_up_card(sheet, found, (), {"pov_ride": "Ride"}, {})
    assert [page.page for page in card.pages] == [page.page for page in sheet.menu if page.dials]
    rows = {row.label: row for page in card.pages for row in page.rows}
    assert "Ride" in card.presets
    assert rows["Field of view"].values[card.presets.index("Ride")] == "all round", "the menu's own word"
    assert rows["Sharpness"].same
    lines = standing_lines(standing_text(found, {}))
    assert "no choice takes fewer" in lines[0]


def test_time_that_is_up_leaves_a_bound() -> None:
    sheet = KIT.camera("limpet-7")
    assert sheet is not None
    uses = planned("limpet-7", *(name for name in library.uses() if name not in ("freestyle_drone", "over_land")))
    ticks = iter(range(10_000))
    found = standing_of(sheet, uses, lambda: float(next(ticks)), longest_s=3.0)
    assert not found.proven
    assert 0.0 <= found.least <= found.taps
