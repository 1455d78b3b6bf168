"""What a table or files told joins what was typed: what was typed stays, and nothing is there twice."""

from __future__ import annotations

from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from steady_tide.core.cameras.completing import RoughSheet
from steady_tide.core.cameras.joining import joined, with_modes
from steady_tide.core.cameras.known import Known


def begun(*modes: dict[str, Any], **sheet: Any) -> RoughSheet:
    return RoughSheet(sheet={**sheet, "modes": list(modes)})


def test_a_mode_of_the_same_frame_and_rate_is_filled_and_keeps_what_it_has() -> None:
    typed = {"width": 3840, "height": 2160, "rates": [25, 50], "views": ["wide"]}
    told = {"width": 3840, "height": 2160, "rates": [50, 100], "views": ["rectilinear"], "codecs": ["efficient"]}
    modes = with_modes(begun(typed), [told]).sheet["modes"]
    assert modes == [{**typed, "codecs": ["efficient"]}, {**told, "rates": [100]}]
    assert typed == {"width": 3840, "height": 2160, "rates": [25, 50], "views": ["wide"]}, (
        "what was given is not changed"
    )


def test_modes_of_two_lenses_stay_apart_and_one_without_a_lens_may_be_either() -> None:
    main, tele = ({"width": 1920, "height": 1080, "rates": [25], "lens": lens} for lens in ("main", "tele"))
    assert with_modes(begun(main), [tele]).sheet["modes"] == [main, tele]
    anyone = {"width": 1920, "height": 1080, "rates": [25], "bit_depths": [10]}
    assert with_modes(begun(main, tele), [anyone]).sheet["modes"] == [{**main, "bit_depths": [10]}, tele]


def test_modes_may_take_the_place_of_all() -> None:
    assert with_modes(begun({"width": 1}), [{"width": 2}], instead=True).sheet["modes"] == [{"width": 2}]


def test_a_draft_fills_what_is_empty_and_no_more() -> None:
    sheet = {"name": "Whelk", "sensor": {"width_px": 4000}, "maker": ""}
    draft = {
        "name": "a clip",
        "sensor": {"width_px": 1, "height_px": 3000},
        "maker": "ours",
        "modes": [{"width": 9, "height": 9, "rates": [25]}],
    }
    rough = RoughSheet(sheet=sheet, known=Known(megapixels=12))
    whole = joined(rough, draft, Known(megapixels=99, battery_v=3.8))
    assert (whole.known.megapixels, whole.known.battery_v) == (12, 3.8)
    assert whole.sheet["name"] == "Whelk"
    assert whole.sheet["sensor"] == {"width_px": 4000, "height_px": 3000}
    assert whole.sheet["maker"] == "ours"
    assert whole.sheet["modes"] == draft["modes"]


modes = st.lists(
    st.fixed_dictionaries(
        {
            "width": st.sampled_from([1920, 3840]),
            "height": st.just(1080),
            "rates": st.lists(st.sampled_from([24, 25, 50]), unique=True),
        },
        optional={"lens": st.sampled_from(["main", "tele"]), "codecs": st.just(["plain"])},
    ),
    max_size=5,
)


def pairs(modes: list[dict[str, Any]]) -> set[tuple[Any, ...]]:
    return {(mode["width"], rate) for mode in modes for rate in mode["rates"]}


@given(modes, modes)
def test_no_frame_and_rate_is_lost_or_made_up_and_joining_again_changes_nothing(
    typed: list[Any], told: list[Any]
) -> None:
    once = with_modes(begun(*typed), told)
    assert pairs(once.sheet["modes"]) == pairs(typed) | pairs(told)
    assert with_modes(once, told) == once
