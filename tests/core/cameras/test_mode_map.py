"""The mode map against the planner, against its own cells, and by hand on a small sheet."""

from __future__ import annotations

import random
from itertools import product
from typing import Any

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from steady_tide import library
from steady_tide.core.cameras.mode_losses import Loss
from steady_tide.core.cameras.mode_map import ModeMap, mode_map, shape_of
from steady_tide.core.cameras.mode_states import ASKED
from steady_tide.core.cameras.sheet_reading import read_sheet
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.planning.planner import plan
from steady_tide.core.quantities.errors import BadBrief, BadSheet, NoLegalPlan
from steady_tide.words.maps import map_text
from tests.briefs import brief
from tests.checks import at_least_one
from tests.examples import examples
from tests.small_sheet import small_sheet, small_sheet_data

SHEETS = {sheet.id: sheet for sheet in library.demo_kit().cameras}


def test_a_small_map_by_hand() -> None:
    drawn = mode_map(small_sheet())
    assert drawn.rates == (25, 30, 100)
    assert list(drawn.views) == ["wide", "rectilinear"]
    rows = {(row.lens, row.width): {cell.rate: set(cell.pairs) for cell in row.cells} for row in drawn.rows}
    both = {(view, level) for view in ("wide", "rectilinear") for level in ("off", "standard")}
    assert rows == {
        ("main", 3840): {25: both, 30: both},
        ("main", 1920): {25: {("wide", "off"), ("wide", "standard")}, 100: {("wide", "off"), ("wide", "standard")}},
        ("long", 1920): {25: {("rectilinear", "off")}},
    }
    assert [(film.width, film.intervals_s) for film in drawn.films] == [(1920, (2, 20))]
    at_100 = loss(drawn, "frame_rate", 100.0)
    assert at_100.gone == {
        "frame": ("3840x2160",),
        "lens": ("long",),
        "view": ("rectilinear",),
        "high_dynamic_range": (True,),
    }
    assert (at_100.count, at_100.of) == (2, 7)
    said = next(entry for entry in map_text(drawn).losses if (entry.dial, entry.value) == ("frame_rate", 100.0))
    assert (said.label, said.gone["frame"]) == ("100\u202ffps", ("3840\u202f×\u202f2160",))


def loss(drawn: ModeMap, dial: str, value: Any) -> Loss:
    return next(entry for entry in drawn.losses if entry.dial == dial and entry.value == value)


@pytest.mark.parametrize("name", ["cockle-3", "limpet-7", "lugger-5", "sandpiper-2"])
def test_the_map_and_the_planner_agree(name: str) -> None:
    """Pairs drawn from all frames, rates, views and levels: legal for the planner just where the map has them."""
    sheet = SHEETS[name]
    drawn = mode_map(sheet)
    has = {
        (row.width, row.height, cell.rate, view, level)
        for row in drawn.rows
        for cell in row.cells
        for view, level in cell.pairs
    }
    frames = sorted({(row.width, row.height) for row in drawn.rows})
    choose = random.Random(name)
    kit = library.demo_kit()
    mount = "drone_gimbal" if sheet.kind == "drone" else "tripod"
    asked = [
        (*choose.choice(frames), choose.choice(drawn.rates), choose.choice(drawn.views), choose.choice(drawn.steadyings))
        for _ in range(14)
    ] + choose.sample(sorted(has), 6)  # fmt: skip
    for wide, high, rate, view, level in at_least_one(asked):
        pins = {"frame": f"{wide}x{high}", "frame_rate": rate, "view": view, "stabilisation": level}
        try:
            plan(brief(pins=pins, camera_move={"mount": mount}), kit, library.knowledge(), schools=False, only=name)
            legal = True
        except NoLegalPlan:
            legal = False
        except BadBrief as error:  # a value that the camera does not have at all
            legal = False
            assert error.faults[0].where.startswith("pins")
        assert legal == ((wide, high, rate, view, level) in has), pins


@pytest.mark.parametrize("sheet", SHEETS.values(), ids=list(SHEETS))
def test_losses_are_what_the_cells_no_longer_show(sheet: CameraSheet) -> None:
    drawn = mode_map(sheet)
    pairs = [
        {
            "frame": f"{row.width}x{row.height}",
            "frame_rate": cell.rate,
            "lens": row.lens,
            "view": view,
            "stabilisation": level,
        }
        for row in drawn.rows
        for cell in row.cells
        for view, level in cell.pairs
    ]
    assert drawn.count == len(pairs)
    for entry in drawn.losses:
        if entry.dial not in pairs[0]:
            assert entry.of == len(pairs)
            continue
        left = [pair for pair in pairs if pair[entry.dial] == entry.value]
        assert entry.count == len(left)
        others = [dial for dial in pairs[0] if dial != entry.dial]
        assert entry.of == len({tuple(pair[dial] for dial in others) for pair in pairs})
        for dial in others:
            gone = {pair[dial] for pair in pairs} - {pair[dial] for pair in left}
            assert set(entry.gone.get(dial, ())) == gone, (entry.dial, entry.value, dial)


def test_ways_of_recording_that_only_some_pairs_have_are_named() -> None:
    """The small sheet forbids the flat profile in eight bits with the linear view."""
    doc = small_sheet().model_dump(mode="json")
    doc["rules"] = [{"never": {"view": ["rectilinear"], "profile": ["flat"]}, "why": "made up"}]
    drawn = mode_map(CameraSheet.model_validate(doc))
    cell = next(cell for row in drawn.rows if row.width == 3840 for cell in row.cells if cell.rate == 30)
    lacking = {cell.pairs[index][0] for index in cell.without["profile=flat"]}
    assert lacking == {"rectilinear"}
    assert "profile=natural" not in cell.without


VALUES = {
    "view": ["wide", "rectilinear"], "stabilisation": ["off", "standard"], "profile": ["natural", "flat"], "bit_depth": [8, 10],
    "codec": ["new", "old"], "frame_rate": [25, 30, 100], "lens": ["main", "long"], "high_dynamic_range": [True, False],
}  # fmt: skip
never = st.dictionaries(
    st.sampled_from(sorted(VALUES)), st.integers(0, 2), min_size=1, max_size=3
).map(lambda chosen: {dial: [VALUES[dial][place % len(VALUES[dial])]] for dial, place in chosen.items()})  # fmt: skip


@examples(40)
@given(st.lists(never, min_size=1, max_size=3))
def test_with_any_rules_the_map_is_what_plain_enumeration_finds(rules: list[dict[str, Any]]) -> None:
    doc = {**small_sheet_data(), "rules": [{"never": rule, "why": "made up"} for rule in rules]}
    try:
        sheet = read_sheet(doc)
    except BadSheet:
        assume(False)  # a rule that leaves a mode nothing at all
    found: dict[tuple[str, int, float, str, str], set[tuple[Any, ...]]] = {}
    for mode in sheet.modes:
        if mode.intervals_s:
            continue
        for rate, view, level, codec, profile in product(
            mode.rates, mode.views, mode.stabilisation, sheet.codecs, sheet.profiles
        ):
            if codec.id not in mode.codecs or (mode.profiles and profile.id not in mode.profiles):
                continue
            for depth, wide in product(set(codec.bit_depths) & set(profile.bit_depths), (False, True)):
                wider = sheet.high_dynamic_range
                if wide and not (
                    mode.high_dynamic_range
                    and wider
                    and profile.id in wider.profiles
                    and depth in wider.bit_depths
                    and rate <= wider.fastest_fps
                ):
                    continue
                said = {
                    "view": view, "stabilisation": level, "profile": profile.id, "bit_depth": depth, "codec": codec.id,
                    "frame_rate": rate, "lens": mode.lens, "high_dynamic_range": wide,
                }  # fmt: skip
                if any(all(said[dial] in values for dial, values in rule.items()) for rule in rules):
                    continue
                found.setdefault((mode.lens, mode.width, rate, view, level), set()).add(
                    (profile.id, depth, codec.id, wide)
                )
    drawn = mode_map(sheet)
    shown = {
        (row.lens, row.width, cell.rate, view, level): cell
        for row in drawn.rows
        for cell in row.cells
        for view, level in cell.pairs
    }
    assert set(shown) == set(found)
    for (lens, width, rate, view, level), ways in found.items():
        cell = shown[lens, width, rate, view, level]
        place = cell.pairs.index((view, level))
        for part, dial, every in (
            (0, "profile", cell.profiles),
            (1, "bit_depth", cell.bit_depths),
            (2, "codec", cell.codecs),
        ):
            mine = {value for value in every if place not in cell.without.get(f"{dial}={value}", ())}
            assert mine == {way[part] for way in ways}, (dial, lens, width, rate, view, level)


@pytest.mark.parametrize(
    ("wide", "high", "shape"),
    [(3840, 2160, "16:9"), (5400, 4320, "5:4"), (2560, 1440, "16:9"), (1080, 1920, "9:16"), (4000, 1500, "8:3"), (3840, 2560, "3:2")],
)  # fmt: skip
def test_shapes_have_the_names_people_use(wide: int, high: int, shape: str) -> None:
    assert shape_of(wide, high) == shape


@pytest.mark.parametrize("camera", [sheet.id for sheet in library.demo_kit().cameras])
def test_what_goes_with_a_value_is_drawn_as_it_is_counted(camera: str) -> None:
    found = mode_map(next(sheet for sheet in library.demo_kit().cameras if sheet.id == camera))
    there = sum(len(cell.pairs) for row in found.rows for cell in row.cells)
    assert found.losses
    asked = [loss for loss in found.losses if loss.dial in ASKED]
    assert {loss.dial for loss in asked} >= {"frame_rate", "frame", "view"}
    for loss in asked:
        drawn = "".join(letters for row in loss.states for letters in row)
        assert len(drawn) == len(found.rows) * len(found.rates) * len(found.views) * len(found.steadyings)
        assert drawn.count("k") == loss.count, (loss.dial, loss.value)
        assert drawn.count("k") + drawn.count("a") <= there
        for row, cells in zip(found.rows, loss.states, strict=True):
            for rate, letters in zip(found.rates, cells, strict=True):
                mine = {pair for cell in row.cells if cell.rate == rate for pair in cell.pairs}
                grid = [(view, level) for view in found.views for level in found.steadyings]
                shown = {pair for pair, letter in zip(grid, letters, strict=True) if letter in "ka"}
                assert shown <= mine, "nothing goes with it that does not exist"
