"""The settings of a shot as a code to be photographed; what it holds is in docs/outside.md."""

from __future__ import annotations

from functools import lru_cache
from io import BytesIO

import segno


@lru_cache(maxsize=512)  # a code takes 50 ms, and stands on the screen, in a file and on paper
def code_svg(text: str, inline: bool = False) -> str:
    """A QR code. text: what it holds, at most about two kilobytes; inline: to stand in HTML. Returns SVG."""
    out = BytesIO()
    segno.make(text, error="l", micro=False).save(
        out, kind="svg", border=2, xmldecl=False, dark="#000", light="#fff", svgns=not inline
    )
    return out.getvalue().decode()
