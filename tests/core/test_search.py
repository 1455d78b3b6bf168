"""The search against plain enumeration, and what must hold for every plan."""

from __future__ import annotations

from itertools import product
from typing import Any

import numpy as np
import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from steady_tide import library
from steady_tide.core.gear.items import Attachment, Filter, Housing, Microphone
from steady_tide.core.planning.camera_problem import fitting
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.ledger import price, price_all
from steady_tide.core.planning.pinning import Freedom, all_free, dials_of, pinned
from steady_tide.core.planning.prepared import prepare
from steady_tide.core.planning.priced_choice import Choice
from steady_tide.core.planning.ranking import entries_of
from steady_tide.core.planning.search import least, search, solve
from steady_tide.core.planning.situation import Situation, situation
from steady_tide.core.planning.space import JOINT_BLOCKS, Space
from tests.briefs import ALL_KINDS, EELGRASS, LANTERNS, PUNTS, QUAY, STARS, brief, on_limpet, planned
from tests.checks import at_least_one
from tests.examples import examples
from tests.small_sheet import laid_out, manifold_sheet, small_sheet

ND4 = Filter(id="nd4", name="ND 4", stops=2, fits=("limpet",))
ND32 = Filter(id="nd32", name="ND 32", stops=5, fits=("limpet",))
RED = Filter(id="red", name="red", kind="colour", stops=1.4, band_stops=(0.2, 1.5, 1.8), fits=("port",))
CASE = Housing(id="case", name="case", fits=("periwinkle-2",), proof_depth_m=30, filters="port")
CLOSE = Attachment(id="close", name="close-up", fits=("limpet",), lenses=("long",), dioptres=4, stops=0.2)
CONVERTER = Attachment(id="wider", name="wide converter", fits=("limpet",), factor=0.6)
ATTACHMENTS = (CLOSE, CONVERTER)
GUN = Microphone(id="gun", name="gun", reach_m=3, wind_held_m_s=9)
LANTERNS_AT_HAND = {"scenario": "low_light", "light": LANTERNS}
AT_ONCE = 160  # combinations; a look, a habit and a focus are priced against each other
FOREIGN = Filter(id="big", name="big", stops=3, fits=("another mount",))


def offered(space: Space, picture: int, look: int) -> bool:
    """Whether the sheet itself offers a look with a picture: its mode's own lists, the wide range's, the rules."""
    sheet, chosen = space.sheet, space.looks[look]
    mode = sheet.modes[int(space.pictures.mode[picture])]
    way = sheet.ways[int(space.pictures.recorder[picture])]
    if way.codecs is not None and chosen.codec.id not in way.codecs:
        return False
    if way.profiles is not None and chosen.profile.id not in way.profiles:
        return False
    if chosen.high_dynamic_range and not way.high_dynamic_range:
        return False
    wide = sheet.high_dynamic_range
    if chosen.codec.id not in mode.codecs or (mode.profiles is not None and chosen.profile.id not in mode.profiles):
        return False
    if chosen.high_dynamic_range and not (
        mode.high_dynamic_range and wide is not None and space.pictures.capture_hz[picture] <= wide.fastest_fps
    ):
        return False
    for rule in sheet.rules:
        said = [
            USUAL.dials[dial].read(chosen)
            if dial in ("profile", "bit_depth", "codec")
            else USUAL.dials[dial].read(sheet, space.pictures)[picture]
            for dial in rule.never
        ]
        if all(value in values for value, values in zip(said, rule.never.values(), strict=True)):
            return False
    return True


def all_choices(space: Space) -> list[Choice]:
    """Every legal combination, by the sheet's own rules and nothing of the search's."""
    found = []
    sheet = space.sheet
    for picture in range(len(space.pictures)):
        lens = int(space.pictures.lens[picture])
        frame_s = 1 / float(space.pictures.capture_hz[picture])
        gates = [
            index
            for index, (which, _, t) in enumerate(space.gates)
            if which == lens and (t != t or t <= frame_s + 1e-9)
        ]
        way = sheet.ways[int(space.pictures.recorder[picture])]
        before = {piece.id: piece for piece in ATTACHMENTS}.get(sheet.lenses[lens].id.partition("+")[2])
        widest = (min(sheet.iso.floors), max(sheet.iso.ceilings))
        if not way.by_hand:
            gates = [index for index in gates if space.gates[index][2] != space.gates[index][2]]
        looks = [look for look in range(len(space.looks)) if offered(space, picture, look)]
        focuses = [
            index
            for index, name in enumerate(space.focuses)
            if (name == "fixed") == (sheet.lenses[lens].focus == "fixed")
            and (sheet.lenses[lens].farthest_m is None or name not in ("hyperfocal", "infinity"))
            and (way.by_hand or name not in ("hyperfocal", "infinity"))
        ]
        blocks = {
            "pictures": [picture],
            "gates": gates,
            "glasses": [g for g, glass in enumerate(space.glasses) if before is None or not glass.ids],
            "iso_pairs": [k for k, pair in enumerate(space.iso_pairs) if way.by_hand or pair == widest],
            "compensations": range(len(space.compensations)),
            "looks": looks,
            "focuses": focuses,
            "balances": [b for b, value in enumerate(space.balances) if way.by_hand or value == "auto"],
            "sounds": range(len(space.sounds)),
            "habits": range(len(space.habits)),
            **{dial: range(len(values)) for dial, values in space.alone.items()},
        }
        found += [Choice.from_places(dict(zip(blocks, places, strict=True))) for places in product(*blocks.values())]
    return found


def enumerate_prices(at: Situation, space: Space) -> tuple[list[Choice], np.ndarray]:
    """Price every combination one by one."""
    choices = all_choices(space)
    prices = [
        priced.given_up(at.weights)
        for start in range(0, len(choices), AT_ONCE)
        for priced in price_all(at, space, choices[start : start + AT_ONCE])
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
        ({**EELGRASS, "subject": {"event_s": 0.4, "distance_m": [0.2, 1.5]}}, [RED]),
        ({**STARS, "air_c": -6}, []),
    ],
)
def test_the_search_equals_enumeration(fields: dict[str, Any], filters: list[Filter]) -> None:
    at = situation(brief(**fields), library.knowledge(), USUAL)
    space = laid_out(small_sheet(), at, filters, [CASE])
    choices, prices = enumerate_prices(at, space)
    assert len(choices) == space.combinations
    solution = search(at, space, all_free(space))
    assert solution.total == pytest.approx(prices.min(), abs=1e-9)
    assert price(at, space, solution.best()).given_up(at.weights) == pytest.approx(prices.min(), abs=1e-9)
    for block in solution.minima:
        candidates = np.array([choice[block] for choice in choices])
        for candidate in range(len(solution.minima[block])):
            least = prices[candidates == candidate].min() if (candidates == candidate).any() else np.inf
            assert solution.minima[block][candidate] == pytest.approx(least, abs=1e-9), (block, candidate)
            if np.isfinite(least):
                way_back = solution.best(block, np.array([candidate]))
                assert way_back[block] == candidate
                assert price(at, space, way_back).given_up(at.weights) == pytest.approx(least, abs=1e-9)


@pytest.mark.parametrize(
    "fields",
    [
        {
            "light": {"kind": "meter", "ev100": [11.3, 14.6]},
            "sound": {"voice": True},
            "subject": {"distance_m": [2, 3]},
        },
        {
            **LANTERNS_AT_HAND,
            "camera_move": {"mount": "pole", "self_framed": True},
            "school": {"white_balance": "auto"},
        },
        EELGRASS,
        {**STARS, "delivery": {"graded": True}},
    ],
)
def test_the_search_equals_enumeration_over_every_way_of_recording(fields: dict[str, Any]) -> None:
    at = situation(brief(**fields), library.knowledge(), USUAL)
    space = laid_out(manifold_sheet(), at, [ND4], [CASE], attachments=ATTACHMENTS, microphones=[GUN])
    choices, prices = enumerate_prices(at, space)
    assert len(choices) == space.combinations
    solution = search(at, space, all_free(space))
    assert solution.total == pytest.approx(prices.min(), abs=1e-9)
    short = least(prepare(at, space, all_free(space)))
    assert short is not None
    assert short.total == pytest.approx(prices.min(), abs=1e-9)
    for block in solution.minima:
        of_choice = np.array([choice[block] for choice in choices])
        for candidate, found in enumerate(solution.minima[block]):
            cheapest = prices[of_choice == candidate].min() if (of_choice == candidate).any() else np.inf
            assert found == pytest.approx(cheapest, abs=1e-9), (block, candidate)
            if np.isfinite(cheapest):
                way_back = solution.best(block, np.array([candidate]))
                assert price(at, space, way_back).given_up(at.weights) == pytest.approx(cheapest, abs=1e-9)


def test_pins_leave_the_least_of_what_they_allow() -> None:
    at = situation(brief(**QUAY), library.knowledge(), USUAL)
    space = laid_out(small_sheet(), at, [ND4])
    choices, prices = enumerate_prices(at, space)
    dials = dials_of(space, USUAL.dials)
    for pins in (
        {"frame_rate": 100.0},
        {"shutter_s": "auto", "iso_ceiling": 1600},
        {"profile": "flat", "nd": "nd4", "view": "wide"},
    ):
        fits = np.array(
            [
                all(dials[name].mask(value)[choice[dials[name].block]] for name, value in pins.items())
                for choice in choices
            ]
        )
        solution = search(at, space, pinned(all_free(space), dials, pins.items()))
        assert solution.total == pytest.approx(prices[fits].min(), abs=1e-9)


def test_nothing_legal_has_no_price() -> None:
    at = situation(brief(), library.knowledge(), USUAL)
    space = laid_out(small_sheet(), at)
    free = all_free(space).within("pictures", np.zeros(len(space.pictures), dtype=bool))
    nothing = search(at, space, free)
    assert nothing.total == np.inf
    assert all(np.isinf(prices).all() for prices in nothing.minima.values())
    assert least(prepare(at, space, free)) is None


def test_glass_that_does_not_fit_is_left_out_and_stacks_are_bounded() -> None:
    space = laid_out(small_sheet(), situation(brief(), library.knowledge(), USUAL), [ND4, ND32, FOREIGN])
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
    at, other = situation(brief(**fields), known, USUAL), situation(brief(**fields, school=rival), known, USUAL)
    limpet = next(camera for camera in kit.cameras if camera.id == "limpet-7")
    space = laid_out(limpet, at, kit.filters)
    free = all_free(space).within("pictures", fitting(at, space))
    ours = prepare(at, space, free)
    at_most = price(other, space, solve(ours).best()).given_up(other.weights)
    short = least(prepare(other, space, free, ours), at_most)
    assert short is not None
    total = search(other, space, free).total
    assert short.total == pytest.approx(total, abs=1e-9)
    assert price(other, space, short.best()).given_up(other.weights) == pytest.approx(total, abs=1e-9)


@pytest.mark.parametrize("name", ALL_KINDS)
def test_the_short_way_to_a_total_is_exact_on_every_camera(name: str) -> None:
    at = situation(brief(**ALL_KINDS[name]), library.knowledge(), USUAL)
    laid = [entry.problem for entry in entries_of(at, library.demo_kit(), library.knowledge()) if entry.problem]
    assert laid
    for problem in laid:
        found = least(prepare(at, problem.space, problem.free_but()))
        total, choice = (found.total, found.best()) if found else (np.inf, None)
        assert total == pytest.approx(search(at, problem.space, problem.free_but()).total, abs=1e-9)
        assert choice is None or price(at, problem.space, choice).given_up(at.weights) == pytest.approx(total, abs=1e-9)


def test_all_free_covers_every_block() -> None:
    space = laid_out(small_sheet(), situation(brief(), library.knowledge(), USUAL))
    free = all_free(space)
    assert isinstance(free, Freedom)
    assert set(free.masks) == {*JOINT_BLOCKS, *USUAL.alone}
    assert all(mask.all() for mask in free.masks.values())


@pytest.mark.parametrize("name", ALL_KINDS)
def test_a_pin_never_lowers_the_total_and_the_profile_says_what_it_will_be(name: str) -> None:
    fields = ALL_KINDS[name]
    free = planned(**fields)
    kit = {**fields.get("kit", {}), "cameras": [free.camera.id]}
    tried = 0
    for dial in (
        "frame_rate",
        "iso_ceiling",
        "view",
        "lens",
        "profile",
        "sharpness",
        "white_balance_k",
        "f_number",
        "focus",
    ):
        others = [v for v in free.profiles[dial] if v.legal and v.value != free.chosen[dial]]
        tried += len(others[-1:])
        for other in others[-1:]:
            held = planned(**{**fields, "kit": kit}, pins={dial: other.value})
            assert held.given_up_stops >= free.given_up_stops - 1e-9
            assert held.given_up_stops == pytest.approx(other.given_up_stops, abs=1e-9), dial
    assert tried >= 5, "dials with something to choose"


@pytest.mark.parametrize("name", ALL_KINDS)
def test_a_profile_has_its_least_at_the_chosen_value(name: str) -> None:
    plan = planned(**ALL_KINDS[name])
    for dial, values in at_least_one(plan.profiles.items()):
        legal = [value.given_up_stops for value in values if value.given_up_stops is not None]
        assert min(legal) == pytest.approx(plan.given_up_stops, abs=1e-9), dial
        assert sum(value.label == plan.values[dial] for value in values) == 1
        for value in values:
            assert value.legal == (value.given_up_stops is not None)
            assert value.legal == (value.why_not is None)


@examples(12)
@example(low=2.75, span=0.0, lift=0.25, mount="tripod")  # a stop of compensation less pays just there
@example(low=2.34, span=0.0, lift=0.25, mount="tripod")  # the dimmer one is stopped by the ceiling
@given(
    low=st.floats(-4, 14),
    span=st.floats(0, 4),
    lift=st.floats(0.2, 3),
    mount=st.sampled_from(["tripod", "walking", "chest"]),
)
def test_more_light_never_asks_for_more_gain(low: float, span: float, lift: float, mount: str) -> None:
    # With the ceiling held: it moves in whole stops, so that a little more light may be worth the next one.
    fields: dict[str, Any] = {
        "camera_move": {"mount": mount},
        "kit": {"filters": []},
        "pins": {"shutter_s": "1/50", "iso_ceiling": 3200, "frame_rate": 25},
    }
    dim = on_limpet(light={"kind": "meter", "ev100": [low, low + span]}, **fields)
    bright = on_limpet(light={"kind": "meter", "ev100": [low + lift, low + span + lift]}, **fields)
    # For the same brightness: compensation moves in steps, and a little more light may be worth the next one.
    asked = [max(p.exposure.iso_used) / 2**p.settings.exposure_compensation for p in (bright, dim)]
    at_ceiling = max(dim.exposure.iso_used) >= 3200  # it would have asked for more
    assert at_ceiling or asked[0] <= asked[1] * 1.005, "gain is told to three figures"


@examples(15)
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


@examples(20)
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
        light={"kind": "meter", "ev100": [low, min(low + span, 20.0)]},
        camera_move={"mount": mount},
        subject={"speed_m_s": 3, "motion_look": look},
        delivery={"slow_factor": slow},
    )
    s = plan.settings
    sheet = next(camera for camera in library.demo_kit().cameras if camera.id == plan.camera.id)
    like = library.knowledge().mounts[mount].like
    assert sheet.mounts is None or {mount, like} & set(sheet.mounts)
    modes = [
        m
        for m in sheet.modes
        if (m.width, m.height, m.lens) == (s.width, s.height, s.lens) and s.frame_rate in m.rates and not m.intervals_s
    ]
    assert len(modes) == 1
    mode = modes[0]
    assert s.view in mode.views
    assert s.stabilisation in mode.stabilisation
    assert s.codec in mode.codecs
    codec = next(c for c in sheet.codecs if c.id == s.codec)
    profile = next(p for p in sheet.profiles if p.id == s.profile)
    assert s.bit_depth in codec.bit_depths
    assert s.bit_depth in profile.bit_depths
    assert s.bit_rate_mb_s in codec.bit_rates_mb_s
    assert s.iso_floor <= s.iso_ceiling
    assert s.f_number in next(lens for lens in sheet.lenses if lens.id == s.lens).f_numbers
    assert s.shutter_s is None or (s.shutter_s in sheet.shutter.fixed_s and s.shutter_s * s.frame_rate <= 1 + 1e-9)
    assert not s.high_dynamic_range or (mode.high_dynamic_range and s.frame_rate <= 30)
    fits = {f.id: f.fits for f in library.demo_kit().filters}
    assert all(sheet.filter_mount.fits in fits[glass] for glass in s.nd)
    assert len(s.nd) <= sheet.filter_mount.stack
    assert plan.given_up_stops == pytest.approx(sum(item.weight * item.stops for item in plan.ledger))
    assert [item.given_up_stops for item in plan.ledger] == sorted(
        (item.given_up_stops for item in plan.ledger), reverse=True
    )
