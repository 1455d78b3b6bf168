"""How memory is handed back and taken again: arrays are kept for the next ones, and garbage is looked for seldom."""

from __future__ import annotations

import ctypes
import gc

LARGEST_KEPT, MOST_KEPT = 32 * 2**20, 128 * 2**20  # bytes: of one array, and in all
_TRIM_THRESHOLD, _MMAP_THRESHOLD = -1, -3  # names of mallopt(3)

LOOKED_FOR_AFTER = 20_000, 20, 20  # objects made, and young and middle searches; the interpreter's own are 700, 10, 10


def look_seldom() -> None:
    """Look for circles of objects that nobody holds less often. Plans, briefs and answers make many objects and hardly a
    circle, and all that was loaded is looked through with them."""
    gc.set_threshold(*LOOKED_FOR_AFTER)


def keep_freed() -> None:
    """Let this process keep what arrays free, up to 128 MB. By itself the C library hands arrays of some hundred
    kilobytes back to the system each time and asks for them again, which takes longer than what is worked out in them.
    Nothing where the C library has no such switch."""
    try:
        switch = ctypes.CDLL(None).mallopt
    except (OSError, AttributeError):
        return
    switch(_MMAP_THRESHOLD, LARGEST_KEPT)
    switch(_TRIM_THRESHOLD, MOST_KEPT)
