"""Tables of colours as .cube files: with a shaper before the table where there is one."""

from __future__ import annotations

from steady_tide.core.edit.luts import Lut

LONGEST_TITLE = 80


def write_cube(lut: Lut) -> str:
    """Write a table. lut: with or without a shaper. Returns the file; red runs first, as the format wants it."""
    title = "".join(letter for letter in lut.title if letter.isprintable() and letter not in '"\\')[:LONGEST_TITLE]
    # With a shaper the format knows no title.
    lines = [f'TITLE "{title}"' if lut.shaper is None else f"# {title}"]
    if lut.shaper is not None:
        lines += [f"LUT_1D_SIZE {len(lut.shaper)}", "LUT_1D_INPUT_RANGE 0.0 1.0"]
    lines.append(f"LUT_3D_SIZE {lut.size}")
    lines += (
        ["LUT_3D_INPUT_RANGE 0.0 1.0"]
        if lut.shaper is not None
        else ["DOMAIN_MIN 0.0 0.0 0.0", "DOMAIN_MAX 1.0 1.0 1.0"]
    )
    if lut.shaper is not None:
        lines += [f"{value:.7f} {value:.7f} {value:.7f}" for value in lut.shaper]
    lines += [f"{red:.7f} {green:.7f} {blue:.7f}" for red, green, blue in lut.table]
    return "\n".join(lines) + "\n"
