"""Briefs: what is read, and what is refused at which path."""

from __future__ import annotations

import math
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from steady_tide import library
from steady_tide.core.brief.brief import Brief, read_brief
from steady_tide.core.light.resolving import resolve
from steady_tide.core.planning.planner import plan
from steady_tide.core.quantities.errors import BadBrief, BadInput, NoLegalPlan
from tests.briefs import NOON, SUN, brief, planned


@pytest.mark.parametrize(
    ("fields", "where", "what"),
    [
        ({"subject": {"distance_m": [3, 1]}}, "subject.distance_m", "farther than far"),
        ({"delivery": {"fps": 0}}, "delivery.fps", "must be 1 or more"),
        ({"delivery": {"slow_factor": float("inf")}}, "delivery.slow_factor", "finite"),
        ({"light": {"kind": "meter", "ev100": [15, 14]}}, "light", "upside down"),
        ({"light": {"kind": "meter", "lux": [900, 3]}}, "light", "upside down"),
        ({"light": {"kind": "meter"}}, "light", "either lux or ev100"),
        ({"light": {"kind": "meter", "ev100": [1, 2], "lux": [1, 2]}}, "light", "either lux or ev100"),
        ({"light": {"kind": "torch"}}, "light", "unknown value 'torch'"),
        ({"light": {"kind": "reading", "readings": []}}, "light.readings", "is empty"),
        ({"light": {"kind": "meter", "ev100": [float("nan"), 3]}}, "light.ev100[0]", "finite"),
        ({"camera_move": {"mount": ""}}, "camera_move.mount", "is empty"),
        ({"mains_hz": 55}, "mains_hz", "unknown value 55"),
        ({"delivery": {"reframe": ["tall"]}}, "delivery.reframe[0]", "letters that cannot stand there"),
        ({"shutter": "1/50"}, "shutter", "not a known field"),
        ({"take": {"count": 0}}, "take.count", "must be 1 or more"),
        ({"light": {"kind": "water", "surface": SUN, "depth_m": [7, 3], "water_type": "II"}}, "light", "upside down"),
        (
            {"light": {"kind": "water", "depth_m": [1, 2], "water_type": "II", "surface": {"kind": "water"}}},
            "light.surface",
            "unknown value 'water'",
        ),
        ({"light": {"kind": "lamps", "lamps": []}}, "light.lamps", "is empty"),
        ({"light": {**NOON, "end": "2026-05-12T10:30:00Z"}}, "light", "ends before it starts"),
        ({"light": {**NOON, "end": "2026-06-12T10:30:00Z"}}, "light", "longer than two days"),
        ({"light": {**NOON, "latitude": 91}}, "light.latitude", "must be 90 or less"),
    ],
)
def test_a_fault_is_named_with_its_path(fields: dict[str, Any], where: str, what: str) -> None:
    with pytest.raises(BadBrief) as refused:
        brief(**fields)
    assert any(fault.where == where and what in fault.what for fault in refused.value.faults), str(refused.value)


@pytest.mark.parametrize(
    ("fields", "where"),
    [
        ({"camera_move": {"mount": "balloon"}}, "camera_move.mount"),
        ({"light": {"kind": "water", "surface": SUN, "depth_m": [1, 2], "water_type": "tea"}}, "light.water_type"),
        ({"kit": {"housings": ["jam jar"]}}, "kit.housings[0]"),
        ({"kit": {"batteries": ["limpet-cell", "a lemon"]}}, "kit.batteries[1]"),
        ({"pins": {"camera": "no-such-camera"}}, "pins.camera"),
        ({"light": {"kind": "place", "place": "the moon"}}, "light.place"),
        ({"kit": {"cameras": ["no-such-camera"]}}, "kit.cameras[0]"),
        ({"kit": {"cameras": []}}, "kit.cameras"),
        ({"kit": {"filters": ["nd8", "nd4000"]}}, "kit.filters[1]"),
        ({"pins": {"frame_rate": 26}}, "pins.frame_rate"),
        ({"pins": {"colour": "blue"}}, "pins.colour"),
        ({"pins": {"high_dynamic_range": "yes"}}, "pins.high_dynamic_range"),
        ({"pins": {"nd": ["nd8", "nd9"]}}, "pins.nd"),
    ],
)
def test_what_does_not_exist_is_named_with_what_does(fields: dict[str, Any], where: str) -> None:
    with pytest.raises(BadBrief) as refused:
        planned(**fields)
    assert [fault.where for fault in refused.value.faults] == [where]
    assert refused.value.faults[0].mend


@pytest.mark.parametrize("data", [None, [], "text"])
def test_what_is_no_object_is_no_brief(data: Any) -> None:
    with pytest.raises(BadBrief, match="JSON object"):
        read_brief(data)


def test_missing_light_is_asked_for() -> None:
    with pytest.raises(BadBrief, match="light: is missing"):
        read_brief({"title": "x"})


def test_a_brief_survives_writing_and_reading() -> None:
    first = brief(pins={"shutter_s": "auto", "nd": ["nd8"]}, delivery={"graded": True, "reframe": ["9:16"]})
    assert read_brief(first.model_dump(mode="json")) == first


def test_kinds_of_light() -> None:
    places = library.knowledge().world
    reading = brief(
        light={"kind": "reading", "readings": [{"f_number": 2.8, "shutter_s": "1/240", "iso": 100, "nd_stops": 3}]}
    )
    assert resolve(reading.light, places).ev100 == pytest.approx((13.88, 13.88), abs=0.005)
    two = brief(
        light={
            "kind": "reading",
            "readings": [
                {"f_number": 16, "shutter_s": 0.01, "iso": 100},
                {"f_number": 2.8, "shutter_s": 0.02, "iso": 400},
            ],
        }
    )
    assert resolve(two.light, places).ev100 == pytest.approx((6.61, 14.64), abs=0.01)
    lux = brief(light={"kind": "meter", "lux": [2.5, 81_920]})
    assert resolve(lux.light, places).ev100 == pytest.approx((0, 15))
    dark = resolve(brief(light={"kind": "place", "place": "lantern_lit_yard"}).light, places)
    assert dark.ev100 == (2, 5)
    assert dark.dark


def test_a_reading_that_no_scene_has_is_refused() -> None:
    wrong = brief(
        light={"kind": "reading", "readings": [{"f_number": 64, "shutter_s": 1e-5, "iso": 1, "nd_stops": 20}]}
    )
    with pytest.raises(BadBrief, match="which no scene has"):
        resolve(wrong.light, library.knowledge().world)


_numbers = st.one_of(st.floats(), st.integers(), st.just(10**400), st.none(), st.text(max_size=5), st.booleans())
_values = st.recursive(
    _numbers,
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=5), inner, max_size=3),
    max_leaves=6,
)


@given(
    field=st.sampled_from([*Brief.model_fields]),
    value=_values,
    inner=st.sampled_from(["kind", "fps", "mount", "distance_m", "filters", "ev100"]),
)
def test_any_nonsense_is_refused_clearly_or_planned(field: str, value: Any, inner: str) -> None:
    for data in ({field: value}, {field: {inner: value}}, {"pins": {inner: value}}):
        try:
            what = read_brief({"light": SUN, **data})
            made = plan(what, library.demo_kit(), library.knowledge())
        except BadInput as refused:
            assert refused.faults
            assert all(fault.what for fault in refused.faults)
        except NoLegalPlan as refused:
            assert str(refused)
        else:
            assert math.isfinite(made.given_up_stops)
