"""Camera sheets: what is refused, and with which path."""

from __future__ import annotations

import copy
import json
import math
from pathlib import Path
from typing import Any

import jsonschema
import pytest
from hypothesis import given
from hypothesis import strategies as st

from steady_tide import library
from steady_tide.core.cameras.sheet_reading import read_sheet, sheet_json_schema
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.planner import plan
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadBrief, BadSheet, NoLegalPlan
from steady_tide.formats.kit_file import load_sheet
from tests.briefs import brief
from tests.examples import examples
from tests.small_sheet import small_sheet_data

ROOT = Path(__file__).parents[2]


def changed(path: str, value: Any) -> dict[str, Any]:
    """The small sheet with one place changed. path: such as modes.0.rates."""
    data = copy.deepcopy(small_sheet_data())
    *way, last = [int(step) if step.isdigit() else step for step in path.split(".")]
    place: Any = data
    for step in way:
        place = place[step]
    place[last] = value
    return data


@pytest.mark.parametrize(
    ("path", "value", "where", "what"),
    [
        ("modes.0.views", ["wide", "fishbowl"], "modes[0].views[1]", "not among the sheet's views"),
        ("modes.0.lens", "third", "modes[0].lens", "not among the sheet's lenses"),
        ("modes.1.codecs", ["older"], "modes[1].codecs[0]", "not among the sheet's codecs"),
        ("modes.0.window_px", [3000, 2000], "modes[0].width", "cannot come from a window"),
        ("modes.0.window_px", [9000, 6000], "modes[0].window_px", "larger than the sensor"),
        ("modes.0.rates", [25, 30, 240], "modes[0].rates[2]", "reading this window takes"),
        ("modes.1.rates", [25, 25], "modes[1].rates[1]", "stands in modes[1] already"),
        ("views.1.id", "wide", "views[0].id", "more than once"),
        ("iso.floors", [3200], "iso", "every floor is above every ceiling"),
        ("compensation_stops", [0, 0], "compensation_stops[1]", "more than once"),
        ("profiles.0.bit_depths", [12], "profiles[0].bit_depths", "no codec records"),
        ("high_dynamic_range.profiles", ["dreamy"], "high_dynamic_range.profiles[0]", "not among the sheet's profiles"),
        ("lenses.0.sensor.pixel_pitch_um", float("nan"), "lenses[0].sensor.pixel_pitch_um", "finite"),
        ("lenses.0.sensor.read_noise_e", -1, "lenses[0].sensor.read_noise_e", "must be 0 or more"),
        ("lenses.0.sensor.width_px", 10**30, "lenses[0].sensor.width_px", "or less"),
        ("power.battery_wh", "much", "power.battery_wh", "is no number"),
        ("colour_of_the_box", "blue", "colour_of_the_box", "not a known field"),
        ("version", 3, "version", "unknown value 3"),
        ("version", 2, "views[1].keeps", "keeps 0.80 of the width is told, 0.71 is what its 85"),
        ("shutter.fixed_s", ["1/0"], "shutter.fixed_s[0]", "is no number"),
        (
            "menu",
            [{"page": "1", "dials": [{"dial": "nd", "label": "a"}, {"dial": "nd", "label": "b"}]}],
            "menu[0].dials[1].dial",
            "stands at",
        ),
    ],
)
def test_a_fault_is_named_with_its_path(path: str, value: Any, where: str, what: str) -> None:
    with pytest.raises(BadSheet) as refused:
        read_sheet(changed(path, value))
    assert any(fault.where == where and what in fault.what for fault in refused.value.faults), str(refused.value)


def test_a_missing_field_is_named() -> None:
    data = small_sheet_data()
    del data["lenses"][0]["sensor"]["readout_ms"]
    with pytest.raises(BadSheet, match=r"lenses\[0\]\.sensor\.readout_ms: is missing"):
        read_sheet(data)


def test_neither_exposure_nor_balance_is_refused() -> None:
    with pytest.raises(BadSheet, match="neither a fixed exposure nor an automatic"):
        read_sheet(changed("shutter", {"fixed_s": [], "auto": False}))
    data = changed("balance_k", [])
    data["balance_automatic"] = False
    with pytest.raises(BadSheet, match="neither a fixed balance"):
        read_sheet(data)


def test_a_sheet_that_multiplies_out_of_reach_is_refused() -> None:
    data = small_sheet_data()
    data["modes"] = [
        {**data["modes"][1], "width": 1000 + n, "rates": [10 + rate / 10 for rate in range(40)]} for n in range(400)
    ]
    data["iso"] = {"floors": list(range(100, 140)), "ceilings": list(range(200, 240))}
    data["compensation_stops"] = [n / 16 for n in range(-30, 30)]
    data["lenses"][0]["f_numbers"] = [1 + n / 2 for n in range(40)]
    with pytest.raises(BadSheet) as refused:
        read_sheet(data)
    faults = {fault.where: fault.what for fault in refused.value.faults}
    assert "frame, rate, view and stabilisation are more than the 20,000" in faults["modes"]
    assert "aperture, exposure, ISO and compensation" in faults["shutter.fixed_s"]


@pytest.mark.parametrize("data", [None, [], "text", 3])
def test_what_is_no_object_is_no_sheet(data: Any) -> None:
    with pytest.raises(BadSheet, match="JSON object"):
        read_sheet(data)


@pytest.mark.parametrize(("text", "what"), [("{", "not JSON"), ("[" * 100_000, "not JSON")])
def test_an_unreadable_file_is_refused(tmp_path: Path, text: str, what: str) -> None:
    file = tmp_path / "broken.json"
    file.write_text(text)
    with pytest.raises(BadSheet, match=what):
        load_sheet(file)


def test_a_file_that_is_missing_or_huge_is_refused(tmp_path: Path) -> None:
    with pytest.raises(BadSheet, match="cannot be read"):
        load_sheet(tmp_path / "nothing.json")
    huge = tmp_path / "huge.json"
    huge.write_text(" " * (sizes.KIT + 1))
    with pytest.raises(BadSheet, match="larger than"):
        load_sheet(huge)


def test_what_a_view_keeps_follows_from_its_field_and_projection() -> None:
    """By hand: angles lie evenly behind a lens that bends; behind one that does not, tangents of half the field."""
    cameras = {camera.id: camera for camera in library.demo_kit().cameras}
    limpet, yawl = cameras["limpet-7"], cameras["yawl-12"]

    def keeps(sheet: CameraSheet, lens: int, view: str) -> float:
        return sheet.keeps(sheet.lenses[lens], next(entry for entry in sheet.views if entry.id == view))

    assert keeps(limpet, 0, "wide") == pytest.approx(120 / 130)
    assert keeps(limpet, 0, "rectilinear") == pytest.approx(92 / 130)
    assert keeps(yawl, 1, "tight") == pytest.approx(0.36397 / 0.72654, rel=1e-4)  # tan 20 by tan 36 degrees
    assert keeps(yawl, 0, "rectilinear") == 1.0  # through another lens with a field of its own it is the widest there
    first = read_sheet(small_sheet_data())  # of the first version: told, whatever the geometry
    assert first.keeps(first.lenses[0], first.views[1]) == 0.8
    wide = {**small_sheet_data(), "version": 2}
    wide["views"] = [{**view, "keeps": None} for view in wide["views"]]
    second = read_sheet(wide)
    assert second.keeps(second.lenses[0], second.views[1]) == pytest.approx(85 / 120)


def test_the_demo_camera_is_as_rich_as_a_real_one() -> None:
    sheet = next(camera for camera in library.demo_kit().cameras if camera.id == "limpet-7")
    assert 40 <= sheet.mode_count <= 60
    assert len(sheet.views) == 5
    assert len(sheet.stabilisation) == 4
    assert (min(sheet.iso.floors), max(sheet.iso.ceilings)) == (100, 3200)
    assert len(sheet.profiles) == 4  # one of them of its stills
    assert {depth for profile in sheet.profiles for depth in profile.bit_depths} == {8, 10, 12}
    assert set(sheet.codecs[0].bit_rates_mb_s) == {70, 130}
    assert set(sheet.labels()) == set(USUAL.listed) - {
        *("nd", "lens", "f_number", "colour_filter", "housing", "focus"),
        *("recorder", "attachment", "microphone", "kept_as", "red_gain_stops"),
    }


def test_the_published_schema_is_the_models() -> None:
    published = json.loads((ROOT / "docs" / "camera-sheet.schema.json").read_text())
    assert published == {"$schema": published["$schema"], **sheet_json_schema()}
    data = json.loads((ROOT / "steady_tide" / "library" / "sheets" / "limpet-7.json").read_text())
    # Fractions such as "1/50" are for people; the schema holds their numbers.
    data = CameraSheet.model_validate(data).model_dump(mode="json")
    jsonschema.validate(data, published)
    data["lenses"] = []
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.validate(data, published)


def paths_of(data: Any, way: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    """Every place in a nested structure."""
    inner = data.items() if isinstance(data, dict) else enumerate(data) if isinstance(data, list) else ()
    return [way, *(path for key, value in inner for path in paths_of(value, (*way, key)))]


PLACES = [path for path in paths_of(small_sheet_data()) if path]
_nonsense = st.one_of(
    st.floats(),
    st.sampled_from([0, -1, 1, 10**9, 10**400, 1e-300, "", "wide", "1/50", "x" * 5000, None, True, [], {}, [[]]]),
    st.lists(st.floats(), max_size=3),
    st.text(max_size=8),
)


@examples(40)
@given(changes=st.lists(st.tuples(st.sampled_from(PLACES), _nonsense), min_size=1, max_size=3), drop=st.booleans())
def test_any_nonsense_in_a_sheet_is_refused_clearly_or_planned(
    changes: list[tuple[tuple[Any, ...], Any]], drop: bool
) -> None:
    data: Any = copy.deepcopy(small_sheet_data())
    for (*way, last), value in changes:
        place = data
        try:
            for step in way:
                place = place[step]
            if drop and isinstance(place, dict):
                place.pop(last, None)
            else:
                place[last] = value
        except (KeyError, IndexError, TypeError):
            continue  # an earlier change took this place away
    try:
        sheet = read_sheet(data, "fuzzed.json")
        kit = library.demo_kit().model_copy(update={"cameras": (sheet,)})
        made = plan(brief(), kit, library.knowledge())
    except BadSheet as refused:
        assert refused.faults
        assert all(fault.what and fault.where.startswith("fuzzed.json") for fault in refused.faults)
    except (NoLegalPlan, BadBrief) as refused:
        assert str(refused)
    else:
        assert math.isfinite(made.given_up_stops)
