"""Views by the names that earlier versions wrote: read for ever, written anew."""

from __future__ import annotations

import copy
import json
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from steady_tide import library
from steady_tide.core.cameras.sheet_reading import read_sheet
from steady_tide.core.gear.sheet import CameraSheet
from steady_tide.core.gear.view_names import RENAMED, todays_sheet
from steady_tide.core.planning.planner import plan
from tests.briefs import brief

OLD = {new: old for old, new in RENAMED.items()}


def as_before(value: Any) -> Any:
    """A sheet as it was written with the old names; `projection` was and is called linear."""
    if isinstance(value, dict):
        return {OLD.get(name, name): one if name == "projection" else as_before(one) for name, one in value.items()}
    if isinstance(value, list):
        return [as_before(one) for one in value]
    return OLD.get(value, value) if isinstance(value, str) else value


@pytest.mark.parametrize("sheet", library.demo_kit().cameras, ids=lambda sheet: sheet.id)
def test_a_sheet_of_before_is_the_same_sheet(sheet: CameraSheet) -> None:
    now = sheet.model_dump(mode="json")
    before = as_before(now)
    assert before != now
    assert read_sheet(before, "before.json") == sheet
    assert read_sheet(now, "now.json") == sheet


def test_a_shot_with_a_view_of_before_is_planned_alike() -> None:
    kit, knowledge = library.demo_kit(), library.knowledge()
    before, now = (brief(pins={"camera": "limpet-7", "view": view}) for view in ("linear_level", "rectilinear_level"))
    assert before == now
    made = plan(before, kit, knowledge, schools=False)
    assert made.settings.view == made.chosen["view"] == "rectilinear_level"


def test_a_sheet_that_has_both_names_keeps_both() -> None:
    doc = library.demo_kit().cameras[0].model_dump(mode="json")
    doc["views"].append({**doc["views"][0], "id": "linear"})
    assert todays_sheet(copy.deepcopy(doc)) == doc


@given(st.recursive(st.none() | st.text() | st.integers(), lambda inner: st.lists(inner) | st.dictionaries(
    st.sampled_from(["views", "id", "modes", "lenses", "fields_deg", "rules", "never", "view", "menu", "dials", "linear"]), inner
)))  # fmt: skip
def test_any_nonsense_passes_as_it_is_or_with_other_names(doc: Any) -> None:
    json.dumps(todays_sheet(doc))
    assert todays_sheet(todays_sheet(doc)) == todays_sheet(doc)


def test_old_documents_are_read_with_the_names_of_today() -> None:
    kept = json.loads((Path(__file__).parents[1] / "old" / "documents" / "sheet-1.json").read_text())
    sheet = CameraSheet.model_validate(kept)
    assert "linear" in json.dumps(kept["modes"])
    assert {view.id for view in sheet.views} == {"fisheye", "rectilinear", "rectilinear_level"} | {
        view["id"] for view in kept["views"] if view["id"] not in RENAMED
    }
