"""Memory that arrays give back is kept for the next ones."""

from __future__ import annotations

import ctypes

LARGEST_KEPT, MOST_KEPT = 32 * 2**20, 128 * 2**20  # bytes: of one array, and in all
_TRIM_THRESHOLD, _MMAP_THRESHOLD = -1, -3  # names of mallopt(3)


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
