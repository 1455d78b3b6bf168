"""The search against plain enumeration, and what must hold for every plan."""

from __future__ import annotations

from itertools import product
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from steady_tide import library
from steady_tide.core.kit import NdFilter
from steady_tide.core.planning.dials import BLOCKS, Freedom, all_free, dials_of, pinned
from steady_tide.core.planning.ledger import price, price_all
from steady_tide.core.planning.search import Choice, cheapest, search
from steady_tide.core.planning.situation import Situation, situation
from steady_tide.core.planning.space import Space, legal_gates, space_of
from tests.briefs import ALL_KINDS, LANTERNS, PUNTS, QUAY, brief, planned
from tests.small_sheet import small_sheet

ND4 = NdFilter(id="nd4", name="ND 4", stops=2, fits=("limpet",))
ND32 = NdFilter(id="nd32", name="ND 32", stops=5, fits=("limpet",))
FOREIGN = NdFilter(id="big", name="big", stops=3, fits=("another mount",))


def all_choices(space: Space) -> list[Choice]:
    """Every legal combination, by the sheet's own rules and nothing of the search's."""
    found = []
    sheet = space.sheet
    for picture in range(len(space.pictures)):
        lens, rate = int(space.pictures.lens[picture]), float(space.pictures.rate[picture])
        gates = np.flatnonzero(legal_gates(space.gates, lens, rate))
        looks = np.flatnonzero(space.look_allowed[space.pictures.timing[picture]])
        rest = (range(len(space.glasses)), range(len(space.iso_pairs)), range(len(space.compensations)))
        alone = (range(len(space.balances)), range(len(sheet.sharpness)), range(len(sheet.wind_reduction)))
        found += [
            Choice(picture, int(gate), glass, pair, compensation, int(look), balance, sharpness, wind)
            for gate, glass, pair, compensation, look, balance, sharpness, wind in product(gates, *rest, looks, *alone)
        ]
    return found


def enumerate_prices(at: Situation, space: Space) -> tuple[list[Choice], np.ndarray]:
    """Price every combination one by one."""
    choices = all_choices(space)
    prices = [
        priced.given_up(at)
        for start in range(0, len(choices), 150)
        for priced in price_all(at, space, choices[start : start + 150])
    ]
    return choices, np.array(prices)


@pytest.mark.parametrize(
    ("fields", "filters"),
    [
        ({**QUAY, "light": {"kind": "meter", "ev100": [11.3, 14.6]}}, [ND4]),
        ({"scenario": "low_light", "light": LANTERNS, "camera_move": {"mount": "walking"}}, []),
        (
            {
                "scenario": "motion",
                "delivery": {"slow_factor": 3},
                "camera_move": {"mount": "helmet"},
                "school": {"shutter": "free"},
            },
            [ND32],
        ),
    ],
)
def test_the_search_equals_enumeration(fields: dict[str, Any], filters: list[NdFilter]) -> None:
    at = situation(brief(**fields), library.knowledge())
    space = space_of(small_sheet(), filters)
    choices, prices = enumerate_prices(at, space)
    assert len(choices) == space.combinations
    solution = search(at, space, all_free(space))
    assert solution.total == pytest.approx(prices.min(), abs=1e-9)
    assert price(at, space, solution.best()).given_up(at) == pytest.approx(prices.min(), abs=1e-9)
    for block in BLOCKS:
        candidates = np.array([getattr(choice, block) for choice in choices])
        for candidate in range(len(solution.minima[block])):
            least = prices[candidates == candidate].min() if (candidates == candidate).any() else np.inf
            assert solution.minima[block][candidate] == pytest.approx(least, abs=1e-9), (block, candidate)
            if np.isfinite(least):
                way_back = solution.best(block, np.array([candidate]))
                assert getattr(way_back, block) == candidate
                assert price(at, space, way_back).given_up(at) == pytest.approx(least, abs=1e-9)


def test_pins_leave_the_least_of_what_they_allow() -> None:
    at = situation(brief(**QUAY), library.knowledge())
    space = space_of(small_sheet(), [ND4])
    choices, prices = enumerate_prices(at, space)
    dials = dials_of(space)
    for pins in (
        {"frame_rate": 100.0},
        {"shutter_s": "auto", "iso_ceiling": 400},
        {"profile": "flat", "nd": "nd4", "view": "wide"},
    ):
        fits = np.array(
            [
                all(dials[name].mask(value)[getattr(choice, dials[name].block)] for name, value in pins.items())
                for choice in choices
            ]
        )
        solution = search(at, space, pinned(all_free(space), dials, pins.items()))
        assert solution.total == pytest.approx(prices[fits].min(), abs=1e-9)


def test_nothing_legal_has_no_price() -> None:
    at = situation(brief(), library.knowledge())
    space = space_of(small_sheet(), [])
    free = all_free(space).within("pictures", np.zeros(len(space.pictures), dtype=bool))
    assert search(at, space, free).total == np.inf


def test_glass_that_does_not_fit_is_left_out_and_stacks_are_bounded() -> None:
    space = space_of(small_sheet(), [ND4, ND32, FOREIGN])
    assert [glass.ids for glass in space.glasses] == [(), ("nd4",), ("nd32",), ("nd4", "nd32")]
    assert space.glasses[-1].stops == 7


@pytest.mark.parametrize(
    "rival",
    [
        {"shutter": "free"},
        {"noise": "get_it"},
        {"view": "widest"},
        {"dark_stabilisation": "drop"},
        {"resolution": "most"},
    ],
)
@pytest.mark.parametrize("fields", [QUAY, {**PUNTS, "camera_move": {"mount": "walking"}}])
def test_the_short_way_to_a_rival_plan_is_exact(fields: dict[str, Any], rival: dict[str, str]) -> None:
    kit, known = library.demo_kit(), library.knowledge()
    space = space_of(kit.cameras[0], kit.filters)
    free = all_free(space)
    at, other = situation(brief(**fields), known), situation(brief(**fields, school=rival), known)
    ours = search(at, space, free)
    at_most = price(other, space, ours.best()).given_up(other)
    short = cheapest(other, space, ours, at, free, at_most)
    assert short is not None
    assert price(other, space, short).given_up(other) == pytest.approx(search(other, space, free).total, abs=1e-9)


def test_all_free_covers_every_block() -> None:
    space = space_of(small_sheet(), [])
    free = all_free(space)
    assert isinstance(free, Freedom)
    assert set(free.masks) == set(BLOCKS)
    assert all(mask.all() for mask in free.masks.values())


@pytest.mark.parametrize("name", ALL_KINDS)
def test_a_pin_never_lowers_the_total_and_the_profile_says_what_it_will_be(name: str) -> None:
    fields = ALL_KINDS[name]
    free = planned(**fields)
    for dial, value in (
        ("frame_rate", 50),
        ("iso_ceiling", 800),
        ("view", "narrow"),
        ("profile", "vivid"),
        ("sharpness", "high"),
        ("white_balance_k", "auto"),
        ("shutter_s", 0.01),
    ):
        entry = (
            next(v for v in free.profiles[dial] if v.value == pytest.approx(value))
            if not isinstance(value, str)
            else next(v for v in free.profiles[dial] if v.value == value)
        )
        held = planned(**fields, pins={dial: value})
        assert held.given_up_stops >= free.given_up_stops - 1e-9
        assert held.given_up_stops == pytest.approx(entry.given_up_stops, abs=1e-9)


@pytest.mark.parametrize("name", ALL_KINDS)
def test_a_profile_has_its_least_at_the_chosen_value(name: str) -> None:
    plan = planned(**ALL_KINDS[name])
    for dial, values in plan.profiles.items():
        legal = [value.given_up_stops for value in values if value.given_up_stops is not None]
        assert min(legal) == pytest.approx(plan.given_up_stops, abs=1e-9), dial
        assert sum(value.label == plan.values[dial] for value in values) == 1
        for value in values:
            assert value.legal == (value.given_up_stops is not None)
            assert value.legal == (value.why_not is None)


@settings(max_examples=12)
@given(
    low=st.floats(-4, 14),
    span=st.floats(0, 4),
    lift=st.floats(0.2, 3),
    mount=st.sampled_from(["tripod", "walking", "chest"]),
)
def test_more_light_never_asks_for_more_gain(low: float, span: float, lift: float, mount: str) -> None:
    fields: dict[str, Any] = {"camera_move": {"mount": mount}, "kit": {"filters": []}, "pins": {"shutter_s": "1/50"}}
    dim = planned(light={"kind": "meter", "ev100": [low, low + span]}, **fields)
    bright = planned(light={"kind": "meter", "ev100": [low + lift, low + span + lift]}, **fields)
    if dim.settings.frame_rate == bright.settings.frame_rate:
        assert max(bright.exposure.iso_used) <= max(dim.exposure.iso_used)


@settings(max_examples=15)
@given(
    low=st.floats(-6, 14),
    span=st.floats(0, 4),
    extra=st.sampled_from(["nd8", "nd16", "nd32", "nd64"]),
    graded=st.booleans(),
)
def test_more_glass_in_the_kit_never_raises_the_total(low: float, span: float, extra: str, graded: bool) -> None:
    fields: dict[str, Any] = {"light": {"kind": "meter", "ev100": [low, low + span]}, "delivery": {"graded": graded}}
    without = planned(**fields, kit={"filters": ["nd8"]})
    more = planned(**fields, kit={"filters": ["nd8", extra]})
    assert more.given_up_stops <= without.given_up_stops + 1e-9


@settings(max_examples=20)
@given(
    low=st.floats(-8, 15),
    span=st.floats(0, 6),
    mount=st.sampled_from(sorted(library.knowledge().mounts)),
    slow=st.sampled_from([1, 2, 3.3, 16]),
    look=st.sampled_from(["natural", "frozen", "streaked"]),
    scenario=st.sampled_from(["everyday", "motion", "low_light"]),
)
def test_every_plan_is_legal_on_its_sheet(
    low: float, span: float, mount: str, slow: float, look: str, scenario: str
) -> None:
    plan = planned(
        scenario=scenario,
        light={"kind": "meter", "ev100": [low, low + span]},
        camera_move={"mount": mount},
        subject={"speed_m_s": 3, "motion_look": look},
        delivery={"slow_factor": slow},
    )
    sheet, s = library.demo_kit().cameras[0], plan.settings
    mode = next(m for m in sheet.modes if (m.width, m.height) == (s.width, s.height) and s.frame_rate in m.rates)
    assert s.view in mode.views
    assert s.stabilisation in mode.stabilisation
    assert s.codec in mode.codecs
    codec = next(c for c in sheet.codecs if c.id == s.codec)
    profile = next(p for p in sheet.profiles if p.id == s.profile)
    assert s.bit_depth in codec.bit_depths
    assert s.bit_depth in profile.bit_depths
    assert s.bit_rate_mb_s in codec.bit_rates_mb_s
    assert s.iso_floor <= s.iso_ceiling
    assert s.shutter_s is None or (s.shutter_s in sheet.shutter.fixed_s and s.shutter_s * s.frame_rate <= 1 + 1e-9)
    assert not s.high_dynamic_range or (mode.high_dynamic_range and s.frame_rate <= 30 and s.bit_depth == 8)
    assert plan.given_up_stops == pytest.approx(sum(item.weight * item.stops for item in plan.ledger))
    assert [item.given_up_stops for item in plan.ledger] == sorted(
        (item.given_up_stops for item in plan.ledger), reverse=True
    )
