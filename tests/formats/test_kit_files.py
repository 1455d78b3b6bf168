"""Sheets and kits as JSON and YAML: read back, refused, and no trick of YAML taken."""

from __future__ import annotations

import json
import time
from pathlib import Path
from typing import Any

import pytest
import yaml
from hypothesis import given
from hypothesis import strategies as st

from steady_tide import library
from steady_tide.core.gear.items import KINDS
from steady_tide.core.gear.kit_file import KitFile
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadFile, BadSheet, SteadyTideError
from steady_tide.formats.decoded import decoded
from steady_tide.formats.gpx import read_track
from steady_tide.formats.kit_file import Spelling, load_sheet, read_kit_file, write_kit_file, write_sheet_file
from tests.growing import least_seconds
from tests.small_sheet import small_sheet_data


def demo_file() -> KitFile:
    kit, known = library.demo_kit(), library.knowledge()
    return KitFile(
        format="steady-tide/kit",
        version=1,
        cameras=kit.cameras,
        filters=kit.filters,
        housings=kit.housings,
        lamps=kit.lamps,
        batteries=kit.batteries,
        media=kit.media,
        mounts=tuple(known.mounts.values()),
    )


@pytest.mark.parametrize("spelling", ["json", "yaml"])
def test_a_kit_is_read_back_as_it_was_written(spelling: Spelling) -> None:
    text = write_kit_file(demo_file(), spelling)
    assert read_kit_file(text.encode(), "kit") == demo_file()


@pytest.mark.parametrize("spelling", ["json", "yaml"])
@pytest.mark.parametrize("sheet", library.demo_kit().cameras, ids=lambda sheet: sheet.id)
def test_a_sheet_is_read_back_as_it_was_written(spelling: Spelling, sheet: Any, tmp_path: Path) -> None:
    path = tmp_path / f"sheet.{spelling}"
    path.write_text(write_sheet_file(sheet, spelling), encoding="utf-8")
    assert load_sheet(path) == sheet
    assert read_kit_file(path.read_bytes(), "sheet").cameras == (sheet,)


def test_other_readers_of_yaml_see_the_same() -> None:
    """ "off" and the like are quoted, so that no reader takes them for a truth."""
    ours = write_sheet_file(library.demo_kit().cameras[1], "yaml")
    assert yaml.safe_load(ours) == json.loads(write_sheet_file(library.demo_kit().cameras[1], "json"))


plain = st.recursive(
    st.none()
    | st.booleans()
    | st.integers(-(10**9), 10**9)
    | st.floats(allow_nan=False, allow_infinity=False, width=32)
    | st.text(st.characters(codec="utf-8", exclude_categories=["Cs", "Cc"]), max_size=12),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text("abc_", min_size=1, max_size=4), inner, max_size=3),
    max_leaves=8,
)  # fmt: skip


@given(st.dictionaries(st.text("abc_", min_size=1, max_size=5), plain, min_size=1, max_size=4))
def test_json_is_decoded_as_it_stands(doc: dict[str, Any]) -> None:
    assert decoded(json.dumps(doc).encode(), "x") == doc


TRICKS = {
    "a tag that builds an object": "a: !!python/object/apply:os.system ['true']",
    "a tag that builds a tuple": "a: !!python/tuple [1, 2]",
    "a tag of one's own": "a: !ruby/hash {}",
    "even a plain tag": "a: !!str 3",
    "an anchor that is used": "a: &x [1]\nb: *x",
    "laughs that double": "a: &a [lol]\nb: &b [*a, *a]\nc: [*b, *b]",
    "a merge of keys": "base: &b {x: 1}\nd:\n  <<: *b",
    "a key that stands twice": "a: 1\na: 2",
    "a list as a key": "? [1, 2]\n: 3",
    "deeper than anything": "a: " + "[" * 60 + "]" * 60,
    "a brace that does not close": "{a: [1, 2",
    "two documents": "a: 1\n---\nb: 2",
    "JSON with a key twice": '{"a": 1, "a": 2}',
    "JSON with no number": '{"a": NaN}',
    "JSON that is endless": '{"a": 1e999}',
    "JSON deeper than anything": "[" * 100_000,
    "no text": b"\xff\xfe\x00\x01",
    "too large": b"a: " + b"x" * (sizes.KIT + 1),
}


@pytest.mark.parametrize("name", TRICKS)
def test_tricks_are_refused_with_their_place(name: str) -> None:
    text = TRICKS[name]
    data = text if isinstance(text, bytes) else text.encode()
    with pytest.raises(SteadyTideError) as refused:
        read_kit_file(data, "kit.yaml")
    fault = refused.value.faults[0]  # type: ignore[attr-defined]
    assert fault.where.startswith("kit.yaml")
    assert fault.mend


def test_words_of_yaml_stay_words() -> None:
    doc = decoded(b"off: on\nyes: no\ntime: 1:30\nbase: 0x10\neight: 010\nfull: 12_000\nday: 2026-11-25\nnone:\n", "x")
    assert doc == {
        "off": "on", "yes": "no", "time": "1:30", "base": "0x10", "eight": "010", "full": "12_000", "day": "2026-11-25", "none": None,
    }  # fmt: skip


@pytest.mark.parametrize(
    ("doc", "where"),
    [
        ({}, "kit"),
        ({"format": "steady-tide/shoot", "version": 1}, "kit"),
        ({"format": "steady-tide/kit", "version": 3}, "kit.version"),
        ({"format": "steady-tide/kit", "version": 1, "filters": [{"id": "nd8"}]}, "kit.filters[0]"),
        ({"format": "steady-tide/kit", "version": 1, "bicycles": []}, "kit.bicycles"),
        ({"format": "steady-tide/kit", "version": 1, "cameras": [{"format": "steady-tide/camera-sheet"}]}, "kit.cameras[0]"),
    ],
)  # fmt: skip
def test_a_kit_that_is_none_is_refused_with_the_path(doc: dict[str, Any], where: str) -> None:
    with pytest.raises((BadFile, BadSheet)) as refused:
        read_kit_file(json.dumps(doc).encode(), "kit")
    assert any(fault.where.startswith(where) for fault in refused.value.faults), refused.value.faults


def test_two_of_one_id_are_refused() -> None:
    doc = json.loads(write_kit_file(demo_file()))
    doc["filters"].append(doc["filters"][0])
    doc["cameras"].append(doc["cameras"][0])
    with pytest.raises(BadFile) as refused:
        read_kit_file(json.dumps(doc).encode(), "kit")
    assert {fault.where for fault in refused.value.faults} == {"kit.filters", "kit.cameras"}


def test_a_sheet_that_contradicts_itself_is_refused_wherever_it_stands() -> None:
    broken = small_sheet_data()
    broken["modes"][0]["views"] = ["round"]
    broken["estimates"] = [{"field": "lenses[7].closest_m", "low": 0.1, "high": 0.2, "how": "a guess"}]
    kit = {"format": "steady-tide/kit", "version": 1, "cameras": [broken]}
    for doc, start in ((broken, "file"), (kit, "file.cameras[0]")):
        with pytest.raises(BadSheet) as refused:
            read_kit_file(json.dumps(doc).encode(), "file")
        assert all(fault.where.startswith(start) for fault in refused.value.faults)
        assert any("modes[0]" in fault.where for fault in refused.value.faults)


def test_every_kind_of_thing_is_in_a_kit_file() -> None:
    assert set(KINDS) < set(KitFile.model_fields)


def test_reading_takes_as_long_as_the_text_is() -> None:
    def seconds(lines: int) -> float:
        text = "format: steady-tide/kit\nversion: 1\nfilters:\n" + "".join(
            f"  - {{id: n{n}, stops: 3}}\n" for n in range(lines)
        )
        return least_seconds(lambda: decoded(text.encode(), "kit.yaml"))

    once = seconds(1000)
    for times in (2, 4, 8):
        assert seconds(1000 * times) < 3.0 * times * once
    with pytest.raises(BadFile, match="stands twice"):
        decoded(b"a: 1\n" * 20_000, "kit.yaml")


def test_a_track_with_thousands_of_name_spaces_is_refused_at_once() -> None:
    names = " ".join(f'xmlns:n{n}="u{n}"' for n in range(8000))
    began = time.perf_counter()
    with pytest.raises(BadFile, match="name spaces"):
        read_track(f'<gpx version="1.1" {names}></gpx>'.encode())
    assert time.perf_counter() - began < 1.0


def test_mounts_of_a_file_of_the_first_version_get_their_traits() -> None:
    legs = {
        "id": "tripod",
        "name": "tripod",
        "phrase": "on a tripod",
        "shake_deg_s": 0,
        "settle_s": 0.25,
        "field_deg": 78,
    }
    for version, stands in ((1, True), (2, False)):
        doc = {"format": "steady-tide/kit", "version": version, "mounts": [legs]}
        read = read_kit_file(json.dumps(doc).encode(), "kit")
        assert (read.version, read.mounts[0].stands) == (2, stands)
