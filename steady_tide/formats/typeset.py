"""Setting a page on paper: a template beside this file, filled with data."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from steady_tide import library

HERE = Path(__file__).parent


def typeset(template: str, data: dict[str, Any]) -> bytes:
    """Set a template as PDF. template: name of its file; data: as JSON can hold it. Returns the file."""
    # A typesetting library with its fonts beside it; it takes a moment to load, so it is loaded when it is needed.
    import typst

    return typst.compile(
        HERE / template,
        root=HERE,
        font_paths=[HERE / "fonts"],
        ignore_system_fonts=False,  # titles may be in letters that our faces lack
        sys_inputs={"data": json.dumps(data), "colours": json.dumps(library.palette().paper)},
        format="pdf",
        pdf_tags=False,
    )
