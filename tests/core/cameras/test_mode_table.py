"""Pasted mode tables: shapes that manuals have, and any table that is written out and read back."""

from __future__ import annotations

import contextlib
import csv
import io
from typing import Any

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from steady_tide.core.cameras.mode_table import TableRead, read_mode_table, rough_modes
from steady_tide.core.quantities.errors import BadFile
from tests.checks import at_least_one
from tests.examples import examples
from tests.growing import least_seconds

SHAPES: dict[str, tuple[str, str, dict[tuple[int, int], set[float]]]] = {
    "a spreadsheet": (
        "Resolution\tFrame rate\tField of view\n"
        "5K (16:9)\t60, 50, 30, 25, 24\tWide, Linear\n"
        "4K (16:9)\t120/100\tWide\n"
        "1080p\t240, 200\tWide, Narrow\n",
        "rows",
        {(5120, 2880): {60, 50, 30, 25, 24}, (3840, 2160): {120, 100}, (1920, 1080): {240, 200}},
    ),
    "a CSV with quotes": (
        'Video size,fps,"Stabilisation",Codec\n"3840 x 2160","60,50,30","off, standard",H.265\n"1920 x 1080","120,100",off,H.264\n',
        "rows",
        {(3840, 2160): {60, 50, 30}, (1920, 1080): {120, 100}},
    ),
    "semicolons and decimal commas": (
        "Width;Height;Rates\n3840;2160;29,97 / 25 / 23,976\n1280;720;59,94\n",
        "rows",
        {(3840, 2160): {29.97, 25, 23.976}, (1280, 720): {59.94}},
    ),
    "a page's table with bars": (
        "| Size | Aspect | FPS |\n|---|:---:|---|\n| 4K | 16:9 | 24-30 |\n| 2.9K | 4:3 | 60 |\n",
        "rows",
        {(3840, 2160): {24, 25, 30}, (2912, 2184): {60}},
    ),
    "frames by rates, with ticks": (
        "Resolution\t24\t25\t30\t50\t60\n4K 16:9\t✓\t✓\t✓\t-\t-\n1080p\t✓\t✓\t✓\t✓\t✓\n",
        "matrix",
        {(3840, 2160): {24, 25, 30}, (1920, 1080): {24, 25, 30, 50, 60}},
    ),
    "frames by rates, with views in the cells": (
        "Mode,25p,50p,100p\n3840x2160,wide linear,wide,\n1920x1080,wide linear narrow,wide linear,wide\n",
        "matrix",
        {(3840, 2160): {25, 50}, (1920, 1080): {25, 50, 100}},
    ),
    "a mode a column": (
        "Resolution\t3840 x 2160\t2560 x 1440\t1920 x 1080\nFrame rate\t60, 30\t120\t240\nStabilisation\tstandard\tstandard\toff\n",
        "turned",
        {(3840, 2160): {60, 30}, (2560, 1440): {120}, (1920, 1080): {240}},
    ),
    "lines of text": (
        "Video modes\n4K UHD 3840 x 2160: 60, 50, 30 fps\nFull HD (1920 x 1080) at 120 fps and 100 fps\n",
        "lines",
        {(3840, 2160): {60, 50, 30}, (1920, 1080): {120, 100}},
    ),
    "columns of blanks": (
        "Mode          Rate            View\n"
        "3840x2160     60 50 30        wide\n"
        "2560x1440     60 50           wide\n"
        "1920x1080     120 100         wide\n",
        "rows",
        {(3840, 2160): {60, 50, 30}, (2560, 1440): {60, 50}, (1920, 1080): {120, 100}},
    ),
    "the frame said once for many lines": (
        "Resolution,FPS,Stabilization\n6K 4:3,30,strong\n,25,strong\n,24,strongest\n4K 3:2,60,strong\n",
        "rows",
        {(6144, 4608): {30, 25, 24}, (3840, 2560): {60}},
    ),
    "shapes as headings between": (
        "Resolution\tFrame rate\tView\n16:9\t\t\n4K\t60, 30\twide\n4:3\t\t\n4K\t30\twide\n",
        "rows",
        {(3840, 2160): {60, 30}, (3840, 2880): {30}},
    ),
    "lenses as headings": (
        "Size\tRate\tCodec\nMain lens\t\t\n3840 x 2160\t60\tH.265\nExtra wide lens\t\t\n3840 x 2160\t30\tH.265\n",
        "rows",
        {(3840, 2160): {60, 30}},
    ),
}  # fmt: skip


def frames(read: TableRead) -> dict[tuple[int, int], set[float]]:
    found: dict[tuple[int, int], set[float]] = {}
    for mode in read.modes:
        found.setdefault((mode.width, mode.height), set()).update(mode.rates)
    return found


@pytest.mark.parametrize("name", SHAPES)
def test_a_table_of_each_shape_is_read(name: str) -> None:
    text, layout, modes = SHAPES[name]
    read = read_mode_table(text)
    assert read.layout == layout
    assert frames(read) == modes


def test_what_stands_in_the_cells_is_taken() -> None:
    read = read_mode_table(SHAPES["frames by rates, with views in the cells"][0])
    at = {(mode.width, rate): mode.views for mode in read.modes for rate in mode.rates}
    assert at[3840, 25] == ("wide", "rectilinear")
    assert at[3840, 50] == ("wide",)
    assert at[1920, 25] == ("wide", "rectilinear", "tight")
    lenses = read_mode_table(SHAPES["lenses as headings"][0]).modes
    assert [(mode.lens, mode.rates) for mode in lenses] == [("main", (60,)), ("extra_wide", (30,))]
    quoted = read_mode_table(SHAPES["a CSV with quotes"][0]).modes
    assert [(mode.stabilisation, mode.codecs) for mode in quoted] == [
        (("off", "standard"), ("efficient",)),
        (("off",), ("older",)),
    ]


def test_what_is_guessed_and_what_is_not_understood_is_told() -> None:
    read = read_mode_table(
        "Resolution\tFPS\tStabilisation\n5K\t60\tstandard\n4K 16:9\t24-30\tall but strongest\n1080p\tvery fast\tstandard\n"
    )
    assert frames(read) == {(5120, 2880): {60}, (3840, 2160): {24, 25, 30}}
    told = {(doubt.line, doubt.what.split(" ")[0]) for doubt in read.doubts}
    assert (2, "the") in told  # the name was taken for pixels
    assert any(doubt.line == 3 and "range" in doubt.what for doubt in read.doubts)
    assert any(doubt.line == 3 and "left out" in doubt.what for doubt in read.doubts)
    assert any(doubt.line == 4 and "no frame rate" in doubt.what for doubt in read.doubts)
    assert next(mode for mode in read.modes if mode.width == 3840).stabilisation is None


def test_a_row_that_stands_twice_counts_once() -> None:
    read = read_mode_table('Size,FPS,View\n3840x2160,"60,30",wide\n3840x2160,"30,25",linear\n')
    assert frames(read) == {(3840, 2160): {60, 30, 25}}
    assert read.mode_count == 3
    assert any("stood above already" in doubt.what for doubt in read.doubts)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "no line of it"),
        ("Dear diary,\nit rained.", "no line of it"),
        ("a\0b", "no text"),
        ("x\n" * 2500, "longer"),
        ("3840x2160,60\n" * 3 + '"unclosed', ""),
    ],
)
def test_what_is_no_table_is_refused_and_says_how_to_mend_it(text: str, says: str) -> None:
    try:
        read = read_mode_table(text)
    except BadFile as error:
        assert says in error.faults[0].what
        assert error.faults[0].mend
    else:
        assert not says
        assert read.modes, "an open quote may still leave lines that can be read"


@examples(40)
@given(st.text(alphabet=st.sampled_from("4K 1080p60fps,\t|;:x×16:9\n-wide\"'/.25 240 (5:4)"), max_size=400))
def test_any_text_is_read_or_refused(text: str) -> None:
    try:
        read = read_mode_table(text)
    except BadFile as refused:
        assert refused.faults
        return
    for mode in at_least_one(read.modes):
        assert 0 < mode.width <= 32_768
        assert 0 < mode.height <= 32_768
        assert all(1 <= rate <= 2000 for rate in mode.rates)


SIZES = [(5120, 2880), (5120, 3840), (3840, 2160), (3840, 2560), (2560, 1440), (1920, 1080), (1280, 720)]
VIEWS = ["fisheye", "wide", "rectilinear", "rectilinear_level", "tight"]
VIEW_WORDS = {"rectilinear": "straight lines", "rectilinear_level": "straight and level"}
LEVELS = ["standard", "strong", "strongest"]


def in_order(values: list[Any]) -> st.SearchStrategy[list[Any]]:
    return st.lists(st.sampled_from(values), min_size=1, unique=True).map(lambda some: sorted(some, key=values.index))


rows = st.lists(
    st.tuples(
        st.sampled_from(SIZES), in_order([24.0, 25.0, 30.0, 50.0, 60.0, 100.0, 120.0, 240.0]), in_order(VIEWS), in_order(LEVELS)
    ),
    min_size=2,
    max_size=7,
    unique_by=lambda row: row[0],
)  # fmt: skip
HEAD = ["Resolution", "Frame rate (fps)", "View", "Stabilisation"]


def written(table: list[Any], mark: str, joint: str) -> str:
    out = io.StringIO()
    writer = csv.writer(out, delimiter=mark, lineterminator="\n")
    writer.writerow(HEAD)
    for (wide, high), rates, views, levels in table:
        writer.writerow(
            [
                f"{wide} x {high}",
                joint.join(f"{rate:g}" for rate in rates),
                joint.join(VIEW_WORDS.get(view, view) for view in views),
                joint.join(levels),
            ]
        )
    return out.getvalue()


@examples(40)
@given(rows, st.sampled_from([("\t", ", "), (",", ", "), (";", ", "), ("\t", "/"), (";", " / ")]))
def test_a_table_that_is_written_out_is_read_back(table: list[Any], marks: tuple[str, str]) -> None:
    modes = rough_modes(read_mode_table(written(table, *marks)).modes)
    assert [(m["width"], m["height"]) for m in modes] == [size for size, *_ in table]
    for mode, (_, rates, views, levels) in zip(modes, table, strict=True):
        assert list(mode["rates"]) == rates
        assert list(mode["views"]) == views
        assert list(mode["stabilisation"]) == levels


@examples(40)
@given(rows)
def test_bars_and_a_matrix_are_read_back(table: list[Any]) -> None:
    bars = "\n".join("| " + " | ".join(line.split("\t")) + " |" for line in written(table, "\t", ", ").splitlines())
    assert frames(read_mode_table(bars)) == {size: set(rates) for size, rates, *_ in table}
    every = sorted({rate for _, rates, *_ in table for rate in rates})
    assume(len(every) >= 2)  # a matrix has columns
    head = "Size\t" + "\t".join(f"{rate:g} fps" for rate in every)
    body = [f"{w}x{h}\t" + "\t".join("yes" if rate in rates else "-" for rate in every) for (w, h), rates, *_ in table]
    assert frames(read_mode_table("\n".join([head, *body]))) == {size: set(rates) for size, rates, *_ in table}


@pytest.mark.parametrize(
    "piece",
    ["1 or ", "1/", "1 / ", "1-", "1,97,", "8 / ", "8 or ", "1 to ", "1p | ", " ", "\t", ",", ";", "wide  ", "steadying a ",
     "linear level ", "4k ", "1080p ", "3840 x ", "1:", "-", "level - "],
)  # fmt: skip
def test_no_text_takes_more_than_in_line_with_its_length(piece: str) -> None:
    line = (piece * 1000)[:990]

    def read(lines: int) -> None:
        with contextlib.suppress(BadFile):
            read_mode_table("3840x2160 60\n" + "\n".join([line] * lines))

    def seconds(lines: int) -> float:
        return least_seconds(lambda: read(lines), runs=2)

    once, took = seconds(1), seconds(8)
    assert took < 1.5
    assert took < 3.0 * 8 * max(once, 0.005), (once, took)


def test_a_line_that_is_too_long_is_told() -> None:
    with pytest.raises(BadFile, match="line 2: is longer than 1,000 characters"):
        read_mode_table("3840x2160 60\n" + "wide " * 300)


def test_a_word_that_is_not_known_is_told_beside_those_that_are() -> None:
    table = "Resolution\tfps\tview\tsteadying\n3840x2160\t60\twide, Vertigo\tstandard, Boost\n1920x1080\t200\twide\toff / standard\n"
    read = read_mode_table(table)
    assert read.modes[0].stabilisation == ("standard",)
    told = [doubt.what for doubt in read.doubts]
    assert told == [
        "\u201cVertigo\u201d was not understood as a view, and left out",
        "\u201cBoost\u201d was not understood as stabilisation, and left out",
    ]
    assert all(doubt.line == 2 for doubt in read.doubts)


def test_quotes_that_do_not_close_cost_no_other_line() -> None:
    read = read_mode_table(
        'frame,rate,view\n3840x2160,60,wide\n2560x1440,"120,wide\n1920x1080,240,wide\n1920x1080,50,wide\n'
    )
    assert [(mode.width, *mode.rates) for mode in read.modes] == [(3840, 60), (2560, 120), (1920, 240), (1920, 50)]
