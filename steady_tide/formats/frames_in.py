"""Frames for measuring, by the file: which ISO, which curve, and the exposure between two."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from math import log2

import numpy as np
from numpy.typing import NDArray

from steady_tide.core.cameras.clips import FileFacts
from steady_tide.core.measuring.noise_ladder import GreyStep, grey_step
from steady_tide.core.measuring.transfer import Transfer
from steady_tide.core.quantities.errors import BadFile, Fault

Floats = NDArray[np.float64]
GREEN = 1
MOST_FRAMES = 8  # of one clip


@dataclass(frozen=True)
class Frames:
    """Frames of one file, shares of the largest code, (frames, rows, columns, 3), and what the file says."""

    facts: FileFacts
    codes: int
    values: Floats


def usual_transfer(facts: FileFacts, codes: int) -> Transfer:
    """The curve that files of a kind have: 16-bit stills are linear, other stills sRGB, clips BT.709."""
    if facts.kind == "clip":
        return "rec709"
    return "linear" if codes >= 4096 else "srgb"


def iso_of(facts: FileFacts) -> int | None:
    """The ISO of a frame, from its data or its name, such as card-iso800-2.png. Returns None where neither says."""
    if facts.iso and facts.iso >= 10:
        return round(facts.iso)
    named = re.search(r"iso[\s_-]?(\d{2,7})", facts.file, re.I)
    return int(named[1]) if named else None


def ladder_of(files: Sequence[Frames], isos: Sequence[int], transfer: Transfer | None) -> tuple[GreyStep, ...]:
    """Group frames by ISO and work out each step.

    files: of one camera in one mode; isos: of each; transfer: None for what is usual. Returns the steps, by ISO.
    Raises BadFile where frames of one step do not go together.
    """
    steps = []
    for iso in sorted(set(isos)):
        mine = [file for file, its in zip(files, isos, strict=True) if its == iso]
        frames = [frame[..., GREEN] for file in mine for frame in file.values]
        if len(frames) > 1 and len(frames) % 2:
            frames = frames[:-1]
        codes = min(file.codes for file in mine)
        steps.append(grey_step(frames, iso, transfer or usual_transfer(mine[0].facts, codes), codes))
    return tuple(steps)


def exposure_between(with_glass: FileFacts, without: FileFacts) -> float | None:
    """How much more the frame with glass was exposed, stops, from what both files say; None where they do not."""
    needed = ("shutter_s", "iso", "f_number")
    if any(not getattr(facts, name) for facts in (with_glass, without) for name in ("shutter_s", "iso")):
        return None
    stops = log2((with_glass.shutter_s or 1) / (without.shutter_s or 1)) + log2(
        (with_glass.iso or 1) / (without.iso or 1)
    )
    if all(getattr(facts, needed[2]) for facts in (with_glass, without)):
        stops += 2 * log2((without.f_number or 1) / (with_glass.f_number or 1))
    return stops


def same_mode(files: Sequence[Frames]) -> None:
    """Refuse frames of different modes. Raises BadFile."""
    sizes = {(file.facts.width, file.facts.height) for file in files}
    if len(sizes) > 1:
        raise BadFile(Fault("the frames", f"have {len(sizes)} different sizes", "Take all of them in one mode."))
