"""A draft from what files say of themselves: what is joined, rounded, noted, and left for the person to say."""

from __future__ import annotations

from typing import Any

import pytest

from steady_tide import library
from steady_tide.core.cameras.clips import FileFacts, draft_of
from steady_tide.core.cameras.completing import RoughSheet, complete


def shot(
    name: str = "a.mp4", width: int = 3840, height: int = 2160, rate: float | None = 25.0, **more: Any
) -> FileFacts:
    said = {"codec": "hevc", "bits": 10, "bit_rate_mb_s": 98.0, "seconds": 4.0, "frames": 100, **more}
    return FileFacts(file=name, size_bytes=50_000_000, kind="clip", width=width, height=height, rate=rate, **said)


def photo(**more: Any) -> FileFacts:
    return FileFacts(file="s.jpg", size_bytes=4_000_000, kind="still", width=5120, height=3840, **more)


def modes(*facts: FileFacts) -> list[dict[str, Any]]:
    return list(draft_of(facts).sheet["modes"])


def notes(*facts: FileFacts) -> str:
    return " | ".join(text for _, text in draft_of(facts).notes)


def test_rates_of_one_frame_and_codec_are_one_mode() -> None:
    assert modes(shot(rate=50.0), shot(rate=24000 / 1001), shot(rate=60000 / 1001)) == [
        {"width": 3840, "height": 2160, "rates": [23.976, 50, 59.94], "codecs": ["efficient"], "bit_depths": [10], "bit_rates_mb_s": [100]}
    ]  # fmt: skip


def test_codecs_of_the_same_frames_are_one_mode_with_both() -> None:
    found = modes(shot(), shot(codec="h264", bits=8, bit_rate_mb_s=61.0))
    assert len(found) == 1
    assert found[0]["codecs"] == ["efficient", "older"]
    assert found[0]["bit_depths"] == [8, 10]
    # A codec that only some of the rates have still counts each rate once.
    split = modes(shot(rate=25.0), shot(rate=50.0), shot(rate=50.0, codec="h264", bits=8))
    assert sorted(rate for mode in split for rate in mode["rates"]) == [25, 50]


@pytest.mark.parametrize(("mean", "said"), [(14.6, 15), (57.7, 60), (97.2, 95), (118.0, 120), (0.2, 1)])
def test_a_mean_bit_rate_is_taken_to_the_step_that_menus_have(mean: float, said: float) -> None:
    assert modes(shot(bit_rate_mb_s=mean))[0]["bit_rates_mb_s"] == [said]


def test_without_a_stated_bit_rate_it_follows_from_the_size() -> None:
    # 50 MB in four seconds are 100 Mb/s.
    assert modes(shot(bit_rate_mb_s=None))[0]["bit_rates_mb_s"] == [100]


@pytest.mark.parametrize(
    ("said", "note"),
    [
        ({"rate": None}, "says no frame rate"),
        ({"turned": 90}, "turned upright"),
        ({"transfer": 18}, "wide-range screen"),
        ({"primaries": 9}, "wide colours"),
        ({"frames": 400}, "do not fit its rate"),
    ],
)
def test_what_should_be_minded_is_noted(said: dict[str, Any], note: str) -> None:
    assert note in notes(shot(**said))
    assert note not in notes(shot())


def test_stills_give_the_lens_and_the_sensor() -> None:
    draft = draft_of([photo(f_number=2.8, focal_mm=2.9, equivalent_mm=17.0, iso=400.0), photo(f_number=5.6, iso=100.0)])
    assert draft.known.megapixels == pytest.approx(19.66, abs=0.01)
    assert draft.known.equivalent_mm == 17
    assert draft.known.sensor_width_mm == pytest.approx(36 * 2.9 / 17, abs=0.01)
    assert draft.sheet["lenses"][0]["f_numbers"] == [2.8, 5.6]
    assert any("ISO 100, 400" in text for _, text in draft.notes)
    assert draft.sheet["modes"] == []


def test_nonsense_in_tags_is_left_out() -> None:
    draft = draft_of([photo(f_number=0.0, focal_mm=0.0, equivalent_mm=0.0, iso=0.0)])
    assert draft.known.equivalent_mm is None
    assert "lenses" not in draft.sheet


def test_a_draft_needs_nothing_but_a_name_to_be_a_sheet() -> None:
    draft = draft_of([shot(), shot(rate=100.0, width=1920, height=1080), photo(f_number=2.8, equivalent_mm=17.0)])
    lacking = complete(RoughSheet(sheet=draft.sheet, known=draft.known), library.typical())
    assert [fault[0] for fault in lacking.faults] == ["name"]
    done = complete(RoughSheet(sheet={**draft.sheet, "name": "Mine"}, known=draft.known), library.typical())
    assert done.sheet is not None
    assert done.sheet.mode_count == 2
    # What files do not say is marked.
    assert {"modes[0].views", "modes[1].stabilisation"} <= {entry.field for entry in done.estimates}


def test_every_typical_value_lies_within_its_own_range() -> None:
    def triples(value: Any) -> Any:
        if isinstance(value, list | tuple) and len(value) == 3 and all(isinstance(n, int | float) for n in value):
            yield value
        elif isinstance(value, dict):
            for inner in value.values():
                yield from triples(inner)

    doc = library.typical().model_dump(exclude={"lists", "inch_types"})
    found = list(triples(doc))
    assert len(found) > 30
    for value, low, high in found:
        assert low <= value <= high, (value, low, high)
    widths = list(library.typical().inch_types.values())
    assert widths == sorted(widths), "from the smallest type to the largest"
