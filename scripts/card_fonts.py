"""Make the faces of the printed card from the interface's own: still weights, latin and its extension in one file.

Run after the fonts of the front end have changed: .venv/bin/python scripts/card_fonts.py
"""

from __future__ import annotations

from pathlib import Path
from tempfile import TemporaryDirectory

from fontTools.merge import Merger
from fontTools.ttLib import TTFont
from fontTools.varLib.instancer import instantiateVariableFont

ROOT = Path(__file__).parents[1]
FROM = ROOT / "web" / "node_modules" / "@fontsource-variable"
TO = ROOT / "steady_tide" / "formats" / "fonts"
NARROW = 0x202F  # the thin space between a figure and its unit, which neither face has
FACES = {
    "card-plain": ("atkinson-hyperlegible-next", "normal", 400, "Card Plain", "Regular"),
    "card-bold": ("atkinson-hyperlegible-next", "normal", 700, "Card Plain", "Bold"),
    "card-title": ("besley", "normal", 600, "Card Title", "Regular"),
    "card-head": ("besley", "italic", 500, "Card Head", "Regular"),
}


def make(name: str, package: str, style: str, weight: int, family: str, sub: str) -> None:
    """Write one face."""
    with TemporaryDirectory() as scratch:
        parts = []
        for subset in ("latin", "latin-ext"):
            font = TTFont(FROM / package / "files" / f"{package}-{subset}-wght-{style}.woff2")
            still = instantiateVariableFont(font, {"wght": weight})
            still.flavor = None
            for table in ("GSUB", "GPOS", "GDEF", "STAT"):
                if subset == "latin-ext" and table in still:
                    del still[table]
            path = Path(scratch) / f"{subset}.ttf"
            still.save(path)
            parts.append(str(path))
        font = Merger().merge(parts)
    space = font.getBestCmap()[0x20]
    font["hmtx"].metrics["narrow"] = (font["hmtx"][space][0] * 2 // 3, 0)
    font["glyf"].glyphs["narrow"] = font["glyf"].glyphs[space]
    font.setGlyphOrder([*font.getGlyphOrder(), "narrow"])
    for table in font["cmap"].tables:
        if table.isUnicode():
            table.cmap[NARROW] = "narrow"
    for number, text in (
        (1, family),
        (2, sub),
        (3, f"{family} {sub}"),
        (4, f"{family} {sub}"),
        (6, f"{family}-{sub}".replace(" ", "")),
    ):
        font["name"].setName(text, number, 3, 1, 0x409)
        font["name"].setName(text, number, 1, 0, 0)
    for number in (16, 17, 21, 22, 25):
        font["name"].removeNames(nameID=number)
    font["OS/2"].usWeightClass = 700 if sub == "Bold" else 400
    font["OS/2"].fsSelection = (font["OS/2"].fsSelection & ~0x61) | (0x20 if sub == "Bold" else 0x40)
    font["head"].macStyle = 1 if sub == "Bold" else 0
    font.save(TO / f"{name}.ttf")


if __name__ == "__main__":
    for name, (package, style, weight, family, sub) in FACES.items():
        make(name, package, style, weight, family, sub)
        print(f"{name}.ttf", (TO / f"{name}.ttf").stat().st_size)
