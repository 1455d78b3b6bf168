"""Rough sheets filled up: what was given stays, what was not is an estimate, and what only a person can say is asked."""

from __future__ import annotations

import json
import re
from math import atan, degrees
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from steady_tide import library
from steady_tide.core.cameras.completing import RoughSheet, complete, rough_of
from steady_tide.core.cameras.filling import slug, width_of_type
from steady_tide.core.cameras.known import Known
from steady_tide.core.cameras.mode_table import read_mode_table, rough_modes
from steady_tide.core.cameras.sheet_reading import value_at
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.planning.estimates import check_estimates
from steady_tide.core.planning.planner import plan
from steady_tide.words.dial_values import value_words
from steady_tide.words.estimates import estimate_check_text
from tests.briefs import QUAY, brief
from tests.examples import examples
from tests.small_sheet import small_sheet

TYPICAL = library.typical()
TABLE = "Size\tFPS\tView\tStabilisation\n3840x2160\t60, 50, 30, 25\twide, linear\tstandard, strong\n1920x1080\t240, 120\twide\tstandard\n"


def rough(known: dict[str, Any] | None = None, **fields: Any) -> RoughSheet:
    modes = rough_modes(read_mode_table(TABLE).modes)
    return RoughSheet(sheet={"name": "Whelk 4", "modes": modes, **fields}, known=Known.model_validate(known or {}))


def whole(known: dict[str, Any] | None = None, **fields: Any) -> CameraSheet:
    done = complete(rough(known, **fields), TYPICAL)
    assert done.faults == ()
    assert done.sheet is not None
    return done.sheet


def test_a_name_and_a_table_make_a_sheet_that_can_be_planned_with() -> None:
    sheet = whole()
    assert (sheet.id, sheet.name, sheet.mode_count) == ("whelk-4", "Whelk 4", 6)
    kit = library.demo_kit().model_copy(update={"cameras": (sheet,)})
    made = plan(brief(**QUAY), kit, library.knowledge())
    assert made.camera.id == "whelk-4"
    assert made.settings.frame_rate == 25


def test_every_estimate_names_a_number_of_the_sheet_within_its_range() -> None:
    sheet = whole()
    assert len(sheet.estimates) > 30
    for entry in sheet.estimates:
        value = value_at(sheet, entry.field)
        assert value is not None, entry.field
        assert entry.how
        if entry.low is not None and entry.high is not None:
            assert entry.low <= float(value) <= entry.high, entry


def test_nothing_that_was_not_said_goes_without_a_mark() -> None:
    """Each number of the sheet is a default of the format, was given, or is written down as an estimate."""
    given, sheet = rough().sheet, whole()
    marked = {entry.field for entry in sheet.estimates}
    said = json.dumps(given)
    for index, lens in enumerate(sheet.model_dump(mode="json", exclude_defaults=True)["lenses"]):
        for name in lens["sensor"]:
            assert f"lenses[{index}].sensor.{name}" in marked
    for name in ("base_w", "battery_wh", "heat_k_per_w", "per_gigapixel_s_w"):
        assert f"power.{name}" in marked
        assert name not in said
    for view, entry in enumerate(sheet.views):
        assert f"views[{view}].field_deg" in marked, entry


def test_what_a_person_gives_is_taken_and_is_no_estimate() -> None:
    sensor = {"read_noise_e": 1.9, "full_well_e": 5100}
    sheet = whole(lenses=[{"id": "main", "f_numbers": [2.2], "sensor": sensor}], power={"battery_wh": 6.5})
    assert sheet.lenses[0].sensor.read_noise_e == 1.9
    assert sheet.lenses[0].f_numbers == (2.2,)
    assert sheet.power.battery_wh == 6.5
    marked = {entry.field for entry in sheet.estimates}
    assert not marked & {"lenses[0].sensor.read_noise_e", "lenses[0].f_numbers[0]", "power.battery_wh"}


def test_the_box_gives_sensor_view_and_power() -> None:
    sheet = whole(
        {"sensor_width_mm": 6.2, "megapixels": 20, "equivalent_mm": 18, "battery_mah": 1600, "battery_v": 3.85, "battery_hours": 1.5}
    )  # fmt: skip
    sensor = sheet.lenses[0].sensor
    assert sensor.width_px * sensor.height_px == pytest.approx(20e6, rel=0.02)
    assert sensor.pixel_pitch_um == pytest.approx(6200 / sensor.width_px, rel=1e-3)
    linear = next(view for view in sheet.views if view.id == "rectilinear")
    assert linear.field_deg == pytest.approx(degrees(2 * atan(18 / 18)), rel=1e-3)
    assert sheet.power.battery_wh == pytest.approx(1.6 * 3.85, rel=1e-3)
    # A charge lasts what was said, in 4K at 30.
    drawn = sheet.power.base_w + sheet.power.per_gigapixel_s_w * 3840 * 2160 * 30 / 1e9
    assert sheet.power.battery_wh / drawn == pytest.approx(1.5, rel=0.01)


@pytest.mark.parametrize(
    ("text", "wide"),
    [("1/2.3", 6.17), ("1/2,3\"", 6.17), ("1", 13.2), ("1 inch", 13.2), ("1/1.9", 6.77), ("0.5", 6.4), ("3", None), ("big", None), ("1/0", None)],
)  # fmt: skip
def test_sensor_types(text: str, wide: float | None) -> None:
    found = width_of_type(text, TYPICAL.inch_types)
    assert found == (None if wide is None else pytest.approx(wide, abs=0.01))


@pytest.mark.parametrize(
    ("fields", "known", "where"),
    [
        ({"name": " "}, {}, "name"),
        ({"modes": []}, {}, "modes"),
        ({"modes": [{"width": 3840, "rates": [25]}]}, {}, "modes[0].height"),
        ({"modes": ["4K"]}, {}, "modes[0]"),
        ({}, {"sensor_type": "large"}, "known.sensor_type"),
        ({"views": [{"id": "wide", "field_deg": 300}]}, {}, "views[0].field_deg"),
        ({"rules": [{"never": {"view": ["round"]}, "why": "x"}]}, {}, "rules[0]"),
        ({"power": "a lot"}, {}, "power"),
    ],
)
def test_what_only_a_person_can_say_is_asked_with_its_place(
    fields: dict[str, Any], known: dict[str, Any], where: str
) -> None:
    done = complete(rough(known, **fields), TYPICAL)
    assert done.sheet is None
    assert any(fault[0].startswith(where) for fault in done.faults), done.faults
    assert all(fault[1] for fault in done.faults)


def test_estimates_are_taken_out_again_and_better_knowledge_fills_them() -> None:
    sheet = whole()
    begun = rough_of(sheet, Known(), TYPICAL)
    assert begun["lenses"][0]["sensor"] == {}
    assert complete(RoughSheet(sheet=begun), TYPICAL).sheet == sheet
    better = complete(RoughSheet(sheet=begun, known=Known(sensor_type="1")), TYPICAL).sheet
    assert better is not None
    assert better.lenses[0].sensor.full_well_e > 2 * sheet.lenses[0].sensor.full_well_e


@pytest.mark.parametrize("sheet", [small_sheet(), *library.demo_kit().cameras], ids=lambda sheet: sheet.id)
def test_a_sheet_that_somebody_wrote_fills_up_to_itself(sheet: CameraSheet) -> None:
    """Also where a number that was left to the format's default is one that would be estimated otherwise."""
    assert complete(RoughSheet(sheet=rough_of(sheet, Known(), TYPICAL)), TYPICAL).sheet == sheet


def test_a_given_number_that_is_the_default_is_kept() -> None:
    sheet = whole(profiles=[{"id": "natural", "shadow_lift_stops": 0.0}])
    assert sheet.profiles[0].shadow_lift_stops == 0.0
    again = complete(RoughSheet(sheet=rough_of(sheet, Known(), TYPICAL)), TYPICAL).sheet
    assert again == sheet


words = st.recursive(
    st.none() | st.booleans() | st.integers(-5, 5000) | st.floats(allow_nan=False) | st.text(max_size=6),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=8), inner, max_size=3),
    max_leaves=8,
)
FIELDS = ["name", "kind", "modes", "lenses", "views", "stabilisation", "codecs", "profiles", "power", "iso", "shutter", "estimates", "rules", "menu"]  # fmt: skip


@examples(40)
@given(st.dictionaries(st.sampled_from(FIELDS), words, max_size=4))
def test_whatever_is_typed_is_filled_up_or_told_what_is_wrong(fields: dict[str, Any]) -> None:
    done = complete(rough(**fields), TYPICAL)
    assert (done.sheet is None) == bool(done.faults)


@pytest.mark.parametrize(("name", "id_"), [("Whelk 4", "whelk-4"), ("  Ä!  ", "camera"), ("A" * 90, "a" * 60)])
def test_short_names(name: str, id_: str) -> None:
    assert slug(name) == id_


def test_every_field_of_a_sheet_is_explained() -> None:
    """What the schema has, the editor has words for; nothing is explained that does not exist."""
    explained = {
        f"{group.list}[].{field.path}" if group.list else field.path
        for group in library.sheet_fields()
        for field in group.fields
    }
    assert all(field.where for group in library.sheet_fields() for field in group.fields)
    schema = CameraSheet.model_json_schema()
    known = {f"known.{name}" for name in Known.model_fields}
    leaves = set(_leaves(schema, schema, ""))
    shared = {entry for entry in explained if not entry.startswith("known.")}
    assert {entry for entry in explained if entry.startswith("known.")} == known
    for leaf in leaves:
        assert any(leaf == entry or leaf.startswith((f"{entry}.", f"{entry}[]")) for entry in shared), leaf
    for entry in shared:
        assert any(leaf == entry or leaf.startswith((f"{entry}.", f"{entry}[]")) for leaf in leaves), entry


def _leaves(schema: dict[str, Any], part: dict[str, Any], path: str) -> Any:
    if "$ref" in part:
        yield from _leaves(schema, schema["$defs"][part["$ref"].rsplit("/", 1)[1]], path)
    elif "anyOf" in part and any("$ref" in option for option in part["anyOf"]):
        for option in part["anyOf"]:
            if option.get("type") != "null":
                yield from _leaves(schema, option, path)
    elif part.get("type") == "object" and "properties" in part:
        for name, inner in part["properties"].items():
            yield from _leaves(schema, inner, f"{path}.{name}" if path else name)
    elif part.get("type") == "array" and "$ref" in str(part.get("items")):
        yield from _leaves(schema, part["items"], f"{path}[]")
    else:
        yield path


def test_a_decision_that_rests_on_an_estimate_is_found() -> None:
    """The same plan from the sheet at both ends of one estimate, made by hand, gives what the check says."""
    sheet = whole()
    kit = library.demo_kit().model_copy(update={"cameras": (sheet,)})
    what = brief(light={"kind": "meter", "ev100": [1, 3]}, delivery={"graded": True})
    made = plan(what, kit, library.knowledge(), schools=False)
    check = check_estimates(what, kit, library.knowledge(), made)
    assert check.estimates == len(sheet.estimates)
    noise = next(matter for matter in check.matters if matter.matter == "noise")
    assert noise.decides, "in such a dim light"
    worst, best = sheet.model_dump(mode="json"), sheet.model_dump(mode="json")
    fields = {entry.field for entry in noise.fields}
    assert {"lenses[0].sensor.read_noise_e", "lenses[0].sensor.full_well_e"} <= fields
    for entry in sheet.estimates:
        if entry.field not in fields:
            continue
        more_is_worse = entry.field.endswith("read_noise_e")
        for doc, end in (
            (worst, entry.high if more_is_worse else entry.low),
            (best, entry.low if more_is_worse else entry.high),
        ):
            *steps, last = re.findall(r"\w+", entry.field)
            part = doc
            for step in steps:
                part = part[int(step) if step.isdigit() else step]
            part[last] = end
    by_hand = [
        plan(what, kit.model_copy(update={"cameras": (CameraSheet.model_validate(doc),)}), library.knowledge(), schools=False)
        for doc in (worst, best)
    ]  # fmt: skip
    assert noise.worst_stops == pytest.approx(by_hand[0].given_up_stops, abs=1e-9)
    assert noise.best_stops == pytest.approx(by_hand[1].given_up_stops, abs=1e-9)
    assert noise.worst_stops is not None
    assert noise.best_stops is not None
    assert noise.worst_stops > noise.best_stops
    assert noise.dials
    for dial in noise.dials:
        ends = [end.chosen[dial.dial] for end in by_hand]
        assert (dial.now, dial.at_worst, dial.at_best) == (made.chosen[dial.dial], *ends)
        assert set(ends) != {dial.now}
    said = next(matter for matter in estimate_check_text(check).matters if matter.matter == "noise")
    assert said.title == "the sensor's noise"
    assert [(dial.now, dial.at_worst) for dial in said.dials] == [
        (value_words(dial.dial, dial.now), value_words(dial.dial, dial.at_worst)) for dial in noise.dials
    ]


def test_a_sheet_without_estimates_rests_on_none() -> None:
    kit = library.demo_kit()
    made = plan(brief(**QUAY), kit, library.knowledge(), schools=False)
    assert check_estimates(brief(**QUAY), kit, library.knowledge(), made).matters == ()
