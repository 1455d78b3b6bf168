"""One palette and one type scale for the interface, the saved card, drawings and paper; its contrast on every ground."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

from scripts.documents import palette_css
from steady_tide import library
from steady_tide.core.quantities.palette import contrast_ratio, luminance
from tests.checks import at_least_one

ROOT = Path(__file__).parents[2]
READ = 4.5  # of text, WCAG 2.1 AA
SEEN = 3.0  # of large text and of what has to be told apart
GROUNDS = library.palette().grounds


@pytest.mark.parametrize(
    ("one", "other", "ratio"),
    [
        ("#ffffff", "#000000", 21.0),
        ("#777777", "#ffffff", 4.48),
        ("#ff0000", "#ffffff", 4.0),
        ("#17262e", "#17262e", 1.0),
    ],
)
def test_contrast_is_as_published(one: str, other: str, ratio: float) -> None:
    assert contrast_ratio(one, other) == pytest.approx(ratio, abs=0.01)
    assert contrast_ratio(other, one) == contrast_ratio(one, other)
    assert luminance("#ffffff") == pytest.approx(1.0)


@pytest.mark.parametrize("ground", list(GROUNDS))
def test_all_that_is_read_stands_out_from_what_it_lies_on(ground: str) -> None:
    colours = GROUNDS[ground]
    for text in {"ink", "muted", "note", "sun"} & set(colours):
        for on in ("ground", "second"):
            assert contrast_ratio(colours[text], colours[on]) >= READ, (text, on)
    for on in set(colours) & {"shoal", "mid"}:
        assert contrast_ratio(colours["ink"], colours[on]) >= READ, on
    if "deep" in colours:
        assert contrast_ratio(colours["ink"], colours["deep"]) >= SEEN
    assert contrast_ratio(colours["ground"], colours["ink"]) >= READ, "buttons that are filled"


def test_the_red_ground_has_one_hue() -> None:
    for name, colour in at_least_one(GROUNDS["red"].items()):
        red, green, blue = (int(colour[at : at + 2], 16) for at in (1, 3, 5))
        assert red >= 1.8 * max(green, blue) or red <= 0x20, f"{name} spares night vision"


def test_paper_can_be_read() -> None:
    paper = library.palette().paper
    for text in ("ink", "muted", "note"):
        assert contrast_ratio(paper[text], "#ffffff") >= READ
        assert contrast_ratio(paper[text], paper["second"]) >= READ


def test_the_styles_are_written_from_the_palette() -> None:
    assert (ROOT / "web/src/app/palette.css").read_text() == palette_css(), "run scripts/documents.py"


def test_no_colour_and_no_size_of_type_stands_elsewhere() -> None:
    found = []
    for file in [
        *(ROOT / "web/src").rglob("*.css"),
        *(ROOT / "web/src").rglob("*.ts*"),
        *(ROOT / "steady_tide/formats").glob("*.*"),
    ]:
        if file.suffix not in (".css", ".ts", ".tsx", ".html", ".typ", ".py") or file.name == "palette.css":
            continue
        text = file.read_text()
        if file.name not in (
            "saving.ts",
            "settings_code.py",
        ):  # black on white, for other people's screens and for readers
            found += [(file.name, colour) for colour in re.findall(r"#[0-9a-fA-F]{6}\b", text)]
        found += [(file.name, size) for size in re.findall(r"text-\[[0-9.]+px\]", text)]
    assert not found
    assert len(library.palette().type) == 6
